"""M.2 rules (rules.md section 4): what any card meets in any M.2 socket, then drives and boot."""

from collections.abc import Iterator

from ..claim import limit, settle
from ..machine import BaySlot, DriveSlot, M2Socket, RadioSlot
from ..part import BayDrive, M2Drive, Radio
from ..standards import m2, sata
from ..standards.pcie import Link
from ..verdict import AccessoryNeed, Finding, harm, held, measure, note, refused
from .build import Build
from .rulebook import rule

SOCKETS = (DriveSlot, RadioSlot)
CARDS = (M2Drive, Radio)
_MANUAL = "Look at the socket and its print on the board, or in the service manual."


def _unknown_part(what: str, attribute: str, how: str) -> Finding:
    return measure(f"The card's {what} unknown.", f"part.{attribute}", how, short=f"card's {what} unknown")


@rule(
    "m2.key",
    "A card enters a socket whose key it has a notch for.",
    "PCI-SIG M.2: keys A 8-15, B 12-19, E 24-31, M 59-66",
    SOCKETS,
    CARDS,
)
def key(slot: M2Socket, part: M2Drive | Radio, build: Build) -> Iterator[Finding]:
    socket = settle(slot.key)
    if part.keys is None:
        yield _unknown_part("key is", "keys", "Look at its edge: notch on pins 12-19 is B, 59-66 M, 24-31 E, 8-15 A.")
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
    "m2.width", "A card lies only in a place as wide as it is.", "PCI-SIG M.2: widths 12, 16, 22, 30 mm", SOCKETS, CARDS
)
def width(slot: M2Socket, part: M2Drive | Radio, build: Build) -> Iterator[Finding]:
    place = settle(slot.width_mm)
    if part.width_mm is None:
        yield _unknown_part("size is", "width_mm", "The first two digits of its code, 2280, are the width in mm.")
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
    SOCKETS,
    CARDS,
)
def length(slot: M2Socket, part: M2Drive | Radio, build: Build) -> Iterator[Finding]:
    standoffs = settle(slot.standoffs_mm)
    long = part.length_mm
    if long is None:
        yield _unknown_part(
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


def _bracket(slot: M2Socket, long: int, longer: tuple[float, ...], build: Build) -> Iterator[Finding]:
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
    SOCKETS,
    CARDS,
)
def below(slot: M2Socket, part: M2Drive | Radio, build: Build) -> Iterator[Finding]:
    tall = part.below_um
    if tall is None:
        yield _unknown_part(
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
    SOCKETS,
    CARDS,
)
def above(slot: M2Socket, part: M2Drive | Radio, build: Build) -> Iterator[Finding]:
    room = settle(slot.clearance_above_um)
    if part.above_um is None:
        yield _unknown_part(
            "top side is", "above_um", "Its code tells: 1 is 1.20, 2 is 1.35, 3 to 5 are 1.50 mm above."
        )
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


def drive_link(slot: DriveSlot, part: M2Drive) -> Link | None:
    """The PCIe link drive and slot agree on; a B+M card has at most two lanes."""
    wired = settle(slot.pcie).value
    own = part.link
    if own is None or not isinstance(wired, Link):
        return None
    if part.keys is not None and set(part.keys) == {"B", "M"}:
        own = Link(generation=own.generation, lanes=min(2, own.lanes))
    return own.with_other(wired)


def drive_rate_mb_s(slot: DriveSlot | BaySlot, part: M2Drive | BayDrive) -> int | None:
    """min(drive rating, link) in MB/s; None while either is unknown."""
    link_rate = _link_rate(slot, part)
    if link_rate is None or part.read_mb_s is None:
        return None
    return min(part.read_mb_s, link_rate)


def sata_wiring(slot: DriveSlot | BaySlot) -> int | str | None:
    """SATA generation wired to the slot, "none", or None when unknown."""
    return settle(slot.sata).value if isinstance(slot, BaySlot) else settle(slot.sata).value


