"""A reading: what the running system said of itself, whichever tools said it.

Everything may be missing, and what is missing is unknown: presence stands apart from size, a size of None is a size
nobody said, ``soldered`` None is a form nobody told. ``not_understood`` lists what was there and could not be read.
"""

from collections.abc import Mapping
from typing import Any, Literal

from pydantic import Field, model_validator

from .frozen import Frozen
from .standards.pcie import Link
from .standards.spd import Spd

#: More places for memory than any laptop's firmware lists.
MOST_DEVICES = 32


class ReadModule(Frozen):
    """One place for memory as firmware lists it. ``present`` tells filled from empty, None where nothing tells;
    sizes in MB, so that 512 MB and 1.5 GB stay themselves. ``soldered`` is chips on the board. ``bank`` and
    ``channel`` are firmware's words for where it hangs, ``voltage_mv`` what it is given."""

    locator: str = ""
    present: bool | None = None
    size_mb: int | None = None
    soldered: bool | None = None
    rated_mts: int | None = None
    running_mts: int | None = None
    part_number: str = ""
    generation: int | None = None
    low_power: bool = False
    maker: str = ""
    serial: str = ""
    bank: str = ""
    channel: str = ""
    ranks: int | None = None
    voltage_mv: int | None = None

    @property
    def size_gb(self) -> int | None:
        """The size where it is whole gigabytes; None where it is not, or not known."""
        return self.size_mb // 1024 if self.size_mb and self.size_mb % 1024 == 0 else None

    @property
    def says_size(self) -> str:
        """'8 GB', '512 MB', '1.5 GB', 'unknown size'."""
        if self.size_mb is None:
            return "unknown size"
        return f"{self.size_mb} MB" if self.size_mb < 1024 else f"{self.size_mb / 1024:g} GB"


class ReadVolume(Frozen):
    """A file system on a drive. ``used_bytes`` is known of mounted ones only; ``loader`` marks the partition
    firmware starts from (the EFI system partition), ``started`` the one it did start from."""

    name: str
    kind: str = ""
    size_bytes: int | None = None
    used_bytes: int | None = None
    mounted: str = ""
    loader: bool = False
    started: bool = False


class ReadDrive(Frozen):
    """``capable`` is what the drive could do, ``port`` what the slot's end could, ``running`` what they
    agreed on when it was read (an idle link may show a lower generation); ``pci`` is its controller's address,
    ``port_pci`` that of the port before it. ``worn_percent`` is the share of its rated life it reports as used."""

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
    port_pci: str = ""
    firmware: str = ""
    temperature_c: int | None = None
    worn_percent: int | None = None
    volumes: tuple[ReadVolume, ...] = ()

    @property
    def used_bytes(self) -> int | None:
        """Data on it: what its file systems hold. None unless every one of them says."""
        held = [v.used_bytes for v in self.volumes if v.kind and v.kind != "swap"]
        return sum(h for h in held if h is not None) if held and all(h is not None for h in held) else None

    @property
    def started(self) -> bool:
        return any(v.started for v in self.volumes)


class ReadRadio(Frozen):
    """``chains_dbm`` is the signal on each antenna: far apart means a lead off or swapped. ``bus`` is how it was
    seen ("pcie", "usb"), ``pci`` its address, the links as a drive's."""

    name: str
    id: str = ""
    driver: str = ""
    chains_dbm: tuple[int, ...] = ()
    bus: str = ""
    pci: str = ""
    capable: Link | None = None
    running: Link | None = None
    port: Link | None = None
    port_pci: str = ""


class ReadBluetooth(Frozen):
    """Bluetooth as a USB device. ``fixed`` is whether it is part of the machine (no stick), ``driver`` whether the
    system drives it; None where no tool tells."""

    fixed: bool | None = None
    driver: bool | None = None


class ReadBattery(Frozen):
    """One pack, under the name the system gives it. ``status`` is the tool's word (Charging, Discharging, Full)."""

    name: str = ""
    maker: str = ""
    model: str = ""
    design_mwh: int | None = None
    full_mwh: int | None = None
    cycles: int | None = None
    voltage_mv: int | None = None
    status: str = ""

    @property
    def wear_percent(self) -> int | None:
        """1 − health, in whole percent."""
        if not self.design_mwh or self.full_mwh is None:
            return None
        return round(100 * (1 - self.full_mwh / self.design_mwh))


class ReadAdapter(Frozen):
    """The plugged-in supply, as far as the system knows it: what it can deliver, in mW."""

    online: bool | None = None
    most_mw: int | None = None


