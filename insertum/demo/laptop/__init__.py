"""The simulated laptop: for any configuration, fitted parts and faults it writes the raw tool
outputs a live system would. A stand-in for the customer's machine; it ships and never pretends.

``tree.py`` lays the device tree out; here it is printed in the words of the real tools, whose own outputs over the same
trees are kept in tests/formats/captures.
"""

import json
from collections.abc import Collection, Mapping
from typing import Any

from ...core.errors import InputError
from ...core.fit.build import Build
from ...core.machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ...core.machine.density import module_density
from ...core.machine.part import MemoryModule
from ...core.standards.pcie import GT_S, Link
from ...core.standards.spd import Spd
from ...core.standards.spd_image import image
from .disks import df_output, lsblk_output, nvme_output, places_output, smart_output
from .tree import FAULTS, SimulatedLoad, Tree, tree

__all__ = ("FAULTS", "SimulatedLoad", "bundle", "bundle_json")


def bundle(
    build: Build, faults: Collection[str] = (), load: SimulatedLoad | None = None, locale: str = "C"
) -> dict[str, str]:
    """File name to text, as ``insertum-bundle/1`` holds them; with a load from the owner's own system, without from
    a live stick. ``locale`` "de" is a system that speaks German, where tools follow it. Raises for an unknown fault."""
    t = tree(build, faults, load)
    files = {
        "dmidecode.txt": _dmidecode(t),
        "meminfo.txt": _meminfo(t),
        "free.txt": _free(t, locale),
        "vmstat.txt": _vmstat(t),
        "df.txt": df_output(t, locale),
        "root.txt": _root(t),
        "lspci.txt": _lspci(t),
        "lsusb.txt": _lsusb(t),
        "usb.txt": _usb(t),
        "lsblk.json": lsblk_output(t),
        "places.txt": places_output(t),
        "nvme.json": nvme_output(t),
        "efibootmgr.txt": _efibootmgr(t),
        "power.txt": _power(t),
        "upower.txt": _upower(t, locale),
        "uname.txt": "Linux bench 6.1.0 #1 SMP x86_64 GNU/Linux\n",
    }
    for d in t.disks:
        if d.transport == "nvme":
            files[f"smart-{d.name}.json"] = smart_output(d.name)
    for n, (_, radio, pci) in enumerate(t.radios):
        files["net.txt"] = files.get("net.txt", "") + f"wlan{n} {_path_of(t, pci)}/net/wlan{n}\n"
        files[f"iw-wlan{n}.txt"] = _iw(t, n, radio.streams or 1)
    for n, (_, module) in enumerate(t.sockets):
        if module is not None and (text := _image(module)):
            files[f"spd-{n}.txt"] = text
    return {name: text for name, text in files.items() if text}


def bundle_json(
    build: Build, faults: Collection[str] = (), load: SimulatedLoad | None = None, locale: str = "C"
) -> str:
    """What the simulated laptop's gather script would print, as one JSON text."""
    return json.dumps({"format": "insertum-bundle/1", "files": bundle(build, faults, load, locale)}, indent=1)


# -- memory -------------------------------------------------------------------------------------
Table = list[tuple[int, str, list[str]]]


def _dmidecode(t: Tree) -> str:
    text = "# dmidecode 3.4\nGetting SMBIOS data from sysfs.\nSMBIOS 3.3.0 present.\n\n"
    for n, (kind, title, lines) in enumerate(_table(t)):
        text += f"Handle 0x{n:04X}, DMI type {kind}, 40 bytes\n{title}\n" + "".join(f"\t{x}\n" for x in lines) + "\n"
    return text + "Handle 0x00FF, DMI type 127, 4 bytes\nEnd Of Table\n\n"


