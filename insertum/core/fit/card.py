"""What any card meets in any card socket: form, key, size, room above and below (rules.md section 4)."""

from collections.abc import Iterator

from ..machine.card_sockets import CardSocket
from ..machine.part import CARDS
from ..verdict import AccessoryNeed, Said, harm, note, refused
from .rulebook import rule
from .shape_facts import CardFacts, CardSocketFacts, CellularFacts, CellularSlotFacts, RadioFacts, RadioSlotFacts
from .views import BuildView

#: mini PCIe and mSATA card lengths in mm (PCI-SIG PCI Express Mini Card, full and half).
MINI_MM = {"half": 26.8, "full": 50.95}


def both_m2(slot: CardSocketFacts, part: CardFacts) -> bool:
    """M.2 rules speak of an M.2 card at an M.2 socket; other pairs are refused by ``card.form``."""
    return bool(slot.form == part.form == "m2")


def belongs(slot: CardSocketFacts, part: CardFacts) -> bool:
    """Is the card of the kind the slot is for, and could it get in at all?"""
    return bool(slot.form == part.form and slot.kind == part.kind)


@rule(
    "card.form",
    "An M.2 card, a mini card and a soldered place never meet.",
    "PCI-SIG M.2; PCI-SIG Mini Card: another connector",
    CardSocket,
    CARDS,
)
def form(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if slot.form == "soldered":
        yield refused(f"{slot.name} is soldered to the board: nothing goes in.", short="soldered", keeps_out=True)
    elif part.form == "m2" and part.kind == "radio" and part.width_mm == 12 and part.length_mm == 16:
        yield refused(
            "A 1216 module is soldered to a board: it has no edge to plug in.", short="1216, soldered", keeps_out=True
        )
    elif slot.form != part.form:
        names = {"m2": "M.2", "mini": "mini"}
        yield refused(
            f"{names[part.form]} card, {names[slot.form]} socket: another connector.",
            short=f"{names[part.form]} card, {names[slot.form]} socket",
            caution="Never force a card into another connector.",
            keeps_out=True,
        )


_PURPOSE = {
    ("radio", "m2_drive"): ("The Wi-Fi card's slot takes no drive, even when it looks free.", "no drive here"),
    ("cellular", "m2_drive"): ("The cellular slot is wired for a modem, not for a drive.", "no drive here"),
    ("m2_drive", "radio"): ("A drive slot takes no Wi-Fi card: no antennas reach it.", "no Wi-Fi here"),
    ("cellular", "radio"): ("The cellular slot takes no Wi-Fi card.", "no Wi-Fi here"),
    ("m2_drive", "cellular"): ("A drive slot takes no cellular card: no antennas reach it.", "no cellular here"),
    ("radio", "cellular"): ("The Wi-Fi card's slot takes no cellular card.", "no cellular here"),
}


@rule(
    "m2.purpose",
    "A Wi-Fi card's slot takes no drive, a drive slot no Wi-Fi card, a cellular slot only a modem.",
    "PCI-SIG M.2: key E carries PCIe ×1 and USB without storage support; antennas and SIM reach one slot each",
    CardSocket,
    CARDS,
)
def purpose(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if wrong := _PURPOSE.get((slot.kind, part.kind)):
        yield refused(wrong[0], short=wrong[1])


def listed(slot: CardSocketFacts, part: CardFacts, noun: str) -> Iterator[Said]:
    """What firmware that lists cards says of one: holds under every school (rules.md section 2)."""
    # The id of a card that works here today is one the firmware takes, whatever it lists. Lists speak of card ids: the
    # same retail card with another id is another card.
    if slot.card_policy == "any" or slot.accepts_card(part):
        return
    if part.fru not in slot.listed_cards:
        yield refused(
            f"The firmware takes only listed {noun}s, and this one is not on its list.",
            short="not on the card list",
            remedy=f"The same {noun} under a listed number.",
        )


def plug_mates(
    slot: RadioSlotFacts | CellularSlotFacts, part: RadioFacts | CellularFacts, build: BuildView
) -> Iterator[Said]:
    """Antenna plug against receptacle, as measured; adapter leads in that direction are the remedy."""
    if slot.plug == part.plug:
        return
    if build.serves("adapter_leads", from_plug=slot.plug, to_plug=part.plug):
        yield note("With adapter leads.", short="with adapter leads")
        return
    yield refused(
        f"{slot.plug} plugs do not mate with {part.plug} receptacles.",
        short=f"{slot.plug} leads",
        remedy=f"Adapter leads from {slot.plug} to {part.plug}.",
        caution="A forced plug tears the receptacle off the card.",
        needs=AccessoryNeed(supplies="adapter_leads", from_plug=slot.plug, to_plug=part.plug),
    )


@rule(
    "mini.size",
    "A mini card is held down at its own size; a half card in a full place needs a bracket.",
    "PCI-SIG Mini Card: half 26.8 mm, full 50.95 mm",
    CardSocket,
    CARDS,
)
def mini_size(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if slot.form != "mini" or part.form != "mini" or part.mini_size in slot.mini_sizes:
        return
    if part.mini_size == "full":
        yield refused("A full card does not lie in a half place.", short="full card, half place", keeps_out=True)
    elif build.serves("bracket", from_mm=MINI_MM["half"], to_mm=(MINI_MM["full"],)):
        yield note("A bracket draws the half card out to the posts.", short="with bracket")
    else:
        yield refused(
            "No post for a half card; the next is for a full one.",
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
def key(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if both_m2(slot, part) and slot.key not in part.keys:
        yield refused(
            f"A card with key {'+'.join(part.keys)} does not enter a key {slot.key} socket.",
            short=f"key {'+'.join(part.keys)} into key {slot.key}",
            caution="Never force a card over a key: contacts bend and power meets signal.",
            keeps_out=True,
        )


@rule(
    "m2.width",
    "A card lies only in a place as wide as it is.",
    "PCI-SIG M.2: widths 12, 16, 22, 30 mm",
    CardSocket,
    CARDS,
    more=("width_mm",),
    less=("part.width_mm",),
)
def width(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if both_m2(slot, part) and part.width_mm > slot.width_mm:
        yield refused(
            f"{part.width_mm} mm wide; the place is {slot.width_mm} mm.",
            short=f"{part.width_mm} mm wide",
            keeps_out=True,
        )


@rule(
    "m2.length",
    "A card is held down at its own length; a shorter one needs a bracket.",
    "PCI-SIG M.2: lengths 16 … 110 mm; standoffs are machine data",
    CardSocket,
    CARDS,
)
def length(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if not both_m2(slot, part) or part.length_mm in slot.holds_mm:
        return
    long = part.length_mm
    longer = tuple(float(s) for s in slot.standoffs_mm.above(long))
    if not longer:
        most = slot.standoffs_mm.farthest()
        yield refused(
            f"{long} mm long; the farthest standoff is at {most} mm."
            if most
            else f"No standoff holds a card of {long} mm.",
            short=f"{long} mm into {most} mm" if most else "no standoff",
            caution="Do not leave a card unscrewed or bent.",
            keeps_out=True,
        )
    elif build.serves("bracket", from_mm=long, to_mm=longer):
        yield note(f"A bracket draws the {long} mm card out to the standoff.", short="with bracket")
    else:
        yield refused(
            f"No standoff at {long} mm; the next is at {longer[0]:g} mm.",
            short=f"no standoff at {long} mm",
            remedy=f"A bracket from {long} to {longer[0]:g} mm.",
            needs=AccessoryNeed(supplies="bracket", from_mm=long, to_mm=longer),
        )


@rule(
    "m2.below",
    "Parts on the card's underside need room below it.",
    "PCI-SIG M.2: component heights; socket heights H2.3 … H4.2",
    CardSocket,
    CARDS,
    more=("clearance_below_um",),
    less=("part.below_um",),
    harms=True,
)
def below(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if not both_m2(slot, part) or part.below_um == 0:
        return
    tall = part.below_um
    if slot.kind == "m2_drive":
        pad = slot.pad_below
        if pad == "stays":
            yield harm(
                "The pad under the drive stays, so a card with chips below is pressed on it.",
                short="chips on the pad below",
                caution="It goes in and bends. Take a single-sided card.",
            )
        elif pad == "removable":
            yield note("The pad below has to come out for this card; it then cools from above only.")
    if under := slot.fixed_posts_mm.below(part.length_mm):
        yield harm(
            f"The post at {under} mm stays and stands as high as the card: chips below are pressed on it.",
            short=f"on the post at {under} mm",
            caution="It goes in and bends. Take a single-sided card.",
        )
    elif tall > slot.clearance_below_um:
        yield harm(
            f"{tall / 1000:.2f} mm of parts below, room for {slot.clearance_below_um / 1000:.2f} mm.",
            short="presses on the board",
            caution="It goes in and presses on the parts below it.",
        )


@rule(
    "m2.above",
    "Parts on the card's top need room under the shield or cover.",
    "PCI-SIG M.2: component heights above the board",
    CardSocket,
    CARDS,
    more=("clearance_above_um",),
    less=("part.above_um",),
)
def above(slot: CardSocketFacts, part: CardFacts, build: BuildView) -> Iterator[Said]:
    if both_m2(slot, part) and part.above_um > slot.clearance_above_um:
        yield refused(
            f"{part.above_um / 1000:.2f} mm of parts above, room for {slot.clearance_above_um / 1000:.2f} mm.",
            short="too tall above",
            caution="Do not close the cover on it.",
        )
