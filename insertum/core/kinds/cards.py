"""What cards of every kind have in common."""

from typing import TypeVar

from ..fit.build import Build
from ..fit.card import MINI_MM
from ..machine.part_base import CardBase
from ..machine.shape import Slot
from .base import Kind, Size

C = TypeVar("C", bound=CardBase)

#: Where a plug of a radio or modem is undone.
ANTENNA_CAUTION = "Antenna plugs tear: straight up, straight down."


class CardKind(Kind[C]):
    """A card meets every card socket, and is as large as its code or its name says."""

    def could_sit(self, build: Build, slot: Slot, part: C) -> bool:
        """A key lets in cards that are cut for it (PCIe M.2, keys); a mini card's edge is another."""
        key = build.known.value(slot.id, "key")
        same_edge = getattr(slot, "form", part.form) in (part.form, "soldered")
        return same_edge and (key is None or part.keys is None or key in part.keys)

    def size(self, part: C) -> Size | None:
        if part.form == "mini" and part.mini_size:
            return Size(w_mm=MINI_MM[part.mini_size], h_mm=30.0)
        return Size(w_mm=part.length_mm, h_mm=part.width_mm) if part.length_mm and part.width_mm else None
