"""The device tree of the simulated laptop: what hangs where, with which faults. Printers put it in tools' words."""

import uuid
from collections.abc import Collection, Iterator
from dataclasses import dataclass, field, replace

from ...core.errors import InputError
from ...core.fit.build import Build
from ...core.fit.figures import link, mts_span
from ...core.frozen import Frozen
from ...core.machine.bay_and_battery import BatterySlot
from ...core.machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ...core.machine.drive_parts import BayDrive, M2Drive
from ...core.machine.memory_system import MemorySlot, Soldered
from ...core.machine.part import Fittable, MemoryModule, Pack
from ...core.machine.radio_parts import Cellular, Radio
from ...core.machine.shape import Slot
from ...core.standards import ddr
from ...core.standards.pcie import Link

FAULTS = {
    "module_not_home": "a memory module that is not fully home",
    "wrong_socket": "a memory module in another socket than planned",
    "slow_speed": "memory held at a slower grade",
    "profile_off": "a memory profile that is not applied",
    "narrow_link": "a drive link on fewer lanes",
    "hidden_drives": "drives hidden by the storage mode",
    "drive_missing": "a drive that does not show at all",
    "bluetooth_driver": "Bluetooth without its driver",
    "allowlist_block": "the radio blocked by firmware",
    "lead_off": "an antenna lead off: weak signal on one chain",
    "worn_pack": "a worn battery",
    "weak_adapter": "a supply too weak for the machine",
}


class SimulatedLoad(Frozen):
    """What the owner's busiest hour looks like on this machine."""

    peak_memory_mb: int = 3400
    swap_used_mb: int = 0
    paging_kb_s: int = 0
    processor_busy_percent: int = 22
    drive_used_gb: float = 90


#: What a live stick is busy with: little, and nothing of the owner's.
STICK = SimulatedLoad(peak_memory_mb=910, processor_busy_percent=3, drive_used_gb=0)


@dataclass(frozen=True)
class Function:
    """One PCI function. Ids are invented; ``name`` is the controller's, as a list of ids names it."""

    pci: str
    code: str
    kind: str
    name: str
    ident: str
    subsystem: str = ""
    driver: str = ""
    capable: Link | None = None
    running: Link | None = None
    secondary: int | None = None
    port: str = ""


@dataclass(frozen=True)
class Volume:
    name: str
    guid: str
    size: int
    kind: str = ""
    loader: bool = False
    mounted: str = ""
    used: int | None = None


@dataclass(frozen=True)
class Disk:
    """A block device; ``path`` is where sysfs has it, ``controller`` its function's address."""

    name: str
    slot: str
    path: str
    controller: str
    model: str
    serial: str
    size: int
    transport: str | None
    spinning: bool
    firmware: str
    card: str = "-"
    removable: bool = False
    volumes: tuple[Volume, ...] = ()


@dataclass(frozen=True)
class UsbInterface:
    place: str
    ident: str
    removable: str
    code: str
    driver: str
    name: str


@dataclass(frozen=True)
class Tree:
    """Everything the printers print."""

    build: Build
    faults: frozenset[str]
    sockets: tuple[tuple[MemorySlot, MemoryModule | None], ...]
    soldered: tuple[Soldered, ...]
    running_mts: int
    functions: tuple[Function, ...]
    disks: tuple[Disk, ...]
    usb: tuple[UsbInterface, ...]
    radios: tuple[tuple[RadioSlot, Radio, str], ...]
    packs: tuple[tuple[str, Pack], ...]
    load: SimulatedLoad
    own: bool
    slots: dict[str, str] = field(default_factory=dict)

    @property
    def started(self) -> Disk | None:
        """The disk firmware started from this time."""
        return next((d for d in self.disks if any(v.mounted in ("/", "/run/live/medium") for v in d.volumes)), None)


