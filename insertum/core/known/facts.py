"""What is known of single attributes of one machine: a domain each, from claims and what follows."""

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Self

from ..machine.attribute import Attribute, attributes_of
from ..machine.claim import Limits
from ..machine.memory_system import MemorySlot
from ..machine.shape import Configured, Slot
from .bound import Bound
from .deduce import deduced
from .domain import Domain, single
from .evidence import Contents, Grade, evidence
from .follow import Found, derived
from .settle import settled
from .why_text import SOLDERED_WORDS


@dataclass(frozen=True, eq=False)
class Facts:
    """What is known of the attributes of ``machine``. Two are the same only where they are the same object."""

    machine: Configured
    contents: Contents
    school: Limits = Limits.PROVEN
    firmware: str = ""
    as_usual: bool = False
    system: str = ""
    #: The unknowns taken as usual, as slot.attribute; empty is all that are returnable.
    usual_only: frozenset[str] = frozenset()
    #: Versions of firmware that outcomes of this configuration name.
    seen_under: tuple[str, ...] = ()
    _found: dict[tuple[str, str], Found] = field(default_factory=dict, init=False, compare=False, repr=False)
    #: Where the views of one machine keep what they looked up.
    views: dict[str, dict[str, Any]] = field(default_factory=dict, init=False, compare=False, repr=False)

    def under(self, school: Limits | None = None, as_usual: bool | None = None) -> Self:
        """The same machine under another school, or with what the owner takes as usual."""
        return replace(
            self, school=self.school if school is None else school,
            as_usual=self.as_usual if as_usual is None else as_usual,
        )  # fmt: skip

    def usual(self, place: str, name: str) -> bool:
        """Is this unknown taken as usual, on the owner's word?"""
        return self.as_usual and (not self.usual_only or f"{place}.{name}" in self.usual_only)

    # -- what a caller asks -------------------------------------------------------------------------
    def value(self, place: str, name: str) -> Any:
        """The value where it is known: a tuple for a list; None while it could be several."""
        return single(self.found(place, name).domain)

    def domain(self, place: str, name: str) -> Domain:
        return self.found(place, name).domain

    def attributes(self, place: str) -> dict[str, Attribute]:
        """The attributes of a place, with their words."""
        return attributes_of(type(self._shape(place)))

    def words(self, place: str, name: str) -> Attribute:
        """The attribute's own words."""
        if name.startswith("speed_by_modules"):
            name = "speed_mts"
        if name.startswith("soldered."):
            return SOLDERED_WORDS[name.rpartition(".")[2]]
        return attributes_of(type(self._shape(place)))[name]

    def place_name(self, place: str) -> str:
        slot = self.slots.get(place)
        return slot.name if slot else {"memory": "Memory", "boot": "Firmware"}.get(place, place)

    # -- facts --------------------------------------------------------------------------------------
    def found(self, place: str, name: str) -> Found:
        key = (place, name)
        known = self._found.get(key)
        if known is None:
            known = self._found[key] = derived(self, place, name) or settled(self, place, name, self._shape(place))
        return known

    def _shape(self, place: str) -> Any:
        if place == "memory":
            return self.machine.memory
        if place == "boot":
            return self.machine.boot
        return self.machine.slot(place) if place not in self.slots else self.slots[place]

    @cached_property
    def slots(self) -> dict[str, Slot]:
        return {s.id: s for s in self.machine.slots}

    @cached_property
    def bounds(self) -> dict[tuple[str, str], list[Bound]]:
        """What follows from what runs, was seen or was delivered, by attribute."""
        by: dict[tuple[str, str], list[Bound]] = {}
        for bound in deduced(evidence(self.machine, self.contents)):
            by.setdefault((bound.place, bound.name), []).append(bound)
        return by

    @property
    def sockets(self) -> tuple[MemorySlot, ...]:
        return tuple(s for s in self.machine.slots if isinstance(s, MemorySlot))

    @cached_property
    def contradicted(self) -> frozenset[int]:
        """Exclusions, by their place in the machine's list, that do not hold for what is in their two slots today: both
        work, or a link runs wider than the exclusion would leave it."""
        works = {
            s for s, grades in self.contents.grades.items() if Grade.WORKS in grades and self.contents.fitted.get(s)
        }
        found = set()
        for i, e in enumerate(self.machine.machine.exclusions):
            if {e.when, e.on} <= works:
                found.add(i)
        return frozenset(found)
