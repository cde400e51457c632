"""A bound that follows from what works or was seen, and short ways to write one."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from .domain import Domain, Some, at_least, at_most, holding, meet


@dataclass(frozen=True, slots=True)
class Bound:
    """A bound on ``place.name``: either a domain it lies in, or a least or most figure. ``deduction`` and ``why``
    say what it follows from."""

    name: str
    domain: Domain | None = None
    least: int | None = None
    most: int | None = None
    place: str = ""
    deduction: str = ""
    why: str = ""
    works: bool = False

    def narrow(self, domain: Domain) -> Domain | None:
        """The part of a domain within the bound; None where nothing is."""
        if self.domain is not None:
            return meet(domain, self.domain)
        narrowed: Domain | None = domain
        if self.least is not None:
            narrowed = at_least(domain, self.least)
        if self.most is not None and narrowed is not None:
            narrowed = at_most(narrowed, self.most)
        return narrowed


def is_(name: str, value: Any, place: str = "") -> Bound:
    """The attribute is this value."""
    return Bound(name, Some((value,)), place=place)


def among(name: str, values: Iterable[Any], place: str = "") -> Bound:
    """The attribute is one of these values."""
    return Bound(name, Some(tuple(values)), place=place)


def holds(name: str, *members: Any, place: str = "") -> Bound:
    """The attribute, a set, has these members and may have others."""
    return Bound(name, holding(*members), place=place)


def least(name: str, figure: int, place: str = "") -> Bound:
    """The attribute is at least this figure."""
    return Bound(name, least=figure, place=place)


def most(name: str, figure: int, place: str = "") -> Bound:
    """The attribute is at most this figure."""
    return Bound(name, most=figure, place=place)
