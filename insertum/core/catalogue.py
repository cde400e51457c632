"""The catalogue: every part, with what a bench looks up in it. Made once, as long as no part changes."""

from collections.abc import Mapping
from functools import cached_property

from .kinds.all import KINDS
from .machine.part import Accessory, AnyPart, Fittable


class Catalogue(tuple[AnyPart, ...]):
    """Parts in their order."""

    @cached_property
    def by_number(self) -> Mapping[str, AnyPart]:
        return {p.number: p for p in self}

    @cached_property
    def accessories(self) -> list[Accessory]:
        return [p for p in self if isinstance(p, Accessory)]

    @cached_property
    def by_kind(self) -> Mapping[str, list[Fittable]]:
        """What can go in a slot, by kind, in the order a bench thinks of it."""
        found: dict[str, list[Fittable]] = {kind: [] for kind in KINDS}
        for part in self:
            if not isinstance(part, Accessory):
                found[part.kind].append(part)
        return {kind: parts for kind, parts in found.items() if parts}

    @cached_property
    def fitting(self) -> list[Fittable]:
        return [p for parts in self.by_kind.values() for p in parts]

    @cached_property
    def makers(self) -> tuple[str, ...]:
        """Who makes what can go in a slot, in order."""
        return tuple(sorted({p.maker for p in self.fitting if p.maker}))
