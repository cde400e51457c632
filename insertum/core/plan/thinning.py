"""What others make useless among choices of one group: cheaper or first in order, measuring no less."""

from collections import deque
from collections.abc import Callable, Iterable
from operator import ge
from typing import Any

from .choices import Choice, Stage, Step
from .effect import Effect
from .frontier import UNIT
from .measure import Measure


def stairs(alike: list[Step], stage: Stage, capped: Callable[[int], int]) -> list[Step]:
    """Cheapest first, of which each stores more than all before it; near ties are kept unless the names decide."""
    if len(alike) == 1:
        return alike
    alike.sort(key=lambda p: (p.effort, -p.gb))
    kept: list[Step] = []
    near: deque[tuple[_Ordered, int]] = deque()  # those less than a whole unit cheaper, and what they store
    far: int | None = None
    for p in alike:
        gb = capped(p.gb)
        while near and near[0][0].step.effort + UNIT <= p.effort:
            most = near.popleft()[1]
            far = most if far is None or most > far else far
        if far is not None and far >= gb:
            continue
        own = _Ordered(p)
        for k, most in near:
            if most >= gb and k.order(stage) <= own.order(stage):
                break
        else:
            kept.append(p)
            near.append((own, gb))
    return kept


def fewest(alike: list[Step], stage: Stage, counts: Callable[[int], int] = int) -> list[Step]:
    """Of steps that are alike those that no other makes useless: one that rests on no more, stores no less (as far as
    ``counts`` says it counts), and is cheaper by a whole unit, or no dearer and first in order."""
    if len(alike) == 1:
        return alike
    found = sorted([(p.effort, len(p.waits), -counts(p.gb), n) for n, p in enumerate(alike)])
    kept: list[tuple[int, frozenset[str], _Ordered]] = []
    for effort, _, less, n in found:
        p = alike[n]
        own: _Ordered | None = None
        waits, dear = p.waits, effort - UNIT
        if n % 16 == 0:
            stage.look(len(kept))
        for its, rests, k in kept:
            if its > less or not rests <= waits:
                continue
            own = own or _Ordered(p)
            if k.step.effort <= dear or k.order(stage) <= own.order(stage):
                break
        else:
            kept.append((less, waits, own or _Ordered(p)))
    return [k.step for _, _, k in kept]


class _Ordered:
    """A step with its place in a tie, which is worked out where there is one."""

    __slots__ = ("_order", "step")

    def __init__(self, step: Step) -> None:
        self.step = step
        self._order: Any = None

    def order(self, stage: Stage) -> Any:
        if self._order is None:
            self._order = order_of(stage, self.step)
        return self._order


def thinned(choices: Iterable[Choice], loose: frozenset[str], full: bool) -> list[Choice]:
    """Choices that no other one makes useless: one that opens no more, rests on the same, costs no more, loses no tie,
    and measures no less of anything, as the needs and as *fill it* (``full``) measure it. How far a need is met never
    falls as its measure rises, so no plan is the poorer."""
    by_kind: dict[Any, list[tuple[Choice, tuple[Measure, ...]]]] = {}
    told: dict[int, tuple[Any, tuple[Measure, ...]]] = {}
    for c in choices:
        few = tuple(sorted([x.name for _, x in c.changes if x and x.name in loose])) if loose else ()
        kinds: list[Any] = [c.waits, few]
        measured: tuple[Measure, ...] = ()
        for e in c.effects:
            known = told.get(id(e))
            if known is None:
                known = told[id(e)] = _told(e)
            kinds.append(known[0])
            measured += known[1]
        if full:
            measured += tuple(c.physical.values())
        by_kind.setdefault(tuple(kinds), []).append((c, measured))
    kept: list[Choice] = []
    for alike in by_kind.values():
        kept += _undone(alike) if len(alike) > 1 else [alike[0][0]]
    return kept


def _told(e: Effect) -> tuple[Any, tuple[Measure, ...]]:
    """What an effect must be the same in for two choices to be compared, and what it measures."""
    if len(e.raw.cases) == 1:
        return e.needs[0].id, tuple(e.raw.cases[0][1].values())
    if e.raw.alike is not None:
        return (e.needs[0].id, e.raw.alike), e.raw.merits
    return (e.needs[0].id, id(e.raw.cases)), ()


def _undone(alike: list[tuple[Choice, tuple[Measure, ...]]]) -> list[Choice]:
    """Those of choices of one kind that no other makes useless."""
    alike.sort(key=lambda e: (e[0].effort, e[0].opens.bit_count()))
    # What is the same of all, or the same as another measure, decides nothing.
    columns = [col for col in dict.fromkeys(zip(*[m for _, m in alike], strict=True)) if len(set(col)) > 1]
    first, *others = columns or [(0,) * len(alike)]
    rest = list(zip(*others, strict=True)) if others else [()] * len(alike)
    several = len(others) > 1  # one figure alone is compared as it stands in its tuple
    kept: list[Choice] = []
    fronts: dict[tuple[int, tuple[Measure, ...]], _Front] = {}
    for (c, _), one, merits in zip(alike, first, rest, strict=True):
        opens = c.opens
        for (its, more), front in fronts.items():
            if its | opens != opens or (not all(map(ge, more, merits)) if several else more < merits):
                continue
            if front.outdoes(c, one):
                break
        else:
            own = fronts.get((opens, merits))
            if own is None:
                own = fronts[opens, merits] = _Front()
            own.near.append((one, c))
            kept.append(c)
    return kept


class _Front:
    """Kept choices that open the same and measure the same but for one figure, in order of their effort: ``far`` is the
    most of it a whole unit cheaper than what is looked at, ``near`` are those less than a unit cheaper."""

    __slots__ = ("far", "near")

    def __init__(self) -> None:
        self.far: Measure | None = None
        self.near: deque[tuple[Measure, Choice]] = deque()

    def outdoes(self, c: Choice, one: Measure) -> bool:
        while self.near and self.near[0][1].effort + UNIT <= c.effort:
            most = self.near.popleft()[0]
            self.far = most if self.far is None or most > self.far else self.far
        if self.far is not None and self.far >= one:
            return True
        return any(most >= one and k.order <= c.order for most, k in self.near)


def order_of(stage: Stage, step: Step) -> Any:
    """The order among steps that are worth the same: fewer parts first, then by number and by the slot's rank."""
    rank = stage.rank
    picks = sorted([(rank[s], c.part.number if c else "") for s, c in step.changes])
    names = [n for _, n in picks]
    return len(picks), sorted(names), [r for r, _ in picks], names