def tree(build: Build, faults: Collection[str] = (), load: SimulatedLoad | None = None) -> Tree:
    """Lay a build out. With a load the owner's system ran; without one a live stick. Raises for an unknown fault."""
    if unknown := [f for f in faults if f not in FAULTS]:
        raise InputError(f"no fault {unknown[0]!r}", "simulated laptop", f"It can do {', '.join(FAULTS)}.")
    sockets = tuple(_sockets(build, faults))
    if not build.machine.memory.soldered and not any(m for _, m in sockets):
        raise InputError(
            "a machine without memory does not start", "simulated laptop", "Fit a module, or another fault."
        )
    bus = _Bus()
    hung = _Hung(build, frozenset(faults), bus, load)
    return Tree(
        build=build,
        faults=frozenset(faults),
        sockets=sockets,
        soldered=build.machine.memory.soldered,
        running_mts=_running(build, faults),
        functions=tuple(hung.functions),
        disks=(*hung.disks, *(() if load else (_stick(),))),
        usb=tuple(_usb(build, frozenset(faults), live=load is None)),
        radios=tuple(hung.radios),
        packs=tuple((f"BAT{n}", p) for n, p in enumerate(_packs(build, faults))),
        load=load or STICK,
        own=load is not None,
        slots=hung.where,
    )


def parts(build: Build) -> Iterator[tuple[Slot, Fittable]]:
    """Every slot that holds a part, with it."""
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


def _running(build: Build, faults: Collection[str]) -> int:
    speed = (mts_span(build) or (0, 0))[0] or 2400
    if "profile_off" in faults and any(m.profile_mts for m in build.modules().values()):
        speed = min(speed, *(m.grade_mts for m in build.modules().values()))
    if "slow_speed" in faults:
        # Not exactly half of what it should be: tools show that for memory that is well.
        speed = min(speed, 2133 if ddr.same_grade(speed, 4800) else 2400)
    return speed


class _Bus:
    """Hands out addresses: a port on the root bus, and the bus behind it."""

    def __init__(self) -> None:
        self.next = 1

    def port(self, wired: Link | None, running: Link | None) -> Function:
        n, self.next = self.next, self.next + 1
        return Function(
            pci=f"0000:00:{0x1C + (n - 1) // 8:02x}.{(n - 1) % 8}", code="0604", kind="PCI bridge",
            name="Corvane PCI Express Root Port", ident=f"1d00:0{n:03x}", driver="pcieport", capable=wired,
            running=running, secondary=n,
        )  # fmt: skip


