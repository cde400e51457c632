"""Machines: configurations, slots, what is soldered, and what is in the way of each slot.

A machine file holds one shell with its configurations. What differs between configurations is
said once, as ``differs``; :meth:`Machine.configured` lays it over the shared description.
Geometry is in mm from the top left corner of the side drawn. Each attribute is declared once, on its
field, with its words (:mod:`.attribute`). Older files are brought up by :mod:`.upgrade`.
"""

from enum import StrEnum
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator
from typing_extensions import TypeAliasType

from ..errors import InputError
from ..frozen import Frozen
from ..standards import m2, pack
from ..standards.m2 import KEY_LANES
from .attribute import Attribute, declared
from .claim import Fact
from .part import FittedPart
from .plausible import look_over
from .upgrade import machine_upgraded

#: More than this is a slip of unit or point, and would let a part in that does not fit: the tallest M.2
#: socket is H4.2, the tallest bay SFF-8201's 15 mm, and no cover stands 10 mm off a card.
MOST_BELOW_UM, MOST_ABOVE_UM, MOST_BAY_UM = 4200, 10_000, 15_000
BelowUm = TypeAliasType("BelowUm", Annotated[int, Field(ge=0, le=MOST_BELOW_UM)])
AboveUm = TypeAliasType("AboveUm", Annotated[int, Field(ge=0, le=MOST_ABOVE_UM)])
BayUm = TypeAliasType("BayUm", Annotated[int, Field(ge=0, le=MOST_BAY_UM)])

_MANUAL = "Service manual for this exact processor."
_BOX = "Look in the machine and in the box the owner kept."
_CLAY = "modelling clay and a calliper"


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
            label="Takes at most",
            unit="GB",
            low=1,
            high=128,
            tool="manual",
            how=_MANUAL,
            is_limit=True,
            returnable=True,
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
            tool=_CLAY,
            how="Clay on the module, close the cover, measure what is left.",
        ),
    ] = Fact[AboveUm]()


