"""Memory, board and firmware: the SMBIOS tables as dmidecode prints them (DSP0134), SPD images, meminfo."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ...core.reading import MOST_DEVICES, ReadBattery, ReadLoad, ReadModule, ReadSlot
from ...core.standards import ddr
from ...core.standards.spd import from_hex, read_spd
from .junk import channel_in, is_cut, lines_of, pci_address, size_mb, words_of

Facts = dict[str, Any]

_HANDLE = re.compile(r"Handle (0x[0-9A-Fa-f]{1,8}), DMI type (\d{1,3}),")
#: Memory types (Memory Device - Type) that hold programs of the firmware, not the system's memory.
_NO_MEMORY = {"rom", "flash", "eeprom", "feprom", "eprom", "cdram", "vram"}
#: Form factors by what they say of the board: chips on it, something that is put in.
_CHIPS = {"row of chips", "chip", "die"}
_MODULES = {"sodimm", "dimm", "simm", "sip", "zip", "dip", "rimm", "srimm", "fb-dimm", "tsop"}


@dataclass
class Structure:
    """One structure of the table: its number, its type and its fields."""

    handle: str
    type: int
    values: dict[str, str] = field(default_factory=dict)


def structures(text: str) -> tuple[list[Structure], bool]:
    """The table's structures, each once. Returns with them whether two of one number disagree: then the text is of
    two machines, or of none."""
    found: dict[str, Structure] = {}
    now: Structure | None = None
    clash = False

    def close() -> None:
        nonlocal clash
        if now is None:
            return
        known = found.setdefault(now.handle, now)
        # A text that was cut may hold the beginning of a structure and, doubled, the whole of it.
        if known is not now and known != now:
            clash |= known.type != now.type or any(known.values.get(k, v) != v for k, v in now.values.items())
            known.values = {**now.values, **known.values}

    for line in lines_of(text):
        if head := _HANDLE.match(line):
            close()
            now = Structure(head[1].lower(), int(head[2]))
        elif now is not None and line.startswith("\t") and not line.startswith("\t\t"):
            name, colon, value = line.strip().partition(":")
            if colon:
                now.values.setdefault(name.strip().lower(), value.strip())
    close()
    return list(found.values()), clash


def read_dmidecode(text: str) -> Facts:
    """dmidecode text: firmware, system, board, processor, arrays and devices, slots, portable battery."""
    table, clash = structures(text)
    if clash:
        return {"problems": ["it holds the tables of two machines: nothing of it is taken"]}
    found: Facts = {"cut": True} if is_cut(text) else {}
    arrays: dict[str, Structure] = {}
    devices: list[Structure] = []
    packs, slots = [], []
    for s in table:
        match s.type:
            case 0:
                found["firmware"] = found.get("firmware") or words_of(s.values.get("version"))
            case 1:
                found["maker"] = found.get("maker") or words_of(s.values.get("manufacturer"))
                found["system"] = found.get("system") or words_of(s.values.get("product name"))
            case 2:
                found["board"] = found.get("board") or words_of(s.values.get("product name"))
            case 4:
                found["processor"] = found.get("processor") or words_of(s.values.get("version"))
            case 9:
                slots.append(_slot(s.values))
            case 16:
                if s.values.get("use", "System Memory").lower() == "system memory":
                    arrays[s.handle] = s
            case 17:
                devices.append(s)
            case 22:
                packs.append(_pack(s.values))
    found["slots"] = tuple(s for s in slots if s.name)
    found["table_packs"] = tuple(p for p in packs if p.model or p.design_mwh)
    return {k: v for k, v in (found | _memory(devices, arrays)).items() if v}


def _memory(devices: list[Structure], arrays: Mapping[str, Structure]) -> Facts:
    """The devices of system memory, and how many of them firmware counts."""
    mine = [
        s for s in devices
        if words_of(s.values.get("type")).lower() not in _NO_MEMORY
        # Where the table holds arrays at all, a device of another array is the firmware's own chip.
        and (not arrays or "array handle" not in s.values or s.values["array handle"].lower() in arrays)
    ]  # fmt: skip
    modules = tuple(_device(s.values) for s in mine)
    counts = [int(c) if re.fullmatch(r"\d{1,5}", c := a.values.get("number of devices", "")) else None
              for a in arrays.values()]  # fmt: skip
    sizes = [size_mb(a.values.get("maximum capacity", "")) for a in arrays.values()]
    counted = None if not counts or None in counts else sum(c or 0 for c in counts)
    problems = []
    if counted is not None and not 0 < counted <= MOST_DEVICES:
        problems.append(f"{counted} places for memory are no laptop's: the count is left out")
        counted = None
    if len(modules) > MOST_DEVICES:
        problems.append(f"{len(modules)} memory devices are no laptop's: they are left out")
        modules = ()
    return {
        "modules": modules,
        "arrays": len(arrays),
        "devices": counted,
        "memory_complete": counted is not None and len(modules) >= counted,
        "maximum_gb": sum(s or 0 for s in sizes) // 1024 if sizes and None not in sizes else None,
        "problems": problems,
    }


def _slot(values: Mapping[str, str]) -> ReadSlot:
    usage = values.get("current usage", "").lower()
    return ReadSlot(
        name=words_of(values.get("designation")),
        kind=words_of(values.get("type")),
        in_use={"in use": True, "available": False}.get(usage),
        pci=pci_address(values.get("bus address", "")),
    )


def _pack(values: Mapping[str, str]) -> ReadBattery:
    design = re.match(r"(\d{1,7})\s*mWh", values.get("design capacity", ""))
    volts = re.match(r"(\d{1,6})\s*mV", values.get("design voltage", ""))
    return ReadBattery(
        maker=words_of(values.get("manufacturer")),
        model=words_of(values.get("name")),
        design_mwh=int(design[1]) or None if design else None,
        voltage_mv=int(volts[1]) or None if volts else None,
    )


def is_soldered(form: str, low_power: bool) -> bool | None:
    """Chips or a module, by firmware's word for the form. Low-power chips are soldered (JESD209) where no form
    contradicts it; one that firmware calls a module may be either: it is asked, not told."""
    form = form.lower()
    if form in _CHIPS:
        return True
    if form == "camm":
        return False
    if form in _MODULES:
        return None if low_power else False
    return True if low_power else None


def _rate(text: str) -> int | None:
    found = re.match(r"\s*(\d{1,6})\s*(?:MT/s|MHz)", text)
    return int(found[1]) or None if found else None


def _device(values: Mapping[str, str]) -> ReadModule:
    type_word, size = words_of(values.get("type")).upper(), values.get("size", "")
    kind = re.match(r"(?:LP)?DDR(\d)", type_word)
    low_power = type_word.startswith("LPDDR")
    mb, number = size_mb(size), words_of(values.get("part number"))
    running = values.get("configured memory speed") or values.get("configured clock speed") or ""
    rank = values.get("rank", "")
    present = None
    if size.lower() in ("no module installed", "not installed", "0 mb", "0 kb", "0 gb"):
        present = False
    elif mb or number:
        present = True
    return ReadModule(
        locator=words_of(values.get("locator")),
        present=present,
        size_mb=mb,
        # An empty place is something to put in, whatever its form says.
        soldered=False if present is False else is_soldered(words_of(values.get("form factor")), low_power),
        rated_mts=_rate(values.get("speed", "")),
        running_mts=_rate(running),
        part_number=number,
        generation=int(kind[1]) if kind else None,
        low_power=low_power,
        maker=words_of(values.get("manufacturer")),
        serial=words_of(values.get("serial number")),
        bank=words_of(values.get("bank locator")),
        channel=channel_in(words_of(values.get("locator")), words_of(values.get("bank locator"))),
        ranks=int(rank) if re.fullmatch(r"\d", rank) and int(rank) in ddr.RANKS else None,
        voltage_mv=_millivolts(words_of(values.get("configured voltage"))),
    )


def _millivolts(text: str) -> int | None:
    """'1.2 V' in mV; None for "Unknown" and for none at all."""
    volts = re.fullmatch(r"(\d(?:\.\d{1,3})?)\s*V", text)
    return round(float(volts[1]) * 1000) or None if volts else None


def read_image(raw: bytes) -> Facts:
    """An SPD image, raw or as a hex dump."""
    texty = all(b in b"\t\n\r" or 32 <= b < 127 for b in raw[:512])
    spd = read_spd(from_hex(raw.decode("ascii", errors="replace")) if texty else raw)
    problems = [] if spd.crc_ok else ["its checksum is wrong: a byte was misread"]
    return {"images": (spd,), "problems": [*problems, *spd.remarks]}


def read_meminfo(text: str) -> Facts:
    """What /proc/meminfo says: MB the system sees, {} where it is no such file."""
    kb: dict[str, int] = {}
    for line in lines_of(text):
        if found := re.match(r"(\w{1,40}):\s*(\d{1,15})\s*kB", line):
            kb.setdefault(found[1], int(found[2]))
    if "MemTotal" not in kb:
        return {}
    told: Facts = {"visible_mb": kb["MemTotal"] // 1024}
    if "SwapTotal" in kb and "SwapFree" in kb:
        told["load"] = ReadLoad(swap_used_mb=max(kb["SwapTotal"] - kb["SwapFree"], 0) // 1024)
    return told
