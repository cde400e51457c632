"""Every way to fill the memory sockets that nothing makes useless (rules.md section 7)."""

from collections.abc import Iterator, Sequence
from functools import cached_property
from itertools import product
from typing import Any

from ..fit.engine import USABLE, Asker, place_of
from ..fit.judge import verdict_of
from ..fit.rulebook import rules_for
from ..machine.part import Fittable, MemoryModule
from ..machine.shape import MemorySlot
from ..standards import ddr
from ..verdict import Verdict
from .candidates import Candidate, rated
from .measure import MEMORY
from .need import NeedKind
from .stage import Change, Choice, Stage, Step, choice, in_stock, same, stairs

#: No module is faster: nothing slows the memory yet.
_FAST = 10**6
_START: tuple[int, frozenset[str], tuple[Any, ...], bool, tuple[int, ...]] = (0, frozenset(), (), False, ())


class Memory:
    """Every way to fill the sockets."""

    def __init__(self, stage: Stage, slots: Sequence[MemorySlot]) -> None:
        self.stage, self.slots = stage, tuple(slots)
        self.judges = stage.judges(slots)
        self._totals: dict[Any, frozenset[str] | None] = {}
        known = stage.build.known
        self.profiles = known.value("memory", "applies_profiles") is not False
        caps = [c.most for n in range(1, len(slots) + 1) for c in known.caps("memory", f"speed_by_modules.{n}")]
        #: Beyond the fastest rate of any population a faster grade does nothing.
        self.fastest = max(caps, default=0)

    def rate(self, c: Candidate) -> int:
        assert isinstance(c.part, MemoryModule)
        return min(rated(c.part, self.profiles), self.fastest)

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
        """Of the ways to fill the sockets those that nothing makes useless: of ways that open the same, wait for the
        same and hold the same, the cheapest at every rate, and what is so near that names decide."""
        school = self.stage.market.schools.memory
        paired = school == "pair" and len(self.slots) > 1
        for held, steps in (self._paired() if paired else self._filled()).items():
            for step in steps:
                waits = self._waits(step.changes)
                if waits is None:
                    continue
                key = (held[-1], min(step.gb, self.fastest))
                own, grown, raw = self.stage.effects(MEMORY, key, lambda step=step: self.stage.counting(step.changes))
                yield choice(
                    self.stage, step.changes, own, grown, waits, {NeedKind.MEMORY_CAPACITY: raw.physical[0]},
                    spent=(step.opens, step.effort),
                )  # fmt: skip

    def _filled(self) -> dict[Any, list[Step]]:
        """Ways to fill the sockets, one socket after the other."""
        ways: dict[Any, list[Step]] = {_START: [Step(0, 0, _FAST, (), frozenset(), frozenset())]}
        for i, s in enumerate(self.slots):
            options = [(self._option(i, change), change) for change in self._changes(s)]
            grown: dict[Any, list[Step]] = {}
            for held, steps in ways.items():
                for option, change in options:
                    for step in steps:
                        self._add(grown, held, step, option, change)
            ways = {held: stairs(steps, self.stage, same) for held, steps in grown.items()}
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

    def _option(self, i: int, change: Change | None) -> tuple[int, int, int, int, int, int]:
        """(opens, effort, slowest rate it brings, socket, GB it holds then or −1 where what is there stays unknown or
        counts by itself, 1 for a module)."""
        slot = self.slots[i].id
        if change is not None:
            part = change[1].part if change[1] else None
            rate = self.rate(change[1]) if change[1] else _FAST
            gb = part.capacity_gb if isinstance(part, MemoryModule) else 0
            return self.stage.opens(slot), self.stage.effort(*change), rate, i, gb, int(part is not None)
        module = self.stage.counted.now(slot)
        if not isinstance(module, MemoryModule):
            return 0, 0, _FAST, i, 0 if self._certain else -1, 0
        rate = min(rated(module, self.profiles), self.fastest) if self._certain else _FAST
        return 0, 0, rate, i, module.capacity_gb if self._certain else -1, 1

    def _add(self, into: dict[Any, list[Step]], held: Any, step: Step, option: Any, change: Change | None) -> None:
        """One more socket filled. Ways are alike where they open the same, wait for the same, and hold the same: by
        channel where everything is known of it, socket by socket where it is not."""
        opens, waits, few, bought, sizes = held
        more, effort, rate, i, gb, module = option
        changes = step.changes
        if change is not None:
            changes = (*changes, change)
            c = change[1]
            if c is not None:
                waits, bought = waits | c.waits, True
                if c.stock is not None or c.name in self.stage.loose or c.unproven:
                    few = (*few, (c.name, c.shelf, c.unproven))
                    if not in_stock(changes):
                        return
        if self._certain:
            totals = list(sizes) or [0] * (len(self.channels) + 1)
            totals[self.channels[self.slots[i].id]] += gb
            totals[-1] += module
            sizes = tuple(totals)
        else:
            sizes = (*sizes, gb)
        made = Step(step.opens | more, step.effort + effort, min(step.gb, rate), changes, frozenset(), frozenset())
        into.setdefault((opens | more, waits, few, bought, sizes), []).append(made)

    def _paired(self) -> dict[Any, list[Step]]:
        found: dict[Any, list[Step]] = {}
        for changes in ((), *self._pairs()):
            held, step = _START, Step(0, 0, _FAST, (), frozenset(), frozenset())
            by_slot = dict(changes)
            for i, s in enumerate(self.slots):
                change = (s.id, by_slot[s.id]) if s.id in by_slot else None
                into: dict[Any, list[Step]] = {}
                self._add(into, held, step, self._option(i, change), change)
                if not into:
                    break
                held, (step,) = next(iter(into.items()))
            else:
                found.setdefault(held, []).append(step)
        return {held: stairs(steps, self.stage, same) for held, steps in found.items()}

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
    def channels(self) -> dict[str, int]:
        """Each socket's channel by its place among the machine's."""
        told = {s.id: self.stage.build.known.value(s.id, "channel") for s in self.slots}
        order = list(dict.fromkeys(told.values()))
        return {s: order.index(channel) for s, channel in told.items()}

    def _useful(self, slot: str) -> list[Candidate]:
        return self.stage.undominated(self.offered[slot], lambda c: c.gb, lambda c: (self.rate(c),), len(self.slots))

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
        kept = self.stage.undominated(
            rest, lambda c: (c.gb, frozenset(common[c.part.number])), lambda c: (self.rate(c),)
        )
        return [*own, *mixed, *(c.part.number for c in kept)]

    def _waits(self, changes: tuple[Change, ...]) -> frozenset[str] | None:
        """The questions a way rests on; None where the total is passed."""
        more = self._total(changes)
        return None if more is None else more.union(*(c.waits for _, c in changes if c))

    def _total(self, changes: tuple[Change, ...]) -> frozenset[str] | None:
        """Questions the total adds, None where it is passed. All parts a build puts in are refused by it or none, and
        it only looks at sizes."""
        held = [(s, c) for s, c in changes if c]
        if not held:
            return frozenset()
        gone = frozenset(s for s, _ in changes)
        unseen = frozenset(s.id for s in self.slots if s.id not in gone and not self.stage.build.looked_into(s.id))
        kept = [p for s in self.slots if s.id not in gone and (p := self.stage.build.now(s.id)) is not None]
        total = sum(c.gb for _, c in held) + sum(getattr(p, "capacity_gb", 0) for p in kept)
        slot_id, first = held[0]
        key = (total, unseen)
        if key not in self._totals:
            self._totals[key] = self._ask_total(changes, slot_id, first)
        found = self._totals[key]
        if found is None or not found:
            return found
        # Not the same in every possibility: it may bear on what else is unknown of each part.
        build = self.stage.applied(changes)
        asks: set[str] = set()
        for slot_id, c in held:
            joint = verdict_of(build, build.machine.slot(slot_id), c.part, c.accessories)
            if joint.verdict.rank > Verdict.MEASURE_FIRST.rank:
                return None
            asks.update(place_of(a) for a in joint.asks)
        return frozenset(asks)

    def _ask_total(self, changes: tuple[Change, ...], slot_id: str, c: Candidate) -> frozenset[str] | None:
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


def _newest(part: Fittable) -> bool:
    assert isinstance(part, MemoryModule)
    return ddr.same_grade(part.grade_mts, NEWEST_COMMON.get(part.generation, part.grade_mts))


#: The newest grade of each generation that is common on sale: the last of its base grades (JESD79-3F, -4D), 5600 in DDR5.
NEWEST_COMMON = {3: 1600, 4: 3200, 5: 5600}
