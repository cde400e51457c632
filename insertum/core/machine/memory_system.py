"""Memory of a machine: its sockets, what is soldered, and what the processor does with all of it."""

from typing import Annotated, Literal

from pydantic import Field

from ..frozen import Frozen
from .attribute import Attribute, declared
from .claim import Fact
from .slot_base import CLAY, MANUAL, MOST_ABOVE_UM, AboveUm, SlotBase


class MemorySlot(SlotBase):
    kind: Literal["memory"] = "memory"
    generation: Annotated[
        Fact[int],
        Attribute(
            label="Generation",
            values=(3, 4, 5),
            where="label",
            tool="eyes",
            how="Read PC3, PC4 or PC5 off the fitted module, or count contacts: 204, 260, 262.",
        ),
    ] = Fact[int]()
    channel: Annotated[
        Fact[str],
        Attribute(
            label="Channel",
            kind="text",
            values=("A", "B"),
            tool="manual",
            how="The board's print or the block diagram in the manual.",
        ),
    ] = Fact[str]()
    locator: str = Field("", max_length=100, description="what firmware calls this socket, where not its name")
    limit_gb: Annotated[
        Fact[int],
        Attribute(
            label="Takes at most", unit="GB", low=1, high=128, tool="manual", how=MANUAL, is_limit=True, returnable=True
        ),
    ] = Fact[int]()
    room_above_um: Annotated[
        Fact[AboveUm],
        Attribute(
            label="Room above",
            unit="mm",
            scale=1000,
            low=0,
            high=MOST_ABOVE_UM,
            where="cover",
            tool=CLAY,
            how="Clay on the module, close the cover, measure what is left.",
        ),
    ] = Fact[AboveUm]()


class Soldered(Frozen):
    """Memory on the board: counts towards the ceiling and the channel it sits on. A rating or a channel nobody has
    told is None."""

    capacity_gb: int
    rated_mts: int | None = None
    channel: str | None = None
    density_gbit: int | None = None


class MemorySystem(Frozen):
    """What the processor and board do with memory as a whole. ``speed_mts`` is the fastest rate
    the machine runs; ``speed_by_modules`` narrows it for a number of socketed modules. Each claim on
    ``density_gbit`` names one density that is addressed, with those it brings (rules.md, axioms)."""

    soldered: tuple[Soldered, ...] = ()
    total_limit_gb: Annotated[
        Fact[int],
        Attribute(
            label="In all at most",
            unit="GB",
            low=1,
            high=512,
            tool="manual",
            how=MANUAL,
            is_limit=True,
            returnable=True,
        ),
    ] = Fact[int]()
    speed_mts: Annotated[
        Fact[int],
        Attribute(
            label="Runs at most",
            unit="MT/s",
            low=400,
            high=20_000,
            where="software",
            tool="running system",
            how="The running speed in firmware or by dmidecode, and the processor's data sheet.",
            is_limit=True,
        ),
    ] = Fact[int]()
    speed_by_modules: dict[int, Fact[int]] = {}
    density_gbit: Annotated[
        Fact[int],
        Attribute(
            label="Densest chips",
            unit="Gbit",
            values=(1, 2, 4, 8, 16, 24, 32),
            tool="manual",
            how="Sightings and the maker's list of modules, or the processor's data sheet.",
            is_limit=True,
            returnable=True,
        ),
    ] = Fact[int]()
    module_types: Annotated[
        Fact[tuple[str, ...]],
        Attribute(
            label="Module types",
            kind="list",
            values=("S", "T"),
            tool="manual",
            how="Whether modules with ECC (T) are named.",
            returnable=True,
        ),
    ] = Fact[tuple[str, ...]]()
    voltage_mv: Annotated[
        Fact[int],
        Attribute(
            label="Voltage",
            unit="V",
            scale=1000,
            values=(1100, 1200, 1350, 1500),
            where="label",
            tool="eyes",
            how="The label of the fitted module: PC3 alone is 1.5 V, PC3L runs at both.",
        ),
    ] = Fact[int]()
    applies_profiles: Annotated[
        Fact[bool],
        Attribute(
            label="Applies profiles",
            kind="flag",
            where="firmware",
            tool="firmware setup",
            how="Look for a memory profile setting.",
        ),
    ] = Fact[bool]()
    clock_drivers: Annotated[
        Fact[bool], Attribute(label="Clock-driver modules", kind="flag", tool="manual", how=MANUAL, returnable=True)
    ] = Fact[bool]()
    graphics_share_mb: Annotated[
        Fact[int],
        Attribute(
            label="Graphics share",
            unit="MB",
            low=0,
            high=65_536,
            where="firmware",
            tool="firmware setup",
            how="Under graphics memory.",
        ),
    ] = Fact[int]()
    firmware_reserve_mb: Annotated[
        Fact[int],
        Attribute(
            label="Firmware reserve",
            unit="MB",
            low=0,
            high=65_536,
            where="software",
            tool="running system",
            how="Fitted less visible less graphics share.",
        ),
    ] = Fact[int]()
    graphics_shares: Annotated[
        Fact[bool],
        Attribute(
            label="Graphics share memory", kind="flag", tool="manual", how="Whether graphics have memory of their own."
        ),
    ] = Fact[bool]()


declared(MemorySystem)
