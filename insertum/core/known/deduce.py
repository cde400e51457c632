"""What runs proves: small named units, each a sentence and a bound (rules.md section 2).

A deduction looks at one piece of evidence (a part in a slot, by a grade) and yields bounds on attributes of the slot,
the memory system or the boot facts. It must be sound on every machine that keeps the axioms
(``tests/core/test_soundness.py``). Adding one is adding one decorated function here.
"""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Any

from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CardSocket, CellularSlot, DriveSlot, RadioSlot
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.memory_system import MemorySlot
from ..machine.part import CARDS, MemoryModule, Pack
from ..machine.radio_parts import Cellular, Radio
from ..standards import ddr
from .axioms import brings
from .bound import Bound, among, holds, is_, least, most
from .evidence import Evidence, Grade

WORKS, SEEN, DELIVERED = Grade.WORKS, Grade.SEEN, Grade.DELIVERED
#: Weaker than this a chain may be an open receptacle that hears anyway, in dBm at a few metres.
HEARS_DBM, APART_DB = -65, 15


Deduce = Callable[[Evidence, Any, Any], Iterable[Bound]]


@dataclass(frozen=True)
class Deduction:
    """``id`` is stable, ``sentence`` is what it says, ``grades`` the evidence it takes."""

    id: str
    sentence: str
    slots: type | tuple[type, ...]
    parts: type | tuple[type, ...]
    grades: frozenset[Grade]
    deduce: Deduce


DEDUCTIONS: dict[str, Deduction] = {}


def deduction(
    id: str, sentence: str, slots: type | tuple[type, ...], parts: type | tuple[type, ...], *grades: Grade
) -> Callable[[Deduce], Deduce]:
    """Register a deduction under its stable id."""

    def register(deduce: Deduce) -> Deduce:
        if id in DEDUCTIONS:
            raise ValueError(f"two deductions are called {id}")
        DEDUCTIONS[id] = Deduction(id, sentence, slots, parts, frozenset(grades), deduce)
        return deduce

    return register


def deduced(found: Iterable[Evidence]) -> Iterator[Bound]:
    """Every bound that follows from what runs, was seen or was delivered."""
    for e in found:
        for d in DEDUCTIONS.values():
            if e.grade in d.grades and isinstance(e.slot, d.slots) and isinstance(e.part, d.parts):
                for bound in d.deduce(e, e.slot, e.part):
                    yield replace(
                        bound, place=bound.place or e.slot.id, deduction=d.id, works=e.grade is WORKS,
                        why=f"{e.part.name} {_SAYS[e.grade]} in {e.slot.name}",
                    )  # fmt: skip


_SAYS = {WORKS: "works", SEEN: "was seen", DELIVERED: "was delivered"}


# -- memory -----------------------------------------------------------------------------------------
@deduction(
    "runs.module",
    "A module that works tells generation, type and voltage of its socket.",
    MemorySlot,
    MemoryModule,
    WORKS,
    DELIVERED,
)
def module(e: Evidence, slot: MemorySlot, part: MemoryModule) -> Iterator[Bound]:
    yield is_("generation", part.generation)
    if part.module_type in ("S", "T"):
        yield holds("module_types", part.module_type, place="memory")
    # A 1.5 V module needs 1.5 V; a DDR3L one runs at both and tells nothing.
    if part.generation == 3 and part.voltage_mv == 1500:
        yield is_("voltage_mv", 1500, place="memory")
    if part.clock_driver and part.generation == 5:
        yield is_("clock_drivers", True, place="memory")


@deduction(
    "runs.module_size",
    "A socket takes at least the module that runs in it.",
    MemorySlot,
    MemoryModule,
    WORKS,
    DELIVERED,
)
def module_size(e: Evidence, slot: MemorySlot, part: MemoryModule) -> Iterator[Bound]:
    yield least("limit_gb", part.capacity_gb)


@deduction(
    "runs.density",
    "The memory system runs the chips that run in any of its sockets; of a module whose build is not known, the least dense it can have.",
    MemorySlot,
    MemoryModule,
    WORKS,
    DELIVERED,
)
def density(e: Evidence, slot: MemorySlot, part: MemoryModule) -> Iterator[Bound]:
    made = [
        int(d)
        for ranks in ([part.ranks] if part.ranks else ddr.SODIMM_RANKS)
        for width in ([part.chip_width] if part.chip_width else ddr.SODIMM_WIDTHS)
        if (d := ddr.density_gbit(part.capacity_gb, ranks, width)) in ddr.DENSITIES[part.generation]
    ]
    # What is true of every way it can be made; 24 and 32 Gbit are no steps of one order.
    if sure := frozenset.intersection(*map(brings, made)) if made else None:
        yield holds("density_gbit", *sure, place="memory")


