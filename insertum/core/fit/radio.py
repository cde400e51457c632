"""Radio rules (rules.md section 5)."""

from collections.abc import Iterator

from ..machine.card_sockets import RadioSlot
from ..machine.radio_parts import Radio
from ..phrases import plural
from ..verdict import Said, held, note, refused
from .card import belongs, listed, plug_mates
from .rulebook import rule
from .shape_facts import RadioFacts, RadioSlotFacts
from .views import BuildView


@rule(
    "radio.wiring",
    "The slot's wiring must carry the card's bus.",
    "PCI-SIG M.2 key E pinout; host radio lists",
    RadioSlot,
    Radio,
)
def wiring(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if not belongs(slot, part):
        return
    if part.bus == "pcie":
        if slot.pcie_lanes == 0:
            yield refused("A PCIe card does not work in a CNVi-only slot.", short="no PCIe here")
    elif not slot.cnvi_wired:
        yield refused("The slot is not wired for companion radios.", short="no CNVi here", remedy="A PCIe card.")
    elif not slot.companions_take(part):
        yield refused(
            "This host does not take this companion radio: its list does not name the card.",
            short="not on host's list",
            remedy="A card the host's list names.",
        )


@rule(
    "radio.bluetooth",
    "No USB in the slot means no Bluetooth for a PCIe card.",
    "PCI-SIG M.2 key E: Bluetooth rides on USB",
    RadioSlot,
    Radio,
    shown="bluetooth",
)
def bluetooth(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if belongs(slot, part) and part.bus == "pcie" and part.bluetooth and not slot.usb:
        yield held("The slot carries no USB: its Bluetooth is lost.", short="no Bluetooth")


@rule(
    "radio.allowlist",
    "Firmware that lists cards takes only those, by their own id.",
    "machine claims: card policy and listed FRUs",
    RadioSlot,
    Radio,
)
def allowlist(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if belongs(slot, part):
        yield from listed(slot, part, "card")


@rule("radio.tied", "Some Wi-Fi cards work with one processor maker only.", "attribute of the part", RadioSlot, Radio)
def tied(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if part.tied_to and not build.made_by(part.tied_to):
        yield refused(
            f"It works with {part.tied_to} processors only; this machine has another.", short="another processor maker"
        )


@rule(
    "radio.drivers",
    "A driver may lack a standard, a band, or the owner's system altogether.",
    "attribute of the part; the owner's system, where the job names it",
    RadioSlot,
    Radio,
)
def drivers(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if part.system_limits:
        yield note(f"Its drivers: {part.system_limits}.")
    if not build.system:
        return
    match build.driver(part):
        case "none":
            yield refused(f"There is no driver for {build.system}.", short="no driver")
        case "older":
            yield held(f"Its driver for {build.system} serves an older standard only.", short="older standard only")


@rule(
    "radio.leads",
    "A card uses as many antennas as it has streams.",
    "IEEE 802.11: one antenna a stream",
    RadioSlot,
    Radio,
    more=("leads",),
    less=("part.streams",),
)
def leads(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if not belongs(slot, part):
        return
    if slot.leads == 0:
        yield refused("No antenna lead reaches this slot.", short="no antenna")
    elif slot.leads < part.streams:
        yield held(f"{plural(slot.leads, 'lead')} for {part.streams} streams.", short=plural(slot.leads, "lead"))
    elif slot.leads > part.streams:
        spare = slot.leads - part.streams
        yield note(f"{plural(spare, 'lead')} {'stays' if spare == 1 else 'stay'} over: insulate the plug.")


@rule(
    "radio.plug",
    "Antenna plug and receptacle are of one family.",
    "MHF1 and MHF4 receptacles do not mate",
    RadioSlot,
    Radio,
)
def plug(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if belongs(slot, part):
        yield from plug_mates(slot, part, build)


@rule(
    "radio.bands",
    "Antennas reach only the bands they were made for.",
    "IEEE 802.11 bands at 2.4, 5 and 6 GHz; antenna claims",
    RadioSlot,
    Radio,
    shown="bands",
)
def bands(slot: RadioSlotFacts, part: RadioFacts, build: BuildView) -> Iterator[Said]:
    if not belongs(slot, part):
        return
    if missing := [b for b in part.bands if b not in slot.antenna_bands]:
        yield held(
            f"{' and '.join(missing)} GHz reach is not assured on antennas not made for it.",
            short=f"{missing[0]} GHz not assured",
        )
    if "6" in part.bands:
        yield note(
            "6 GHz use, power and modular approval are set by the country.",
            caution="Local rules decide whether it may transmit here.",
        )
