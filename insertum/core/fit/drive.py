"""Drive rules: wiring, link, size, cooling and pads, in M.2, mSATA and bay (rules.md section 4)."""

from collections.abc import Iterator

from ..claim import limit, settle
from ..machine import BaySlot, DriveSlot, Presence
from ..part import BayDrive, M2Drive
from ..standards import pad, sata
from ..standards.pcie import Link, lane_mb_s
from ..verdict import AccessoryNeed, Finding, harm, held, measure, note, refused
from .build import Build
from .card import belongs, listed, unknown_card
from .rulebook import rule


def _meets(slot: DriveSlot | BaySlot, part: M2Drive | BayDrive) -> bool:
    """A card at a card socket of its form, a bay drive at a bay."""
    if isinstance(slot, DriveSlot):
        return isinstance(part, M2Drive) and belongs(slot, part)
    return isinstance(part, BayDrive)


def drive_link(slot: DriveSlot, part: M2Drive) -> Link | None:
    """The PCIe link drive and slot agree on; a B+M card has at most two lanes."""
    wired = settle(slot.pcie).value
    if part.interface != "pcie" or part.generation is None or part.lanes is None or not isinstance(wired, Link):
        return None
    lanes = min(2, part.lanes) if part.keys is not None and set(part.keys) == {"B", "M"} else part.lanes
    return Link.model_construct(generation=min(part.generation, wired.generation), lanes=min(lanes, wired.lanes))


def drive_rate_mb_s(slot: DriveSlot | BaySlot, part: M2Drive | BayDrive) -> int | None:
    """min(drive rating, link) in MB/s; None while either is unknown."""
    if isinstance(part, M2Drive) and part.interface == "emmc":
        return part.read_mb_s  # soldered beside its own controller: no link to bind it
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
    if not belongs(slot, part):
        return
    if part.interface is None:
        yield unknown_card("interface is", "interface", "Its data sheet says SATA or PCIe (NVMe); the notches do not.")
        return
    if part.interface == "emmc":
        yield refused("eMMC is a chip on the board, never a card for a socket.", short="eMMC")
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
    if not _meets(slot, part) or (isinstance(part, M2Drive) and part.interface == "emmc"):
        return
    agreed = drive_link(slot, part) if isinstance(slot, DriveSlot) and isinstance(part, M2Drive) else None
    link_rate = agreed.mb_s if agreed else _link_rate(slot, part)
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
    name = str(agreed) if agreed else f"SATA {sata.GBIT_S[sata_generation(link_rate)]:g} Gb/s"
    if part.read_mb_s is None:
        yield measure(
            "The drive's own rating is unknown.",
            "part.read_mb_s",
            "Its data sheet states sequential read.",
            short="rating unknown",
        )
    elif link_rate < part.read_mb_s:
        yield held(
            f"Rated {part.read_mb_s} MB/s, the link carries {link_rate} ({name}).",
            *(
                [f"{float(lane_mb_s(agreed.generation)):.1f} MB/s a lane × {agreed.lanes} = {link_rate}"]
                if agreed
                else []
            ),
            short=f"{name}, {link_rate} MB/s",
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
    if not _meets(slot, part):
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


def pad_comes_out(slot: DriveSlot, part: M2Drive) -> bool:
    """A card with parts below makes a removable pad under the drive come out."""
    return bool(part.below_um) and settle(slot.pad_below).value == "removable"


@rule(
    "m2.cooling",
    "A drive that needs cooling is held back in a slot without.",
    "machine claims: what cools the slot, and on which side",
    DriveSlot,
    M2Drive,
)
def cooling(slot: DriveSlot, part: M2Drive, build: Build) -> Iterator[Finding]:
    if part.needs_cooling is False or not belongs(slot, part):
        return
    cooled = settle(slot.cooled)
    if part.needs_cooling is None:
        if cooled.value not in ("above", "both"):
            yield unknown_card(
                "need for cooling is", "needs_cooling", "See its data sheet for a heat sink requirement."
            )
        return
    if cooled.value is None:
        yield measure(
            "Whether anything cools this slot is unknown.",
            f"{slot.id}.cooled",
            "Look for a pad or shield that touches the drive.",
            short="cooling unknown",
        )
    elif cooled.value == "none":
        yield held("Needs cooling and this slot has none: it slows down under load.", cooled.why, short="not cooled")
    elif cooled.value == "below" and pad_comes_out(slot, part):
        yield held(
            "The pad below was its only cooling and has to come out for this card.", cooled.why, short="not cooled"
        )
    elif cooled.value in ("above", "both") and settle(slot.pad).value is Presence.MISSING:
        if build.has_accessory(slot.id, "pad"):
            yield note("With a pad between the drive and the shield.", short="with pad")
        else:
            gap = settle(slot.pad_gap_um).value
            size = pad.pad_for(gap) if gap is not None else None
            yield held(
                "The pad that cools it from above is missing: it slows down under load.",
                cooled.why,
                short="pad missing",
                remedy=f"A {size / 1000:g} mm pad." if size else "A pad: measure the gap for its thickness.",
                needs=AccessoryNeed(supplies="pad", thickness_um=size) if size else None,
            )


@rule(
    "m2.pad",
    "A pad is squeezed by 10 to 30 %: less does not cool, more bends the board.",
    "g = t·(1 − c); pad makers' compression window",
    DriveSlot,
    M2Drive,
)
def pad_thickness(slot: DriveSlot, part: M2Drive, build: Build) -> Iterator[Finding]:
    for chosen in build.accessories.get(slot.id, ()):
        if chosen.supplies != "pad" or chosen.thickness_um is None:
            continue
        gap = settle(slot.pad_gap_um)
        if gap.value is None:
            yield measure(
                "The gap the pad has to fill is unknown.",
                f"{slot.id}.pad_gap_um",
                "Lay modelling clay on the drive's chips, close the shield, measure what is left.",
                gap.why,
                short="gap unknown",
            )
            continue
        squeezed = pad.compression(gap.value, chosen.thickness_um)
        says = f"A {chosen.thickness_um / 1000:g} mm pad in a {gap.value / 1000:g} mm gap"
        if squeezed > pad.MOST:
            yield harm(
                f"{says} is squeezed by {float(squeezed):.0%} and presses on the board.",
                gap.why,
                short="pad too thick",
                caution="It bends the board. Take a thinner pad.",
            )
        elif squeezed < pad.LEAST:
            yield held(
                f"{says} is squeezed by {max(0.0, float(squeezed)):.0%}: it does not cool.", short="pad too thin"
            )
        else:
            yield note(f"{says} is squeezed by {float(squeezed):.0%}.")


@rule(
    "drive.allowlist",
    "Firmware that lists drives takes only those, by their own id.",
    "machine claims: card policy and listed ids",
    DriveSlot,
    M2Drive,
)
def allowlist(slot: DriveSlot, part: M2Drive, build: Build) -> Iterator[Finding]:
    if belongs(slot, part):
        yield from listed(slot, part, build, "drive")
