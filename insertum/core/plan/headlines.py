"""What must be said first, once, above the plans: each sentence only where it is true over everything the catalogue
holds and everything that could be (rules.md section 7)."""

from collections.abc import Iterator

from ..machine.claim import Limits
from ..machine.shape import MemorySlot
from ..money import money
from .need import COMFORT_MET, Need, NeedKind
from .planner import Planner
from .report import figure, need_states
from .request import PlanRequest, Schools
from .result import AnotherScored, NeedState, PlanPoint

#: How far each need could be met by anything at all: any part on sale or without a price, any question turning out
#: well, any school.
Lifts = dict[str, bool]


def said_first(
    planner: Planner, today: tuple[NeedState, ...], best: PlanPoint, lifts: Lifts, most: float,
    other: AnotherScored | None,
) -> tuple[str, ...]:  # fmt: skip
    """``lifts`` tells for each need below comfort whether anything at all lifts it; ``most`` is the most any plan could
    gain, whatever turns out."""
    return tuple(_all(planner, today, best, lifts, most, other))


def _all(
    planner: Planner, today: tuple[NeedState, ...], best: PlanPoint, lifts: Lifts, most: float,
    other: AnotherScored | None,
) -> Iterator[str]:  # fmt: skip
    use = planner.use
    if use.processor_at_limit:
        yield "The processor is at its limit under this load. No part lifts that."
    by_id = {n.id: n for n in planner.needs}
    short = [(by_id[s.need], s) for s in today if s.met_today[0] < COMFORT_MET]
    for n, s in short:
        if n.kind is NeedKind.MEMORY_CAPACITY and soldered_only(planner) and not lifts[n.id]:
            for_ = f"; for {_names(best)} a plan stands below" if best.changes else ""
            yield f"Memory is soldered: no part lifts it above {figure(n, s.today[1])}{for_}."
        elif not lifts[n.id] and not _wired(planner, n):
            yield f"{n.label}: nothing in the catalogue lifts it in this machine."
    yield from line_binds(planner, today)
    stated = [s for s in today if by_id[s.need].kind is not NeedKind.FAULT]
    faults = [n for n in planner.needs if n.kind is NeedKind.FAULT]
    if stated and all(s.met_today[0] >= COMFORT_MET for s in stated):
        if faults:
            yield "Everything else is at comfort today: mend the fault only."
        else:
            yield "Every stated need is at comfort today: buy nothing."
    elif short and not any(lifts.values()) and not faults:
        yield "Buy nothing here: no part lifts what is short."
    if other is not None and not other.unknown and other.benefit > most:
        yield (
            f"{other.name} gains more than anything that can be done here: {other.benefit:+.1f} points against at most "
            f"{most:+.1f}, for {money(other.cost_minor, planner.terms.currency)}."
        )


def _names(plan: PlanPoint) -> str:
    return " and ".join(c.slot_name for c in plan.changes)


def _wired(planner: Planner, n: Need) -> bool:
    """Is it said by the line into the house already?"""
    return n.kind is NeedKind.RADIO_THROUGHPUT and _line(planner) is not None


def soldered_only(planner: Planner) -> bool:
    """Is all memory on the board, with no socket? A draft nobody has gone through may have one that is not drawn."""
    m = planner.machine
    return bool(m.memory.soldered) and not m.machine.draft and not any(isinstance(s, MemorySlot) for s in m.slots)


def _line(planner: Planner) -> int | None:
    need = next((n for n in planner.needs if n.kind is NeedKind.RADIO_THROUGHPUT), None)
    line = planner.use.line_mbit_s
    return line if need is not None and line is not None and line < need.comfort else None


def line_binds(planner: Planner, today: tuple[NeedState, ...]) -> Iterator[str]:
    line = _line(planner)
    if line is not None:
        yield f"The line into the house carries {line} Mb/s: no radio delivers more."


# -- what could be at all -----------------------------------------------------------------------------
def lifts(planner: Planner) -> Lifts:
    """For each need below comfort: does anything lift it, on any terms, if all that is open turns out well? Where the
    job's own choices do not, everything is asked: parts without a price, every school, limits at the owner's risk."""
    today = need_states(planner.stage, (), planner.build.boot_slot)[0]
    line = _line(planner)
    found = {s.need: _lifted(planner, s.need) for s in today if s.met_today[0] < COMFORT_MET}
    # What the line into the house carries already, no radio betters: there is no need to ask.
    bound = {s.need for s in today if s.need == NeedKind.RADIO_THROUGHPUT and line is not None and s.today[0] >= line}
    if not all(lifted for n, lifted in found.items() if n not in bound):
        wide = Planner(_on_any_terms(planner.request))
        found = {n: is_lifted or _lifted(wide, n) for n, is_lifted in found.items()}
    return found


def _lifted(planner: Planner, need: str) -> bool:
    """Does some choice change how far the need is met, in any possibility?"""
    return any(
        most > 0
        for g in planner.groups for c in g.choices if c.picks
        for e in c.effects for n, most in zip(e.needs, e.most, strict=True) if n.id == need
    )  # fmt: skip


def _on_any_terms(request: PlanRequest) -> PlanRequest:
    parts = tuple(
        p if p.price_minor is not None else p.model_copy(update={"offers": (), "selling_minor": 0})
        for p in request.parts
    )
    terms = request.terms.model_copy(
        update={
            "schools": Schools(),
            "limits": Limits.OPEN,
            "may_empty": ("*",),
            "allow_loss": True,
            "budget_minor": None,
        }
    )
    return request.model_copy(update={"parts": parts, "terms": terms})


def most_points(planner: Planner) -> float:
    """More points than any plan could gain, whatever turns out: every need as far as any choice takes it."""
    most: dict[str, float] = {}
    for e in {id(e): e for g in planner.groups for c in g.choices for e in c.effects}.values():
        for n, change in zip(e.needs, e.most, strict=True):
            most[n.id] = max(most.get(n.id, 0.0), planner.units[n.id] * float(change))
    return 100 * sum(most.values()) / planner.weight if planner.weight else 0.0
