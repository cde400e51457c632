"""What the load says: peak memory, paging, a processor at its limit, a drive filled up.

Typed figures win over a reading's. The load sets floors of needs, and says when no part helps.
"""

from ..frozen import Frozen
from ..reading import ReadLoad

#: Above this busy share the processor is at its limit; above this traffic the machine pages.
BUSY_PERCENT = 90
PAGING_KB_S = 200
FILLED_PERCENT = 90


class LoadSays(Frozen):
    """The figures that count, and what follows from them in words. ``processor_binds`` means no part
    lifts what holds the machine back: ``binds`` says so."""

    peak_memory_gb: float | None = None
    used_gb: float | None = None
    filled_percent: int | None = None
    pages: bool | None = None
    processor_binds: bool = False
    says: tuple[str, ...] = ()
    binds: str = ""


def weigh(
    read: ReadLoad | None,
    peak_memory_gb: float | None,
    used_gb: float | None,
    pages: bool | None,
    filled_percent: int | None,
    processor_at_limit: bool,
) -> LoadSays:
    """Lay what was typed over what was read, and say what follows."""
    seen = read or ReadLoad()
    peak = peak_memory_gb
    if peak is None and seen.peak_memory_mb:
        peak = round(seen.peak_memory_mb / 1024, 1)
    if pages is None and seen.paging_kb_s is not None:
        pages = seen.paging_kb_s >= PAGING_KB_S
    filled = filled_percent if filled_percent is not None else seen.drive_filled_percent
    used = used_gb if used_gb is not None else seen.drive_used_gb
    busy = processor_at_limit or (seen.processor_busy_percent or 0) >= BUSY_PERCENT
    says: list[str] = []
    if peak:
        says.append(f"Peak memory in use {peak:g} GB: the floor of the memory need.")
    if pages:
        says.append("It pages: more memory is felt at once.")
    elif pages is False:
        says.append("It does not page: more memory will not be felt." if busy else "It does not page under this work.")
    binds = ""
    if busy and not pages:
        binds = "The processor is at its limit and no part lifts it. Say so first; compare another machine."
    elif busy:
        says.append("The processor is busy, but paging keeps it so: mend the paging first and look again.")
    if filled is not None and filled >= FILLED_PERCENT:
        says.append(f"The drive is filled to {filled} %: that alone slows it. Clear it or enlarge it.")
    return LoadSays(
        peak_memory_gb=peak,
        used_gb=used,
        filled_percent=filled,
        pages=pages,
        processor_binds=busy and not pages,
        says=tuple(says),
        binds=binds,
    )
