"""The drive bay and the place of a pack."""

from typing import Annotated, Literal

from pydantic import Field

from ..standards import pack
from .attribute import Attribute
from .claim import Fact
from .slot_base import BOX, MOST_BAY_UM, BayUm, Presence, SlotBase


class BaySlot(SlotBase):
    kind: Literal["bay"] = "bay"
    height_um: Annotated[
        Fact[BayUm],
        Attribute(
            label="Bay height",
            unit="mm",
            scale=1000,
            values=(5000, 7000, 9500, 12500, 15000),
            high=MOST_BAY_UM,
            where="cover",
            tool="calliper",
            how="From the bay floor to the cover's ribs: 7 or 9.5.",
        ),
    ] = Fact[BayUm]()
    sata: Annotated[
        Fact[int],
        Attribute(
            label="SATA generation",
            values=(1, 2, 3),
            where="software",
            tool="running system",
            how="The rate of the fitted drive (1.5, 3, 6 Gb/s are 1, 2, 3), or the manual.",
        ),
    ] = Fact[int]()
    drive_limit_gb: Annotated[
        Fact[int],
        Attribute(
            label="Largest drive",
            unit="GB",
            low=1,
            high=1_000_000_000,
            tool="manual",
            how="Service manual; the interface itself sets no limit you will meet.",
            is_limit=True,
        ),
    ] = Fact[int]()
    caddy: Annotated[
        Fact[Presence],
        Attribute(label="Caddy", kind="choice", values=tuple(Presence), where="cover", tool="eyes", how=BOX),
    ] = Fact[Presence]()
    ribbon: Annotated[
        Fact[Presence],
        Attribute(label="Ribbon", kind="choice", values=tuple(Presence), where="cover", tool="eyes", how=BOX),
    ] = Fact[Presence]()
    screws: Annotated[
        Fact[Presence],
        Attribute(label="Screws", kind="choice", values=tuple(Presence), where="cover", tool="eyes", how=BOX),
    ] = Fact[Presence]()
    spacer: Annotated[
        Fact[Literal["present", "missing", "not_needed"]],
        Attribute(
            label="Spacer",
            kind="choice",
            values=("present", "missing", "not_needed"),
            where="cover",
            tool="eyes",
            how="Do caddy or screws hold a lower drive by themselves? Else look for a spacer in the box.",
        ),
    ] = Fact[Literal["present", "missing", "not_needed"]]()


class BatterySlot(SlotBase):
    kind: Literal["battery"] = "battery"
    accepts: Annotated[
        Fact[tuple[str, ...]],
        Attribute(label="Packs", kind="list", where="label", tool="eyes", how="The number on the fitted pack."),
    ] = Fact[tuple[str, ...]]()
    voltage_mv: Annotated[
        Fact[int],
        Attribute(
            label="Voltage",
            unit="V",
            scale=1000,
            values=pack.NOMINAL_MV,
            samples=True,
            low=1000,
            high=30_000,
            where="label",
            tool="eyes",
            how="The label of the fitted pack; from the system only its design voltage.",
        ),
    ] = Fact[int]()
    charge_mv: Annotated[
        Fact[int],
        Attribute(
            label="Charged to",
            unit="V",
            scale=1000,
            low=4100,
            high=30_000,
            where="label",
            tool="eyes",
            how="The charging voltage on the label of the fitted pack: limited charge voltage.",
        ),
    ] = Fact[int]()
    connector: Annotated[
        Fact[str],
        Attribute(label="Plug", kind="text", where="cover", tool="eyes", how="Look at the fitted pack's plug."),
    ] = Fact[str]()
    held_by: Annotated[
        Fact[Literal["screws", "glue"]],
        Attribute(
            label="Held by",
            kind="choice",
            values=("screws", "glue"),
            where="cover",
            tool="eyes",
            how="Screws or glue: look, never pry.",
        ),
    ] = Fact[Literal["screws", "glue"]]()
    firmware_switch: Annotated[
        Fact[bool],
        Attribute(
            label="Firmware switches it off", kind="flag", where="firmware", tool="firmware setup", how="Under power."
        ),
    ] = Field(Fact[bool](), description="can firmware switch the battery off")
