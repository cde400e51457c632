"""What must be said first, once, above the plans: each sentence only where it is true over everything the catalogue
holds and everything that could be (rules.md section 7)."""

from collections.abc import Iterator
from fractions import Fraction
from typing import NamedTuple

from ..machine.claim import Limits
from ..machine.memory_system import MemorySlot
from ..money import money
from ..standards import wlan
from . import kept_out
from .frontier import UNIT, Point
from .need import COMFORT_MET, Need, NeedKind
from .planner import Planner
from .report import figure, need_states
from .request import PlanRequest, Schools
from .result import AnotherScored, NeedState, PlanPoint

#: Of each need short of comfort: does anything lift it, any part on sale or without a price, any question turning out
#: well, any school?
Lifts = dict[str, bool]
#: As good as a radio can be.
BEST_RADIO = wlan.RadioSide(standard="be", streams=4, width_mhz=320, bands=wlan.BANDS)


class Possible(NamedTuple):
    """What could be on any terms. ``lifts``: of each need short of comfort, does anything lift it, whatever turns out;
    ``kept_out`` in words what would, where the job's own terms keep it out; ``worth_money``: could any part gain the
    job's threshold for its money on any terms, with every answer good?"""

    lifts: Lifts
    kept_out: dict[str, str]
    worth_money: bool


def said_first(
    planner: Planner, today: tuple[NeedState, ...], best: PlanPoint, possible: Possible, most: float,
    other: AnotherScored | None,
) -> tuple[str, ...]:  # fmt: skip
    """``possible`` is what could be on any terms; ``most`` the most any plan could gain, whatever turns out."""
    return tuple(_all(planner, today, best, possible, most, other))


def _all(
    planner: Planner, today: tuple[NeedState, ...], best: PlanPoint, possible: Possible, most: float,
    other: AnotherScored | None,
) -> Iterator[str]:  # fmt: skip
    if planner.use.processor_at_limit:
        yield "The processor is at its limit under this load. No part lifts that."
    by_id = {n.id: n for n in planner.needs}
    short = [(by_id[s.need], s) for s in today if s.met_today[0] < COMFORT_MET]
    for n, s in short:
        yield from _lifted_or_not(planner, n, s, best, possible)
    yield from line_binds(planner, today)
    yield from router_binds(planner)
    stated = [s for s in today if by_id[s.need].kind is not NeedKind.FAULT]
    faults = [n for n in planner.needs if n.kind is NeedKind.FAULT]
    fine = bool(stated) and all(s.met_today[0] >= COMFORT_MET for s in stated) and not planner.unmeasured
    # A part beyond comfort may still be worth its money: nothing is told to be bought only where none is.
    nothing = not best.changes and not best.tasks and not possible.worth_money
    if fine and faults:
        only = any(possible.lifts[n.id] for n in faults) and not possible.worth_money
        yield f"Everything else is at comfort today{': mend the fault only' if only else ''}."
    elif fine:
        yield f"Every stated need is at comfort today{': buy nothing' if nothing else ''}."
    elif short and nothing and not any(possible.lifts.values()) and not planner.unmeasured:
        yield "Buy nothing here: no part lifts what is short."
    if other is not None and not other.unknown and other.benefit > most:
        yield (
            f"{other.name} gains more than anything that can be done here: {other.benefit:+.1f} points against at most "
            f"{most:+.1f}, for {money(other.cost_minor, planner.terms.currency)}."
        )


def _lifted_or_not(planner: Planner, n: Need, s: NeedState, best: PlanPoint, possible: Possible) -> Iterator[str]:
    """Of a need short of comfort: that nothing lifts it, or what would on other terms than the job's."""
    if possible.lifts[n.id]:
        if (kept := possible.kept_out.get(n.id)) is not None:
            yield kept
    elif n.kind is NeedKind.MEMORY_CAPACITY and soldered_only(planner):
        for_ = f"; for {_names(best)} a plan stands below" if best.changes else ""
        yield f"Memory is soldered: no part lifts it above {figure(n, s.today[1])}{for_}."
    elif n.kind is NeedKind.FAULT:
        yield f"{n.label}: nothing in the catalogue mends it, and no task does."
    elif not _wired(planner, n):
        yield f"{n.label}: nothing in the catalogue lifts it in this machine."


def _names(plan: PlanPoint) -> str:
    return " and ".join(c.slot_name for c in plan.changes)


