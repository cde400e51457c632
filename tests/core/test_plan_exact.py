"""The planner equals brute force: every build tried, judged and priced one by one."""

import math
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from itertools import product
from typing import NamedTuple

from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.bench.access import bench_seconds
from insertum.core.fit.build import Build
from insertum.core.fit.judge import judge_build, judge_equipped
from insertum.core.machine.part import Accessory
from insertum.core.plan.measure import measure, physical
from insertum.core.plan.need import COMFORT_MET, Need
from insertum.core.plan.planner import Planner, plan
from insertum.core.plan.request import PlanRequest
from insertum.core.survey.bench import build_today, laid_out
from insertum.core.verdict import Verdict

from . import made

CARDS = st.builds(
    lambda n, gb, speed, price: made.drive(f"D{n}", price, capacity_gb=gb, read_mb_s=speed),
    st.integers(0, 9), st.sampled_from([250, 500, 1000, 2000, 4000]), st.sampled_from([500, 2000, 3400, 7000]), st.integers(0, 9).map(lambda x: x * 700),
)  # fmt: skip
MODULES = st.builds(
    lambda n, gb, grade, profile, price: made.module(f"M{n}", price, capacity_gb=gb, grade_mts=grade, profile_mts=profile, chip_width=16 if gb == 4 else 8),
    st.integers(0, 9), st.sampled_from([4, 8, 16, 32]), st.sampled_from([2400, 2666, 3200]), st.sampled_from([None, None, 3200]), st.integers(0, 9).map(lambda x: x * 500),
)  # fmt: skip
BAYS = st.builds(
    lambda n, gb, price, height: made.bay_drive(f"B{n}", price, capacity_gb=gb, height_um=height),
    st.integers(0, 9), st.sampled_from([500, 1000, 2000]), st.integers(0, 9).map(lambda x: x * 600), st.sampled_from([7000, 9500, 15000]),
)  # fmt: skip
RADIOS = st.builds(
    lambda n, s, streams, price: made.radio(f"R{n}", price, standard=s, streams=streams),
    st.integers(0, 9), st.sampled_from(["ac", "ax"]), st.integers(1, 2), st.integers(0, 5).map(lambda x: x * 500),
)  # fmt: skip
PACKS = st.builds(
    lambda n, price: made.pack(n, price, design_mwh=45000 if n == "AP-45" else 57000, fills_bay=n == "AP-57"),
    st.sampled_from(["AP-45", "AP-57"]), st.integers(0, 9).map(lambda x: x * 600),
)  # fmt: skip
KIND = {"memory": "memory", "m2_drive": "m2_drive", "radio": "radio", "bay": "bay_drive", "battery": "battery"}
FIGURES = {
    "memory_capacity": (4, 12, 32),
    "memory_throughput": (15000, 30000, 50000),
    "drive_space": (50, 300, 1500),
    "drive_speed": (400, 1500, 3500),
    "radio_throughput": (50, 300, 700),
    "runtime": (2, 4, 6),
}


#: What nobody knows of the machine, where a request leaves something open.
HIDDEN = {
    "": {},
    "bay.ribbon": {"bay": {"ribbon": None}},
    "drive-1.clearance_above_um": {"drive-1": {"clearance_above_um": None}},
    "radio.card_policy": {"radio": {"card_policy": None}},
    "battery.connector": {"battery": {"connector": None}},
}


