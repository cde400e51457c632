"""A chosen plan against today: what has changed of its prices and verdicts since, line by line, and whether it would
still be the plan of best value. The snapshot itself is never rewritten."""

from collections.abc import Iterator

from ..errors import InputError
from ..frozen import Frozen
from ..money import money
from ..phrases import ends
from .answer import candidate_of
from .choices import Change as Changed
from .planner import Planner
from .report import plan_point, priced
from .result import PlanPoint
from .sensitivity import best, numbers


class SinceChosen(Frozen):
    """``lines`` say what differs; ``now`` is the same build priced today, None where it cannot be had any more."""

    lines: tuple[str, ...]
    then_minor: int
    now_minor: int | None
    instead: str = ""


def difference(planner: Planner, chosen: PlanPoint, grown: bool = False) -> SinceChosen:
    """What differs between a plan as it was chosen and the same build under today's prices and knowledge. ``grown`` tells
    that it was chosen, and is shown, on the needs as they grow."""
    changes, gone = as_today(planner, chosen)
    if gone:
        return SinceChosen(lines=gone, then_minor=chosen.cost_minor, now_minor=None, instead=_instead(planner, chosen))
    now = priced(planner.stage, changes, chosen.boot_slot, chosen.tasks, grown)
    lines = tuple(_lines(planner, chosen, now))
    return SinceChosen(
        lines=lines, then_minor=chosen.cost_minor, now_minor=now.cost_minor,
        instead=_instead(planner, chosen) if lines else "",
    )  # fmt: skip


def again(planner: Planner, chosen: PlanPoint, grown: bool = False) -> PlanPoint:
    """The same build and tasks at today's prices and knowledge. Raises :class:`InputError` where it cannot be had."""
    changes, gone = as_today(planner, chosen)
    if gone:
        raise InputError(gone[0], "plan", "Choose another plan.")
    return priced(planner.stage, changes, chosen.boot_slot, chosen.tasks, grown)


def as_today(planner: Planner, chosen: PlanPoint) -> tuple[list[Changed], tuple[str, ...]]:
    """The plan's changes as they can be made today, and what of them can no longer be had."""
    changes: list[Changed] = []
    gone: list[str] = []
    for c in chosen.changes:
        part = planner.market.by_number.get(c.part)
        found = candidate_of(planner, c.slot, part, c.shelf) if part is not None else None
        if c.part and found is None:
            gone.append(f"{c.part_name} ({c.slot_name}) can no longer be had.")
        changes.append((c.slot, found))
    return changes, tuple(gone)


def _lines(planner: Planner, then: PlanPoint, now: PlanPoint) -> Iterator[str]:
    currency = planner.terms.currency
    for a, b in zip(then.changes, now.changes, strict=True):
        if a.price_minor != b.price_minor:
            yield f"{a.part_name}: {money(a.price_minor, currency)} then, {money(b.price_minor, currency)} now."
        if a.accessories_minor != b.accessories_minor or a.accessories != b.accessories:
            yield (
                f"{a.slot_name}: accessories {', '.join(a.accessories) or 'none'} for {money(a.accessories_minor, currency)} "
                f"then, {', '.join(b.accessories) or 'none'} for {money(b.accessories_minor, currency)} now."
            )
        if (a.verdict, a.short) != (b.verdict, b.short):
            yield f"{a.slot_name}: {a.part_name} {_verdict(a.verdict, a.short)} then, {_verdict(b.verdict, b.short)} now."
        if a.takes_out != b.takes_out:
            then_ = f"{a.takes_out} was to come out" if a.takes_out else "nothing was named to come out"
            looked = planner.build.looked_into(a.slot)
            now_ = (
                f"{b.takes_out} is in it" if b.takes_out else "it is empty" if looked else "nobody has looked into it"
            )
            yield f"{a.slot_name}: {then_}, and {now_} now."
        if a.credit_minor != b.credit_minor:
            yield f"{a.slot_name}: credit {money(a.credit_minor, currency)} then, {money(b.credit_minor, currency)} now."
    if then.labour_minor != now.labour_minor:
        yield f"Bench work: {money(then.labour_minor, currency)} then, {money(now.labour_minor, currency)} now."
    before = {n.need: n for n in then.needs}
    for n in now.needs:
        was = before.get(n.need)
        if was is not None and was.after != n.after:
            yield f"{n.label}: {ends(was.after, n.unit)} {n.unit} expected then, {ends(n.after, n.unit)} {n.unit} now."


def _verdict(verdict: str, short: str) -> str:
    return f"{verdict.replace('_', ' ')} ({short})" if short else verdict.replace("_", " ")


def _instead(planner: Planner, chosen: PlanPoint) -> str:
    """What the plan of best value would be today, where it is another build."""
    point = best(planner)
    mine = {(planner.stage.rank[c.slot], c.part) for c in chosen.changes}
    if mine == set(numbers(point)):
        return ""
    today = plan_point(planner.stage, point)
    what = "; ".join(f"{c.slot_name}: {c.part_name}" for c in today.changes) or "nothing is bought"
    return (
        f"Best value today: {what}, {money(today.cost_minor, planner.terms.currency)} for {today.benefit:+.1f} points."
    )
