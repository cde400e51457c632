"""What a choice does for a need: readings of a measure, met shares, and what each weighs."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from math import lcm
from typing import Any, NamedTuple

from .measure import MEMORY, RADIO, Measure, Raw
from .need import COMFORT_MET, FLOOR_MET, Need, NeedKind
from .request import Use


# -- from measures to needs ---------------------------------------------------------------------------
class Weighed(NamedTuple):
    """An effect under one set of weights. ``gains`` are the least of (met after − met today) at one possibility, need by
    need, and ``hoped`` what they are if all that is asked turns out well. ``loss`` is the least of the family's weighted
    change, ``falls`` whether some need falls below its floor: what *no loss* looks at."""

    gains: tuple[Fraction, ...]
    hoped: tuple[Fraction, ...]
    loss: Fraction
    hoped_loss: Fraction
    falls: bool
    hoped_falls: bool


@dataclass(frozen=True, eq=False)
class Effect:
    """What one family's measures come to for the needs of it: the change of each need's met at each possibility, in parts
    of ``whole`` (of many possibilities few are different: each once), the possibilities in which some need falls below
    its floor, and how far each is met with the machine's unknowns at their best and those of what is bought at their
    worst (``enough``)."""

    needs: tuple[Need, ...]
    raw: Raw
    whole: int
    changes: tuple[tuple[int, ...], ...]
    falls: tuple[bool, ...]
    enough: tuple[Fraction, ...]
    asks: frozenset[str]
    later: "Callable[[], Effect] | None" = None

    @cached_property
    def grown(self) -> "Effect":
        """The same for the needs as they grow."""
        return self.later() if self.later else self

    @cached_property
    def gains(self) -> tuple[Fraction, ...]:
        return tuple(Fraction(min(c), self.whole) for c in self.changes)

    @cached_property
    def most(self) -> tuple[Fraction, ...]:
        """What each need gains where all turns out best for it."""
        return tuple(Fraction(max(c), self.whole) for c in self.changes)

    def weighed(self, units: Mapping[str, int]) -> Weighed:
        """Under weights in thousandths by need."""
        first, *rest = ([units[n.id] * c for c in own] for n, own in zip(self.needs, self.changes, strict=True))
        sums = [sum(c) for c in zip(first, *rest, strict=True)] if rest else first
        best = max(range(len(sums)), key=lambda i: (not self.falls[i], sums[i]))
        hoped = tuple(Fraction(c[best], self.whole) for c in self.changes)
        least, most = Fraction(min(sums), self.whole), Fraction(sums[best], self.whole)
        return Weighed(self.gains, hoped, least, most, any(self.falls), self.falls[best])


def readings(need: Need, raw: Raw, use: Use, grown: bool = False) -> list[tuple[Measure, Measure]]:
    """(today, after) in the need's own unit at each possibility. ``grown``: with the data in use as they will have
    grown."""
    pairs: list[tuple[Measure, Measure]] = [(a.get(need.kind, 0), b.get(need.kind, 0)) for a, b in raw.cases]
    if need.kind is NeedKind.RUNTIME:
        assert use.average_mw, "a runtime nobody measured is not stated"
        return [(Fraction(a) / use.average_mw, Fraction(b) / use.average_mw) for a, b in pairs]
    if need.kind is not NeedKind.DRIVE_SPACE:
        return pairs
    factor = need.growth(use.growth_percent, use.years) if grown else Fraction(1)
    if use.used is not None:
        used = use.used * factor
        return [(a - used, b - used) for a, b in pairs]
    # Nobody knows how much is used: anything up to what is there. What is met bends at three figures only, so the
    # least and the most that can be gained are where one of the two measures meets one of them, or at an end.
    found: list[tuple[Measure, Measure]] = []
    for a, b in pairs:
        most = Fraction(a) * factor
        bends = [Fraction(v) - t for v in (a, b) for t in (0, *need.exact_figures)]
        amounts = sorted({Fraction(0), most, *(x for x in bends if 0 <= x <= most)})
        found += [(a - u, b - u) for u in amounts]
    return found


def effect(
    raw: Raw, needs: Sequence[Need], use: Use, grown: bool = False, later: Callable[[], Effect] | None = None
) -> Effect:
    """What a family's measures come to, ``later`` for the needs as they grow. Needs of one effect share their
    possibilities."""
    mets = [_Mets(n, readings(n, raw, use, grown)) for n in needs]
    whole = lcm(*(m.whole for m in mets))
    columns = [c for m in mets for c in (m.changes(whole // m.whole), m.falls)]
    cases = list(zip(*dict.fromkeys(zip(*columns, strict=True)), strict=True))
    changes = tuple(cases[::2])
    asks = set(raw.asks)
    if needs[0].kind is NeedKind.DRIVE_SPACE and use.used_gb is None:
        asks.add("intake.used_gb")
    return Effect(
        needs=tuple(needs),
        raw=raw,
        whole=whole,
        changes=changes,
        falls=tuple(map(any, zip(*cases[1::2], strict=True))),
        enough=tuple(m.enough(raw.machine) for m in mets),
        asks=frozenset(asks) if any(min(c) < max(c) for c in changes) else frozenset(),
        later=later,
    )


class _Mets:
    """How far a need is met at each possibility: (today, then) as places in ``values``, each figure once, which are whole
    parts of ``whole``."""

    def __init__(self, need: Need, readings: Sequence[tuple[Measure, Measure]]) -> None:
        places: dict[Fraction, int] = {}
        at = {
            x: places.setdefault(need.met(x), len(places)) for x in dict.fromkeys(x for pair in readings for x in pair)
        }
        self.pairs = [(at[a], at[b]) for a, b in readings]
        self.values = list(places)
        self.whole = lcm(*(v.denominator for v in self.values))
        self._parts = [v.numerator * (self.whole // v.denominator) for v in self.values]
        self._floor = [v >= FLOOR_MET for v in self.values]

    def changes(self, times: int) -> list[int]:
        """What it changes by at each possibility, in parts of ``whole`` × ``times``."""
        own = self._parts
        return [times * (own[b] - own[a]) for a, b in self.pairs]

    @property
    def falls(self) -> list[bool]:
        """Does it fall below its floor?"""
        own = self._floor
        return [own[a] and not own[b] for a, b in self.pairs]

    def enough(self, machine: Sequence[Any]) -> Fraction:
        """Met after: the machine's unknowns at their best, what is unknown of something bought at its worst."""
        after = (
            [self.values[b] for _, b in self.pairs] if machine else [self.values[b] for b in {b for _, b in self.pairs}]
        )
        if len(machine) != len(after):
            return max(after)
        worst: dict[Any, Fraction] = {}
        for key, met in zip(machine, after, strict=True):
            worst[key] = min(worst.get(key, met), met)
        return max(worst.values())


def shortfall(e: Effect, units: Mapping[str, int]) -> Fraction:
    """Σ weight·max(0, 0.9 − met), weights in thousandths by need."""
    return sum(
        (units[n.id] * max(Fraction(0), COMFORT_MET - met) for n, met in zip(e.needs, e.enough, strict=True)),
        Fraction(0),
    )


def families(needs: Iterable[Need]) -> list[tuple[Need, ...]]:
    """Needs that are measured together: memory's two at once and the radio's, every other kind by itself."""
    found: dict[NeedKind, list[Need]] = {}
    for n in needs:
        if n.kind is not NeedKind.FAULT:
            shared = next((group for group in (MEMORY, RADIO) if n.kind in group), (n.kind,))
            found.setdefault(shared[0], []).append(n)
    return [tuple(group) for group in found.values()]
