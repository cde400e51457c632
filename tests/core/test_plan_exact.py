"""The planner equals brute force (``plan_brute``) on generated machines, catalogues, needs and terms.

``INSERTUM_CASES`` sets how many cases each is tried on; ``make plan-exact`` tries thousands.
"""

import os
from collections import Counter
from fractions import Fraction

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from insertum.core.plan import conditional_plans
from insertum.core.plan.answer import answer, plan
from insertum.core.plan.frontier import Point
from insertum.core.plan.need import COMFORT_MET, Need
from insertum.core.plan.planner import Planner
from insertum.core.plan.request import PlanRequest
from tests.draws import chance

from . import made
from .plan_brute import Brute, Built, pareto

CASES = int(os.environ.get("INSERTUM_CASES", "40"))
tried = settings(max_examples=CASES, suppress_health_check=list(HealthCheck), deadline=None)

CARDS = st.builds(
    lambda n, gb, speed, sata, price: made.drive(f"D{n}", price, capacity_gb=gb, read_mb_s=speed, maker="Quern" if n % 2 else "Wherry",
                                                 **({"interface": "sata", "lanes": None} if sata else {})),
    st.integers(0, 9), st.sampled_from([128, 250, 500, 2000]), st.sampled_from([500, 2000, 3400, 7000]), st.booleans(), st.integers(0, 9).map(lambda x: x * 700),
)  # fmt: skip
MODULES = st.builds(
    lambda n, gb, grade, profile, price: made.module(f"M{n}", price, capacity_gb=gb, grade_mts=grade, profile_mts=profile, chip_width=16 if gb == 4 else 8,
                                                     maker="Pallas" if n % 2 else "Orrin"),
    st.integers(0, 9), st.sampled_from([4, 8, 16, 32]), st.sampled_from([2400, 2666, 3200]), st.sampled_from([None, None, 3200]), st.integers(0, 9).map(lambda x: x * 500),
)  # fmt: skip
BAYS = st.builds(
    lambda n, gb, price, height, spins: made.bay_drive(f"B{n}", price, capacity_gb=gb, height_um=height, spinning=spins, read_mb_s=160 if spins else 540),
    st.integers(0, 9), st.sampled_from([500, 1000, 2000]), st.integers(0, 9).map(lambda x: x * 600), st.sampled_from([7000, 9500, 15000]), st.booleans(),
)  # fmt: skip
RADIOS = st.builds(
    lambda n, s, streams, price: made.radio(f"R{n}", price, standard=s, streams=streams),
    st.integers(0, 9), st.sampled_from(["ac", "ax"]), st.integers(1, 2), st.integers(0, 5).map(lambda x: x * 500),
)  # fmt: skip
PACKS = st.builds(
    lambda n, price: made.pack(n, price, design_mwh=45000 if n == "AP-45" else 57000, fills_bay=n == "AP-57"),
    st.sampled_from(["AP-45", "AP-57"]), st.integers(0, 9).map(lambda x: x * 600),
)  # fmt: skip
FIGURES = {
    "memory_capacity": (4, 12, 32), "memory_throughput": (15000, 30000, 50000), "drive_space": (50, 300, 1500),
    "drive_speed": (400, 1500, 3500), "radio_throughput": (50, 300, 700), "runtime": (2, 4, 6),
}  # fmt: skip
#: What nobody knows of the machine, where a request leaves something open.
HIDDEN = {
    "bay.ribbon": {"bay": {"ribbon": None}},
    "drive-1.clearance_above_um": {"drive-1": {"clearance_above_um": None}},
    "radio.card_policy": {"radio": {"card_policy": None}},
    "battery.connector": {"battery": {"connector": None}},
}
SECOND_PACK = {"kind": "battery", "name": "Second battery", "accepts": ["AP-45", "AP-57"], "voltage_mv": 11400, "connector": "6-way",
               "held_by": "screws", "swap_seconds": 90, "reached_by": ["cover"]}  # fmt: skip
EXCLUSIONS = [
    [], [],
    [{"when": "battery", "holds": "fills_bay", "off": "bay", "filled": True}],
    [{"when": "drive-1", "holds": "pcie", "off": "bay"}],
]  # fmt: skip


