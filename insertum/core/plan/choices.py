"""What choices are made from and of: the stage, a step done to some slots, a choice with what it comes to."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from copy import copy
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property, partial
from typing import Any, NamedTuple

from ..access.way import access_seconds_of, closure, exchange_seconds, task_closure
from ..errors import Code, InputError
from ..fit.build import Build
from ..machine.shape import Slot
from .candidates import Candidate, Judges, Market, undominated
from .copying import Copied, copied
from .effect import Effect, effect
from .frontier import Order, Pick, Tariff, effort_of, order_of_picks
from .measure import Measure, Raw, Today, measure
from .need import CEILING_MET, Need, NeedKind
from .request import Another, TaskOffer, Terms, Use

Change = tuple[str, Candidate | None]


@dataclass(frozen=True, eq=False)
class Choice:
    """One thing that can be done with a family of slots. ``boot`` is where the system starts from, None where the
    family has no say in it. ``effects`` are for the needs as stated; ``physical`` is what *fill it* goes by; ``hopes`` is
    what of its measures was taken to turn out well, in a plan that waits."""

    changes: tuple[Change, ...]
    boot: str | None
    opens: int
    effort: int
    picks: tuple[Pick, ...]
    late: int
    effects: tuple[Effect, ...]
    waits: frozenset[str]
    physical: Mapping[NeedKind, Measure]
    task: str = ""
    hopes: frozenset[str] = frozenset()

    @cached_property
    def order(self) -> Order:
        """Its place in a tie."""
        return order_of_picks(self.picks, self.late)

    @cached_property
    def grown(self) -> tuple[Effect, ...]:
        """Its effects for the needs as they grow."""
        return tuple([e.grown for e in self.effects])

    @property
    def asks(self) -> frozenset[str]:
        """Questions about what is measured, beside those the verdicts rest on."""
        return frozenset(q for e in self.effects for q in e.asks)


#: Ways looked at before a request is given up as too open, a figure that is measured over what is unknown counting for
#: :data:`_MEASURED` ways: about ten seconds of a small machine.
MOST_WAYS = 500_000
_MEASURED = 500


class TooOpen(InputError):
    """So much of the machine is open that not all that waits could be gone through."""

    def __init__(self) -> None:
        super().__init__(
            "too much of this machine is open to go through all that waits", "plan", "Do what Survey asks first.",
            code=Code.NOT_YET,
        )  # fmt: skip


class Stage:
    """Everything choices are made from: the machine today, the market, the needs, the terms."""

    def __init__(
        self, build: Build, counted: Build, market: Market, needs: Sequence[Need], use: Use, terms: Terms,
        tasks: tuple[TaskOffer, ...] = (), another: Another | None = None,
        loose: frozenset[str] = frozenset(), unmeasured: Sequence[Need] = (), certain: bool = False,
    ) -> None:  # fmt: skip
        #: Are only choices made that rest on no question?
        self.certain = certain
        self.ways = 0
        #: ``counted`` is today's build without what is dead: that counts for nothing.
        self.build, self.counted, self.market, self.use, self.terms = build, counted, market, use, terms
        #: Parts whose price is open: nothing is left out for them, nor they for anything.
        self.loose = loose
        self.needs, self.tasks, self.another = tuple(needs), tasks, another
        #: A need without its figure keeps its weight: nothing is known to gain any of it.
        self.unmeasured = tuple(unmeasured)
        self.weight = sum(n.weight_units for n in (*needs, *unmeasured))
        self.grown_needs = tuple(n.grown(use.growth_percent, use.years) for n in needs)
        self.rank = {s.id: i for i, s in enumerate(build.machine.slots)}
        self.obstacles = {o.id: 1 << i for i, o in enumerate(build.machine.machine.obstacles, 1)}
        self._opens: dict[str, int] = {}
        self._exchange: dict[str, int] = {}
        self._judges: dict[tuple[str, ...], Judges] = {}
        self._effects: dict[Any, tuple[tuple[Effect, ...], Raw]] = {}
        self.today = Today(counted, use)

    def weighing(self, needs: Sequence[Need], unmeasured: Sequence[Need]) -> "Stage":
        """The same stage with other weights of the same needs; what was made on it stays and is shared."""
        other = copy(self)
        other.needs, other.unmeasured = tuple(needs), tuple(unmeasured)
        other.weight = sum(n.weight_units for n in (*needs, *unmeasured))
        other.grown_needs = tuple(n.grown(self.use.growth_percent, self.use.years) for n in needs)
        return other

    def judges(self, slots: Sequence[Slot]) -> Judges:
        """The judges of slots that are decided together: each part is put before them once."""
        ids = tuple(s.id for s in slots)
        if ids not in self._judges:
            self._judges[ids] = Judges(self.build, slots, self.market, self.certain)
        return self._judges[ids]

    # -- cost ---------------------------------------------------------------------------------
    @cached_property
    def tariff(self) -> Tariff:
        rate, machine = self.terms.rate_minor_per_hour, self.build.machine
        names = list(self.obstacles)

        def access(opens: int) -> int:
            opened = [names[i] for i in range(len(names)) if opens >> (i + 1) & 1]
            return effort_of(0, access_seconds_of(machine, opened) if opens & 1 else 0, rate)

        return Tariff(access)

    def opens(self, slot: str) -> int:
        """What a slot opens, as bits; the first says that the machine is opened at all."""
        if slot not in self._opens:
            self._opens[slot] = self.bits(closure(self.build.machine, [slot]))
        return self._opens[slot]

    def bits(self, obstacles: Iterable[str]) -> int:
        return 1 | sum(self.obstacles[o] for o in obstacles)

    def opens_for(self, task: TaskOffer) -> int:
        return 0 if task.outside else self.bits(task_closure(self.build.machine, task.reached_by))

    def credit(self, slot: str, candidate: Candidate | None) -> int:
        """Credit for what comes out; none while its successor is only taken as usual, or while nobody looked."""
        if self.build.now(slot) is None or (candidate and candidate.unproven):
            return 0
        return self.terms.credits.get(slot, 0)

    def effort(self, slot: str, candidate: Candidate | None) -> int:
        minor = (candidate.money if candidate else 0) - self.credit(slot, candidate)
        seconds = self._exchange.get(slot)
        if seconds is None:
            seconds = self._exchange[slot] = exchange_seconds(self.build.machine, slot)
        return effort_of(minor, seconds, self.terms.rate_minor_per_hour)

    def pick(self, slot: str, candidate: Candidate | None) -> Pick:
        return self.rank[slot], candidate.name if candidate else "", candidate

    def undominated(
        self, candidates: Iterable[Candidate], key: Callable[[Candidate], Any],
        merits: Callable[[Candidate], tuple[float, ...]], places: int = 1,
    ) -> list[Candidate]:  # fmt: skip
        return undominated(candidates, key, merits, places, self.loose)

    # -- worth --------------------------------------------------------------------------------
    def applied(self, changes: Iterable[Change], boot: str | None = None) -> Build:
        build = self.build
        for slot, c in changes:
            build = build.with_part(slot, c.part if c else None, c.accessories if c else ())
        return build if boot is None else replace(build, boot_slot=boot)

    def counting(self, changes: Iterable[Change], boot: str | None = None) -> Build:
        """The same build, with what is dead left out of the count."""
        changed = {slot: c.part if c else None for slot, c in changes}
        build = replace(self.counted, changes={**self.counted.changes, **changed})
        return build if boot is None else replace(build, boot_slot=boot)

    def mended(self, changes: Iterable[Change]) -> tuple[str, ...]:
        """The slots of stated faults that are mended by what goes in: two ways are alike only where these are the same,
        however equal their figures."""
        return tuple(sorted([slot for slot, c in changes if c and slot in self.faulty])) if self.faulty else ()

    @cached_property
    def faulty(self) -> frozenset[str]:
        return frozenset(n.slot for n in self.needs if n.kind is NeedKind.FAULT)

    @cached_property
    def copied(self) -> Copied | None:
        """What a new system drive has to hold; None where nothing is copied."""
        return copied(self.build, self.counted, self.use, self.terms)

    def look(self, ways: int) -> None:
        """Count ways that are looked at. Raises :class:`TooOpen` beyond :data:`MOST_WAYS`."""
        self.ways += ways
        if self.ways > MOST_WAYS:
            raise TooOpen

    def stated(self, kinds: Sequence[NeedKind]) -> bool:
        return any(n.kind in kinds for n in self.needs)

    def effects(self, kinds: Sequence[NeedKind], key: Any, build: Any) -> tuple[tuple[Effect, ...], Raw]:
        """The effects of what a build measures, once for each key. ``build`` makes it: a build, or what it measures."""
        whole = (kinds[0], key)
        if whole not in self._effects:
            made = build()
            raw = made if isinstance(made, Raw) else measure(kinds, self.today, made)
            if not isinstance(made, Raw) and len(raw.cases) > 1:
                self.look(_MEASURED)
            self._effects[whole] = self.weighed(kinds, raw), raw
        return self._effects[whole]

    def before(self, kinds: Sequence[NeedKind]) -> Mapping[NeedKind, Measure] | None:
        """What today measures, where nothing unknown bears on it."""
        return self.today.certain(kinds)

    def weighed(self, kinds: Sequence[NeedKind], raw: Raw) -> tuple[Effect, ...]:
        own = [n for n in self.needs if n.kind in kinds]
        if not own:
            return ()
        more = [n for n in self.grown_needs if n.kind in kinds]
        return (effect(raw, own, self.use, later=partial(effect, raw, more, self.use, True)),)


def fault(need: Need, mended: bool) -> Effect:
    """What mending a fault comes to, or leaving it as it is."""
    met = CEILING_MET if mended else Fraction(0)
    raw = Raw((({need.kind: 0}, {need.kind: int(mended)}),))
    return Effect((need,), raw, 1, ((int(mended),),), (False,), (met,), frozenset())


class Step(NamedTuple):
    """Something done to one slot: ``gb`` is the change of what is known to be stored, ``unseen`` the slots whose
    unknown content comes out."""

    opens: int
    effort: int
    gb: int
    changes: tuple[Change, ...]
    waits: frozenset[str]
    unseen: frozenset[str]


def in_stock(changes: Sequence[Change]) -> bool:
    """Is every part there as often as it is used?"""
    limited = [c for _, c in changes if c and c.stock is not None]
    if not limited:
        return True
    counts: dict[tuple[str, bool], int] = {}
    for c in limited:
        counts[(c.part.number, c.shelf)] = counts.get((c.part.number, c.shelf), 0) + 1
    return all(counts[(c.part.number, c.shelf)] <= (c.stock or 0) for c in limited)


def choice(
    stage: Stage, changes: tuple[Change, ...], own: tuple[Effect, ...], waits: frozenset[str],
    physical: Mapping[NeedKind, Measure], boot: str | None = None, late: int = 0, spent: tuple[int, int] | None = None,
) -> Choice:  # fmt: skip
    """A choice with what it costs, and the faults it mends or leaves. ``spent`` is what it opens and costs, where a step
    has summed that already."""
    if spent is None:
        opens = effort = 0
        for slot, c in changes:
            opens |= stage.opens(slot)
            effort += stage.effort(slot, c)
    else:
        opens, effort = spent
    return Choice(
        changes, boot, opens, effort, tuple([stage.pick(s, c) for s, c in changes]), late, own, waits, physical
    )
