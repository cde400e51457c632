"""Needs: what the owner wants in physical units, and how far a machine meets it (rules.md section 7)."""

import math
from enum import StrEnum
from fractions import Fraction
from functools import lru_cache

from pydantic import Field, PrivateAttr, model_validator

from ..frozen import Frozen

#: Weights are counted in thousandths, so that scores are exact.
WEIGHT_UNIT = 1_000
#: Met at floor, comfort and ceiling.
FLOOR_MET, COMFORT_MET, CEILING_MET = Fraction(4, 10), Fraction(9, 10), Fraction(1)
#: A share on a log2 axis is irrational: it is taken to this many parts, so that equal arguments are equal and sums
#: compare exactly (docs/decisions/0009).
_LOG_PARTS = 2**50


class NeedKind(StrEnum):
    """What a need measures, and its unit."""

    MEMORY_CAPACITY = "memory_capacity"
    MEMORY_THROUGHPUT = "memory_throughput"
    DRIVE_SPACE = "drive_space"
    DRIVE_SPEED = "drive_speed"
    RADIO_THROUGHPUT = "radio_throughput"
    RADIO_REACH = "radio_reach"
    RUNTIME = "runtime"
    FAULT = "fault"


#: What figures are shown in. Memory's throughput is measured in MB/s and read in GB/s (:func:`insertum.core.phrases.shown_in`).
UNITS = {
    NeedKind.MEMORY_CAPACITY: "GB",
    NeedKind.MEMORY_THROUGHPUT: "GB/s",
    NeedKind.DRIVE_SPACE: "GB",
    NeedKind.DRIVE_SPEED: "MB/s",
    NeedKind.RADIO_THROUGHPUT: "Mb/s",
    NeedKind.RADIO_REACH: "Mb/s",
    NeedKind.RUNTIME: "h",
    NeedKind.FAULT: "",
}
LABELS = {
    NeedKind.MEMORY_CAPACITY: "Memory",
    NeedKind.MEMORY_THROUGHPUT: "Memory throughput",
    NeedKind.DRIVE_SPACE: "Free space",
    NeedKind.DRIVE_SPEED: "System drive speed",
    NeedKind.RADIO_THROUGHPUT: "Wi-Fi, your router",
    NeedKind.RADIO_REACH: "Wi-Fi, far away",
    NeedKind.RUNTIME: "Hours off mains",
    NeedKind.FAULT: "Fault",
}
#: Needs that are weighed together where the question is whether something is lost.
FAMILIES = {
    NeedKind.MEMORY_CAPACITY: "memory",
    NeedKind.MEMORY_THROUGHPUT: "memory",
    NeedKind.DRIVE_SPACE: "drives",
    NeedKind.DRIVE_SPEED: "drives",
    NeedKind.RADIO_THROUGHPUT: "radio",
    NeedKind.RADIO_REACH: "radio",
    NeedKind.RUNTIME: "battery",
    NeedKind.FAULT: "fault",
}
_LINEAR = {NeedKind.DRIVE_SPACE, NeedKind.RUNTIME}


class Need(Frozen):
    """One need: 0 < floor < comfort < ceiling in the kind's unit, a weight, and who set it.

    A fault is met when the part in ``slot`` is replaced, or a task that mends it is done; its three figures are not
    used. ``growth_percent`` is this need's own growth a year, None for the job's.
    """

    kind: NeedKind
    floor: float = Field(gt=0)
    comfort: float
    ceiling: float
    weight: float = Field(1, ge=0, le=100)
    set_by: str = "preset"
    note: str = ""
    slot: str = ""
    growth_percent: float | None = Field(None, ge=0, le=100)
    #: Its figures where they have grown: exactly, while the fields are for showing.
    _grown: tuple[Fraction, Fraction, Fraction] | None = PrivateAttr(None)

    @model_validator(mode="after")
    def _rising(self) -> "Need":
        if not self.floor < self.comfort < self.ceiling:
            raise ValueError("a need rises: floor below comfort below ceiling")
        return self

    @property
    def id(self) -> str:
        return f"{self.kind}:{self.slot}" if self.slot else str(self.kind)

    @property
    def family(self) -> str:
        """Faults are a family each."""
        return f"fault:{self.slot}" if self.kind is NeedKind.FAULT else FAMILIES[self.kind]

    @property
    def label(self) -> str:
        return self.note or LABELS[self.kind]

    @property
    def weight_units(self) -> int:
        return round(self.weight * WEIGHT_UNIT)

    def met(self, measure: float | Fraction) -> Fraction:
        """How far ``measure`` meets the need, from 0 to 1.

        0.4·x/floor below the floor, 0.4 at floor, 0.9 at comfort, 1 at ceiling; linear between, on a log2 axis for
        memory, drive speed and radio, on a linear one for space and hours.
        """
        if self.kind is NeedKind.FAULT:
            return CEILING_MET if measure else Fraction(0)
        return _met(self.kind in _LINEAR, *self.exact_figures, measure)

    @property
    def exact_figures(self) -> tuple[Fraction, Fraction, Fraction]:
        """Floor, comfort and ceiling as they were typed, or as they have grown."""
        return self._grown or (exact(self.floor), exact(self.comfort), exact(self.ceiling))

    def growth(self, percent: float, years: int) -> Fraction:
        """The factor it grows by: its own growth, else the job's."""
        return growth_factor(self.growth_percent if self.growth_percent is not None else percent, years)

    def grown(self, percent: float, years: int) -> "Need":
        """The need after ``years`` of growth. Free space is not scaled: there the used data grows."""
        factor = self.growth(percent, years)
        if self.kind in (NeedKind.DRIVE_SPACE, NeedKind.FAULT) or factor == 1:
            return self
        floor, comfort, ceiling = (x * factor for x in self.exact_figures)
        grown = self.model_copy(update={"floor": float(floor), "comfort": float(comfort), "ceiling": float(ceiling)})
        grown._grown = floor, comfort, ceiling
        return grown


@lru_cache(maxsize=2**14)
def exact(figure: float) -> Fraction:
    """A figure as it was typed: 0.1 is a tenth."""
    return Fraction(str(figure))


@lru_cache(maxsize=2**16)
def _met(linear: bool, floor: Fraction, comfort: Fraction, ceiling: Fraction, measure: float | Fraction) -> Fraction:
    measure = Fraction(measure)
    if measure >= ceiling:
        return CEILING_MET
    if measure < floor:
        return FLOOR_MET * max(measure, Fraction(0)) / floor
    low, high, base, rise = (
        (floor, comfort, FLOOR_MET, COMFORT_MET - FLOOR_MET)
        if measure < comfort
        else (comfort, ceiling, COMFORT_MET, CEILING_MET - COMFORT_MET)
    )
    if linear:
        share = (measure - low) / (high - low)
    else:
        share = Fraction(round(math.log2(measure / low) / math.log2(high / low) * _LOG_PARTS), _LOG_PARTS)
    return base + rise * share


@lru_cache(maxsize=2**10)
def growth_factor(percent: float, years: int) -> Fraction:
    """Compound growth, exactly: 10 % over two years is 1.21."""
    return (1 + exact(percent) / 100) ** years
