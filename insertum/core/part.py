"""Parts: what can go in a slot, what it costs, and the accessories some need.

An attribute that is None is unknown. Heights are µm, capacities GB (10**9 bytes for drives,
2**30 for memory), rates MB/s, money integer minor units.
"""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from .base import Frozen
from .standards import m2, wlan
from .standards.pcie import Link


class Offer(Frozen):
    """A price for a part. ``minutes_away`` of stock is not known; ``stock`` is a count or None."""

    shop: str
    price_minor: int = Field(ge=0, le=1_000_000_000)
    stock: int | None = None
    seen: str = ""


def _seen(number: str) -> str:
    if len(number) > 100 or not number.isprintable():
        raise ValueError("a number has up to 100 characters, all of them to be seen")
    return number


#: Invisible characters would make two numbers of one, and look alike on screen.
PartNumber = Annotated[str, AfterValidator(_seen)]


class PartBase(Frozen):
    number: PartNumber = Field(min_length=1, description="the maker's part number, unique in a catalogue")
    maker: str = ""
    name: str
    offers: tuple[Offer, ...] = ()
    note: str = ""

    @property
    def price_minor(self) -> int | None:
        """The cheapest offer that is not known to be out of stock; None when there is none."""
        return min((o.price_minor for o in self.offers if o.stock != 0), default=None)


class MemoryModule(PartBase):
    kind: Literal["memory"] = "memory"
    generation: int
    capacity_gb: int = Field(gt=0)
    grade_mts: int
    ranks: int | None = None
    chip_width: int | None = None
    cl: int | None = None
    module_type: str | None = Field(None, description="letter of the label: S, T, U, E, R, L")
    voltage_mv: int | None = None
    profile_mts: int | None = Field(None, description="rate of an overclock profile, above the base grade")
    spreader_um: int | None = Field(None, description="heat spreader above the module, 0 for a bare one")
    mount: Literal["socket", "compression"] = Field("socket", description="compression modules are screwed flat")
    clock_driver: bool = Field(False, description="carries its own clock driver")
    trfc_ns: int | None = Field(None, description="refresh time from its SPD; less is better")


class CardBase(PartBase):
    """What every card has. An M.2 card's printed code tells size, heights and notches; a mini card
    (mSATA, mini PCIe) is half or full. ``fru`` is the id firmware lists know it by."""

    form: Literal["m2", "mini"] = "m2"
    mini_size: Literal["half", "full"] | None = None
    fru: str | None = Field(None, description="the card id firmware allowlists know it by")
    width_mm: int | None = None
    length_mm: int | None = None
    above_um: int | None = None
    below_um: int | None = None
    keys: tuple[str, ...] | None = None


class Drive(Frozen):
    """What every drive has. ``read_mb_s`` is the maker's sequential read rating."""

    capacity_gb: int = Field(gt=0)
    read_mb_s: int | None = None
    write_mb_s: int | None = None
    tbw: int | None = None
    spinning: bool = False


class M2Drive(CardBase, Drive):
    kind: Literal["m2_drive"] = "m2_drive"
    interface: Literal["pcie", "sata", "emmc"] | None = None
    generation: int | None = Field(None, description="PCIe or SATA generation")
    lanes: int | None = None
    needs_cooling: bool | None = None

    @property
    def link(self) -> Link | None:
        if self.interface != "pcie" or self.generation is None or self.lanes is None:
            return None
        return Link(generation=self.generation, lanes=self.lanes)


class BayDrive(PartBase, Drive):
    kind: Literal["bay_drive"] = "bay_drive"
    height_um: int | None = None
    generation: int | None = 3
    edge_connector: bool | None = Field(None, description="a 5 mm drive with another connector")


class Radio(CardBase):
    kind: Literal["radio"] = "radio"
    bus: Literal["pcie", "cnvi"] | None = None
    host_generation: int | None = Field(None, description="host radio generation a CNVi card was made for")
    tied_to: str | None = Field(None, description="the one processor maker it works with")
    system_limits: str = Field("", description="standards, bands or systems its drivers lack")
    standard: Literal["n", "ac", "ax", "be"] | None = None
    streams: int | None = None
    channel_mhz: int | None = None
    bands: tuple[str, ...] | None = None
    bluetooth: str | None = Field(None, description="version, '' for none")
    plug: str | None = Field(None, description="antenna receptacle family: MHF1 or MHF4")

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
    bus: Literal["usb", "pcie"] | None = None
    antennas: int | None = None
    plug: str | None = None
    generation: Literal["4G", "5G"] | None = None


class Pack(PartBase):
    kind: Literal["battery"] = "battery"
    design_mwh: int = Field(gt=0)
    full_mwh: int | None = Field(None, description="full-charge capacity today, when known")
    voltage_mv: int | None = None
    connector: str | None = None
    safety_mark: bool | None = None
    fills_bay: bool = False
    swollen: bool = False


class Accessory(PartBase):
    """A bracket, spacer, ribbon, caddy … ``families`` empty means it suits any machine."""

    kind: Literal["accessory"] = "accessory"
    supplies: Literal[
        "bracket", "spacer", "ribbon", "caddy", "screws", "pad", "adapter_leads", "enclosure", "stick", "kit"
    ]
    families: tuple[str, ...] = ()
    from_mm: float | None = None
    to_mm: float | None = None
    thickness_um: int | None = Field(None, description="of a pad, uncompressed")
    usb_gbit_s: int | None = Field(None, description="of an enclosure: 5 or 10")
    takes: Literal["pcie", "sata"] | None = Field(None, description="of an enclosure: the drive it takes")


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
