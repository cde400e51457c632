"""Stances, hull, labour and ladder on small cases worked by hand."""

import pytest

from insertum.core.base import InputError
from insertum.core.job.desk import Desk
from insertum.core.job.shape import Identified, Job
from insertum.core.plan.frontier import Option, Point, Tariff, combine, frontier, hull
from insertum.core.plan.measure import measure, system_rate
from insertum.core.plan.need import Need
from insertum.core.plan.planner import Planner, plan
from insertum.core.plan.request import PlanRequest, Terms, Use
from insertum.core.plan.tally import tally
from insertum.core.survey.bench import build_today

from . import made

NOTHING = frozenset()


def point(cost: int, worth: int) -> Point:
    return Point(cost, worth, Option(NOTHING, cost, 0, (), worth))


@pytest.mark.parametrize(
    ("seconds", "rate", "minor"),
    [
        (0, 5000, 0),
        (3600, 5000, 5000),
        (60, 5000, 83),  # 83.33
        (1500, 5000, 2083),  # 2083.33
        (36, 5050, 51),  # 50.5 rounds half up
        (36, 5049, 50),  # 50.49
        (2460, 5000, 3417),  # 41 min: 3416.67
    ],
)
def test_labour_rounds_half_up_once_on_the_sum(seconds, rate, minor) -> None:
    assert Tariff(lambda _: 0, rate).labour(seconds) == minor


def test_hull_takes_the_steepest_step_first() -> None:
    # slopes from the origin: 10/10, 18/20, 30/30, 31/60: the step to (30, 30) ties with (10, 10) and is longer
    points = [point(0, 0), point(10, 10), point(20, 18), point(30, 30), point(60, 31)]
    assert [(p.cost, p.worth) for p in hull(points, points[0])] == [(0, 0), (30, 30), (60, 31)]


def test_shared_access_makes_the_second_upgrade_cheaper() -> None:
    tariff = Tariff(lambda touch: 3600 if touch else 0, 1000)
    memory = [Option(NOTHING, 0, 0, (), 0), Option(frozenset("m"), 500, 0, ("m",), 10)]
    drive = [Option(NOTHING, 0, 0, (), 0), Option(frozenset("d"), 700, 0, ("d",), 10)]
    front = frontier([memory, drive], tariff)
    assert [(p.cost, p.worth) for p in front] == [(0, 0), (1500, 10), (2200, 20)]  # 500 + 700 + one hour


def test_equal_points_take_fewer_changes_then_sorted_names() -> None:
    tariff = Tariff(lambda _: 0, 0)
    nothing = Option(NOTHING, 0, 0, (), 0)
    a = [nothing, Option(frozenset("a"), 200, 0, ("z",), 10), Option(frozenset("a"), 100, 0, ("y",), 5)]
    b = [nothing, Option(frozenset("b"), 100, 0, ("b",), 5)]
    assert [p.option.names for p in frontier([a, b], tariff)] == [(), ("b",), ("z",), ("b", "z")]
    twins = [nothing, Option(frozenset("a"), 100, 0, ("q",), 5), Option(frozenset("a"), 100, 0, ("p",), 5)]
    assert frontier([twins], tariff)[-1].option.names == ("p",)
    assert combine([[]]) == []


def request(parts, needs, terms=None, use=None, slots=None, **machine) -> PlanRequest:
    laid = made.machine(slots, **machine)
    return PlanRequest.model_validate(
        {
            "machine": laid.machine,
            "configuration": "only",
            "fitted": {"memory-a": made.module("OLD", None, capacity_gb=8, ranks=1)},
            "parts": parts,
            "needs": needs,
            "use": use or {},
            "terms": {"rate_minor_per_hour": 0, "threshold": 0.5, **(terms or {})},
        }
    )


MEMORY = Need(kind="memory_capacity", floor=8, comfort=16, ceiling=32, weight=1)
EIGHT = made.module("M-08", 2000, capacity_gb=8, ranks=1)
SIXTEEN = made.module("M-16", 3000, capacity_gb=16)
THIRTY_TWO = made.module("M-32", 9000, capacity_gb=32)


@pytest.mark.parametrize(
    ("kind", "figure"),
    [
        ("memory_capacity", 8),
        ("memory_throughput", 25600),  # one module at 3200
        ("drive_space", 350),  # 500 less 150 in use
        ("drive_speed", 2400),
        ("runtime", 3),  # 30 Wh at 10 W, not the 45 of its design
    ],
)
def test_what_a_need_is_measured_by(kind, figure) -> None:
    today = {
        "memory_a": made.module("OLD", None, capacity_gb=8, ranks=1),
        "drive_1": made.drive("OD", None, capacity_gb=500, read_mb_s=2400),
        "battery": made.pack("AP-45", None, full_mwh=30000),
    }
    use = Use(used_gb=150, average_mw=10000)
    need = Need(kind=kind, floor=1, comfort=2, ceiling=3)
    assert measure(need, made.build(made.machine({"battery": {"voltage_mv": 11400}}), **today), use) == figure


