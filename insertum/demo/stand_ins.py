"""The demo's stand-ins for the world outside, as :mod:`insertum.shop.services.stand_ins` asks for them."""

from collections.abc import Collection

from ..core.fit.build import Build
from . import laptop
from .beside import build_beside, words_beside
from .examples import bring_in

__all__ = ("FAULTS", "bring_in", "build_beside", "bundle_json", "words_beside")
FAULTS = laptop.FAULTS
#: The customer's own work, where a reading is to show it.
_BUSY = laptop.SimulatedLoad(peak_memory_mb=7600, swap_used_mb=1400, paging_kb_s=2600)


def bundle_json(build: Build, faults: Collection[str], busy: bool) -> str:
    """A machine's reading bundle as a file, ``busy`` with the customer's own load."""
    return laptop.bundle_json(build, faults, _BUSY if busy else None)