@deduction(
    "seen.module_room",
    "Above a socket there is room for the module that was seen or delivered there.",
    MemorySlot,
    MemoryModule,
    SEEN,
    DELIVERED,
)
def module_room(e: Evidence, slot: MemorySlot, part: MemoryModule) -> Iterator[Bound]:
    if part.spreader_um:
        yield least("room_above_um", part.spreader_um)


NO_ID = ", of which nobody read the card id"


def no_id(number: str) -> str:
    """How a card goes by of which nobody read the id firmware knows it by."""
    return number + NO_ID


# -- cards ------------------------------------------------------------------------------------------
@deduction("runs.card", "A card that works tells width and key of its place.", CardSocket, CARDS, WORKS, DELIVERED)
def card(e: Evidence, slot: CardSocket, part: Any) -> Iterator[Bound]:
    # A half card may lie on a bracket; a full one is held by the place itself.
    if slot.form == "mini" and part.mini_size == "full":
        yield holds("mini_sizes", "full")
    if slot.form != "m2" or part.form != "m2":
        return
    if part.width_mm:
        yield least("width_mm", part.width_mm)
    if part.keys:
        wide = e.running is not None and e.running.lanes >= 3
        yield among("key", [k for k in part.keys if not wide or k == "M"] or part.keys)


@deduction(
    "runs.held",
    "Something holds the length of a card that works: a standoff, or a bracket that stays.",
    CardSocket,
    CARDS,
    WORKS,
)
def held(e: Evidence, slot: CardSocket, part: Any) -> Iterator[Bound]:
    if slot.form == "m2" and part.length_mm:
        yield holds("holds_mm", part.length_mm)


@deduction("runs.listed", "Firmware accepts the id of the card that works.", CardSocket, CARDS, WORKS, DELIVERED)
def accepted(e: Evidence, slot: CardSocket, part: Any) -> Iterator[Bound]:
    if slot.form != "soldered":
        yield holds("accepted_cards", part.fru or no_id(part.number))


@deduction(
    "runs.drive_wiring",
    "A slot is wired for the interface its drive works by; of the other it says nothing.",
    DriveSlot,
    M2Drive,
    WORKS,
    DELIVERED,
)
def drive_wiring(e: Evidence, slot: DriveSlot, part: M2Drive) -> Iterator[Bound]:
    if slot.form == "soldered":
        return
    if part.interface == "sata":
        yield least("sata", 1)
    elif part.interface == "pcie":
        yield least("pcie_lanes", 1)
        yield from _link(e)


def _link(e: Evidence) -> Iterator[Bound]:
    """Lanes and generation are at least those of the link as it runs, at most those of the slot's own end."""
    if e.grade is not WORKS:
        return
    if e.running is not None:
        yield least("pcie_lanes", e.running.lanes)
        yield least("pcie_generation", e.running.generation)
    if e.port is not None:
        yield most("pcie_lanes", e.port.lanes)
        yield most("pcie_generation", e.port.generation)


@deduction(
    "delivered.rooms", "Above and below the maker's own card there is the room it takes.", CardSocket, CARDS, DELIVERED
)
def rooms(e: Evidence, slot: CardSocket, part: Any) -> Iterator[Bound]:
    if slot.form != "m2":
        return
    if part.above_um:
        yield least("clearance_above_um", part.above_um)
    if part.below_um:
        yield least("clearance_below_um", part.below_um)


@deduction(
    "seen.flat",
    "Where a card was seen to lie flat with nothing beneath, and the cover closes over it, there is its room and no pad.",
    CardSocket,
    CARDS,
    SEEN,
)
def seen_flat(e: Evidence, slot: CardSocket, part: Any) -> Iterator[Bound]:
    if slot.form != "m2" or not e.lies_flat:
        return
    if part.above_um:
        yield least("clearance_above_um", part.above_um)
    if part.below_um:
        yield least("clearance_below_um", part.below_um)
    if isinstance(slot, DriveSlot):
        yield among("pad_below", ("none", "removable"))  # one that was there comes out


@deduction("seen.leads", "Antenna leads that were counted at a card are there.", CardSocket, CARDS, SEEN)
def seen_leads(e: Evidence, slot: CardSocket, part: Any) -> Iterator[Bound]:
    if e.leads is not None and slot.form != "soldered" and isinstance(slot, RadioSlot | CellularSlot):
        yield is_("leads", e.leads)


