"""A CIM inventory as JSON: class names to their instances (memory, disk, network, battery, system).

As a shell prints it with ``Get-CimInstance … | ConvertTo-Json``: one object, or a list of them, per
class; numbers may be text; what is unknown is null, empty or a word of junk.
"""

import json
import re
from typing import Any

from ..core.reading import ReadBattery, ReadDrive, ReadModule, ReadRadio
from .junk import channel_in, said, whole

#: SMBIOS memory types (DSP0134, Memory Device - Type): DDR3 to DDR5, and their LPDDR, which is always soldered.
_SOCKETED = {24: 3, 26: 4, 34: 5}
_LOW_POWER = {29: 3, 30: 4, 35: 5}
_TYPES = _SOCKETED | _LOW_POWER
#: CIM form factors of chips on the board: SMD, BGA, FPBGA; 11 is firmware's row of chips passed through as it is.
_CHIPS = (11, 14, 21, 22)
#: CIM Win32_PhysicalMemoryArray.Use: system memory.
_SYSTEM_MEMORY = 3


def read_cim(text: str) -> dict[str, Any]:
    data = json.loads(text)

    def rows(name: str) -> list[dict[str, Any]]:
        value = data.get(name) if isinstance(data, dict) else None
        listed = value if isinstance(value, list) else [value]
        return [r for r in listed if isinstance(r, dict)]

    def first(name: str, key: str) -> str:
        return next((s for r in rows(name) if (s := said(r.get(key)))), "")

    found: dict[str, Any] = {
        "maker": first("Win32_ComputerSystem", "Manufacturer"),
        "system": first("Win32_ComputerSystem", "Model"),
        "board": first("Win32_BaseBoard", "Product"),
        "firmware": first("Win32_BIOS", "SMBIOSBIOSVersion"),
        "processor": first("Win32_Processor", "Name"),
    }
    found["modules"] = tuple(
        ReadModule(
            locator=said(r.get("DeviceLocator")),
            size_gb=(whole(r.get("Capacity")) or 0) // 2**30,
            soldered=whole(r.get("FormFactor")) in _CHIPS or whole(r.get("SMBIOSMemoryType")) in _LOW_POWER,
            rated_mts=whole(r.get("Speed")) or None,
            running_mts=whole(r.get("ConfiguredClockSpeed")) or None,
            part_number=said(r.get("PartNumber")),
            generation=_TYPES.get(whole(r.get("SMBIOSMemoryType")) or 0),
            maker=said(r.get("Manufacturer")),
            serial=said(r.get("SerialNumber")),
            bank=said(r.get("BankLabel")),
            channel=channel_in(said(r.get("DeviceLocator")), said(r.get("BankLabel"))),
            voltage_mv=whole(r.get("ConfiguredVoltage")) or None,
        )
        for r in rows("Win32_PhysicalMemory")
    )
    # The list above holds filled places only; how many there are stands with the array.
    arrays = [r for r in rows("Win32_PhysicalMemoryArray") if whole(r.get("Use")) in (None, _SYSTEM_MEMORY)]
    found["arrays"] = len(arrays)
    found["devices"] = sum(whole(r.get("MemoryDevices")) or 0 for r in arrays)
    found["drives"] = [
        ReadDrive(
            name=said(r.get("DeviceID")).rpartition("\\")[2] or f"disk{i}",
            model=said(r.get("Model")),
            serial=said(r.get("SerialNumber")).rstrip("."),
            size_bytes=whole(r.get("Size")),
            transport={"SCSI": "", "IDE": "sata"}.get(said(r.get("InterfaceType")), ""),
        )
        for i, r in enumerate(rows("Win32_DiskDrive"))
        if said(r.get("InterfaceType")) != "USB"
    ]
    found["radios"] = tuple(
        ReadRadio(name=said(r.get("Name")), id=_pci_id(str(r.get("PNPDeviceID") or "")))
        for r in rows("Win32_NetworkAdapter")
        if re.search(r"wi-?fi|wireless|wlan|802\.11", f"{r.get('NetConnectionID')} {r.get('Name')}", re.IGNORECASE)
    )
    if batteries := rows("Win32_Battery"):
        b = batteries[0]
        found["battery"] = ReadBattery(
            model=said(b.get("Name")),
            design_mwh=whole(b.get("DesignCapacity")) or None,
            full_mwh=whole(b.get("FullChargeCapacity")) or None,
        )
    total = whole(next((r.get("TotalPhysicalMemory") for r in rows("Win32_ComputerSystem")), None))
    if total:
        found["visible_mb"] = total // 2**20
    return {k: v for k, v in found.items() if v}


def _pci_id(path: str) -> str:
    found = re.search(r"VEN_([0-9A-F]{4})&DEV_([0-9A-F]{4})", path, re.IGNORECASE)
    return f"{found[1]}:{found[2]}".lower() if found else ""