def _table(t: Tree) -> Table:
    m, c = t.build.machine.machine, t.build.machine.configuration
    board = next((k.text for k in (*c.marks, *m.marks) if k.kind == "board"), "Unknown")
    system = next((k.text for k in (*c.marks, *m.marks) if k.kind == "system"), f"{m.maker} {c.name}")
    blocks: Table = [
        (0, "BIOS Information", [f"Vendor: {m.maker}", f"Version: {t.build.firmware or '1.02'}"]),
        (1, "System Information",
         [f"Manufacturer: {m.maker}", f"Product Name: {system.removeprefix(m.maker).strip()}",
          "Version: Not Specified", "Serial Number: -1"]),
        (2, "Base Board Information", [f"Manufacturer: {m.maker}", f"Product Name: {board}"]),
        (4, "Processor Information", ["Socket Designation: U3E1", f"Version: {c.processor} @ 2.40GHz   "]),
        (16, "Physical Memory Array",
         ["Location: System Board Or Motherboard", "Use: System Memory", "Error Correction Type: None",
          "Maximum Capacity: 64 GB", "Error Information Handle: Not Provided",
          f"Number Of Devices: {len(t.sockets) + len(t.soldered)}"]),
        # The firmware's own chip has an array and a device of its own: no memory of the machine.
        (16, "Physical Memory Array",
         ["Location: System Board Or Motherboard", "Use: Flash Memory", "Error Correction Type: None",
          "Maximum Capacity: 32 MB", "Error Information Handle: Not Provided", "Number Of Devices: 1"]),
        (17, "Memory Device",
         ["Array Handle: 0x0005", "Size: 32 MB", "Form Factor: Chip", "Locator: SYSTEM ROM", "Bank Locator: Not Specified",
          "Type: Flash", "Type Detail: Non-Volatile", "Speed: Unknown", "Part Number: PR25F32"]),
    ]  # fmt: skip
    generation = t.build.known.value(t.sockets[0][0].id, "generation") if t.sockets else 4
    kind = f"DDR{generation or 4}" if t.sockets else f"LPDDR{generation or 4}"
    for n, s in enumerate(t.soldered):
        lines = [
            "Array Handle: 0x0004", f"Size: {s.capacity_gb * 1024} MB", "Form Factor: Row Of Chips",
            f"Locator: Onboard {n}", f"Bank Locator: {f'P0 CHANNEL {s.channel}' if s.channel else 'Not Specified'}",
            f"Type: {kind}", f"Speed: {f'{s.rated_mts} MT/s' if s.rated_mts else 'Unknown'}", "Manufacturer: Unknown",
            "Part Number: Not Specified", "Rank: Unknown", f"Configured Memory Speed: {t.running_mts} MT/s",
        ]  # fmt: skip
        blocks.append((17, "Memory Device", lines))
    for slot, module in t.sockets:
        where = [f"Locator: {slot.locator or slot.name}", "Bank Locator: Not Specified"]
        if module is None:
            lines = ["Array Handle: 0x0004", "Size: No Module Installed", "Form Factor: SODIMM", *where, "Type: Unknown",
                     "Speed: Unknown"]  # fmt: skip
        else:
            lines = [
                "Array Handle: 0x0004", f"Size: {module.capacity_gb} GB", "Form Factor: SODIMM", *where,
                f"Type: DDR{module.generation}", f"Speed: {module.profile_mts or module.grade_mts} MT/s",
                f"Manufacturer: {module.maker}", "Serial Number: -1", f"Part Number: {module.number}      ",
                f"Rank: {module.ranks or 'Unknown'}", f"Configured Memory Speed: {t.running_mts} MT/s",
            ]  # fmt: skip
        blocks.append((17, "Memory Device", lines))
    for slot in t.build.machine.slots:
        if isinstance(slot, DriveSlot | RadioSlot | CellularSlot) and slot.form == "m2":
            used = "In Use" if t.build.now(slot.id) else "Available"
            lines = [f"Designation: {slot.name}", "Type: x1 M.2 Socket 3", f"Current Usage: {used}"]
            lines += [f"Bus Address: {t.slots[slot.id]}"] if slot.id in t.slots else []
            blocks.append((9, "System Slot Information", lines))
    return blocks


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
        clock_driver=module.clock_driver,
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
    rows = (f"{i:08x}  {data[i : i + 8].hex(' ')}  {data[i + 8 : i + 16].hex(' ')}\n" for i in range(0, len(data), 16))
    return "".join(rows) + f"{len(data):08x}\n"


def _visible_kb(t: Tree) -> int:
    total = sum(s.capacity_gb for s in t.soldered) + sum(m.capacity_gb for _, m in t.sockets if m)
    lost = sum(t.build.known.value("memory", n) or 0 for n in ("graphics_share_mb", "firmware_reserve_mb"))
    kb = (total * 1024 - lost) * 1024
    return kb - kb // 64  # what a kernel keeps for itself


def _meminfo(t: Tree) -> str:
    kb = _visible_kb(t)
    swap = (8388608, 8388608 - t.load.swap_used_mb * 1024) if t.own else (0, 0)
    return (
        f"MemTotal:       {kb} kB\nMemFree:        {kb // 2} kB\nSwapTotal:       {swap[0]} kB\n"
        f"SwapFree:        {swap[1]} kB\nCommitted_AS:    {t.load.peak_memory_mb * 1024} kB\n"
    )


