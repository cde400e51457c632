"""Counts and ranges in words."""


def plural(count: int, noun: str, nouns: str = "") -> str:
    """'1 part', '3 parts', '2 antennas': the count with its noun."""
    return f"{count} {noun if count == 1 else nouns or noun + 's'}"


def shown_in(figure: float, unit: str) -> str:
    """A figure to a tenth in the unit it is shown in: what is shown in GB/s is measured in MB/s."""
    return f"{round(figure / 1000 if unit == 'GB/s' else figure, 1):g}"


def ends(range_: tuple[float, float], unit: str = "") -> str:
    """A figure to a tenth, or the two ends it lies between: 400–612.3."""
    low, high = (shown_in(e, unit) for e in range_)
    return low if low == high else f"{low}–{high}"
