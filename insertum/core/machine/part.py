"""Parts: what can go in a slot, what it costs, and the accessories some need.

An attribute that is None is unknown: it could be any of the values its words name, and the engine asks the
rules about each (rules.md section 1). Heights are µm, capacities GB (10**9 bytes for drives,
2**30 for memory), rates MB/s, money integer minor units.
"""

from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import AfterValidator, Field, field_validator, model_validator

from ..frozen import Frozen
from ..standards import ddr, m2, pack, wlan
from ..standards.pcie import Link
from .attribute import Attribute
from .plausible import accessory_is_real, card_is_real, module_is_real, pack_is_real, radio_is_real


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


_SHEET = "Its data sheet, or ask the seller in writing."


class MemoryModule(PartBase):
    """A module. ``grade_mts`` is its base grade; None of ``profile_mts`` is no profile above it."""

    could_meet: ClassVar[tuple[str, ...]] = ("memory",)

    kind: Literal["memory"] = "memory"
    generation: int
    capacity_gb: int = Field(gt=0)
    grade_mts: int
    ranks: Annotated[
        int | None,
        Attribute(
            label="Ranks",
            values=ddr.SODIMM_RANKS,
            where="seller",
            how="The digits before Rx on its label (2Rx8), or ask the seller in writing.",
        ),
    ] = None
    chip_width: Annotated[
        int | None,
        Attribute(
            label="Chip width",
            values=ddr.SODIMM_WIDTHS,
            where="seller",
            how="The digits after Rx on its label (2Rx8), or ask the seller in writing.",
        ),
    ] = None
    cl: int | None = Field(None, ge=1, le=200)
    module_type: Annotated[
        str | None,
        Attribute(
            label="Module type",
            kind="choice",
            values=tuple(ddr.MODULE_TYPES),
            where="seller",
            how="The letter after the speed on its label: S is a SO-DIMM.",
        ),
    ] = Field(None, description="letter of the label: S, T, U, E, R, L")
    voltage_mv: Annotated[
        int | None,
        Attribute(
            label="Module voltage",
            unit="V",
            scale=1000,
            values=(1350, 1500),
            where="seller",
            how="PC3L on its label is 1.35 V, PC3 is 1.5 V.",
        ),
    ] = None
    profile_mts: int | None = Field(None, description="rate of an overclock profile, above the base grade")
    spreader_um: Annotated[
        int | None,
        Attribute(
            label="Heat spreader",
            unit="mm",
            scale=1000,
            low=0,
            high=10_000,
            where="seller",
            how="Look at the part's picture or the part: 0 for a bare module.",
        ),
    ] = Field(None, ge=0, le=50_000, description="heat spreader above the module, 0 for a bare one")
    mount: Literal["socket", "compression"] = Field("socket", description="compression modules are screwed flat")
    clock_driver: Annotated[
        bool | None, Attribute(label="Clock driver on the module", kind="flag", where="seller", how=_SHEET)
    ] = Field(None, description="carries its own clock driver")
    trfc_ns: int | None = Field(None, ge=1, le=10_000, description="refresh time from its SPD; less is better")

    @model_validator(mode="after")
    def _real(self) -> Self:
        module_is_real(self)
        return self


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


class Drive(Frozen):
    """What every drive has. ``read_mb_s`` is the maker's sequential read rating."""

    capacity_gb: int = Field(gt=0, le=1_000_000)
    read_mb_s: Annotated[
        int | None,
        Attribute(
            label="Drive's rating",
            unit="MB/s",
            low=0,
            high=100_000,
            where="seller",
            how="Its data sheet states sequential read.",
        ),
    ] = Field(None, ge=1, le=100_000)
    write_mb_s: int | None = Field(None, ge=1, le=100_000)
    tbw: int | None = Field(None, ge=0, le=1_000_000)
    spinning: bool = False


class M2Drive(CardBase, Drive):
    kind: Literal["m2_drive"] = "m2_drive"
    interface: Annotated[
        Literal["pcie", "sata", "emmc"] | None,
        Attribute(
            label="Drive's interface",
            kind="choice",
            values=("pcie", "sata"),
            where="seller",
            how="Its data sheet says SATA or PCIe (NVMe); the notches do not.",
        ),
    ] = None
    generation: Annotated[
        int | None, Attribute(label="Drive's link generation", values=(1, 2, 3, 4, 5), where="seller", how=_SHEET)
    ] = Field(None, ge=1, le=5, description="PCIe or SATA generation")
    lanes: Annotated[int | None, Attribute(label="Drive's lanes", values=(1, 2, 4), where="seller", how=_SHEET)] = None
    needs_cooling: Annotated[
        bool | None,
        Attribute(
            label="Needs cooling", kind="flag", where="seller", how="See its data sheet for a heat sink requirement."
        ),
    ] = None

    @property
    def link(self) -> Link | None:
        if self.interface != "pcie" or self.generation is None or self.lanes is None:
            return None
        return Link(generation=self.generation, lanes=self.lanes)