@pytest.mark.parametrize(
    ("boot_slot", "held", "rate"),
    [
        ("drive-1", made.drive("OD", None, read_mb_s=2400), 2400),
        ("drive-1", made.drive("OD", None, read_mb_s=7000), 3938),  # PCIe 3 x4 carries no more
        ("drive-1", made.drive("OD", None, interface="sata", lanes=None, read_mb_s=560), 560),
        ("drive-1", made.drive("OD", None, interface="sata", lanes=None, read_mb_s=601), 600),  # SATA 6 Gb/s
        ("drive-1", None, 0),  # nothing is in it: the system starts from nothing
        ("", made.drive("OD", None), 0),
        ("drive-1", made.drive("OD", None, read_mb_s=None), None),  # unknown is not 0
        ("drive-1", "unseen", None),
    ],
)
def test_the_system_drives_rate(boot_slot, held, rate) -> None:
    unseen = ["drive-1"] if held == "unseen" else []
    laid = made.machine(boot_slot=boot_slot)
    build = build_today(laid, {} if unseen else {"drive-1": held}, boot_slot=boot_slot, unknown=unseen)
    assert system_rate(build) == rate


def test_the_sum_says_minutes_and_rate() -> None:
    """180 + 300 to set out and try, 240 + 120 + 60 to open, 120 to exchange: 1020 s are 17 min, 14.17 at 50.00."""
    build = made.build().with_part("memory-b", made.module("B", 3000))
    told = tally(build, Terms(rate_minor_per_hour=5000), Use())
    assert told.sum == ("B: 30.00", "17 min at 50.00 an hour: 14.17")


def picked(answer, stance) -> list[tuple[str, str]]:
    found = next(s for s in answer.stances if s.stance == stance)
    return [(c.slot, c.part) for c in found.plan.changes]


def test_four_stances_on_one_need() -> None:
    """8 GB fitted: met 0.4. With 8 more: 16, met 0.9, + 50 points for 20. With 16 more: 24, met 0.958,
    + 5.8 points for 10 more (0.58 a euro). Replacing for 32 costs more than it brings."""
    answer = plan(request([EIGHT, SIXTEEN, THIRTY_TWO], [MEMORY], {"threshold": 0.5}))
    assert picked(answer, "just_enough") == [("memory-b", "M-08")]
    assert picked(answer, "best_value") == [("memory-b", "M-16")]
    assert picked(answer, "fill_it") == [("memory-a", "M-32"), ("memory-b", "M-32")]  # 64 GB, the ceiling
    best = next(s for s in answer.stances if s.stance == "best_value").plan
    assert best.benefit == pytest.approx(55.85, abs=0.01)
    assert [round(t.slope, 2) for t in answer.ladder][:2] == [2.5, 0.58]
    stingy = plan(request([EIGHT, SIXTEEN], [MEMORY], {"threshold": 0.6}))
    assert picked(stingy, "best_value") == [("memory-b", "M-08")]


def test_growth_asks_for_more() -> None:
    """16 wanted grows by 25 % for 2 years to 25: 8 + 16 = 24 is short, so 32 it is, as two of 16
    for 60; 8 + 32 would cost 90."""
    grown = request([EIGHT, SIXTEEN, THIRTY_TWO], [MEMORY], use={"growth_percent": 25, "years": 2})
    assert picked(plan(grown), "room_for_years") == [("memory-a", "M-16"), ("memory-b", "M-16")]
    assert picked(plan(request([SIXTEEN], [MEMORY], use={"growth_percent": 0})), "room_for_years") == [
        ("memory-b", "M-16")
    ]


