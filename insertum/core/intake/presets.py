"""Presets per use: floor, comfort, ceiling, weight for each need. A workshop's starting point,
edited per job; never a verdict."""

from ..frozen import Frozen
from ..plan.need import NeedKind as K

#: Growth a year that the owner's horizon compounds unless the job says otherwise.
GROWTH_PERCENT = 12.0

Figures = tuple[float, float, float, float]


class Preset(Frozen):
    name: str
    needs: dict[K, Figures]


_KINDS = (
    K.MEMORY_CAPACITY,
    K.MEMORY_THROUGHPUT,
    K.DRIVE_SPACE,
    K.DRIVE_SPEED,
    K.RADIO_THROUGHPUT,
    K.RUNTIME,
    K.RADIO_REACH,
)
# fmt: off
_TABLE: dict[str, tuple[str, tuple[Figures, ...]]] = {
    #                            memory GB         throughput MB/s             free GB            drive MB/s            radio Mb/s        hours         Mb/s far away
    "office": ("Pages and office", ((6, 12, 24, 2), (12000, 24000, 45000, 0.5), (40, 150, 400, 1), (400, 1500, 3500, 1), (40, 150, 500, 1), (3, 5, 8, 1), (10, 40, 150, 0))),
    "photo": ("Photo", ((8, 24, 48, 2), (15000, 35000, 48000, 0.5), (150, 500, 1500, 2), (500, 2500, 5000, 1), (40, 150, 500, 0.5), (2, 4, 7, 0.5), (10, 40, 150, 0))),
    "film": ("Film cutting", ((16, 32, 64, 2), (20000, 40000, 70000, 1), (300, 1000, 3000, 2), (1000, 3000, 6000, 2), (40, 200, 800, 0.5), (2, 3, 5, 0.5), (10, 40, 150, 0))),
    "games": ("Games", ((8, 16, 32, 2), (20000, 40000, 70000, 2), (150, 500, 1500, 1), (500, 2500, 5000, 1), (50, 200, 800, 1), (1, 2, 4, 0.5), (10, 40, 150, 0))),
    "build": ("Building software", ((16, 32, 64, 2), (15000, 35000, 48000, 0.5), (100, 300, 1000, 1), (1000, 3000, 6000, 2), (40, 150, 500, 0.5), (3, 5, 8, 1), (10, 40, 150, 0))),
    "field": ("Field logging", ((4, 8, 16, 1), (10000, 20000, 40000, 0.5), (60, 250, 1000, 1), (200, 500, 1500, 0.5), (20, 80, 300, 1), (5, 8, 12, 3), (10, 40, 150, 0))),
}
# fmt: on
PRESETS = {
    use: Preset(name=name, needs=dict(zip(_KINDS, figures, strict=True))) for use, (name, figures) in _TABLE.items()
}
