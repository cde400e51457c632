"""What card drives and bay drives have in common."""

from collections.abc import Iterator
from typing import TypeVar

from ..fit.build import Build
from ..fit.figures import link, rate_mb_s
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.shape import Slot
from .base import Does, Expectation, Kind, expect, figure_words

D = TypeVar("D", M2Drive, BayDrive)


class DriveKind(Kind[D]):
    """A drive, wherever it sits: what it holds, how fast it is there, and what the system will say of it."""

    needs = ("drive_space", "drive_speed")

    def expects(self, build: Build, slot: Slot, part: D) -> Iterator[Expectation]:
        gb = part.capacity_gb
        yield expect(f"{slot.id}.drive", "drive", slot.name, part.name, figure=gb, unit="GB", number=part.number)
        if agreed := link(build, slot.id):
            yield expect(
                f"{slot.id}.link", "drive_link", f"{slot.name} link", str(agreed), link=agreed, number=part.number
            )

    def does(self, build: Build, slot_id: str, part: D) -> Does:
        return Does(f"{part.capacity_gb} GB", float(self._rate(build, slot_id, part) or 0), "MB/s")

    def adds(self, build: Build, slot_id: str, part: D) -> tuple[float, str]:
        now = build.now(slot_id)
        return float(part.capacity_gb - (now.capacity_gb if isinstance(now, M2Drive | BayDrive) else 0)), "GB"

    def figures(self, build: Build, slot_id: str, part: D) -> dict[str, str]:
        return {
            "Capacity": f"{part.capacity_gb} GB",
            "Rated read": figure_words(part.read_mb_s, "MB/s"),
            "Reads here": figure_words(self._rate(build, slot_id, part), "MB/s"),
            "Writes": figure_words(part.write_mb_s, "MB/s"),
            "Endurance": figure_words(part.tbw, "TB written"),
        }

    def _rate(self, build: Build, slot_id: str, part: D) -> int | None:
        return rate_mb_s(build.with_part(slot_id, part), slot_id)
