"""The rulebook: every rule is one small named unit, registered once, listed everywhere.

A rule is a pure function of values: (slot, part, build) to what it says; nothing said means it has nothing against
the part. It never asks whether something is known: the views it reads give it one value at a time, and the engine
goes through all that could be. Adding a rule is adding one decorated function to a rule module.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from ..machine.boot import Boot
from ..machine.memory_system import MemorySystem
from ..machine.part import MemoryModule
from ..verdict import Said
from .build import Build
from .views import BuildView

Judge = Callable[[Any, Any, BuildView], Iterable[Said]]


@dataclass(frozen=True)
class Rule:
    """``id`` is stable; ``sentence`` is what it says to a technician; ``source`` names the standard
    and clause. ``whole`` rules look at the rest of the build; all others see only the slot, the part,
    its accessories, the machine as a whole and whether the system starts from it. ``role`` rules also speak
    about parts that stay, where the build changes what they do; ``harms`` ones may speak of harm; ``apart`` ones are
    said by the judge itself. ``about`` names the part numbers a rule can
    have a word on in a build; without it, any. ``helps`` says of an attribute that more (+1) or less (−1)
    never makes the verdict worse, ``at`` the figures a range is looked at on both sides of, where neither does. ``shown``
    names what must have been looked at for an outcome to settle what the rule asks; without it, that the part worked."""

    id: str
    sentence: str
    source: str
    slots: tuple[type, ...]
    parts: tuple[type, ...]
    judge: Judge
    whole: bool = False
    role: bool = False
    harms: bool = False
    apart: bool = False
    about: Callable[[Build], frozenset[str]] | None = None
    helps: Mapping[str, int] = field(default_factory=dict)
    at: Mapping[str, Callable[[Any], tuple[int, ...]]] = field(default_factory=dict)
    shown: str = ""

    def __hash__(self) -> int:
        return hash(self.id)

    def silent(self, number: str, build: Build) -> bool:
        """Is there nothing the rule could say of a part of this number?"""
        return self.about is not None and number not in self.about(build)


@cache
def rules_for(slot: type, part: type, whole: bool) -> tuple[Rule, ...]:
    """The rules that apply to a kind of slot and a kind of part, looking at the whole build or not; those that may
    speak of harm first, so that a refusal found after them is the last word."""
    found = [
        r
        for r in RULES.values()
        if issubclass(slot, r.slots) and issubclass(part, r.parts) and r.whole is whole and not r.apart
    ]
    return tuple(sorted(found, key=lambda r: not r.harms))


RULES: dict[str, Rule] = {}


def rule(
    id: str,
    sentence: str,
    source: str,
    slots: type | tuple[type, ...],
    parts: type | tuple[type, ...],
    whole: bool = False,
    role: bool = False,
    harms: bool = False,
    apart: bool = False,
    about: Callable[[Build], frozenset[str]] | None = None,
    more: tuple[str, ...] = (),
    less: tuple[str, ...] = (),
    at: Mapping[str, Callable[[Any], tuple[int, ...]]] | None = None,
    shown: str = "",
) -> Callable[[Judge], Judge]:
    """Register a rule under its stable id. ``more`` and ``less`` name the attributes (``part.…`` for the part's,
    ``held.…`` for another slot's content) of which more or less helps."""

    def register(judge: Judge) -> Judge:
        if id in RULES:
            raise ValueError(f"two rules are called {id}")
        rules_for.cache_clear()
        helps = dict.fromkeys(more, 1) | dict.fromkeys(less, -1)
        for name in (*helps, *(at or {})):
            if not _is_read_somewhere(name, _tuple(slots), _tuple(parts)):
                raise TypeError(f"rule {id} declares {name}, which neither its slots nor its parts have")
        RULES[id] = Rule(
            id,
            sentence,
            source,
            _tuple(slots),
            _tuple(parts),
            judge,
            whole,
            role,
            harms,
            apart,
            about,
            helps,
            at or {},
            shown,
        )
        return judge

    return register


def _is_read_somewhere(name: str, slots: tuple[type, ...], parts: tuple[type, ...]) -> bool:
    """Is there such an attribute among what a rule may read? ``held.…`` is a module in another socket."""
    where, _, own = name.rpartition(".")
    shapes = {"part": parts, "held": (MemoryModule,), "": (*slots, *_subclasses(slots), MemorySystem, Boot)}[where]
    return any(own in getattr(s, "model_fields", ()) for s in shapes)


def _subclasses(types: tuple[type, ...]) -> tuple[type, ...]:
    below: list[type] = []
    for t in types:
        below += t.__subclasses__()
    return (*below, *_subclasses(tuple(below))) if below else ()


def _tuple(types: type | tuple[type, ...]) -> tuple[type, ...]:
    return types if isinstance(types, tuple) else (types,)
