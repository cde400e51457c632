"""Domains: what an attribute could be, from one value to anything (rules.md section 1).

A domain is a value of its own: compared by content, met with another (what both allow), never changed.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Some:
    """One of these values; with a single one it is known."""

    values: tuple[Any, ...]


@dataclass(frozen=True, slots=True)
class Span:
    """A whole number from ``low`` to ``high``, both included: heights, rooms, gaps, rates."""

    low: int
    high: int


@dataclass(frozen=True, slots=True)
class Lot:
    """A list that surely holds ``has`` and may hold any of ``may`` besides; None of ``may`` is anything.
    With an empty ``may`` it is complete."""

    has: frozenset[Any]
    may: frozenset[Any] | None


@dataclass(frozen=True, slots=True)
class Anything:
    """A word nobody has read."""


Domain = Some | Span | Lot | Anything
COMPLETE: frozenset[Any] = frozenset()


def complete(members: Iterable[Any]) -> Lot:
    """A list that holds these and nothing else."""
    return Lot(frozenset(members), COMPLETE)


def holding(*members: Any) -> Lot:
    """A list that holds these, and who knows what else."""
    return Lot(frozenset(members), None)


def single(domain: Domain) -> Any:
    """The value where there is one: a list's members in order; None while it could be several."""
    match domain:
        case Some(values) if len(values) == 1:
            return values[0]
        case Span(low, high) if low == high:
            return low
        case Lot(has, may) if may is not None and not may:
            return tuple(sorted(has, key=lambda m: (str(type(m)), m)))
        case _:
            return None


def meet(a: Domain, b: Domain) -> Domain | None:
    """What both allow; None where they allow nothing in common."""
    match a, b:
        case Anything(), _:
            return b
        case _, Anything():
            return a
        case Some(values), Some(others):
            # 0 and False, 1 and True are one to Python and not to us.
            kept = tuple(v for v in values if any(v == o and type(v) is type(o) for o in others) or v in others)
            return Some(kept) if kept else None
        case (Some(values), Span(low, high)) | (Span(low, high), Some(values)):
            kept = tuple(v for v in values if isinstance(v, int) and low <= v <= high)
            return Some(kept) if kept else None
        case Span(low, high), Span(least, most):
            return Span(max(low, least), min(high, most)) if max(low, least) <= min(high, most) else None
        case Lot(has, may), Lot(holds, might):
            together = has | holds
            if may is not None and not holds <= has | may:
                return None
            if might is not None and not has <= holds | might:
                return None
            if may is None:
                left = None if might is None else might - together
            else:
                left = may - together if might is None else (may & (might | holds)) - together
            return Lot(together, left)
        case _:
            raise TypeError(f"{a} and {b} do not speak of one attribute")


def join(a: Domain, b: Domain) -> Domain:
    """Both possibilities side by side: where two sources of one standing disagree."""
    match a, b:
        case (Anything(), _) | (_, Anything()):
            return Anything()
        case Some(values), Some(others):
            return Some((*values, *(o for o in others if o not in values)))
        case Span(low, high), Span(least, most):
            return Span(min(low, least), max(high, most))
        case (Some(values), Span(low, high)) | (Span(low, high), Some(values)):
            numbers = [v for v in values if isinstance(v, int)]
            return Span(min([low, *numbers]), max([high, *numbers]))
        case Lot(has, may), Lot(holds, might):
            both = has & holds
            if may is None or might is None:
                return Lot(both, None)
            return Lot(both, (has | holds | may | might) - both)
        case _:
            raise TypeError(f"{a} and {b} do not speak of one attribute")


def allows(domain: Domain, value: Any) -> bool:
    """Could the attribute have this value?"""
    match domain:
        case Anything():
            return True
        case Some(values):
            return value in values
        case Span(low, high):
            return isinstance(value, int) and low <= value <= high
        case Lot(has, may):
            members = frozenset(value)
            return has <= members and (may is None or members <= has | may)


def at_least(domain: Domain, least: int) -> Domain | None:
    """The part of a domain from ``least`` up."""
    return _bounded(domain, lambda v: v >= least, lambda low, high: (max(low, least), high))


def at_most(domain: Domain, most: int) -> Domain | None:
    """The part of a domain up to ``most``."""
    return _bounded(domain, lambda v: v <= most, lambda low, high: (low, min(high, most)))


def _bounded(domain: Domain, keeps: Callable[[int], bool], cut: Callable[[int, int], tuple[int, int]]) -> Domain | None:
    match domain:
        case Some(values):
            kept = tuple(v for v in values if keeps(v))
            return Some(kept) if kept else None
        case Span(low, high):
            low, high = cut(low, high)
            return Span(low, high) if low <= high else None
        case _:
            raise TypeError(f"{domain} has no order")