@st.composite
def requests(draw, hidden: int = 0, plain: bool = False) -> PlanRequest:
    """A machine with odd limits and odd parts, a few needs, schools, a shelf, a task, something unseen, a budget that
    may be small or none. ``hidden`` attributes of the machine are unknown; ``plain`` leaves the schools free."""
    away: dict[str, dict[str, object]] = {}
    for name in draw(st.lists(st.sampled_from(sorted(HIDDEN)), min_size=hidden, max_size=hidden, unique=True)):
        away |= HIDDEN[name]
    two_packs = not hidden and draw(st.integers(0, 2)) == 0
    slots = {
        "memory-a": {"limit_gb": draw(st.sampled_from([8, 16, 32]))},
        "bay": {"ribbon": draw(st.sampled_from(["present", "missing"]))},
    }
    for slot, patch in away.items():
        slots[slot] = {**slots.get(slot, {}), **patch}
    if two_packs:
        slots["battery-2"] = SECOND_PACK
    laid = made.machine(
        slots, memory_total_limit_gb=draw(st.sampled_from([16, 24, 40, 64, None])), memory_speed_mts=draw(st.sampled_from([2666, 3200])),
        memory_applies_profiles=draw(st.sampled_from([False, True] if plain else [False, True, None])),
        memory_speed_by_modules=draw(st.sampled_from([{}, {1: 3200, 2: 2666}, {1: 2933, 2: 2400}])),
        exclusions=draw(st.sampled_from(EXCLUSIONS)),
    )  # fmt: skip
    parts = draw(
        st.lists(
            st.one_of(CARDS, MODULES, BAYS, RADIOS, PACKS),
            min_size=2 * bool(hidden),
            max_size=5,
            unique_by=lambda p: p.number,
        )
    )
    shelf = [made.accessory("ribbon", "ribbon", 700), made.accessory("spacer", "spacer", 150, from_mm=7, to_mm=9.5)]
    kinds = draw(st.lists(st.sampled_from(sorted(FIGURES)), min_size=1 + bool(hidden), max_size=4, unique=True))
    needs = [Need(kind=k, floor=a, comfort=b, ceiling=c, weight=draw(st.sampled_from([0, 0.5, 1, 3]) if not hidden else st.sampled_from([1, 3])),
                  growth_percent=draw(st.sampled_from([None, None, 0, 10])))
             for k in kinds for a, b, c in [FIGURES[k]]]  # fmt: skip
    broken = draw(
        st.lists(
            st.sampled_from(["fan", "drive-1", "memory-a", "memory-b", "bay", "battery", "radio"]),
            max_size=2,
            unique=True,
        )
    )
    fault = "fan" if "fan" in broken else ""
    needs += [
        Need(kind="fault", floor=1, comfort=2, ceiling=3, weight=draw(st.sampled_from([1, 2])), slot=f) for f in broken
    ]
    old = {
        "memory-a": draw(st.sampled_from([None, made.module("OLD-M", None, capacity_gb=4, grade_mts=2400, chip_width=16), made.module("M3", None, capacity_gb=8, ranks=1)])),
        "drive-1": draw(st.sampled_from([None, *(made.drive("OLD-D", None, capacity_gb=gb, read_mb_s=1600) for gb in (250, 1000))])),
        "battery": made.pack("AP-45", None, full_mwh=draw(st.sampled_from([30000, 30000, None]))),
        **({"battery-2": draw(st.sampled_from([None, made.pack("AP-45", None, full_mwh=20000)]))} if two_packs else {}),
    }  # fmt: skip
    unseen = draw(st.sampled_from([(), (), (), ("bay",), ("bay",)])) if "bay" not in broken else ()
    dead = draw(st.sampled_from([(), (), (), ("drive-1",), ("battery",), ("memory-a",)]))
    stocked = draw(st.lists(st.sampled_from(parts), max_size=2, unique_by=lambda p: p.number)) if parts else []
    free = plain or draw(st.booleans())
    return PlanRequest.model_validate({
        "machine": laid.machine, "configuration": "only", "fitted": old, "parts": [*parts, *shelf], "needs": needs, "unknown": unseen,
        "dead": [s for s in dead if old.get(s) is not None],
        "use": {"used_gb": draw(st.sampled_from([0, 200, 227.3, 300, 600])), "average_mw": draw(st.sampled_from([10000, 10000, 10000, None])), "years": draw(st.integers(0, 4)),
                "system_gb": draw(st.sampled_from([None, None, 60.5])), "growth_percent": draw(st.sampled_from([0, 10, 12]))},
        "shelf": [{"number": p.number, "count": draw(st.sampled_from([1, 1, 2])), "price_minor": draw(st.sampled_from([0, 300, 900]))} for p in stocked],
        "tasks": [{"id": "clean-fan", "name": "Clean the fan", "reached_by": ["cover"], "seconds": 600, "consumables_minor": 90, "mends": "fan"}] if fault == "fan" else [],
        "terms": {
            "budget_minor": draw(st.sampled_from([None, 20000] if hidden else [None, 0, 4000, 9000, 20000])),
            "rate_minor_per_hour": draw(st.sampled_from([0, 4999, 6000])), "threshold": draw(st.sampled_from([0.05, 0.1, 0.5])),
            "credits": draw(st.sampled_from([{}, {"drive-1": 9000, "memory-a": 350}])),
            "may_empty": draw(st.sampled_from([(), ("*",), ("drive-1",), ("memory-a", "bay")])), "allow_loss": draw(st.booleans()),
            "clean_install": draw(st.sampled_from([False, False, True])),
            "schools": {} if free else {
                "memory": draw(st.sampled_from(["add", "pair", "free"])), "drive": draw(st.sampled_from(["replace", "keep", "free"])),
                "spinning": draw(st.booleans()), "makes": draw(st.sampled_from([(), ("Pallas", "Quern")])),
            },
        },
    })  # fmt: skip


