"""Drives: lsblk, nvme list, their health, where they hang, and what is on them."""

import re
from typing import Any

from ...core.reading import ReadDrive, ReadVolume
from ..json_errors import parsed
from .bus import address_in
from .junk import lines_of, pci_address, whole, words_of

Facts = dict[str, Any]

#: Names of block devices that are no drive of the machine.
_VIRTUAL = re.compile(r"(loop|ram|zram|sr|fd|md|dm-|nbd|zd)\d*|mmcblk\d+(boot\d+|rpmb|gp\d+)$")
#: The GPT type of the EFI system partition (UEFI specification 5.3.3).
_LOADER = "c12a7328-f81f-11d2-ba4b-00a0c93ec93b"
_DEEPEST = 8


def read_lsblk(text: str) -> Facts:
    """lsblk's JSON: drives with their volumes; the stick and other guests are told apart by their bus."""
    told = parsed(text, "lsblk")
    if not isinstance(told, dict) or "blockdevices" not in told:
        return {}
    rows = [d for d in _objects(told, "blockdevices") if words_of(d.get("name"))]
    # A flat list names parents; a tree holds them.
    loose: dict[str, list[dict[str, Any]]] = {}
    for d in rows:
        if str(d.get("type") or "disk") != "disk" and (parent := words_of(d.get("pkname"))):
            loose.setdefault(parent, []).append(d)
    emmc = {m[1] for d in rows if (m := re.match(r"(mmcblk\d+)boot\d", str(d["name"])))}
    found: Facts = {"drives": [], "guests": {}, "roots": [], "partitions": _guids(rows)}
    for d in rows:
        name = words_of(d["name"])
        if str(d.get("type") or "disk") != "disk" or _VIRTUAL.match(name) or whole(d.get("size")) == 0:
            continue
        held = _objects(d, "children") + loose.get(name, [])
        volumes = tuple(_volumes([d] if d.get("fstype") and not held else held, loose))
        bus = words_of(d.get("tran")).lower() or _bus_of(name)
        found["roots"] += [name for v in volumes if v.mounted == "/"]
        if bus == "usb" or _yes(d.get("rm")):
            found["guests"][name] = "usb"
            continue
        if bus == "mmc" and name not in emmc:
            found["guests"][name] = "card"  # until somebody says it is soldered
        found["drives"].append(
            ReadDrive(
                name=name,
                model=words_of(d.get("model")),
                serial=words_of(d.get("serial")),
                size_bytes=whole(d.get("size")),
                transport=bus,
                spinning=_yes(d.get("rota")) if bus != "nvme" else False,
                firmware=words_of(d.get("rev")),
                volumes=volumes,
            )
        )
    return {k: v for k, v in found.items() if v or k == "drives"}


def _guids(rows: list[dict[str, Any]], depth: int = 0) -> dict[str, str]:
    """Partitions by their GUID."""
    found: dict[str, str] = {}
    for r in rows if depth < _DEEPEST else ():
        if guid := words_of(r.get("partuuid")).lower():
            found[guid] = words_of(r.get("name"))
        found |= _guids(_objects(r, "children"), depth + 1)
    return found


def _bus_of(name: str) -> str:
    return "nvme" if name.startswith("nvme") else "mmc" if name.startswith("mmcblk") else ""


def _yes(value: Any) -> bool | None:
    """lsblk writes true, or "1" in older releases."""
    return {"true": True, "1": True, "false": False, "0": False}.get(str(value).lower())


def _volumes(rows: list[dict[str, Any]], loose: dict[str, list[dict[str, Any]]], depth: int = 0) -> list[ReadVolume]:
    """File systems, and what lies between them and the drive (a container counts by what is in it)."""
    found: list[ReadVolume] = []
    for r in rows if depth < _DEEPEST else ():
        name = words_of(r.get("name"))
        inside = _volumes(_objects(r, "children") + loose.get(name, []), loose, depth + 1)
        points = r.get("mountpoints") if isinstance(r.get("mountpoints"), list) else [r.get("mountpoint")]
        mounted = next((words_of(p) for p in points if words_of(p)), "")
        if inside:
            found += inside
        else:
            found.append(
                ReadVolume(
                    name=name,
                    kind=words_of(r.get("fstype")),
                    size_bytes=whole(r.get("fssize")) or whole(r.get("size")),
                    used_bytes=whole(r.get("fsused")),
                    mounted=mounted,
                    loader=words_of(r.get("parttype")).lower() == _LOADER,
                )
            )
    return found


