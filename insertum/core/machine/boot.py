"""How a machine starts: what its firmware boots from and refuses."""

from typing import Annotated, Literal

from ..frozen import Frozen
from .attribute import Attribute, declared
from .claim import Fact


class Boot(Frozen):
    """What the firmware can start from. ``storage_mode`` "raid" hides NVMe drives from a plain system;
    where ``storage_mode_fixed`` firmware does not let it change, and then only a system with that
    mode's own driver sees them: ``mode_driver`` is whether it sees drives as the mode is set, in the
    plain mode always. ``partitioning`` is the owner's system disk's."""

    starts_nvme: Annotated[
        Fact[bool],
        Attribute(
            label="Starts from NVMe",
            kind="flag",
            where="firmware",
            tool="firmware setup",
            how="Look for NVMe in the boot list, or in the notes to the last update.",
            returnable=True,
        ),
    ] = Fact[bool]()
    storage_mode: Annotated[
        Fact[Literal["plain", "raid"]],
        Attribute(
            label="Storage mode",
            kind="choice",
            values=("plain", "raid"),
            where="firmware",
            tool="firmware setup",
            how="Under storage.",
        ),
    ] = Fact[Literal["plain", "raid"]]()
    storage_mode_fixed: Annotated[
        Fact[bool],
        Attribute(
            label="Storage mode fixed",
            kind="flag",
            after="storage_mode",
            where="firmware",
            tool="firmware setup",
            how="Under storage: can the mode be changed at all?",
        ),
    ] = Fact[bool]()
    mode_driver: Annotated[
        Fact[bool],
        Attribute(
            label="Owner's system sees drives in this mode",
            kind="flag",
            after="storage_mode_fixed",
            where="software",
            tool="running system",
            how="Does the owner's system see an NVMe drive as the mode is set, or is the mode's driver in the image?",
        ),
    ] = Fact[bool]()
    style: Annotated[
        Fact[Literal["uefi", "legacy"]],
        Attribute(
            label="Boot style",
            kind="choice",
            values=("uefi", "legacy"),
            where="firmware",
            tool="firmware setup",
            how="Under boot.",
        ),
    ] = Fact[Literal["uefi", "legacy"]]()
    partitioning: Annotated[
        Fact[Literal["gpt", "mbr"]],
        Attribute(
            label="System disk's partition table",
            kind="choice",
            values=("gpt", "mbr"),
            where="software",
            tool="running system",
            how="lsblk or the disk tool names it: gpt, or dos (MBR).",
        ),
    ] = Fact[Literal["gpt", "mbr"]]()


declared(Boot)
