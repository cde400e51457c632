"""What every slot has, and the bounds its geometry is held to: mm from the top left corner of the side drawn."""

from enum import StrEnum
from typing import Annotated, Any, Literal

from pydantic import Field
from typing_extensions import TypeAliasType

from ..frozen import Frozen
from .attribute import declared
from .part import FittedPart

#: More than this is a slip of unit or point, and would let a part in that does not fit: the tallest M.2
#: socket is H4.2, the tallest bay SFF-8201's 15 mm, and no cover stands 10 mm off a card.
MOST_BELOW_UM, MOST_ABOVE_UM, MOST_BAY_UM = 4200, 10_000, 15_000
BelowUm = TypeAliasType("BelowUm", Annotated[int, Field(ge=0, le=MOST_BELOW_UM)])
AboveUm = TypeAliasType("AboveUm", Annotated[int, Field(ge=0, le=MOST_ABOVE_UM)])
BayUm = TypeAliasType("BayUm", Annotated[int, Field(ge=0, le=MOST_BAY_UM)])

MANUAL = "Service manual for this exact processor."
BOX = "Look in the machine and in the box the owner kept."
CLAY = "modelling clay and a calliper"


class Presence(StrEnum):
    PRESENT = "present"
    MISSING = "missing"


#: No laptop's board or case is longer, in mm.
MOST_MM = 1000


class Place(Frozen):
    """A rectangle in mm, on the underside or under the keyboard. ``contacts`` is the side of the
    rectangle the socket is on."""

    x_mm: float = Field(ge=-MOST_MM, le=MOST_MM)
    y_mm: float = Field(ge=-MOST_MM, le=MOST_MM)
    w_mm: float = Field(gt=0, le=MOST_MM)
    h_mm: float = Field(gt=0, le=MOST_MM)
    face: Literal["under", "keyboard"] = "under"
    contacts: Literal["left", "right", "top", "bottom"] = "left"


class SlotBase(Frozen):
    """What every slot has. ``fitted`` is what is in it as delivered, null for empty; where ``looked`` is
    false nobody knows what was delivered in it, and ``fitted`` says nothing."""

    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=60)
    name: str = Field(max_length=100)
    place: Place
    reached_by: tuple[str, ...] = ()
    swap_seconds: int = Field(240, ge=0, le=36_000)
    fitted: FittedPart | None = Field(None, description="as delivered; null is empty")
    looked: bool = Field(True, description="false where nobody has looked what is delivered in it")

    @classmethod
    def __pydantic_init_subclass__(cls, **kwargs: Any) -> None:
        declared(cls)
