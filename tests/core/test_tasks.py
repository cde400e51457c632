"""Work without a slot: where it is offered, what it takes beside what is open anyway, and that nothing is said of it
that is not so."""

from itertools import combinations
from typing import Any

import pytest

from insertum.core.access.way import bench_seconds
from insertum.core.bench.sheet import Ways, sheet
from insertum.core.errors import InputError
from insertum.core.intake.intake import Intake, derive_needs, faults_found
from insertum.core.intake.triage import Complaint
from insertum.core.machine.shape import Machine
from insertum.core.plan.added_tasks import Besides
from insertum.core.plan.answer import plan
from insertum.core.plan.request import PlanRequest, Terms, Use
from insertum.core.plan.totals import tally
from insertum.core.prepare.gates import gates
from insertum.core.prove.expect import expect
from insertum.core.survey.current_build import build_today
from insertum.core.tasks.catalogue import BY_ID, CATALOGUE, EXCHANGES, OwnTask
from insertum.core.tasks.offers import offers

from . import made

DEMO = sorted(p.stem for p in (made.DEMO / "machines").glob("*.json"))


def laid(*assemblies: dict[str, Any], **more: Any):
    data = made.machine(**more).machine.model_dump(mode="json") | {"assemblies": assemblies}
    return Machine.model_validate(data).configured("only")


def offered(machine, ident: str, parts=(), numbers=None):
    return next(o for o in offers(machine, parts, numbers) if o.id == ident)


FAN = {"id": "fan", "what": "fan", "name": "Fan", "number": "F-1", "reached_by": ["cover"]}
SINK = {"id": "sink", "what": "heat_sink", "name": "Heat sink", "reached_by": ["cover"]}


@pytest.mark.parametrize(
    ("assemblies", "task", "why"),
    [
        ([], "clean", ""),  # nothing is noted of the machine: it may have a fan
        ([FAN], "clean", ""),
        ([SINK], "clean", "no fan is noted for this machine"),
        ([SINK | {"interface": "paste"}], "paste", ""),
        ([SINK | {"interface": "liquid_metal"}], "paste", "liquid metal under the sink is not opened here: someone trained in it"),
        ([], "fan", "nobody has noted this assembly for this machine: its place and number go into the machine's data first"),
        ([FAN | {"number": ""}], "fan", "read the number on fan first"),
        ([FAN | {"number": "F-2"}], "fan", "nobody on the lists has F-2"),
        ([FAN], "fan", ""),
    ],
)  # fmt: skip
def test_a_task_is_offered_where_it_can_be_done(assemblies, task, why) -> None:
    found = offered(laid(*assemblies), task, [made.accessory("F-1", "assembly", 1400)])
    assert found.why == why and (found.task is None) == bool(why)


def test_an_assembly_is_matched_by_the_number_found_exactly() -> None:
    parts = [made.accessory("F-1", "assembly", 1400), made.accessory("F-12", "kit", 200)]
    bought = offered(laid(FAN), "fan", parts).task
    assert bought is not None and (bought.part, bought.consumables_minor) == ("F-1", 1400)
    # What is read on the part itself stands before what the machine's data says; a kit of that number is no fan.
    assert offered(laid(FAN), "fan", parts, {"fan": "F-12"}).task is None
    assert offered(laid(FAN), "fan", parts, {"fan": "F-1 "}).task is None
    two = laid(FAN, FAN | {"id": "fan-2", "name": "Fan, right", "number": "F-2"})
    named = {o.id: o.name for o in offers(two, parts) if BY_ID["fan"].name in o.name}
    assert named == {"fan": "Change the fan", "fan.fan-2": "Change the fan: fan, right"}


def test_where_nothing_is_noted_a_task_is_reached_through_the_cover_and_through_nothing_else() -> None:
    unnoted, noted = offered(laid(), "clean").task, offered(laid(FAN | {"reached_by": ["plug"]}), "clean").task
    assert unnoted is not None and unnoted.reached_by == ("cover",)
    assert noted is not None and noted.reached_by == ("plug",)


def test_a_number_found_on_the_fan_is_that_of_the_only_one() -> None:
    parts = [made.accessory("F-9", "assembly", 1400)]
    left = FAN | {"id": "fan-left", "number": ""}
    only = offered(laid(left), "fan.fan-left", parts, {"fan": "F-9"}).task
    assert only is not None and only.part == "F-9"
    two = laid(left, left | {"id": "fan-right", "name": "Fan, right"})
    assert offered(two, "fan.fan-left", parts, {"fan": "F-9"}).task is None  # which of the two?


