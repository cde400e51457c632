"""What waits: plans by the acts that would open them (rules.md section 7).

For every set of acts, and every number of parts somebody asks about, the best plan is made as if what these acts answer
turned out well. Of the plans that gain by it those are kept that no other beats in minutes and in what is gained. What the
customer takes as usual is looked at after that, and takes none of the others away.

No set is passed over unlooked: a set whose choices, each by itself at its best and the way in left out, are worth no more
than what is certain (the bound U of the rules) holds no plan that gains.
"""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import combinations
from typing import Any

from ..machine.part import Fittable
from ..survey.acts import ActId, open_acts
from .candidates import AS_USUAL, tells_of
from .choices import Choice
from .frontier import UNIT, Option, Order, Point, combine, prune
from .planner import Planner

#: Minutes of settling a plan's questions by a set of acts.
MinutesOf = Callable[[frozenset[str], Point, frozenset[ActId]], int]
#: The last word on a set's plan, best first: its score, then what is cheaper, then the ties.
_Rank = tuple[int, int, Order]


@dataclass(frozen=True)
class Waits:
    """A plan that waits: its questions, the acts that answer them, their minutes, and what it gains over what is certain,
    in exact worth with its money counted at the job's threshold."""

    questions: frozenset[str]
    acts: frozenset[ActId]
    minutes: int
    gain: Fraction
    point: Point


def waiting(planner: Planner, minutes_of: MinutesOf) -> list[Waits]:
    """The exact Pareto set over (minutes, gain), fewest minutes first; what is taken as usual comes last."""
    search = _Search(planner)
    certain = search.best(frozenset(), usual=False)[0][0]
    looked = _kept(_gaining(search, certain, minutes_of, usual=False), ())
    return [*looked, *_kept(_gaining(search, certain, minutes_of, usual=True), looked)]


def _gaining(search: "_Search", certain: int, minutes_of: MinutesOf, usual: bool) -> Iterator[Waits]:
    if usual and not search.usual:
        return
    for acts in search.sets():
        if search.at_most(acts, usual) <= certain:
            continue  # whatever turns out, no plan gains by it
        for score, point in search.best(acts, usual):
            questions = rests_on(point)
            if score > certain and questions and (AS_USUAL in questions) == usual:
                minutes = minutes_of(questions, point, acts)
                yield Waits(questions, acts, minutes, Fraction(score - certain, search.unit), point)


def _kept(found: Iterable[Waits], others: Sequence[Waits]) -> list[Waits]:
    """Those that no other beats, nor one of ``others``."""
    ordered = sorted(found, key=lambda w: (w.minutes, -w.gain, len(w.acts), len(w.questions), w.point.cost, w.point.option.order))  # fmt: skip
    kept: list[Waits] = []
    for w in ordered:
        beaten = any(o.minutes <= w.minutes and o.gain >= w.gain for o in others)
        if not beaten and (not kept or w.gain > kept[-1].gain):
            kept.append(w)
    return kept


def rests_on(point: Point) -> frozenset[str]:
    """The questions a plan rests on: what its verdicts wait for, and what was taken to turn out well."""
    choices: Sequence[Choice] = point.option.meaning
    return frozenset(q for c in choices for q in c.waits | c.hopes)


def parts_asked(choices: Iterable[Choice], q: str) -> dict[str, Fittable]:
    """Parts a question is about, by number, where it is asked of the seller."""
    if not q.startswith("part."):
        return {}
    return {
        c.part.number: c.part
        for choice in choices
        for _, c in choice.changes
        if c and q in c.waits | choice.asks and tells_of(c.part, q.partition(".")[2])
    }


