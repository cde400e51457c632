"""What any card meets in any card socket: form, key, size, room above and below (rules.md section 4)."""

from collections.abc import Iterator

from ..claim import Limits, settle
from ..machine import CardSocket, CellularSlot, DriveSlot, RadioSlot
from ..part import CARDS, Cellular, M2Drive, Radio
from ..standards import m2
from ..verdict import AccessoryNeed, Finding, harm, held, measure, note, refused
from .build import Build
from .rulebook import rule

Card = M2Drive | Radio | Cellular
Socket = DriveSlot | RadioSlot | CellularSlot
#: mini PCIe and mSATA card lengths in mm (PCI-SIG PCI Express Mini Card, full and half).
MINI_MM = {"half": 26.8, "full": 50.95}
_MANUAL = "Look at the socket and its print on the board, or in the service manual."


def unknown_card(what: str, attribute: str, how: str) -> Finding:
    return measure(f"The card's {what} unknown.", f"part.{attribute}", how, short=f"card's {what} unknown")


def both_m2(slot: Socket, part: Card) -> bool:
    """M.2 rules speak of an M.2 card at an M.2 socket; other pairs are refused by ``card.form``."""
    return slot.form == part.form == "m2"


def belongs(slot: Socket, part: Card) -> bool:
    """Is the card of the kind the slot is for, and could it get in at all?"""
    return slot.form == part.form and slot.kind == part.kind


