"""A build: one machine with what is in each slot and what is to change. Every verdict has one."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ..known.known import Known
from ..machine.bay_and_battery import BaySlot
from ..machine.card_sockets import DriveSlot
from ..machine.claim import Limits
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.memory_system import MemorySlot
from ..machine.part import Accessory, Fittable, MemoryModule
from ..machine.shape import Configured
from ..sighting import Sighting


@dataclass(frozen=True)
class Build:
    """The context a verdict is given in.

    ``known`` is what is known of the machine as it stands; ``changes`` is what the build puts in or (None) takes
    out. ``accessories`` are those bought for a slot. ``boot_slot`` is the slot the system will start from. ``memo``
    is where the judge keeps what does not depend on the rest of the build; builds made from one another share it.
    """

    known: Known
    changes: Mapping[str, Fittable | None] = field(default_factory=dict)
    boot_slot: str = ""
    accessories: Mapping[str, tuple[Accessory, ...]] = field(default_factory=dict)
    sightings: tuple[Sighting, ...] = ()
    memo: dict[tuple[object, ...], tuple[object, ...]] = field(default_factory=dict, compare=False, repr=False)

    @property
    def machine(self) -> Configured:
        return self.known.machine

    @property
    def fitted(self) -> Mapping[str, Fittable | None]:
        """What is in each slot today: a part, None for empty; a slot that is not named is unknown."""
        return self.known.contents.fitted

    @property
    def stance(self) -> Limits:
        return self.known.school

    @property
    def firmware(self) -> str:
        return self.known.firmware

    @property
    def boots_today(self) -> str:
        """The slot the system starts from as the machine stands: what was told or read. Where nobody says, the first place
        of a drive that nobody has looked into, so that what it measures stays unknown; else the first drive there is, and
        "" for none."""
        told = self.known.contents.boot_slot
        if told:
            return told
        places = [s.id for s in self.machine.slots if isinstance(s, DriveSlot | BaySlot)]
        unseen = [s for s in places if s not in self.fitted]
        held = [s for s in places if isinstance(self.fitted.get(s), M2Drive | BayDrive)]
        return (*unseen, *held, "")[0]

    def under(self, school: Limits) -> "Build":
        """The same build under another school of limits."""
        return replace(self, known=self.known.under(school=school), memo={})

    def taken_as_usual(self, usual: bool) -> "Build":
        """The same build with, or without, what the owner takes as usual."""
        if self.known.as_usual is usual:
            return self
        key = ("as usual", usual, id(self.known))
        if key not in self.memo:
            self.memo[key] = (self.known.under(as_usual=usual), self.known)
        known = self.memo[key][0]
        assert isinstance(known, Known)
        return replace(self, known=known)

    @property
    def seen_parts(self) -> frozenset[str]:
        """Numbers of the parts that any sighting of this configuration speaks of."""
        return frozenset(s.part for s in self.sightings)

    def now(self, slot_id: str) -> Fittable | None:
        """What the slot holds in this build; None when empty or unknown."""
        return self.changes[slot_id] if slot_id in self.changes else self.fitted.get(slot_id)

    def looked_into(self, slot_id: str) -> bool:
        """Is it known what the slot holds in this build?"""
        return slot_id in self.changes or slot_id in self.fitted

    def changed(self) -> tuple[str, ...]:
        """Slots whose part differs from today's, in machine order."""
        return tuple(
            s.id
            for s in self.machine.slots
            if s.id in self.changes and (s.id not in self.fitted or self.changes[s.id] != self.fitted[s.id])
        )

    def with_part(self, slot_id: str, part: Fittable | None, accessories: tuple[Accessory, ...] = ()) -> "Build":
        return replace(
            self, changes={**self.changes, slot_id: part}, accessories={**self.accessories, slot_id: accessories}
        )

    def kit_of(self, slot_id: str, part: Fittable) -> tuple[Accessory, ...]:
        """The accessories bought for this very part in the slot: they serve no other (rules.md section 1)."""
        here = self.now(slot_id)
        return self.accessories.get(slot_id, ()) if here is not None and here.number == part.number else ()

    @property
    def memory_slots(self) -> tuple[MemorySlot, ...]:
        return self.known.sockets

    def modules(self) -> dict[str, MemoryModule]:
        """Socketed modules by slot, as far as it is known what is in them."""
        held = {s.id: self.now(s.id) for s in self.memory_slots}
        return {slot: part for slot, part in held.items() if isinstance(part, MemoryModule)}

    def has_accessory(self, slot_id: str, supplies: str) -> bool:
        return any(a.supplies == supplies for a in self.accessories.get(slot_id, ()))
