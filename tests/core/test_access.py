"""What comes off before the hands go in, and the time it takes: worked by hand on the plain machine."""

from insertum.core.bench.access import access_seconds, bench_seconds, closure, opening_order
from insertum.core.machine.shape import Configured, Obstacle

from . import made


def names(laid: Configured, *slots: str) -> list[str]:
    return [o.id for o in opening_order(laid, slots)]


def test_power_is_off_before_any_slot_even_where_its_own_list_forgets_the_plug() -> None:
    forgetful = made.machine({"memory-a": {"reached_by": []}})
    assert closure(forgetful, ["memory-a"]) == {"screws", "cover", "plug"}
    assert closure(forgetful, ["drive-1"]) == {"screws", "cover", "plug", "shield"}
    # the plug as soon as the cover is off, though the driver for the shield is in the hand
    assert names(forgetful, "drive-1") == ["screws", "cover", "plug", "shield"]


def test_a_tool_in_the_hand_is_used_up_before_the_next() -> None:
    # nothing here is on the way to the battery: there is no plug
    loose = [("a", "PH0"), ("b", "T5"), ("c", "PH0")]
    obstacles = tuple(Obstacle(id=i, what="screws", name=i, tool=t, seconds=10) for i, t in loose)
    plain = made.machine().machine
    slots = tuple(s.model_copy(update={"reached_by": ("a", "b", "c")}) for s in plain.slots)
    laid = plain.model_copy(update={"obstacles": obstacles, "slots": slots, "power_off": ""}).configured("only")
    assert names(laid, "drive-1") == ["a", "c", "b"]


def test_the_way_to_the_battery_comes_before_the_tool_in_the_hand() -> None:
    plain = made.machine().machine
    obstacles = (
        Obstacle(id="door", what="screws", name="Door", tool="T5", seconds=10),
        Obstacle(id="screws", what="screws", name="Screws", tool="PH0", seconds=20),
        Obstacle(id="plug", what="battery", name="Plug", after=("screws",), seconds=30),
        Obstacle(id="flap", what="screws", name="Flap", tool="T5", seconds=40),
    )
    slots = tuple(s.model_copy(update={"reached_by": ("door", "flap")}) for s in plain.slots)
    laid = plain.model_copy(update={"obstacles": obstacles, "slots": slots, "power_off": "plug"}).configured("only")
    assert names(laid, "drive-1") == ["screws", "plug", "door", "flap"]


def test_the_cover_is_opened_once() -> None:
    laid = made.machine()
    # 3 min to set out, 5 min trial; screws 240, cover 120, plug 60
    assert access_seconds(laid, ["memory-a"]) == 180 + 300 + 240 + 120 + 60
    assert access_seconds(laid, ["memory-a", "memory-b"]) == 900
    assert bench_seconds(laid, ["memory-a", "memory-b"]) == 900 + 2 * 120
    assert bench_seconds(laid, ["memory-a", "drive-1"]) == 900 + 60 + 120 + 240  # and the shield
    assert (access_seconds(laid, []), bench_seconds(laid, [])) == (0, 0)
    assert closure(laid, []) == frozenset()
