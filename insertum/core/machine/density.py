"""How dense a module's chips are."""

from fractions import Fraction

from ..standards import ddr
from .part import MemoryModule


def module_density(part: MemoryModule) -> Fraction | None:
    """Density of a module's chips in Gbit; None while ranks or width are unknown."""
    if part.ranks is None or part.chip_width is None:
        return None
    return ddr.density_gbit(part.capacity_gb, part.ranks, part.chip_width)
