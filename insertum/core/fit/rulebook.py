"""The rulebook: every rule is one small named unit, registered once, listed everywhere.

A rule is a function of (slot, part, build) that yields findings; nothing yielded means it has
nothing against the part. Adding a rule is adding one decorated function to a rule module.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from ..part import Fittable
from ..verdict import Finding
from .build import Build

Judge = Callable[[Any, Any, Build], Iterable[Finding]]


@dataclass(frozen=True)
class Rule:
    """``id`` is stable; ``sentence`` is what it says to a technician; ``source`` names the standard
    and clause. ``context`` rules also speak about parts that stay where they are."""

    id: str
    sentence: str
    source: str
    slots: tuple[type, ...]
    parts: tuple[type, ...]
    judge: Judge
    context: bool = False

    def applies(self, slot: object, part: Fittable) -> bool:
        return isinstance(slot, self.slots) and isinstance(part, self.parts)

    def findings(self, slot: Any, part: Fittable, build: Build) -> list[Finding]:
        return [f.model_copy(update={"rule": self.id}) for f in self.judge(slot, part, build)]


RULES: dict[str, Rule] = {}


def rule(
    id: str,
    sentence: str,
    source: str,
    slots: type | tuple[type, ...],
    parts: type | tuple[type, ...],
    context: bool = False,
) -> Callable[[Judge], Judge]:
    """Register a rule under its stable id."""

    def register(judge: Judge) -> Judge:
        if id in RULES:
            raise ValueError(f"two rules are called {id}")
        RULES[id] = Rule(id, sentence, source, _tuple(slots), _tuple(parts), judge, context)
        return judge

    return register


def _tuple(types: type | tuple[type, ...]) -> tuple[type, ...]:
    return types if isinstance(types, tuple) else (types,)