class CardSocket(SlotBase):
    """What drive, radio and cellular places share. ``form`` is how a card gets in: an M.2 socket
    with a key, a mini card socket (mSATA and mini PCIe share its connector; ``mini_sizes`` are the
    hold-downs there), or not at all, because the thing is soldered. ``listed_cards`` are the ids
    firmware takes where ``card_policy`` is "listed". ``pcie_lanes`` are those wired, 0 for none;
    ``fixed_posts_mm`` are hold-downs that do not come out: they stand as high as a card lies."""

    form: Literal["m2", "mini", "soldered"] = "m2"
    pci: str = Field("", max_length=40, description="PCI address of the port behind it, as the system names it")
    mini_sizes: Annotated[
        Fact[tuple[Literal["half", "full"], ...]],
        Attribute(
            label="Mini cards held",
            kind="list",
            values=("half", "full"),
            where="cover",
            tool="rule",
            how="Posts 27 mm (half) and 51 mm (full) from the contacts.",
        ),
    ] = Fact[tuple[Literal["half", "full"], ...]]()
    key: Annotated[
        Fact[str],
        Attribute(
            label="Key",
            kind="choice",
            values=("A", "B", "E", "M"),
            where="cover",
            tool="eyes",
            how="The socket's bar sits at pins 8-15 A, 12-19 B, 24-31 E, 59-66 M.",
        ),
    ] = Fact[str]()
    width_mm: Annotated[
        Fact[int],
        Attribute(
            label="Width",
            unit="mm",
            values=m2.WIDTHS,
            listed=True,
            where="cover",
            tool="rule",
            how="Across the place, between what stands beside it.",
        ),
    ] = Fact[int]()
    standoffs_mm: Annotated[
        Fact[tuple[int, ...]],
        Attribute(
            label="Standoffs at",
            kind="numbers",
            unit="mm",
            values=m2.LENGTHS,
            where="cover",
            tool="rule",
            how="Threaded posts behind the socket, measured from its contacts: 30, 42, 60, 80.",
        ),
    ] = Fact[tuple[int, ...]]()
    fixed_posts_mm: Annotated[
        Fact[tuple[int, ...]],
        Attribute(
            label="Posts that stay at",
            kind="numbers",
            unit="mm",
            values=m2.LENGTHS,
            where="cover",
            tool="fingers",
            how="A post shorter than the card that does not unscrew: try each by hand.",
        ),
    ] = Fact[tuple[int, ...]]()
    bracket_mm: Annotated[
        Fact[tuple[int, ...]],
        Attribute(
            label="Brackets there for",
            kind="numbers",
            unit="mm",
            values=m2.LENGTHS,
            after="standoffs_mm",
            where="cover",
            tool="eyes",
            how="Look at the fitted card and in the owner's box.",
        ),
    ] = Fact[tuple[int, ...]]()
    socket_height: Annotated[
        Fact[str],
        Attribute(
            label="Socket height",
            kind="choice",
            values=tuple(m2.SOCKET_BELOW_UM),
            where="cover",
            tool="calliper",
            how="From the board to the top of the socket.",
        ),
    ] = Fact[str]()
    board_below: Annotated[
        Fact[Literal["bare", "parts"]],
        Attribute(
            label="Board under the card",
            kind="choice",
            values=("bare", "parts"),
            where="cover",
            tool="torch",
            how="Look under the card along its length: bare board, or parts on it?",
        ),
    ] = Fact[Literal["bare", "parts"]]()
    clearance_below_um: Annotated[
        Fact[BelowUm],
        Attribute(
            label="Room below",
            unit="mm",
            scale=1000,
            low=0,
            high=MOST_BELOW_UM,
            where="cover",
            tool="feeler gauges",
            how="Between what lies on the board and the underside of a card in the socket.",
        ),
    ] = Fact[BelowUm]()
    clearance_above_um: Annotated[
        Fact[AboveUm],
        Attribute(
            label="Room above",
            unit="mm",
            scale=1000,
            low=0,
            high=MOST_ABOVE_UM,
            where="cover",
            tool=_CLAY,
            how="Clay on the card, close shield or cover, measure what is left.",
        ),
    ] = Fact[AboveUm]()
    pcie_lanes: Annotated[
        Fact[int],
        Attribute(
            label="PCIe lanes",
            values=(0, 1, 2, 4),
            where="software",
            tool="running system",
            how="The lanes of the fitted card's link and of its port, or the manual; 0 where none are wired.",
        ),
    ] = Fact[int]()
    pcie_generation: Annotated[
        Fact[int],
        Attribute(
            label="PCIe generation",
            values=(1, 2, 3, 4, 5),
            where="software",
            tool="running system",
            how="The link of the fitted card read under load and the port's own figure, or the manual.",
        ),
    ] = Fact[int]()
    card_policy: Annotated[
        Fact[Literal["any", "listed"]],
        Attribute(
            label="Card policy",
            kind="choice",
            values=("any", "listed"),
            tool="manual",
            how="Manual or sightings: does the firmware refuse cards it does not list?",
            returnable=True,
        ),
    ] = Fact[Literal["any", "listed"]]()
    listed_cards: Annotated[
        Fact[tuple[str, ...]],
        Attribute(
            label="Listed cards",
            kind="list",
            after="card_policy",
            tool="manual",
            how="The maker's list of card ids (FRU).",
        ),
    ] = Fact[tuple[str, ...]]()


