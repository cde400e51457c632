"""A reading: what the running system said of itself, whichever tools said it.

Everything may be missing. ``not_understood`` lists what was there and could not be read.
"""

from typing import Literal

from .base import Frozen
from .standards.pcie import Link


class ReadModule(Frozen):
    """One memory device. ``soldered`` is chips on the board; size 0 is an empty socket."""

    locator: str
    size_gb: int
    soldered: bool = False
    rated_mts: int | None = None
    running_mts: int | None = None
    part_number: str = ""
    generation: int | None = None


class ReadDrive(Frozen):
    name: str
    model: str = ""
    serial: str = ""
    size_bytes: int | None = None
    transport: str = ""
    capable: Link | None = None
    running: Link | None = None


class ReadRadio(Frozen):
    name: str
    id: str = ""
    driver: str = ""


class ReadBattery(Frozen):
    model: str = ""
    design_mwh: int | None = None
    full_mwh: int | None = None


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
    bluetooth: bool | None = None
    battery: ReadBattery | None = None
    word_bits: int | None = None
    understood: tuple[str, ...] = ()
    not_understood: tuple[str, ...] = ()

    @property
    def texts(self) -> tuple[str, ...]:
        """What identifies the machine, for :func:`identify`."""
        named = f"{self.maker} {self.system}".strip()
        return tuple(t for t in (named, self.board, self.processor) if t)
