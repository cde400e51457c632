"""What a visit to look first is worth: opening the machine once more against what the answer may bring (rules.md
section 7)."""

from fractions import Fraction
from math import ceil, floor

from ..frozen import Frozen


class Visit(Frozen):
    """Opening the machine once only to look.

    ``minutes`` and ``cost_minor`` are of that alone. ``worth_minor`` is what the better plan is worth above its price
    where the answer is the hoped one, at the job's own points for its money (None where those set no price on a point).
    ``pays_from`` is the least share of good answers in per cent at which the visit pays; None where none does.
    """

    minutes: int
    cost_minor: int
    worth_minor: int | None
    pays_from: int | None


def visit(
    minutes: int, rate_minor_per_hour: int, gain: Fraction, dearer_minor: int, threshold: Fraction
) -> Visit | None:
    """``gain`` in points over the plan in hand, which costs ``dearer_minor`` less; ``threshold`` in points for a major
    unit. None where nothing has to be opened."""
    if not minutes:
        return None
    cost = floor(Fraction(minutes * rate_minor_per_hour, 60) + Fraction(1, 2))
    if not threshold:
        return Visit(minutes=minutes, cost_minor=cost, worth_minor=None, pays_from=None)
    worth = 100 * gain / threshold - dearer_minor
    share = ceil(100 * cost / worth) if worth > 0 else None
    return Visit(
        minutes=minutes,
        cost_minor=cost,
        worth_minor=floor(worth + Fraction(1, 2)),
        pays_from=share if share is not None and share <= 100 else None,
    )
