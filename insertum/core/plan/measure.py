"""Measures of a build in physical units: the bridge from parts to needs."""

from ..claim import settle
from ..fit.build import Build
from ..fit.drive import drive_rate_mb_s
from ..fit.memory import channel_split, running_speed, total_gb
from ..machine import BatterySlot, BaySlot, DriveSlot, RadioSlot
from ..part import BayDrive, M2Drive, Pack, Radio
from ..standards import ddr, pack, wlan
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


def system_rate(build: Build) -> int:
    """Rate of the drive the system starts from, in MB/s; 0 when unknown or none."""
    slot = build.machine.slot(build.boot_slot) if build.boot_slot else None
    part = build.now(build.boot_slot)
    if isinstance(slot, DriveSlot | BaySlot) and isinstance(part, M2Drive | BayDrive):
        return drive_rate_mb_s(slot, part) or 0
    return 0


def fitted_pack(build: Build) -> Pack | None:
    return next((p for s in build.machine.slots if isinstance(p := build.now(s.id), Pack)), None)


def radio_mode(build: Build, use: Use) -> wlan.Mode | None:
    """The best mode card, antennas and router share. With no router told, the card's own best."""
    for slot in build.machine.slots:
        part = build.now(slot.id)
        if isinstance(slot, RadioSlot) and isinstance(part, Radio) and part.side:
            made = settle(slot.antenna_bands).value
            leads = settle(slot.leads).value
            return wlan.best_mode(
                part.side,
                use.router or part.side,
                part.side.streams if leads is None else leads,
                part.side.bands if made is None else made,
            )
    return None


def measure(need: Need, build: Build, use: Use) -> float:
    """The build's figure for a need, in the need's unit; 0 where something it rests on is unknown."""
    match need.kind:
        case NeedKind.MEMORY_CAPACITY:
            return total_gb(build)
        case NeedKind.MEMORY_THROUGHPUT:
            speed, parts = running_speed(build).mts, channel_split(build)
            return ddr.throughput_mb_s(parts, speed) if speed and parts else 0
        case NeedKind.DRIVE_SPACE:
            # Below 0 the used data does not fit; met() counts that as 0.
            return storage_gb(build) - use.used_gb
        case NeedKind.DRIVE_SPEED:
            return system_rate(build)
        case NeedKind.RADIO_THROUGHPUT:
            return wlan.delivered_mbit_s(radio_mode(build, use), use.line_mbit_s)
        case NeedKind.RUNTIME:
            held = fitted_pack(build)
            if held is None or use.average_mw is None:
                return 0
            return pack.runtime_minutes(held.full_mwh or held.design_mwh, use.average_mw) / 60
        case NeedKind.FAULT:
            return float(need.slot in build.changed() and build.now(need.slot) is not None)


def physical(kind: NeedKind, build: Build) -> float:
    """The uncapped figure *fill it* goes by: no router, no line, no used data in the way."""
    match kind:
        case NeedKind.MEMORY_CAPACITY:
            return total_gb(build)
        case NeedKind.DRIVE_SPEED:
            return system_rate(build)
        case NeedKind.DRIVE_SPACE:
            return storage_gb(build)
        case NeedKind.RADIO_THROUGHPUT:
            mode = radio_mode(build, Use())
            return wlan.phy_mbit_s(mode.standard, mode.streams, mode.width_mhz) if mode else 0
        case NeedKind.RUNTIME:
            held = fitted_pack(build)
            return (held.full_mwh or held.design_mwh) if held else 0
        case _:
            return 0
