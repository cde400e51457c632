"""Measures of a build in physical units: the bridge from parts to needs."""

from ..fit.build import Build
from ..fit.measured import memory_gb, radio_modes, rate_mb_s, throughput
from ..machine.part import BayDrive, M2Drive, Pack
from ..machine.shape import BatterySlot, BaySlot, DriveSlot, RadioSlot
from ..standards import pack, wlan
from .need import Need, NeedKind
from .request import Use

#: What a plan's need depends on, so that each need belongs to one group of slots.
SLOT_KINDS: dict[NeedKind, tuple[type, ...]] = {
    NeedKind.DRIVE_SPACE: (DriveSlot, BaySlot),
    NeedKind.DRIVE_SPEED: (DriveSlot, BaySlot),
    NeedKind.RADIO_THROUGHPUT: (RadioSlot,),
    NeedKind.RUNTIME: (BatterySlot,),
}


def drives(build: Build) -> dict[str, M2Drive | BayDrive]:
    """Drives by slot, the ones the owner counts for space."""
    held = {s.id: build.now(s.id) for s in build.machine.slots}
    return {slot: part for slot, part in held.items() if isinstance(part, M2Drive | BayDrive)}


def storage_gb(build: Build) -> int:
    return sum(d.capacity_gb for d in drives(build).values())


def system_rate(build: Build) -> int | None:
    """Rate of the drive the system starts from, in MB/s; None where it is not known, 0 for no drive."""
    if not build.boot_slot or (build.looked_into(build.boot_slot) and build.now(build.boot_slot) is None):
        return 0
    return rate_mb_s(build, build.boot_slot)


def packs(build: Build) -> list[Pack]:
    """The packs in the machine: some have two."""
    return [p for s in build.machine.slots if isinstance(p := build.now(s.id), Pack)]


def energy_mwh(build: Build) -> int:
    return sum(p.design_mwh if p.full_mwh is None else p.full_mwh for p in packs(build))


def radio_mode(build: Build, use: Use) -> wlan.Mode | None:
    """The best mode card, antennas and router share, where antennas allow it. With no router told, the card's own
    best."""
    modes = [m for m in radio_modes(build, use.router) if m is not None]
    return max(modes, key=lambda m: wlan.phy_mbit_s(m.standard, m.streams, m.width_mhz), default=None)


def measure(need: Need, build: Build, use: Use) -> float:
    """The build's figure for a need, in the need's unit; 0 where something it rests on is unknown."""
    match need.kind:
        case NeedKind.MEMORY_CAPACITY:
            return memory_gb(build)[0]
        case NeedKind.MEMORY_THROUGHPUT:
            rates = throughput(build)
            return rates[0] if rates else 0
        case NeedKind.DRIVE_SPACE:
            # Below 0 the used data does not fit; met() counts that as 0.
            return storage_gb(build) - use.used_gb
        case NeedKind.DRIVE_SPEED:
            return system_rate(build) or 0
        case NeedKind.RADIO_THROUGHPUT:
            return wlan.delivered_mbit_s(radio_mode(build, use), use.line_mbit_s)
        case NeedKind.RUNTIME:
            energy = energy_mwh(build)
            if not energy or use.average_mw is None:
                return 0
            return pack.runtime_minutes(energy, use.average_mw) / 60
        case NeedKind.FAULT:
            return float(need.slot in build.changed() and build.now(need.slot) is not None)


def physical(kind: NeedKind, build: Build) -> float:
    """The uncapped figure *fill it* goes by: no router, no line, no used data in the way."""
    match kind:
        case NeedKind.MEMORY_CAPACITY:
            return memory_gb(build)[0]
        case NeedKind.DRIVE_SPEED:
            return system_rate(build) or 0
        case NeedKind.DRIVE_SPACE:
            return storage_gb(build)
        case NeedKind.RADIO_THROUGHPUT:
            mode = radio_mode(build, Use())
            return wlan.phy_mbit_s(mode.standard, mode.streams, mode.width_mhz) if mode else 0
        case NeedKind.RUNTIME:
            return energy_mwh(build)
        case _:
            return 0