def shown(planner: Planner, p: Point) -> tuple[int, Fraction, tuple[object, ...]]:
    return p.cost, Fraction(p.worth, planner.scale), p.option.order


def brute(b: Built) -> tuple[int, Fraction, tuple[object, ...]]:
    return b.cost, b.worth, b.order


@tried
@given(requests())
def test_the_frontier(request: PlanRequest) -> None:
    planner = Planner(request)
    assert [shown(planner, p) for p in planner.front()] == [brute(b) for b in pareto(list(Brute(request).builds()))]


def moves(seed: int) -> PlanRequest:
    """Drives alone, so that most builds move the system: onto one that holds its copy with the old drive gone, only with
    the old one left in, or not at all. Drawn evenly: of what is drawn small first, little moves."""
    r = chance(seed)
    gb = (65, 67, 130, 209, 256, 512)
    parts = [*(made.drive(f"D{n}", r.randrange(10) * 700, capacity_gb=r.choice(gb), read_mb_s=r.choice((500, 2000, 3400))) for n in range(3)),
             *(made.bay_drive(f"B{n}", r.randrange(10) * 600, capacity_gb=r.choice(gb), read_mb_s=540) for n in range(2))]  # fmt: skip
    old, size = r.choice(("drive-1", "bay")), r.choice((128, 256, 500))
    held = made.drive("OLD", None, capacity_gb=size, read_mb_s=1600) if old == "drive-1" else made.bay_drive("OLD", None, capacity_gb=size)  # fmt: skip
    kinds = r.choice((("drive_space",), ("drive_speed",), ("drive_space", "drive_speed")))
    return PlanRequest.model_validate({
        "machine": made.machine().machine, "configuration": "only", "fitted": {old: held}, "boot_slot": old, "parts": parts,
        "needs": [Need(kind=k, floor=a, comfort=b, ceiling=c, weight=r.choice((1, 3))) for k in kinds for a, b, c in [FIGURES[k]]],
        "use": {"used_gb": r.choice((0, 59, 118.2, 190, 190, 600)), "system_gb": r.choice((None, 60, 60)), "average_mw": 1},
        "shelf": [{"number": "D0", "count": 1, "price_minor": r.choice((0, 900))}] if r.random() < 0.5 else [],
        "terms": {"rate_minor_per_hour": r.choice((0, 6000)), "allow_loss": r.random() < 0.7, "may_empty": r.choice(((), ("*",))),
                  "credits": r.choice(({}, {old: 4000})), "schools": {"drive": r.choice(("free", "free", "replace", "keep"))}},
    })  # fmt: skip


def test_the_frontier_where_the_system_moves() -> None:
    for seed in range(2 * CASES):
        request = moves(seed)
        planner, builds = Planner(request), list(Brute(request).builds())
        assert [shown(planner, p) for p in planner.front()] == [brute(b) for b in pareto(builds)], seed
        found, most = planner.fill(None), max(b.physical for b in builds)
        wanted = min((b for b in builds if b.physical == most), key=lambda b: (b.cost, b.order))
        assert (found.cost, found.option.order) == (wanted.cost, wanted.order), seed


def within(request: PlanRequest, builds: list[Built]) -> list[Built]:
    budget = request.terms.budget_minor
    return [b for b in builds if budget is None or b.cost <= budget]


