"""A reading matched to one machine: parts recognised by their number, slot by slot, and what they do there."""

from collections.abc import Iterable, Mapping
from functools import cached_property
from typing import Literal

from pydantic import ValidationError

from ..known.deduce import APART_DB
from ..known.evidence import Signs
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.memory_system import MemorySlot
from ..machine.part import AnyPart, Fittable, MemoryModule, Pack
from ..machine.radio_parts import Cellular, Radio
from ..machine.shape import Configured, Slot
from ..reading import ReadBattery, ReadDrive, Reading, ReadModule, ReadRadio
from ..spelling import folded
from ..standards import ddr
from ..standards.spd import Spd

#: Antenna chains this far apart are worth a look at the plugs; from :data:`APART_DB` on a lead is off or loose.
LOOK_DB = 8


class Matched:
    """A reading laid over one configuration, matched once: which part of the catalogue, and what was read of it, sits in
    which slot. Survey, the contradictions, Prove and what is known of the build all ask this one value."""

    def __init__(self, machine: Configured, reading: Reading, parts: Iterable[AnyPart]) -> None:
        self.machine, self.reading = machine, reading
        known = [s.fitted for s in machine.slots if s.fitted] + [p for p in parts if p.kind != "accessory"]
        self._by_number: dict[str, Fittable] = {folded(p.number): p for p in known}

    @cached_property
    def fitted(self) -> dict[str, Fittable | None]:
        """Slots whose content the reading proves. A part the catalogue does not know is described by what was read of
        it; a slot the reading says nothing about is left out: never a guess."""
        found: dict[str, Fittable | None] = {}
        for slot in self.machine.slots:
            match slot:
                case MemorySlot():
                    found |= self._socket(slot)
                case RadioSlot():
                    if isinstance(card := _one(self.reading.radios, self._by_number, Radio), Radio):
                        found[slot.id] = card
                case CellularSlot():
                    if isinstance(modem := _one(self.reading.modems, self._by_number, Cellular), Cellular):
                        found[slot.id] = modem
                case _:
                    pass
        for slot_id, read in self.packs.items():
            pack = self._by_number[folded(read.model)]
            assert isinstance(pack, Pack)
            found[slot_id] = pack.model_copy(update={"full_mwh": read.full_mwh})
        found.update({slot: part for slot, (part, _) in self._placed.items()})
        return found

    def _socket(self, slot: MemorySlot) -> dict[str, Fittable | None]:
        device = self.device(slot)
        if device and device.present is False:
            return {slot.id: None}
        if not device or not device.size_gb:
            return {}
        part = self._by_number.get(folded(device.part_number)) if device.part_number else None
        module = part if isinstance(part, MemoryModule) else module_of(device, self.reading.images)
        return {slot.id: module} if module and module.capacity_gb == device.size_gb else {}

    def device(self, slot: MemorySlot) -> ReadModule | None:
        """The device firmware lists for this socket, by its own name for it. Chips on the board are in no socket."""
        names = {folded(n) for n in (slot.locator, slot.id, slot.name) if n}
        modules = self.reading.modules
        exact = [m for m in modules if m.soldered is not True and folded(m.locator) in names]
        loose = [m for m in modules if m.soldered is False and any(n in folded(m.locator) for n in names)]
        # Two devices of one name cannot be told apart.
        return next((found[0] for found in (exact, loose) if len(found) == 1), None)

    @cached_property
    def packs(self) -> dict[str, ReadBattery]:
        """Each pack as it was read, by the slot it sits in: by its own number, so that two packs are two. A pack that
        several slots could hold, and one that is listed twice, is placed nowhere."""
        found: dict[str, ReadBattery] = {}
        read_packs = self.reading.packs
        for read in read_packs:
            pack = self._by_number.get(folded(read.model)) if read.model else None
            if not isinstance(pack, Pack) or sum(folded(p.model) == folded(read.model) for p in read_packs) > 1:
                continue
            slot = self._bay_of(pack)
            if slot is not None and slot.id not in found:
                found[slot.id] = read
        return found

    def _bay_of(self, pack: Pack) -> BatterySlot | None:
        """Where a pack that was read sits: the only slot, or the only one whose list names it; None where that is open."""
        slots = [s for s in self.machine.slots if isinstance(s, BatterySlot)]
        named = [s for s in slots if any(pack.number in (c.value or ()) for c in s.accepts.claims)]
        found = slots if len(slots) == 1 else named
        return found[0] if len(found) == 1 else None

    @cached_property
    def drives(self) -> dict[str, ReadDrive]:
        """The drive as it was read, by the slot it was placed in. Of equal drives only what all of them agree on."""
        found = {}
        for slot_id, (_, drives) in self._placed.items():
            told = [d.model_dump(exclude={"volumes"}) for d in drives]
            differ = {k for k in told[0] if any(t[k] != told[0][k] for t in told)}
            blank = ReadDrive(name="")
            found[slot_id] = drives[0].model_copy(update={k: getattr(blank, k) for k in differ})
        return found

    @cached_property
    def _placed(self) -> dict[str, tuple[M2Drive | BayDrive, tuple[ReadDrive, ...]]]:
        """Drives by number, each with its slot: the one at its address, else the only one that can hold it. Equal drives
        fill as many equal slots; which of them is where is then open, and each slot is given all of them."""
        found: dict[str, tuple[M2Drive | BayDrive, tuple[ReadDrive, ...]]] = {}
        left: dict[str, tuple[M2Drive | BayDrive, list[ReadDrive]]] = {}
        slots = self.machine.slots
        for drive in self.reading.drives:
            part = part_of(drive, self._by_number)
            if part is None:
                continue
            at = [s for s in slots if could_hold(s, part) and self._is_at(s, drive)]
            if len(at) == 1 and at[0].id not in found:
                found[at[0].id] = (part, (drive,))
            else:
                left.setdefault(part.number, (part, []))[1].append(drive)
        for part, drives in left.values():
            homes = [s for s in slots if s.id not in found and could_hold(s, part)]
            today = [s for s in homes if s.fitted and s.fitted.number == part.number]
            # As many as there are: all places that can hold them, or those they were delivered in.
            for places in (today, homes):
                if len(places) == len(drives):
                    found |= {s.id: (part, tuple(drives)) for s in places}
                    break
        return found

    def _is_at(self, slot: Slot, drive: ReadDrive) -> bool:
        """Does the drive hang where the slot does: by the address the library has, or the one firmware lists?"""
        here = {drive.pci, drive.port_pci} - {""}
        listed = {s.pci for s in self.reading.slots if s.pci and folded(s.name) == folded(slot.name)}
        return bool(here & ({getattr(slot, "pci", "")} | listed))

    @cached_property
    def started(self) -> str:
        """The slot whose drive firmware started from, "" where the reading does not prove it."""
        slots = [s for s, (_, drives) in self._placed.items() if len(drives) == 1 and drives[0].started]
        return slots[0] if len(slots) == 1 else ""

    @cached_property
    def signs(self) -> dict[str, Signs]:
        """What the reading tells of each slot beside its part: links, Bluetooth on USB, the signal on each antenna."""
        found = {s: Signs(running=d.running, port=d.port) for s, d in self.drives.items()}
        radios = [s for s in self.machine.slots if isinstance(s, RadioSlot)]
        if len(radios) == 1 and len(self.reading.radios) == 1:
            radio, blue = self.reading.radios[0], self.reading.bluetooth
            # Bluetooth that may be a stick's proves no wire of the slot.
            mine = True if blue and blue.fixed else None
            found[radios[0].id] = Signs(
                running=radio.running, port=radio.port, bluetooth=mine, chains_dbm=radio.chains_dbm
            )
        return found

    def shown(self, slot_id: str) -> tuple[Literal["bluetooth", "bands", "link", "speed"], ...]:
        """What the reading shows of what was put in a slot, besides that it works there."""
        found: list[Literal["bluetooth", "bands", "link", "speed"]] = []
        slot, sign = self.machine.slot(slot_id), self.signs.get(slot_id)
        if isinstance(slot, RadioSlot) and sign is not None and sign.bluetooth:
            found.append("bluetooth")
        if isinstance(slot, DriveSlot) and sign is not None and sign.running is not None:
            found.append("link")
        if isinstance(slot, MemorySlot) and any(m.running_mts for m in self.reading.modules if m.present):
            found.append("speed")
        return tuple(found)

    @cached_property
    def observed(self) -> dict[str, tuple[str, ...]]:
        """What the reading says of each slot beside its part: running against rated, the link as it is
        against what both ends could do, wear, and the signal on each antenna."""
        lines: dict[str, list[str]] = {s.id: [] for s in self.machine.slots}
        for slot in self.machine.slots:
            if isinstance(slot, MemorySlot) and (device := self.device(slot)):
                lines[slot.id] += _rates(device)
            elif isinstance(slot, RadioSlot):
                lines[slot.id] += [line for radio in self.reading.radios[:1] for line in _radio(radio)]
        for slot_id, pack in self.packs.items():
            if (wear := pack.wear_percent) is not None:
                cycles = f", {pack.cycles} cycles" if pack.cycles else ""
                lines[slot_id].append(f"wear {wear} %{cycles}")
        for slot_id, drive in self.drives.items():
            lines[slot_id] += _drive(drive)
        return {slot: tuple(said) for slot, said in lines.items() if said}


