"""The simulated laptop: for any configuration, fitted parts and faults it writes the raw tool
outputs a live system would. A stand-in for the customer's machine; it ships and never pretends."""

import json
from collections.abc import Collection

from ..core.base import InputError
from ..core.claim import settle
from ..core.fit.build import Build
from ..core.fit.drive import drive_link
from ..core.fit.memory import running_speed
from ..core.machine import DriveSlot
from ..core.part import BayDrive, M2Drive, MemoryModule, Pack, Radio
from ..core.standards.pcie import GT_S, Link

FAULTS = {
    "module_not_home": "a memory module that is not fully home",
    "narrow_link": "a drive link on fewer lanes",
    "slow_speed": "memory held at a slower grade",
    "no_bluetooth": "Bluetooth missing",
    "allowlist_block": "the radio blocked by firmware",
    "worn_pack": "a worn battery",
    "hidden_drives": "drives hidden by the storage mode",
}


def bundle(build: Build, faults: Collection[str] = ()) -> dict[str, str]:
    """File name to text, as ``insertum-bundle/1`` holds them. Raises for an unknown fault."""
    if unknown := [f for f in faults if f not in FAULTS]:
        raise InputError(f"no fault {unknown[0]!r}", "simulated laptop", f"It can do {', '.join(FAULTS)}.")
    if not build.machine.memory.soldered and not any(m for _, m in _sizes(build, faults)):
        raise InputError(
            "a machine without memory does not start", "simulated laptop", "Fit a module, or another fault."
        )
    return {
        "dmidecode.txt": _dmidecode(build, faults),
        "meminfo.txt": _meminfo(build, faults),
        "lspci.txt": _lspci(build, faults),
        "lsusb.txt": _lsusb(build, faults),
        "lsblk.json": _lsblk(build, faults),
        "nvme.json": _nvme(build, faults),
        "upower.txt": _upower(build, faults),
        "uname.txt": "Linux bench 6.1.0 #1 SMP x86_64 GNU/Linux\n",
    }


def bundle_json(build: Build, faults: Collection[str] = ()) -> str:
    return json.dumps({"format": "insertum-bundle/1", "files": bundle(build, faults)}, indent=1)


def _sizes(build: Build, faults: Collection[str]) -> list[tuple[str, MemoryModule | None]]:
    """Socketed modules as firmware sees them."""
    seen: list[tuple[str, MemoryModule | None]] = []
    for slot in build.memory_slots:
        part = build.now(slot.id)
        seen.append((slot.name, part if isinstance(part, MemoryModule) else None))
    if "module_not_home" in faults:
        last = max((i for i, (_, m) in enumerate(seen) if m), default=None)
        if last is not None:
            seen[last] = (seen[last][0], None)
    return seen


def _dmidecode(build: Build, faults: Collection[str]) -> str:
    m, c = build.machine.machine, build.machine.configuration
    board = next((k.text for k in (*c.marks, *m.marks) if k.kind == "board"), "Unknown")
    speed = running_speed(build).mts or 0
    if "slow_speed" in faults:
        speed = 2400
    blocks = [
        ("0x0000", 0, "BIOS Information", [f"Vendor: {m.maker}", f"Version: {build.firmware or '1.02'}"]),
        (
            "0x0001",
            1,
            "System Information",
            [f"Manufacturer: {m.maker}", f"Product Name: {c.name}", "Version: Not Specified", "Serial Number: -1"],
        ),
        ("0x0002", 2, "Base Board Information", [f"Manufacturer: {m.maker}", f"Product Name: {board}"]),
        ("0x0004", 4, "Processor Information", ["Socket Designation: U3E1", f"Version: {c.processor}   "]),
        (
            "0x0010",
            16,
            "Physical Memory Array",
            ["Location: System Board Or Motherboard", "Maximum Capacity: 64 GB", "Number Of Devices: 2"],
        ),
    ]
    handle = 0x11
    for s in build.machine.memory.soldered:
        blocks.append(
            (
                f"0x{handle:04X}",
                17,
                "Memory Device",
                [
                    f"Size: {s.capacity_gb * 1024} MB",
                    "Form Factor: Row Of Chips",
                    f"Locator: Soldered {s.channel}",
                    f"Type: DDR{settle(build.memory_slots[0].generation).value if build.memory_slots else 4}",
                    f"Speed: {s.rated_mts} MT/s",
                    "Part Number: Not Specified",
                    f"Configured Memory Speed: {speed} MT/s",
                ],
            )
        )
        handle += 1
    for name, module in _sizes(build, faults):
        if module is None:
            lines = [
                "Size: No Module Installed",
                "Form Factor: SODIMM",
                f"Locator: {name}",
                "Type: Unknown",
                "Speed: Unknown",
            ]
        else:
            lines = [
                f"Size: {module.capacity_gb} GB",
                "Form Factor: SODIMM",
                f"Locator: {name}",
                f"Type: DDR{module.generation}",
                f"Speed: {module.grade_mts} MT/s",
                f"Part Number: {module.number}      ",
                f"Configured Memory Speed: {speed} MT/s",
            ]
        blocks.append((f"0x{handle:04X}", 17, "Memory Device", lines))
        handle += 1
    text = "# dmidecode 3.4\nGetting SMBIOS data from sysfs.\nSMBIOS 3.3.0 present.\n\n"
    for number, kind, title, lines in blocks:
        text += f"Handle {number}, DMI type {kind}, 40 bytes\n{title}\n" + "".join(f"\t{x}\n" for x in lines) + "\n"
    return text


