"""What waits: plans by the set of questions they rest on (rules.md section 7).

For every set of questions that could matter the plan of best value is made as if those questions turned out well. Of
the plans that gain by it, those are kept that no other beats in minutes of looking and in what is gained.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from .choices import Choice
from .frontier import UNIT, Order, Point
from .planner import Group, Planner

#: Beyond so many sets the smaller ones are gone through; the screen then says that there are more.
MOST_SETS = 256


#: Minutes of settling a plan's questions.
MinutesOf = Callable[[frozenset[str], Point], int]


@dataclass(frozen=True)
class Waits:
    """A plan that waits: its questions, the minutes of looking, what it gains over the plan in hand in exact worth."""

    questions: frozenset[str]
    minutes: int
    gain: int
    point: Point


def waiting(planner: Planner, chosen: Point, minutes_of: MinutesOf) -> list[Waits]:
    """The exact Pareto set over (minutes of looking, gain), fewest minutes first."""
    groups = [Group(g.slots, tuple(useful(planner, g.choices))) for g in planner.groups]
    found: list[Waits] = []
    for hoping in question_sets(groups):
        if _at_most(planner, groups, hoping) <= chosen.worth:
            continue  # whatever turns out, no plan gains by it
        front = planner.front(hoping, groups)
        best = planner.best_value(front).chosen
        questions = rests_on(planner, best, hoping)
        gain = best.worth - chosen.worth
        if questions and gain > 0:
            found.append(Waits(questions, minutes_of(questions, best), gain, best))
    found.sort(key=lambda w: (w.minutes, -w.gain, len(w.questions), w.point.cost, w.point.option.order))
    kept: list[Waits] = []
    for w in found:
        if not kept or w.gain > kept[-1].gain:
            kept.append(w)
    return kept


def _at_most(planner: Planner, groups: Iterable[Group], hoping: frozenset[str]) -> int:
    worth = planner.benefit(hoping=hoping)
    return sum(max(worth(c) for c in g.choices if c.waits <= hoping) for g in groups)


def rests_on(planner: Planner, point: Point, hoping: frozenset[str]) -> frozenset[str]:
    """The questions a plan really rests on, of those that were taken to turn out well."""
    found: set[str] = set()
    choices: Sequence[Choice] = point.option.meaning
    for c in choices:
        found |= c.waits
        for e in c.effects:
            if e.asks and e.asks <= hoping and planner.weighed(e).hoped != e.gains:
                found |= e.asks
    return frozenset(found)


def question_sets(groups: Iterable[Group]) -> list[frozenset[str]]:
    """Every union of what single choices rest on, smallest first: any other set of questions allows just the choices
    of the largest such union in it."""
    bases = {s for g in groups for c in g.choices for s in _bases(c) if s}
    sets: set[frozenset[str]] = set()
    for base in sorted(bases, key=lambda s: (len(s), sorted(s))):
        sets |= {base} | {base | s for s in sets}
        if len(sets) > MOST_SETS:
            break
    return sorted(sets, key=lambda s: (len(s), sorted(s)))[:MOST_SETS]


def _bases(c: Choice) -> set[frozenset[str]]:
    return {c.waits, *(e.asks for e in c.effects)}


def useful(planner: Planner, choices: Iterable[Choice]) -> list[Choice]:
    """Choices that no other one makes useless whatever turns out: one that opens no more, rests on no more, costs no
    more, is worth no less surely and at the best, and loses no tie."""
    worth = planner.benefit()
    every = frozenset(q for c in choices for q in c.asks)
    hoped = planner.benefit(hoping=every)
    by_kind: dict[object, list[tuple[Choice, int, int, Order]]] = {}
    for c in choices:
        asks = tuple(sorted(tuple(sorted(e.asks)) for e in c.effects if e.asks))
        keeps = (planner.keeps(c), planner.keeps(c, every))
        if not any(keeps):
            continue
        by_kind.setdefault((asks, keeps), []).append((c, worth(c), hoped(c), c.order))
    kept: list[Choice] = []
    for alike in by_kind.values():
        alike.sort(key=lambda e: (e[0].effort, len(e[0].waits)))
        front: list[tuple[Choice, int, int, Order]] = []
        for entry in alike:
            c, least, most, order = entry
            if not any(
                k.waits <= c.waits
                and k.opens | c.opens == c.opens
                and k_least >= least
                and k_most >= most
                and (k.effort + UNIT <= c.effort or (k.effort <= c.effort and k_order <= order))
                for k, k_least, k_most, k_order in front
            ):
                front.append(entry)
        kept += [c for c, *_ in front]
    return kept
