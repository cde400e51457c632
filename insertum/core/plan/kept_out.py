"""What would lift a need and is kept out by the job's own terms: which term, and what it would cost (rules.md section 7)."""

from collections.abc import Iterator
from itertools import combinations
from typing import Any

from ..machine.claim import Limits
from ..machine.part import Fittable
from ..money import money
from .choices import Choice
from .frontier import Point, cheapest
from .planner import Planner
from .request import PlanRequest, Terms

#: A part as if it were given away: what is asked is whether it would do.
PRICELESS = {"offers": (), "selling_minor": 0}
#: The term of parts that are to be had nowhere at a price.
_IN_STOCK = "were it in stock"
#: Terms that keep parts out, in the order of equals: what each becomes when it is given up, and its words.
Given = tuple[str, dict[str, Any]]


def says(planner: Planner, best: Point, need: str) -> str:
    """By the fewest terms given up, then the cheapest: the part that lifts the need with every other need served as well
    as by the plan in hand. "" where no one or two of them do."""
    request = _about(planner.request, best, need)
    terms = list(_terms(request.terms))
    for many in (1, 2):
        found = []
        for rank, given in enumerate(combinations(terms, many)):
            made = _cheapest(request, best, need, given)
            if made is not None:
                # What nobody has a price for is no cheap way: it comes after all that have one.
                found.append((_IN_STOCK in [g[0] for g in given], made[0], rank, made[1], given))
        if found:
            _, cost, _, part, given = min(found, key=lambda f: f[:3])
            return _sentence(planner, need, part, cost - best.cost, [g[0] for g in given])
    return ""


#: The kinds of part that serve needs of a family.
_SERVES = {"memory": ("memory",), "drives": ("m2_drive", "bay_drive"), "radio": ("radio",), "battery": ("battery",)}


def _about(request: PlanRequest, best: Point, need: str) -> PlanRequest:
    """The request with the parts that could serve the need, and of the others those in hand: those serve the other needs
    as well as they are to be served, and no cheaper way is known, or the plan in hand would not be on the frontier."""
    family = next(n.family for n in request.needs if n.id == need)
    kinds = (*_SERVES.get(family, tuple(k for own in _SERVES.values() for k in own)), "accessory")
    mine = {p.name for c in best.option.meaning for _, p in c.changes if p}
    return request.model_copy(update={"parts": tuple(p for p in request.parts if p.kind in kinds or p.number in mine)})


def _terms(t: Terms) -> Iterator[Given]:
    yield _IN_STOCK, {}
    for school in Limits:
        if school is not t.limits:
            yield f"under *{school}*", {"limits": school}
    free = {"memory": "free", "grade": "free", "drive": "free", "makes": (), "spinning": True}
    words = {"memory": "if memory is bought as it comes", "grade": "at any grade", "drive": "if drives may go or stay",
             "makes": "of another make", "spinning": "as a spinning drive"}  # fmt: skip
    for name, value in free.items():
        if getattr(t.schools, name) != value:
            yield words[name], {"schools": {name: value}}
    if t.budget_minor is not None:
        yield "above the budget", {"budget_minor": None}
    if not t.allow_loss:
        yield "where something else may be lost", {"allow_loss": True}
    if "*" not in t.may_empty:
        yield "where slots may be emptied", {"may_empty": ("*",)}
    if not t.clean_install:
        yield "with a clean install", {"clean_install": True}


def _given_up(request: PlanRequest, given: tuple[Given, ...]) -> PlanRequest:
    terms, parts = request.terms, request.parts
    for name, changes in given:
        if name == _IN_STOCK:
            parts = tuple(p if p.price_minor is not None else p.model_copy(update=PRICELESS) for p in parts)
        if "schools" in changes:
            terms = terms.model_copy(update={"schools": terms.schools.model_copy(update=changes["schools"])})
        else:
            terms = terms.model_copy(update=changes)
    return request.model_copy(update={"terms": terms, "parts": parts})


def _cheapest(request: PlanRequest, best: Point, need: str, given: tuple[Given, ...]) -> tuple[int, Fittable] | None:
    """Cost and part of the cheapest build that meets the need better and every other no worse than the plan in hand."""
    other = Planner(_given_up(request, given))
    had: dict[str, Any] = {}
    for c in best.option.meaning:
        had |= {n.id: met for e in c.effects for n, met in zip(e.needs, e.enough, strict=True)}

    def serves(c: Choice) -> bool:
        mets = {n.id: met for e in c.effects for n, met in zip(e.needs, e.enough, strict=True)}
        return all(met > had.get(n, met - 1) if n == need else met >= had.get(n, met) for n, met in mets.items())

    groups = [[c for c in g if serves(c)] for g in other.settled()]
    if not all(groups):
        return None
    found = cheapest(other.options(groups, lambda c: 0), other.tariff)
    if found is None or (other.terms.budget_minor is not None and found.cost > other.terms.budget_minor):
        return None
    bought = [
        p
        for c in found.option.meaning
        for e in c.effects
        if any(n.id == need for n in e.needs)
        for _, p in c.changes
        if p
    ]
    return (found.cost, bought[0].part) if bought else None


def _sentence(planner: Planner, need: str, part: Fittable, more: int, terms: list[str]) -> str:
    label = next(n.label for n in planner.needs if n.id == need)
    if _IN_STOCK in terms:
        others = [t for t in terms if t != _IN_STOCK]
        also = f" {' and '.join(others)}" if others else ""
        # It may be sold abroad, or in kits: that it is out of stock is said only where every offer says so.
        offers = next(p.offers for p in planner.request.parts if p.number == part.number)
        gone = bool(offers) and all(o.stock == 0 for o in offers)
        return (
            f"{label}: {part.name} would lift it{also}; {'nobody has it in stock' if gone else 'it has no price here'}."
        )
    step = money(abs(more), planner.terms.currency)
    return f"{label}: {part.name} would lift it {' and '.join(terms)}, {'+' if more >= 0 else '−'} {step}."
