"""The simulated laptop: for any configuration, fitted parts and faults it writes the raw tool
outputs a live system would. A stand-in for the customer's machine; it ships and never pretends."""

import json
from collections.abc import Collection, Iterator

from ..core.base import Frozen, InputError
from ..core.fit.build import Build
from ..core.fit.measured import link, mts_span
from ..core.fit.memory import module_density
from ..core.machine.part import BayDrive, Cellular, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..core.machine.shape import CellularSlot, DriveSlot, MemorySlot, RadioSlot
from ..core.standards.pcie import GT_S, Link
from ..core.standards.spd import Spd, image

FAULTS = {
    "module_not_home": "a memory module that is not fully home",
    "wrong_socket": "a memory module in another socket than planned",
    "narrow_link": "a drive link on fewer lanes",
    "slow_speed": "memory held at a slower grade",
    "no_bluetooth": "Bluetooth missing",
    "allowlist_block": "the radio blocked by firmware",
    "swapped_leads": "an antenna lead off or swapped: weak signal on one chain",
    "worn_pack": "a worn battery",
    "hidden_drives": "drives hidden by the storage mode",
}


class SimulatedLoad(Frozen):
    """What the owner's busiest hour looks like on this machine."""

    peak_memory_mb: int = 3400
    swap_used_mb: int = 0
    paging_kb_s: int = 0
    processor_busy_percent: int = 22
    drive_used_gb: float = 90


def bundle(build: Build, faults: Collection[str] = (), load: SimulatedLoad | None = None) -> dict[str, str]:
    """File name to text, as ``insertum-bundle/1`` holds them. Raises for an unknown fault."""
    if unknown := [f for f in faults if f not in FAULTS]:
        raise InputError(f"no fault {unknown[0]!r}", "simulated laptop", f"It can do {', '.join(FAULTS)}.")
    if not build.machine.memory.soldered and not any(m for _, m in _sockets(build, faults)):
        raise InputError(
            "a machine without memory does not start", "simulated laptop", "Fit a module, or another fault."
        )
    load = load or SimulatedLoad()
    files = {
        "dmidecode.txt": _dmidecode(build, faults),
        "meminfo.txt": _meminfo(build, faults, load),
        "free.txt": _free(build, faults, load),
        "vmstat.txt": _vmstat(load),
        "df.txt": _df(build, load),
        "lspci.txt": _lspci(build, faults),
        "lsusb.txt": _lsusb(build, faults),
        "lsblk.json": _lsblk(build, faults),
        "nvme.json": _nvme(build, faults),
        "upower.txt": _upower(build, faults),
        "uname.txt": "Linux bench 6.1.0 #1 SMP x86_64 GNU/Linux\n",
    }
    if any(True for _ in _radios(build)) and "allowlist_block" not in faults:
        files["iw.txt"] = _iw(build, faults)
    for n, (_, module) in enumerate(_sockets(build, faults)):
        if module is not None and (text := _image(module)):
            files[f"spd-{n}.txt"] = text
    return files


def bundle_json(build: Build, faults: Collection[str] = (), load: SimulatedLoad | None = None) -> str:
    return json.dumps({"format": "insertum-bundle/1", "files": bundle(build, faults, load)}, indent=1)


def _parts(build: Build) -> Iterator[tuple[object, Fittable]]:
    for slot in build.machine.slots:
        part = build.now(slot.id)
        if part is not None:
            yield slot, part


def _sockets(build: Build, faults: Collection[str]) -> list[tuple[MemorySlot, MemoryModule | None]]:
    """Memory sockets as firmware sees them."""
    modules = build.modules()
    seen: list[MemoryModule | None] = [modules.get(s.id) for s in build.memory_slots]
    held = [i for i, m in enumerate(seen) if m]
    if "module_not_home" in faults and held:
        seen[held[-1]] = None
    elif "wrong_socket" in faults and held and None in seen:
        seen[seen.index(None)], seen[held[-1]] = seen[held[-1]], None
    return list(zip(build.memory_slots, seen, strict=True))