def test_a_workshop_does_tasks_its_own_way() -> None:
    own = {
        "clean": OwnTask(seconds=600, consumables_minor=0),
        "hinges": OwnTask(done_here=False),
        "fan": OwnTask(seconds=60),
    }
    found = {o.id: o for o in offers(laid(FAN), [made.accessory("F-1", "assembly", 1400)], None, own)}
    assert (found["clean"].task.seconds, found["clean"].task.consumables_minor) == (600, 0)
    assert found["hinges"].task is None and found["hinges"].why == "this workshop does not do it"
    assert (found["fan"].task.seconds, found["fan"].task.consumables_minor) == (60, 1400)
    assert found["seat"] == offered(laid(FAN), "seat")


def test_a_sinks_printed_order_is_kept_both_ways() -> None:
    told = offered(laid(SINK | {"order": ["1", "2", "3"], "interface": "sheet"}), "paste").task
    assert told is not None
    assert "Heat sink: screws loosened 3 2 1, tightened 1 2 3 in two or three rounds." in told.steps
    assert "Heat sink: a phase-change sheet was there as delivered." in told.steps
    silent = offered(laid(SINK), "paste").task
    assert silent is not None and any("look for a printed order first" in s for s in silent.steps)
    assert not any("as delivered" in s for s in silent.steps)


@pytest.mark.parametrize("slug", DEMO)
def test_every_task_alone_and_with_every_slot_isolates_and_closes(slug) -> None:
    """Power off before it, everything in its way off, and the sheet's seconds are the plan's."""
    machine = made.demo_machine(slug)
    configuration = machine.configurations[0].id
    today = build_today(machine.configured(configuration))
    request = PlanRequest(machine=machine, configuration=configuration, fitted=today.fitted, parts=(), needs=())
    nothing = next(s for s in plan(request).stances if s.stance == "best_value").plan
    tasks = [o.task for o in offers(today.machine) if o.task is not None]
    assert len(tasks) >= 6
    for some in [*([t] for t in tasks), tasks, *map(list, combinations(tasks[:4], 2))]:
        with_them = Besides(request, nothing).having(some)
        steps = sheet(today, tasks=some).steps
        assert sum(s.seconds for s in steps) == with_them.bench_seconds
        ids = [s.id for s in steps]
        inside = [t for t in some if not t.outside]
        assert sum(s.screws for s in steps) == 0 and (("set-out" in ids) == bool(inside))
        for t in inside:
            here = ids.index(f"task:{t.id}")
            power = "power:find" if "power:find" in ids else f"off:{machine.power_off}"
            assert ids.index(power) < here < len(ids) - 1 - ids[::-1].index("trial")
            assert all(ids.index(f"off:{o}") < here < ids.index(f"on:{o}") for o in t.reached_by)
        assert all(s.id.startswith("task:") for s in steps[len(steps) - len([t for t in some if t.outside]) :])


def test_what_a_task_adds_when_the_cover_is_open_anyway() -> None:
    """By hand: cleaning takes 12 min of its own and € 1.00. Alone it opens the machine besides: setting out 3 min, trial
    5 min, and what comes off. With a module going in that is open already. At € 50 an hour 12 min are € 10.00."""
    machine = laid(FAN)
    request = PlanRequest(
        machine=machine.machine, configuration="only", fitted={}, parts=[made.module("M", 3000)],
        needs=[{"kind": "memory_capacity", "floor": 4, "comfort": 8, "ceiling": 16, "weight": 1}],
    )  # fmt: skip
    clean = offered(machine, "clean").task
    assert clean is not None
    best = next(s for s in plan(request).stances if s.stance == "best_value").plan
    assert [c.part for c in best.changes] == ["M"]
    assert Besides(request, best).adds(clean) == (100 + 1000, 720)
    planned = best.model_copy(update={"tasks": (clean,)})
    assert Besides(request, planned).adds(clean) == (100 + 1000, 720)  # what it adds to all the rest
    nothing = best.model_copy(update={"changes": ()})
    minor, seconds = Besides(request, nothing).adds(clean)
    opened = sum(o.seconds for o in machine.machine.obstacles if o.id in ("screws", "cover", "plug"))
    assert seconds == 720 + 180 + 300 + opened and minor == 100 + round(seconds * 5000 / 3600)
    # Outside work opens nothing.
    firmware = offered(machine, "firmware").task
    assert firmware is not None and Besides(request, nothing).adds(firmware) == (833, 600)
    # The ledger says the same sum as the plan.
    build = build_today(machine).with_part("memory-a", made.module("M", 3000))
    beside = tally(build, Terms(), Use(), tasks=[clean, firmware])
    assert beside.bench_seconds == bench_seconds(machine, ["memory-a"]) + 720 + 600
    assert beside.total_minor == tally(build, Terms(), Use()).total_minor + 100 + 1833
    # Taking off what is planned saves what adding it costs.
    both = Besides(request, best).having([clean])
    assert both.cost_minor == best.cost_minor + 1100 and Besides(request, both).adds(clean) == (1100, 720)


