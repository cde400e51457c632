"""Every way to fill the memory sockets that nothing makes useless (rules.md section 7)."""

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from itertools import product
from typing import Any

from ..fit.engine import Asker
from ..fit.judge import verdict_of
from ..fit.leaf import USABLE
from ..fit.memory import spread
from ..fit.possibilities import possible
from ..fit.questions import place_of
from ..fit.rulebook import rules_for
from ..machine.memory_system import MemorySlot
from ..machine.part import Fittable, MemoryModule
from ..standards import ddr
from ..verdict import Verdict
from .candidates import Candidate, rated
from .choices import Change, Choice, Stage, Step, choice, in_stock
from .effect import Effect
from .measure import MEMORY, Measure, Raw
from .need import NeedKind
from .thinning import fewest

#: No module is faster: nothing slows the memory yet.
_FAST = 10**6
_NONE: frozenset[str] = frozenset()
#: What is opened, parts of which there are few and faults that are mended, whether anything is bought, the slowest grade where profiles may not be
#: applied, and what lies where.
_START: tuple[int, tuple[Any, ...], bool, int, tuple[int, ...]] = (0, (), False, _FAST, ())


class Memory:
    """Every way to fill the sockets."""

    def __init__(self, stage: Stage, slots: Sequence[MemorySlot]) -> None:
        self.stage, self.slots = stage, tuple(slots)
        self.judges = stage.judges(slots)
        self._totals: dict[Any, frozenset[str] | None] = {}
        self._known: dict[Any, tuple[int, int]] = {}
        self._throughputs: dict[Any, int] = {}
        known = stage.build.known
        #: A profile counts where the machine is known to apply it.
        self.profiles = known.value("memory", "applies_profiles") is True
        #: Beyond the fastest rate of any population a faster grade does nothing.
        self.fastest = max((rate for rates in self.caps[1:] for rate in rates), default=0)

    def rate(self, c: Candidate) -> int:
        assert isinstance(c.part, MemoryModule)
        return min(rated(c.part, self.profiles), self.fastest)

    def _ranked(self, module: Any) -> int:
        """Ranks, more as less, where a speed that was read counts for modules of as many only; the same for all else."""
        if not self.stage.build.known.read_mts:
            return _FAST
        return -(module.ranks or 99)

    @cached_property
    def offered(self) -> dict[str, list[Candidate]]:
        """Candidates by socket that the school of grades allows."""
        found = {s.id: self.judges.candidates(s) for s in self.slots}
        school = self.stage.market.schools.grade
        if school == "running":
            grades = {c.part.grade_mts for cs in found.values() for c in cs if isinstance(c.part, MemoryModule)}
            enough = min(
                (g for g in grades if ddr.exact_mts(g) >= ddr.exact_mts(self.fastest)), default=None, key=ddr.exact_mts
            )
            if enough is not None:
                found = {s: [c for c in cs if c.part.grade_mts <= enough] for s, cs in found.items()}  # type: ignore[union-attr]
        elif school == "newest":
            found = {s: [c for c in cs if _newest(c.part)] for s, cs in found.items()}
        return found

    def choices(self) -> Iterator[Choice]:
        """Of the ways to fill the sockets those that nothing makes useless: of ways that open the same and measure the
        same, the cheapest, those that rest on fewer questions, and what is so near that names decide."""
        school = self.stage.market.schools.memory
        paired = school == "pair" and len(self.slots) > 1
        loose = self.stage.loose
        ends: dict[Any, list[Step]] = {}
        for held, steps in (self._paired() if paired else self._filled()).items():
            more: frozenset[str] | None = None
            for n, step in enumerate(steps):
                if n == 0 or more or not self._sized:  # of ways that hold the same the total is the same
                    more = self._total(held, step.changes)
                if more is not None and not (more and self.stage.certain):
                    open_priced = tuple([c.name for _, c in step.changes if c and c.name in loose]) if loose else ()
                    mended = self.stage.mended(step.changes)
                    end = (step.opens, open_priced, mended, self._what(held, step))
                    ends.setdefault(end, []).append(step._replace(waits=step.waits | more) if more else step)
        for (*_, what), alike in ends.items():
            own, raw = self._effects(what, alike[0])
            physical = {NeedKind.MEMORY_CAPACITY: raw.physical[0]}
            for step in fewest(alike, self.stage, lambda _: 0):
                yield choice(self.stage, step.changes, own, step.waits, physical, spent=(step.opens, step.effort))

    def _what(self, held: Any, step: Step) -> Any:
        """All that is measured of a way to fill the sockets: its figures where they are certain, else what it holds."""
        rate = min(step.gb, self.fastest)
        if self.before is None:
            return held[-2:], rate
        key = held[-1], rate
        if key not in self._known:
            self._known[key] = self._figures(*key)
        return self._known[key]

    def _effects(self, what: Any, step: Step) -> tuple[tuple[Effect, ...], Raw]:
        stage, before = self.stage, self.before
        if before is None:
            return stage.effects(MEMORY, what, lambda: stage.counting(step.changes))
        after = dict(zip(MEMORY, what, strict=True))
        return stage.effects(MEMORY, what, lambda: Raw(((before, after),), physical=what))

    @cached_property
    def before(self) -> Mapping[NeedKind, Measure] | None:
        """What today measures, where that and what every way measures is certain."""
        if not self.slots or not self._certain or any(len(c) != 1 for c in self.caps):
            return None
        return self.stage.before(MEMORY)

    @cached_property
    def caps(self) -> list[list[int]]:
        """The rates the machine may run so many modules at; beside what is told, what it was read to run at, which counts for
        its own population alone."""
        read = self.stage.build.known.read_mts
        found = []
        for n in range(len(self.slots) + 1):
            rates = possible(self.stage.counted, lambda view, n=n: view.memory.speed(n).most)  # type: ignore[misc]
            found.append(list(dict.fromkeys([*rates, *(max(r, read) for r in rates)])))
        return found

    def _figures(self, sizes: tuple[int, ...], rate: int) -> tuple[int, int]:
        """Capacity in GB and throughput in MB/s of what lies on each channel and how many modules there are, of which
        the slowest brings this rate."""
        totals, slowest = self.soldered
        totals = dict(totals)
        for channel, i in self.places.items():
            totals[channel] = totals.get(channel, 0) + sizes[i]
        mts = min(rate, self.caps[sizes[-1]][0], slowest)
        key = (*sorted(totals.values(), reverse=True)[:2], mts)
        if key not in self._throughputs:
            self._throughputs[key] = ddr.throughput_mb_s(spread(totals.values()), mts)
        return sum(key[:-1]), self._throughputs[key]

    @cached_property
    def soldered(self) -> tuple[dict[Any, int], int]:
        """What lies on each channel by itself, and the slowest it is rated."""
        totals: dict[Any, int] = {}
        soldered = self.stage.build.machine.memory.soldered
        for s in soldered:
            totals[s.channel] = totals.get(s.channel, 0) + s.capacity_gb
        return totals, min((s.rated_mts for s in soldered if s.rated_mts is not None), default=_FAST)

    def _filled(self) -> dict[Any, list[Step]]:
        """Ways to fill the sockets, one socket after the other."""
        ways: dict[Any, list[Step]] = {_START: [Step(0, 0, _FAST, (), _NONE, _NONE)]}
        for i, s in enumerate(self.slots):
            options = [(self._option(i, change), change) for change in self._changes(s)]
            grown: dict[Any, list[Step]] = {}
            self.stage.look(len(options) * sum(map(len, ways.values())))
            for held, steps in ways.items():
                for option, change in options:
                    self._add(grown, held, steps, option, change)
            ways = {held: fewest(steps, self.stage) for held, steps in grown.items()}
        return ways

    def _changes(self, s: MemorySlot) -> Iterator[Change | None]:
        build, school = self.stage.build, self.stage.market.schools.memory
        looked = build.looked_into(s.id)
        empty = looked and build.now(s.id) is None
        yield None
        if school != "add" or empty:
            for c in self._useful(s.id):
                yield s.id, c
        if school != "add" and looked and not empty and self.stage.terms.empties(s.id):
            yield s.id, None

    def _option(self, i: int, change: Change | None) -> tuple[int, int, int, int, int, int, int]:
        """(opens, effort, slowest rate it brings, its ranks where they count, socket, GB it holds then or −1 where what is
        there stays unknown or counts by itself, 1 for a module)."""
        slot = self.slots[i].id
        if change is not None:
            c = change[1]
            rates = (self.rate(c), self._ranked(c.part)) if c else (_FAST, _FAST)
            return self.stage.opens(slot), self.stage.effort(*change), *rates, i, c.gb if c else 0, int(c is not None)
        module = self.stage.counted.now(slot)
        if not self._certain:
            return 0, 0, _FAST, _FAST, i, -1, int(isinstance(module, MemoryModule))
        if not isinstance(module, MemoryModule):
            return 0, 0, _FAST, _FAST, i, 0, 0
        rate = min(rated(module, self.profiles), self.fastest)
        return 0, 0, rate, self._ranked(module), i, module.capacity_gb, 1

    def _add(
        self, into: dict[Any, list[Step]], held: Any, steps: list[Step], option: Any, change: Change | None
    ) -> None:
        """One more socket filled. Ways are alike where they open the same and hold the same: by channel where everything
        is known of it, socket by socket where it is not."""
        opens, few, bought, slowest, sizes = held
        more, effort, rate, least, i, gb, module = option
        c = change[1] if change else None
        if c is not None:
            bought = True
            if c.stock is not None or c.name in self.stage.loose:
                few = (*few, (c.name, c.shelf))
            if self.slots[i].id in self.stage.faulty:
                few = (*few, self.slots[i].id)
        if self._certain:
            totals = list(sizes) or [0] * (len(self.places) + 1)
            totals[self.places[self.channels[self.slots[i].id]]] += gb
            totals[-1] += module
            sizes = tuple(totals)
        else:
            sizes = (*sizes, gb)
        opens |= more
        asks = c.waits if c else _NONE
        alike = into.setdefault((opens, few, bought, min(slowest, least), sizes), [])
        for step in steps:
            changes = step.changes if change is None else (*step.changes, change)
            if c is None or c.stock is None or in_stock(changes):
                slower = rate if rate < step.gb else step.gb
                waits = step.waits | asks if asks else step.waits
                alike.append(Step(opens, step.effort + effort, slower, changes, waits, _NONE))

    def _paired(self) -> dict[Any, list[Step]]:
        found: dict[Any, list[Step]] = {}
        for changes in ((), *self._pairs()):
            held, step = _START, Step(0, 0, _FAST, (), _NONE, _NONE)
            by_slot = dict(changes)
            for i, s in enumerate(self.slots):
                change = (s.id, by_slot[s.id]) if s.id in by_slot else None
                into: dict[Any, list[Step]] = {}
                self._add(into, held, [step], self._option(i, change), change)
                ((held, made),) = into.items()
                if not made:
                    break
                (step,) = made
            else:
                found.setdefault(held, []).append(step)
        return {held: fewest(steps, self.stage) for held, steps in found.items()}

    @cached_property
    def _certain(self) -> bool:
        """Is everything known that memory is measured by? Then only what lies on each channel, how many modules there
        are, and the slowest of them matter."""
        build, known = self.stage.build, self.stage.build.known
        return (
            all(build.looked_into(s.id) and known.value(s.id, "channel") is not None for s in self.slots)
            and all(s.rated_mts is not None and s.channel is not None for s in build.machine.memory.soldered)
            and all(len(known.caps("memory", f"speed_by_modules.{n}")) == 1 for n in range(1, len(self.slots) + 1))
        )

    @cached_property
    def _sized(self) -> bool:
        """Does what lies on each channel add up to all there is? What is dead counts for nothing and is there."""
        return self._certain and self.stage.counted is self.stage.build

    @cached_property
    def places(self) -> dict[Any, int]:
        """Each channel's place among those of the sockets."""
        return {channel: i for i, channel in enumerate(dict.fromkeys(self.channels.values()))}

    @cached_property
    def channels(self) -> dict[str, Any]:
        """The channel each socket is on."""
        return {s.id: self.stage.build.known.value(s.id, "channel") for s in self.slots}

    def _merits(self, c: Candidate) -> tuple[float, ...]:
        return self.rate(c), self._ranked(c.part)

    def _useful(self, slot: str) -> list[Candidate]:
        return self.stage.undominated(self.offered[slot], lambda c: c.gb, self._merits, len(self.slots))

    def _pairs(self) -> Iterator[tuple[Change, ...]]:
        """Ways in which every module is of one number and they are even in count; what else was there comes out."""
        common: dict[str, dict[str, list[Candidate]]] = {}
        for slot, cs in self.offered.items():
            for c in cs:
                common.setdefault(c.part.number, {}).setdefault(slot, []).append(c)
        held = {s.id: self.stage.build.now(s.id) for s in self.slots}
        for number in self._worth_pairing(common, {p.number for p in held.values() if p is not None}):
            options: list[list[Change | None]] = []
            for s in self.slots:
                here = held[s.id]
                ways: list[Change | None] = [(s.id, c) for c in common[number].get(s.id, [])]
                if self.stage.build.looked_into(s.id):
                    if here is None or here.number == number:
                        ways.append(None)
                    if here is not None and self.stage.terms.empties(s.id):
                        ways.append((s.id, None))
                options.append(ways)
            for combination in product(*options):
                changes = tuple(c for c in combination if c is not None)
                there = [w[1] if w else held[s.id] for w, s in zip(combination, self.slots, strict=True)]
                count = sum(module is not None for module in there)
                if count and count % 2 == 0 and any(c for _, c in changes) and in_stock(changes):
                    yield changes

    def _worth_pairing(self, common: dict[str, dict[str, list[Candidate]]], fitted: set[str]) -> list[str]:
        """Numbers of which a pair may be worth something: those already there, those with few on a shelf, and of the
        rest what no other of its size and sockets beats."""
        some = {n: [c for cs in by_slot.values() for c in cs] for n, by_slot in common.items()}
        own = {n for n, cs in some.items() if n in fitted or any(c.stock is not None for c in cs)}
        rest = [
            cs[0] for n, cs in some.items() if n not in own and len({(c.money, c.waits, c.unproven) for c in cs}) == 1
        ]
        mixed = [n for n, cs in some.items() if n not in own and len({(c.money, c.waits, c.unproven) for c in cs}) > 1]
        kept = self.stage.undominated(rest, lambda c: (c.gb, frozenset(common[c.part.number])), self._merits)
        return [*own, *mixed, *(c.part.number for c in kept)]

    def _total(self, held: Any, changes: tuple[Change, ...]) -> frozenset[str] | None:
        """Questions the total adds, None where it is passed. All parts a build puts in are refused by it or none, and
        it only looks at sizes."""
        _, _, bought, _, sizes = held
        if not bought:
            return _NONE
        build, unseen = self.stage.build, _NONE
        if self._sized:
            total = sum(sizes[:-1])
        else:
            new = dict(changes)
            there = [new[s.id].part if new[s.id] else None for s in self.slots if s.id in new]  # type: ignore[union-attr]
            there += [build.now(s.id) for s in self.slots if s.id not in new]
            total = sum(getattr(part, "capacity_gb", 0) for part in there)
            unseen = frozenset(s.id for s in self.slots if s.id not in new and not build.looked_into(s.id))
        key = (total, unseen)
        if key not in self._totals:
            self._totals[key] = self._ask_total(changes)
        found = self._totals[key]
        if not found:
            return found
        # Not the same in every possibility: it may bear on what else is unknown of each part.
        asks: set[str] = set()
        build = self.stage.applied(changes)
        for slot_id, c in changes:
            if c is None:
                continue
            self.stage.look(_JUDGED * _SIZES ** len(unseen))  # a verdict goes through all they may hold
            judged = build.taken_as_usual(True) if c.unproven else build
            joint = verdict_of(judged, build.machine.slot(slot_id), c.part, c.accessories)
            if joint.verdict.rank > Verdict.MEASURE_FIRST.rank:
                return None
            if not joint.verdict.usable:
                asks.update(place_of(a) for a in joint.asks)
        return frozenset(asks)

    def _ask_total(self, changes: tuple[Change, ...]) -> frozenset[str] | None:
        slot_id, c = next((s, c) for s, c in changes if c)
        build = self.stage.applied(changes)
        slot = build.machine.slot(slot_id)
        rule = next(r for r in rules_for(type(slot), type(c.part), True) if r.id == "memory.total")
        leaf = Asker(build, slot, c.accessories).ask(rule, c.part)
        if leaf.worst <= USABLE:
            return frozenset()
        return (
            None
            if leaf.best > USABLE
            else frozenset(place_of(a) for a in leaf.asks) or frozenset(("memory.total_limit_gb",))
        )


#: What a verdict counts for in ways looked at, and about how many sizes an unknown socket may hold.
_JUDGED, _SIZES = 20, 8


def _newest(part: Fittable) -> bool:
    assert isinstance(part, MemoryModule)
    return ddr.same_grade(part.grade_mts, NEWEST_COMMON.get(part.generation, part.grade_mts))


#: The newest grade of each generation that is common on sale: the last of its base grades (JESD79-3F, -4D), 5600 in DDR5.
NEWEST_COMMON = {3: 1600, 4: 3200, 5: 5600}