def _wired(planner: Planner, n: Need) -> bool:
    """Is it said by the line into the house, or by the router, already?"""
    said = _line(planner) is not None or _router(planner) is not None
    return n.kind is NeedKind.RADIO_THROUGHPUT and said


def soldered_only(planner: Planner) -> bool:
    """Is all memory on the board, with no socket? A draft nobody has gone through may have one that is not drawn."""
    m = planner.machine
    return bool(m.memory.soldered) and not m.machine.draft and not any(isinstance(s, MemorySlot) for s in m.slots)


def _line(planner: Planner) -> int | None:
    need = next((n for n in planner.needs if n.kind is NeedKind.RADIO_THROUGHPUT), None)
    line = planner.use.line_mbit_s
    return line if need is not None and line is not None and line < need.comfort else None


def line_binds(planner: Planner, today: tuple[NeedState, ...]) -> Iterator[str]:
    """Says what the line into the house carries, where that caps a radio."""
    line = _line(planner)
    if line is not None:
        yield f"The line into the house carries {line} Mb/s: no Wi-Fi card delivers more."


def _router(planner: Planner) -> int | None:
    """The most any radio could get out of the owner's router, where that is short of what is wanted."""
    need = next((n for n in planner.needs if n.kind is NeedKind.RADIO_THROUGHPUT), None)
    router = planner.use.router
    if need is None or router is None or _line(planner) is not None:
        return None
    best = wlan.delivered_mbit_s(wlan.best_mode(BEST_RADIO, router, BEST_RADIO.streams, wlan.BANDS), None)
    return best if best < need.comfort else None


def router_binds(planner: Planner) -> Iterator[str]:
    """Says what the router delivers, where that caps a radio."""
    if (most := _router(planner)) is not None:
        yield f"The router delivers {most} Mb/s at most: no Wi-Fi card gets more out of it."


# -- what could be at all -----------------------------------------------------------------------------
def possible(planner: Planner, best: Point) -> Possible:
    """Where the job's own terms lift every need that is short, nothing else is asked."""
    today = need_states(planner.stage, (), planner.build.boot_slot)[0]
    line = _line(planner)
    own = {s.need: _lifted(planner, s.need) for s in today if s.met_today[0] < COMFORT_MET}
    # What the line into the house carries already, no radio betters: there is no need to ask.
    bound = {s.need for s in today if s.need == NeedKind.RADIO_THROUGHPUT and line is not None and s.today[0] >= line}
    asked = [n for n, lifted in own.items() if not lifted and n not in bound]
    if not asked and any(n != "fault" and not n.startswith("fault:") for n in own):
        return Possible(own, {}, True)  # something is short that can be lifted: what is worth its money is in the plans
    wide = Planner(_on_any_terms(planner.request))
    found = own | {n: _lifted(wide, n) for n in asked}
    kept = {n: says for n in asked if found[n] and (says := kept_out.says(planner, best, n))}
    return Possible(found, kept, _worth_money(wide))


def _worth_money(wide: Planner) -> bool:
    """Could a plan gain the threshold? What a plan gains and costs is the sum of its choices, and opening only adds to the
    cost: so where no choice gains enough for its own money, no plan does."""
    threshold = Fraction(str(wide.terms.threshold))
    for c in (c for g in wide.groups for c in g.choices if c.picks):
        gain = sum(
            (wide.units[n.id] * max(most, Fraction(0)) for e in c.effects for n, most in zip(e.needs, e.most, strict=True)
             if n.kind is not NeedKind.FAULT), Fraction(0),
        )  # fmt: skip
        # points for a major unit of money: 100·gain/weight ÷ (effort/UNIT/100)
        if gain > 0 and (c.effort <= 0 or 100 * 100 * gain * UNIT >= threshold * wide.weight * c.effort):
            return True
    return False


def _lifted(planner: Planner, need: str) -> bool:
    """Does some choice change how far the need is met, in any possibility?"""
    return any(
        most > 0
        for g in planner.groups for c in g.choices if c.picks
        for e in c.effects for n, most in zip(e.needs, e.most, strict=True) if n.id == need
    )  # fmt: skip


def _on_any_terms(request: PlanRequest) -> PlanRequest:
    parts = tuple(p if p.price_minor is not None else p.model_copy(update=kept_out.PRICELESS) for p in request.parts)
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
