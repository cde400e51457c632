"""Drive rules: wiring, link, size, cooling and pads, in M.2, mSATA and bay (rules.md section 4)."""

from collections.abc import Iterator
from functools import cache

from ..machine.bay_and_battery import BaySlot
from ..machine.card_sockets import DriveSlot
from ..machine.drive_parts import BayDrive, M2Drive
from ..standards import pad, sata
from ..standards.pcie import Link, lane_mb_s
from ..verdict import AccessoryNeed, Lazy, Said, harm, held, note, refused
from .card import belongs, listed
from .rulebook import rule
from .shape_facts import DriveFacts, DrivePlaceFacts, DriveSlotFacts, M2DriveFacts
from .views import BuildView


def meets(slot: DrivePlaceFacts, part: DriveFacts) -> bool:
    """A card at a card socket of its form, a bay drive at a bay."""
    if slot.kind == "m2_drive":
        return part.kind == "m2_drive" and belongs(slot, part)
    return part.kind == "bay_drive"


def drive_link(slot: DrivePlaceFacts, part: DriveFacts, lanes: int = 4) -> Link | None:
    """The PCIe link drive and slot agree on; a B+M card has at most two lanes, and ``lanes`` is what another slot
    leaves. None for a drive that has none, or a slot without."""
    if part.kind != "m2_drive" or part.interface != "pcie" or slot.kind != "m2_drive" or not slot.pcie_lanes:
        return None
    most = 2 if part.form == "m2" and set(part.keys) == {"B", "M"} else 4
    agreed = min(most, part.lanes, slot.pcie_lanes, lanes)
    return _link(min(part.generation, slot.pcie_generation), agreed)


@cache
def _link(generation: int, lanes: int) -> Link:
    return Link(generation=generation, lanes=lanes)


def drive_rate_mb_s(slot: DrivePlaceFacts, part: DriveFacts, lanes: int = 4) -> int | None:
    """min(drive rating, link) in MB/s; None where the two have no interface in common."""
    if part.kind == "m2_drive" and part.interface == "emmc":
        return int(part.read_mb_s)  # soldered beside its own controller: no link to bind it
    rate = link_rate(slot, part, lanes)
    return None if rate is None else min(part.read_mb_s, rate)


def link_rate(slot: DrivePlaceFacts, part: DriveFacts, lanes: int = 4) -> int | None:
    """What the link carries, in MB/s."""
    if part.kind == "m2_drive" and part.interface == "pcie":
        agreed = drive_link(slot, part, lanes)
        return agreed.mb_s if agreed else None
    return sata.MB_S[min(slot.sata, part.generation, 3)] if slot.sata else None


@rule(
    "m2.wiring",
    "Notches say nothing about SATA or PCIe: the slot's wiring decides.",
    "machine claims; PCI-SIG M.2 socket pinouts",
    DriveSlot,
    M2Drive,
    more=("pcie_lanes", "sata"),
)
def wiring(slot: DriveSlotFacts, part: M2DriveFacts, build: BuildView) -> Iterator[Said]:
    if not belongs(slot, part):
        return
    if part.interface == "emmc":
        yield refused("eMMC is a chip on the board, never a card for a socket.", short="eMMC", keeps_out=True)
    elif not (slot.pcie_lanes if part.interface == "pcie" else slot.sata):
        name, other = ("PCIe", "SATA") if part.interface == "pcie" else ("SATA", "PCIe")
        yield refused(
            f"A {name} drive does not work in a slot without {name} wiring.", short=f"{name} drive, {other} slot"
        )


@rule(
    "drive.rate",
    "A drive is held back only where the link is below its own rating.",
    "PCIe: min generation × min lanes; SATA: the lesser generation",
    (DriveSlot, BaySlot),
    (M2Drive, BayDrive),
    more=("pcie_lanes", "pcie_generation", "sata", "part.lanes", "part.generation"),
    less=("part.read_mb_s",),
    shown="link",
)
def rate(slot: DrivePlaceFacts, part: DriveFacts, build: BuildView) -> Iterator[Said]:
    if not meets(slot, part) or (part.kind == "m2_drive" and part.interface == "emmc"):
        return
    agreed = drive_link(slot, part)
    carries = agreed.mb_s if agreed else link_rate(slot, part)
    if carries is None:
        return  # the wiring rule refuses that already
    name = str(agreed) if agreed else f"SATA {sata.GBIT_S[min(slot.sata, part.generation, 3)]:g} Gb/s"
    reads = min(part.read_mb_s, carries)
    if carries < part.read_mb_s:
        sum_ = (
            Lazy("{:.1f} MB/s a lane × {} = {}", float(lane_mb_s(agreed.generation)), agreed.lanes, carries)
            if agreed
            else None
        )
        yield held(
            Lazy("Rated {} MB/s, the link carries {} ({}).", part.read_mb_s, carries, name),
            *([sum_] if sum_ is not None else []),
            short=f"{name}, {carries} MB/s",
            figure=reads,
            unit="MB/s",
        )
    else:
        yield note(
            Lazy("{} carries {} MB/s; the drive reads {}.", name, carries, part.read_mb_s),
            short=name,
            figure=reads,
            unit="MB/s",
        )