HOT = Complaint(
    id="hot", name="Runs hot", causes=({"id": "hot.1", "cause": "Dust", "test": "Look.", "cure": "clean"}, {"id": "hot.2", "cause": "Cloth", "test": "Lift."})
)  # fmt: skip


@pytest.mark.parametrize(
    ("outcome", "complaints", "fault"), [("found", ("hot",), True), ("helped", ("hot",), False), ("found", (), False)]
)
def test_what_triage_found_is_a_fault_that_its_task_mends(outcome, complaints, fault) -> None:
    intake = Intake(complaints=complaints, triage={"hot.1": outcome})
    assert faults_found(intake, {"hot": HOT}) == ({"clean": "Runs hot"} if fault else {})
    found = [n for n in derive_needs(intake, None, {"hot": HOT}) if n.kind == "fault"]
    assert [(n.slot, n.label) for n in found] == ([("task:clean", "Dust in fan and fins")] if fault else [])
    machine = laid(FAN)
    clean = offered(machine, "clean").task
    request = PlanRequest(
        machine=machine.machine, configuration="only", fitted={}, parts=[], needs=found, tasks=[clean] if fault else []
    )
    best = next(s for s in plan(request).stances if s.stance == "best_value").plan
    assert [t.id for t in best.tasks] == (["clean"] if fault else []) and (best.benefit == 100) == fault


def test_a_cause_without_a_cure_found_is_no_fault_and_a_cure_is_one_of_the_catalogue() -> None:
    assert faults_found(Intake(complaints=("hot",), triage={"hot.2": "found"}), {"hot": HOT}) == {}
    with pytest.raises(ValueError, match="'shake' is no task"):
        Complaint(id="x", name="x", causes=({"id": "x.1", "cause": "y", "test": "z", "cure": "shake"},))


def test_gates_checks_and_words_of_a_task_come_with_it_and_go_with_it() -> None:
    build = build_today(laid(SINK, FAN))
    tasks = [t for i in ("paste", "clock_cell") if (t := offered(build.machine, i).task)]
    with_them = sheet(build, Ways(solvent="90"), tasks)
    assert "isopropyl 90 %" in next(s.hint for s in with_them.steps if s.id == "task:paste")
    gate = next(g for g in gates(build, Intake(), with_them, tasks=tasks) if g.id == "tasks")
    assert "storage mode, boot style, boot order and clock written down from firmware" in gate.items
    assert "liquid metal" in gate.caution
    assert not any(g.id == "tasks" for g in gates(build, Intake(), sheet(build)))
    told, bare = expect(build, tasks), expect(build)
    assert "clock right after an hour unplugged" in told.regression and bare.regression == ()
    assert "storage mode, boot style and boot order are as they were noted" in told.closing and bare.closing == ()


def test_the_catalogue_holds_together() -> None:
    assert len(BY_ID) == len(CATALOGUE) and set(BY_ID) >= EXCHANGES
    assert all(t.steps and t.seconds > 0 and (t.outside or t.on or t.id == "seat") for t in CATALOGUE)
    assert all(a in ("fan", "heat_sink", "clock_cell", "hinges", "speakers", "port_board", "keyboard", "lid_cable") for t in CATALOGUE for a in t.on)  # fmt: skip


def test_an_assembly_is_reached_through_what_is_there() -> None:
    with pytest.raises(ValueError, match="'roof' is named but not there"):
        laid(FAN | {"reached_by": ["roof"]})
    with pytest.raises(ValueError, match="two assemblies"):
        laid(FAN, FAN)
    request = PlanRequest(machine=laid().machine, configuration="only", fitted={}, parts=[], needs=())
    gone = next(s for s in plan(request).stances).plan
    change = {
        "slot": "memory-a",
        "slot_name": "Memory A",
        "part": "X",
        "part_name": "X",
        "verdict": "seats",
        "price_minor": 1,
    }
    with pytest.raises(InputError, match="can no longer be had"):
        Besides(request, gone.model_validate(gone.model_dump() | {"changes": [change]}))