def _free(t: Tree, locale: str) -> str:
    total = _visible_kb(t) // 1024
    used = t.load.peak_memory_mb - t.load.swap_used_mb
    swap = 8192 if t.own else 0
    memory, names = (
        ("Speicher:", "gesamt       benutzt     frei")
        if locale == "de"
        else ("Mem:     ", "total        used        free")
    )
    return (
        f"               {names}      shared  buff/cache   available\n"
        f"{memory}   {total:>8} {used:>11} {max(total - used, 0):>11}           0           0           0\n"
        f"Swap:       {swap:>8} {t.load.swap_used_mb:>11} {swap - t.load.swap_used_mb:>11}\n"
    )


def _vmstat(t: Tree) -> str:
    head = (
        "procs -----------memory---------- ---swap-- -----io---- -system-- ------cpu-----\n"
        " r  b   swpd   free   buff  cache   si   so    bi    bo   in   cs us sy id wa st\n"
    )
    busy, paging = t.load.processor_busy_percent, t.load.paging_kb_s
    half = paging // 2
    row = (
        f" 1  0      0 500000  20000 900000 {half} {paging - half}     5     9  200  400 {busy} 0 {100 - busy}  0  0\n"
    )
    return head + " 1  0      0 500000  20000 900000    0    0     5     9  200  400  3  1 96  0  0\n" + row * 3


def _root(t: Tree) -> str:
    if not t.own:
        return "overlay / overlay rw,relatime 0 0\n"
    mounted = next((v for d in t.disks for v in d.volumes if v.mounted == "/"), None)
    return f"/dev/{mounted.name} / ext4 rw,relatime 0 0\n" if mounted else ""


# -- buses --------------------------------------------------------------------------------------
def _link_lines(capable: Link, running: Link | None) -> str:
    gt, lanes = (GT_S[running.generation], running.lanes) if running else (2.5, 0)
    slower = "" if running and running.generation == capable.generation else " (downgraded)"
    fewer = "" if running and running.lanes == capable.lanes else " (downgraded)"
    return (
        f"\t\tLnkCap:\tPort #0, Speed {GT_S[capable.generation]:g}GT/s, Width x{capable.lanes}, ASPM L1, Exit Latency L1 <16us\n"
        "\t\t\tClockPM- Surprise- LLActRep- BwNot- ASPMOptComp+\n"
        f"\t\tLnkSta:\tSpeed {gt:g}GT/s{slower}, Width x{lanes}{fewer}\n"
        "\t\t\tTrErr- Train- SlotClk+ DLActive- BWMgmt- ABWMgmt-\n"
    )


def _lspci(t: Tree) -> str:
    blocks = []
    for f in t.functions:
        tail = (
            " (prog-if 02 [NVM Express])"
            if f.code == "0108"
            else " (prog-if 00 [Normal decode])"
            if f.code == "0604"
            else ""
        )
        lines = [f"{f.pci} {f.kind} [{f.code}]: {f.name} [{f.ident}] (rev 01){tail}"]
        if f.subsystem:
            lines.append(f"\tSubsystem: {f.subsystem} [{f.ident[:4]}:0001]")
        if f.secondary is not None:
            bus = f"{f.secondary:02x}"
            lines.append(f"\tBus: primary=00, secondary={bus}, subordinate={bus}, sec-latency=0")
        if f.capable:
            lines.append("\tCapabilities: [70] Express (v2) Endpoint, MSI 00")
            lines.append(_link_lines(f.capable, f.running).rstrip("\n"))
        if f.driver:
            lines.append(f"\tKernel driver in use: {f.driver}")
        blocks.append("\n".join(lines) + "\n")
    return "\n".join(blocks)


def _path_of(t: Tree, pci: str) -> str:
    f = next(f for f in t.functions if f.pci == pci)
    return f"/sys/devices/pci0000:00/{f.port}/{pci}"


def _lsusb(t: Tree) -> str:
    rows = enumerate((u for u in t.usb), 1)
    return "".join(
        f"Bus 001 Device {n:03d}: ID {u.ident} {'Linux Foundation 2.0 ' if n == 1 else ''}{u.name}\n" for n, u in rows
    )


def _usb(t: Tree) -> str:
    return "".join(f"{u.place} {u.ident} {u.removable} {u.code} {u.driver} {u.name}\n" for u in t.usb)


