"""What card drives and bay drives have in common."""

from collections.abc import Iterator

from ..fit.build import Build
from ..fit.measured import link, rate_mb_s
from ..machine.part import BayDrive, M2Drive
from ..machine.shape import Slot
from .base import Does, Expectation, expect, told

DRIVE_NEEDS = ("drive_space", "drive_speed")
AnyDrive = M2Drive | BayDrive


def drive_expects(build: Build, slot: Slot, part: AnyDrive) -> Iterator[Expectation]:
    gb = part.capacity_gb
    yield expect(f"{slot.id}.drive", "drive", slot.name, part.name, figure=gb, unit="GB", number=part.number)
    if agreed := link(build, slot.id):
        yield expect(f"{slot.id}.link", "drive_link", f"{slot.name} link", str(agreed), link=agreed, number=part.number)


def drive_does(build: Build, slot_id: str, part: AnyDrive) -> Does:
    return Does(f"{part.capacity_gb} GB", float(rate_mb_s(build.with_part(slot_id, part), slot_id) or 0), "MB/s")


def drive_adds(build: Build, slot_id: str, part: AnyDrive) -> tuple[float, str]:
    now = build.now(slot_id)
    return float(part.capacity_gb - (now.capacity_gb if isinstance(now, M2Drive | BayDrive) else 0)), "GB"


def drive_figures(build: Build, slot_id: str, part: AnyDrive) -> dict[str, str]:
    return {
        "Capacity": f"{part.capacity_gb} GB",
        "Rated read": told(part.read_mb_s, "MB/s"),
        "Reads here": told(rate_mb_s(build.with_part(slot_id, part), slot_id), "MB/s"),
        "Writes": told(part.write_mb_s, "MB/s"),
        "Endurance": told(part.tbw, "TB written"),
    }