def just_enough(request: PlanRequest, grown: bool) -> tuple[Built, bool]:
    builds = within(request, list(Brute(request).builds(grown)))
    weights = [n.weight_units for n in request.needs if n.weight > 0 and not request.use.unmeasured(n.kind)]
    comfortable = [b for b in builds if all(m >= COMFORT_MET for m in b.enough)]
    if comfortable:
        return min(comfortable, key=lambda b: (b.cost, -b.worth, b.order)), True
    short = lambda b: sum(w * max(Fraction(0), COMFORT_MET - m) for w, m in zip(weights, b.enough, strict=True))  # noqa: E731
    return min(builds, key=lambda b: (short(b), b.cost, -b.worth, b.order)), False


@tried
@given(requests(), st.booleans())
def test_just_enough_and_room_for_years(request: PlanRequest, grown: bool) -> None:
    found, met, _ = Planner(request).just_enough(grown)
    best, comfortable = just_enough(request, grown)
    assert (met, found.cost, found.option.order) == (comfortable, best.cost, best.order)


def test_a_fault_on_a_drive_is_mended_though_a_cheaper_way_has_the_same_figures() -> None:
    """Found by a draw (seed 4440292480504537210689108057026895849). The system goes on the bay's drive, which is the
    faster; the drive that died is replaced as well, which changes no speed and mends the fault: taking it out opens as much,
    measures the same and costs less."""
    dead = made.drive("OLD-D", None, capacity_gb=250, read_mb_s=1600)
    request = PlanRequest.model_validate({
        "machine": made.machine().machine, "configuration": "only", "fitted": {"drive-1": dead}, "dead": ["drive-1"],
        "parts": [made.drive("D1", 2800, capacity_gb=1000, read_mb_s=500, interface="sata", lanes=None),
                  made.bay_drive("B6", 2400, capacity_gb=2000, read_mb_s=540)],
        "needs": [Need(kind="drive_speed", floor=400, comfort=1500, ceiling=3500, weight=0.5),
                  Need(kind="fault", floor=1, comfort=2, ceiling=3, weight=2, slot="drive-1")],
        "use": {"used_gb": 0, "average_mw": 10000}, "terms": {"rate_minor_per_hour": 0, "allow_loss": True, "may_empty": ["drive-1"]},
    })  # fmt: skip
    found, met, _ = Planner(request).just_enough()
    assert not met and {s: c and c.part.number for x in found.option.meaning for s, c in x.changes} == {
        "drive-1": "D1",
        "bay": "B6",
    }
    assert found.cost == 5200


def best_value(request: PlanRequest, builds: list[Built]) -> Built:
    """From the best build that costs nothing, step by step to the one that gains most for its money, the longest of
    equals, while a step gains the threshold."""
    weight = sum(n.weight_units for n in request.needs if n.weight > 0)
    points = within(request, pareto(builds))
    here = max((b for b in points if b.cost <= 0), key=lambda b: b.worth)
    while ahead := [b for b in points if b.cost > here.cost and b.worth > here.worth]:
        gain = lambda b: Fraction(b.worth - here.worth) / (b.cost - here.cost)  # noqa: E731, B023
        step = max(ahead, key=lambda b: (gain(b), b.cost))
        # 100 points are the whole weight fully met; money in whole units has a hundred minor ones
        if gain(step) * 100 * 100 / weight < Fraction(str(request.terms.threshold)):
            break
        here = step
    return here


@tried
@given(requests())
def test_best_value(request: PlanRequest) -> None:
    planner = Planner(request)
    found = planner.best_value(planner.front()).chosen
    assert shown(planner, found) == brute(best_value(request, list(Brute(request).builds())))


@tried
@given(requests())
def test_fill_it(request: PlanRequest) -> None:
    """The measures in the job's order, each as high as the budget allows, then least cost, then the ties."""
    builds = within(request, list(Brute(request).builds()))
    most = max(b.physical for b in builds)
    wanted = min((b for b in builds if b.physical == most), key=lambda b: (b.cost, b.order))
    planner = Planner(request)
    assert planner.groups  # as every plan has them by then
    found = planner.fill(request.terms.budget_minor)
    assert (found.cost, found.option.order) == (wanted.cost, wanted.order)


#: The acts that answer what the generator hides, with their minutes once and for each question: of each question cheapest
#: first, as rules.md's table has them.
ANSWERS = {
    "bay.ribbon": ("cover",), "drive-1.clearance_above_um": ("cover",), "radio.card_policy": ("papers",),
    "battery.connector": ("cover",), "memory.total_limit_gb": ("papers", "processor"),
}  # fmt: skip
ONCE = {"cover": (15, 2), "papers": (5, 1), "processor": (4, 2)}


