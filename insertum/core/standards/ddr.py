"""DDR memory modules: chip density, grades, latency, bandwidth, channels.

Figures: JEDEC JESD79-3/-4/-5 (speed grades, chip densities). Rates are in MT/s, capacities in GB (2**30 bytes), densities in Gbit.
"""

import math
from fractions import Fraction
from functools import cache

from ..frozen import Frozen

GRADES: dict[int, tuple[int, ...]] = {
    3: (800, 1066, 1333, 1600, 1866, 2133),
    4: (1600, 1866, 2133, 2400, 2666, 2933, 3200),
    5: tuple(range(3200, 8801, 400)),
}
#: Chip densities that exist (JESD79-3F, -4D, -5C: addressing tables).
DENSITIES: dict[int, tuple[int, ...]] = {3: (1, 2, 4, 8), 4: (4, 8, 16), 5: (16, 24, 32)}
#: Sizes modules come in, in GB; ranks and chip widths they are built with.
CAPACITIES_GB = (1, 2, 4, 8, 12, 16, 24, 32, 48, 64, 96, 128, 256)
#: Memory channels of a laptop's processor, as boards name them.
CHANNELS = ("A", "B")
RANKS, WIDTHS = (1, 2, 4, 8), (4, 8, 16)
#: What a SO-DIMM is built with: one or two ranks of x8 or x16 chips.
SODIMM_RANKS, SODIMM_WIDTHS = (1, 2), (8, 16)
#: SO-DIMM contacts (JEDEC MO-268, MO-310, MO-337).
SODIMM_PINS = {2: 200, 3: 204, 4: 260, 5: 262}
#: Length and height of a SO-DIMM in mm, by generation.
SODIMM_MM = {3: (67.6, 30.0), 4: (69.6, 30.0), 5: (69.6, 30.0)}
MODULE_TYPES = {
    "S": "SO-DIMM",
    "T": "SO-DIMM with ECC",
    "U": "UDIMM",
    "E": "UDIMM with ECC",
    "R": "registered DIMM",
    "L": "load-reduced DIMM",
}
_DDR3_MB_S = {6400: 800, 8500: 1066, 8533: 1066, 10600: 1333, 10667: 1333, 12800: 1600, 14900: 1866, 17000: 2133}


def density_gbit(capacity_gb: int, ranks: int, chip_width: int) -> Fraction:
    """Density of one chip in Gbit: capacity × 8 × width ÷ (ranks × 64 data bits)."""
    return Fraction(capacity_gb * 8 * chip_width, ranks * 64)


@cache
def exact_mts(grade_mts: int) -> Fraction:
    """The exact rate behind a rounded grade: 2666 and 2667 are both 8000/3."""
    return Fraction(400, 3) * round(Fraction(grade_mts * 3, 400))


def same_grade(a: int, b: int) -> bool:
    """2666 and 2667 are one grade, as are 2133/2134 and 1066/1067."""
    return exact_mts(a) == exact_mts(b)


def shown_as_half(running_mts: int, rated_mts: int) -> bool:
    """Could a running rate be the clock of memory that runs at its rating? Tools and firmware show the clock (half of
    the transfers) for the rate now and then, and nothing tells which it is."""
    return abs(exact_mts(running_mts) * 2 - exact_mts(rated_mts)) <= 2


def truly_running(running_mts: int, rated_mts: int | None, generation: int | None) -> int | None:
    """The rate behind what a tool shows; None where it could be two. A rate that is half of the rating and no grade
    of its generation is a clock; one that is a grade too (DDR4 at 1600 of 3200) may be either. Without a rating, a
    rate below every grade of the generation is a clock."""
    grades = [exact_mts(g) for g in GRADES.get(generation or 0, ())]
    shown = exact_mts(running_mts)
    if rated_mts and shown_as_half(running_mts, rated_mts):
        return rated_mts if grades and shown not in grades else None
    if not rated_mts and grades and shown < min(grades):
        return next((g for g in GRADES[generation or 0] if abs(exact_mts(g) - 2 * shown) <= 2), None)
    return running_mts


def grade_of_bandwidth(generation: int, mb_s: int) -> int | None:
    """Grade from a PC number in MB/s (PC4-21300 -> 2666, PC5-44800 -> 5600); None if there is none."""
    if generation == 3:
        return _DDR3_MB_S.get(mb_s)
    for grade in GRADES[generation]:
        exact = exact_mts(grade) * 8
        # Makers round down to hundreds or to the nearest: 2666⅔ × 8 is sold as 21300 and as 21333.
        if mb_s in (int(exact), round(exact), int(exact) // 100 * 100):
            return grade
    return None


def cl_at(cl: int, rated_mts: int, running_mts: int, generation: int) -> int:
    """CAS latency a module needs at a slower rate: ⌈tAA ÷ clock period⌉, even in DDR5."""
    t_aa = Fraction(2000 * cl) / exact_mts(rated_mts)
    clocks = math.ceil(t_aa / (2000 / exact_mts(running_mts)))
    return clocks + clocks % 2 if generation == 5 else clocks


def latency_ns(cl: int, mts: int) -> float:
    """True latency: CL × 2000 ÷ MT/s."""
    return float(Fraction(2000 * cl) / exact_mts(mts))


def bandwidth_gb_s(mts: int, channels: int = 1) -> float:
    """Peak transfer in GB/s (10**9) over 64-bit channels: 3200 -> 25.6 one, 51.2 two."""
    return float(exact_mts(mts) * 8 * channels / 1000)


class Split(Frozen):
    """How capacity spreads over two channels, in GB."""

    interleaved_gb: int
    single_gb: int

    @property
    def total_gb(self) -> int:
        return self.interleaved_gb + self.single_gb


def split(channel_totals: list[int]) -> Split:
    """Interleaved 2·min(a, b), the rest |a − b| in one channel: 4 and 16 give 8 + 12."""
    if len(channel_totals) == 1:
        channel_totals = [*channel_totals, 0]
    a, b = channel_totals
    return Split(interleaved_gb=2 * min(a, b), single_gb=abs(a - b))


def throughput_mb_s(parts: Split, mts: int) -> int:
    """Capacity-weighted throughput in MB/s: total ÷ (interleaved ÷ two-channel rate + rest ÷ one)."""
    if not parts.total_gb:
        return 0
    one = exact_mts(mts) * 8
    share = Fraction(parts.interleaved_gb) / (2 * one) + Fraction(parts.single_gb) / one
    return round(parts.total_gb / share)
