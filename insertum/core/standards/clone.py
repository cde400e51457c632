"""Copying a drive: how long it takes, and whether the target holds it. Rates in MB/s (10**6 bytes)."""

from typing import Literal

from ..errors import InputError
from ..frozen import Frozen

#: What a copy path carries, in MB/s: an enclosure's USB link as it is met in practice.
PATH_MB_S = {"slot": None, "usb5": 450, "usb10": 1000}
#: A copy runs below the slowest of its ends: file systems and small files take their share.
OVERHEAD_PERCENT = 15
#: A file copy wants a tenth of room above what is used.
ROOM_PERCENT = 10
#: Volumes that hold an encrypted or locked system are copied whole.
Method = Literal["files", "sectors"]


class Clone(Frozen):
    """``minutes`` is elapsed and unattended. ``needs_gb`` is what the target must hold."""

    rate_mb_s: int
    bound_by: str
    minutes: int
    needs_gb: float
    fits: bool


def clone(
    used_gb: float, source_gb: int, target_gb: int, read_mb_s: int, write_mb_s: int, path: str, method: Method
) -> Clone:
    """Elapsed time and fit of a copy: used ÷ min(source read, target write, path), with the overhead.

    Raises :class:`InputError` for an unknown path or a rate of nothing.
    """
    if path not in PATH_MB_S:
        raise InputError(f"no copy path {path!r}", "clone", f"It is one of {', '.join(PATH_MB_S)}.")
    ends = {"source read": read_mb_s, "target write": write_mb_s}
    if (carried := PATH_MB_S[path]) is not None:
        ends["copy path"] = carried
    if min(ends.values()) <= 0:
        raise InputError("a rate of nothing copies nothing", "clone", "Enter MB/s above 0.")
    bound = min(ends, key=lambda e: ends[e])
    amount = used_gb if method == "files" else float(source_gb)
    needs = used_gb * (100 + ROOM_PERCENT) / 100 if method == "files" else float(source_gb)
    seconds = amount * 1000 / ends[bound] * (100 + OVERHEAD_PERCENT) / 100
    return Clone(
        rate_mb_s=ends[bound],
        bound_by=bound,
        minutes=-(-int(seconds) // 60),
        needs_gb=round(needs, 1),
        fits=target_gb >= needs,
    )
