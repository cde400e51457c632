"""What raw tool outputs say: a file name and its bytes in, facts for a :class:`Reading` out.

Real tools print junk, truncate, localise and disagree. A reader gives what its text holds and no
more; what was not understood is listed with its reason. Nothing here raises for bad content, and
nothing is guessed.
"""

import json
import re
from collections.abc import Callable, Mapping
from typing import Any

import jc
from pydantic import ValidationError

from ..core.base import InputError
from ..core.reading import ReadBattery, ReadDrive, Reading, ReadLoad, ReadModule, ReadRadio, ReadSlot
from ..core.standards import ddr
from ..core.standards.pcie import Link, generation_of
from ..core.standards.spd import from_hex, read_spd
from .cim import read_cim
from .junk import channel_in, said, whole

Facts = dict[str, Any]


def read_bundle(files: Mapping[str, bytes | str]) -> Reading:
    """Everything the files tell, as one reading."""
    told: Facts = {}
    understood, odd = [], []
    for name, data in sorted(files.items()):
        raw = data.encode(errors="replace") if isinstance(data, str) else data
        found, problem = _read(name, raw)
        if problem:
            odd.append(f"{name}: {problem}")
        if not found:
            continue
        understood.append(name)
        odd += [f"{name}: {p}" for p in found.pop("problems", ())]
        for key, value in found.items():
            told[key] = _merged(key, told[key], value) if key in told else value
    links = told.pop("links", {})
    told["drives"] = tuple(_with_link(d, links) for d in told.get("drives", ()))
    told["radios"] = _with_chains(told.get("radios", ()), told.pop("chains", ()))
    for many in ("modules", "modems", "slots", "images"):
        told[many] = tuple(told.get(many, ()))
    try:
        return Reading.model_validate(told | {"understood": tuple(understood), "not_understood": tuple(odd)})
    except ValidationError as error:  # a figure no machine has: the rest of the bundle is not lost by it
        bad = {str(e["loc"][0]) for e in error.errors()}
        kept = {k: v for k, v in told.items() if k not in bad}
        return Reading.model_validate(
            kept
            | {"understood": tuple(understood), "not_understood": (*odd, f"figures out of range: {', '.join(bad)}")}
        )


def _read(name: str, raw: bytes) -> tuple[Facts, str]:
    stem = name.rpartition(".")[0] or name
    try:
        if stem.lower().startswith(("spd", "eeprom")):
            return read_image(raw), ""
        text = raw.decode("utf-8-sig", errors="replace")
        reader = READERS.get(stem.lower()) or _sniffed(text)
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


def _sniffed(text: str) -> Callable[[str], Facts] | None:
    """The reader for a file of another name, by what stands in it."""
    for sign, reader in _SIGNS:
        if sign in text[:20000]:
            return reader
    return None


def _merged(key: str, known: Any, more: Any) -> Any:
    """Two tools on one subject: the first keeps what it said, the second adds what is new."""
    if key == "drives":
        names = {(d.name, d.serial) for d in known} | {d.name for d in known}
        return [
            *known,
            *(d for d in more if d.name not in names and (not d.serial or d.serial not in {k.serial for k in known})),
        ]
    if key == "images":
        return (*known, *more)
    if key == "load":
        return ReadLoad(**{**more.model_dump(exclude_none=True), **known.model_dump(exclude_none=True)})
    if key == "battery":
        return ReadBattery(
            **{**more.model_dump(exclude_none=True), **{k: v for k, v in known.model_dump().items() if v}}
        )
    if isinstance(known, bool):
        return known or more
    return known or more


def _with_link(drive: ReadDrive, links: Mapping[str, dict[str, Link | None]]) -> ReadDrive:
    # lspci names a drive by vendor and model; the block layer by model alone.
    for name, ends in links.items():
        if drive.transport == "nvme" and drive.model and drive.model in name:
            return drive.model_copy(
                update={"capable": ends["capable"], "running": ends["running"], "port": ends["port"]}
            )
    return drive


