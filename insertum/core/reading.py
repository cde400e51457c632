"""A reading: what the running system said of itself, whichever tools said it.

Everything may be missing. ``not_understood`` lists what was there and could not be read.
"""

from typing import Literal

from pydantic import Field

from .base import Frozen
from .standards.pcie import Link
from .standards.spd import Spd


class ReadModule(Frozen):
    """One memory device. ``soldered`` is chips on the board; size 0 is an empty socket. ``bank`` and ``channel`` are
    firmware's words for where it hangs, ``voltage_mv`` what it is given; None or empty where no tool says."""

    locator: str
    size_gb: int
    soldered: bool = False
    rated_mts: int | None = None
    running_mts: int | None = None
    part_number: str = ""
    generation: int | None = None
    maker: str = ""
    serial: str = ""
    bank: str = ""
    channel: str = ""
    ranks: int | None = None
    voltage_mv: int | None = None


class ReadDrive(Frozen):
    """``capable`` is what the drive could do, ``port`` what the slot's end could, ``running`` what they
    agreed on when it was read (an idle link may show a lower generation); ``pci`` its address."""

    name: str
    model: str = ""
    serial: str = ""
    size_bytes: int | None = None
    transport: str = ""
    capable: Link | None = None
    running: Link | None = None
    port: Link | None = None
    spinning: bool | None = None
    pci: str = ""


class ReadRadio(Frozen):
    """``chains_dbm`` is the signal on each antenna: far apart means a lead off or swapped."""

    name: str
    id: str = ""
    driver: str = ""
    chains_dbm: tuple[int, ...] = ()


class ReadBattery(Frozen):
    model: str = ""
    design_mwh: int | None = None
    full_mwh: int | None = None
    cycles: int | None = None

    @property
    def wear_percent(self) -> int | None:
        """1 − health, in whole percent."""
        if not self.design_mwh or self.full_mwh is None:
            return None
        return round(100 * (1 - self.full_mwh / self.design_mwh))


class ReadSlot(Frozen):
    """A slot firmware lists (SMBIOS type 9): weak evidence, shown, never a bound."""

    name: str
    kind: str = ""
    in_use: bool | None = None


class ReadLoad(Frozen):
    """What the machine was busy with while it was watched. Memory in MB, paging in KB/s."""

    peak_memory_mb: int | None = None
    swap_used_mb: int | None = None
    paging_kb_s: int | None = None
    processor_busy_percent: int | None = None
    drive_used_gb: float | None = None
    drive_filled_percent: int | None = None


class Reading(Frozen):
    """One look at one machine. ``system`` is what firmware calls it."""

    format: Literal["insertum-reading/1"] = "insertum-reading/1"
    maker: str = ""
    system: str = ""
    board: str = ""
    firmware: str = ""
    processor: str = ""
    visible_mb: int | None = None
    modules: tuple[ReadModule, ...] = ()
    drives: tuple[ReadDrive, ...] = ()
    radios: tuple[ReadRadio, ...] = ()
    modems: tuple[ReadRadio, ...] = ()
    bluetooth: bool | None = None
    battery: ReadBattery | None = None
    word_bits: int | None = None
    arrays: int | None = None
    devices: int | None = Field(None, description="places for memory that firmware counts, filled or not")
    maximum_gb: int | None = None
    slots: tuple[ReadSlot, ...] = ()
    images: tuple[Spd, ...] = ()
    load: ReadLoad | None = None
    understood: tuple[str, ...] = ()
    not_understood: tuple[str, ...] = ()

    @property
    def texts(self) -> tuple[str, ...]:
        """What identifies the machine, for :func:`identify`."""
        named = f"{self.maker} {self.system}".strip()
        pack = self.battery.model if self.battery else ""
        return tuple(t for t in (named, self.board, self.processor, pack) if t)
