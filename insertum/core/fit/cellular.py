"""Cellular rules (rules.md section 5): wiring, antennas, SIM tray, firmware list."""

from collections.abc import Iterator

from ..base import plural
from ..claim import settle
from ..machine import CellularSlot, Presence
from ..part import Cellular
from ..verdict import Finding, held, measure, note, refused
from .build import Build
from .card import belongs, listed, plug_mates, unknown_card
from .rulebook import rule


@rule(
    "cellular.wiring",
    "The slot's wiring must carry the card's bus.",
    "PCI-SIG M.2 key B: USB or PCIe; machine claims",
    CellularSlot,
    Cellular,
)
def wiring(slot: CellularSlot, part: Cellular, build: Build) -> Iterator[Finding]:
    if not belongs(slot, part):
        return
    if part.bus is None:
        yield unknown_card("bus is", "bus", "Its data sheet says USB or PCIe.")
        return
    if part.bus == "usb":
        usb = settle(slot.usb)
        there, why, attribute = usb.value, usb.why, "usb"
    else:
        pcie = settle(slot.pcie)
        there, why, attribute = (None if pcie.value is None else pcie.value != "none"), pcie.why, "pcie"
    name = part.bus.replace("pcie", "PCIe").replace("usb", "USB")
    if there is None:
        yield measure(
            f"Whether the cellular slot is wired for {name} is unknown.",
            f"{slot.id}.{attribute}",
            "Look in the service manual for this exact order.",
            why,
            short=f"{name} wiring unknown",
        )
    elif not there:
        yield refused(f"A {name} card does not work in a slot without {name} wiring.", why, short=f"no {name} here")


@rule(
    "cellular.antennas",
    "A cellular card wants the antennas it was made for.",
    "3GPP: up to four antennas; machine claims: leads in the case",
    CellularSlot,
    Cellular,
)
def antennas(slot: CellularSlot, part: Cellular, build: Build) -> Iterator[Finding]:
    if not belongs(slot, part):
        return
    there = settle(slot.leads)
    if there.value == 0:
        yield refused("No antenna was fitted for it when the machine was ordered.", there.why, short="no antennas")
    elif part.antennas is None:
        yield unknown_card("antennas are", "antennas", "Count the receptacles it uses on its data sheet.")
    elif there.value is None:
        yield measure(
            "How many cellular antenna leads there are is unknown.",
            f"{slot.id}.leads",
            "Look for taped-down leads beside the empty slot.",
            there.why,
            short="antennas unknown",
        )
    elif there.value < part.antennas:
        yield held(
            f"It uses {plural(part.antennas, 'antenna')}; {there.value} are there: slower, less reach.",
            there.why,
            short=f"{there.value} of {part.antennas} antennas",
        )


@rule(
    "cellular.sim",
    "Without a SIM tray there is no network.",
    "machine claims: SIM tray present or missing",
    CellularSlot,
    Cellular,
)
def sim(slot: CellularSlot, part: Cellular, build: Build) -> Iterator[Finding]:
    if not belongs(slot, part):
        return
    tray = settle(slot.sim_tray)
    if tray.value is Presence.MISSING:
        yield refused("The machine was made without a SIM tray.", tray.why, short="no SIM tray")
    elif tray.value is None:
        yield measure(
            "Whether there is a SIM tray is unknown.",
            f"{slot.id}.sim_tray",
            "Look along the edges and under the battery for a tray or its blank.",
            tray.why,
            short="SIM tray unknown",
        )


@rule(
    "cellular.plug",
    "Antenna plug and receptacle are of one family.",
    "MHF1 and MHF4 do not mate",
    CellularSlot,
    Cellular,
)
def plug(slot: CellularSlot, part: Cellular, build: Build) -> Iterator[Finding]:
    if belongs(slot, part):
        yield from plug_mates(slot, part, build)


@rule(
    "cellular.allowlist",
    "Firmware that lists cards takes only those, by their own id.",
    "machine claims: card policy and listed FRUs",
    CellularSlot,
    Cellular,
)
def allowlist(slot: CellularSlot, part: Cellular, build: Build) -> Iterator[Finding]:
    if belongs(slot, part):
        yield from listed(slot, part, build, "card")


@rule(
    "cellular.approval",
    "Cellular modules are approved country by country.",
    "local radio rules",
    CellularSlot,
    Cellular,
)
def approval(slot: CellularSlot, part: Cellular, build: Build) -> Iterator[Finding]:
    yield note("Bands and approval are set by the country.", caution="Local rules decide whether it may transmit here.")