def _with_chains(radios: tuple[ReadRadio, ...], chains: tuple[int, ...]) -> tuple[ReadRadio, ...]:
    return tuple(r.model_copy(update={"chains_dbm": chains}) if i == 0 and chains else r for i, r in enumerate(radios))


# -- memory and board ---------------------------------------------------------------------------
def size_gb(text: str) -> int | None:
    """'8 GB', '8192 MB', '16384 MiB' to GB; None for anything else."""
    found = re.fullmatch(r"(\d+)\s*([KMGT])i?B", text.strip(), re.IGNORECASE)
    if not found:
        return None
    kb = int(found[1]) * {"K": 1, "M": 2**10, "G": 2**20, "T": 2**30}[found[2].upper()]
    return kb // 2**20


def _rate(text: str) -> int | None:
    found = re.match(r"\s*(\d+)\s*(?:MT/s|MHz)", text)
    return int(found[1]) if found and int(found[1]) else None


def read_dmidecode(text: str) -> Facts:
    """dmidecode text: firmware, system, board, processor, arrays and devices, slots, portable battery."""
    found: Facts = {}
    modules, slots, arrays, maximum = [], [], 0, 0
    # The parser takes the tool's first lines for a heading and drops them: give it one of its own.
    blocks = text[text.find("Handle ") :] if "Handle " in text else ""
    for block in jc.parse("dmidecode", f"# dmidecode\nSMBIOS\n\n{blocks}", quiet=True) if blocks else ():
        values = block.get("values") or {}
        match block.get("type"):
            case 0:
                found["firmware"] = said(values.get("version"))
            case 1:
                found["maker"] = said(values.get("manufacturer"))
                found["system"] = said(values.get("product_name"))
            case 2:
                found["board"] = found.get("board") or said(values.get("product_name"))
            case 4:
                found["processor"] = found.get("processor") or said(values.get("version"))
            case 9:
                slots.append(
                    ReadSlot(
                        name=said(values.get("designation")),
                        kind=said(values.get("type")),
                        in_use={"in use": True, "available": False}.get(str(values.get("current_usage")).lower()),
                    )
                )
            case 16:
                if str(values.get("use", "System Memory")).lower() == "system memory":
                    arrays += 1
                    maximum += size_gb(said(values.get("maximum_capacity"))) or 0
            case 17:
                modules.append(_device(values))
            case 22:
                design = re.match(r"(\d+)\s*mWh", said(values.get("design_capacity")))
                name = said(values.get("name")) or said(values.get("sbds_device_chemistry"))
                if design or name:
                    found["battery"] = ReadBattery(model=name, design_mwh=int(design[1]) if design else None)
    more = {
        "modules": tuple(modules),
        "slots": tuple(s for s in slots if s.name),
        "arrays": arrays,
        "devices": len(modules),
        "maximum_gb": maximum,
    }
    return {k: v for k, v in (found | more).items() if v}


def is_low_power(values: Mapping[str, Any]) -> bool:
    """LPDDR chips are soldered (JESD209), whatever firmware calls their form."""
    return said(values.get("type")).upper().startswith("LPDDR")


