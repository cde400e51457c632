"""Boot rules: what the firmware starts from, and how far it reaches (rules.md section 4)."""

from collections.abc import Iterator

from ..claim import settle
from ..machine import BaySlot, DriveSlot
from ..part import BayDrive, M2Drive
from ..standards import sata
from ..verdict import Finding, held, measure, refused
from .build import Build
from .rulebook import rule


@rule(
    "boot.nvme",
    "A boot drive must be one the firmware starts from.",
    "NVM Express needs firmware support; machine claims",
    DriveSlot,
    M2Drive,
)
def boot_nvme(slot: DriveSlot, part: M2Drive, build: Build) -> Iterator[Finding]:
    if slot.id != build.boot_slot or part.interface != "pcie" or slot.form == "soldered":
        return
    starts, mode = (
        settle(fact, build.firmware) for fact in (build.machine.boot.starts_nvme, build.machine.boot.storage_mode)
    )
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
