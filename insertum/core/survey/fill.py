"""What a reading fills in: parts recognised by their number, slot by slot."""

from collections.abc import Iterable, Mapping

from ..identify.match import folded
from ..machine import BatterySlot, BaySlot, Configured, DriveSlot, MemorySlot, RadioSlot, Slot
from ..part import AnyPart, BayDrive, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..reading import Reading


def filled(machine: Configured, reading: Reading, parts: Iterable[AnyPart]) -> dict[str, Fittable | None]:
    """Slots whose content the reading proves. A part the catalogue does not know is left out, and
    so is a slot the reading says nothing about: never a guess."""
    known = [s.fitted for s in machine.slots if s.fitted] + [p for p in parts if p.kind != "accessory"]
    by_number: Mapping[str, Fittable] = {folded(p.number): p for p in known}
    found: dict[str, Fittable | None] = {}
    sockets = [m for m in reading.modules if not m.soldered]
    for slot in machine.slots:
        match slot:
            case MemorySlot():
                named = [m for m in sockets if folded(slot.id) in folded(m.locator)]
                if named and named[0].size_gb == 0:
                    found[slot.id] = None
                elif named and isinstance(part := by_number.get(folded(named[0].part_number)), MemoryModule):
                    found[slot.id] = part
            case RadioSlot():
                names = [folded(f"{r.name} {r.id}") for r in reading.radios]
                cards = [p for n, p in by_number.items() if isinstance(p, Radio) and any(n in r for r in names)]
                if len(cards) == 1:
                    found[slot.id] = cards[0]
            case BatterySlot():
                read = reading.battery
                pack = by_number.get(folded(read.model)) if read and read.model else None
                if read and isinstance(pack, Pack):
                    found[slot.id] = pack.model_copy(update={"full_mwh": read.full_mwh})
            case _:
                pass
    found.update(_drives(machine, reading, by_number))
    return found


def _drives(machine: Configured, reading: Reading, by_number: Mapping[str, Fittable]) -> dict[str, Fittable | None]:
    """Drives by number, placed only where one slot alone can hold them."""
    found: dict[str, Fittable | None] = {}
    for drive in reading.drives:
        parts = [p for n, p in by_number.items() if isinstance(p, M2Drive | BayDrive) and n in folded(drive.model)]
        if len(parts) != 1:
            continue
        homes = [s for s in machine.slots if s.id not in found and _could_hold(s, parts[0])]
        today = [s for s in homes if s.fitted and s.fitted.number == parts[0].number]
        if len(homes) == 1 or today:
            found[(today or homes)[0].id] = parts[0]
    return found


def _could_hold(slot: Slot, part: Fittable) -> bool:
    if isinstance(part, BayDrive):
        return isinstance(slot, BaySlot)
    if not isinstance(slot, DriveSlot) or not isinstance(part, M2Drive):
        return False
    wired = slot.pcie if part.interface == "pcie" else slot.sata
    return any(c.value != "none" for c in wired.claims)