def read_nvme(text: str) -> Facts:
    """nvme list, in the flat layout and in the one by subsystems."""
    told = parsed(text, "nvme list")
    if not isinstance(told, dict) or "Devices" not in told:
        return {}
    rows: list[dict[str, Any]] = []
    for d in _objects(told, "Devices"):
        if d.get("DevicePath"):
            rows.append(d)
        for sub in _objects(d, "Subsystems"):
            for c in _objects(sub, "Controllers"):
                for n in _objects(c, "Namespaces") or _objects(sub, "Namespaces"):
                    rows.append(
                        {**c, "DevicePath": f"/dev/{n.get('NameSpace', '')}", "PhysicalSize": n.get("PhysicalSize")}
                    )
    drives = [
        ReadDrive(
            name=words_of(str(r.get("DevicePath", ""))[:200].removeprefix("/dev/")),
            model=words_of(r.get("ModelNumber")),
            serial=words_of(r.get("SerialNumber")),
            size_bytes=whole(r.get("PhysicalSize")) or None,
            transport="nvme",
            spinning=False,
            pci=pci_address(r.get("Address", "")),
            firmware=words_of(r.get("Firmware")),
        )
        for r in rows
    ]
    # A drive on a network is none of the machine's: its controller has another transport.
    kept = [d for d, r in zip(drives, rows, strict=True) if d.name and str(r.get("Transport", "pcie")) == "pcie"]
    return {"drives": kept}


def read_smart(text: str) -> Facts:
    """Health of one drive: smartctl's JSON, or nvme smart-log's beside the device's name."""
    told = parsed(text, "smart")
    if not isinstance(told, dict):
        return {}
    device = _object(told, "device")
    log = _object(told, "nvme_smart_health_information_log") or _object(told, "log") or told
    name = words_of(device.get("name") or told.get("device_name")).removeprefix("/dev/")
    if not name:
        return {}
    celsius = whole(_object(told, "temperature").get("current"))
    kelvin = whole(log.get("temperature"))  # nvme counts from absolute zero
    if celsius is None and kelvin is not None and 233 <= kelvin <= 423:
        celsius = kelvin - 273
    used = [log.get("percent_used"), log.get("percentage_used")]
    worn = next((w for v in used if (w := whole(v)) is not None), None)
    return {
        "health": {
            name: {
                "temperature_c": celsius if celsius is not None and celsius <= 150 else None,
                "worn_percent": worn if worn is not None and worn <= 255 else None,
                "firmware": words_of(told.get("firmware_version")),
                "serial": words_of(told.get("serial_number")),
            }
        }
    }


def read_places(text: str) -> Facts:
    """Where block devices hang, as the gather script writes it: ``name kind sysfs-path``; ``kind`` is the card's
    own word (MMC, SD) or "-"."""
    places, kinds = {}, {}
    for line in lines_of(text):
        words = line.split(" ", 2)
        if len(words) == 3 and words[2].startswith("/"):
            name = words_of(words[0])
            kinds[name] = words[1]
            if "/usb" in words[2]:
                kinds[name] = "usb"
            elif re.search(r"/ata\d{1,3}/", words[2]):
                kinds[name] = "ata"
            if address := address_in(words[2]):
                places[name] = address
    return {"places": places, "place_kinds": kinds} if kinds else {}


def read_efibootmgr(text: str) -> Facts:
    """efibootmgr -v: the partition firmware started from this time, by its GUID."""
    current, entries = "", {}
    for line in lines_of(text):
        if found := re.match(r"BootCurrent:\s*([0-9A-F]{4})", line):
            current = found[1]
        elif (entry := re.match(r"Boot([0-9A-F]{4})\*?\s", line)) and (
            part := re.search(r"HD\(\d{1,3},GPT,([0-9a-fA-F-]{36})", line)
        ):
            entries[entry[1]] = part[1].lower()
    return {"started_from": entries[current]} if current in entries else {}


def _objects(value: Any, key: str) -> list[dict[str, Any]]:
    rows = value.get(key) if isinstance(value, dict) else None
    return [r for r in rows if isinstance(r, dict)] if isinstance(rows, list) else []


def _object(value: Any, key: str) -> dict[str, Any]:
    found = value.get(key) if isinstance(value, dict) else None
    return found if isinstance(found, dict) else {}
