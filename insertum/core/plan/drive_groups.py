"""Drives, and what shares room or lanes with them, decided together.

Drives are decided by the sum of what they hold and by which one starts the system. Where slots share lanes or room
(exclusions), every combination of what can sit there, as the exclusion sees it, is a *context*: inside one the verdicts
of the slots no longer depend on each other.
"""

from collections.abc import Callable, Iterator, Sequence
from functools import cached_property, partial
from itertools import product
from typing import Any

from ..fit.build import Build
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import DriveSlot, RadioSlot
from ..machine.memory_system import MemorySlot
from ..machine.shape import Slot
from .choices import Change, Choice, Stage, choice, in_stock
from .contexts import Context, Surroundings, figures_of
from .drive_choices import DriveChoices
from .effect import Effect
from .frontier import Pick
from .measure import RADIO, Measure, Raw, Today, measure
from .need import NeedKind
from .request import Use
from .thinning import thinned


class Joint:
    """Drives, packs and single slots that are decided together, context by context."""

    def __init__(self, stage: Stage, slots: Sequence[Slot], full: bool) -> None:
        self.stage, self.slots, self.full = stage, tuple(slots), full
        self.around = Surroundings(stage, slots, full)
        self.drives = DriveChoices(stage, self.around)
        self.others = [s for s in self.slots if not isinstance(s, DriveSlot | BaySlot)]
        self._lists: dict[Any, list[Choice]] = {}
        self._free = Today(stage.counted, Use())

    @property
    def fills(self) -> bool:
        """Does *fill it* ask for more of these slots than the needs do?"""
        return bool(self.around.drive_slots) or any(isinstance(s, RadioSlot | BatterySlot) for s in self.slots)

    def _once(self, context: Context, slots: Sequence[Slot], choices: Callable[[], Iterator[Choice]]) -> list[Choice]:
        """Choices of some of the slots in a context: made once for all contexts that are the same to them. Those that
        others make useless are left out, but where a fault is mended by any of them."""
        key = self.around.sight(context, slots)
        if key not in self._lists:
            mends = any(s.id in self.stage.faulty for s in slots)
            alone = len(slots) == len(self.slots) and not self.around.bound  # thinned as a group anyway
            self._lists[key] = list(choices()) if mends or alone else thinned(choices(), self.stage.loose, self.full)
        return self._lists[key]

    def choices(self) -> Iterator[Choice]:
        for context in self.around.contexts():
            yield from self._within(context)

    def _within(self, context: Context) -> Iterator[Choice]:
        rest = [self._once(context, slots, partial(self._family, context, slots)) for slots in self.families]
        own = (
            self._once(context, self.around.drive_slots, partial(self.drives.within, context))
            if self.around.drive_slots
            else [_nothing()]
        )
        for drives in own:
            for combination in product(*rest):
                yield _together((drives, *combination))

    @cached_property
    def families(self) -> list[tuple[Slot, ...]]:
        """The slots that hold no drive, those of one kind together: of two packs both count, and one part of the shelf
        goes into one of them."""
        found: dict[type[Slot], list[Slot]] = {}
        for s in self.others:
            found.setdefault(type(s), []).append(s)
        return [tuple(slots) for slots in found.values()]

    def _family(self, context: Context, slots: Sequence[Slot]) -> Iterator[Choice]:
        """Choices of slots of one kind that hold no drive, measured together."""
        stage = self.stage
        kinds: tuple[NeedKind, ...] = ()
        if isinstance(slots[0], RadioSlot):
            kinds = tuple(k for k in RADIO if k is RADIO[0] or stage.stated((k,)))
        elif isinstance(slots[0], BatterySlot):
            kinds = (NeedKind.RUNTIME,)
        for ways in product(*(list(self.around.ways(context, s, "", "")) for s in slots)):
            changes = tuple([change for change, _ in ways if change])
            if len(slots) > 1 and not in_stock(changes):
                continue
            own: tuple[Effect, ...] = ()
            physical: dict[NeedKind, Measure] = {}
            if kinds:
                new = dict(changes)
                key = tuple([
                    (s.id, figures_of(new[s.id].part if new[s.id] else None) if s.id in new else "keep")  # type: ignore[union-attr]
                    for s in slots
                ])  # fmt: skip
                own, raw = stage.effects(kinds, key, lambda changes=changes: stage.counting(changes))
                if self.full or kinds[0] is not NeedKind.RADIO_THROUGHPUT:
                    physical = {kinds[0]: self._fills(kinds[0], raw, changes)}
            yield choice(stage, changes, own, frozenset().union(*(waits for _, waits in ways)), physical)

    def _fills(self, kind: NeedKind, raw: Raw, changes: tuple[Change, ...]) -> Measure:
        """The uncapped figure *fill it* goes by: no router, no line in the way."""
        if kind is not NeedKind.RADIO_THROUGHPUT:
            return raw.physical[0]
        free = measure((kind,), self._free, self.stage.counting(changes))
        return free.physical[0]


def _nothing() -> Choice:
    return Choice((), None, 0, 0, (), 0, (), frozenset(), {})


def _together(parts: Sequence[Choice]) -> Choice:
    parts = [p for p in parts if p.changes or p.effects or p.waits or p.physical] or parts[:1]
    if len(parts) == 1:
        return parts[0]
    physical: dict[NeedKind, Measure] = {}
    opens = effort = late = 0
    changes: tuple[Change, ...] = ()
    picks: tuple[Pick, ...] = ()
    effects: tuple[Effect, ...] = ()
    waits: frozenset[str] = frozenset()
    boot: str | None = None
    for p in parts:
        physical.update(p.physical)
        opens, effort, late = opens | p.opens, effort + p.effort, late + p.late
        changes, picks, effects = changes + p.changes, picks + p.picks, effects + p.effects
        waits = waits | p.waits
        boot = p.boot if boot is None else boot
    return Choice(changes, boot, opens, effort, picks, late, effects, waits, physical)


def grouped(build: Build) -> tuple[list[MemorySlot], list[list[Slot]]]:
    """Memory sockets, and the other slots that are decided together: drives, batteries, what exclusions join."""
    rest = [s for s in build.machine.slots if not isinstance(s, MemorySlot)]
    head = {s.id: s.id for s in rest}

    def root(slot: str) -> str:
        while head[slot] != slot:
            slot = head[slot]
        return slot

    for kinds in ((DriveSlot, BaySlot), (BatterySlot,)):
        alike = [s.id for s in rest if isinstance(s, kinds)]
        for other in alike[1:]:
            head[root(other)] = root(alike[0])
    for e in build.machine.machine.exclusions:
        if e.when in head and e.on in head:
            head[root(e.when)] = root(e.on)
    heads = dict.fromkeys(root(s.id) for s in rest)
    return [s for s in build.machine.slots if isinstance(s, MemorySlot)], [
        [s for s in rest if root(s.id) == h] for h in heads
    ]
