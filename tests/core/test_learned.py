"""Minutes from the workshop's own log: the middle of enough timings both ways, and nothing out of a bunch or a break."""

import pytest

from insertum.core.bench.learned import ENOUGH, Timed, learned, timed, with_learned
from insertum.core.record.shape import Tick

from . import made


def log(*steps: tuple[str, str]) -> tuple[dict[str, str], dict[str, Tick]]:
    at = {s: f"2026-11-27T10:{t}+00:00" for s, t in steps}
    return at, {s: Tick(at=t) for s, t in at.items()}


@pytest.mark.parametrize(
    ("second", "seconds"), [("00:05", 5), ("00:04", None), ("30:00", 1800), ("30:01", None), ("00:00", None)]
)
def test_from_one_tick_to_the_next(second, seconds) -> None:
    found = timed(*log(("set-out", "00:00"), ("off:cover", second)))
    assert [t.seconds for t in found] == ([] if seconds is None else [seconds])


def test_only_obstacles_are_timed_in_the_order_they_were_ticked_and_never_backwards() -> None:
    done, ticks = log(
        ("off:screws", "00:00"),
        ("off:cover", "01:00"),
        ("in:memory-a", "03:00"),
        ("on:cover", "04:30"),
        ("on:screws", "04:00"),
    )
    assert timed(done, ticks) == (
        Timed(obstacle="cover", way="off", seconds=60), Timed(obstacle="cover", way="on", seconds=90),
    )  # fmt: skip
    assert timed({"off:a": "yesterday", "off:b": "2026-11-27T10:00:00+00:00"}, {}) == ()
    assert timed({"off:a": "2026-11-27T10:00:00", "off:b": "2026-11-27T10:01:00"}, {}) == ()  # no zone: whose clock?


def of(way: str, *seconds: int) -> list[Timed]:
    return [Timed(obstacle="cover", way=way, seconds=s) for s in seconds]


@pytest.mark.parametrize(
    ("off", "on", "said"),
    [
        ((60,) * 5, (90,) * 5, {"cover": (150, 5)}),
        ((60,) * 4, (90,) * 5, {}),  # too few one way
        ((60,) * 5, (90,) * 4, {}),
        ((60, 61, 62, 1700, 63), (90,) * 7, {"cover": (152, 5)}),  # one slow afternoon moves the middle by nothing much
    ],
)  # fmt: skip
def test_the_middle_of_enough(off, on, said) -> None:
    assert learned(of("off", *off) + of("on", *on)) == said and ENOUGH == 5


def test_only_what_was_timed_is_another() -> None:
    machine = made.machine().machine
    assert with_learned(machine, {}) is machine and with_learned(machine, {"nothing-here": (1, 9)}) is machine
    name = machine.obstacles[0].id
    found = with_learned(machine, {name: (77, 6)})
    assert (found.obstacles[0].seconds, found.obstacles[0].source) == (77, "timed here 6 times")
    assert found.obstacles[1:] == machine.obstacles[1:]