def _link_rate(slot: DriveSlot | BaySlot, part: M2Drive | BayDrive) -> int | None:
    if isinstance(part, M2Drive) and part.interface == "pcie":
        agreed = drive_link(slot, part) if isinstance(slot, DriveSlot) else None
        return agreed.mb_s if agreed else None
    wired = sata_wiring(slot)
    if not isinstance(wired, int) or part.generation is None:
        return None
    return sata.MB_S[min(wired, part.generation)]


@rule(
    "m2.wiring",
    "Notches say nothing about SATA or PCIe: the slot's wiring decides.",
    "machine claims; PCI-SIG M.2 socket pinouts",
    DriveSlot,
    M2Drive,
)
def wiring(slot: DriveSlot, part: M2Drive, build: Build) -> Iterator[Finding]:
    if part.interface is None:
        yield _unknown_part("interface is", "interface", "Its data sheet says SATA or PCIe (NVMe); the notches do not.")
        return
    wired = settle(slot.pcie) if part.interface == "pcie" else settle(slot.sata)
    name = "PCIe" if part.interface == "pcie" else "SATA"
    if wired.value == "none":
        other = "SATA" if name == "PCIe" else "PCIe"
        yield refused(
            f"A {name} drive does not work in a slot without {name} wiring.",
            wired.why,
            short=f"{name} drive, {other} slot",
        )
    elif wired.value is None:
        yield measure(
            f"Whether this slot is wired for {name} is unknown.",
            f"{slot.id}.{part.interface}",
            "Look in the service manual for this processor, or read the link of the fitted drive.",
            wired.why,
            short=f"{name} wiring unknown",
        )


@rule(
    "drive.rate",
    "A drive is held back only where the link is below its own rating.",
    "PCIe: min generation × min lanes; SATA: the lesser generation",
    (DriveSlot, BaySlot),
    (M2Drive, BayDrive),
)
def rate(slot: DriveSlot | BaySlot, part: M2Drive | BayDrive, build: Build) -> Iterator[Finding]:
    if isinstance(part, M2Drive) != isinstance(slot, DriveSlot):
        return
    link_rate = _link_rate(slot, part)
    if link_rate is None:
        if isinstance(part, M2Drive) and part.interface == "pcie":
            unknown = "part.lanes" if part.link is None else f"{slot.id}.pcie"
            wired: object = settle(slot.pcie).value if isinstance(slot, DriveSlot) else None
        else:
            unknown = "part.generation" if part.generation is None else f"{slot.id}.sata"
            wired = sata_wiring(slot)
        if wired != "none":  # the wiring rule refuses that already
            yield measure(
                "The link they would agree on is unknown.",
                unknown,
                "Read it from the data sheet.",
                short="link unknown",
            )
        return
    if isinstance(part, M2Drive) and part.interface == "pcie" and isinstance(slot, DriveSlot):
        name = str(drive_link(slot, part))
    else:
        name = f"SATA {sata.GBIT_S[sata_generation(link_rate)]:g} Gb/s"
    if part.read_mb_s is None:
        yield measure(
            "The drive's own rating is unknown.",
            "part.read_mb_s",
            "Its data sheet states sequential read.",
            short="rating unknown",
        )
    elif link_rate < part.read_mb_s:
        yield held(
            f"Rated {part.read_mb_s} MB/s, the link carries {link_rate} ({name}).", short=f"{name}, {link_rate} MB/s"
        )
    else:
        yield note(f"{name} carries {link_rate} MB/s; the drive reads {part.read_mb_s}.", short=name)


def sata_generation(mb_s: int) -> int:
    return next(g for g, r in sata.MB_S.items() if r == mb_s)