def _device(values: Mapping[str, Any]) -> ReadModule:
    kind = re.match(r"(?:LP)?DDR(\d)", said(values.get("type")))
    running = values.get("configured_memory_speed") or values.get("configured_clock_speed")
    return ReadModule(
        locator=said(values.get("locator")),
        size_gb=size_gb(said(values.get("size"))) or 0,
        soldered=said(values.get("form_factor")).lower() in ("row of chips", "chip", "die") or is_low_power(values),
        rated_mts=_rate(said(values.get("speed"))),
        running_mts=_rate(said(running)),
        part_number=said(values.get("part_number")),
        generation=int(kind[1]) if kind else None,
        maker=said(values.get("manufacturer")),
        serial=said(values.get("serial_number")),
        bank=said(values.get("bank_locator")),
        channel=channel_in(said(values.get("locator")), said(values.get("bank_locator"))),
        ranks=ranks if (ranks := whole(values.get("rank"))) in ddr.RANKS else None,
        voltage_mv=_millivolts(said(values.get("configured_voltage"))),
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
    kb = {k: int(v) for k, v in re.findall(r"^(\w+):\s*(\d+)\s*kB", text, re.MULTILINE)}
    if "MemTotal" not in kb:
        return {}
    found: Facts = {"visible_mb": kb["MemTotal"] // 1024}
    swapped = kb.get("SwapTotal", 0) - kb.get("SwapFree", 0)
    if "Committed_AS" in kb or swapped > 0:
        found["load"] = ReadLoad(swap_used_mb=max(swapped, 0) // 1024)
    return found


# -- the bus ------------------------------------------------------------------------------------
_LINK = re.compile(r"Lnk(Cap|Sta):.*?Speed\s+([\d.]+)\s*GT/s.*?Width\s+x(\d+)")
_BUSES = re.compile(r"Bus:\s*primary=([0-9a-f]{2}),\s*secondary=([0-9a-f]{2})")


def read_lspci(text: str) -> Facts:
    """Verbose lspci: radios, modems, and each NVMe drive's link as capable, as running, and at its port."""
    radios: list[ReadRadio] = []
    modems: list[ReadRadio] = []
    links: dict[str, dict[str, Link | None]] = {}
    ports: dict[str, Link | None] = {}
    seen = False
    for block in re.split(r"\n(?=[0-9a-f]{2}:|[0-9a-f]{4}:)", text):
        head = re.match(r"(?:[0-9a-f]{4}:)?([0-9a-f]{2}):\S+\s+([^:\[]+?)(?:\s+\[([0-9a-f]{4})\])?:\s*(.+)", block)
        if not head:
            continue
        seen = True
        bus, kind, code = head[1], head[2], head[3] or ""
        title = re.sub(r"\s*\((?:rev|prog-if)[^)]*\)", "", head[4].split("\n")[0])
        ident = re.search(r"\[([0-9a-f]{4}:[0-9a-f]{4})\]", title)
        name = re.sub(r"\s*\[[0-9a-f:]+\]\s*", "", title).strip()
        ends = {end: _link(gt, lanes) for end, gt, lanes in _LINK.findall(block)}
        if (buses := _BUSES.search(block)) and code in ("", "0604"):
            ports[buses[2]] = ends.get("Cap")
        elif code == "0280" or "Network controller" in kind:
            radios.append(
                ReadRadio(
                    name=name, id=f"{ident[1] if ident else ''} {_subsystem(block)}".strip(), driver=_driver(block)
                )
            )
        elif code == "0d40" or "cellular" in title.lower():
            modems.append(ReadRadio(name=name, id=_subsystem(block), driver=_driver(block)))
        elif code == "0108" or "Non-Volatile memory" in kind:
            links[name] = {"capable": ends.get("Cap"), "running": ends.get("Sta"), "port": ports.get(bus)}
    return {"radios": tuple(radios), "modems": tuple(modems), "links": links} if seen else {}


def _subsystem(block: str) -> str:
    found = re.search(r"Subsystem:\s*(.+)", block)
    return re.sub(r"\s*\[[0-9a-f:]+\]", "", found[1]).strip() if found else ""


def _driver(block: str) -> str:
    found = re.search(r"Kernel driver in use:\s*(\S+)", block)
    return found[1] if found else ""


def _link(gt_s: str, lanes: str) -> Link | None:
    try:
        generation = generation_of(float(gt_s))
    except ValueError:
        return None
    return Link(generation=generation, lanes=int(lanes)) if generation and 0 < int(lanes) <= 32 else None


def read_lsusb(text: str) -> Facts:
    if "ID " not in text:
        return {}
    modems = tuple(
        ReadRadio(name=m[2].strip(), id=m[1])
        for m in re.finditer(r"ID ([0-9a-f]{4}:[0-9a-f]{4}) (.+)", text)
        if re.search(r"cellular|modem", m[2], re.IGNORECASE)
    )
    return {"bluetooth": "bluetooth" in text.lower(), "modems": modems}


# -- drives -------------------------------------------------------------------------------------
def read_lsblk(text: str) -> Facts:
    told = json.loads(text)
    drives = []
    for d in _objects(told, "blockdevices"):
        if str(d.get("type") or "disk") != "disk" or not said(d.get("name")):
            continue
        if str(d.get("name")).startswith(("loop", "ram", "zram", "sr")) or str(d.get("tran")) == "usb":
            continue
        drives.append(
            ReadDrive(
                name=said(d["name"]),
                model=said(d.get("model")),
                serial=said(d.get("serial")),
                size_bytes=whole(d.get("size")),
                transport=said(d.get("tran")) or ("mmc" if str(d["name"]).startswith("mmcblk") else ""),
                spinning=d.get("rota") if isinstance(d.get("rota"), bool) else None,
            )
        )
    return {"drives": drives} if isinstance(told, dict) and "blockdevices" in told else {}


def read_nvme(text: str) -> Facts:
    """nvme list, in the flat layout and in the one by subsystems."""
    told = json.loads(text)
    drives = []
    for d in _objects(told, "Devices"):
        rows = [d] if d.get("DevicePath") else []
        for sub in _objects(d, "Subsystems"):
            for c in _objects(sub, "Controllers"):
                for n in _objects(c, "Namespaces") or _objects(sub, "Namespaces"):
                    rows.append(
                        {**c, "DevicePath": f"/dev/{n.get('NameSpace', '')}", "PhysicalSize": n.get("PhysicalSize")}
                    )
        drives += [
            ReadDrive(
                name=said(str(r.get("DevicePath", "")).removeprefix("/dev/")),
                model=said(r.get("ModelNumber")),
                serial=said(r.get("SerialNumber")),
                size_bytes=whole(r.get("PhysicalSize")) or None,
                transport="nvme",
                pci=said(r.get("Address")),
            )
            for r in rows
        ]
    return {"drives": drives} if isinstance(told, dict) and "Devices" in told else {}


def _objects(value: Any, key: str) -> list[dict[str, Any]]:
    rows = value.get(key) if isinstance(value, dict) else None
    return [r for r in rows if isinstance(r, dict)] if isinstance(rows, list) else []


# -- battery ------------------------------------------------------------------------------------
def read_upower(text: str) -> Facts:
    def wh(label: str) -> int | None:
        found = re.search(rf"^\s*{label}:\s*([\d.,]+)\s*Wh", text, re.MULTILINE)
        return round(float(found[1].replace(",", ".")) * 1000) if found else None

    model = re.search(r"^\s*model:[ \t]*(.*)$", text, re.MULTILINE)
    cycles = re.search(r"^\s*charge-cycles:\s*(\d+)", text, re.MULTILINE)
    design, full = wh("energy-full-design"), wh("energy-full")
    if design is None and full is None:
        return {}
    name = said(model[1]) if model else ""
    return {
        "battery": ReadBattery(
            model=name, design_mwh=design or None, full_mwh=full, cycles=int(cycles[1]) if cycles else None
        )
    }


def read_sysfs_battery(text: str) -> Facts:
    """The kernel's uevent of a battery: µWh, or µAh with the design voltage in µV."""
    values = dict(re.findall(r"^POWER_SUPPLY_(\w+)=(.*)$", text, re.MULTILINE))

    def mwh(energy: str, charge: str) -> int | None:
        if (micro := whole(values.get(energy))) is not None:
            return micro // 1000
        amps, volts = whole(values.get(charge)), whole(values.get("VOLTAGE_MIN_DESIGN"))
        return amps * volts // 10**9 if amps is not None and volts else None

    design, full = mwh("ENERGY_FULL_DESIGN", "CHARGE_FULL_DESIGN"), mwh("ENERGY_FULL", "CHARGE_FULL")
    if design is None and full is None:
        return {}
    cycles = whole(values.get("CYCLE_COUNT"))
    return {
        "battery": ReadBattery(
            model=said(values.get("MODEL_NAME")), design_mwh=design or None, full_mwh=full, cycles=cycles or None
        )
    }


# -- system and load ----------------------------------------------------------------------------
def read_uname(text: str) -> Facts:
    if "x86_64" in text or "aarch64" in text:
        return {"word_bits": 64}
    return {"word_bits": 32} if re.search(r"\bi[3-6]86\b", text) else {}


def read_vmstat(text: str) -> Facts:
    """vmstat with an interval: the first line is the average since start and is left out."""
    rows = jc.parse("vmstat", text, quiet=True)
    if not isinstance(rows, list) or not rows:
        return {}
    rows = rows[1:] or rows
    idle = [r["idle_time"] for r in rows if isinstance(r.get("idle_time"), int)]
    paging = [(r.get("swap_in") or 0) + (r.get("swap_out") or 0) for r in rows]
    busy = 100 - sum(idle) // len(idle) if idle else None
    return {"load": ReadLoad(paging_kb_s=max(paging), processor_busy_percent=busy)}


def read_free(text: str) -> Facts:
    """free -m, taken at the owner's busiest: used memory and swap."""
    memory = re.search(r"^Mem:\s+(\d+)\s+(\d+)", text, re.MULTILINE)
    swap = re.search(r"^Swap:\s+(\d+)\s+(\d+)", text, re.MULTILINE)
    if not memory:
        return {}
    used, swapped = int(memory[2]), int(swap[2]) if swap else 0
    return {"load": ReadLoad(peak_memory_mb=used + swapped, swap_used_mb=swapped)}


_DF_ROW = re.compile(r"^(/dev/(?!loop)\S+)\s+(\d+)\s+(\d+)\s+\d+\s+\S+\s+/", re.MULTILINE)


def read_df(text: str) -> Facts:
    """df -P -k: what the mounted file systems of the machine's own drives hold. (Read here: the parser
    library does not take the portable layout.)"""
    rows = {name: (int(size), int(used)) for name, size, used in _DF_ROW.findall(text)}
    size, used = sum(s for s, _ in rows.values()), sum(u for _, u in rows.values())
    if not size or used > size:
        return {}
    return {"load": ReadLoad(drive_used_gb=round(used * 1024 / 1e9, 1), drive_filled_percent=100 * used // size)}


def read_iw(text: str) -> Facts:
    """iw station dump: the signal on each antenna chain."""
    found = re.search(r"signal:\s*-?\d+\s*\[([-\d,\s]+)\]\s*dBm", text)
    return {"chains": tuple(int(v) for v in found[1].split(",") if v.strip().lstrip("-").isdigit())} if found else {}


READERS: dict[str, Callable[[str], Facts]] = {
    "dmidecode": read_dmidecode,
    "meminfo": read_meminfo,
    "lspci": read_lspci,
    "lsblk": read_lsblk,
    "nvme": read_nvme,
    "upower": read_upower,
    "battery": read_sysfs_battery,
    "lsusb": read_lsusb,
    "uname": read_uname,
    "vmstat": read_vmstat,
    "free": read_free,
    "df": read_df,
    "iw": read_iw,
    "cim": read_cim,
}
_SIGNS: tuple[tuple[str, Callable[[str], Facts]], ...] = (
    ("DMI type", read_dmidecode),
    ("Win32_", read_cim),
    ('"blockdevices"', read_lsblk),
    ('"Devices"', read_nvme),
    ("energy-full-design", read_upower),
    ("POWER_SUPPLY_", read_sysfs_battery),
    ("MemTotal:", read_meminfo),
    ("LnkCap:", read_lspci),
    ("root hub", read_lsusb),
)
