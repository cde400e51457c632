"""Reading bundles: raw tool outputs in, one :class:`Reading` out.

A bundle is a folder, a zip, or JSON ``{"format": "insertum-bundle/1", "files": {name: text}}``.
It is bounded in size, depth and count, and no path in it leaves it. A tool output that is missing,
truncated or odd gives what it holds; what was not understood is listed. Never a guess.
"""

import io
import json
import re
import zipfile
from collections.abc import Callable, Mapping
from pathlib import Path, PurePosixPath
from typing import Any

import jc

from ..core.base import InputError
from ..core.reading import ReadBattery, ReadDrive, Reading, ReadModule, ReadRadio
from ..core.standards.pcie import Link, generation_of
from .checked import MAX_BYTES, parsed, text_of

FORMAT = "insertum-bundle/1"
MAX_FILES = 100
MAX_DEPTH = 4
#: What firmware writes where it has nothing to say.
_JUNK = {"", "unknown", "none", "not specified", "no module installed", "n/a", "to be filled by o.e.m.", "-1"}


def _said(value: Any) -> str:
    text = str(value or "").strip()
    return "" if text.lower() in _JUNK else text


# -- opening a bundle -------------------------------------------------------------------------
def files_of(data: bytes, where: str = "bundle") -> dict[str, str]:
    """The bundle's text files by name. Raises :class:`InputError` for what is no bundle."""
    if data[:2] == b"PK":
        return _from_zip(data, where)
    value = parsed(text_of(data, where), where)
    if not isinstance(value, dict) or value.get("format") != FORMAT:
        raise InputError("not a reading bundle", where, f'It is a zip, or JSON with "format": "{FORMAT}".')
    files = value.get("files")
    if not isinstance(files, dict) or not all(isinstance(v, str) for v in files.values()):
        raise InputError("no files in it", where, 'Write "files": {"dmidecode.txt": "..."}.')
    _bounded(list(files), where)
    return {PurePosixPath(name).name: text for name, text in files.items()}


def _bounded(names: list[str], where: str) -> None:
    if len(names) > MAX_FILES:
        raise InputError(f"{len(names)} files, at most {MAX_FILES} are read", where)
    for name in names:
        path = PurePosixPath(name.replace("\\", "/"))
        if path.is_absolute() or ".." in path.parts or len(path.parts) > MAX_DEPTH:
            raise InputError(f"the path {name!r} leaves the bundle or is too deep", where, "Gather it again.")


def _from_zip(data: bytes, where: str) -> dict[str, str]:
    if len(data) > MAX_BYTES:
        raise InputError(f"{len(data) / 2**20:.0f} MB, at most {MAX_BYTES // 2**20} MB are read", where)
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = [i for i in archive.infolist() if not i.is_dir()]
            _bounded([i.filename for i in infos], where)
            if sum(i.file_size for i in infos) > MAX_BYTES:
                raise InputError("it unpacks to more than is read", where, "Check that it is the right file.")
            return {PurePosixPath(i.filename).name: archive.read(i).decode("utf-8", errors="replace") for i in infos}
    except (zipfile.BadZipFile, RuntimeError, NotImplementedError, OSError) as error:
        raise InputError(f"the zip cannot be opened: {error}", where, "Gather it again.") from error


def files_in(folder: Path) -> dict[str, str]:
    """The files of a bundle folder, one level, never following links out of it."""
    names = [p for p in sorted(folder.iterdir()) if p.is_file() and not p.is_symlink()]
    _bounded([p.name for p in names], str(folder))
    return {p.name: text_of(p.read_bytes(), p.name) for p in names}


# -- reading ----------------------------------------------------------------------------------
def read_bundle(files: Mapping[str, str]) -> Reading:
    """Everything the files tell, as one reading."""
    told: dict[str, Any] = {}
    understood, odd = [], []
    for name, text in sorted(files.items()):
        reader = READERS.get(name.rpartition(".")[0] or name)
        if reader is None:
            odd.append(f"{name}: no reader for it")
            continue
        try:
            found = reader(text)
        except Exception as error:  # a tool's junk must never stop the reading: it is listed instead
            odd.append(f"{name}: {type(error).__name__}: {str(error)[:120]}")
            continue
        if not found:
            odd.append(f"{name}: nothing understood in it")
            continue
        understood.append(name)
        for key, value in found.items():
            told[key] = _merged_drives(told[key], value) if key == "drives" and key in told else value
    links = told.pop("links", {})
    drives = tuple(_with_link(d, links) for d in told.pop("drives", ()))
    return Reading.model_validate(
        told | {"drives": drives, "understood": tuple(understood), "not_understood": tuple(odd)}
    )


def _merged_drives(known: list[ReadDrive], more: list[ReadDrive]) -> list[ReadDrive]:
    names = {d.name for d in known}
    return [*known, *(d for d in more if d.name not in names)]


def _with_link(drive: ReadDrive, links: Mapping[str, tuple[Link | None, Link | None]]) -> ReadDrive:
    # lspci names a drive by vendor and model; the block layer by model alone.
    for name, (capable, running) in links.items():
        if drive.transport == "nvme" and drive.model and drive.model in name:
            return drive.model_copy(update={"capable": capable, "running": running})
    return drive


def _whole(text: str, unit: str) -> int | None:
    found = re.match(rf"\s*(\d+)\s*{unit}", text)
    return int(found[1]) if found else None


def _size_gb(text: str) -> int:
    if gb := _whole(text, "GB"):
        return gb
    mb = _whole(text, "MB")
    return mb // 1024 if mb else 0


