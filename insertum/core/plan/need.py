"""Needs: what the owner wants in physical units, and how far a machine meets it."""

import math
from enum import StrEnum

from pydantic import Field, model_validator

from ..base import Frozen

#: Met is counted in millionths, weights in thousandths, so that sums and ties are exact.
MET_UNIT = 1_000_000
WEIGHT_UNIT = 1_000
COMFORT_MET = 900_000


class NeedKind(StrEnum):
    """What a need measures, and its unit."""

    MEMORY_CAPACITY = "memory_capacity"
    MEMORY_THROUGHPUT = "memory_throughput"
    DRIVE_SPACE = "drive_space"
    DRIVE_SPEED = "drive_speed"
    RADIO_THROUGHPUT = "radio_throughput"
    RUNTIME = "runtime"
    FAULT = "fault"


UNITS = {
    NeedKind.MEMORY_CAPACITY: "GB",
    NeedKind.MEMORY_THROUGHPUT: "MB/s",
    NeedKind.DRIVE_SPACE: "GB free",
    NeedKind.DRIVE_SPEED: "MB/s",
    NeedKind.RADIO_THROUGHPUT: "Mb/s",
    NeedKind.RUNTIME: "h",
    NeedKind.FAULT: "",
}
_LINEAR = {NeedKind.DRIVE_SPACE, NeedKind.RUNTIME}


class Need(Frozen):
    """One need: 0 < floor < comfort < ceiling in the kind's unit, a weight, and who set it.

    A fault is met when the part in ``slot`` is replaced; its three figures are not used.
    """

    kind: NeedKind
    floor: float = Field(gt=0)
    comfort: float
    ceiling: float
    weight: float = Field(1, ge=0, le=100)
    set_by: str = "preset"
    note: str = ""
    slot: str = ""

    @model_validator(mode="after")
    def _rising(self) -> "Need":
        if not self.floor < self.comfort < self.ceiling:
            raise ValueError("a need rises: floor below comfort below ceiling")
        return self

    @property
    def id(self) -> str:
        return f"{self.kind}:{self.slot}" if self.slot else str(self.kind)

    @property
    def weight_units(self) -> int:
        return round(self.weight * WEIGHT_UNIT)

    def met(self, measure: float) -> int:
        """How far ``measure`` meets the need, in millionths.

        0.4·x/floor below the floor, 0.4 at floor, 0.9 at comfort, 1 at ceiling; linear between, on
        a log2 axis for memory, drive speed and radio, on a linear one for space and hours.
        """
        if self.kind is NeedKind.FAULT:
            return MET_UNIT if measure else 0
        if measure < self.floor:
            return round(MET_UNIT * 0.4 * max(measure, 0) / self.floor)
        if measure >= self.ceiling:
            return MET_UNIT
        axis = (lambda v: v) if self.kind in _LINEAR else math.log2
        low, high, base, rise = (
            (self.floor, self.comfort, 0.4, 0.5) if measure < self.comfort else (self.comfort, self.ceiling, 0.9, 0.1)
        )
        share = (axis(measure) - axis(low)) / (axis(high) - axis(low))
        return round(MET_UNIT * (base + rise * share))

    def grown(self, factor: float) -> "Need":
        """The need after growth. Free space is not scaled: there the used data grows."""
        if self.kind in (NeedKind.DRIVE_SPACE, NeedKind.FAULT):
            return self
        return self.model_copy(
            update={"floor": self.floor * factor, "comfort": self.comfort * factor, "ceiling": self.ceiling * factor}
        )