class _Search:
    """The choices of a planner by what they ask, and the best plan of a set of acts."""

    def __init__(self, planner: Planner) -> None:
        self.planner = planner
        self.groups = [useful(planner, g.choices) for g in planner.groups]
        self.questions = [frozenset(q for c in g for q in c.waits | c.asks) for g in self.groups]
        every = sorted(frozenset().union(*self.questions))
        closed = planner.request.closed_acts
        self.usual = AS_USUAL in every
        #: What of the machine and the job each act answers.
        self.answers: dict[ActId, set[str]] = {}
        for q in every:
            for act in () if q == AS_USUAL or q.startswith("part.") else open_acts(planner.build, q):
                if act not in closed:
                    self.answers.setdefault(act, set()).add(q)
        self.sellers = frozenset(q for q in every if q.startswith("part.")) if "seller" not in closed else frozenset()
        #: The score of a plan: worth × ``unit`` − cost × ``price``, whole numbers.
        price = Fraction(str(planner.terms.threshold)) * planner.weight * planner.scale / 10_000
        self.unit, self.price = price.denominator, price.numerator
        self._first_bit = 1 + len(planner.stage.obstacles)
        self._measured = frozenset(q for g in self.groups for c in g for q in c.asks)
        self._benefits: dict[frozenset[str], Callable[[Choice], int]] = {}
        self._options: dict[Any, tuple[list[Option], Fraction]] = {}
        self._best: dict[Any, list[tuple[int, Point]]] = {}

    def sets(self) -> Iterator[frozenset[ActId]]:
        """Every set of acts, smallest first; none at all is one where a seller or the customer's word may be asked."""
        for n in range(len(self.answers) + 1):
            yield from map(frozenset, combinations(self.answers, n))

    def answered(self, acts: frozenset[ActId], usual: bool) -> frozenset[str]:
        found = frozenset(q for a in acts for q in self.answers[a])
        return found | {AS_USUAL} if usual else found

    def at_most(self, acts: frozenset[ActId], usual: bool) -> Fraction:
        """No plan of these acts, whatever is asked of sellers, scores more: every group at its best, the way in and half a
        unit of rounding left out, and money that is earned counted as well."""
        answered = self.answered(acts, usual)
        return sum((self._group(i, answered)[1] for i in range(len(self.groups))), Fraction(self.price, 2))

    def best(self, acts: frozenset[ActId], usual: bool) -> list[tuple[int, Point]]:
        """(score, plan) of the best plan for each number of parts asked about, as far as more gain more."""
        answered = self.answered(acts, usual)
        key = tuple(answered & qs for qs in self.questions)
        if key not in self._best:
            self._best[key] = self._looked_for(answered)
        return self._best[key]

    def _looked_for(self, answered: frozenset[str]) -> list[tuple[int, Point]]:
        budget, tariff = self.planner.terms.budget_minor, self.planner.tariff
        places = (1 << self._first_bit) - 1
        by_count: dict[int, tuple[_Rank, Point]] = {}
        for o in combine([self._group(i, answered)[0] for i in range(len(self.groups))]):
            own = replace(o, opens=o.opens & places)
            cost = tariff.cost(own)
            if budget is not None and cost > budget:
                continue
            asked = (o.opens >> self._first_bit).bit_count()
            score = o.worth * self.unit - self.price * max(cost, 0)
            rank = (-score, cost, own.order)
            if asked not in by_count or rank < by_count[asked][0]:
                by_count[asked] = rank, Point(cost, o.worth, own)
        found: list[tuple[int, Point]] = []
        for asked in sorted(by_count):
            rank, point = by_count[asked]
            if not found or -rank[0] > found[-1][0]:
                found.append((-rank[0], point))
        return found

    def _group(self, i: int, answered: frozenset[str]) -> tuple[list[Option], Fraction]:
        """A group's options where these are answered, and the most one of them scores by itself. Each part asked about is
        a bit of its own beside what is opened: asking more is then like opening more."""
        key = i, answered & self.questions[i]
        if key not in self._options:
            first = self._first_bit + i * _SLOTS
            options = prune([o for c in self.groups[i] for o in self._ways(c, answered, first)])
            most = max(
                (o.worth * self.unit - Fraction(self.price * o.effort, UNIT) for o in options), default=Fraction(0)
            )
            self._options[key] = options, most
        return self._options[key]

    def _ways(self, c: Choice, answered: frozenset[str], first: int) -> Iterator[Option]:
        """A choice as these answers allow it: with nothing asked of a seller that its verdict does not wait for, and with
        what measuring it waits for asked too."""
        asked = c.waits & self.sellers
        if not c.waits <= answered | asked:
            return
        more = c.asks & self.sellers - asked
        for hoping in (answered | asked, answered | asked | more)[: 2 if more else 1]:
            if not self.planner.keeps(c, hoping):
                continue
            hopes = frozenset(
                q
                for e in c.effects
                if e.asks and e.asks <= hoping and self.planner.weighed(e).hoped != e.gains
                for q in e.asks
            )
            parts = {n for q in (c.waits | hopes) & self.sellers for n in parts_asked([c], q)}
            bits = ((1 << len(parts)) - 1) << first
            meant = replace(c, hopes=hopes) if hopes else c
            worth = self._worth(hoping, c)
            yield Option(c.opens | bits, c.effort, worth, c.picks, c.late, (meant,))

    def _worth(self, hoping: frozenset[str], c: Choice) -> int:
        key = hoping & self._measured
        if key not in self._benefits:
            self._benefits[key] = self.planner.benefit(hoping=key)
        return self._benefits[key](c)


#: No group has more slots than this, so no choice asks about more parts.
_SLOTS = 16


def useful(planner: Planner, choices: Iterable[Choice]) -> list[Choice]:
    """Choices that no other one makes useless whatever turns out: one that opens no more, rests on no more, costs no
    more, asks of as many parts, is worth no less with any of what it is measured by turning out well, keeps what is to be
    kept in the same cases, and loses no tie."""
    benefits: dict[frozenset[str], Callable[[Choice], int]] = {}
    by_kind: dict[object, list[tuple[Choice, tuple[int, ...]]]] = {}
    for c in choices:
        asks = tuple(e.asks for e in c.effects if e.asks)
        sets = sorted(set(asks), key=sorted)
        cases = [frozenset().union(*some) for n in range(len(sets) + 1) for some in combinations(sets, n)]
        keeps = tuple(planner.keeps(c, some) for some in cases)
        if not any(keeps):
            continue
        for some in cases:
            if some not in benefits:
                benefits[some] = planner.benefit(hoping=some)
        sellers = tuple(len({n for q in c.waits | some for n in parts_asked([c], q)}) for some in cases)
        by_kind.setdefault((asks, keeps, sellers), []).append((c, tuple(benefits[some](c) for some in cases)))
    kept: list[Choice] = []
    for alike in by_kind.values():
        alike.sort(key=lambda e: (e[0].effort, len(e[0].waits)))
        front: list[tuple[Choice, tuple[int, ...]]] = []
        for c, worths in alike:
            if not any(
                k.waits <= c.waits
                and k.opens | c.opens == c.opens
                and all(a >= b for a, b in zip(its, worths, strict=True))
                and (k.effort + UNIT <= c.effort or (k.effort <= c.effort and k.order <= c.order))
                for k, its in front
            ):
                front.append((c, worths))
        kept += [c for c, _ in front]
    return kept