def read_dmidecode(text: str) -> dict[str, Any]:
    found: dict[str, Any] = {}
    modules = []
    # The parser takes the tool's first lines for a heading and drops them: give it one of its own.
    blocks = text[text.find("Handle ") :] if "Handle " in text else ""
    for block in jc.parse("dmidecode", f"# dmidecode\nSMBIOS\n\n{blocks}", quiet=True) if blocks else ():
        values = block.get("values") or {}
        match block.get("type"):
            case 0:
                found["firmware"] = _said(values.get("version"))
            case 1:
                found["maker"] = _said(values.get("manufacturer"))
                found["system"] = _said(values.get("product_name"))
            case 2:
                found["board"] = _said(values.get("product_name"))
            case 4:
                found["processor"] = " ".join(_said(values.get("version")).split())
            case 17:
                kind = re.match(r"DDR(\d)", _said(values.get("type")))
                running = values.get("configured_memory_speed") or values.get("configured_clock_speed")
                modules.append(
                    ReadModule(
                        locator=_said(values.get("locator")),
                        size_gb=_size_gb(_said(values.get("size"))),
                        soldered=_said(values.get("form_factor")).lower() in ("row of chips", "chip"),
                        rated_mts=_whole(_said(values.get("speed")), "(?:MT/s|MHz)"),
                        running_mts=_whole(_said(running), "(?:MT/s|MHz)"),
                        part_number=_said(values.get("part_number")),
                        generation=int(kind[1]) if kind else None,
                    )
                )
    if modules:
        found["modules"] = tuple(modules)
    return {k: v for k, v in found.items() if v}


def read_meminfo(text: str) -> dict[str, Any]:
    kb = re.search(r"^MemTotal:\s*(\d+)\s*kB", text, re.MULTILINE)
    return {"visible_mb": int(kb[1]) // 1024} if kb else {}


_LINK = re.compile(r"Lnk(Cap|Sta):.*?Speed\s+([\d.]+)GT/s.*?Width\s+x(\d+)")


def read_lspci(text: str) -> dict[str, Any]:
    """Verbose lspci: radios, and each NVMe drive's link as capable and as running."""
    radios: list[ReadRadio] = []
    links: dict[str, tuple[Link | None, Link | None]] = {}
    seen = False
    for block in re.split(r"\n(?=[0-9a-f]{2}:|[0-9a-f]{4}:)", text):
        head = re.match(r"\S+\s+([^:]+?)(?:\s+\[([0-9a-f]{4})\])?:\s*(.+)", block)
        if not head:
            continue
        seen = True
        title = re.sub(r"\s*\((?:rev|prog-if)[^)]*\)", "", head[3].split("\n")[0])
        ident = re.search(r"\[([0-9a-f]{4}:[0-9a-f]{4})\]", title)
        name = re.sub(r"\s*\[[0-9a-f:]+\]\s*", "", title).strip()
        if "Network controller" in head[1]:
            subsystem = re.search(r"Subsystem:\s*(.+)", block)
            fru = re.sub(r"\s*\[[0-9a-f:]+\]", "", subsystem[1]) if subsystem else ""
            radios.append(ReadRadio(name=name, id=f"{ident[1] if ident else ''} {fru}".strip()))
        elif "Non-Volatile memory" in head[1]:
            ends = {kind: _link(gt, lanes) for kind, gt, lanes in _LINK.findall(block)}
            links[name] = (ends.get("Cap"), ends.get("Sta"))
    return {"radios": tuple(radios), "links": links} if seen else {}


def _link(gt_s: str, lanes: str) -> Link | None:
    generation = generation_of(float(gt_s))
    return Link(generation=generation, lanes=int(lanes)) if generation and int(lanes) else None


def read_lsblk(text: str) -> dict[str, Any]:
    disks = [d for d in json.loads(text)["blockdevices"] if d.get("type", "disk") == "disk"]
    return {
        "drives": [
            ReadDrive(
                name=str(d["name"]),
                model=_said(d.get("model")),
                serial=_said(d.get("serial")),
                size_bytes=int(d["size"]) if str(d.get("size", "")).isdigit() else None,
                transport=_said(d.get("tran")),
            )
            for d in disks
        ]
    }


def read_nvme(text: str) -> dict[str, Any]:
    return {
        "drives": [
            ReadDrive(
                name=str(d.get("DevicePath", "")).removeprefix("/dev/"),
                model=_said(d.get("ModelNumber")),
                serial=_said(d.get("SerialNumber")),
                size_bytes=int(d["PhysicalSize"]) if d.get("PhysicalSize") else None,
                transport="nvme",
            )
            for d in json.loads(text)["Devices"]
        ]
    }


def read_upower(text: str) -> dict[str, Any]:
    def wh(label: str) -> int | None:
        found = re.search(rf"^\s*{label}:\s*([\d.]+)\s*Wh", text, re.MULTILINE)
        return round(float(found[1]) * 1000) if found else None

    model = re.search(r"^\s*model:[ \t]*(.*)$", text, re.MULTILINE)
    design, full = wh("energy-full-design"), wh("energy-full")
    if design is None and full is None:
        return {}
    return {"battery": ReadBattery(model=_said(model[1]) if model else "", design_mwh=design, full_mwh=full)}


def read_lsusb(text: str) -> dict[str, Any]:
    return {"bluetooth": "bluetooth" in text.lower()} if "ID " in text else {}


def read_uname(text: str) -> dict[str, Any]:
    if "x86_64" in text or "aarch64" in text:
        return {"word_bits": 64}
    return {"word_bits": 32} if re.search(r"\bi[3-6]86\b", text) else {}


READERS: dict[str, Callable[[str], dict[str, Any]]] = {
    "dmidecode": read_dmidecode,
    "meminfo": read_meminfo,
    "lspci": read_lspci,
    "lsblk": read_lsblk,
    "nvme": read_nvme,
    "upower": read_upower,
    "lsusb": read_lsusb,
    "uname": read_uname,
}