def _meminfo(build: Build, faults: Collection[str]) -> str:
    total = sum(s.capacity_gb for s in build.machine.memory.soldered)
    total += sum(m.capacity_gb for _, m in _sizes(build, faults) if m)
    memory = build.machine.memory
    lost = (settle(memory.graphics_share_mb).value or 0) + (settle(memory.firmware_reserve_mb).value or 0)
    kb = (total * 1024 - lost) * 1024
    kb -= kb // 64  # what a kernel keeps for itself
    return f"MemTotal:       {kb} kB\nMemFree:        {kb // 2} kB\n"


def _held_drives(build: Build) -> list[tuple[DriveSlot | None, M2Drive | BayDrive]]:
    found: list[tuple[DriveSlot | None, M2Drive | BayDrive]] = []
    for slot in build.machine.slots:
        part = build.now(slot.id)
        if isinstance(part, M2Drive | BayDrive):
            found.append((slot if isinstance(slot, DriveSlot) else None, part))
    return found


def _link_lines(capable: Link, running: Link) -> str:
    down = " (downgraded)" if running != capable else ""
    return (
        f"\t\tLnkCap:\tPort #0, Speed {GT_S[capable.generation]:g}GT/s, Width x{capable.lanes}, ASPM L1\n"
        f"\t\tLnkSta:\tSpeed {GT_S[running.generation]:g}GT/s{down}, Width x{running.lanes}\n"
    )


def _lspci(build: Build, faults: Collection[str]) -> str:
    text, bus = "", 1
    for slot, drive in _held_drives(build):
        if slot is None or not isinstance(drive, M2Drive) or drive.interface != "pcie" or not drive.link:
            continue
        running = drive_link(slot, drive) or drive.link
        if "narrow_link" in faults:
            running = Link(generation=running.generation, lanes=max(1, running.lanes // 2))
        if "hidden_drives" in faults:
            continue
        text += f"{bus:02x}:00.0 Non-Volatile memory controller [0108]: {drive.maker} {drive.number} [1d0f:{bus:04x}] (rev 01) (prog-if 02 [NVM Express])\n"
        text += f"\tSubsystem: {drive.maker} {drive.number} [1d0f:0001]\n" + _link_lines(drive.link, running) + "\n"
        bus += 1
    if "allowlist_block" not in faults:
        for slot in build.machine.slots:
            radio = build.now(slot.id)
            if isinstance(radio, Radio):
                text += f"{bus:02x}:00.0 Network controller [0280]: {radio.maker} {radio.number} [1d1f:0202] (rev 1a)\n"
                text += f"\tSubsystem: {radio.maker} {radio.fru} [1d1f:0001]\n"
                text += _link_lines(Link(generation=2, lanes=1), Link(generation=2, lanes=1)) + "\n"
    return text


def _lsusb(build: Build, faults: Collection[str]) -> str:
    text = "Bus 001 Device 001: ID 1d6b:0002 Linux Foundation 2.0 root hub\n"
    radios = [r for s in build.machine.slots if isinstance(r := build.now(s.id), Radio)]
    if radios and radios[0].bluetooth and not {"no_bluetooth", "allowlist_block"} & set(faults):
        text += "Bus 001 Device 004: ID 1d1f:0029 Bluetooth wireless interface\n"
    return text


def _lsblk(build: Build, faults: Collection[str]) -> str:
    devices, nvme, sd = [], 0, 0
    for _, drive in _held_drives(build):
        pcie = isinstance(drive, M2Drive) and drive.interface == "pcie"
        if pcie and "hidden_drives" in faults:
            continue
        name = f"nvme{nvme}n1" if pcie else f"sd{'abcdef'[sd]}"
        nvme, sd = nvme + pcie, sd + (not pcie)
        devices.append(
            {
                "name": name,
                "type": "disk",
                "size": drive.capacity_gb * 10**9 // 4096 * 4096,
                "model": f"{drive.maker} {drive.number}",
                "serial": f"SN{sum(map(ord, drive.number)):06d}",
                "tran": "nvme" if pcie else "sata",
                "rota": drive.spinning,
            }
        )
    return json.dumps({"blockdevices": devices}, indent=1)


def _nvme(build: Build, faults: Collection[str]) -> str:
    devices = []
    if "hidden_drives" not in faults:
        held = [d for _, d in _held_drives(build) if isinstance(d, M2Drive) and d.interface == "pcie"]
        devices = [
            {
                "DevicePath": f"/dev/nvme{i}n1",
                "ModelNumber": f"{d.maker} {d.number}",
                "SerialNumber": f"SN{sum(map(ord, d.number)):06d}",
                "PhysicalSize": d.capacity_gb * 10**9 // 4096 * 4096,
            }
            for i, d in enumerate(held)
        ]
    return json.dumps({"Devices": devices}, indent=1)


def _upower(build: Build, faults: Collection[str]) -> str:
    packs = [p for s in build.machine.slots if isinstance(p := build.now(s.id), Pack)]
    if not packs:
        return ""
    p = packs[0]
    full = (p.full_mwh or p.design_mwh) / 1000 * (0.62 if "worn_pack" in faults else 1)
    return (
        "Device: /org/freedesktop/UPower/devices/battery_BAT0\n"
        "  native-path:          BAT0\n"
        f"  vendor:               {p.maker}\n"
        f"  model:                {p.number}\n"
        "  power supply:         yes\n"
        "  has history:          yes\n"
        "  has statistics:       yes\n"
        "  battery\n"
        "    present:             yes\n"
        "    rechargeable:        yes\n"
        "    state:               discharging\n"
        f"    energy:              {full / 2:.2f} Wh\n"
        f"    energy-full:         {full:.2f} Wh\n"
        f"    energy-full-design:  {p.design_mwh / 1000:.2f} Wh\n"
        f"    voltage:             {(p.voltage_mv or 11400) / 1000:.1f} V\n"
        "    percentage:          50%\n"
    )