def test_the_walk_starts_at_the_best_that_costs_nothing() -> None:
    planner = Planner(request([SIXTEEN], [MEMORY]))  # threshold half a point a euro
    unit = planner.weight * 10_000  # one point of 100
    free = [point(-500, -3 * unit), point(0, 0), point(1000, 5 * unit)]
    steps, taken = planner.best_value(free)
    assert [(p.cost, p.worth // unit) for p in steps] == [(0, 0), (1000, 5)] and taken == 2  # exactly the threshold
    short = [point(0, 0), point(1001, 5 * unit)]
    assert planner.best_value(short)[1] == 1  # 5 points for 10.01
    paid = [point(-500, 2 * unit), point(0, 3 * unit)]
    assert planner.best_value(paid)[0][0].worth == 3 * unit


def test_a_hard_budget_names_what_is_short() -> None:
    answer = plan(request([SIXTEEN], [MEMORY], {"budget_minor": 2999}))
    enough = next(s for s in answer.stances if s.stance == "just_enough")
    assert enough.plan.changes == () and enough.over_budget_minor == 1
    assert "short" in enough.says and "32 GB can be had" in enough.unmet[0]
    assert plan(request([SIXTEEN], [MEMORY], {"budget_minor": 3000})).stances[0].plan.cost_minor == 3000


def test_the_honest_plan_is_to_buy_nothing() -> None:
    soldered = {"memory-a": {"limit_gb": 8}, "memory-b": {"limit_gb": 4}}
    answer = plan(request([SIXTEEN], [MEMORY], slots=soldered))
    assert all(not s.plan.changes for s in answer.stances) and answer.ladder == ()
    assert answer.binds == ("Memory: nothing in the catalogue lifts it in this machine.",)
    limited = plan(request([SIXTEEN], [MEMORY], use={"processor_at_limit": True}))
    assert "No part lifts that" in limited.binds[0]


def test_no_weight_no_benefit() -> None:
    answer = plan(request([SIXTEEN], [MEMORY.model_copy(update={"weight": 0})]))
    assert [p.benefit for p in answer.frontier] == [0] and answer.today == ()


def test_a_better_plan_waits_for_its_measurement() -> None:
    space = Need(kind="drive_space", floor=50, comfort=500, ceiling=2000, weight=1)
    two_sided = made.drive("D-2T", 9000, capacity_gb=2000, below_um=1350)
    slots = {"drive-1": {"clearance_below_um": None, "socket_height": None}}
    answer = plan(request([two_sided], [space], slots=slots))
    assert all(not p.changes for p in answer.frontier)
    assert [(w.attribute, w.plan.changes[0].part) for w in answer.waiting] == [("drive-1.clearance_below_um", "D-2T")]
    assert answer.waiting[0].how


def test_credit_and_negative_cost() -> None:
    swap = request(
        [made.module("M-08X", 500, capacity_gb=8, ranks=1)],
        [MEMORY],
        {"credits": {"memory-a": 900}, "allow_loss": True},
    )
    answer = plan(swap)
    assert answer.frontier[0].cost_minor == -400 and answer.frontier[0].changes[0].credit_minor == 900


def test_own_build_is_priced_as_the_planner_does() -> None:
    asked = request([SIXTEEN], [MEMORY], {"rate_minor_per_hour": 5000})
    planner = Planner(asked)
    own, against = planner.own(planner.build.with_part("memory-b", SIXTEEN))
    assert against == ()
    same = next(p for p in planner.plan().frontier if p.changes)
    assert (own.cost_minor, own.benefit, own.bench_seconds) == (same.cost_minor, same.benefit, same.bench_seconds)
    told = tally(planner.build.with_part("memory-b", SIXTEEN), asked.terms, asked.use)
    assert told.total_minor == own.cost_minor
    # screws 240 + cover 120 + plug 60, set out 180, trial 300, exchange 120 = 1020 s = 17 min
    assert told.bench_seconds == 1020 and told.labour_minor == 1417
    refused = planner.own(
        planner.build.with_part("memory-b", made.module("DDR5", generation=5, grade_mts=4800, ranks=1))
    )[1]
    assert any("DDR5" in f for f in refused)


def test_two_needs_of_one_kind_are_refused() -> None:
    with pytest.raises(ValueError, match="two needs"):
        request([], [MEMORY, MEMORY])
    with pytest.raises(ValueError, match="rises"):
        Need(kind="runtime", floor=4, comfort=4, ceiling=5)


def test_the_desk_says_what_is_missing() -> None:
    bare = Desk(Job(number=1), None, [])
    for ask in (lambda: bare.configured, bare.request, bare.sheet):
        with pytest.raises(InputError):
            ask()
    known = Desk(
        Job(number=1, identify=Identified(machine="veyra-drover-14", configuration="rill-320")),
        made.demo_machine("veyra-drover-14"),
        [],
    )
    assert known.proofs() == () and known.proof() is None
    with pytest.raises(InputError, match="no plan is chosen"):
        known.may_enter("prepare")
    with pytest.raises(InputError, match="no part"):
        known.built({"memory-a": "NOBODY"}, "")
