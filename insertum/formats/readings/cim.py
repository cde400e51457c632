"""A CIM inventory as JSON: class names to their instances (memory, disk, network, battery, system).

As a shell prints it with ``Get-CimInstance … | ConvertTo-Json``: one object, or a list of them, per
class; numbers may be text; what is unknown is null, empty or a word of junk.
"""

import re
from typing import Any

from ...core.reading import MOST_DEVICES, ReadBattery, ReadDrive, ReadModule, ReadRadio
from ..json_errors import parsed
from .junk import channel_in, whole, words_of
from .memory import is_soldered

#: SMBIOS memory types (DSP0134, Memory Device - Type): DDR3 to DDR5, and their LPDDR.
_SOCKETED = {24: 3, 26: 4, 34: 5}
_LOW_POWER = {29: 3, 30: 4, 35: 5}
_TYPES = _SOCKETED | _LOW_POWER
#: SMBIOS types of chips that hold the firmware's programs: ROM, flash, EEPROM, FEPROM, EPROM.
_NO_MEMORY = (8, 9, 10, 11, 12)
#: CIM form factors: DIMM, SODIMM; chips on the board (SMD, BGA, FPBGA), and 11, firmware's row of chips passed on.
_FORMS = {8: "dimm", 12: "sodimm", 11: "chip", 14: "chip", 21: "chip", 22: "chip"}
#: CIM Win32_PhysicalMemoryArray.Use: system memory.
_SYSTEM_MEMORY = 3
#: What packs are called here, which an inventory lists without a name of their own.
COUNTED = "Battery "
_STORAGE_BUS = re.compile(r"^(USB|USBSTOR|SD|SCSI|IDE)\\", re.IGNORECASE)


def read_cim(text: str) -> dict[str, Any]:
    """Facts of a CIM inventory printed as JSON. Raises :class:`InputError` where it is no JSON."""
    data = parsed(text, "CIM inventory")

    def rows(name: str) -> list[dict[str, Any]]:
        value = data.get(name) if isinstance(data, dict) else None
        listed = value if isinstance(value, list) else [value]
        return [r for r in listed if isinstance(r, dict)]

    def first(name: str, key: str) -> str:
        return next((s for r in rows(name) if (s := words_of(r.get(key)))), "")

    found: dict[str, Any] = {
        "maker": first("Win32_ComputerSystem", "Manufacturer"),
        "system": first("Win32_ComputerSystem", "Model"),
        "board": first("Win32_BaseBoard", "Product"),
        "firmware": first("Win32_BIOS", "SMBIOSBIOSVersion"),
        "processor": first("Win32_Processor", "Name"),
    }
    memory = [r for r in rows("Win32_PhysicalMemory") if whole(r.get("SMBIOSMemoryType")) not in _NO_MEMORY]
    found["modules"] = tuple(_module(r) for r in memory[: MOST_DEVICES + 1])
    # The list above holds filled places only, so it is whole; how many there are stands with the array.
    found["memory_complete"] = bool(memory)
    arrays = [r for r in rows("Win32_PhysicalMemoryArray") if whole(r.get("Use")) in (None, _SYSTEM_MEMORY)]
    counts = [whole(r.get("MemoryDevices")) for r in arrays]
    found["arrays"] = len(arrays)
    found["devices"] = sum(c or 0 for c in counts) if counts and None not in counts else None
    problems = []
    if len(memory) > MOST_DEVICES or (found["devices"] or 0) > MOST_DEVICES:
        problems.append("more places for memory than any laptop has: memory is left out")
        found |= {"modules": (), "devices": None}
    found["drives"] = [d for i, r in enumerate(rows("Win32_DiskDrive")) if (d := _drive(r, i))]
    found["radios"] = tuple(
        ReadRadio(name=words_of(r.get("Name")), id=ident, bus="pcie")
        for r in rows("Win32_NetworkAdapter")
        if re.search(r"wi-?fi|wireless|wlan|802\.11", f"{r.get('NetConnectionID')} {r.get('Name')}", re.IGNORECASE)
        # What is not on the bus is a stick, or an adapter that exists in software only.
        and (ident := _pci_id(str(r.get("PNPDeviceID") or "")))
    )
    found["packs"] = tuple(
        ReadBattery(
            name=f"{COUNTED}{n + 1}",
            model=words_of(b.get("Name")),
            design_mwh=whole(b.get("DesignCapacity")) or None,
            full_mwh=whole(b.get("FullChargeCapacity")) or None,
        )
        for n, b in enumerate(rows("Win32_Battery"))
    )
    if total := whole(next((r.get("TotalPhysicalMemory") for r in rows("Win32_ComputerSystem")), None)):
        found["visible_mb"] = total // 2**20
    kept = {k: v for k, v in found.items() if v}
    return kept | ({"problems": problems} if problems else {})


def _module(r: dict[str, Any]) -> ReadModule:
    kind, size = whole(r.get("SMBIOSMemoryType")) or 0, whole(r.get("Capacity"))
    number = words_of(r.get("PartNumber"))
    return ReadModule(
        locator=words_of(r.get("DeviceLocator")),
        # Empty places are not listed: a row is a module or chips, of a size or of none that is known.
        present=True if size or number else None,
        size_mb=size // 2**20 or None if size else None,
        soldered=is_soldered(_FORMS.get(whole(r.get("FormFactor")) or 0, ""), kind in _LOW_POWER),
        rated_mts=_rate(r.get("Speed")),
        running_mts=_rate(r.get("ConfiguredClockSpeed")),
        part_number=number,
        generation=_TYPES.get(kind),
        low_power=kind in _LOW_POWER,
        maker=words_of(r.get("Manufacturer")),
        serial=words_of(r.get("SerialNumber")),
        bank=words_of(r.get("BankLabel")),
        channel=channel_in(words_of(r.get("DeviceLocator")), words_of(r.get("BankLabel"))),
        voltage_mv=whole(r.get("ConfiguredVoltage")) or None,
    )


def _rate(value: Any) -> int | None:
    number = whole(value)
    return number if number and number < 100_000 else None


def _drive(r: dict[str, Any], n: int) -> ReadDrive | None:
    """A disk of the machine's own; None for a stick, a card in a reader, or a reader without one."""
    bus = _STORAGE_BUS.match(place := words_of(r.get("PNPDeviceID")))
    word = words_of(r.get("InterfaceType")).upper()
    kind = bus[1].upper() if bus else word
    if kind in ("USB", "USBSTOR") or word == "USB" or "removable" in words_of(r.get("MediaType")).lower():
        return None
    transport = {"IDE": "sata", "SD": "mmc"}.get(kind, "")
    if re.search(r"VEN_NVME", place, re.IGNORECASE):
        transport = "nvme"
    return ReadDrive(
        name=words_of(r.get("DeviceID")).rpartition("\\")[2] or f"PHYSICALDRIVE{n}",
        model=words_of(r.get("Model")),
        serial=words_of(r.get("SerialNumber")).rstrip("."),
        size_bytes=whole(r.get("Size")),
        transport=transport,
        firmware=words_of(r.get("FirmwareRevision")),
    )


def _pci_id(path: str) -> str:
    found = re.match(r"PCI\\VEN_([0-9A-F]{4})&DEV_([0-9A-F]{4})", path[:200], re.IGNORECASE)
    return f"{found[1]}:{found[2]}".lower() if found else ""
