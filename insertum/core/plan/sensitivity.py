"""Beside the plan: what another school costs, what was left out and why, how firm a choice is, what a wish waits for.

Each is asked by planning again under the other circumstance, never by a rule of thumb.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from ..machine.claim import Limits
from ..machine.memory_system import MemorySlot
from ..machine.part import Fittable
from .choices import Choice
from .frontier import UNIT, Point, frontier
from .need import WEIGHT_UNIT
from .planner import Planner
from .request import PlanRequest, Terms

#: No weight is larger (it is the most a need's field takes).
MOST_WEIGHT = 100 * WEIGHT_UNIT


def numbers(point: Point) -> tuple[tuple[int, str], ...]:
    """What a plan does, whatever it costs: which place, which part."""
    return tuple(sorted((rank, name) for rank, name, _ in point.option.picks))


def best(planner: Planner) -> Point:
    """The point best value chooses."""
    return planner.best_value(planner.front()).chosen


# -- schools ------------------------------------------------------------------------------------------
SCHOOLS: dict[str, dict[str, str]] = {
    "memory": {"add": "add to what is there", "pair": "a matched pair", "free": "as it comes"},
    "grade": {"running": "no grade above what it runs", "newest": "the newest common grade", "free": "any grade"},
    "drive": {"replace": "the old drive leaves", "keep": "keep it and add", "free": "as it comes"},
    "spinning": {"yes": "spinning drives too", "no": "no spinning drive"},
    "makes": {"approved": "approved makes only", "cheapest": "any make"},
    "limits": {"documented": "documented limits", "controller": "controller's limits", "proven": "proven limits", "open": "open, at the owner's risk"},
}  # fmt: skip


def choice_of_school(terms: Terms, school: str, approved: Sequence[str]) -> str:
    """What a job's terms choose of a school."""
    s = terms.schools
    return {
        "memory": s.memory, "grade": s.grade, "drive": s.drive, "spinning": "yes" if s.spinning else "no",
        "makes": "approved" if s.makes else "cheapest", "limits": str(terms.limits),
    }[school]  # fmt: skip


def under(request: PlanRequest, school: str, choice: str, approved: Sequence[str]) -> PlanRequest:
    """The same request under another choice of one school."""
    terms = request.terms
    if school == "limits":
        terms = terms.model_copy(update={"limits": Limits(choice)})
    else:
        value: object = choice
        if school == "spinning":
            value = choice == "yes"
        elif school == "makes":
            value = tuple(approved) if choice == "approved" else ()
        terms = terms.model_copy(update={"schools": terms.schools.model_copy(update={school: value})})
    return request.model_copy(update={"terms": terms})


def schools(planner: Planner, approved: Sequence[str] = ()) -> Iterator[tuple[str, str, Planner, Point]]:
    """(school, choice, planner under it, its plan of best value) for every choice that is not the job's own."""
    paired = sum(isinstance(s, MemorySlot) for s in planner.machine.slots) > 1
    for school, choices in SCHOOLS.items():
        own = choice_of_school(planner.terms, school, approved)
        for choice in choices:
            if choice == own or (choice == "approved" and not approved) or (choice == "pair" and not paired):
                continue
            other = Planner(under(planner.request, school, choice, approved))
            yield school, choice, other, best(other)


# -- prices at which a choice turns -------------------------------------------------------------------
@dataclass(frozen=True)
class Priced:
    """The choices of a request in which one part's price is open."""

    planner: Planner
    number: str
    price: int

    def chosen_at(self, price: int) -> Point:
        """The plan of best value with the part at another price."""
        groups = [[self._at(c, price) for c in g] for g in self.planner.settled()]
        front = frontier(self.planner.options(groups, self.planner.benefit()), self.planner.tariff)
        return self.planner.best_value(front).chosen

    def _at(self, c: Choice, price: int) -> Choice:
        count = sum(1 for _, part in c.changes if part and part.name == self.number and not part.shelf)
        return replace(c, effort=c.effort + UNIT * count * (price - self.price)) if count else c

    def holds(self, price: int, slot: str = "") -> bool:
        """Is the part in the plan of best value at that price (in that slot, where one is named)?"""
        wanted = self.planner.stage.rank.get(slot)
        return any(n == self.number and (wanted is None or r == wanted) for r, n in numbers(self.chosen_at(price)))

    def highest(self, low: int, high: int, slot: str = "") -> int | None:
        """The highest price in a range at which it is in the plan; None where it is at none. A cheaper offer never
        takes a part out of a plan, so the range is halved."""
        if not self.holds(low, slot):
            return None
        while low < high:
            middle = (low + high + 1) // 2
            if self.holds(middle, slot):
                low = middle
            else:
                high = middle - 1
        return low


def priced(request: PlanRequest, part: Fittable) -> Priced | None:
    """A request with one part's price open; None for a part that has none."""
    if part.price_minor is None:
        return None
    return Priced(Planner(request, loose=frozenset((part.number,))), part.number, part.price_minor)


#: A price no laptop part has, in minor units: a choice that holds there holds at any price.
ANY_PRICE = 10_000_000


def falls_above(request: PlanRequest, part: Fittable, slot: str) -> int | None:
    """The price above which a chosen part leaves the plan; None where it holds at any price."""
    open_ = priced(request, part)
    if open_ is None or open_.holds(ANY_PRICE, slot):
        return None
    return open_.highest(open_.price, ANY_PRICE, slot)


def enters_at(request: PlanRequest, part: Fittable) -> int | None:
    """The highest price at which a part is in the plan of best value; None where it is at no price above nothing."""
    open_ = priced(request, part)
    return open_.highest(0, open_.price) if open_ else None


# -- weights at which the choice turns ----------------------------------------------------------------
def weight_bounds(planner: Planner, need: str) -> tuple[float | None, float | None]:
    """(below, above): the weights of a need outside which the plan of best value is another; None where there is none.
    Plans compare by figures that are linear in one weight, so those at which a plan holds are one stretch."""
    mine = numbers(best(planner))
    own = planner.units[need]

    def same(units: int) -> bool:
        return numbers(best(planner.reweighed(need, units))) == mine

    def edge(far: int) -> int | None:
        if same(far):
            return None
        near = own
        while abs(far - near) > 1:
            middle = (near + far) // 2
            if same(middle):
                near = middle
            else:
                far = middle
        return near

    below, above = edge(1), edge(MOST_WEIGHT)
    return (None if below is None else below / WEIGHT_UNIT, None if above is None else above / WEIGHT_UNIT)


# -- what was left out --------------------------------------------------------------------------------
@dataclass(frozen=True, eq=False)
class Single:
    """One part by itself in one slot: what it would gain and cost."""

    choice: Choice
    slot: str
    part: Fittable
    gain: int
    cost: int


def singles(planner: Planner, usable: Callable[[Choice], bool]) -> list[Single]:
    """Choices of one part alone, the most worth first, each part once."""
    worth = planner.benefit()
    found = []
    for g in planner.groups:
        for c in g.choices:
            slot, candidate = c.changes[0] if len(c.changes) == 1 else ("", None)
            if candidate is not None and usable(c):
                option = planner.options([[c]], worth)[0][0]
                found.append(Single(c, slot, candidate.part, option.worth, planner.tariff.cost(option)))
    found.sort(key=lambda s: (-s.gain, s.cost, s.part.number, s.slot))
    seen: dict[str, Single] = {}
    for s in found:
        seen.setdefault(s.part.number, s)
    return list(seen.values())
