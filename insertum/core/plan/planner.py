"""The planner: the exact frontier and the four stances.

A :class:`Planner` is one request, opened up: its choices are made once and scored for every aim. :mod:`.answer` asks it
for everything a plan says.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from copy import copy
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from math import lcm

from ..fit.build import Build
from ..machine.shape import Slot
from ..survey.current_build import build_today, laid_out
from .candidates import Market
from .choices import Choice, Stage, fault
from .drive_groups import Joint, grouped
from .effect import Effect, Weighed, shortfall
from .frontier import Option, Point, cheapest, cost_of, effort_of, frontier, hull
from .measure import Measure
from .memory import Memory
from .need import COMFORT_MET, Need, NeedKind
from .request import PlanRequest, TaskOffer
from .thinning import thinned

Worth = Callable[[Choice], int]


@dataclass(frozen=True, eq=False)
class Group:
    """What is decided together, and everything that can be done with it, what waits included."""

    slots: tuple[str, ...]
    choices: tuple[Choice, ...]


class Walk(list[Point]):
    """The hull's steps from the best plan that costs nothing; ``taken`` are as many as gain enough."""

    taken: int = 1

    @property
    def chosen(self) -> Point:
        return self[self.taken - 1]


class Planner:
    """One request. ``loose`` names parts whose price is still open: the choices hold for any price of theirs. A
    ``certain`` one makes only what rests on no question: its plans are those of the whole one, and it is quick where
    little is known."""

    def __init__(self, request: PlanRequest, loose: frozenset[str] = frozenset(), certain: bool = False) -> None:
        self.request, self.terms, self.use, self.certain = request, request.terms, request.use, certain
        machine = request.machine.configured(request.configuration)
        self.machine = laid_out(machine, request.sightings, request.read, request.measured)
        self.build = self._today(request.fitted)
        alive = {**request.fitted, **dict.fromkeys(request.dead)}
        self.counted = self._today(alive) if request.dead else self.build
        stated = [n for n in request.needs if n.weight_units > 0]
        #: A runtime is not measured while nobody knows what the machine draws, nor reach while nobody has measured far
        #: away: unknown is not nothing.
        self.unmeasured = tuple(n for n in stated if request.use.unmeasured(n.kind))
        self.needs = tuple(n for n in stated if n not in self.unmeasured)
        self.market = Market(request)
        self.stage = Stage(
            self.build,
            self.counted,
            self.market,
            self.needs,
            self.use,
            self.terms,
            request.tasks,
            request.another,
            loose,
            self.unmeasured,
            certain,
        )
        self.tariff = self.stage.tariff
        self.weight = self.stage.weight
        self.units = {n.id: n.weight_units for n in self.needs}
        self._weighed: dict[int, tuple[Effect, Weighed]] = {}

    def _today(self, fitted: Mapping[str, object]) -> Build:
        r = self.request
        return build_today(
            self.machine, fitted, r.terms.limits, r.firmware, r.boot_slot, r.sightings, r.unknown,  # type: ignore[arg-type]
            r.grades, r.signs, r.as_usual, r.system, r.usual_only,
        )  # fmt: skip

    # -- what can be done ---------------------------------------------------------------------
    @cached_property
    def groups(self) -> list[Group]:
        return self._groups(full=False)

    @cached_property
    def full_groups(self) -> list[Group]:
        """The same where every GB counts, for *fill it*."""
        return self._groups(full=True)

    def _groups(self, full: bool) -> list[Group]:
        sockets, joined = grouped(self.build)
        if full and "groups" in self.__dict__:
            made = [self.groups[0]]
        else:
            made = [self._group(sockets, Memory(self.stage, sockets).choices(), full=True)]
        for i, slots in enumerate(joined, 1):
            joint = Joint(self.stage, slots, full)
            if full and "groups" in self.__dict__ and not joint.fills:
                made.append(self.groups[i])
            else:
                made.append(self._group(slots, joint.choices(), full))
        return [*made, *(self._task(t) for t in self.request.tasks)]

    def _group(self, slots: Sequence[Slot], choices: Iterable[Choice], full: bool) -> Group:
        ids = tuple(s.id for s in slots)
        faults = [n for n in self.needs if n.kind is NeedKind.FAULT and n.slot in ids]
        if faults:
            choices = (_with_faults(c, faults) for c in choices)
        return Group(ids, tuple(thinned(choices, self.stage.loose, full)))

    def _task(self, task: TaskOffer) -> Group:
        stage = self.stage
        need = next((n for n in self.needs if n.kind is NeedKind.FAULT and n.slot == task.mends), None)
        faults = [need] if need else []
        nothing = Choice((), None, 0, 0, (), 0, tuple(fault(n, False) for n in faults), frozenset(), {})
        opens = stage.opens_for(task)
        effort = effort_of(task.consumables_minor, task.seconds, self.terms.rate_minor_per_hour)
        rank = len(stage.rank) + 1 + self.request.tasks.index(task)
        done = replace(
            nothing, opens=opens, effort=effort, picks=((rank, task.id, task),), task=task.id,
            effects=tuple(fault(n, True) for n in faults),
        )  # fmt: skip
        return Group((), (nothing, done))

    # -- scores -------------------------------------------------------------------------------
    @cached_property
    def scale(self) -> int:
        """One denominator for everything that is scored, so that sums and ties are exact."""
        return self._scale(e for g in self.groups for c in g.choices for e in c.effects)

    @cached_property
    def grown_scale(self) -> int:
        return self._scale(e for g in self.groups for c in g.choices for e in c.grown)

    def _scale(self, effects: Iterable[Effect]) -> int:
        found = 10
        for e in {id(e): e for e in effects}.values():
            found = lcm(found, e.whole)
        return found

    def reweighed(self, need: str, units: int) -> "Planner":
        """The same request with another weight of one need, in thousandths: what can be done stays, what it is worth
        changes."""
        other = copy(self)
        other.units = {**self.units, need: units}
        other.weight = sum(other.units.values()) + sum(n.weight_units for n in self.unmeasured)
        other._weighed = {}
        _ = self.groups, self.scale, self.grown_scale
        other.__dict__.update({n: self.__dict__[n] for n in ("groups", "scale", "grown_scale")})
        return other

    def weighing(self, request: PlanRequest) -> "Planner | None":
        """A planner of a request that differs from this one's in weights alone, without making the choices anew; None
        where it differs in more, or where another need has a weight at all."""
        if _unweighed(request) != _unweighed(self.request):
            return None
        other = copy(self)
        other.request = request
        mine = {n.id for n in self.needs}
        other.needs = tuple(n for n in request.needs if n.id in mine)
        other.unmeasured = tuple(n for n in request.needs if n.id in {u.id for u in self.unmeasured})
        other.stage = self.stage.weighing(other.needs, other.unmeasured)
        other.weight = other.stage.weight
        other.units = {n.id: n.weight_units for n in other.needs}
        other._weighed = {}
        return other

    def weighed(self, e: Effect) -> Weighed:
        found = self._weighed.get(id(e))
        if found is None:
            found = self._weighed[id(e)] = (e, e.weighed(self.units))
        return found[1]

    def points(self, worth: int) -> float:
        """Benefit in points of 100 from the exact worth."""
        return float(self.exact_points(worth))

    def exact_points(self, worth: int) -> Fraction:
        return Fraction(100 * worth, self.weight * self.scale) if self.weight else Fraction(0)

    def slope(self, worth: int, minor: int) -> Fraction:
        """Points per major unit of money."""
        return Fraction(100 * 100 * worth, self.weight * self.scale * minor) if self.weight else Fraction(0)

    def benefit(self, grown: bool = False, hoping: frozenset[str] = frozenset()) -> Worth:
        """The least a choice gains; with ``hoping`` what it gains if those questions turn out well."""
        scale = self.grown_scale if grown else self.scale
        known: dict[int, int] = {}

        def worth(c: Choice) -> int:
            total = 0
            for e in c.grown if grown else c.effects:
                if id(e) not in known:
                    gains = self.weighed(e).hoped if e.asks and e.asks <= hoping else e.gains
                    known[id(e)] = sum(self.units[n.id] * _whole(g, scale) for n, g in zip(e.needs, gains, strict=True))
                total += known[id(e)]
            return total

        return worth

    def settled(
        self, groups: Sequence[Group] | None = None, hoping: frozenset[str] = frozenset(), grown: bool = False
    ) -> list[list[Choice]]:
        """Choices that rest on no unknown, or on these alone, and lose nothing the job does not allow to be lost."""
        return [
            [c for c in g.choices if c.waits <= hoping and self.keeps(c, hoping, grown)]
            for g in (groups or self.groups)
        ]

    def keeps(self, c: Choice, hoping: frozenset[str] = frozenset(), grown: bool = False) -> bool:
        """Is nothing lost that the job does not allow to be lost? Doing nothing is always allowed."""
        if self.terms.allow_loss or not c.picks:
            return True
        for effects in (c.effects, c.grown) if grown else (c.effects,):
            losses: list[tuple[str, Fraction]] = []
            for e in effects:
                w, hoped = self.weighed(e), bool(e.asks) and e.asks <= hoping
                if w.hoped_falls if hoped else w.falls:
                    return False
                losses.append((e.needs[0].family, w.hoped_loss if hoped else w.loss))
            for family, loss in losses:
                if loss.numerator < 0 and sum(other for f, other in losses if f == family) < 0:
                    return False
        return True

    def options(self, groups: Iterable[Iterable[Choice]], worth: Worth) -> list[list[Option]]:
        return [[Option(c.opens, c.effort, worth(c), c.picks, c.late, (c,)) for c in g] for g in groups]

    def front(self, hoping: frozenset[str] = frozenset(), groups: Sequence[Group] | None = None) -> list[Point]:
        """The exact Pareto points (cost, benefit) over all allowed builds."""
        return frontier(self.options(self.settled(groups, hoping), self.benefit(hoping=hoping)), self.tariff)

    def affordable(self, points: Sequence[Point]) -> list[Point]:
        """Points within the budget; the budget is hard."""
        budget = self.terms.budget_minor
        return [p for p in points if budget is None or p.cost <= budget]

    # -- stances ------------------------------------------------------------------------------
    def best_value(self, front: Sequence[Point]) -> Walk:
        """The hull within the budget from the best point that costs nothing, while a step gains the threshold."""
        within = self.affordable(front)
        free = [p for p in within if p.cost <= 0]
        start = max(free, key=lambda p: p.worth) if free else within[0]
        steps = Walk(hull(within, start))
        threshold = Fraction(str(self.terms.threshold))
        while steps.taken < len(steps):
            a, b = steps[steps.taken - 1], steps[steps.taken]
            if self.slope(b.worth - a.worth, b.cost - a.cost) < threshold:
                break
            steps.taken += 1
        return steps

    def homeless(self, grown: bool = False) -> list[Effect]:
        """Effects of today for stated needs that no slot and no task of this request decides."""
        housed = {n.id for g in self.groups for c in g.choices[:1] for e in c.effects for n in e.needs}
        needs = [n for n in self.needs if n.id not in housed]
        return [self.today_effect(n, grown) for n in needs]

    def today_effect(self, need: Need, grown: bool = False) -> Effect:
        if need.kind is NeedKind.FAULT:
            return fault(need, False)
        (own,), _ = self.stage.effects((need.kind,), "today", lambda: self.counted)
        return own.grown if grown else own

    def just_enough(self, grown: bool = False) -> tuple[Point, bool, int]:
        """Least cost with every stated need at comfort, then benefit. When that is impossible within the budget: least
        Σ w·max(0, 0.9 − met), then cost, then benefit. Returns the point, whether all needs are met, and what the
        comfortable plan would cost above the budget (0 if there is none)."""
        groups = self.settled(grown=grown)
        scale = self.grown_scale if grown else self.scale

        def effects(c: Choice) -> tuple[Effect, ...]:
            return c.grown if grown else c.effects

        over = 0
        if all(m >= COMFORT_MET for e in self.homeless(grown) for m in e.enough):
            comfortable = [
                [c for c in g if all(m >= COMFORT_MET for e in effects(c) for m in e.enough)] for g in groups
            ]
            if all(comfortable):
                full = frontier(self.options(comfortable, self.benefit(grown)), self.tariff)
                if within := self.affordable(full):
                    return within[0], True, 0
                over = full[0].cost - (self.terms.budget_minor or 0)
        benefit = self.benefit(grown)
        short: dict[int, int] = {}
        #: What falls short counts before what is gained: no gain is as large as the least of shortfalls.
        above = 2 * scale * self.weight + 1

        def worth(c: Choice) -> int:
            total = 0
            for e in effects(c):
                if id(e) not in short:
                    short[id(e)] = _whole(shortfall(e, self.units), scale)
                total += short[id(e)]
            return benefit(c) - total * above

        front = self.affordable(frontier(self.options(groups, worth), self.tariff))
        least = _shortfall_of(front[-1].worth, above)
        return next(p for p in front if _shortfall_of(p.worth, above) == least), False, over

    def fill(self, budget: int | None) -> Point:
        """Uncapped physical measures in the job's order, each as high as the budget allows once those before it are as
        high as they go; then least cost."""
        groups = self.settled(self.full_groups)
        for kind in self.terms.fill_order:
            i = next((i for i, g in enumerate(groups) if any(kind in c.physical for c in g)), None)
            if i is None:
                continue
            values = sorted({c.physical[kind] for c in groups[i]})
            low, high = 0, len(values) - 1
            while low < high:  # the highest value some build within the budget still reaches
                middle = (low + high + 1) // 2
                if budget is None or self._least_cost(_raised(groups, i, kind, values[middle])) <= budget:
                    low = middle
                else:
                    high = middle - 1
            groups = _raised(groups, i, kind, values[low])
        found = cheapest(self.options(groups, lambda c: 0), self.tariff)
        assert found is not None, "doing nothing is always within a budget"
        return found

    def _least_cost(self, groups: Sequence[Sequence[Choice]]) -> int:
        least: dict[int, int] = {0: 0}
        for g in groups:
            own: dict[int, int] = {}
            for c in g:
                if c.opens not in own or c.effort < own[c.opens]:
                    own[c.opens] = c.effort
            both: dict[int, int] = {}
            for a, x in least.items():
                for b, y in own.items():
                    if a | b not in both or x + y < both[a | b]:
                        both[a | b] = x + y
            least = both
        return min(cost_of(effort + self.tariff(opens)) for opens, effort in least.items())

    def reach(self, grown: bool = False) -> dict[str, tuple[float, float]]:
        """How far each need is met at the best: by a choice that rests on nothing, and by any that is on offer."""
        best: dict[str, Fraction] = {}
        hoped: dict[str, Fraction] = {}
        for g in self.groups:
            for c in g.choices:
                for e in c.grown if grown else c.effects:
                    for n, met in zip(e.needs, e.enough, strict=True):
                        hoped[n.id] = max(hoped.get(n.id, met), met)
                        if not c.waits:
                            best[n.id] = max(best.get(n.id, met), met)
        return {n: (float(best.get(n, 0)), float(met)) for n, met in hoped.items()}


def _whole(value: Fraction, scale: int) -> int:
    return value.numerator * (scale // value.denominator)


def _shortfall_of(worth: int, above: int) -> int:
    """The shortfall in a worth that holds benefit − shortfall × above, |benefit| at most above / 2."""
    return -((worth + above // 2) // above)


def _raised(groups: Sequence[Sequence[Choice]], i: int, kind: NeedKind, value: Measure) -> list[list[Choice]]:
    kept = [c for c in groups[i] if c.physical[kind] >= value]
    return [*map(list, groups[:i]), kept, *map(list, groups[i + 1 :])]


def _with_faults(c: Choice, faults: Sequence[Need]) -> Choice:
    replaced = {slot for slot, part in c.changes if part}
    effects = tuple(fault(n, n.slot in replaced) for n in faults)
    return replace(c, effects=c.effects + effects)


def _unweighed(request: PlanRequest) -> PlanRequest:
    needs = tuple(n.model_copy(update={"weight": float(n.weight_units > 0)}) for n in request.needs)
    return request.model_copy(update={"needs": needs})
