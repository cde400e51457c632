"""Thermal pads: which thickness fills a gap. Gaps and thicknesses in whole micrometres (µm).

A pad of thickness t in a gap g is compressed by c, g = t·(1 − c). Ten to thirty per cent is the
window pad makers give; nearest to twenty is taken.
"""

from fractions import Fraction
from functools import lru_cache

#: Thicknesses that are sold, in µm.
THICKNESSES_UM = (500, 750, 1000, 1250, 1500, 1750, 2000, 2500, 3000)
LEAST, BEST, MOST = Fraction(10, 100), Fraction(20, 100), Fraction(30, 100)


def compression(gap_um: int, thickness_um: int) -> Fraction:
    """How far the gap squeezes the pad: 1 − g/t. Negative when the pad does not reach."""
    return 1 - Fraction(gap_um, thickness_um)


@lru_cache(maxsize=4096)
def pad_for(gap_um: int) -> int | None:
    """The thickness for a gap: 1000 µm takes 1250. None when none on sale is within 10 to 30 %."""
    fitting = [t for t in THICKNESSES_UM if LEAST <= compression(gap_um, t) <= MOST]
    return min(fitting, key=lambda t: (abs(compression(gap_um, t) - BEST), t), default=None)
