"""Parts: what can go in a slot, what it costs, and the accessories some need.

An attribute that is None is unknown: it could be any of the values its words name, and the engine asks the
rules about each (rules.md section 1). Heights are µm, capacities GB (10**9 bytes for drives,
2**30 for memory), rates MB/s, money integer minor units.
"""

from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from ..standards import ddr, pack
from .attribute import Attribute
from .drive_parts import BayDrive, M2Drive
from .part_base import SHEET, PartBase
from .plausible import accessory_is_real, module_is_real, pack_is_real
from .radio_parts import Cellular, Radio


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
        bool | None, Attribute(label="Clock driver on the module", kind="flag", where="seller", how=SHEET)
    ] = Field(None, description="carries its own clock driver")
    trfc_ns: int | None = Field(None, ge=1, le=10_000, description="refresh time from its SPD; less is better")

    @model_validator(mode="after")
    def _real(self) -> Self:
        module_is_real(self)
        return self


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
