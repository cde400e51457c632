"""What raw tool outputs say: a file name and its bytes in, a :class:`Reading` out.

Real tools print junk, truncate, localise and disagree. A reader gives what its text holds and no
more; what was not understood is listed with its reason. Nothing here raises for bad content, and
nothing is guessed. What several tools say of one thing is joined in ``join.py``.
"""

import re
from collections.abc import Callable, Mapping
from typing import Any

from ...core.errors import InputError
from ...core.reading import Reading
from .bus import read_iw, read_lspci, read_lsusb, read_net, read_usb
from .cim import read_cim
from .drives import read_efibootmgr, read_lsblk, read_nvme, read_places, read_smart
from .join import joined
from .memory import read_dmidecode, read_image, read_meminfo
from .power import read_power, read_upower
from .system import read_df, read_free, read_root, read_uname, read_vmstat

Facts = dict[str, Any]
Reader = Callable[[str], Facts]


def read_bundle(files: Mapping[str, bytes | str]) -> Reading:
    """Everything the files tell, as one reading."""
    told: list[tuple[str, Facts]] = []
    odd: list[str] = []
    for name, data in sorted(files.items()):
        raw = data.encode(errors="replace") if isinstance(data, str) else data
        found, problem = _read(name, raw)
        if problem:
            odd.append(f"{name}: {problem}")
        odd += [f"{name}: {p}" for p in found.pop("problems", ())]
        if found:
            told.append((name, found))
    return joined(told, odd)


def _read(name: str, raw: bytes) -> tuple[Facts, str]:
    stem = stem_of(name)
    try:
        if stem in ("spd", "eeprom"):
            return read_image(raw), ""
        text = raw.decode("utf-8-sig", errors="replace")
        reader = READERS.get(stem) or _sniffed(text)
        if reader is None:
            return {}, "no reader for it"
        found = reader(text)
    except InputError as error:
        return {}, str(error)
    except RecursionError:
        return {}, "nested too deep"
    except Exception as error:  # a tool's junk must never stop the reading: it is listed instead
        return {}, f"{type(error).__name__}: {str(error)[:120]}"
    return found, "" if found else "nothing understood in it"


def stem_of(name: str) -> str:
    """'folder/battery-BAT0.txt' is a battery's, 'spd-1.bin' an SPD image, 'iw-wlan0.txt' iw's."""
    found = re.match(r"[a-z]+", name.rpartition("/")[2].lower())
    return found[0] if found else ""


def _sniffed(text: str) -> Reader | None:
    """The reader for a file of another name, by what stands in it."""
    for sign, reader in _SIGNS:
        if sign in text[:20000]:
            return reader
    return None


READERS: dict[str, Reader] = {
    "dmidecode": read_dmidecode,
    "meminfo": read_meminfo,
    "lspci": read_lspci,
    "lsblk": read_lsblk,
    "nvme": read_nvme,
    "smart": read_smart,
    "places": read_places,
    "efibootmgr": read_efibootmgr,
    "upower": read_upower,
    "battery": read_power,
    "power": read_power,
    "lsusb": read_lsusb,
    "usb": read_usb,
    "net": read_net,
    "uname": read_uname,
    "vmstat": read_vmstat,
    "free": read_free,
    "df": read_df,
    "root": read_root,
    "iw": read_iw,
    "cim": read_cim,
}
_SIGNS: tuple[tuple[str, Reader], ...] = (
    ("DMI type", read_dmidecode),
    ("Win32_", read_cim),
    ('"blockdevices"', read_lsblk),
    ('"Devices"', read_nvme),
    ('"nvme_smart_health_information_log"', read_smart),
    ("energy-full-design", read_upower),
    ("POWER_SUPPLY_", read_power),
    ("MemTotal:", read_meminfo),
    ("LnkCap:", read_lspci),
    ("root hub", read_lsusb),
)
