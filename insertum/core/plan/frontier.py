"""Exact planning over groups of options. It knows nothing of laptops.

A plan takes one :class:`Option` from every group. An option has *effort* of its own and opens some places; opening a
place costs effort too, and places are shared, so cost is not separable. What an option is worth is an integer that
adds up over groups.

*Effort* is money and time in one exact integer: 7200 a minor unit, and twice the hourly rate a second. Cost in minor
units is effort over 7200, rounded half up once, so it never falls as effort rises, and two plans a whole unit apart
never cost the same.

Why pruning is safe. Opening more places never costs less. So where one option of a group opens no place that another
does not open too, replacing the other by it changes the access for the better or not at all, and beside that only its
own effort, worth and place in a tie. One is dropped only when another that opens no more is worth no less, and is a
whole unit cheaper, or no dearer and does not lose the tie. A tie is decided by
:attr:`Option.order`, and adding the same options to both sides of a comparison never turns it: the orders are compared
entry by entry after sorting, and the first difference stays the first one when equal entries are merged in.
"""

from bisect import bisect_right
from collections import deque
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

#: Effort of one minor unit of money.
UNIT = 7200

#: One change: where (its rank in the machine's order), what goes in ('' for nothing), and whatever the provider means.
Pick = tuple[int, str, Any]
Order = tuple[int, tuple[str, ...], tuple[int, ...], tuple[str, ...], int]


def effort_of(minor: int, seconds: int, rate_minor_per_hour: int) -> int:
    """Money and time as one integer: ``minor`` units and ``seconds`` at ``rate_minor_per_hour``, in 1/``UNIT`` of a minor unit."""
    return UNIT * minor + 2 * seconds * rate_minor_per_hour