@deduction(
    "runs.drive_size",
    "A drive place takes at least the drive that works in it.",
    (DriveSlot, BaySlot),
    (M2Drive, BayDrive),
    WORKS,
    DELIVERED,
)
def drive_size(e: Evidence, slot: DriveSlot | BaySlot, part: M2Drive | BayDrive) -> Iterator[Bound]:
    yield least("drive_limit_gb", part.capacity_gb)


@deduction(
    "runs.boots",
    "Firmware starts from the interface of the drive it started from.",
    DriveSlot,
    M2Drive,
    WORKS,
    DELIVERED,
)
def boots(e: Evidence, slot: DriveSlot, part: M2Drive) -> Iterator[Bound]:
    if e.boots and part.interface == "pcie" and slot.form != "soldered":
        yield is_("starts_nvme", True, place="boot")
        # The system on it sees it, whatever the storage mode.
        yield is_("mode_driver", True, place="boot")


@deduction(
    "runs.radio_bus", "A radio slot is wired for the bus its radio works by.", RadioSlot, Radio, WORKS, DELIVERED
)
def radio_bus(e: Evidence, slot: RadioSlot, part: Radio) -> Iterator[Bound]:
    if slot.form == "soldered":
        return
    if part.bus == "pcie":
        yield least("pcie_lanes", 1)
        yield from _link(e)
        # Of a CNVi radio Bluetooth on USB proves nothing; a delivered radio's Bluetooth was wired by its maker.
        if e.bluetooth or (e.grade is DELIVERED and part.bluetooth):
            yield is_("usb", True)
    elif part.bus == "cnvi":
        yield is_("cnvi_wired", True)
        yield holds("cnvi", part.number)


@deduction(
    "runs.modem_bus", "A cellular slot is wired for the bus its modem works by.", CardSocket, Cellular, WORKS, DELIVERED
)
def modem_bus(e: Evidence, slot: CardSocket, part: Cellular) -> Iterator[Bound]:
    if part.bus == "usb":
        yield is_("usb", True)
    elif part.bus == "pcie":
        yield least("pcie_lanes", 1)


@deduction("runs.leads", "Each chain that hears well has its lead.", RadioSlot, Radio, WORKS)
def leads(e: Evidence, slot: RadioSlot, part: Radio) -> Iterator[Bound]:
    strongest = max(e.chains_dbm, default=-200)
    hearing = [c for c in e.chains_dbm if c > HEARS_DBM and strongest - c <= APART_DB]
    if hearing:
        yield least("leads", min(len(hearing), 4))


@deduction(
    "seen.plug",
    "The leads seen on a card have its receptacle's family, where no adapter is between.",
    RadioSlot,
    Radio,
    SEEN,
)
def plug(e: Evidence, slot: RadioSlot, part: Radio) -> Iterator[Bound]:
    if part.plug and slot.form != "soldered":
        yield is_("plug", part.plug)


# -- bay and battery --------------------------------------------------------------------------------
@deduction(
    "runs.bay",
    "A bay is as tall as the drive that works in it, and its plug is there.",
    BaySlot,
    BayDrive,
    WORKS,
    DELIVERED,
)
def bay(e: Evidence, slot: BaySlot, part: BayDrive) -> Iterator[Bound]:
    if part.height_um:
        yield least("height_um", part.height_um)
    if e.grade is WORKS:
        yield is_("ribbon", "present")


@deduction(
    "seen.bay",
    "Caddy and screws of a drive that was looked at are there, and a drive as tall or taller wants no spacer.",
    BaySlot,
    BayDrive,
    SEEN,
)
def bay_seen(e: Evidence, slot: BaySlot, part: BayDrive) -> Iterator[Bound]:
    yield is_("caddy", "present")
    yield is_("screws", "present")
    if part.height_um:
        yield holds("held_um", part.height_um)


@deduction("runs.pack", "A pack that works shows the machine's plug.", BatterySlot, Pack, WORKS, DELIVERED)
def pack_plug(e: Evidence, slot: BatterySlot, part: Pack) -> Iterator[Bound]:
    if part.connector:
        yield is_("connector", part.connector)


@deduction("delivered.pack", "The maker's own pack tells number and voltage.", BatterySlot, Pack, DELIVERED)
def pack_own(e: Evidence, slot: BatterySlot, part: Pack) -> Iterator[Bound]:
    yield holds("accepts", part.number)
    if part.voltage_mv:
        yield is_("voltage_mv", part.voltage_mv)
    if part.charge_mv:
        yield is_("charge_mv", part.charge_mv)
