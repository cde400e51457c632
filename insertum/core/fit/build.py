"""A build: one machine with what is in each slot and what is to change. Every verdict has one."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from ..claim import Limits
from ..machine import Configured, MemorySlot
from ..part import Accessory, Fittable, MemoryModule

if TYPE_CHECKING:  # a sighting looks at modules through the rules, which look at builds
    from ..sighting import Sighting


@dataclass(frozen=True)
class Build:
    """The context a verdict is given in.

    ``fitted`` is what is in each slot today: a part, None for empty; a slot that is not named is
    unknown. ``changes`` is what the build puts in or (None) takes out. ``accessories`` are those
    bought for a slot. ``boot_slot`` is the slot the system will start from. ``memo`` is where the
    judge keeps what does not depend on the rest of the build; builds made from one another share it.
    """

    machine: Configured
    fitted: Mapping[str, Fittable | None]
    changes: Mapping[str, Fittable | None] = field(default_factory=dict)
    stance: Limits = Limits.PROVEN
    firmware: str = ""
    boot_slot: str = ""
    accessories: Mapping[str, tuple[Accessory, ...]] = field(default_factory=dict)
    sightings: tuple["Sighting", ...] = ()
    memo: dict[tuple[object, ...], tuple[object, ...]] = field(default_factory=dict, compare=False, repr=False)

    @property
    def seen_parts(self) -> frozenset[str]:
        """Numbers of the parts that any sighting of this configuration speaks of."""
        return frozenset(s.part for s in self.sightings)

    def now(self, slot_id: str) -> Fittable | None:
        """What the slot holds in this build; None when empty or unknown."""
        return self.changes[slot_id] if slot_id in self.changes else self.fitted.get(slot_id)

    def known(self, slot_id: str) -> bool:
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

    @property
    def memory_slots(self) -> tuple[MemorySlot, ...]:
        return tuple(s for s in self.machine.slots if isinstance(s, MemorySlot))

    def modules(self) -> dict[str, MemoryModule]:
        """Socketed modules by slot."""
        held = {s.id: self.now(s.id) for s in self.memory_slots}
        return {slot: part for slot, part in held.items() if isinstance(part, MemoryModule)}

    def has_accessory(self, slot_id: str, supplies: str) -> bool:
        return any(a.supplies == supplies for a in self.accessories.get(slot_id, ()))