# -- memory -------------------------------------------------------------------------------------
def _dmidecode(build: Build, faults: Collection[str]) -> str:
    m, c = build.machine.machine, build.machine.configuration
    board = next((k.text for k in (*c.marks, *m.marks) if k.kind == "board"), "Unknown")
    system = next((k.text for k in (*c.marks, *m.marks) if k.kind == "system"), f"{m.maker} {c.name}")
    sockets, soldered = _sockets(build, faults), build.machine.memory.soldered
    speed = (mts_span(build) or (0, 0))[0]
    if "slow_speed" in faults:
        # Not exactly half of what it should be: tools show that for memory that is well.
        speed = min(speed or 2400, 2133 if speed == 4800 else 2400)
    blocks = [
        (0, "BIOS Information", [f"Vendor: {m.maker}", f"Version: {build.firmware or '1.02'}"]),
        (
            1,
            "System Information",
            [f"Manufacturer: {m.maker}", f"Product Name: {system.removeprefix(m.maker).strip()}",
             "Version: Not Specified", "Serial Number: -1"],
        ),
        (2, "Base Board Information", [f"Manufacturer: {m.maker}", f"Product Name: {board}"]),
        (4, "Processor Information", ["Socket Designation: U3E1", f"Version: {c.processor} @ 2.40GHz   "]),
        (
            16,
            "Physical Memory Array",
            ["Location: System Board Or Motherboard", "Use: System Memory", "Maximum Capacity: 64 GB",
             f"Number Of Devices: {len(sockets) + len(soldered)}"],
        ),
    ]  # fmt: skip
    generation = build.known.value(build.memory_slots[0].id, "generation") if build.memory_slots else 4
    for s in soldered:
        blocks.append(
            (
                17,
                "Memory Device",
                [f"Size: {s.capacity_gb * 1024} MB", "Form Factor: Row Of Chips", f"Locator: Soldered {s.channel}",
                 f"Type: DDR{generation}", f"Speed: {s.rated_mts} MT/s", "Manufacturer: Unknown",
                 "Part Number: Not Specified", f"Configured Memory Speed: {speed} MT/s"],
            )
        )  # fmt: skip
    for slot, module in sockets:
        where = slot.locator or slot.name
        if module is None:
            lines = [
                "Size: No Module Installed",
                "Form Factor: SODIMM",
                f"Locator: {where}",
                "Type: Unknown",
                "Speed: Unknown",
            ]
        else:
            lines = [
                f"Size: {module.capacity_gb} GB",
                "Form Factor: SODIMM",
                f"Locator: {where}",
                f"Type: DDR{module.generation}",
                f"Speed: {module.grade_mts} MT/s",
                f"Manufacturer: {module.maker}",
                "Serial Number: -1",
                f"Part Number: {module.number}      ",
                f"Configured Memory Speed: {speed} MT/s",
            ]
        blocks.append((17, "Memory Device", lines))
    for slot in build.machine.slots:
        if isinstance(slot, DriveSlot | RadioSlot | CellularSlot) and slot.form == "m2":
            used = "In Use" if build.now(slot.id) else "Available"
            lines = [f"Designation: {slot.name}", "Type: M.2 Socket", f"Current Usage: {used}"]
            blocks.append((9, "System Slot Information", lines))
    text = "# dmidecode 3.4\nGetting SMBIOS data from sysfs.\nSMBIOS 3.3.0 present.\n\n"
    for n, (kind, title, lines) in enumerate(blocks):
        text += f"Handle 0x{n:04X}, DMI type {kind}, 40 bytes\n{title}\n" + "".join(f"\t{x}\n" for x in lines) + "\n"
    return text


def _image(module: MemoryModule) -> str:
    """The module's SPD image as a hex dump, where enough of it is known for one."""
    density = module_density(module)
    if density is None or density.denominator != 1:
        return ""
    spd = Spd(
        generation=module.generation,
        ranks=module.ranks,
        chip_width=module.chip_width,
        density_gbit=int(density),
        module_type=module.module_type,
        grade_mts=module.grade_mts,
        cl=module.cl,
        trfc_ns=module.trfc_ns or 350,
        voltage_mv=module.voltage_mv,
        part_number=module.number,
    )
    try:
        data = image(spd)
    except (InputError, KeyError):
        return ""
    return "".join(f"{i:04x}: {data[i : i + 16].hex(' ')}\n" for i in range(0, len(data), 16))


def _total_gb(build: Build, faults: Collection[str]) -> int:
    total = sum(s.capacity_gb for s in build.machine.memory.soldered)
    return total + sum(m.capacity_gb for _, m in _sockets(build, faults) if m)


