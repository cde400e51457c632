"""Exact multi-choice planning that knows nothing of laptops.

A plan takes one :class:`Option` from every group. An option costs money and seconds of its own
and touches some places; reaching the places costs seconds too, and those are shared, so cost is
not separable. What an option is worth is an integer that adds up over groups.

Why pruning is safe. Two options of one group that touch the same places share their access in
every plan, so replacing one by the other changes only its own money, seconds and worth. Labour is
a rounded but non-decreasing function of seconds. Hence an option is dropped only when another of
the same touch costs no more money, no more seconds and is worth no less, and the swap can never
lose a tie: it is strictly cheaper in money, or strictly worth more, or its names sort no later.
(Names are compared sorted; swapping an equal number of names for a lexicographically smaller set
keeps the merged list smaller, because the first difference is the smallest name whose count
differs, and merging the rest adds the same count on both sides.)
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any

Touch = frozenset[str]


@dataclass(frozen=True, slots=True)
class Option:
    """One joint choice for a group. ``names`` has one entry a change, sorted."""

    touch: Touch
    money: int
    seconds: int
    names: tuple[str, ...]
    worth: int
    choice: tuple[Any, ...] = ()


@dataclass(frozen=True, slots=True)
class Point:
    """A whole plan: its cost in minor units, its worth, and the options it is made of."""

    cost: int
    worth: int
    option: Option

    @property
    def order(self) -> tuple[int, int, int, tuple[str, ...]]:
        """Cheapest first, then most worth, then fewest changes, then sorted names."""
        return (self.cost, -self.worth, len(self.option.names), self.option.names)


@dataclass(frozen=True)
class Tariff:
    """How seconds become money: access by touched places, and a rate per hour."""

    access: Callable[[Touch], int]
    rate_minor_per_hour: int

    def labour(self, seconds: int) -> int:
        """Minutes × rate, rounded half up once, on the sum."""
        return (seconds * self.rate_minor_per_hour * 2 + 3600) // 7200

    def cost(self, option: Option) -> int:
        return option.money + self.labour(self.access(option.touch) + option.seconds)


def prune(options: Iterable[Option]) -> list[Option]:
    """Options no other one of the same touch makes useless (see the module's proof)."""
    by_touch: dict[Touch, list[Option]] = {}
    for o in options:
        by_touch.setdefault(o.touch, []).append(o)
    kept: list[Option] = []
    for same in by_touch.values():
        same.sort(key=lambda o: (o.money, -o.worth, o.seconds, o.names))
        front: list[Option] = []
        for o in same:
            if not any(_beats(k, o) for k in front):
                front.append(o)
        kept.extend(front)
    return kept


def _beats(a: Option, b: Option) -> bool:
    return (
        a.money <= b.money
        and a.seconds <= b.seconds
        and a.worth >= b.worth
        and (a.money < b.money or a.worth > b.worth or a.names <= b.names)
    )


def combine(groups: Sequence[Sequence[Option]]) -> list[Option]:
    """All combinations worth keeping, one option from each group; empty when a group is."""
    merged = [Option(frozenset(), 0, 0, (), 0)]
    for group in groups:
        useful = prune(group)
        merged = prune(
            Option(
                a.touch | b.touch,
                a.money + b.money,
                a.seconds + b.seconds,
                tuple(sorted(a.names + b.names)),
                a.worth + b.worth,
                a.choice + b.choice,
            )
            for a in merged
            for b in useful
        )
    return merged


def frontier(groups: Sequence[Sequence[Option]], tariff: Tariff) -> list[Point]:
    """The Pareto points (cost up, worth up), cheapest first; ties as :attr:`Point.order`."""
    points = sorted((Point(tariff.cost(o), o.worth, o) for o in combine(groups)), key=lambda p: p.order)
    front: list[Point] = []
    for p in points:
        if not front or p.worth > front[-1].worth:
            front.append(p)
    return front


def hull(points: Sequence[Point], start: Point) -> list[Point]:
    """The upper hull of the points beyond ``start``, in rising cost: steepest step first.

    Slopes are compared exactly by cross-multiplication; of equal slopes the longer step is taken.
    """
    walk = [start]
    while beyond := [p for p in points if p.cost > walk[-1].cost and p.worth > walk[-1].worth]:
        here, best = walk[-1], beyond[0]
        for p in beyond[1:]:
            lead = (p.worth - here.worth) * (best.cost - here.cost) - (best.worth - here.worth) * (p.cost - here.cost)
            if lead > 0 or (lead == 0 and p.cost > best.cost):
                best = p
        walk.append(best)
    return walk
