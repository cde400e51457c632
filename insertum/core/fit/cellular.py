"""Cellular rules (rules.md section 5): wiring, antennas, SIM tray, firmware list."""

from collections.abc import Iterator

from ..machine.card_sockets import CellularSlot
from ..machine.radio_parts import Cellular
from ..phrases import plural
from ..verdict import Said, held, note, refused
from .card import belongs, listed, plug_mates
from .rulebook import rule
from .shape_facts import CellularFacts, CellularSlotFacts
from .views import BuildView


@rule(
    "cellular.wiring",
    "The slot's wiring must carry the card's bus.",
    "PCI-SIG M.2 key B: USB or PCIe; machine claims",
    CellularSlot,
    Cellular,
)
def wiring(slot: CellularSlotFacts, part: CellularFacts, build: BuildView) -> Iterator[Said]:
    if not belongs(slot, part):
        return
    if not (slot.usb if part.bus == "usb" else slot.pcie_lanes):
        name = {"pcie": "PCIe", "usb": "USB"}[part.bus]
        yield refused(f"A {name} card does not work in a slot without {name} wiring.", short=f"no {name} here")


@rule(
    "cellular.antennas",
    "A cellular card wants the antennas it was made for.",
    "3GPP: up to four antennas; machine claims: leads in the case",
    CellularSlot,
    Cellular,
    more=("leads",),
    less=("part.antennas",),
)
def antennas(slot: CellularSlotFacts, part: CellularFacts, build: BuildView) -> Iterator[Said]:
    if not belongs(slot, part):
        return
    if slot.leads == 0:
        yield refused("No antenna was fitted for it when the machine was ordered.", short="no antennas")
    elif slot.leads < part.antennas:
        yield held(
            f"It uses {plural(part.antennas, 'antenna')}; {slot.leads} are there: slower, less reach.",
            short=f"{slot.leads} of {part.antennas} antennas",
        )


@rule(
    "cellular.sim",
    "Without a SIM tray there is no network.",
    "machine claims: SIM tray present or missing",
    CellularSlot,
    Cellular,
)
def sim(slot: CellularSlotFacts, part: CellularFacts, build: BuildView) -> Iterator[Said]:
    if belongs(slot, part) and slot.sim_tray == "missing":
        yield refused("The machine was made without a SIM tray.", short="no SIM tray")


@rule(
    "cellular.plug",
    "Antenna plug and receptacle are of one family.",
    "MHF1 and MHF4 do not mate",
    CellularSlot,
    Cellular,
)
def plug(slot: CellularSlotFacts, part: CellularFacts, build: BuildView) -> Iterator[Said]:
    if belongs(slot, part):
        yield from plug_mates(slot, part, build)


@rule(
    "cellular.allowlist",
    "Firmware that lists cards takes only those, by their own id.",
    "machine claims: card policy and listed FRUs",
    CellularSlot,
    Cellular,
)
def allowlist(slot: CellularSlotFacts, part: CellularFacts, build: BuildView) -> Iterator[Said]:
    if belongs(slot, part):
        yield from listed(slot, part, "card")


@rule(
    "cellular.approval",
    "Cellular modules are approved country by country.",
    "local radio rules",
    CellularSlot,
    Cellular,
)
def approval(slot: CellularSlotFacts, part: CellularFacts, build: BuildView) -> Iterator[Said]:
    yield note("Bands and approval are set by the country.", caution="Local rules decide whether it may transmit here.")
