"""What every part has: number, names, proof, offers; and what every card has."""

from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import AfterValidator, Field, field_validator, model_validator

from ..frozen import Frozen
from ..standards import m2
from .attribute import Attribute
from .plausible import card_is_real


class Offer(Frozen):
    """A price for a part; ``stock`` is a count or None. ``currency`` is "" for the workshop's own; a price in another is
    kept as told and is no price to plan with. ``pieces``: the price is for a kit of so many, and what one costs nobody
    says. ``tax`` is "net" or "gross" where the list says it."""

    shop: str
    price_minor: int = Field(ge=0, le=1_000_000_000)
    stock: int | None = None
    seen: str = ""
    currency: str = Field("", pattern=r"^([A-Z]{3})?$")
    pieces: int = Field(1, ge=1, le=100)
    tax: Literal["", "net", "gross"] = ""

    @property
    def buys_one(self) -> bool:
        """Is it the price of one piece, in the workshop's money?"""
        return not self.currency and self.pieces == 1


def _seen(number: str) -> str:
    number = number.strip(" ")
    if not number or len(number) > 100 or not number.isprintable():
        raise ValueError("a number has 1 to 100 characters, all of them to be seen")
    return number


#: Invisible characters would make two numbers of one, and look alike on screen.
PartNumber = Annotated[str, AfterValidator(_seen)]

SHEET = "Its data sheet, or ask the seller in writing."


class PartBase(Frozen):
    #: Kinds of slot it could ever be held against: a card meets every card socket.
    could_meet: ClassVar[tuple[str, ...]] = ()
    number: PartNumber = Field(min_length=1, description="the maker's part number, unique in a catalogue")
    maker: str = ""
    name: str
    offers: tuple[Offer, ...] = ()
    selling_minor: int | None = Field(
        None, ge=0, le=1_000_000_000, description="what the workshop asks for it, where it says so"
    )
    note: str = ""

    @field_validator("maker", "name", "note", mode="before")
    @classmethod
    def _stripped(cls, text: Any) -> Any:
        """Blanks around a text say nothing, and no open format carries them."""
        return text.strip() if isinstance(text, str) else text

    @model_validator(mode="before")
    @classmethod
    def _named(cls, data: Any) -> Any:
        """A part nobody has named goes by its number."""
        blank = isinstance(data, dict) and isinstance(data.get("name"), str) and not data["name"].strip()
        return data | {"name": data.get("number", "")} if blank else data

    @property
    def purchase_minor(self) -> int | None:
        """What the cheapest offer of one piece that can be had asks, in the workshop's money; None without one."""
        best: int | None = None
        for o in self.offers:  # asked of thousands of parts for one view
            if o.stock != 0 and not o.currency and o.pieces == 1 and (best is None or o.price_minor < best):
                best = o.price_minor
        return best

    @property
    def price_minor(self) -> int | None:
        """What plans and quotes reckon with: the workshop's own price where it has one, else the cheapest offer's. None
        where there are offers and none of them can be had."""
        purchase = self.purchase_minor
        return purchase if self.selling_minor is None or (self.offers and purchase is None) else self.selling_minor


class CardBase(PartBase):
    """What every card has. An M.2 card's printed code tells size, heights and notches; a mini card
    (mSATA, mini PCIe) is half or full. ``fru`` is the id firmware lists know it by."""

    could_meet: ClassVar[tuple[str, ...]] = ("m2_drive", "radio", "cellular")

    form: Literal["m2", "mini"] = "m2"
    mini_size: Annotated[
        Literal["half", "full"] | None,
        Attribute(
            label="Mini card size",
            kind="choice",
            values=("half", "full"),
            where="seller",
            how="27 mm long is half, 51 mm full.",
        ),
    ] = None
    fru: Annotated[
        str | None,
        Attribute(
            label="Card id",
            kind="text",
            after="card_policy",
            where="seller",
            how="The card's own id (FRU) on its label; compare it with the list.",
        ),
    ] = Field(None, max_length=100, description="the card id firmware allowlists know it by")
    width_mm: Annotated[
        int | None,
        Attribute(
            label="Card width",
            unit="mm",
            values=m2.WIDTHS,
            listed=True,
            where="seller",
            how="The first two digits of its code, 2280, are the width in mm.",
        ),
    ] = Field(None, ge=1, le=100)
    length_mm: Annotated[
        int | None,
        Attribute(
            label="Card length",
            unit="mm",
            values=m2.LENGTHS,
            listed=True,
            where="seller",
            how="The digits after the width in its code, 2280, are the length in mm.",
        ),
    ] = Field(None, ge=1, le=200)
    above_um: Annotated[
        int | None,
        Attribute(
            label="Height on top",
            unit="mm",
            scale=1000,
            values=(1200, 1350, 1500),
            where="seller",
            how="Its code tells: 1 is 1.20, 2 is 1.35, 3 to 5 are 1.50 mm above.",
        ),
    ] = Field(None, ge=0, le=30_000)
    below_um: Annotated[
        int | None,
        Attribute(
            label="Height of the underside",
            unit="mm",
            scale=1000,
            values=(0, 700, 1350, 1500),
            where="seller",
            how="S in its code is bare below, D has chips there: look at the card, or ask the seller for a picture.",
        ),
    ] = Field(None, ge=0, le=30_000)
    keys: Annotated[
        tuple[str, ...] | None,
        Attribute(
            label="Card key",
            kind="choice",
            values=(("A",), ("B",), ("E",), ("M",), ("A", "E"), ("B", "M")),
            where="seller",
            how="Its edge: a notch on pins 12-19 is B, 59-66 M, 24-31 E, 8-15 A.",
        ),
    ] = None

    @model_validator(mode="after")
    def _real(self) -> Self:
        card_is_real(self)
        return self


def card_from_code(code: m2.ModuleCode) -> dict[str, object]:
    """Card attributes a printed module code proves."""
    return {
        "width_mm": code.width_mm,
        "length_mm": code.length_mm,
        "above_um": code.above_um,
        "below_um": code.below_um,
        "keys": code.keys or None,
    }
