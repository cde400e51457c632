"""What a reading fills in: parts recognised by their number, slot by slot, and what they do there."""

from collections.abc import Iterable, Mapping

from ..identify.match import folded
from ..known.evidence import Signs
from ..machine.part import AnyPart, BayDrive, Cellular, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..machine.shape import BatterySlot, BaySlot, CellularSlot, Configured, DriveSlot, MemorySlot, RadioSlot, Slot
from ..reading import ReadDrive, Reading, ReadModule, ReadRadio
from ..standards import ddr
from ..standards.spd import Spd

#: Antenna chains further apart than this mean a lead is off or swapped, in dB.
CHAINS_APART_DB = 20


def filled(machine: Configured, reading: Reading, parts: Iterable[AnyPart]) -> dict[str, Fittable | None]:
    """Slots whose content the reading proves. A part the catalogue does not know is described by
    what was read of it; a slot the reading says nothing about is left out: never a guess."""
    known = [s.fitted for s in machine.slots if s.fitted] + [p for p in parts if p.kind != "accessory"]
    by_number: Mapping[str, Fittable] = {folded(p.number): p for p in known}
    found: dict[str, Fittable | None] = {}
    for slot in machine.slots:
        match slot:
            case MemorySlot():
                device = device_in(slot, reading)
                if device and device.size_gb == 0:
                    found[slot.id] = None
                elif device:
                    part = by_number.get(folded(device.part_number)) if device.part_number else None
                    module = part if isinstance(part, MemoryModule) else module_of(device, reading.images)
                    if module and module.capacity_gb == device.size_gb:
                        found[slot.id] = module
            case RadioSlot():
                if isinstance(card := _one(reading.radios, by_number, Radio), Radio):
                    found[slot.id] = card
            case CellularSlot():
                if isinstance(modem := _one(reading.modems, by_number, Cellular), Cellular):
                    found[slot.id] = modem
            case BatterySlot():
                read = reading.battery
                pack = by_number.get(folded(read.model)) if read and read.model else None
                # One pack read is in one slot: with two, in the one that is known to take it.
                if read and isinstance(pack, Pack) and slot is _bay_of(machine, pack):
                    found[slot.id] = pack.model_copy(update={"full_mwh": read.full_mwh})
            case _:
                pass
    found.update(_drives(machine, reading, by_number))
    return found


def _bay_of(machine: Configured, pack: Pack) -> BatterySlot | None:
    """Where a pack that was read sits: the only slot, or the only one whose list names it; None where that is open."""
    slots = [s for s in machine.slots if isinstance(s, BatterySlot)]
    named = [s for s in slots if any(pack.number in (c.value or ()) for c in s.accepts.claims)]
    found = slots if len(slots) == 1 else named
    return found[0] if len(found) == 1 else None


def device_in(slot: MemorySlot, reading: Reading) -> ReadModule | None:
    """The socketed device firmware lists for this socket, by its own name for it."""
    names = {folded(n) for n in (slot.locator, slot.id, slot.name) if n}
    sockets = [m for m in reading.modules if not m.soldered]
    exact = [m for m in sockets if folded(m.locator) in names]
    loose = [m for m in sockets if any(n in folded(m.locator) for n in names)]
    return next(iter([*exact, *loose]), None)


def module_of(device: ReadModule, images: Iterable[Spd] = ()) -> MemoryModule | None:
    """A module the catalogue does not know, from its SPD image or the firmware's table."""
    if device.generation is None or not device.rated_mts or not device.size_gb or not device.part_number:
        return None
    image = next((i for i in images if i.crc_ok and folded(i.part_number) == folded(device.part_number)), None)
    proved: dict[str, object] = {}
    if image:
        proved = {
            "ranks": image.ranks, "chip_width": image.chip_width, "cl": image.cl, "module_type": image.module_type,
            "voltage_mv": image.voltage_mv, "trfc_ns": image.trfc_ns,
        }  # fmt: skip
    grade = next((g for g in ddr.GRADES.get(device.generation, ()) if ddr.same_grade(g, device.rated_mts)), None)
    if grade is None:
        return None
    return MemoryModule.model_validate(
        {
            "number": device.part_number,
            "maker": device.maker,
            "name": f"{device.part_number}, {device.size_gb} GB, as read",
            "generation": device.generation,
            "capacity_gb": device.size_gb,
            "grade_mts": grade,
            "note": "read from the running system",
        }
        | proved
    )


def _one(read: Iterable[ReadRadio], by_number: Mapping[str, Fittable], kind: type) -> Fittable | None:
    names = [folded(f"{r.name} {r.id}") for r in read]
    cards = [p for n, p in by_number.items() if isinstance(p, kind) and any(n in r for r in names)]
    longest = max((len(folded(c.number)) for c in cards), default=0)
    cards = [c for c in cards if len(folded(c.number)) == longest]
    return cards[0] if len(cards) == 1 else None


