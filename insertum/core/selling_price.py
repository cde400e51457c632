"""The workshop's mark-up: what it asks for a part over what the part costs it."""

from collections.abc import Iterable
from typing import TypeVar

from .machine.part_base import PartBase

P = TypeVar("P", bound=PartBase)


def marked_up(parts: Iterable[P], percent: int) -> list[P]:
    """Parts with the workshop's price, half a cent upwards; a part's own price stands. Nothing is kept of it."""
    if not percent:
        return list(parts)
    found = []
    for p in parts:
        purchase = p.purchase_minor
        if p.selling_minor is None and purchase is not None:
            p = p.model_copy(update={"selling_minor": (purchase * (100 + percent) + 50) // 100})
        found.append(p)
    return found