@st.composite
def requests(draw, hidden: tuple[str, ...] = ("",)) -> PlanRequest:
    """A machine with odd limits and odd parts, a few needs, a budget that may be small or none."""
    away, open_to = HIDDEN[draw(st.sampled_from(hidden))], len(hidden) > 1
    limits = draw(st.sampled_from([16, 24, 40, 64]))
    exclusions = draw(
        st.sampled_from(
            [
                [],
                [{"when": "battery", "holds": "fills_bay", "off": "bay", "filled": True}],
                [{"when": "drive-1", "holds": "pcie", "off": "bay"}],
            ]
        )
    )
    laid = made.machine(
        {"memory-a": {"limit_gb": draw(st.sampled_from([8, 16, 32]))}, "bay": {"ribbon": draw(st.sampled_from(["present", "missing"]))}} | away,
        memory_total_limit_gb=limits, memory_speed_mts=draw(st.sampled_from([2666, 3200])),
        memory_applies_profiles=draw(st.booleans()),
        memory_speed_by_modules=draw(st.sampled_from([{}, {1: 3200, 2: 2666}, {1: 2933, 2: 2400}])), exclusions=exclusions,
    )  # fmt: skip
    parts = draw(
        st.lists(
            st.one_of(CARDS, MODULES, BAYS, RADIOS, PACKS),
            min_size=3 * open_to,
            max_size=5,
            unique_by=lambda p: p.number,
        )
    )
    shelf = [made.accessory("ribbon", "ribbon", 700), made.accessory("spacer", "spacer", 150, from_mm=7, to_mm=9.5)]
    kinds = draw(st.lists(st.sampled_from(sorted(FIGURES)), min_size=3 * open_to, max_size=4, unique=True))
    needs = [
        Need(kind=k, floor=a, comfort=b, ceiling=c, weight=draw(st.sampled_from([1, 3] if open_to else [0, 0.5, 1, 3])))
        for k in kinds
        for a, b, c in [FIGURES[k]]
    ]
    fitted = {
        "memory-a": draw(st.sampled_from([None, made.module("OLD-M", None, capacity_gb=4, grade_mts=2400, chip_width=16)])),
        "drive-1": draw(st.sampled_from([None, made.drive("OLD-D", None, capacity_gb=250, read_mb_s=1600)])),
        "battery": made.pack("AP-45", None, full_mwh=30000),
    }  # fmt: skip
    return PlanRequest.model_validate(
        {
            "machine": laid.machine,
            "configuration": "only",
            "fitted": fitted,
            "parts": [*parts, *shelf],
            "needs": needs,
            "use": {
                "used_gb": draw(st.sampled_from([0, 200, 600])),
                "average_mw": 10000,
                "years": draw(st.integers(0, 4)),
            },
            "terms": {
                "budget_minor": draw(st.sampled_from([None, 20000] if open_to else [None, 0, 4000, 9000, 20000])),
                "rate_minor_per_hour": draw(st.sampled_from([0, 4999, 6000])),
                "threshold": draw(st.sampled_from([0.05, 0.1, 0.5])),
                "credits": draw(st.sampled_from([{}, {"drive-1": 9000, "memory-a": 350}])),
                "allow_emptying": draw(st.booleans()),
                "allow_loss": draw(st.booleans()),
            },
        }
    )


class Built(NamedTuple):
    """One whole build and what it comes to, worked out from scratch. ``waits`` is what it asks."""

    cost: int
    worth: int
    changes: int
    names: tuple[str, ...]
    mets: list[int]
    physical: tuple[float, ...]
    waits: frozenset[str]


def own_build(request: PlanRequest) -> Build:
    """Today's build, made here: the planner's own, with what it remembers, is what is being tested."""
    laid = laid_out(request.machine.configured("only"))
    return build_today(laid, request.fitted, request.terms.limits, boot_slot=request.boot_slot)


def every_build(request: PlanRequest, grown: bool = False, waiting: bool = False) -> Iterator[Built]:
    """Every allowed build; ``waiting`` also those that wait for measurements."""
    today, use, needs = own_build(request), request.use, [n for n in request.needs if n.weight > 0]
    stated, stated_use = list(needs), use
    if grown:
        use, factor = use.grown()
        needs = [n.grown(factor) for n in needs]
    shelf = {p.number: p for p in request.parts if isinstance(p, Accessory)}
    ways = []
    for slot in today.machine.slots:
        here = [None] + [p for p in request.parts if p.price_minor is not None and p.kind == KIND[slot.kind]]
        ways.append(
            [(slot.id, p) for p in here]
            + ([(slot.id, "empty")] if today.now(slot.id) and request.terms.allow_emptying else [])
        )
    before = [n.met(measure(n, today, use)) for n in needs]
    for choice in product(*ways):
        changes = {s: p for s, p in choice if p is not None}
        build, accessories, ok = today, 0, True
        for slot, part in changes.items():
            build = build.with_part(slot, None if part == "empty" else part)
        for slot, part in changes.items():
            if part != "empty":
                verdict = judge_equipped(build, slot, part, list(shelf.values()))
                ok = ok and verdict.verdict is not None
                build = build.with_part(slot, part, tuple(shelf[a] for a in verdict.accessories))
                accessories += verdict.extra_minor
        if not ok:
            continue
        new_drives = [s for s, p in changes.items() if getattr(p, "kind", "") in ("m2_drive", "bay_drive")]
        stays = today.boot_slot in new_drives or (today.boot_slot not in changes and today.now(today.boot_slot))
        for boot in dict.fromkeys([*([today.boot_slot] if stays else []), *new_drives]) or [""]:
            started = replace(build, boot_slot=boot)
            judged = judge_build(started).values()
            worst = Verdict.MEASURE_FIRST if waiting else Verdict.HELD_BACK
            if changes and any((j.verdict or Verdict.SEATS).rank > worst.rank for j in judged):
                continue
            mets = [n.met(measure(n, started, use)) for n in needs]
            # No stated need ends below today: neither as it is stated nor as it grows.
            kept = [n.met(measure(n, started, stated_use)) >= n.met(measure(n, today, stated_use)) for n in stated]
            if not request.terms.allow_loss and not all(kept):
                continue
            if not request.terms.allow_loss and any(a < b for a, b in zip(mets, before, strict=True)):
                continue
            seconds = bench_seconds(today.machine, set(changes))
            labour = math.floor(seconds * request.terms.rate_minor_per_hour / 3600 + 0.5)
            prices = sum(p.price_minor for p in changes.values() if p != "empty")
            credit = sum(request.terms.credits.get(s, 0) for s in changes if today.now(s))
            worth = sum(n.weight_units * (a - b) for n, a, b in zip(needs, mets, before, strict=True))
            yield Built(
                prices + accessories + labour - credit,
                worth,
                len(changes),
                tuple(sorted("" if p == "empty" else p.number for p in changes.values())),
                mets,
                tuple(physical(k, started) for k in request.terms.fill_order),
                frozenset(a for j in judged for a in j.asks if j.verdict is Verdict.MEASURE_FIRST)
                if changes
                else frozenset(),
            )


