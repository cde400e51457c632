"""Access order as laws over every demo machine and generated ones (rules.md section 8)."""

from collections.abc import Iterator
from itertools import combinations, product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.access.way import access_seconds, before, bench_seconds, closure, exchange_seconds, part_obstacle
from insertum.core.bench.graph import OUTSIDE, PLUG_BACK, UNKNOWN_PLUG, Job, Node, order
from insertum.core.bench.sheet import Ways, sheet
from insertum.core.errors import InputError
from insertum.core.machine.shape import Configured, Machine
from insertum.core.plan.request import TaskOffer
from insertum.core.survey.current_build import build_today

from . import made

DEMO = [made.demo_machine(p.stem) for p in sorted((made.DEMO / "machines").glob("*.json"))]


def subsets(names: list[str]) -> Iterator[tuple[str, ...]]:
    for n in range(1, len(names) + 1):
        yield from combinations(names, n)


def lawful(machine: Configured, job: Job, by: str = "tool") -> None:
    """Every law of an order, asked of one."""
    done = order(machine, job, by)
    at = {n: i for i, n in enumerate(done)}
    assert len(at) == len(done), "nothing is done twice"
    by_id = {o.id: o for o in machine.machine.obstacles}
    slots = [s for s, _, _ in job.slots]
    same = {own.id: s for s in slots if (own := part_obstacle(machine, s))}
    out = {s: Node("out", s) for s, old, _ in job.slots if old}
    into = {s: Node("in", s) for s, _, new in job.slots if new}

    def taken(o: str) -> Node | None:
        return out.get(same[o]) if o in same else Node("off", o)

    def put(o: str) -> Node | None:
        return into.get(same[o]) if o in same else Node("on", o)

    wanted = set(closure(machine, slots)) if slots else set()
    for _, reached in job.tasks:
        wanted |= {*reached, *(x for o in reached for x in _all_before(machine, o))}
    for o in wanted:
        here = taken(o)
        if here is not None and o not in same:
            assert here in at and put(o) in at and at[here] < at[put(o)], f"{o} comes off and goes back"
        for other in before(machine, by_id[o]):
            a, b = taken(other), taken(o)
            assert a is None or b is None or at[a] < at[b], f"{other} is off before {o}"
            a, b = put(other), put(o)
            assert a is None or b is None or at[b] < at[a], f"{o} is back before {other}"
    for slot in slots:
        for o in machine.slot(slot).reached_by:
            if same.get(o) == slot:
                continue
            for node in (out.get(slot), into.get(slot)):
                if node is None:
                    continue
                assert taken(o) is None or at[taken(o)] < at[node], f"{o} is off before {slot} is worked on"
                assert put(o) is None or at[node] < at[put(o)], f"{slot} is done before {o} goes back"
        if slot in out and slot in into:
            assert at[out[slot]] < at[into[slot]]
    for task, reached in job.tasks:
        for o in reached:
            assert taken(o) is None or at[taken(o)] < at[Node("task", task)]
            assert put(o) is None or at[Node("task", task)] < at[put(o)]
    if not done:
        return
    plug = taken(machine.machine.power_off) if machine.machine.power_off else UNKNOWN_PLUG
    if plug is None:
        return
    assert plug in at, "power is isolated"
    covers = [o.id for o in machine.machine.obstacles if o.what in ("cover", "flap") and o.id in wanted]
    to_plug = [plug.what] if plug.do == "off" else covers if plug == UNKNOWN_PLUG else []
    ways = {taken(o) for name in to_plug for o in _all_before(machine, name)}
    for n in done[: at[plug]]:
        board = n.do in ("out", "in", "task") or (n.do == "off" and by_id[n.what].what not in OUTSIDE)
        assert not board or n in ways or (plug.do == "out" and n != plug and n.do == "off"), f"{n.id} before the plug"


def _all_before(machine: Configured, name: str) -> set[str]:
    by_id = {o.id: o for o in machine.machine.obstacles}
    found: set[str] = set()
    reach = [name] if name else []
    while reach:
        for b in before(machine, by_id[reach.pop()]):
            if b not in found:
                found.add(b)
                reach.append(b)
    return found


@pytest.mark.parametrize("machine", DEMO, ids=lambda m: m.id)
def test_every_subset_of_slots_of_every_demo_machine(machine: Machine) -> None:
    laid = machine.configured(machine.configurations[0].id)
    names = [s.id for s in laid.slots if getattr(s, "form", "") != "soldered"]
    for some in subsets(names):
        for by in ("tool", "manual"):
            lawful(laid, Job(tuple((s, True, True) for s in some)), by)
        lawful(laid, Job(tuple((s, i % 2 == 0, i % 3 != 0) for i, s in enumerate(some))))
    for o in laid.machine.obstacles:
        lawful(laid, Job((), (("t", (o.id,)),)))
        lawful(laid, Job(tuple((s, True, True) for s in names), (("t", (o.id,)),)))