def module_of(device: ReadModule, images: Iterable[Spd] = ()) -> MemoryModule | None:
    """A module the catalogue does not know, from its SPD image or the firmware's table."""
    if device.generation is None or not device.rated_mts or not device.size_gb or not device.part_number:
        return None
    image = next((i for i in images if i.crc_ok and folded(i.part_number) == folded(device.part_number)), None)
    proved: dict[str, object] = {"ranks": device.ranks}
    if image:
        proved = {
            "ranks": image.ranks, "chip_width": image.chip_width, "cl": image.cl, "module_type": image.module_type,
            "voltage_mv": image.voltage_mv, "trfc_ns": image.trfc_ns, "clock_driver": image.clock_driver,
        }  # fmt: skip
    grade = next((g for g in ddr.GRADES.get(device.generation, ()) if ddr.same_grade(g, device.rated_mts)), None)
    if grade is None:
        return None
    try:
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
            | {k: v for k, v in proved.items() if v is not None}
        )
    except ValidationError:  # figures no module has: what was read is shown, and fills no socket
        return None


def _one(read: Iterable[ReadRadio], by_number: Mapping[str, Fittable], kind: type) -> Fittable | None:
    names = [folded(f"{r.name} {r.id}") for r in read]
    cards = [p for n, p in by_number.items() if isinstance(p, kind) and any(_names(r, n, p) for r in names)]
    longest = max((len(folded(c.number)) for c in cards), default=0)
    cards = [c for c in cards if len(folded(c.number)) == longest]
    return cards[0] if len(cards) == 1 else None