class DriveSlot(CardSocket):
    """``cooled`` names the sides something cools; ``pad`` is the pad that does it from above and
    ``pad_gap_um`` the gap it has to fill. ``sata`` is the generation wired, 0 for none."""

    kind: Literal["m2_drive"] = "m2_drive"
    sata: Annotated[
        Fact[int],
        Attribute(
            label="SATA generation",
            values=(0, 1, 2, 3),
            where="software",
            tool="running system",
            how="The rate of the fitted drive (1.5, 3, 6 Gb/s are 1, 2, 3), or the manual; 0 where none is wired.",
        ),
    ] = Fact[int]()
    pad_below: Annotated[
        Fact[Literal["none", "removable", "stays"]],
        Attribute(
            label="Pad below",
            kind="choice",
            values=("none", "removable", "stays"),
            where="cover",
            tool="torch",
            how="Lift the fitted card, or look under the shield.",
        ),
    ] = Fact[Literal["none", "removable", "stays"]]()
    cooled: Annotated[
        Fact[Literal["none", "above", "below", "both"]],
        Attribute(
            label="Cooled from",
            kind="choice",
            values=("none", "above", "below", "both"),
            where="cover",
            tool="eyes",
            how="A pad or shield that touches the drive, and on which side.",
        ),
    ] = Fact[Literal["none", "above", "below", "both"]]()
    pad: Annotated[
        Fact[Presence],
        Attribute(
            label="Pad to the shield",
            kind="choice",
            values=tuple(Presence),
            where="cover",
            tool="eyes",
            how="Lift the shield: is a pad on it, and is it whole?",
        ),
    ] = Fact[Presence]()
    pad_gap_um: Annotated[
        Fact[AboveUm],
        Attribute(
            label="Gap for a pad",
            unit="mm",
            scale=1000,
            low=0,
            high=MOST_ABOVE_UM,
            where="cover",
            tool=_CLAY,
            how="Clay on the chips, close the shield, measure it.",
        ),
    ] = Fact[AboveUm]()
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


class Aerials(CardSocket):
    """What a place with antennas has."""

    usb: Annotated[
        Fact[bool],
        Attribute(
            label="USB",
            kind="flag",
            where="software",
            tool="running system",
            how="See if the fitted card's Bluetooth or modem shows up.",
            returnable=True,
        ),
    ] = Fact[bool]()
    leads: Annotated[
        Fact[int],
        Attribute(
            label="Antenna leads",
            values=(0, 1, 2, 3, 4),
            where="cover",
            tool="eyes",
            how="Count them at the fitted card, and look for taped-down spares.",
        ),
    ] = Fact[int]()
    plug: Annotated[
        Fact[str],
        Attribute(
            label="Lead plugs",
            kind="choice",
            values=("MHF1", "MHF4"),
            where="cover",
            tool="calliper",
            how="About 3 mm across is MHF1, about 2 mm MHF4.",
        ),
    ] = Fact[str]()


class RadioSlot(Aerials):
    """``cnvi`` lists the companion radios the slot takes, ``host_generation`` is the host radio's own
    generation; a host without one has an empty list. ``cnvi_wired``: a processor that could take a companion radio does
    not wire the slot for it."""

    kind: Literal["radio"] = "radio"
    cnvi_wired: Annotated[
        Fact[bool],
        Attribute(
            label="Wired for companion radios (CNVi)",
            kind="flag",
            tool="manual",
            how="The manual's word on the slot, or a companion radio that works in it. A processor's list does not tell.",
        ),
    ] = Fact[bool]()
    cnvi: Annotated[
        Fact[tuple[str, ...]],
        Attribute(
            label="Companion radios",
            kind="list",
            after="cnvi_wired",
            tool="manual",
            how="The maker's list for this slot; none where the host has no radio. A processor's list says the most there is.",
        ),
    ] = Fact[tuple[str, ...]]()
    host_generation: Annotated[
        Fact[int],
        Attribute(
            label="Host radio generation", values=tuple(range(1, 10)), tool="manual", how="The processor's radio list."
        ),
    ] = Fact[int]()
    antenna_bands: Annotated[
        Fact[tuple[str, ...]],
        Attribute(
            label="Antennas made for",
            kind="list",
            values=("2.4", "5", "6"),
            unit="GHz",
            where="cover",
            tool="eyes",
            how="The print on the antenna.",
        ),
    ] = Fact[tuple[str, ...]]()


