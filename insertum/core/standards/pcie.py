"""PCI Express link rates (PCI-SIG base specification, line coding per generation)."""

from fractions import Fraction
from functools import cache

from pydantic import Field

from ..frozen import Frozen

#: GT/s per lane and the share the line coding leaves: 8b/10b, then 128b/130b.
_RATE = {
    1: (Fraction(5, 2), Fraction(8, 10)),
    2: (Fraction(5), Fraction(8, 10)),
    3: (Fraction(8), Fraction(128, 130)),
    4: (Fraction(16), Fraction(128, 130)),
    5: (Fraction(32), Fraction(128, 130)),
}
GT_S = {generation: float(rate) for generation, (rate, _) in _RATE.items()}


class Link(Frozen):
    """A PCIe link: generation 1-5 and lane count."""

    generation: int = Field(ge=1, le=5)
    lanes: int = Field(ge=0, le=32)

    def __str__(self) -> str:
        return f"PCIe {self.generation} ×{self.lanes}"

    def with_other(self, other: "Link") -> "Link":
        """What two ends agree on: the lesser generation and the fewer lanes."""
        return Link(generation=min(self.generation, other.generation), lanes=min(self.lanes, other.lanes))

    @property
    def mb_s(self) -> int:
        """Payload rate in MB/s, rounded only at the end: generation 3 ×4 is 3938."""
        return _mb_s(self.generation, self.lanes)


@cache
def _mb_s(generation: int, lanes: int) -> int:
    return round(lane_mb_s(generation) * lanes)


@cache
def lane_mb_s(generation: int) -> Fraction:
    """MB/s of one lane, unrounded: 250, 500, 984.6…, 1969.2…, 3938.5…"""
    rate, coding = _RATE[generation]
    return rate * coding * 1000 / 8


def generation_of(gt_s: float) -> int | None:
    """The generation that signals at this many GT/s; None when there is none."""
    return next((g for g, rate in GT_S.items() if abs(rate - gt_s) < 0.01), None)