def _visible_kb(build: Build, faults: Collection[str]) -> int:
    lost = sum(build.known.value("memory", n) or 0 for n in ("graphics_share_mb", "firmware_reserve_mb"))
    kb = (_total_gb(build, faults) * 1024 - lost) * 1024
    return kb - kb // 64  # what a kernel keeps for itself


def _meminfo(build: Build, faults: Collection[str], load: SimulatedLoad) -> str:
    kb = _visible_kb(build, faults)
    return (
        f"MemTotal:       {kb} kB\nMemFree:        {kb // 2} kB\nSwapTotal:       8388608 kB\n"
        f"SwapFree:        {8388608 - load.swap_used_mb * 1024} kB\nCommitted_AS:    {load.peak_memory_mb * 1024} kB\n"
    )


def _free(build: Build, faults: Collection[str], load: SimulatedLoad) -> str:
    total = _visible_kb(build, faults) // 1024
    used = load.peak_memory_mb - load.swap_used_mb
    return (
        "               total        used        free      shared  buff/cache   available\n"
        f"Mem:        {total:>8} {used:>11} {max(total - used, 0):>11}           0           0           0\n"
        f"Swap:           8192 {load.swap_used_mb:>11} {8192 - load.swap_used_mb:>11}\n"
    )


def _vmstat(load: SimulatedLoad) -> str:
    head = (
        "procs -----------memory---------- ---swap-- -----io---- -system-- ------cpu-----\n"
        " r  b   swpd   free   buff  cache   si   so    bi    bo   in   cs us sy id wa st\n"
    )
    busy = load.processor_busy_percent
    half = load.paging_kb_s // 2
    row = f" 1  0      0 500000  20000 900000 {half} {load.paging_kb_s - half}     5     9  200  400 {busy} 0 {100 - busy}  0  0\n"
    return head + " 1  0      0 500000  20000 900000    0    0     5     9  200  400  3  1 96  0  0\n" + row * 3


def _df(build: Build, load: SimulatedLoad) -> str:
    drives = [p for _, p in _parts(build) if isinstance(p, M2Drive | BayDrive)]
    size = sum(d.capacity_gb for d in drives) * 10**9 // 1024
    used = min(int(load.drive_used_gb * 1e9 / 1024), size)
    return (
        "Filesystem     1024-blocks      Used Available Capacity Mounted on\n"
        f"/dev/system    {size} {used} {size - used}      {100 * used // size if size else 0}% /\n"
        "tmpfs          4000000 0 4000000 0% /run\n"
    )


# -- drives and cards ---------------------------------------------------------------------------
def _drives(build: Build) -> list[tuple[DriveSlot | None, M2Drive | BayDrive]]:
    return [
        (slot if isinstance(slot, DriveSlot) else None, part)
        for slot, part in _parts(build)
        if isinstance(part, M2Drive | BayDrive)
    ]


def _radios(build: Build) -> Iterator[tuple[RadioSlot, Radio]]:
    for slot, part in _parts(build):
        if isinstance(part, Radio) and isinstance(slot, RadioSlot):
            yield slot, part


def _link_lines(capable: Link, running: Link) -> str:
    down = " (downgraded)" if running != capable else ""
    return (
        f"\t\tLnkCap:\tPort #0, Speed {GT_S[capable.generation]:g}GT/s, Width x{capable.lanes}, ASPM L1\n"
        f"\t\tLnkSta:\tSpeed {GT_S[running.generation]:g}GT/s{down}, Width x{running.lanes}\n"
    )


