"""Boot rules: what the firmware starts from, and how far it reaches (rules.md section 4)."""

from collections.abc import Iterator

from ..machine.bay_and_battery import BaySlot
from ..machine.card_sockets import DriveSlot
from ..machine.drive_parts import BayDrive, M2Drive
from ..standards import sata
from ..verdict import Said, held, note, refused
from .rulebook import rule
from .shape_facts import DriveFacts, DrivePlaceFacts, DriveSlotFacts, M2DriveFacts
from .views import BuildView


def _nvme(slot: DriveSlotFacts, part: M2DriveFacts) -> bool:
    return bool(slot.form != "soldered" and part.interface == "pcie")


@rule(
    "boot.nvme",
    "A boot drive must be one the firmware starts from.",
    "NVM Express needs firmware support; machine claims",
    DriveSlot,
    M2Drive,
    role=True,
)
def boot_nvme(slot: DriveSlotFacts, part: M2DriveFacts, build: BuildView) -> Iterator[Said]:
    if build.boots_here and _nvme(slot, part) and not build.boot.starts_nvme:
        yield refused(
            "This firmware does not start from an NVMe drive; as a data drive it is fine.",
            short="firmware starts no NVMe",
        )


@rule(
    "boot.storage_mode",
    "A storage mode that remaps touches NVMe drives: it is changed before cloning, or brings its driver along.",
    "firmware storage modes; machine claims",
    DriveSlot,
    M2Drive,
    role=True,
)
def storage_mode(slot: DriveSlotFacts, part: M2DriveFacts, build: BuildView) -> Iterator[Said]:
    if not _nvme(slot, part) or build.boot.storage_mode == "plain":
        return
    fixed = build.boot.storage_mode_fixed
    if fixed and not build.boot.mode_driver:
        yield refused(
            "The firmware's storage mode hides the drive, cannot be changed, and the owner's system has no driver for it.",
            short="storage mode",
        )
    elif build.boots_here:
        remedy = (
            "Start it with that mode's driver in the image or on the stick."
            if fixed
            else "Change the storage mode before cloning or installing."
        )
        yield held(
            "The firmware's storage mode hides the drive from a plain system.", short="storage mode", remedy=remedy
        )
    else:
        yield note(
            "The firmware's storage mode hides the drive from a plain system: as a data drive it needs its driver."
        )


@rule(
    "boot.reach",
    "Legacy boot and MBR reach 2.199 TB.",
    "MBR partition entry: 2**32 sectors of 512 bytes",
    (DriveSlot, BaySlot),
    (M2Drive, BayDrive),
    role=True,
    less=("part.capacity_gb",),
)
def boot_reach(slot: DrivePlaceFacts, part: DriveFacts, build: BuildView) -> Iterator[Said]:
    if not build.boots_here or part.capacity_gb <= sata.MBR_GB:
        return
    if build.boot.style == "legacy":
        yield held("Legacy boot reaches 2.199 TB of it; as a GPT data drive it is whole.", short="2.2 TB reach")
    elif build.boot.partitioning == "mbr":
        yield held(
            "The owner's system disk has an MBR partition table, which reaches 2.199 TB of it.",
            short="2.2 TB reach",
            remedy="Change the table to GPT when cloning.",
        )