def _names(read: str, number: str, card: Fittable) -> bool:
    """Does what the bus says name this card: by its number, or by the id its subsystem carries?"""
    fru = getattr(card, "fru", None)
    return number in read or bool(fru and folded(fru) in read)


def part_of(drive: ReadDrive, by_number: Mapping[str, Fittable]) -> M2Drive | BayDrive | None:
    """The catalogue's drive a reading names; of several, the longest number (B5 is in B5-S)."""
    parts = [p for n, p in by_number.items() if isinstance(p, M2Drive | BayDrive) and n in folded(drive.model)]
    longest = max((len(folded(p.number)) for p in parts), default=0)
    parts = [p for p in parts if len(folded(p.number)) == longest]
    return parts[0] if len(parts) == 1 else None


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


def _drive(drive: ReadDrive) -> list[str]:
    found = []
    if drive.running:
        ends = [f"the drive could {drive.capable}"] if drive.capable else []
        ends += [f"its slot {drive.port}"] if drive.port else []
        found.append(f"link {drive.running}{', ' + ', '.join(ends) if ends else ''}")
    state = [f"firmware {drive.firmware}"] if drive.firmware else []
    state += [f"{drive.temperature_c} °C"] if drive.temperature_c is not None else []
    state += [f"{drive.worn_percent} % of its rated life used"] if drive.worn_percent is not None else []
    return [*found, ", ".join(state)] if state else found


def _rates(device: ReadModule) -> list[str]:
    if not device.running_mts or not device.rated_mts:
        return []
    if ddr.shown_as_half(device.running_mts, device.rated_mts):
        sure = ddr.truly_running(device.running_mts, device.rated_mts, device.generation)
        doubt = "" if sure else ": the clock, or really half; the firmware's screen tells"
        return [f"shows {device.running_mts}, half of its {device.rated_mts}{doubt}"]
    slower = ddr.exact_mts(device.running_mts) < ddr.exact_mts(device.rated_mts)
    return [f"runs {device.running_mts}, rated {device.rated_mts}{': held back' if slower else ''}"]


def _radio(radio: ReadRadio) -> list[str]:
    found = [f"{radio.name} {radio.id}".strip()]
    if radio.chains_dbm:
        signal = ", ".join(f"{c} dBm" for c in radio.chains_dbm)
        apart = max(radio.chains_dbm) - min(radio.chains_dbm)
        doubt = ": a lead off or loose, look at the leads" if apart >= APART_DB else ""
        found.append(f"signal {signal}{doubt or (': look at the plugs' if apart >= LOOK_DB else '')}")
    return found