@st.composite
def machines(draw) -> Configured:
    """A machine with obstacles in any order without circles, of which some are parts of slots, with a plug or none."""
    slots = ["memory-a", "memory-b", "drive-1", "radio", "bay", "battery"]
    kinds = ["screws", "cover", "shield", "cable", "latch", "part", "grille", "tape"]
    obstacles, owned = [], set()
    for i in range(draw(st.integers(1, 9))):
        what = draw(st.sampled_from(kinds))
        slot = (
            draw(st.sampled_from([s for s in slots if s not in owned])) if what == "part" and len(owned) < 4 else None
        )
        if slot and draw(st.booleans()):
            owned.add(slot)
        else:
            slot = None
        after = (
            draw(st.lists(st.sampled_from([o["id"] for o in obstacles]), unique=True, max_size=3)) if obstacles else []
        )
        captive = draw(st.booleans())
        obstacles.append({"id": f"o{i}", "what": what, "name": f"O{i}", "after": after, "slot": slot, "tool": draw(st.sampled_from(["", "PH0", "PH1"])),
                          "screws": draw(st.integers(0, 6)) if what == "screws" else 0, "captive": captive, "seconds": draw(st.integers(0, 200))})  # fmt: skip
    names = [o["id"] for o in obstacles]
    reached = {}
    for s in slots:
        own = next((i for i, o in enumerate(obstacles) if o["slot"] == s), len(obstacles))
        # What lies over a slot's part is listed before it, so that the data runs in no circle.
        reached[s] = draw(st.lists(st.sampled_from(names[:own]), unique=True, max_size=3)) if names[:own] else []
    plug = draw(st.sampled_from([*(o["id"] for o in obstacles if o["slot"] is None), ""]))
    plain = made.machine().machine.model_dump(mode="json")
    plain["slots"] = [
        s | {"reached_by": reached[s["id"]], "swap_seconds": draw(st.integers(200, 400))}
        for s in plain["slots"]
        if s["id"] in slots
    ]
    plain |= {"obstacles": obstacles, "power_off": plug}
    return Machine.model_validate(plain).configured("only")


@settings(max_examples=200, deadline=None)
@given(machines(), st.data())
def test_random_machines_and_subsets(laid: Configured, data) -> None:
    names = [s.id for s in laid.slots]
    obstacles = [o.id for o in laid.machine.obstacles]
    for _ in range(4):
        some = data.draw(st.lists(st.sampled_from(names), unique=True, max_size=6))
        tasks = tuple(
            (f"t{i}", (o,))
            for i, o in enumerate(data.draw(st.lists(st.sampled_from(obstacles), unique=True, max_size=2)))
        )
        ways = [data.draw(st.sampled_from([(True, True), (True, False), (False, True)])) for _ in some]
        lawful(laid, Job(tuple((s, *w) for s, w in zip(some, ways, strict=True)), tasks))


@pytest.mark.parametrize("machine", DEMO, ids=lambda m: m.id)
def test_screws_and_seconds_of_the_sheet(machine: Machine) -> None:
    """Screws out are screws in, captive ones are loosened and stay, and the sheet's seconds are the plan's."""
    laid = machine.configured(machine.configurations[0].id)
    build = build_today(laid)
    names = [
        s.id for s in laid.slots if s.kind in ("memory", "m2_drive", "battery") and getattr(s, "form", "") != "soldered"
    ]
    for some in subsets(names[:4]):
        changed = build
        for s in some:
            changed = changed.with_part(s, made.PARTS.get(s) or made.module(s) if laid.slot(s).kind == "memory" else made.drive(s) if laid.slot(s).kind == "m2_drive" else made.pack(s))  # fmt: skip
        for first in (True, False):
            found = sheet(changed, Ways(trial_before_closing=first))
            assert sum(s.screws for s in found.steps) == 0 == sum(s.loosened for s in found.steps)
            assert found.seconds == bench_seconds(laid, changed.changed())
            ids = [s.id for s in found.steps]
            assert (
                len(set(ids)) == len(ids)
                and (ids[-1] == "trial") is not first
                or ids.index("trial") > ids.index("check") - 2
            )


STACK = {"obstacles": [
    {"id": "cover", "what": "cover", "name": "Cover", "seconds": 100},
    {"id": "plug", "what": "battery", "name": "Plug", "after": ["cover"], "seconds": 60},
    {"id": "drive-over", "what": "part", "name": "Drive 1", "slot": "drive-1", "seconds": 90},
]}  # fmt: skip


def stacked(**more) -> Configured:
    """A radio that lies under the drive."""
    data = made.machine().machine.model_dump(mode="json")
    reached = {"radio": ["drive-over"]}
    times = {"drive-1": 240, "radio": 200}
    data["slots"] = [
        s | {"reached_by": reached.get(s["id"], ["cover"]), "swap_seconds": times.get(s["id"], 100)}
        for s in data["slots"]
    ]
    return Machine.model_validate(data | STACK | {"power_off": "plug"} | more).configured("only")