def cost_of(effort: int) -> int:
    """Minor units, rounded half up."""
    return (effort + UNIT // 2) // UNIT


def order_of_picks(picks: Iterable[Pick], late: int) -> Order:
    """Fewer changes first, then sorted names, then which places change and what stands in each, then ``late``."""
    placed = sorted([(p[0], p[1]) for p in picks])
    names = [p[1] for p in placed]
    return len(placed), tuple(sorted(names)), tuple([p[0] for p in placed]), tuple(names), late


@dataclass(frozen=True, eq=False)
class Option:
    """One choice. ``opens`` is a set of places as bits; ``picks`` are its changes; ``late`` loses the last tie;
    ``meaning`` is the provider's own."""

    opens: int
    effort: int
    worth: int
    picks: tuple[Pick, ...] = ()
    late: int = 0
    meaning: tuple[Any, ...] = ()

    @cached_property
    def order(self) -> Order:
        """Its place in a tie."""
        return order_of_picks(self.picks, self.late)

    def and_then(self, other: "Option") -> "Option":
        return Option(
            self.opens | other.opens,
            self.effort + other.effort,
            self.worth + other.worth,
            self.picks + other.picks,
            self.late + other.late,
            self.meaning + other.meaning,
        )


@dataclass(frozen=True, eq=False)
class Point:
    """A whole plan: its cost in minor units, its worth, and the options it is made of as one."""

    cost: int
    worth: int
    option: Option


@dataclass
class Tariff:
    """What opening places costs, in effort; asked once for each set of places. Opening more never costs less."""

    access: Callable[[int], int]
    known: dict[int, int] = field(default_factory=dict)

    def __call__(self, opens: int) -> int:
        if opens not in self.known:
            self.known[opens] = self.access(opens)
        return self.known[opens]

    def cost(self, option: Option) -> int:
        return cost_of(option.effort + self(option.opens))


def prune(options: Iterable[Option]) -> list[Option]:
    """Options no other one makes useless (see the module's proof)."""
    by_opens: dict[int, list[tuple[int, int, Option, Option | None]]] = {}
    for o in options:
        by_opens.setdefault(o.opens, []).append((o.effort, -o.worth, o, None))
    return _kept(by_opens)


def combine(groups: Sequence[Sequence[Option]]) -> list[Option]:
    """All combinations worth keeping, one option from each group; empty when a group is."""
    merged: list[Option] = [Option(0, 0, 0)]
    for i, group in enumerate(sorted(map(prune, groups), key=len)):
        merged = _merged(merged, group) if i else group
    return merged


def _merged(left: Sequence[Option], right: Sequence[Option]) -> list[Option]:
    """Pairs worth keeping. They are compared as figures, and only what is kept is put together."""
    pairs: dict[int, list[tuple[int, int, Option, Option | None]]] = {}
    for a in left:
        opens, effort, worth = a.opens, a.effort, a.worth
        for b in right:
            pairs.setdefault(opens | b.opens, []).append((effort + b.effort, -(worth + b.worth), a, b))
    return _kept(pairs)


def _kept(by_opens: dict[int, list[tuple[int, int, Option, Option | None]]]) -> list[Option]:
    """Of options by what they open, those that nothing beats that opens no more."""
    stairs: dict[int, _Stairs] = {}
    for opens in sorted(by_opens, key=int.bit_count):
        within = [s for o, s in stairs.items() if o | opens == opens]
        own = stairs[opens] = _Stairs()
        same = by_opens[opens]
        same.sort(key=_figures)
        for effort, minus, a, b in same:
            if own.passes(effort, -minus) or any(s.beats(effort, -minus) for s in within):
                continue
            both = a if b is None else a.and_then(b)
            if own.loses_tie(both) or any(s.ties(both) for s in within):
                continue
            own.add(both)
    return [o for s in stairs.values() for o in s.options]


class _Stairs:
    """Options that open the same, cheapest first; what has been passed by a whole unit is remembered by its worth."""

    __slots__ = ("efforts", "far", "most", "near", "options")

    def __init__(self) -> None:
        self.options: list[Option] = []
        self.efforts: list[int] = []
        self.most: list[int] = []  # the most worth so far
        self.near: deque[Option] = deque()  # less than a whole unit cheaper than what comes now
        self.far: int | None = None  # the most worth among those a whole unit cheaper

    def passes(self, effort: int, worth: int) -> bool:
        """Is one that is a whole unit cheaper worth no less? What comes is in rising effort."""
        while self.near and self.near[0].effort + UNIT <= effort:
            passed = self.near.popleft().worth
            self.far = passed if self.far is None or passed > self.far else self.far
        return self.far is not None and self.far >= worth

    def loses_tie(self, o: Option) -> bool:
        return any(k.worth >= o.worth and k.order <= o.order for k in self.near)

    def add(self, o: Option) -> None:
        self.options.append(o)
        self.efforts.append(o.effort)
        self.most.append(max(o.worth, self.most[-1]) if self.most else o.worth)
        self.near.append(o)

    def beats(self, effort: int, worth: int) -> bool:
        """The same asked out of turn."""
        i = bisect_right(self.efforts, effort - UNIT)
        return i > 0 and self.most[i - 1] >= worth

    def ties(self, o: Option) -> bool:
        i, j = bisect_right(self.efforts, o.effort - UNIT), bisect_right(self.efforts, o.effort)
        return any(k.worth >= o.worth and k.order <= o.order for k in self.options[i:j])


def _figures(pair: tuple[int, int, Option, Option | None]) -> tuple[int, int]:
    return pair[0], pair[1]


def frontier(groups: Sequence[Sequence[Option]], tariff: Tariff) -> list[Point]:
    """The Pareto points (cost up, worth up), cheapest first; of equal ones the first in order."""
    points = [Point(tariff.cost(o), o.worth, o) for o in combine(groups)]
    points.sort(key=lambda p: (p.cost, -p.worth))
    front: list[Point] = []
    for p in points:
        if not front or p.worth > front[-1].worth:
            front.append(p)
        elif (p.cost, p.worth) == (front[-1].cost, front[-1].worth) and p.option.order < front[-1].option.order:
            front[-1] = p
    return front


def cheapest(groups: Sequence[Sequence[Option]], tariff: Tariff) -> Point | None:
    """The plan of least cost, whatever it is worth; of equal ones the first in order. None when a group is empty."""
    level = [[Option(o.opens, o.effort, 0, o.picks, o.late, o.meaning) for o in group] for group in groups]
    front = frontier(level, tariff)
    return front[0] if front else None


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