def _lspci(build: Build, faults: Collection[str]) -> str:
    text, bus = "00:00.0 Host bridge [0600]: Corvane Host bridge [1d00:0001] (rev 02)\n\n", 1
    for slot, drive in _drives(build):
        if slot is None or not isinstance(drive, M2Drive) or drive.interface != "pcie" or not drive.link:
            continue
        if "hidden_drives" in faults:
            continue
        running = link(build, slot.id) or drive.link
        if "narrow_link" in faults:
            running = Link(generation=running.generation, lanes=max(1, running.lanes // 2))
        lanes, generation = build.known.value(slot.id, "pcie_lanes"), build.known.value(slot.id, "pcie_generation")
        if lanes and generation:
            wired = Link(generation=generation, lanes=lanes)
            text += f"00:{bus:02x}.0 PCI bridge [0604]: Corvane PCI Express Root Port [1d00:{bus:04x}] (rev 02)\n"
            text += f"\tBus: primary=00, secondary={bus:02x}, subordinate={bus:02x}, sec-latency=0\n"
            text += _link_lines(wired, running) + "\n"
        text += f"{bus:02x}:00.0 Non-Volatile memory controller [0108]: {drive.maker} {drive.number} [1d0f:{bus:04x}] (rev 01) (prog-if 02 [NVM Express])\n"
        text += f"\tSubsystem: {drive.maker} {drive.number} [1d0f:0001]\n" + _link_lines(drive.link, running) + "\n"
        bus += 1
    if "allowlist_block" not in faults:
        one = Link(generation=2, lanes=1)
        for _, radio in _radios(build):
            text += f"{bus:02x}:00.0 Network controller [0280]: {radio.maker} {radio.number} [1d1f:0202] (rev 1a)\n"
            text += f"\tSubsystem: {radio.maker} {radio.fru} [1d1f:0001]\n" + _link_lines(one, one) + "\n"
            bus += 1
    for _, part in _parts(build):
        if isinstance(part, Cellular) and part.bus == "pcie":
            text += (
                f"{bus:02x}:00.0 Wireless controller [0d40]: {part.maker} {part.number} cellular modem [1d1f:0303]\n"
            )
            text += f"\tSubsystem: {part.maker} {part.fru} [1d1f:0001]\n\n"
    return text


def _lsusb(build: Build, faults: Collection[str]) -> str:
    text = "Bus 001 Device 001: ID 1d6b:0002 Linux Foundation 2.0 root hub\n"
    lost = {"no_bluetooth", "allowlist_block"} & set(faults)
    if any(r.bluetooth and build.known.value(s.id, "usb") is not False for s, r in _radios(build)) and not lost:
        text += "Bus 001 Device 004: ID 1d1f:0029 Bluetooth wireless interface\n"
    for _, part in _parts(build):
        if isinstance(part, Cellular) and part.bus == "usb":
            text += f"Bus 001 Device 005: ID 1d1f:0303 {part.maker} {part.number} cellular modem\n"
    return text


def _lsblk(build: Build, faults: Collection[str]) -> str:
    devices, nvme, sd = [], 0, 0
    for _, drive in _drives(build):
        interface = drive.interface if isinstance(drive, M2Drive) else "sata"
        if interface == "pcie" and "hidden_drives" in faults:
            continue
        match interface:
            case "pcie":
                name, transport, nvme = f"nvme{nvme}n1", "nvme", nvme + 1
            case "emmc":
                name, transport = "mmcblk0", None
            case _:
                name, transport, sd = f"sd{'abcdef'[sd]}", "sata", sd + 1
        devices.append(
            {
                "name": name,
                "type": "disk",
                "size": drive.capacity_gb * 10**9 // 4096 * 4096,
                "model": f"{drive.maker} {drive.number}",
                "serial": _serial(drive),
                "tran": transport,
                "rota": drive.spinning,
            }
        )
    return json.dumps({"blockdevices": devices}, indent=1)


def _serial(drive: M2Drive | BayDrive) -> str:
    return f"SN{sum(map(ord, drive.number)):06d}"


def _nvme(build: Build, faults: Collection[str]) -> str:
    held = [d for _, d in _drives(build) if isinstance(d, M2Drive) and d.interface == "pcie"]
    devices = [
        {
            "DevicePath": f"/dev/nvme{i}n1",
            "ModelNumber": f"{d.maker} {d.number}",
            "SerialNumber": _serial(d),
            "PhysicalSize": d.capacity_gb * 10**9 // 4096 * 4096,
        }
        for i, d in enumerate(() if "hidden_drives" in faults else held)
    ]
    return json.dumps({"Devices": devices}, indent=1)


def _iw(build: Build, faults: Collection[str]) -> str:
    leads = min((build.known.value(s.id, "leads") or 1 for s, _ in _radios(build)), default=1)
    chains = [-47 - n for n in range(max(leads, 1))]
    if "swapped_leads" in faults:
        chains[-1] = -82
    return f"Station 02:00:00:00:00:01 (on wlan0)\n\tsignal:  \t{max(chains)} [{', '.join(map(str, chains))}] dBm\n"


# -- battery ------------------------------------------------------------------------------------
def _upower(build: Build, faults: Collection[str]) -> str:
    packs = [p for _, p in _parts(build) if isinstance(p, Pack)]
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