def ids(laid: Configured, *slots: tuple[str, bool, bool]) -> list[str]:
    return [n.id for n in order(laid, Job(slots))]


def test_what_lies_under_a_drive_is_done_while_the_drive_is_out() -> None:
    laid = stacked()
    both = ids(laid, ("drive-1", True, True), ("radio", True, True))
    assert both == [
        "off:cover",
        "off:plug",
        "out:drive-1",
        "out:radio",
        "in:radio",
        "in:drive-1",
        "on:plug",
        "on:cover",
    ]
    alone = ids(laid, ("radio", True, True))  # the drive is lifted out and put back
    assert alone == [
        "off:cover",
        "off:plug",
        "off:drive-over",
        "out:radio",
        "in:radio",
        "on:drive-over",
        "on:plug",
        "on:cover",
    ]
    # 480 to set out and try, 160 for cover and plug: the drive alone 240, the radio alone 90 + 200, both 240 + 200.
    assert [bench_seconds(laid, s) for s in (["drive-1"], ["radio"], ["drive-1", "radio"])] == [880, 930, 1080]
    assert exchange_seconds(laid, "drive-1") == 150 and access_seconds(laid, []) == 0


def test_power_is_isolated_whatever_a_slots_own_list_forgets() -> None:
    assert ids(stacked(), ("bay", False, True))[:2] == ["off:cover", "off:plug"]
    nowhere = stacked(power_off="", obstacles=[STACK["obstacles"][0]], slots=[s | {"reached_by": ["cover"]} for s in made.machine().machine.model_dump(mode="json")["slots"]])  # fmt: skip
    assert ids(nowhere, ("memory-a", True, True)) == [
        "off:cover",
        UNKNOWN_PLUG.id,
        "out:memory-a",
        "in:memory-a",
        PLUG_BACK.id,
        "on:cover",
    ]
    found = sheet(build_today(nowhere, {"memory-a": made.module("OLD")}).with_part("memory-a", made.module("NEW")))
    assert any("note where it is" in s.text for s in found.steps)


def test_circles_are_refused_with_their_names() -> None:
    """The radio lies under the drive, and the drive under the radio."""
    data = stacked().machine.model_dump(mode="json")
    data["obstacles"].append({"id": "radio-over", "what": "part", "name": "Radio card", "slot": "radio"})
    data["slots"] = [s | {"reached_by": ["radio-over"]} if s["id"] == "drive-1" else s for s in data["slots"]]
    circle = Machine.model_validate(data).configured("only")
    with pytest.raises(InputError, match="circle: (Drive 1 → Radio card → Drive 1|Radio card → Drive 1 → Radio card)"):
        order(circle, Job((("radio", True, True),)))


def test_ways_of_the_bench_change_the_words() -> None:
    laid = made.machine({"battery": {"firmware_switch": True}})
    build = build_today(laid, {"radio": made.radio("OLD", None)}).with_part("radio", made.radio("NEW"))
    plain, other = sheet(build), sheet(build, Ways(power="firmware", leads="before", trial_before_closing=False))
    assert not any(s.id == "firmware-off" for s in plain.steps) and any(s.id == "firmware-off" for s in other.steps)
    assert "press the leads on" in next(s.text for s in plain.steps if s.id == "in:radio")
    assert "Leads on first" in next(s.text for s in other.steps if s.id == "in:radio")
    assert [s.id for s in other.steps][-1] == "trial" != [s.id for s in plain.steps][-1]
    unknown = build_today(made.machine(), {"radio": made.radio("OLD", None)}).with_part("radio", made.radio("NEW"))
    assert not any(s.id == "firmware-off" for s in sheet(unknown, Ways(power="firmware")).steps)
    pack = sheet(build, Ways(power="pack"))
    assert any("take the pack out" in s.text for s in pack.steps)


def test_what_nobody_has_looked_into_is_looked_for_and_a_task_has_its_step() -> None:
    build = build_today(made.machine(), {}, unknown=["bay"]).with_part("bay", made.bay_drive("B"))
    task = TaskOffer(id="fan", name="Clean the fan", reached_by=("cover",), seconds=600)
    found = sheet(build, tasks=(task,))
    assert "nobody has" in next(s.text for s in found.steps if s.id == "out:bay")
    assert [s.seconds for s in found.steps if s.id == "task:fan"] == [600]
    empty = sheet(build_today(made.machine(), {"bay": None}).with_part("bay", made.bay_drive("B")))
    assert not any(s.id == "out:bay" for s in empty.steps)
    assert sheet(build_today(made.machine())).steps == () and list(product((), ())) == []
