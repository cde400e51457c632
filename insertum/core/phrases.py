"""Counts and ranges in words."""


def plural(count: int, noun: str, nouns: str = "") -> str:
    """'1 part', '3 parts', '2 antennas': the count with its noun."""
    return f"{count} {noun if count == 1 else nouns or noun + 's'}"


def ends(range_: tuple[float, float]) -> str:
    """A figure to a tenth, or the two ends it lies between: 400–612.3."""
    low, high = (f"{round(e, 1):g}" for e in range_)
    return low if low == high else f"{low}–{high}"
