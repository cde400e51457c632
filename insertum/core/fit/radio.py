"""Radio rules (rules.md section 5)."""

from collections.abc import Iterator

from ..base import plural
from ..claim import Limits, settle
from ..machine import DriveSlot, RadioSlot
from ..part import M2Drive, Radio
from ..verdict import AccessoryNeed, Finding, held, measure, note, refused
from .build import Build
from .rulebook import rule


def _unknown_card(what: str, attribute: str, how: str) -> Finding:
    return measure(f"The card's {what} unknown.", f"part.{attribute}", how, short=f"card's {what} unknown")


@rule(
    "m2.purpose",
    "A radio slot takes no drive, and a drive slot no radio.",
    "PCI-SIG M.2: key E carries PCIe ×1 and USB without storage support; no antennas reach a drive slot",
    (RadioSlot, DriveSlot),
    (M2Drive, Radio),
)
def purpose(slot: RadioSlot | DriveSlot, part: M2Drive | Radio, build: Build) -> Iterator[Finding]:
    if isinstance(slot, RadioSlot) and isinstance(part, M2Drive):
        yield refused("The radio slot takes no drive, even when it looks free.", short="no drive here")
    elif isinstance(slot, DriveSlot) and isinstance(part, Radio):
        yield refused("A drive slot takes no radio: no antennas reach it.", short="no radio here")


@rule(
    "radio.wiring",
    "The slot's wiring must carry the card's bus.",
    "PCI-SIG M.2 key E pinout; host radio lists",
    RadioSlot,
    Radio,
)
def wiring(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    if part.bus is None:
        yield _unknown_card("bus is", "bus", "Its data sheet says PCIe or CNVi.")
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
        listed = settle(slot.cnvi)
        if listed.value is None:
            yield measure(
                "Which companion radios this host takes is unknown.",
                f"{slot.id}.cnvi",
                "Look up the processor's radio list.",
                short="host radio unknown",
            )
        elif not listed.value:
            yield refused(
                "This host has no radio of its own; a CNVi card needs one.", listed.why, short="no host radio"
            )
        elif part.number not in listed.value and part.fru not in listed.value:
            yield measure(
                "The host's radio list does not name this card.",
                f"{slot.id}.cnvi",
                "A newer radio in an older host does not work; ask for this pairing in writing.",
                listed.why,
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
    policy, listed = settle(slot.card_policy), settle(slot.listed_cards)
    if policy.value == "any":
        return
    if policy.value is None:
        # A list that is known and lacks the card speaks against it, whoever enforces it.
        against = bool(listed.value) and part.fru not in (listed.value or ())
        if build.stance is Limits.OPEN and not against:
            yield held(
                "Whether the firmware takes this card is unproven.",
                policy.why,
                short="card list unproven",
                remedy="Keep the old card and the right to return.",
            )
        else:
            yield measure(
                "Whether the firmware accepts only listed cards is unknown.",
                f"{slot.id}.card_policy",
                "Ask the maker's manual or the sightings; or try with the old card kept and the right to return.",
                policy.why,
                short="card list unknown",
            )
    elif listed.value is None or part.fru is None:
        attribute = f"{slot.id}.listed_cards" if listed.value is None else "part.fru"
        yield measure(
            "The firmware lists cards; whether this one is listed is unknown.",
            attribute,
            "Compare the card's own id with the list.",
            short="list unknown",
        )
    elif part.fru not in listed.value:
        yield refused(
            f"The firmware does not list {part.fru}.",
            policy.why,
            short="not on the card list",
            remedy="The same card under a listed number.",
        )


@rule(
    "radio.leads",
    "A card uses as many antennas as it has streams.",
    "IEEE 802.11: one antenna a stream",
    RadioSlot,
    Radio,
)
def leads(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    there = settle(slot.leads)
    if part.streams is None:
        yield _unknown_card("streams are", "streams", "2×2 on the data sheet is two streams.")
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
    there = settle(slot.plug)
    if part.plug is None:
        yield _unknown_card("receptacle is", "plug", "MHF1 is about 3 mm across, MHF4 about 2 mm.")
    elif there.value is None:
        yield measure(
            "The leads' plug family is unknown.",
            f"{slot.id}.plug",
            "Measure a plug: about 3 mm is MHF1, about 2 mm MHF4.",
            short="plug unknown",
        )
    elif there.value != part.plug and not build.has_accessory(slot.id, "adapter_leads"):
        yield refused(
            f"{there.value} plugs do not mate with {part.plug} receptacles.",
            there.why,
            short=f"{there.value} leads",
            remedy="Adapter leads.",
            caution="A forced plug tears the receptacle off the card.",
            needs=AccessoryNeed(supplies="adapter_leads"),
        )


@rule(
    "radio.bands",
    "Antennas reach only the bands they were made for.",
    "IEEE 802.11 bands at 2.4, 5 and 6 GHz; antenna claims",
    RadioSlot,
    Radio,
)
def bands(slot: RadioSlot, part: Radio, build: Build) -> Iterator[Finding]:
    made = settle(slot.antenna_bands)
    if part.bands is None:
        yield _unknown_card("bands are", "bands", "Its data sheet names 2.4, 5 and 6 GHz.")
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