def minutes(questions: frozenset[str], acts: frozenset[str]) -> int:
    by = Counter(next(a for a in ANSWERS[q] if a in acts) for q in questions)
    return sum(ONCE[a][0] + ONCE[a][1] * n for a, n in by.items())


@tried
@given(
    st.integers(1, 2).flatmap(lambda n: requests(hidden=n, plain=True)),
    st.sets(st.sampled_from(sorted(ONCE)), max_size=1),
)
def test_what_waits(request: PlanRequest, closed: set[str]) -> None:
    """For every set of acts the best of the builds that rest on nothing these do not answer: most benefit less what its
    money is worth at the threshold; of those that gain over what is certain, the ones no other beats in minutes and gain."""
    request = request.model_copy(
        update={
            "unknown": (),
            "as_usual": False,
            "closed_acts": tuple(closed),
            "fitted": {**request.fitted, "battery": made.pack("AP-45", None, full_mwh=30000)},
        }
    )
    builds = within(request, list(Brute(request).builds(waiting=True)))
    weight = sum(n.weight_units for n in request.needs if n.weight > 0)
    # 100 points are the whole weight fully met; money in whole units has a hundred minor ones
    a_minor = Fraction(str(request.terms.threshold)) * weight / 10_000

    def score(b: Built) -> Fraction:
        return b.worth - a_minor * max(b.cost, 0)

    certain = max(score(b) for b in builds if not b.waits)
    found = []
    for n in range(1 << len(ONCE)):
        acts = frozenset(a for i, a in enumerate(ONCE) if n >> i & 1 and a not in closed)
        can = [b for b in builds if all(acts & set(ANSWERS[q]) for q in b.waits)]
        best = min(can, key=lambda b: (-score(b), b.cost, b.order))
        if score(best) > certain:
            found.append((minutes(best.waits, acts), certain - score(best)))
    wanted = []
    for looking, minus in sorted(found):
        if not wanted or -minus > wanted[-1][1]:
            wanted.append((looking, -minus))
    planner = Planner(request)
    planner.groups = [replace_usual(g) for g in planner.groups]
    got = conditional_plans.waiting(planner, lambda questions, _, acts: minutes(questions, acts))
    assert [(w.minutes, w.gain / planner.scale) for w in got] == wanted


def replace_usual(group):
    """The group without what is taken as usual: brute force asks questions that are looked at."""
    return type(group)(group.slots, tuple(c for c in group.choices if "job.as_usual" not in c.waits))


@tried
@given(
    st.integers(0, 2).flatmap(lambda n: requests(hidden=n)),
    st.booleans(),
    st.sampled_from([(), ("drive-1",), ("memory-b", "radio")]),
)
def test_what_is_certain_is_the_same_before_the_rest_is_worked_out(
    request: PlanRequest, usual: bool, unseen: tuple[str, ...]
) -> None:
    """The plans that rest on no question, with and without everything that waits beside them: on the owner's word too, and
    where nobody has looked into a place."""
    fitted = {s: p for s, p in request.fitted.items() if s not in unseen}
    dead = tuple(s for s in request.dead if s not in unseen)
    request = request.model_copy(update={"as_usual": usual, "unknown": tuple({*request.unknown, *unseen}), "fitted": fitted, "dead": dead})  # fmt: skip
    whole, soon = Planner(request), Planner(request, certain=True)
    assert [shown(soon, p) for p in soon.front()] == [shown(whole, p) for p in whole.front()]
    first, then = answer(soon), answer(whole)
    assert [(s.stance, s.says, s.over_budget_minor, s.plan) for s in first.stances] == [(s.stance, s.says, s.over_budget_minor, s.plan) for s in then.stances]  # fmt: skip
    assert (first.ladder, first.frontier, first.today) == (then.ladder, then.frontier, then.today)
    assert then.complete and not first.complete and not first.waiting and not first.first


@tried
@given(requests())
def test_the_sum_shown_is_the_sum_planned(request: PlanRequest) -> None:
    """The figures of a plan are worked out again from its build: they are those it was found by."""
    planner = Planner(request)
    walk = planner.best_value(planner.front())
    best = next(s for s in plan(request).stances if s.stance == "best_value").plan
    assert best.cost_minor == walk.chosen.cost
    assert abs(best.benefit - planner.points(walk.chosen.worth)) < 1e-9