class BayDrive(PartBase, Drive):
    could_meet: ClassVar[tuple[str, ...]] = ("bay",)
    kind: Literal["bay_drive"] = "bay_drive"
    height_um: Annotated[
        int | None,
        Attribute(
            label="Drive's height",
            unit="mm",
            scale=1000,
            values=(5000, 7000, 9500, 12500, 15000),
            where="seller",
            how="Its data sheet, or a calliper: 5, 7 or 9.5 mm.",
        ),
    ] = Field(None, ge=1000, le=30_000)
    generation: Annotated[
        int | None, Attribute(label="Drive's SATA generation", values=(1, 2, 3), where="seller", how=_SHEET)
    ] = Field(None, ge=1, le=3)
    edge_connector: Annotated[
        bool | None,
        Attribute(
            label="Edge connector",
            kind="flag",
            where="seller",
            how="Look at the drive's plug: an edge, or the usual SATA one.",
        ),
    ] = Field(None, description="a 5 mm drive with another connector")


class Radio(CardBase):
    """A radio. ``tied_to`` is "" for one that works with any processor."""

    kind: Literal["radio"] = "radio"
    bus: Annotated[
        Literal["pcie", "cnvi"] | None,
        Attribute(
            label="Radio's bus",
            kind="choice",
            values=("pcie", "cnvi"),
            where="seller",
            how="Its data sheet says PCIe or CNVi.",
        ),
    ] = None
    host_generation: Annotated[
        int | None,
        Attribute(label="Host radio generation it needs", values=tuple(range(1, 10)), where="seller", how=_SHEET),
    ] = Field(None, ge=1, le=9, description="host radio generation a CNVi card was made for")
    tied_to: Annotated[
        str | None, Attribute(label="Tied to a processor maker", kind="text", where="seller", how=_SHEET)
    ] = Field(None, max_length=60, description="the one processor maker it works with; '' for any")
    system_limits: str = Field("", max_length=300, description="standards, bands or systems its drivers lack")
    drivers_full: tuple[str, ...] = Field((), description="systems its driver serves in full")
    drivers_older: tuple[str, ...] = Field((), description="systems its driver serves in an older standard only")
    drivers_none: tuple[str, ...] = Field((), description="systems it has no driver for")
    standard: Annotated[
        Literal["n", "ac", "ax", "be"] | None,
        Attribute(label="Radio standard", kind="choice", values=("n", "ac", "ax", "be"), where="seller", how=_SHEET),
    ] = None
    streams: Annotated[
        int | None,
        Attribute(label="Streams", values=(1, 2, 3, 4), where="seller", how="2×2 on the data sheet is two streams."),
    ] = Field(None, ge=1, le=8)
    channel_mhz: int | None = Field(None, ge=20, le=320)
    bands: Annotated[
        tuple[str, ...] | None,
        Attribute(
            label="Card's bands",
            kind="choice",
            values=(("2.4",), ("2.4", "5"), ("2.4", "5", "6")),
            unit="GHz",
            where="seller",
            how="Its data sheet names 2.4, 5 and 6 GHz.",
        ),
    ] = None
    bluetooth: Annotated[
        str | None, Attribute(label="Card's Bluetooth", kind="choice", values=("", "some"), where="seller", how=_SHEET)
    ] = Field(None, max_length=20, description="version, '' for none")
    plug: Annotated[
        str | None,
        Attribute(
            label="Card's receptacle",
            kind="choice",
            values=("MHF1", "MHF4"),
            where="seller",
            how="MHF1 is about 3 mm across, MHF4 about 2 mm.",
        ),
    ] = Field(None, description="antenna receptacle family: MHF1 or MHF4")

    @model_validator(mode="after")
    def _on_the_air(self) -> Self:
        radio_is_real(self)
        return self

    @property
    def side(self) -> wlan.RadioSide | None:
        if self.standard is None or self.streams is None or self.channel_mhz is None or self.bands is None:
            return None
        return wlan.RadioSide(
            standard=self.standard, streams=self.streams, width_mhz=self.channel_mhz, bands=self.bands
        )