@rule(
    "card.form",
    "An M.2 card, a mini card and a soldered place never meet.",
    "PCI-SIG M.2; PCI-SIG Mini Card: another connector",
    CardSocket,
    CARDS,
)
def form(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if slot.form == "soldered":
        yield refused(f"{slot.name} is soldered to the board: nothing goes in.", short="soldered")
    elif slot.form != part.form:
        names = {"m2": "M.2", "mini": "mini"}
        yield refused(
            f"{names[part.form]} card, {names[slot.form]} socket: another connector.",
            short=f"{names[part.form]} card, {names[slot.form]} socket",
            caution="Never force a card into another connector.",
        )


_PURPOSE = {
    ("radio", "m2_drive"): ("The radio slot takes no drive, even when it looks free.", "no drive here"),
    ("cellular", "m2_drive"): ("The cellular slot is wired for a modem, not for a drive.", "no drive here"),
    ("m2_drive", "radio"): ("A drive slot takes no radio: no antennas reach it.", "no radio here"),
    ("cellular", "radio"): ("The cellular slot takes no radio of this kind.", "no radio here"),
    ("m2_drive", "cellular"): ("A drive slot takes no cellular card: no antennas reach it.", "no cellular here"),
    ("radio", "cellular"): ("The radio slot takes no cellular card.", "no cellular here"),
}


@rule(
    "m2.purpose",
    "A radio slot takes no drive, a drive slot no radio, a cellular slot only a modem.",
    "PCI-SIG M.2: key E carries PCIe ×1 and USB without storage support; antennas and SIM reach one slot each",
    CardSocket,
    CARDS,
)
def purpose(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if wrong := _PURPOSE.get((slot.kind, part.kind)):
        yield refused(wrong[0], short=wrong[1])


def listed(slot: Socket, part: Card, build: Build, noun: str) -> Iterator[Finding]:
    """What firmware that lists cards says of one: holds under every school (rules.md section 2)."""
    policy, cards = settle(slot.card_policy, build.firmware), settle(slot.listed_cards, build.firmware)
    if policy.value == "any":
        return
    if policy.value is None:
        # A list that is known and lacks the card speaks against it, whoever enforces it.
        against = bool(cards.value) and part.fru not in (cards.value or ())
        if build.stance is Limits.OPEN and not against and not policy.conflict:
            yield held(
                f"Whether the firmware takes this {noun} is unproven.",
                policy.why,
                short="card list unproven",
                remedy=f"Keep the old {noun} and the right to return.",
            )
        else:
            yield measure(
                f"Whether the firmware accepts only listed {noun}s is unknown.",
                f"{slot.id}.card_policy",
                f"Ask the maker's manual or the sightings; or try with the old {noun} kept and the right to return.",
                policy.why,
                short="card list unknown",
            )
    elif cards.value is None or part.fru is None:
        attribute = f"{slot.id}.listed_cards" if cards.value is None else "part.fru"
        yield measure(
            f"The firmware lists {noun}s; whether this one is listed is unknown.",
            attribute,
            "Compare the card's own id with the list.",
            short="list unknown",
        )
    elif part.fru not in cards.value:
        yield refused(
            f"The firmware does not list {part.fru}.",
            policy.why,
            short="not on the card list",
            remedy=f"The same {noun} under a listed number.",
        )


def plug_mates(slot: RadioSlot | CellularSlot, part: Radio | Cellular, build: Build) -> Iterator[Finding]:
    """Antenna plug against receptacle, as measured; adapter leads are the remedy."""
    there = settle(slot.plug)
    if part.plug is None:
        yield unknown_card("receptacle is", "plug", "MHF1 is about 3 mm across, MHF4 about 2 mm.")
    elif there.value is None:
        yield measure(
            "The leads' plug family is unknown.",
            f"{slot.id}.plug",
            "Measure a plug: about 3 mm is MHF1, about 2 mm MHF4.",
            short="plug unknown",
        )
    elif there.value == part.plug:
        return
    elif build.has_accessory(slot.id, "adapter_leads"):
        yield note("With adapter leads.", short="with adapter leads")
    else:
        yield refused(
            f"{there.value} plugs do not mate with {part.plug} receptacles.",
            there.why,
            short=f"{there.value} leads",
            remedy="Adapter leads.",
            caution="A forced plug tears the receptacle off the card.",
            needs=AccessoryNeed(supplies="adapter_leads"),
        )


@rule(
    "mini.size",
    "A mini card is held down at its own size; a half card in a full place needs a bracket.",
    "PCI-SIG Mini Card: half 26.8 mm, full 50.95 mm",
    CardSocket,
    CARDS,
)
def mini_size(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if slot.form != "mini" or part.form != "mini":
        return
    places = settle(slot.mini_sizes)
    if part.mini_size is None:
        yield unknown_card("size is", "mini_size", "Measure its length: 27 mm is half, 51 mm full.")
    elif places.value is None:
        yield measure(
            "Which mini card sizes are held down here is unknown.",
            f"{slot.id}.mini_sizes",
            "Look for posts 27 and 51 mm from the contacts.",
            places.why,
            short="size unknown",
        )
    elif part.mini_size in places.value:
        return
    elif part.mini_size == "full":
        yield refused("A full card does not lie in a half place.", places.why, short="full card, half place")
    elif build.has_accessory(slot.id, "bracket"):
        yield note("A bracket draws the half card out to the posts.", short="with bracket")
    else:
        yield refused(
            "No post for a half card; the next is for a full one.",
            places.why,
            short="half card, full place",
            remedy="A bracket from half to full.",
            needs=AccessoryNeed(supplies="bracket", from_mm=MINI_MM["half"], to_mm=(MINI_MM["full"],)),
        )


@rule(
    "m2.key",
    "A card enters a socket whose key it has a notch for.",
    "PCI-SIG M.2: keys A 8-15, B 12-19, E 24-31, M 59-66",
    CardSocket,
    CARDS,
)
def key(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if not both_m2(slot, part):
        return
    socket = settle(slot.key)
    if part.keys is None:
        yield unknown_card("key is", "keys", "Look at its edge: notch on pins 12-19 is B, 59-66 M, 24-31 E, 8-15 A.")
    elif socket.value is None:
        yield measure("The socket's key is unknown.", f"{slot.id}.key", _MANUAL, socket.why, short="key unknown")
    elif socket.value not in part.keys:
        yield refused(
            f"A card with key {'+'.join(part.keys)} does not enter a key {socket.value} socket.",
            f"key {socket.value}: {socket.why}",
            short=f"key {'+'.join(part.keys)} into key {socket.value}",
            caution="Never force a card over a key: contacts bend and power meets signal.",
        )


@rule(
    "m2.width",
    "A card lies only in a place as wide as it is.",
    "PCI-SIG M.2: widths 12, 16, 22, 30 mm",
    CardSocket,
    CARDS,
)
def width(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if not both_m2(slot, part):
        return
    place = settle(slot.width_mm)
    if part.width_mm is None:
        yield unknown_card("size is", "width_mm", "The first two digits of its code, 2280, are the width in mm.")
    elif place.value is None:
        yield measure("The width of this place is unknown.", f"{slot.id}.width_mm", "Measure it with a rule.")
    elif part.width_mm > place.value:
        yield refused(
            f"{part.width_mm} mm wide; the place is {place.value} mm.", place.why, short=f"{part.width_mm} mm wide"
        )


@rule(
    "m2.length",
    "A card is held down at its own length; a shorter one needs a bracket.",
    "PCI-SIG M.2: lengths 16 … 110 mm; standoffs are machine data",
    CardSocket,
    CARDS,
)
def length(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if not both_m2(slot, part):
        return
    standoffs = settle(slot.standoffs_mm)
    long = part.length_mm
    if long is None:
        yield unknown_card(
            "length is", "length_mm", "The digits after the width in its code, 2280, are the length in mm."
        )
    elif standoffs.value is None:
        yield measure(
            "Which lengths have a standoff is unknown.",
            f"{slot.id}.standoffs_mm",
            "Look for threaded posts behind the socket: 30, 42, 60 or 80 mm from its contacts.",
            standoffs.why,
            short="standoffs unknown",
        )
    elif long in standoffs.value:
        return
    elif not standoffs.value or long > max(standoffs.value):
        most = max(standoffs.value, default=0)
        yield refused(
            f"{long} mm long; the farthest standoff is at {most} mm.",
            standoffs.why,
            short=f"{long} mm into {most} mm",
            caution="Do not leave a card unscrewed or bent.",
        )
    else:
        yield from _bracket(slot, long, tuple(float(s) for s in standoffs.value if s > long), build)


def _bracket(slot: Socket, long: int, longer: tuple[float, ...], build: Build) -> Iterator[Finding]:
    if build.has_accessory(slot.id, "bracket"):
        yield note(f"A bracket draws the {long} mm card out to the standoff.", short="with bracket")
        return
    need = AccessoryNeed(supplies="bracket", from_mm=long, to_mm=longer)
    brackets = settle(slot.bracket_mm) if isinstance(slot, DriveSlot) else None
    if brackets is not None and brackets.value is None:
        yield measure(
            f"No standoff at {long} mm, and whether the machine has a bracket is unknown.",
            f"{slot.id}.bracket_mm",
            "Look at the fitted card and in the owner's box for a bracket.",
            short="bracket unknown",
            needs=need,
        )
    elif brackets is None or long not in (brackets.value or ()):
        yield refused(
            f"No standoff at {long} mm; the next is at {longer[0]:g} mm.",
            short=f"no standoff at {long} mm",
            remedy=f"A bracket from {long} to {longer[0]:g} mm.",
            needs=need,
        )


@rule(
    "m2.below",
    "Parts on the card's underside need room below it.",
    "PCI-SIG M.2: component heights; socket heights H2.3 … H4.2",
    CardSocket,
    CARDS,
)
def below(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if not both_m2(slot, part):
        return
    tall = part.below_um
    if tall is None:
        yield unknown_card(
            "underside is", "below_um", "S in its code is bare below, D has chips there: look at the card."
        )
        return
    socket_key = settle(slot.key).value
    if tall == 0 or (socket_key and part.keys is not None and socket_key not in part.keys):
        return  # a card that cannot enter presses on nothing
    if isinstance(slot, DriveSlot):
        pad = settle(slot.pad_below)
        if pad.value == "stays":
            yield harm(
                "The pad under the drive stays, so a card with chips below is pressed on it.",
                pad.why,
                short="chips on the pad below",
                caution="It goes in and bends. Take a single-sided card.",
            )
        elif pad.value == "removable":
            yield note("The pad below has to come out for this card; it then cools from above only.")
        elif pad.value is None:
            yield measure(
                "Whether a pad lies under the drive is unknown.",
                f"{slot.id}.pad_below",
                "Lift the fitted card, or look under the shield with a torch.",
                pad.why,
                short="pad below unknown",
            )
    room, socket = settle(slot.clearance_below_um), settle(slot.socket_height)
    known = room.value if room.value is not None else m2.SOCKET_BELOW_UM.get(socket.value or "")
    if known is None or room.conflict:
        yield measure(
            f"The room below is unknown; this card needs {tall / 1000:.2f} mm.",
            f"{slot.id}.clearance_below_um",
            "Measure from the board to the underside of a card in the socket with feeler gauges.",
            room.why,
            short="height below unknown",
        )
    elif tall > known:
        yield harm(
            f"{tall / 1000:.2f} mm of parts below, room for {known / 1000:.2f} mm.",
            room.why if room.value is not None else f"socket {socket.value}",
            short="presses on the board",
            caution="It goes in and presses on the parts below it.",
        )


@rule(
    "m2.above",
    "Parts on the card's top need room under the shield or cover.",
    "PCI-SIG M.2: component heights above the board",
    CardSocket,
    CARDS,
)
def above(slot: Socket, part: Card, build: Build) -> Iterator[Finding]:
    if not both_m2(slot, part):
        return
    room = settle(slot.clearance_above_um)
    if part.above_um is None:
        yield unknown_card("top side is", "above_um", "Its code tells: 1 is 1.20, 2 is 1.35, 3 to 5 are 1.50 mm above.")
    elif room.value is None:
        yield measure(
            f"The room above is unknown; this card needs {part.above_um / 1000:.2f} mm.",
            f"{slot.id}.clearance_above_um",
            "Lay modelling clay on the fitted card, close the shield or cover, measure what is left.",
            room.why,
            short="height above unknown",
        )
    elif part.above_um > room.value:
        yield refused(
            f"{part.above_um / 1000:.2f} mm of parts above, room for {room.value / 1000:.2f} mm.",
            room.why,
            short="too tall above",
            caution="Do not close the cover on it.",
        )
