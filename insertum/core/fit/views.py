"""The context of a rule's verdict: the build, one value at a time."""

from collections.abc import Mapping
from typing import Any

from ..machine.claim import Source
from ..machine.memory_system import MemorySlot
from ..machine.opening import Exclusion
from ..machine.part import Accessory, MemoryModule
from ..machine.shape import Slot
from .build import Build
from .enumeration import Inquiry
from .part_view import PartView
from .place_view import MemoryView, PlaceView, firmware_of
from .read_trace import is_one_of
from .shape_facts import (
    AnyPartFacts,
    AnySlotFacts,
    BootFacts,
    DrivePlaceFacts,
    MemoryModuleFacts,
    MemorySlotFacts,
    MemorySystemFacts,
    RadioFacts,
    RadioSlotFacts,
)  # fmt: skip
from .unseen import SolderedView, UnseenModule, UnseenPart


class BuildView:
    """The context of a verdict: what else is fitted or planned. Rules read of other slots only what rules.md
    section 1 names: capacity, rated speed, interface, number, and whether the bay is filled."""

    __slots__ = ("_boot", "_build", "_inquiry", "_kit", "_memory", "_slot", "_views", "part")

    def __init__(
        self, inquiry: Inquiry, build: Build, slot: Slot | None, part: Any, kit: tuple[Accessory, ...] = ()
    ) -> None:
        self._inquiry, self._build, self._slot = inquiry, build, slot
        self._memory: Any = None
        self._boot: Any = None
        self.part, self._kit = part, kit
        self._views: dict[str, Any] = {}

    @property
    def memory(self) -> MemorySystemFacts:
        if self._memory is None:
            known = self._build.known
            self._memory = MemoryView(self._inquiry, known, "memory", known.machine.memory)
        memory: MemorySystemFacts = self._memory
        return memory

    @property
    def boot(self) -> BootFacts:
        if self._boot is None:
            known = self._build.known
            self._boot = PlaceView(self._inquiry, known, "boot", known.machine.boot)
        boot: BootFacts = self._boot
        return boot

    @property
    def slots(self) -> tuple[Slot, ...]:
        """The machine's slots."""
        return self._build.machine.slots

    @property
    def boots(self) -> str:
        """The slot the system starts from, '' for none."""
        self._inquiry.boot_read = True
        return self._build.boot_slot

    def either(self, key: tuple[Any, ...], options: tuple[Any, ...]) -> Any:
        """One of several possibilities of something no attribute speaks of: the same for the same key."""
        return self._inquiry.pick(key, options)

    @property
    def kit(self) -> tuple[Accessory, ...]:
        """The accessories bought for the slot at hand."""
        self._inquiry.kit_read = True
        return self._kit

    @property
    def school(self) -> Any:
        return self._build.stance

    @property
    def system(self) -> str:
        """The owner's system where the job names it."""
        return self._build.known.system

    @property
    def boots_here(self) -> bool:
        """Does the system start from the slot at hand?"""
        self._inquiry.boot_read = True
        return self._slot is not None and self._build.boot_slot == self._slot.id

    @property
    def soldered(self) -> tuple[Any, ...]:
        """What is on the board; a rating or channel nobody has told is each it could be."""
        return tuple(
            s if s.rated_mts is not None and s.channel is not None else SolderedView(self._inquiry, n, s)
            for n, s in enumerate(self._build.machine.memory.soldered)
        )

    @property
    def sockets(self) -> tuple[MemorySlot, ...]:
        return self._build.memory_slots

    @property
    def sightings(self) -> tuple[Any, ...]:
        return self._build.sightings

    @property
    def firmware(self) -> str:
        """The machine's firmware: each version proofs name, and "" for any other, where it was not read."""
        return firmware_of(self._inquiry, self._build.known).firmware

    def serves(self, supplies: str, **sizes: Any) -> bool:
        """Is an accessory of that kind in the build for this slot, of just these sizes? One of unknown size
        serves nothing (rules.md section 1)."""
        machine = self._build.machine.machine.id
        return any(accessory_serves(a, supplies, sizes) and (not a.families or machine in a.families) for a in self.kit)

    def driver(self, part: RadioFacts) -> str:
        """How far the card's driver goes on the owner's system: full, an older standard only, or none."""
        for how, systems in (("full", part.drivers_full), ("older", part.drivers_older), ("none", part.drivers_none)):
            if self.system in systems:
                return how
        self._inquiry.reads[("part", "drivers")] = None
        return str(self._inquiry.pick(("part", "drivers"), ("none", "older", "full")))

    def made_by(self, maker: str) -> bool:
        """Is the machine's processor of this maker?"""
        processor = self._build.machine.configuration.processor.strip()
        if processor.lower() in ("", "unknown"):
            self._inquiry.reads[("configuration", "processor")] = None
            return bool(self._inquiry.pick(("configuration", "processor"), (False, True)))
        return f" {maker} ".lower() in f" {processor} ".lower()

    def content(self, slot_id: str, today: bool = False) -> AnyPartFacts | None:
        """What a slot holds in this build (or holds today), None for empty."""
        held: AnyPartFacts | None = self._content(slot_id, today)
        return held

    def _content(self, slot_id: str, today: bool) -> Any:
        build = self._build
        if not today and self._slot is not None and slot_id == self._slot.id:
            return self.part
        held = build.fitted if today else {**build.fitted, **build.changes}
        if slot_id in held:
            part = held[slot_id]
            # What is bought is not what is there: what is unknown of one tells nothing of the other.
            where = "in" if today or slot_id not in build.changes else "new"
            return None if part is None else PartView(self._inquiry, part, f"{where} {slot_id}")
        slot = build.known.slots[slot_id]
        self._inquiry.reads[("fitted", slot_id)] = None
        if not self._inquiry.pick(("fitted", slot_id), (False, True)):
            return None
        if isinstance(slot, MemorySlot):
            return UnseenModule(self._inquiry, build.known, slot)
        return UnseenPart(self._inquiry, slot)

    def modules(self, without_this: bool = False, today: bool = False) -> dict[str, MemoryModuleFacts]:
        """Socketed modules by slot; ``without_this`` leaves the slot at hand empty, ``today`` is what is in now."""
        found = {}
        for s in self.sockets:
            if without_this and self._slot is not None and s.id == self._slot.id:
                continue
            module = self._content(s.id, today)
            if module is not None and (today or isinstance(module, UnseenModule) or _is_module(module)):
                found[s.id] = module
        return found

    @property
    def exclusions(self) -> tuple[Exclusion, ...]:
        return self._build.machine.machine.exclusions

    def effect(self, index: int) -> str:
        """What an exclusion does, of the machine's list. One that today's working parts contradict does not hold for
        them."""
        exclusion = self.exclusions[index]
        self._inquiry.reads[("exclusion", str(index))] = None
        values = tuple(dict.fromkeys(c.value for c in exclusion.effect.claims if c.source is not Source.REPORTED))
        values = values or ("none", "x2", "x1", "filled", "off")
        if index in self._build.known.contradicted and self._as_today(exclusion.when) and self._as_today(exclusion.on):
            values = tuple(v for v in values if not self._disproved(exclusion.on, v)) or ("none",)
        if len(values) == 1:
            return str(values[0])
        return str(self._inquiry.pick(("exclusion", str(index)), values))

    def _as_today(self, slot_id: str) -> bool:
        """Does the slot hold in this build what it holds today?"""
        today = self._build.fitted.get(slot_id)
        if self._slot is not None and slot_id == self._slot.id and self.part is not None:
            return today is not None and is_one_of(self.part.number, frozenset((today.number,)))
        return today is not None and self._build.now(slot_id) == today

    def _disproved(self, slot_id: str, effect: str) -> bool:
        """Could the part not work there as it was read to, were this the effect?"""
        if effect in ("off", "filled"):
            return True
        signs = self._build.known.contents.signs.get(slot_id)
        lanes = {"x1": 1, "x2": 2}.get(effect)
        return lanes is not None and signs is not None and signs.running is not None and signs.running.lanes > lanes

    def runs_at_least(self, modules: Mapping[str, Any]) -> int:
        """What such modules in such sockets were read to run at, 0 where nobody read it."""
        known = self._build.known
        if not known.read_mts:
            return 0
        return known.runs_at_least(
            {s: m.stated("ranks") if isinstance(m, PartView) else None for s, m in modules.items()}
        )

    def slot_name(self, slot_id: str) -> str:
        return self._build.known.place_name(slot_id)

    def slot_kind(self, slot_id: str) -> type:
        return type(self._build.known.slots[slot_id])

    def slot_at(self, slot_id: str) -> AnySlotFacts:
        """Another slot's own attributes."""
        at: AnySlotFacts = self._slot_at(slot_id)
        return at

    def socket_at(self, slot_id: str) -> MemorySlotFacts:
        """Those of a memory socket."""
        at: MemorySlotFacts = self._slot_at(slot_id)
        return at

    def drive_place_at(self, slot_id: str) -> DrivePlaceFacts:
        """Those of a place for a drive."""
        at: DrivePlaceFacts = self._slot_at(slot_id)
        return at

    def radio_place_at(self, slot_id: str) -> RadioSlotFacts:
        """Those of a place for a radio."""
        at: RadioSlotFacts = self._slot_at(slot_id)
        return at

    def _slot_at(self, slot_id: str) -> Any:
        if slot_id not in self._views:
            self._views[slot_id] = PlaceView(
                self._inquiry, self._build.known, slot_id, self._build.known.slots[slot_id]
            )
        return self._views[slot_id]


def _is_module(view: Any) -> bool:
    return isinstance(getattr(view, "_part", None), MemoryModule)


def accessory_serves(accessory: Accessory, supplies: str, sizes: Mapping[str, Any]) -> bool:
    """Is an accessory of that kind and of just these sizes? Sizes that are sets name what would do."""
    if accessory.supplies != supplies:
        return False
    for name, wanted in sizes.items():
        has = getattr(accessory, name)
        if has is None or (has not in wanted if isinstance(wanted, tuple) else has != wanted):
            return False
    return True