def _iw(t: Tree, n: int, streams: int) -> str:
    leads = t.build.known.value(t.radios[n][0].id, "leads") or 1
    chains = [-47 - i for i in range(max(1, min(leads, streams)))]
    if "lead_off" in t.faults:
        chains[-1] = -82
    shown = ", ".join(map(str, chains))
    return (
        f"Station 02:00:00:00:00:01 (on wlan{n})\n\tinactive time:\t8 ms\n\trx bytes:\t4096\n"
        f"\tsignal:  \t{max(chains)} [{shown}] dBm\n\tsignal avg:\t{max(chains)} [{shown}] dBm\n"
    )


def _efibootmgr(t: Tree) -> str:
    lines, current = [], "0000"
    loaders = [(d, v) for d in t.disks for v in d.volumes if v.loader]
    for n, (d, v) in enumerate(loaders):
        lines.append(
            f"Boot{n:04X}* {'stick' if d.removable else 'system'}\tHD({n + 1},GPT,{v.guid},0x800,0x100000)/File(\\EFI\\BOOT\\BOOTX64.EFI)"
        )
        if d is t.started:
            current = f"{n:04X}"
    if not lines:
        return ""
    order = ",".join(f"{n:04X}" for n in range(len(lines)))
    return f"BootCurrent: {current}\nTimeout: 2 seconds\nBootOrder: {order}\n" + "\n".join(lines) + "\n"


# -- power --------------------------------------------------------------------------------------
def _power(t: Tree) -> str:
    """The kernel's uevents, of packs, supply and a mouse."""
    weak = "weak_adapter" in t.faults
    blocks: list[Mapping[str, Any]] = [
        {
            "NAME": name, "TYPE": "Battery", "STATUS": "Discharging" if weak else "Charging", "PRESENT": 1,
            "TECHNOLOGY": "Li-ion", "CYCLE_COUNT": 210, "VOLTAGE_MIN_DESIGN": (p.voltage_mv or 11400) * 1000,
            "ENERGY_FULL_DESIGN": p.design_mwh * 1000, "ENERGY_FULL": (p.full_mwh or 0) * 1000,
            "MODEL_NAME": p.number, "MANUFACTURER": p.maker,
        }
        for name, p in t.packs
    ]  # fmt: skip
    blocks.append({"NAME": "AC", "TYPE": "Mains", "ONLINE": 1})
    blocks.append(
        {
            "NAME": "usbc-1",
            "TYPE": "USB",
            "ONLINE": 1,
            "VOLTAGE_MAX": 20_000_000,
            "CURRENT_MAX": 1_500_000 if weak else 3_250_000,
        }
    )
    blocks.append({"NAME": "hidpp_battery_0", "TYPE": "Battery", "SCOPE": "Device", "STATUS": "Discharging", "MODEL_NAME": "Mouse", "ENERGY_FULL_DESIGN": 900_000, "ENERGY_FULL": 900_000})  # fmt: skip
    return "".join("".join(f"POWER_SUPPLY_{k}={v}\n" for k, v in block.items()) for block in blocks)


def _upower(t: Tree, locale: str) -> str:
    text = ""
    for name, p in t.packs:
        full = (p.full_mwh or 0) / 1000
        text += (
            f"Device: /org/freedesktop/UPower/devices/battery_{name}\n"
            f"  native-path:          {name}\n"
            f"  vendor:               {p.maker}\n"
            f"  model:                {p.number}\n"
            "  power supply:         yes\n"
            "  has history:          yes\n"
            "  has statistics:       yes\n"
            "  battery\n"
            "    present:             yes\n"
            "    rechargeable:        yes\n"
            f"    state:               {'discharging' if 'weak_adapter' in t.faults else 'charging'}\n"
            f"    energy:              {full / 2:.3f} Wh\n"
            f"    energy-full:         {full:.3f} Wh\n"
            f"    energy-full-design:  {p.design_mwh / 1000:.3f} Wh\n"
            f"    voltage:             {(p.voltage_mv or 11400) / 1000:.1f} V\n"
            "    percentage:          50%\n\n"
        )
    text += (
        "Device: /org/freedesktop/UPower/devices/mouse_hidpp_battery_0\n  native-path:          hidpp_battery_0\n"
        "  model:                Mouse\n  power supply:         no\n  mouse\n    present:             yes\n"
        "    energy-full:         0.9 Wh\n    energy-full-design:  0.9 Wh\n\n"
    )
    return text.replace(".", ",") if locale == "de" else text