class Cellular(CardBase):
    """A cellular card. ``antennas`` is how many it uses."""

    kind: Literal["cellular"] = "cellular"
    bus: Annotated[
        Literal["usb", "pcie"] | None,
        Attribute(
            label="Card's bus",
            kind="choice",
            values=("usb", "pcie"),
            where="seller",
            how="Its data sheet says USB or PCIe.",
        ),
    ] = None
    antennas: Annotated[
        int | None,
        Attribute(
            label="Antennas it uses",
            values=(1, 2, 3, 4),
            where="seller",
            how="Count the receptacles it uses on its data sheet.",
        ),
    ] = Field(None, ge=1, le=8)
    plug: Annotated[
        str | None,
        Attribute(
            label="Card's receptacle",
            kind="choice",
            values=("MHF1", "MHF4"),
            where="seller",
            how="MHF1 is about 3 mm across, MHF4 about 2 mm.",
        ),
    ] = None
    generation: Literal["4G", "5G"] | None = None


class Pack(PartBase):
    could_meet: ClassVar[tuple[str, ...]] = ("battery",)
    kind: Literal["battery"] = "battery"
    design_mwh: int = Field(gt=0, le=1_000_000)
    full_mwh: int | None = Field(None, ge=0, le=1_000_000, description="full-charge capacity today, when known")
    voltage_mv: Annotated[
        int | None,
        Attribute(
            label="Pack's voltage",
            unit="V",
            scale=1000,
            values=pack.NOMINAL_MV,
            where="seller",
            how="Its label, design voltage.",
        ),
    ] = Field(None, ge=1000, le=30_000)
    charge_mv: int | None = Field(None, ge=4100, le=30_000, description="what it is charged to, as its label states it")
    connector: Annotated[
        str | None, Attribute(label="Pack's plug", kind="text", where="seller", how="Compare it with the fitted pack.")
    ] = Field(None, max_length=100)
    safety_mark: Annotated[
        bool | None, Attribute(label="Safety mark", kind="flag", where="seller", how="Ask for a picture of the label.")
    ] = None
    fills_bay: Annotated[
        bool | None,
        Attribute(label="Fills the bay", kind="flag", where="seller", how="Compare its size with the fitted pack's."),
    ] = None
    swollen: bool = False

    @model_validator(mode="after")
    def _real(self) -> Self:
        pack_is_real(self)
        return self


class Accessory(PartBase):
    """A bracket, spacer, ribbon, caddy … ``families`` empty means it suits any machine. Adapter leads go
    from the plugs in the machine (``from_plug``) to the card's receptacles (``to_plug``). An assembly (a fan, a port
    board) is sold by the number found on the old one, matched exactly."""

    kind: Literal["accessory"] = "accessory"
    supplies: Literal[
        "bracket",
        "spacer",
        "ribbon",
        "caddy",
        "screws",
        "pad",
        "adapter_leads",
        "enclosure",
        "stick",
        "kit",
        "assembly",
    ]
    families: tuple[str, ...] = ()
    from_mm: float | None = Field(None, ge=0, le=500, allow_inf_nan=False)
    to_mm: float | None = Field(None, ge=0, le=500, allow_inf_nan=False)
    from_plug: str | None = Field(None, max_length=20)
    to_plug: str | None = Field(None, max_length=20)
    thickness_um: int | None = Field(None, ge=100, le=20_000, description="of a pad, uncompressed")
    usb_gbit_s: int | None = Field(None, description="of an enclosure: 5 or 10")
    takes: Literal["pcie", "sata"] | None = Field(None, description="of an enclosure: the drive it takes")

    @model_validator(mode="after")
    def _real(self) -> Self:
        accessory_is_real(self)
        return self


Fittable = MemoryModule | M2Drive | BayDrive | Radio | Cellular | Pack
AnyPart = Fittable | Accessory
Part = Annotated[AnyPart, Field(discriminator="kind")]
FittedPart = Annotated[Fittable, Field(discriminator="kind")]
CARDS = (M2Drive, Radio, Cellular)

#: Which accessory the words of a finding mean, for sentences.
ACCESSORY_WORDS = {
    "bracket": "a bracket",
    "spacer": "a spacer",
    "ribbon": "the bay's ribbon cable",
    "caddy": "a caddy",
    "screws": "caddy screws",
    "pad": "a thermal pad",
    "adapter_leads": "antenna adapter leads",
    "enclosure": "an enclosure",
}


def card_from_code(code: m2.ModuleCode) -> dict[str, object]:
    """Card attributes a printed module code proves."""
    return {
        "width_mm": code.width_mm,
        "length_mm": code.length_mm,
        "above_um": code.above_um,
        "below_um": code.below_um,
        "keys": code.keys or None,
    }