class CellularSlot(Aerials):
    """A place for a cellular card. It may exist without antennas or a SIM tray, because the machine
    was ordered without."""

    kind: Literal["cellular"] = "cellular"
    sim_tray: Annotated[
        Fact[Presence],
        Attribute(
            label="SIM tray",
            kind="choice",
            values=tuple(Presence),
            where="label",
            tool="eyes",
            how="Along the edges and under the battery: a tray, or its blank?",
        ),
    ] = Fact[Presence]()


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
        Attribute(label="Caddy", kind="choice", values=tuple(Presence), where="cover", tool="eyes", how=_BOX),
    ] = Fact[Presence]()
    ribbon: Annotated[
        Fact[Presence],
        Attribute(label="Ribbon", kind="choice", values=tuple(Presence), where="cover", tool="eyes", how=_BOX),
    ] = Fact[Presence]()
    screws: Annotated[
        Fact[Presence],
        Attribute(label="Screws", kind="choice", values=tuple(Presence), where="cover", tool="eyes", how=_BOX),
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


Slot = Annotated[MemorySlot | DriveSlot | RadioSlot | CellularSlot | BaySlot | BatterySlot, Field(discriminator="kind")]


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
            how=_MANUAL,
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
        Fact[bool], Attribute(label="Clock-driver modules", kind="flag", tool="manual", how=_MANUAL, returnable=True)
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


class Boot(Frozen):
    """What the firmware can start from. ``storage_mode`` "raid" hides NVMe drives from a plain system;
    where ``storage_mode_fixed`` firmware does not let it change, and then only a system with that
    mode's own driver sees them: ``mode_driver`` is whether it sees drives as the mode is set, in the
    plain mode always. ``partitioning`` is the owner's system disk's."""

    starts_nvme: Annotated[
        Fact[bool],
        Attribute(
            label="Starts from NVMe",
            kind="flag",
            where="firmware",
            tool="firmware setup",
            how="Look for NVMe in the boot list, or in the notes to the last update.",
            returnable=True,
        ),
    ] = Fact[bool]()
    storage_mode: Annotated[
        Fact[Literal["plain", "raid"]],
        Attribute(
            label="Storage mode",
            kind="choice",
            values=("plain", "raid"),
            where="firmware",
            tool="firmware setup",
            how="Under storage.",
        ),
    ] = Fact[Literal["plain", "raid"]]()
    storage_mode_fixed: Annotated[
        Fact[bool],
        Attribute(
            label="Storage mode fixed",
            kind="flag",
            after="storage_mode",
            where="firmware",
            tool="firmware setup",
            how="Under storage: can the mode be changed at all?",
        ),
    ] = Fact[bool]()
    mode_driver: Annotated[
        Fact[bool],
        Attribute(
            label="Owner's system sees drives in this mode",
            kind="flag",
            after="storage_mode_fixed",
            where="software",
            tool="running system",
            how="Does the owner's system see an NVMe drive as the mode is set, or is the mode's driver in the image?",
        ),
    ] = Fact[bool]()
    style: Annotated[
        Fact[Literal["uefi", "legacy"]],
        Attribute(
            label="Boot style",
            kind="choice",
            values=("uefi", "legacy"),
            where="firmware",
            tool="firmware setup",
            how="Under boot.",
        ),
    ] = Fact[Literal["uefi", "legacy"]]()
    partitioning: Annotated[
        Fact[Literal["gpt", "mbr"]],
        Attribute(
            label="System disk's partition table",
            kind="choice",
            values=("gpt", "mbr"),
            where="software",
            tool="running system",
            how="lsblk or the disk tool names it: gpt, or dos (MBR).",
        ),
    ] = Fact[Literal["gpt", "mbr"]]()


declared(MemorySystem)
declared(Boot)


class Exclusion(Frozen):
    """What a part in ``when`` that ``holds`` so does to the slot ``on``: nothing, it is off, its room is
    filled, or its lanes fall to ×1 or ×2."""

    when: str
    holds: Literal["anything", "sata", "pcie", "fills_bay"]
    on: str
    effect: Annotated[
        Fact[Literal["none", "off", "filled", "x1", "x2"]],
        Attribute(
            label="Effect",
            kind="choice",
            values=("none", "x2", "x1", "filled", "off"),
            tool="manual",
            how="The manual's note on shared lanes and room, or try both.",
        ),
    ] = Fact[Literal["none", "off", "filled", "x1", "x2"]]()


declared(Exclusion)


class Obstacle(Frozen):
    """Something to take off, open or unplug on the way in. ``seconds`` is off and on again.
    ``after`` names what must be off before; a cycle is an error in the data."""

    id: str
    what: Literal[
        "feet", "strip", "cap", "sticker", "flap", "screws", "grille", "cover", "cable", "battery", "shield", "tape",
        "latch", "part",
    ]  # fmt: skip
    name: str
    after: tuple[str, ...] = ()
    after_sources: dict[str, str] = Field({}, description="who says so, for an edge that is not documented")
    slot: str | None = Field(None, description="the slot whose part this is, where it is one")
    tool: str = ""
    screws: int = Field(0, ge=0, le=100)
    length_mm: float | None = Field(None, gt=0, le=100)
    captive: bool = False
    seconds: int = Field(60, ge=0, le=36_000)
    place: str = ""
    hint: str = ""
    caution: str = ""
    hint_on: str = Field("", description="what helps when it goes back")
    caution_on: str = Field("", description="what to heed when it goes back")
    source: str = "documented"


class Mark(Frozen):
    """A text that identifies: where it is found and what it says."""

    kind: Literal["family", "model", "type_code", "product", "board", "processor", "system", "battery"]
    text: str


class Feature(Frozen):
    """Something drawn on the map that is no slot: fan, speakers, soldered memory."""

    name: str
    place: Place
    note: str = ""


AssemblyKind = Literal[
    "fan", "heat_sink", "clock_cell", "hinges", "speakers", "port_board", "keyboard", "lid_cable", "panel", "case"
]


class Assembly(Frozen):
    """Something that is changed as one piece and belongs to no slot. ``number`` is the one printed on it, '' where
    nobody has read it; ``order`` the printed order its screws are tightened in; ``interface`` what lies between a sink
    and its dies as delivered."""

    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")
    what: AssemblyKind
    name: str = Field(min_length=1, max_length=80)
    number: str = Field("", max_length=80)
    comes_with: str = Field("", max_length=120, description="what comes only as one piece with it")
    reached_by: tuple[str, ...] = ()
    order: tuple[str, ...] = Field((), max_length=24)
    interface: Literal["", "paste", "sheet", "liquid_metal"] = ""
    source: str = "documented"


class Configuration(Frozen):
    """One exact build of the machine. ``differs`` patches slots and ``memory``/``boot`` by id:
    ``{"memory": {...}, "drive-2": {...}}``."""

    id: str
    name: str
    year: int | None = None
    processor: str
    cores: int | None = None
    marks: tuple[Mark, ...] = ()
    differs: dict[str, dict[str, Any]] = {}
    graphics: str = ""


class Machine(Frozen):
    """One shell with its configurations, as the machine JSON format holds it."""

    format: Literal["insertum-machine/2"] = "insertum-machine/2"
    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")
    maker: str
    name: str
    width_mm: float = Field(gt=0, le=MOST_MM)
    depth_mm: float = Field(gt=0, le=MOST_MM)
    opens: Literal["under", "keyboard"] = "under"
    marks: tuple[Mark, ...] = ()
    memory: MemorySystem = MemorySystem()
    boot: Boot = Boot()
    slots: tuple[Slot, ...]
    features: tuple[Feature, ...] = ()
    exclusions: tuple[Exclusion, ...] = ()
    obstacles: tuple[Obstacle, ...] = ()
    assemblies: tuple[Assembly, ...] = ()
    power_off: str = Field("", description="the obstacle that isolates the battery")
    boot_slot: str = Field("", description="the slot the system starts from as delivered")
    draft: bool = Field(False, description="started at a bench; nobody has gone through all of it yet")
    configurations: tuple[Configuration, ...] = Field(min_length=1)

    @model_validator(mode="before")
    @classmethod
    def _brought_up(cls, data: Any) -> Any:
        return machine_upgraded(data)

    @model_validator(mode="after")
    def _consistent(self) -> "Machine":
        slots, obstacles = {s.id for s in self.slots}, {o.id for o in self.obstacles}
        if len(slots) < len(self.slots):
            raise ValueError("two slots share one id")
        if len({c.id for c in self.configurations}) < len(self.configurations):
            raise ValueError("two configurations share one id")
        for o in self.obstacles:
            if missing := [a for a in o.after if a not in obstacles]:
                raise ValueError(f"obstacle {o.id} comes after {missing[0]}, which is not there")
        for s in self.slots:
            if missing := [a for a in s.reached_by if a not in obstacles]:
                raise ValueError(f"slot {s.id} is reached by {missing[0]}, which is not there")
        if len({a.id for a in self.assemblies}) < len(self.assemblies):
            raise ValueError("two assemblies share one id")
        for ref, known in [
            *((o, obstacles) for a in self.assemblies for o in a.reached_by),
            *((e.when, slots) for e in self.exclusions),
            *((e.on, slots) for e in self.exclusions),
            (self.boot_slot, slots | {""}),
            (self.power_off, obstacles | {""}),
            *((o.slot or "", slots | {""}) for o in self.obstacles),
        ]:
            if ref not in known:
                raise ValueError(f"{ref!r} is named but not there")
        if alone := next((e for e in self.exclusions if e.when == e.on), None):
            raise ValueError(f"an exclusion of {alone.on} by itself: name the slot that has to be filled")
        for s in self.slots:
            look_over(s)
            if isinstance(s, CardSocket):
                lanes = [c.value for c in s.pcie_lanes.claims if c.bound != "at_most"]
                for key in (c.value for c in s.key.claims if c.exact):
                    if lanes and max(lanes) > KEY_LANES.get(key, 4):
                        raise ValueError(f"slot {s.id}: key {key} carries no PCIe ×{max(lanes)}")
        look_over(self.memory)
        look_over(self.boot)
        left = {o.id: set(o.after) for o in self.obstacles}
        while free := [name for name, after in left.items() if not after & left.keys()]:
            for name in free:
                del left[name]
        if left:
            raise ValueError(f"obstacles wait for each other in a circle: {', '.join(sorted(left))}")
        return self

    def configured(self, configuration_id: str) -> "Configured":
        """The machine in one configuration. Raises :class:`InputError` when there is none such or
        its differences do not fit the description."""
        found = next((c for c in self.configurations if c.id == configuration_id), None)
        if found is None:
            raise InputError(
                f"no configuration {configuration_id!r}",
                f"machine {self.id}",
                f"It has {', '.join(c.id for c in self.configurations)}.",
            )
        try:
            return Configured(
                machine=self,
                configuration=found,
                memory=_patched(self.memory, found.differs.get("memory", {})),
                boot=_patched(self.boot, found.differs.get("boot", {})),
                slots=tuple(_patched(s, found.differs.get(s.id, {})) for s in self.slots),
            )
        except ValidationError as error:
            first = error.errors()[0]
            raise InputError(
                first["msg"], f"machine {self.id}, configuration {found.id}, {'.'.join(map(str, first['loc']))}"
            ) from error


def _patched(model: Any, patch: dict[str, Any]) -> Any:
    return (
        type(model).model_validate({**{n: getattr(model, n) for n in type(model).model_fields}, **patch})
        if patch
        else model
    )


class Configured(Frozen):
    """A machine in one configuration, with what is soldered and fitted as delivered."""

    machine: Machine
    configuration: Configuration
    memory: MemorySystem
    boot: Boot
    slots: tuple[Slot, ...]

    def slot(self, slot_id: str) -> Slot:
        for s in self.slots:
            if s.id == slot_id:
                return s
        raise InputError(
            f"no slot {slot_id!r}", f"machine {self.machine.id}", f"It has {', '.join(s.id for s in self.slots)}."
        )

    @property
    def title(self) -> str:
        return f"{self.machine.maker} {self.configuration.name}"

    @property
    def system_name(self) -> str:
        """What firmware calls it, maker first: its system mark, or its title where it has none."""
        marks = (*self.configuration.marks, *self.machine.marks)
        return next((m.text for m in marks if m.kind == "system"), self.title)