def pareto(builds):
    front = []
    for b in sorted(builds, key=lambda b: (b[0], -b[1], b[2], b[3])):
        if not front or b[1] > front[-1][1]:
            front.append(b)
    return front


@settings(max_examples=60)
@given(requests())
def test_frontier_is_the_one_of_brute_force(request: PlanRequest) -> None:
    found = [(p.cost, p.worth, len(p.option.names), p.option.names) for p in Planner(request).front()]
    assert found == [b[:4] for b in pareto(every_build(request))]


def just_enough(request: PlanRequest, grown: bool):
    builds = list(every_build(request, grown))
    weights = [n.weight_units for n in request.needs if n.weight > 0]
    budget = request.terms.budget_minor
    within = [b for b in builds if budget is None or b[0] <= budget]
    comfortable = [b for b in within if all(m >= COMFORT_MET for m in b[4])]
    if comfortable:
        return min(comfortable, key=lambda b: (b[0], -b[1], b[2], b[3])), True
    short = lambda b: sum(w * max(0, COMFORT_MET - m) for w, m in zip(weights, b[4], strict=True))  # noqa: E731
    return min(within, key=lambda b: (short(b), b[0], b[2], b[3])), False


@settings(max_examples=60)
@given(requests(), st.booleans())
def test_just_enough_is_the_one_of_brute_force(request: PlanRequest, grown: bool) -> None:
    planner = Planner(request)
    found, met, _ = planner.just_enough(planner.grown_groups() if grown else planner.groups)
    best, comfortable = just_enough(request, grown)
    assert (met, found.cost, found.option.names) == (comfortable, best[0], best[3])


def best_value(request: PlanRequest, builds: list[Built]) -> Built:
    """From the best build that costs nothing, step by step to the one that gains most for its money, the longest of
    equals, while a step gains the threshold."""
    budget, weight = request.terms.budget_minor, sum(n.weight_units for n in request.needs if n.weight > 0)
    within = [b for b in pareto(builds) if budget is None or b.cost <= budget]
    here = max((b for b in within if b.cost <= 0), key=lambda b: b.worth)
    while ahead := [b for b in within if b.cost > here.cost and b.worth > here.worth]:
        gain = lambda b: Fraction(b.worth - here.worth, b.cost - here.cost)  # noqa: E731, B023
        step = max(ahead, key=lambda b: (gain(b), b.cost))
        # 100 points are the whole weight fully met; money in whole units has a hundred minor ones
        if gain(step) * 100 * 100 / (weight * 1_000_000) < Fraction(str(request.terms.threshold)):
            break
        here = step
    return here


@settings(max_examples=60)
@given(requests())
def test_best_value_is_the_one_of_brute_force(request: PlanRequest) -> None:
    steps, taken = Planner(request).best_value(Planner(request).front())
    wanted = best_value(request, list(every_build(request)))
    assert (steps[taken - 1].cost, steps[taken - 1].worth, steps[taken - 1].option.names) == (
        wanted.cost, wanted.worth, wanted.names,
    )  # fmt: skip


@settings(max_examples=60)
@given(requests())
def test_fill_it_is_the_one_of_brute_force(request: PlanRequest) -> None:
    """The measures in the job's order, each as high as the budget allows, then least cost, then the ties."""
    budget = request.terms.budget_minor
    within = [b for b in every_build(request) if budget is None or b.cost <= budget]
    most = max(b.physical for b in within)
    wanted = min((b for b in within if b.physical == most), key=lambda b: (b.cost, b.changes, b.names))
    found = Planner(request).fill(budget)
    assert (found.cost, found.option.names) == (wanted.cost, wanted.names)


@settings(max_examples=60)
@given(requests(hidden=tuple(HIDDEN)))
def test_what_waits_is_the_best_value_of_builds_that_wait_for_one_thing(request: PlanRequest) -> None:
    builds = list(every_build(request, waiting=True))
    wanted = {}
    for name in HIDDEN:
        best = best_value(request, [b for b in builds if b.waits <= {name}])
        if name in best.waits:
            wanted[name] = (best.cost, best.names)
    found = {
        w.attribute: (w.plan.cost_minor, tuple(sorted(c.part or "" for c in w.plan.changes)))
        for w in plan(request).waiting
    }
    assert found == wanted