@rule(
    "drive.capacity",
    "A drive is no larger than the slot's limit.",
    "machine claims, picked by the job's school; ATA-8 48-bit and NVMe addressing are far above",
    (DriveSlot, BaySlot),
    (M2Drive, BayDrive),
)
def capacity(slot: DriveSlot | BaySlot, part: M2Drive | BayDrive, build: Build) -> Iterator[Finding]:
    if isinstance(part, M2Drive) != isinstance(slot, DriveSlot):
        return
    today = build.fitted.get(slot.id)
    fitted = today.capacity_gb if isinstance(today, M2Drive | BayDrive) else None
    most = limit(slot.drive_limit_gb, build.stance, build.firmware, fitted)
    if most.at_least is not None and part.capacity_gb <= most.at_least:
        return
    if most.value is None:
        yield measure(
            "The largest drive this slot takes is unknown.",
            f"{slot.id}.drive_limit_gb",
            "Look in the service manual; the interface itself sets no limit you will meet.",
            short="drive limit unknown",
        )
    elif part.capacity_gb > most.value:
        yield refused(
            f"{part.capacity_gb} GB; the limit is {most.why}.",
            short=f"over {most.value} GB",
            remedy="Another school of limits may allow it.",
        )
    elif most.unproven and (most.sure is None or part.capacity_gb > most.sure):
        yield held(f"Only a report says {part.capacity_gb} GB works here: unproven.", short="unproven size")


@rule(
    "m2.cooling",
    "A drive that needs cooling is held back in a slot without.",
    "machine claims: what cools the slot",
    DriveSlot,
    M2Drive,
)
def cooling(slot: DriveSlot, part: M2Drive, build: Build) -> Iterator[Finding]:
    cooled = settle(slot.cooled)
    if cooled.value or part.needs_cooling is False:
        return
    if part.needs_cooling is None:
        yield _unknown_part("need for cooling is", "needs_cooling", "See its data sheet for a heat sink requirement.")
    elif cooled.value is None:
        yield measure(
            "Whether anything cools this slot is unknown.",
            f"{slot.id}.cooled",
            "Look for a pad or shield that touches the drive.",
            short="cooling unknown",
        )
    else:
        yield held("Needs cooling and this slot has none: it slows down under load.", cooled.why, short="not cooled")


@rule(
    "boot.nvme",
    "A boot drive must be one the firmware starts from.",
    "NVM Express needs firmware support; machine claims",
    DriveSlot,
    M2Drive,
)
def boot_nvme(slot: DriveSlot, part: M2Drive, build: Build) -> Iterator[Finding]:
    if slot.id != build.boot_slot or part.interface != "pcie":
        return
    starts, mode = settle(build.machine.boot.starts_nvme), settle(build.machine.boot.storage_mode)
    if starts.value is False:
        yield refused(
            "This firmware does not start from an NVMe drive; as a data drive it is fine.",
            starts.why,
            short="firmware starts no NVMe",
        )
    elif starts.value is None:
        yield measure(
            "Whether the firmware starts from NVMe is unknown.",
            "boot.starts_nvme",
            "Look for NVMe in the firmware's boot list, or in the notes to its last update.",
            short="NVMe boot unknown",
        )
    if mode.value == "raid":
        yield held(
            "The firmware's storage mode hides the drive from a plain system.",
            mode.why,
            short="storage mode",
            remedy="Change the storage mode before cloning or installing.",
        )
    elif mode.value is None:
        yield measure(
            "The firmware's storage mode is unknown.",
            "boot.storage_mode",
            "Read it in firmware setup under storage.",
            short="storage mode unknown",
        )


@rule(
    "boot.reach",
    "Legacy boot and MBR reach 2.199 TB.",
    "MBR partition entry: 2**32 sectors of 512 bytes",
    (DriveSlot, BaySlot),
    (M2Drive, BayDrive),
)
def boot_reach(slot: DriveSlot | BaySlot, part: M2Drive | BayDrive, build: Build) -> Iterator[Finding]:
    if slot.id != build.boot_slot or part.capacity_gb * 10**9 <= sata.MBR_BYTES:
        return
    style = settle(build.machine.boot.style)
    if style.value == "legacy":
        yield held("Legacy boot reaches 2.199 TB of it; as a GPT data drive it is whole.", short="2.2 TB reach")
    elif style.value is None:
        yield measure(
            "Whether the machine starts the legacy way is unknown.",
            "boot.style",
            "Read it in firmware setup under boot.",
        )
