"""Plans in the words and figures a person reads: sums, needs before and after, stances, the ladder."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import NamedTuple

from ..access.way import access_seconds_of, exchange_seconds
from ..fit.build import Build
from ..fit.judge import verdict_of
from ..machine.drive_parts import BayDrive, M2Drive
from ..money import money
from ..phrases import shown_in
from ..verdict import Verdict
from .candidates import Candidate
from .choices import Change as Changed
from .choices import Choice, Stage
from .copying import copy_path
from .effect import Effect, families, readings
from .frontier import Point, cost_of, effort_of
from .measure import touches
from .need import COMFORT_MET, UNITS, Need, NeedKind, exact
from .plain_summary import for_owner
from .request import TaskOffer
from .result import AnotherScored, Change, FrontierPoint, NeedState, PlainChange, PlanPoint, StancePlan, Tread
from .tread_words import step_words

#: How far a need is met at the best: by a choice that rests on nothing, and by any that is on offer.
#: Points of 100 from an exact worth.
Points = Callable[[int], float]
Reach = Mapping[str, tuple[float, float]]


def figure(need: Need, measure: float) -> str:
    """A measure with its unit: '16 GB', '2.5 h'."""
    unit = UNITS[need.kind]
    return f"{shown_in(float(measure), unit)} {unit}".strip()


#: No battery runs a machine for longer: a pack nobody has seen may hold anything.
MOST_HOURS = 1000


_OPEN = "not known yet"


def span(need: Need, ends: tuple[float, float]) -> str:
    """A measure, or the two ends it lies between."""
    low, high = ends
    if need.kind is NeedKind.RUNTIME and high > MOST_HOURS:
        return f"{round(low, 1):g} h or more" if low else "not known"
    # From nothing on says nothing; of a pack in use whose charge nobody has read the upper end does.
    if low == 0 < high:
        return f"up to {figure(need, high)}" if need.kind is NeedKind.RUNTIME else _OPEN
    return figure(need, low) if low == high else f"{shown_in(low, UNITS[need.kind])} to {figure(need, high)}"


# -- one plan -----------------------------------------------------------------------------------------
class Made(NamedTuple):
    """What a point of the frontier is made of."""

    changes: list[Changed]
    boot: str
    tasks: tuple[TaskOffer, ...]


def made_of(stage: Stage, p: Point) -> Made:
    """A point of the frontier as changes, the slot that starts, and the tasks done with it."""
    choices: tuple[Choice, ...] = p.option.meaning
    boot = next((c.boot for c in choices if c.boot is not None), stage.build.boot_slot)
    done = {c.task for c in choices if c.task}
    return Made([change for c in choices for change in c.changes], boot, tuple(t for t in stage.tasks if t.id in done))


def plan_point(stage: Stage, p: Point, grown: bool = False) -> PlanPoint:
    """A point of the frontier with its whole sum opened."""
    made = made_of(stage, p)
    return priced(stage, made.changes, made.boot, made.tasks, grown)


def frontier_point(stage: Stage, p: Point, benefit: float) -> FrontierPoint:
    """A point as the frontier lists it; ``benefit`` in points."""
    made = made_of(stage, p)
    return FrontierPoint(
        cost_minor=p.cost,
        benefit=benefit,
        changes=tuple(
            PlainChange(
                slot=slot, slot_name=stage.build.machine.slot(slot).name, part=c.part.number if c else "",
                part_name=c.part.name if c else "taken out",
            )
            for slot, c in sorted(made.changes, key=lambda c: stage.rank[c[0]])
        ),
        tasks=tuple(t.name for t in made.tasks),
        boot_slot=made.boot,
    )  # fmt: skip


def priced(
    stage: Stage, changes: Iterable[Changed], boot: str, tasks: tuple[TaskOffer, ...] = (), grown: bool = False
) -> PlanPoint:
    """A build with its whole sum, worked out from the build itself."""
    rate = stage.terms.rate_minor_per_hour
    ordered = sorted(changes, key=lambda c: stage.rank[c[0]])
    build = stage.applied(ordered, boot)
    told = tuple(_change(stage, build, slot, c) for slot, c in ordered)
    opens = 0
    for slot, _ in ordered:
        opens |= stage.opens(slot)
    for t in tasks:
        opens |= stage.opens_for(t)
    opened = [o for o, bit in stage.obstacles.items() if opens & bit]
    seconds = access_seconds_of(stage.build.machine, opened) if opens else 0
    seconds += sum(exchange_seconds(stage.build.machine, s) for s, _ in ordered) + sum(t.seconds for t in tasks)
    labour = cost_of(effort_of(0, seconds, rate))
    parts, accessories = sum(c.price_minor for c in told), sum(c.accessories_minor for c in told)
    consumables, credit = sum(t.consumables_minor for t in tasks), sum(c.credit_minor for c in told)
    states, falls = need_states(stage, ordered, boot, tasks, grown)
    made = PlanPoint(
        changes=told,
        tasks=tasks,
        boot_slot=boot,
        cost_minor=parts + accessories + consumables + labour - credit,
        parts_minor=parts,
        accessories_minor=accessories,
        consumables_minor=consumables,
        bench_seconds=seconds,
        labour_minor=labour,
        credit_minor=credit,
        benefit=sum(s.points for s in states),
        needs=states,
        falls=falls,
        copy_path=copy_path(stage.build, stage.counted, build, stage.use, stage.terms, stage.market),
        years=stage.use.years if grown else 0,
    )
    return made.model_copy(update={"for_owner": for_owner(made, stage.terms.currency)})


def _change(stage: Stage, build: Build, slot_id: str, c: Candidate | None) -> Change:
    slot, out = stage.build.machine.slot(slot_id), stage.build.now(slot_id)
    verdict, short = Verdict.SEATS, ""
    if c:
        judged = build.taken_as_usual(True) if c.unproven else build
        joint = verdict_of(judged, slot, c.part, c.accessories)
        verdict, short = joint.verdict, joint.short
    due = stage.terms.credits.get(slot_id, 0) if out is not None else 0
    credit = stage.credit(slot_id, c)
    return Change(
        slot=slot_id,
        slot_name=slot.name,
        part=c.part.number if c else "",
        part_name=c.part.name if c else "taken out",
        maker=c.part.maker if c else "",
        price_minor=c.price_minor if c else 0,
        shelf=c.shelf if c else False,
        accessories=tuple(a.number for a in c.accessories) if c else (),
        accessories_minor=c.money - c.price_minor if c else 0,
        takes_out=out.name if out else "",
        credit_minor=credit,
        credit_to_come_minor=due - credit,
        verdict=verdict,
        short=short,
        boot=build.boot_slot == slot_id and c is not None and isinstance(c.part, M2Drive | BayDrive),
    )


def effects_of(stage: Stage, changes: Sequence[Changed], boot: str, grown: bool = False) -> list[Effect]:
    """What a build comes to for every stated need that is measured on it."""
    found: list[Effect] = []
    for needs in families(stage.needs):
        kinds = tuple(n.kind for n in needs)
        mine = [(s, c) for s, c in changes if touches(kinds[0], stage.build.machine.slot(s))]
        key = ("whole", kinds, tuple(sorted((s, c.part.number if c else "") for s, c in mine)), boot)
        own, _ = stage.effects(kinds, key, lambda mine=mine: stage.counting(mine, boot))
        found += [e.grown if grown else e for e in own]
    return found


def need_states(
    stage: Stage, changes: Sequence[Changed], boot: str, tasks: Sequence[TaskOffer] = (), grown: bool = False
) -> tuple[tuple[NeedState, ...], tuple[str, ...]]:
    """Every stated need before and after, as ranges; and what falls although its family does not."""
    by_need: dict[str, tuple[Need, Effect, int]] = {}
    for e in effects_of(stage, changes, boot, grown):
        by_need |= {n.id: (n, e, i) for i, n in enumerate(e.needs)}
    mended = {s for s, c in changes if c} | {t.mends for t in tasks}
    states, falls = [], []
    weight = stage.weight or 1
    units = {n.id: n.weight_units for n in stage.needs}
    for n in stage.needs:
        if n.kind is NeedKind.FAULT:
            met = float(n.slot in mended)
            ends, after = (0.0, 0.0), (met, met)
            states.append(_state(n, ends, after, ends, after, 100 * n.weight_units * met / weight, 0.0))
            continue
        need, e, i = by_need[n.id]
        pairs = readings(need, e.raw, stage.use, grown)
        before = _ends([max(0.0, float(a)) for a, _ in pairs])
        after = _ends([max(0.0, float(b)) for _, b in pairs])
        met_before = _ends([float(need.met(a)) for a, _ in pairs])
        met_after = _ends([float(need.met(b)) for _, b in pairs])
        points = 100 * n.weight_units * float(e.gains[i]) / weight
        hoped = 100 * n.weight_units * float(e.weighed(units).hoped[i]) / weight
        states.append(_state(n, before, after, met_before, met_after, points, hoped))
        if e.gains[i] < 0:
            then = f" in {stage.use.years} years" if grown and states[-1].grows else ""
            least, most = (
                (f"what is {_OPEN}" if text == _OPEN else text) for text in (span(n, before), span(n, after))
            )
            falls.append(f"{n.label}{then} falls from {least} to {most}.")
    return tuple(states), tuple(falls)


def _ends(figures: Sequence[float]) -> tuple[float, float]:
    return min(figures), max(figures)


def _state(
    n: Need, today: tuple[float, float], after: tuple[float, float], met_today: tuple[float, float],
    met_after: tuple[float, float], points: float, hoped: float,
) -> NeedState:  # fmt: skip
    def two(ends: tuple[float, float]) -> tuple[float, float]:
        return round(ends[0], 2), round(ends[1], 2)

    return NeedState(
        need=n.id, label=n.label, unit=UNITS[n.kind], weight=n.weight, set_by=n.set_by, today=two(today), after=two(after),
        met_today=met_today, met_after=met_after, points=points, hoped=hoped,
    )  # fmt: skip


# -- what a plan leaves short -------------------------------------------------------------------------
def unmet(stage: Stage, reach: Reach, p: Point, grown: bool = False) -> tuple[str, ...]:
    """What the plan leaves below comfort for certain, and why."""
    made = made_of(stage, p)
    states, _ = need_states(stage, made.changes, made.boot, made.tasks, grown)
    by_id = {n.id: n for n in (stage.grown_needs if grown else stage.needs)}
    said = []
    for s in states:
        n = by_id[s.need]
        if s.met_after[1] >= COMFORT_MET:
            continue
        line = stage.use.line_mbit_s
        if n.kind is NeedKind.RADIO_THROUGHPUT and line is not None and s.after[0] >= line:
            said.append(
                f"{n.label}: {figure(n, line)} of the {figure(n, n.comfort)} wanted; the line into the house carries no more."
            )
        elif n.kind is NeedKind.FAULT:
            said.append(f"{n.label}: not mended by this plan.")
        else:
            there = span(n, s.after)
            there = f"{there}, {figure(n, n.comfort)} wanted" if there == _OPEN else f"{there} of the {figure(n, n.comfort)} wanted"  # fmt: skip
            said.append(f"{n.label}: {there}; {_why(n, s, reach)}.")
    return tuple(said)


def _why(n: Need, s: NeedState, reach: Reach) -> str:
    """Why it goes no further: what the settled choices reach, and what only waits."""
    best, hoped = reach.get(n.id, (0.0, 0.0))
    if best > s.met_after[1]:
        return "more can be had, not on these terms"
    if hoped > s.met_after[1]:
        return "what would take it further waits to be looked at"
    return "nothing on offer takes it further here on these terms"


# -- the ladder ---------------------------------------------------------------------------------------
def treads(
    stage: Stage, walk: Sequence[Point], taken: int, picked: Sequence[StancePlan], points: Points
) -> tuple[Tread, ...]:
    """The steps of a walk, of which ``taken`` are chosen. Stances are marked on the tread whose plan they are."""
    found = []
    for i in range(1, len(walk)):
        a, b = walk[i - 1], walk[i]
        before, after = plan_point(stage, a), plan_point(stage, b)
        label, detail = step_words(stage.build, stage.market, before, after, stage.terms.currency)
        found.append(
            Tread(
                label=label,
                detail=detail,
                from_minor=a.cost,
                cost_minor=b.cost,
                step_minor=b.cost - a.cost,
                benefit=points(b.worth),
                gain=points(b.worth - a.worth),
                slope=points(b.worth - a.worth) * 100 / (b.cost - a.cost),
                chosen=i < taken,
                over_budget=stage.terms.budget_minor is not None and b.cost > stage.terms.budget_minor,
                plan=after,
                stances=tuple(
                    s.stance for s in picked if s.plan.changes == after.changes and s.plan.tasks == after.tasks
                ),
            )
        )
    return tuple(found)


# -- another machine ----------------------------------------------------------------------------------
def another(stage: Stage, chosen: PlanPoint) -> AnotherScored | None:
    """Another machine scored for the same needs, against this one as it is today."""
    other = stage.another
    if other is None:
        return None
    total, unknown = 0.0, []
    today, _ = need_states(stage, (), stage.build.boot_slot)
    for n, s in zip(stage.needs, today, strict=True):
        if n.kind is NeedKind.FAULT:
            met = 1.0
        elif n.kind in other.figures and (n.kind is not NeedKind.DRIVE_SPACE or stage.use.used_gb is not None):
            value = other.figures[n.kind]
            met = float(n.met(exact(value) - (stage.use.used or 0) if n.kind is NeedKind.DRIVE_SPACE else exact(value)))
        else:
            unknown.append(n.label)
            continue
        total += n.weight_units * (met - s.met_today[1])
    benefit = 100 * total / stage.weight if stage.weight else 0.0
    extra = other.price_minor - chosen.cost_minor
    currency = stage.terms.currency
    dearer = f"{money(abs(extra), currency)} {'dearer' if extra >= 0 else 'cheaper'} than the plan of best value"
    open_ = f" Not counted: {', '.join(unknown)}." if unknown else ""
    return AnotherScored(
        name=other.name, cost_minor=other.price_minor, benefit=benefit, unknown=tuple(unknown),
        says=f"{other.name}: {dearer}, {benefit - chosen.benefit:+.1f} points against it.{open_}",
    )  # fmt: skip