def part_of(drive: ReadDrive, by_number: Mapping[str, Fittable]) -> M2Drive | BayDrive | None:
    """The catalogue's drive a reading names; of several, the longest number (B5 is in B5-S)."""
    parts = [p for n, p in by_number.items() if isinstance(p, M2Drive | BayDrive) and n in folded(drive.model)]
    longest = max((len(folded(p.number)) for p in parts), default=0)
    parts = [p for p in parts if len(folded(p.number)) == longest]
    return parts[0] if len(parts) == 1 else None


def _drives(machine: Configured, reading: Reading, by_number: Mapping[str, Fittable]) -> dict[str, Fittable | None]:
    """Drives by number, placed only where one slot alone can hold them."""
    found: dict[str, Fittable | None] = {}
    for drive in reading.drives:
        part = part_of(drive, by_number)
        if part is None:
            continue
        homes = [s for s in machine.slots if s.id not in found and could_hold(s, part)]
        today = [s for s in homes if s.fitted and s.fitted.number == part.number]
        if len(homes) == 1 or today:
            found[(today or homes)[0].id] = part
    return found


def could_hold(slot: Slot, part: M2Drive | BayDrive) -> bool:
    """Is the slot wired and shaped for it at all? A slot with a key the card lacks is no home."""
    if isinstance(part, BayDrive):
        return isinstance(slot, BaySlot)
    if not isinstance(slot, DriveSlot):
        return False
    if part.interface == "emmc" or slot.form == "soldered":
        return part.interface == "emmc" and slot.form == "soldered"
    if slot.form != part.form:
        return False
    keys = {c.value for c in slot.key.claims}
    if part.keys and keys and not keys & set(part.keys):
        return False
    wired = slot.pcie_lanes if part.interface == "pcie" else slot.sata
    # A slot nobody has said anything of may hold it; one that is known to be without the wiring does not.
    return not wired.claims or any(c.value for c in wired.claims)


def drive_in(machine: Configured, reading: Reading, parts: Iterable[AnyPart]) -> dict[str, ReadDrive]:
    """The drive as it was read, by the slot it was placed in."""
    known = [s.fitted for s in machine.slots if s.fitted] + [p for p in parts if p.kind != "accessory"]
    placed = _drives(machine, reading, {folded(p.number): p for p in known})
    found = {}
    for slot_id, part in placed.items():
        drive = next((d for d in reading.drives if part and folded(part.number) in folded(d.model)), None)
        if drive:
            found[slot_id] = drive
    return found


def signs(machine: Configured, reading: Reading, parts: Iterable[AnyPart]) -> dict[str, Signs]:
    """What the reading tells of each slot beside its part: links, Bluetooth on USB, the signal on each antenna."""
    found = {s: Signs(running=d.running, port=d.port) for s, d in drive_in(machine, reading, parts).items()}
    radios = [s for s in machine.slots if isinstance(s, RadioSlot)]
    if len(radios) == 1 and len(reading.radios) == 1:
        found[radios[0].id] = Signs(bluetooth=reading.bluetooth, chains_dbm=reading.radios[0].chains_dbm)
    return found


def observed(machine: Configured, reading: Reading, parts: Iterable[AnyPart]) -> dict[str, tuple[str, ...]]:
    """What the reading says of each slot beside its part: running against rated, the link as it is
    against what both ends could do, wear, and the signal on each antenna."""
    lines: dict[str, list[str]] = {}
    known = [s.fitted for s in machine.slots if s.fitted] + [p for p in parts if p.kind != "accessory"]
    for slot in machine.slots:
        here = lines.setdefault(slot.id, [])
        match slot:
            case MemorySlot():
                device = device_in(slot, reading)
                if device and device.running_mts and device.rated_mts:
                    slower = not ddr.same_grade(device.running_mts, device.rated_mts)
                    here.append(f"runs {device.running_mts}, rated {device.rated_mts}{': held back' if slower else ''}")
            case RadioSlot():
                for radio in reading.radios[:1]:
                    here.append(f"{radio.name} {radio.id}".strip())
                    if radio.chains_dbm:
                        signal = ", ".join(f"{c} dBm" for c in radio.chains_dbm)
                        apart = max(radio.chains_dbm) - min(radio.chains_dbm) >= CHAINS_APART_DB
                        here.append(f"signal {signal}{': look at the leads' if apart else ''}")
            case BatterySlot():
                if reading.battery and (wear := reading.battery.wear_percent) is not None:
                    cycles = f", {reading.battery.cycles} cycles" if reading.battery.cycles else ""
                    here.append(f"wear {wear} %{cycles}")
            case _:
                pass
    for slot_id, drive in drive_in(machine, reading, known).items():
        if drive.running:
            ends = [f"the drive could {drive.capable}"] if drive.capable else []
            ends += [f"its slot {drive.port}"] if drive.port else []
            lines[slot_id].append(f"link {drive.running}{', ' + ', '.join(ends) if ends else ''}")
    return {slot: tuple(said) for slot, said in lines.items() if said}
