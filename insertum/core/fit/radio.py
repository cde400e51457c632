"""Radio rules (rules.md section 5)."""

from collections.abc import Iterator

from ..base import plural
from ..claim import settle
from ..machine import RadioSlot
from ..part import Radio
from ..verdict import Finding, held, measure, note, refused
from .build import Build
from .card import belongs, listed, plug_mates, unknown_card
from .rulebook import rule


@rule(
    "radio.wiring",
    "The slot's wiring must carry the card's bus.",
    "PCI-SIG M.2 key E pinout; host radio lists",
    RadioSlot,
    Radio,
)
def wiring(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if not belongs(slot, part):
        return
    if part.bus is None:
        yield unknown_card("bus is", "bus", "Its data sheet says PCIe or CNVi.")
    elif part.bus == "pcie":
        wired = settle(slot.pcie)
        if wired.value == "none":
            yield refused("A PCIe radio does not work in a CNVi-only slot.", wired.why, short="no PCIe here")
        elif wired.value is None:
            yield measure(
                "Whether the radio slot is wired for PCIe is unknown.",
                f"{slot.id}.pcie",
                "Read the fitted card's bus from the running system.",
                short="PCIe wiring unknown",
            )
    else:
        companions = settle(slot.cnvi)
        if companions.value is None:
            yield measure(
                "Which companion radios this host takes is unknown.",
                f"{slot.id}.cnvi",
                "Look up the processor's radio list.",
                short="host radio unknown",
            )
        elif not companions.value:
            yield refused(
                "This host has no radio of its own; a CNVi card needs one.", companions.why, short="no host radio"
            )
        elif part.number in companions.value or part.fru in companions.value:
            return
        elif part.host_generation and (host := settle(slot.host_generation).value) and part.host_generation > host:
            yield refused(
                f"A radio for host generation {part.host_generation} does not work with host generation {host}.",
                companions.why,
                short="newer than the host",
            )
        else:
            yield measure(
                "The host's radio list does not name this card.",
                f"{slot.id}.cnvi",
                "A newer radio in an older host does not work; ask for this pairing in writing.",
                companions.why,
                short="not on host's list",
            )


@rule(
    "radio.bluetooth",
    "No USB in the slot means no Bluetooth for a PCIe card.",
    "PCI-SIG M.2 key E: Bluetooth rides on USB",
    RadioSlot,
    Radio,
)
def bluetooth(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if not belongs(slot, part):
        return
    if part.bluetooth == "" or part.bus == "cnvi":
        return
    usb = settle(slot.usb)
    if usb.value is None:
        yield measure(
            "Whether the slot carries USB is unknown.",
            f"{slot.id}.usb",
            "See if the fitted card's Bluetooth shows up.",
            short="USB unknown",
        )
    elif not usb.value:
        yield held("The slot carries no USB: its Bluetooth is lost.", usb.why, short="no Bluetooth")


@rule(
    "radio.allowlist",
    "Firmware that lists cards takes only those, by their own id.",
    "machine claims: card policy and listed FRUs",
    RadioSlot,
    Radio,
)
def allowlist(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if belongs(slot, part):
        yield from listed(slot, part, build, "card")


@rule("radio.tied", "Some radios work with one processor maker only.", "attribute of the part", RadioSlot, Radio)
def tied(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if not part.tied_to:
        return
    processor = build.machine.configuration.processor.strip()
    if processor.lower() in ("", "unknown"):
        yield measure(
            f"It works with {part.tied_to} processors only, and the processor is unknown.",
            "configuration.processor",
            "Identify the configuration, or read the machine.",
            short="processor unknown",
        )
    elif f" {part.tied_to} ".lower() not in f" {processor} ".lower():
        yield refused(
            f"It works with {part.tied_to} processors only; this machine has a {processor}.",
            short="another processor maker",
        )


@rule("radio.drivers", "Drivers or systems may lack a standard or a band.", "attribute of the part", RadioSlot, Radio)
def drivers(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if part.system_limits:
        yield note(f"Its drivers: {part.system_limits}.")


@rule(
    "radio.leads",
    "A card uses as many antennas as it has streams.",
    "IEEE 802.11: one antenna a stream",
    RadioSlot,
    Radio,
)
def leads(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if not belongs(slot, part):
        return
    there = settle(slot.leads)
    if part.streams is None:
        yield unknown_card("streams are", "streams", "2×2 on the data sheet is two streams.")
    elif there.value is None:
        yield measure(
            "How many antenna leads there are is unknown.",
            f"{slot.id}.leads",
            "Count the leads at the fitted card.",
            short="leads unknown",
        )
    elif there.value == 0:
        yield refused("No antenna lead reaches this slot.", there.why, short="no antenna")
    elif there.value < part.streams:
        yield held(
            f"{plural(there.value, 'lead')} for {part.streams} streams.", there.why, short=plural(there.value, "lead")
        )
    elif there.value > part.streams:
        yield note(f"{there.value - part.streams} lead stays over: insulate its plug.")


@rule(
    "radio.plug",
    "Antenna plug and receptacle are of one family.",
    "MHF1 and MHF4 receptacles do not mate",
    RadioSlot,
    Radio,
)
def plug(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if belongs(slot, part):
        yield from plug_mates(slot, part, build)


@rule(
    "radio.bands",
    "Antennas reach only the bands they were made for.",
    "IEEE 802.11 bands at 2.4, 5 and 6 GHz; antenna claims",
    RadioSlot,
    Radio,
)
def bands(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if not belongs(slot, part):
        return
    made = settle(slot.antenna_bands)
    if part.bands is None:
        yield unknown_card("bands are", "bands", "Its data sheet names 2.4, 5 and 6 GHz.")
    elif made.value is None:
        yield measure(
            "Which bands the antennas were made for is unknown.",
            f"{slot.id}.antenna_bands",
            "Look at the print on the antenna or in the maker's specification.",
            short="antenna bands unknown",
        )
    elif missing := [b for b in part.bands if b not in made.value]:
        yield held(
            f"{' and '.join(missing)} GHz reach is not assured on antennas made for {' and '.join(made.value)}.",
            made.why,
            short=f"{missing[0]} GHz not assured",
        )
    if part.bands is not None and "6" in part.bands:
        yield note(
            "6 GHz use, power and modular approval are set by the country.",
            caution="Local rules decide whether it may transmit here.",
        )
