"""The rulebook: every rule is one small named unit, registered once, listed everywhere.

A rule is a function of (slot, part, build) that yields findings; nothing yielded means it has
nothing against the part. Adding a rule is adding one decorated function to a rule module.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cache
from typing import Any

from ..part import Fittable
from ..verdict import Finding
from .build import Build

Judge = Callable[[Any, Any, Build], Iterable[Finding]]


@dataclass(frozen=True)
class Rule:
    """``id`` is stable; ``sentence`` is what it says to a technician; ``source`` names the standard
    and clause. ``whole`` rules look at the rest of the build; all others see only the slot, the part,
    its accessories, what is fitted there today and whether the system starts from it. ``context``
    rules also speak about parts that stay where they are. ``about`` names the part numbers a rule can
    have a word on in a build; without it, any."""

    id: str
    sentence: str
    source: str
    slots: tuple[type, ...]
    parts: tuple[type, ...]
    judge: Judge
    whole: bool = False
    context: bool = False
    about: Callable[[Build], frozenset[str]] | None = None

    def silent(self, number: str, build: Build) -> bool:
        """Is there nothing the rule could say of a part of this number?"""
        return self.about is not None and number not in self.about(build)

    def findings(self, slot: Any, part: Fittable, build: Build) -> list[Finding]:
        return [f.model_copy(update={"rule": self.id}) for f in self.judge(slot, part, build)]


@cache
def rules_for(slot: type, part: type, whole: bool) -> tuple[Rule, ...]:
    """The rules that apply to a kind of slot and a kind of part, looking at the whole build or not."""
    return tuple(
        r for r in RULES.values() if issubclass(slot, r.slots) and issubclass(part, r.parts) and r.whole is whole
    )


RULES: dict[str, Rule] = {}


def rule(
    id: str,
    sentence: str,
    source: str,
    slots: type | tuple[type, ...],
    parts: type | tuple[type, ...],
    whole: bool = False,
    context: bool = False,
    about: Callable[[Build], frozenset[str]] | None = None,
) -> Callable[[Judge], Judge]:
    """Register a rule under its stable id."""

    def register(judge: Judge) -> Judge:
        if id in RULES:
            raise ValueError(f"two rules are called {id}")
        rules_for.cache_clear()
        RULES[id] = Rule(id, sentence, source, _tuple(slots), _tuple(parts), judge, whole, context, about)
        return judge

    return register


def _tuple(types: type | tuple[type, ...]) -> tuple[type, ...]:
    return types if isinstance(types, tuple) else (types,)
