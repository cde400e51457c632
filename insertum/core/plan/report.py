"""Plans in the words and figures a person reads: sums, needs before and after, the ladder."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING

from ..base import money
from ..machine.shape import RadioSlot
from ..verdict import Verdict
from .frontier import Point, hull
from .need import COMFORT_MET, MET_UNIT, UNITS, Need, NeedKind
from .options import Choice, credit_for
from .request import Change, NeedState, PlanPoint, Tread

if TYPE_CHECKING:
    from .planner import Planner

LABELS = {
    NeedKind.MEMORY_CAPACITY: "Memory",
    NeedKind.MEMORY_THROUGHPUT: "Memory throughput",
    NeedKind.DRIVE_SPACE: "Free space",
    NeedKind.DRIVE_SPEED: "System drive speed",
    NeedKind.RADIO_THROUGHPUT: "Radio, your router",
    NeedKind.RUNTIME: "Hours off mains",
    NeedKind.FAULT: "Fault mended",
}


def figure(need: Need, measure: float) -> str:
    """A measure with its unit: '16 GB', '2.5 h'."""
    return f"{round(measure, 1):g} {UNITS[need.kind]}".strip()


def plan_point(planner: Planner, p: Point) -> PlanPoint:
    """A point of the frontier with its whole sum opened."""
    choices: tuple[Choice, ...] = p.option.choice
    changes = tuple(c for choice in choices for c in _changes(planner, choice))
    seconds = planner.tariff.access(p.option.touch) + p.option.seconds
    boot = next((c.boot_slot for c in choices if c.boot_slot), planner.build.boot_slot)
    met = {n: (c.measures[n], c.met[n]) for c in choices for n in c.met}
    states = _states(planner, met)
    return PlanPoint(
        changes=changes,
        boot_slot=boot,
        cost_minor=p.cost,
        parts_minor=sum(c.price_minor for c in changes),
        accessories_minor=sum(c.accessories_minor for c in changes),
        bench_seconds=seconds,
        labour_minor=planner.tariff.labour(seconds),
        credit_minor=sum(c.credit_minor for c in changes),
        benefit=sum(s.points for s in states),
        needs=states,
    )


def _changes(planner: Planner, choice: Choice) -> Iterable[Change]:
    for slot_id, candidate in choice.changes.items():
        slot, out = planner.build.machine.slot(slot_id), planner.build.now(slot_id)
        judged = choice.judged.get(slot_id)
        yield Change(
            slot=slot_id,
            slot_name=slot.name,
            part=candidate.part.number if candidate else "",
            part_name=candidate.part.name if candidate else "taken out",
            price_minor=(candidate.part.price_minor or 0) if candidate else 0,
            accessories=tuple(a.number for a in candidate.accessories) if candidate else (),
            accessories_minor=sum(a.price_minor or 0 for a in candidate.accessories) if candidate else 0,
            takes_out=out.name if out else "",
            credit_minor=credit_for(choice, planner.build, planner.terms, slot_id),
            verdict=(judged and judged.verdict) or Verdict.SEATS,
            short=judged.short if judged else "",
            boot=choice.boot_slot == slot_id,
        )


def _states(planner: Planner, met: dict[str, tuple[float, int]]) -> tuple[NeedState, ...]:
    today = {n: (g.today.measures[n], g.today.met[n]) for g in planner.groups for n in g.today.met}
    states = []
    for n in planner.needs:
        # What no slot decides, and what grown needs measure, is told against the needs as stated.
        before, _ = today.get(n.id, (0.0, 0))
        after, _ = met.get(n.id, (0.0, 0))
        was, now = n.met(before), n.met(after)
        states.append(
            NeedState(
                need=n.id,
                label=n.note or LABELS[n.kind],
                unit=UNITS[n.kind],
                weight=n.weight,
                set_by=n.set_by,
                today=max(0.0, round(before, 2)),
                after=max(0.0, round(after, 2)),
                met_today=was / MET_UNIT,
                met_after=now / MET_UNIT,
                points=planner.points(n.weight_units * (now - was)),
            )
        )
    return tuple(states)


def unmet(planner: Planner, p: Point, needs: Sequence[Need], more_used: float) -> tuple[str, ...]:
    """What the plan leaves below comfort, and why."""
    choices: tuple[Choice, ...] = p.option.choice
    after = {n: m for c in choices for n, m in c.measures.items()}
    said = []
    for n in needs:
        value = after.get(n.id)
        if value is None:
            said.append(f"{LABELS[n.kind]}: no slot of this machine changes it.")
        elif n.met(value) < COMFORT_MET:
            best = max((c.measures[n.id] for g in planner.groups for c in g.choices if n.id in c.measures), default=0)
            if n.kind is NeedKind.DRIVE_SPACE:
                best -= more_used
            why = (
                "nothing in the catalogue takes it further here"
                if best <= value
                else f"{figure(n, best)} can be had, not on these terms"
            )
            wanted = "" if n.kind is NeedKind.FAULT else f" of the {figure(n, n.comfort)} wanted"
            said.append(f"{n.note or LABELS[n.kind]}: {figure(n, max(0, value))}{wanted}; {why}.")
    return tuple(said)


def binds(planner: Planner) -> tuple[str, ...]:
    """Limits that no part can lift, said first."""
    said = []
    if planner.use.processor_at_limit:
        said.append("The processor is at its limit under this load. No part lifts that.")
    for g, unsettled in zip(planner.groups, planner.all_groups, strict=True):
        for n in g.needs:
            today = g.today
            if today.met[n.id] < COMFORT_MET and all(c.met[n.id] <= today.met[n.id] for c in g.choices):
                waits = any(c.met[n.id] > today.met[n.id] for c in unsettled.choices)
                what = "only a part to be measured first" if waits else "nothing in the catalogue"
                said.append(f"{n.note or LABELS[n.kind]}: {what} lifts it in this machine.")
    if any(isinstance(s, RadioSlot) for s in planner.build.machine.slots) and planner.use.router:
        said.extend(_radio_cap(planner))
    return tuple(said)


def _radio_cap(planner: Planner) -> Iterable[str]:
    line = planner.use.line_mbit_s
    stated = [n for n in planner.needs if n.kind is NeedKind.RADIO_THROUGHPUT]
    if stated and line is not None and line < stated[0].comfort:
        yield f"The line into the house carries {line} Mb/s: no radio delivers more."


def ladder(planner: Planner, front: Sequence[Point], steps: Sequence[Point], taken: int) -> tuple[Tread, ...]:
    """The hull's steps: those within the budget, then what more money would buy."""
    beyond = hull([p for p in front if p.cost > steps[-1].cost], steps[-1])[1:]
    walk = [*steps, *beyond]
    treads = []
    for i in range(1, len(walk)):
        a, b = walk[i - 1], walk[i]
        before, after = planner.point(a), planner.point(b)
        label, detail = _step_words(before, after, planner.terms.currency)
        treads.append(
            Tread(
                label=label,
                detail=detail,
                from_minor=a.cost,
                cost_minor=b.cost,
                step_minor=b.cost - a.cost,
                benefit=planner.points(b.worth),
                gain=planner.points(b.worth - a.worth),
                slope=planner.slope(b.worth - a.worth, b.cost - a.cost),
                chosen=i < taken,
                over_budget=planner.terms.budget_minor is not None and b.cost > planner.terms.budget_minor,
                plan=after,
            )
        )
    return tuple(treads)


def _step_words(before: PlanPoint, after: PlanPoint, currency: str) -> tuple[str, str]:
    was = {c.slot: c for c in before.changes}
    new = [c for c in after.changes if c.slot not in was or was[c.slot].part != c.part]
    dropped = [c for c in before.changes if c.slot not in {a.slot for a in after.changes}]
    names = " + ".join([*(c.slot_name for c in new), *(f"{c.slot_name} kept" for c in dropped)]) or "System drive moved"
    detail = "; ".join(f"{c.slot_name}: {c.part_name} {money(c.price_minor, currency)}" for c in new)
    return names, detail