class _Hung:
    """PCI functions, disks and radios, slot by slot, and the address of each slot that has one."""

    def __init__(self, build: Build, faults: frozenset[str], bus: _Bus, load: SimulatedLoad | None) -> None:
        self.build, self.faults, self.bus, self.load = build, faults, bus, load
        self.functions = [
            Function("0000:00:00.0", "0600", "Host bridge", "Corvane Host bridge", "1d00:0f01"),
            Function("0000:00:17.0", "0106", "SATA controller", "Corvane AHCI Controller", "1d00:0f02", driver="ahci"),
        ]
        self.disks: list[Disk] = []
        self.radios: list[tuple[RadioSlot, Radio, str]] = []
        self.where: dict[str, str] = {}
        self.nvme = self.ata = 0
        last = [s.id for s, p in parts(build) if isinstance(p, M2Drive | BayDrive)][-1:]
        self.gone = frozenset(last) if "drive_missing" in faults else frozenset[str]()
        for slot in build.machine.slots:
            self._slot(slot, build.now(slot.id))

    def _slot(self, slot: Slot, part: Fittable | None) -> None:
        if isinstance(part, M2Drive) and part.interface == "pcie" and part.link and isinstance(slot, DriveSlot):
            self._nvme(slot, part, link(self.build, slot.id) or part.link)
        elif isinstance(part, M2Drive | BayDrive) and slot.id not in self.gone:
            self._disk(slot, part)
        elif isinstance(slot, DriveSlot) and slot.form != "soldered" and part is None:
            if wired := _wired(self.build, slot.id):
                self._port(slot, wired, None)  # a port without a card
        elif isinstance(slot, RadioSlot) and isinstance(part, Radio) and "allowlist_block" not in self.faults:
            self._radio(slot, part)
        elif isinstance(slot, CellularSlot) and isinstance(part, Cellular) and part.bus == "pcie":
            self._modem(part)

    def _port(self, slot: Slot, capable: Link | None, running: Link | None) -> Function:
        port = self.bus.port(capable, running)
        self.functions.append(port)
        self.where[slot.id] = port.pci
        return port

    def _nvme(self, slot: DriveSlot, part: M2Drive, running: Link) -> None:
        if "narrow_link" in self.faults:
            running = Link(generation=running.generation, lanes=max(1, running.lanes // 2))
        port = self._port(slot, _wired(self.build, slot.id), None if slot.id in self.gone else running)
        if slot.id in self.gone:
            return
        if "hidden_drives" in self.faults:
            self.functions[-1] = replace(
                port, code="0104", kind="RAID bus controller", name="Corvane Volume Management Device",
                driver="vmd", capable=None, running=None, secondary=None,
            )  # fmt: skip
            return
        pci, n = f"0000:{port.secondary:02x}:00.0", self.nvme
        self.functions.append(
            Function(
                pci, "0108", "Non-Volatile memory controller", f"{part.maker} NVMe Controller",
                f"1d0f:0{port.secondary:03x}", f"{part.maker} NVMe Controller", "nvme", part.link, running, port=port.pci,
            )
        )  # fmt: skip
        name, path = f"nvme{n}n1", f"/sys/devices/pci0000:00/{port.pci}/{pci}/nvme/nvme{n}/nvme{n}n1"
        self.nvme += 1
        self.disks.append(_disk(self.build, slot, part, name, path, pci, "nvme", self.load))

    def _disk(self, slot: Slot, part: M2Drive | BayDrive) -> None:
        if isinstance(part, M2Drive) and part.interface == "emmc":
            path = "/sys/devices/pci0000:00/0000:00:1a.0/mmc_host/mmc0/mmc0:0001/block/mmcblk0"
            disk = _disk(self.build, slot, part, "mmcblk0", path, "", None, self.load)
            self.disks.append(replace(disk, card="MMC"))
            return
        n, name = self.ata, f"sd{'abcdef'[self.ata]}"
        path = f"/sys/devices/pci0000:00/0000:00:17.0/ata{n + 1}/host{n}/target{n}:0:0/{n}:0:0:0/block/{name}"
        self.disks.append(_disk(self.build, slot, part, name, path, "0000:00:17.0", "sata", self.load))
        self.ata += 1

    def _radio(self, slot: RadioSlot, part: Radio) -> None:
        one = Link(generation=2, lanes=1)
        port = self._port(slot, Link(generation=3, lanes=1), one)
        pci = f"0000:{port.secondary:02x}:00.0"
        self.functions.append(
            Function(
                pci, "0280", "Network controller", f"{part.maker} {part.number}", f"1d1f:0{port.secondary:03x}",
                f"{part.maker} {part.fru or 'Device'}", "wlanx", one, one, port=port.pci,
            )
        )  # fmt: skip
        self.radios.append((slot, part, pci))

    def _modem(self, part: Cellular) -> None:
        port = self.bus.port(None, None)
        self.functions += [
            port,
            Function(
                f"0000:{port.secondary:02x}:00.0", "0d40", "Wireless controller",
                f"{part.maker} {part.number} cellular modem", "1d1f:0303", f"{part.maker} {part.fru or 'Device'}",
                "mhi", port=port.pci,
            ),
        ]  # fmt: skip


def _wired(build: Build, slot: str) -> Link | None:
    lanes, generation = build.known.value(slot, "pcie_lanes"), build.known.value(slot, "pcie_generation")
    return Link(generation=generation, lanes=lanes) if lanes and generation else None


def _guid(*words: str) -> str:
    return str(uuid.uuid5(uuid.NAMESPACE_URL, "/".join(words)))


def _disk(
    build: Build, slot: Slot, part: M2Drive | BayDrive, name: str, path: str, pci: str, bus: str | None,
    load: SimulatedLoad | None,
) -> Disk:  # fmt: skip
    size = part.capacity_gb * 10**9 // 4096 * 4096
    starts = slot.id == (
        build.boot_slot or next((s.id for s, p in parts(build) if isinstance(p, M2Drive | BayDrive)), "")
    )
    inner = "p" if name[-1].isdigit() else ""
    used = min(int(load.drive_used_gb * 1e9), size - 10**9) if load else None
    volumes = [
        Volume(f"{name}{inner}1", _guid(slot.id, "1"), 512 * 2**20, "vfat", True, "/boot/efi" if load else "", 6_000_000 if load else None),
        Volume(f"{name}{inner}2", _guid(slot.id, "2"), size - 513 * 2**20, "ext4", False, "/" if load else "", used),
    ] if starts else [
        Volume(f"{name}{inner}1", _guid(slot.id, "1"), size - 2**20, "ext4", False, f"/srv/{name}" if load else "", 0 if load else None)
    ]  # fmt: skip
    return Disk(
        name=name, slot=slot.id, path=path, controller=pci, model=f"{part.maker} {part.number}",
        serial=f"SN{sum(map(ord, part.number)):06d}{sum(map(ord, slot.id)):04d}", size=size, transport=bus,
        spinning=bool(part.spinning), firmware=f"{part.maker[:1]}1.0{part.capacity_gb % 10}", volumes=tuple(volumes),
    )  # fmt: skip


def _stick() -> Disk:
    """What the live system was started from."""
    path = "/sys/devices/pci0000:00/0000:00:14.0/usb1/1-2/1-2:1.0/host6/target6:0:0/6:0:0:0/block/sdx"
    volumes = (
        Volume("sdx1", _guid("stick", "1"), 4 * 2**30, "iso9660", False, "/run/live/medium", 3 * 2**30),
        Volume("sdx2", _guid("stick", "2"), 32 * 2**20, "vfat", True),
    )
    return Disk("sdx", "", path, "", "Plinth Stick", "SN0001", 16 * 10**9 // 4096 * 4096, "usb", False, "1.00",
                removable=True, volumes=volumes)  # fmt: skip


def _usb(build: Build, faults: frozenset[str], live: bool) -> Iterator[UsbInterface]:
    yield UsbInterface("1-0:1.0", "1d6b:0002", "unknown", "09/00/00", "hub", "root hub")
    if live:
        yield UsbInterface("1-2:1.0", "1d2f:0007", "removable", "08/06/50", "usb-storage", "Plinth Stick")
    for slot, part in parts(build):
        wired = build.known.value(slot.id, "usb") is not False if isinstance(slot, RadioSlot | CellularSlot) else False
        if isinstance(part, Radio) and part.bluetooth and wired and "allowlist_block" not in faults:
            driver = "-" if "bluetooth_driver" in faults else "btusb"
            yield UsbInterface("1-4:1.0", "1d1f:0029", "fixed", "e0/01/01", driver, "Bluetooth wireless interface")
        if isinstance(part, Cellular) and part.bus == "usb":
            yield UsbInterface(
                "1-5:1.0", "1d1f:0303", "fixed", "02/0e/00", "cdc_mbim", f"{part.maker} {part.number} cellular modem"
            )


def _packs(build: Build, faults: Collection[str]) -> Iterator[Pack]:
    for slot, part in parts(build):
        if isinstance(part, Pack) and isinstance(slot, BatterySlot):
            full = part.full_mwh if part.full_mwh is not None else part.design_mwh
            yield part.model_copy(update={"full_mwh": round(full * 0.62) if "worn_pack" in faults else full})