class ReadSlot(Frozen):
    """A slot firmware lists (SMBIOS type 9): weak evidence, shown, never a bound."""

    name: str
    kind: str = ""
    in_use: bool | None = None
    pci: str = ""


class ReadPort(Frozen):
    """A PCI Express port: what it could at most. ``holds`` is the address of what was found behind it, "" for
    nothing (an empty slot, a part that is off, or a port that leads nowhere)."""

    pci: str
    capable: Link | None = None
    holds: str = ""


class ReadLoad(Frozen):
    """What the machine was busy with while it was watched. Memory in MB, paging in KB/s."""

    peak_memory_mb: int | None = None
    swap_used_mb: int | None = None
    paging_kb_s: int | None = None
    processor_busy_percent: int | None = None
    drive_used_gb: float | None = None
    drive_filled_percent: int | None = None


class Reading(Frozen):
    """One look at one machine. ``system`` is what firmware calls it. ``own_system`` is whether what ran was the
    owner's system (True) or the stick the reading was taken from (False); its load speaks of the owner's use only
    where it is True. ``memory_complete`` is True where every place firmware counts is listed with its size."""

    format: Literal["insertum-reading/2"] = "insertum-reading/2"
    maker: str = ""
    system: str = ""
    board: str = ""
    firmware: str = ""
    processor: str = ""
    visible_mb: int | None = None
    total_mb: int | None = Field(None, ge=0, description="memory fitted, as a screen told it in one figure")
    modules: tuple[ReadModule, ...] = ()
    memory_complete: bool = False
    drives: tuple[ReadDrive, ...] = ()
    radios: tuple[ReadRadio, ...] = ()
    modems: tuple[ReadRadio, ...] = ()
    bluetooth: ReadBluetooth | None = None
    packs: tuple[ReadBattery, ...] = ()
    adapter: ReadAdapter | None = None
    word_bits: int | None = None
    arrays: int | None = None
    devices: int | None = Field(
        None, ge=0, le=MOST_DEVICES, description="places for memory that firmware counts, filled or not"
    )
    maximum_gb: int | None = None
    slots: tuple[ReadSlot, ...] = ()
    ports: tuple[ReadPort, ...] = ()
    images: tuple[Spd, ...] = ()
    own_system: bool | None = None
    load: ReadLoad | None = None
    understood: tuple[str, ...] = ()
    cut_off: tuple[str, ...] = Field((), description="files that end in the middle of a line")
    not_understood: tuple[str, ...] = ()

    @model_validator(mode="before")
    @classmethod
    def _brought_up(cls, data: Any) -> Any:
        if isinstance(data, Mapping) and (data.get("format") == "insertum-reading/1" or "battery" in data):
            return reading_1_to_2(data)
        return data

    @property
    def texts(self) -> tuple[str, ...]:
        """What identifies the machine, for :func:`identify`."""
        named = f"{self.maker} {self.system}".strip()
        return tuple(t for t in (named, self.board, self.processor, *(p.model for p in self.packs)) if t)

    @property
    def memory_mb(self) -> int | None:
        """Memory fitted in all, as it was told or as the sum of all places; None unless every place is listed with
        what it holds."""
        if self.total_mb is not None:
            return self.total_mb
        sizes = [0 if m.present is False else m.size_mb for m in self.modules]
        known = [s for s in sizes if s is not None]
        return sum(known) if self.memory_complete and sizes and len(known) == len(sizes) else None

    @property
    def owners_load(self) -> ReadLoad | None:
        """The load where it speaks of the owner's use, not of the stick the reading came from."""
        return self.load if self.own_system else None


def reading_1_to_2(data: Mapping[str, Any]) -> dict[str, Any]:
    """A reading of the first version. Its size 0 stood for "empty" and for "unknown" alike, so it is nobody's word
    now. Whose system ran was not recorded then: the load was taken for the owner's, and stays what it was taken for."""
    new = {k: v for k, v in data.items() if k not in ("battery", "modules", "bluetooth")}
    new["format"] = "insertum-reading/2"
    modules = [dict(m) for m in data.get("modules") or ()]
    for m in modules:
        gb = m.pop("size_gb", 0)
        m["present"] = True if gb else None
        m["size_mb"] = gb * 1024 or None
    new["modules"] = modules
    counted = data.get("devices")
    new["memory_complete"] = bool(modules) and (counted is None or len(modules) >= counted)
    new["packs"] = [data["battery"]] if data.get("battery") else []
    new["bluetooth"] = {"fixed": True} if data.get("bluetooth") else None
    new["own_system"] = True if data.get("load") else None
    return new