@rule(
    "drive.capacity",
    "A drive is no larger than the slot's limit.",
    "machine claims, picked by the job's school; ATA-8 48-bit and NVMe addressing are far above",
    (DriveSlot, BaySlot),
    (M2Drive, BayDrive),
    less=("part.capacity_gb",),
)
def capacity(slot: DrivePlaceFacts, part: DriveFacts, build: BuildView) -> Iterator[Said]:
    if not meets(slot, part):
        return
    most = slot.drive_limit_gb
    if part.capacity_gb > most.most:
        yield refused(
            Lazy("{} GB; the limit is {}.", part.capacity_gb, most),
            short=f"over {most.most} GB",
            remedy="Another school of limits may allow it." if most.source else "",
        )
    elif part.capacity_gb > most.sure:
        yield held(
            Lazy("Only a report says {} GB works here: unproven.", part.capacity_gb),
            short="unproven size",
            remedy="At the owner's written risk, with the right to return the part.",
        )


#: Gaps at which another pad is the right one, or none is: t·(1 − c) at 10, 20 and 30 %, and half way between.
_PAD_FIGURES = tuple(
    sorted(
        {int(t * (1 - c)) for t in pad.THICKNESSES_UM for c in (pad.LEAST, pad.BEST, pad.MOST)}
        | {int((a + b) * 2 / 5) for a in pad.THICKNESSES_UM for b in pad.THICKNESSES_UM}
    )
)


@rule(
    "m2.cooling",
    "A drive that needs cooling is held back in a slot without.",
    "machine claims: what cools the slot, and on which side",
    DriveSlot,
    M2Drive,
    at={"pad_gap_um": lambda _: _PAD_FIGURES},
)
def cooling(slot: DriveSlotFacts, part: M2DriveFacts, build: BuildView) -> Iterator[Said]:
    if not belongs(slot, part) or not part.needs_cooling:
        return
    cooled = slot.cooled
    if cooled == "none":
        yield held("Needs cooling and this slot has none: it slows down under load.", short="not cooled")
    elif cooled == "below":
        if part.below_um and slot.pad_below == "removable":
            yield held("The pad below was its only cooling and has to come out for this card.", short="not cooled")
    elif slot.pad == "missing":
        if any(a.supplies == "pad" and a.thickness_um for a in build.kit):
            yield note("With a pad between the drive and the shield.", short="with pad")
            return
        size = pad.pad_for(slot.pad_gap_um)
        yield held(
            "The pad that cools it from above is missing: it slows down under load.",
            short="pad missing",
            remedy=f"A {size / 1000:g} mm pad." if size else "A pad: measure the gap for its thickness.",
            needs=AccessoryNeed(supplies="pad", thickness_um=size) if size else None,
        )


def _squeeze_figures(build: BuildView) -> tuple[int, ...]:
    chosen = [a.thickness_um for a in build.kit if a.supplies == "pad" and a.thickness_um]
    return tuple(int(t * (1 - c)) for t in chosen for c in (pad.LEAST, pad.MOST))


@rule(
    "m2.pad",
    "A pad is squeezed by 10 to 30 %: less does not cool, more bends the board.",
    "g = t·(1 − c); pad makers' compression window",
    DriveSlot,
    M2Drive,
    at={"pad_gap_um": _squeeze_figures},
    harms=True,
)
def pad_thickness(slot: DriveSlotFacts, part: M2DriveFacts, build: BuildView) -> Iterator[Said]:
    for chosen in build.kit:
        if chosen.supplies != "pad":
            continue
        if chosen.thickness_um is None:
            # It could be the one that bends the board, and one of unknown size serves nothing (rules.md section 1).
            yield refused(
                f"Nobody says how thick {chosen.name} is: it may press on the board.",
                short="pad unknown",
                remedy="A pad whose thickness is told.",
            )
            continue
        gap = slot.pad_gap_um
        squeezed = pad.compression(gap, chosen.thickness_um)
        says = f"A {chosen.thickness_um / 1000:g} mm pad in a {gap / 1000:g} mm gap"
        if squeezed > pad.MOST:
            yield harm(
                f"{says} is squeezed by {float(squeezed):.0%} and presses on the board.",
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
def allowlist(slot: DriveSlotFacts, part: M2DriveFacts, build: BuildView) -> Iterator[Said]:
    if belongs(slot, part):
        yield from listed(slot, part, "drive")
