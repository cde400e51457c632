"""Cards on the air: Wi-Fi and cellular."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ..standards import wlan
from .attribute import Attribute
from .part_base import SHEET, CardBase
from .plausible import radio_is_real


class Radio(CardBase):
    """A radio. ``tied_to`` is "" for one that works with any processor."""

    kind: Literal["radio"] = "radio"
    bus: Annotated[
        Literal["pcie", "cnvi"] | None,
        Attribute(
            label="The card's bus",
            kind="choice",
            values=("pcie", "cnvi"),
            where="seller",
            how="Its data sheet says PCIe or CNVi.",
        ),
    ] = None
    host_generation: Annotated[
        int | None,
        Attribute(label="Host radio generation it needs", values=tuple(range(1, 10)), where="seller", how=SHEET),
    ] = Field(None, ge=1, le=9, description="host radio generation a CNVi card was made for")
    tied_to: Annotated[
        str | None, Attribute(label="Tied to a processor maker", kind="text", where="seller", how=SHEET)
    ] = Field(None, max_length=60, description="the one processor maker it works with; '' for any")
    system_limits: str = Field("", max_length=300, description="standards, bands or systems its drivers lack")
    drivers_full: tuple[str, ...] = Field((), description="systems its driver serves in full")
    drivers_older: tuple[str, ...] = Field((), description="systems its driver serves in an older standard only")
    drivers_none: tuple[str, ...] = Field((), description="systems it has no driver for")
    standard: Annotated[
        Literal["n", "ac", "ax", "be"] | None,
        Attribute(label="Wi-Fi standard", kind="choice", values=("n", "ac", "ax", "be"), where="seller", how=SHEET),
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
        str | None, Attribute(label="Card's Bluetooth", kind="choice", values=("", "some"), where="seller", how=SHEET)
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
