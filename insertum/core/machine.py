"""Machines: configurations, slots, what is soldered, and what is in the way of each slot.

A machine file holds one shell with its configurations. What differs between configurations is
said once, as ``differs``; :meth:`Machine.configured` lays it over the shared description.
Geometry is in mm from the top left corner of the side drawn.
"""

from enum import StrEnum
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator
from typing_extensions import TypeAliasType

from .base import Frozen, InputError
from .claim import Fact
from .part import FittedPart
from .standards.m2 import KEY_LANES
from .standards.pcie import Link

#: More than this is a slip of unit or point, and would let a part in that does not fit: the tallest M.2
#: socket is H4.2, the tallest bay SFF-8201's 15 mm, and no cover stands 10 mm off a card.
MOST_BELOW_UM, MOST_ABOVE_UM, MOST_BAY_UM = 4200, 10_000, 15_000
BelowUm = TypeAliasType("BelowUm", Annotated[int, Field(ge=0, le=MOST_BELOW_UM)])
AboveUm = TypeAliasType("AboveUm", Annotated[int, Field(ge=0, le=MOST_ABOVE_UM)])
BayUm = TypeAliasType("BayUm", Annotated[int, Field(ge=0, le=MOST_BAY_UM)])


class Presence(StrEnum):
    PRESENT = "present"
    MISSING = "missing"


class Place(Frozen):
    """A rectangle in mm, on the underside or under the keyboard. ``contacts`` is the side of the
    rectangle the socket is on."""

    x_mm: float
    y_mm: float
    w_mm: float = Field(gt=0)
    h_mm: float = Field(gt=0)
    face: Literal["under", "keyboard"] = "under"
    contacts: Literal["left", "right", "top", "bottom"] = "left"


class SlotBase(Frozen):
    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")
    name: str
    place: Place
    reached_by: tuple[str, ...] = ()
    swap_seconds: int = Field(240, ge=0)
    fitted: FittedPart | None = Field(None, description="as delivered; null is empty")


class MemorySlot(SlotBase):
    kind: Literal["memory"] = "memory"
    generation: Fact[int] = Fact[int]()
    channel: Fact[str] = Fact[str]()
    locator: str = Field("", description="what firmware calls this socket, where not its name")
    limit_gb: Fact[int] = Fact[int]()
    room_above_um: Fact[AboveUm] = Fact[AboveUm]()


class CardSocket(SlotBase):
    """What drive, radio and cellular places share. ``form`` is how a card gets in: an M.2 socket
    with a key, a mini card socket (mSATA and mini PCIe share its connector; ``mini_sizes`` are the
    hold-downs there), or not at all, because the thing is soldered. ``listed_cards`` are the ids
    firmware takes where ``card_policy`` is "listed"."""

    form: Literal["m2", "mini", "soldered"] = "m2"
    mini_sizes: Fact[tuple[Literal["half", "full"], ...]] = Fact[tuple[Literal["half", "full"], ...]]()
    key: Fact[str] = Fact[str]()
    width_mm: Fact[int] = Fact[int]()
    standoffs_mm: Fact[tuple[int, ...]] = Fact[tuple[int, ...]]()
    socket_height: Fact[str] = Fact[str]()
    clearance_below_um: Fact[BelowUm] = Fact[BelowUm]()
    clearance_above_um: Fact[AboveUm] = Fact[AboveUm]()
    pcie: Fact[Link | Literal["none"]] = Fact[Link | Literal["none"]]()
    card_policy: Fact[Literal["any", "listed"]] = Fact[Literal["any", "listed"]]()
    listed_cards: Fact[tuple[str, ...]] = Fact[tuple[str, ...]]()


class DriveSlot(CardSocket):
    """``cooled`` names the sides something cools; ``pad`` is the pad that does it from above and
    ``pad_gap_um`` the gap it has to fill."""

    kind: Literal["m2_drive"] = "m2_drive"
    sata: Fact[int | Literal["none"]] = Fact[int | Literal["none"]]()
    bracket_mm: Fact[tuple[int, ...]] = Fact[tuple[int, ...]]()
    pad_below: Fact[Literal["none", "removable", "stays"]] = Fact[Literal["none", "removable", "stays"]]()
    cooled: Fact[Literal["none", "above", "below", "both"]] = Fact[Literal["none", "above", "below", "both"]]()
    pad: Fact[Presence] = Fact[Presence]()
    pad_gap_um: Fact[AboveUm] = Fact[AboveUm]()
    drive_limit_gb: Fact[int] = Fact[int]()


class RadioSlot(CardSocket):
    """``cnvi`` lists the companion radios the host takes, ``host_generation`` is the host radio's own
    generation; a host without one has an empty list."""

    kind: Literal["radio"] = "radio"
    usb: Fact[bool] = Fact[bool]()
    cnvi: Fact[tuple[str, ...]] = Fact[tuple[str, ...]]()
    host_generation: Fact[int] = Fact[int]()
    leads: Fact[int] = Fact[int]()
    plug: Fact[str] = Fact[str]()
    antenna_bands: Fact[tuple[str, ...]] = Fact[tuple[str, ...]]()


class CellularSlot(CardSocket):
    """A place for a cellular card. It may exist without antennas or a SIM tray, because the machine
    was ordered without."""

    kind: Literal["cellular"] = "cellular"
    usb: Fact[bool] = Fact[bool]()
    leads: Fact[int] = Fact[int]()
    plug: Fact[str] = Fact[str]()
    sim_tray: Fact[Presence] = Fact[Presence]()


class BaySlot(SlotBase):
    kind: Literal["bay"] = "bay"
    height_um: Fact[BayUm] = Fact[BayUm]()
    sata: Fact[int] = Fact[int]()
    drive_limit_gb: Fact[int] = Fact[int]()
    caddy: Fact[Presence] = Fact[Presence]()
    ribbon: Fact[Presence] = Fact[Presence]()
    screws: Fact[Presence] = Fact[Presence]()
    spacer: Fact[Presence] = Fact[Presence]()


class BatterySlot(SlotBase):
    kind: Literal["battery"] = "battery"
    accepts: Fact[tuple[str, ...]] = Fact[tuple[str, ...]]()
    voltage_mv: Fact[int] = Fact[int]()
    connector: Fact[str] = Fact[str]()
    held_by: Fact[Literal["screws", "glue"]] = Fact[Literal["screws", "glue"]]()
    firmware_switch: Fact[bool] = Field(Fact[bool](), description="can firmware switch the battery off")


Slot = Annotated[MemorySlot | DriveSlot | RadioSlot | CellularSlot | BaySlot | BatterySlot, Field(discriminator="kind")]


class Soldered(Frozen):
    """Memory on the board: counts towards the ceiling and the channel it sits on."""

    capacity_gb: int
    rated_mts: int
    channel: str
    density_gbit: int | None = None


class MemorySystem(Frozen):
    """What the processor and board do with memory as a whole. ``speed_mts`` is the fastest rate
    the machine runs; ``speed_by_modules`` narrows it for a number of socketed modules."""

    soldered: tuple[Soldered, ...] = ()
    total_limit_gb: Fact[int] = Fact[int]()
    speed_mts: Fact[int] = Fact[int]()
    speed_by_modules: dict[int, Fact[int]] = {}
    density_gbit: Fact[int] = Fact[int]()
    module_types: Fact[tuple[str, ...]] = Fact[tuple[str, ...]]()
    voltage_mv: Fact[int] = Fact[int]()
    applies_profiles: Fact[bool] = Fact[bool]()
    clock_drivers: Fact[bool] = Fact[bool]()
    graphics_share_mb: Fact[int] = Fact[int]()
    firmware_reserve_mb: Fact[int] = Fact[int]()
    graphics_shares: Fact[bool] = Fact[bool]()


class Boot(Frozen):
    """What the firmware can start from. ``storage_mode`` "raid" hides NVMe drives from a plain
    system until it is changed."""

    starts_nvme: Fact[bool] = Fact[bool]()
    storage_mode: Fact[Literal["plain", "raid"]] = Fact[Literal["plain", "raid"]]()
    style: Fact[Literal["uefi", "legacy"]] = Fact[Literal["uefi", "legacy"]]()


class Exclusion(Frozen):
    """``off`` stops working when ``when`` holds such a part. ``filled`` means the room is taken."""

    when: str
    holds: Literal["anything", "sata", "pcie", "fills_bay"]
    off: str
    filled: bool = False
    source: str = "documented"


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
    slot: str | None = Field(None, description="the slot whose part is in the way, for 'part'")
    tool: str = ""
    screws: int = 0
    length_mm: float | None = None
    captive: bool = False
    seconds: int = Field(60, ge=0)
    place: str = ""
    hint: str = ""
    caution: str = ""
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


class Configuration(Frozen):
    """One exact build of the machine. ``differs`` patches slots and ``memory``/``boot`` by id:
    ``{"memory": {...}, "drive-2": {...}}``."""

    id: str
    name: str
    year: int
    processor: str
    cores: int | None = None
    marks: tuple[Mark, ...] = ()
    differs: dict[str, dict[str, Any]] = {}
    graphics: str = ""


class Machine(Frozen):
    """One shell with its configurations, as the machine JSON format holds it."""

    format: Literal["insertum-machine/1"] = "insertum-machine/1"
    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$")
    maker: str
    name: str
    width_mm: float = Field(gt=0)
    depth_mm: float = Field(gt=0)
    opens: Literal["under", "keyboard"] = "under"
    marks: tuple[Mark, ...] = ()
    memory: MemorySystem = MemorySystem()
    boot: Boot = Boot()
    slots: tuple[Slot, ...]
    features: tuple[Feature, ...] = ()
    exclusions: tuple[Exclusion, ...] = ()
    obstacles: tuple[Obstacle, ...] = ()
    power_off: str = Field("", description="the obstacle that isolates the battery")
    boot_slot: str = Field("", description="the slot the system starts from as delivered")
    configurations: tuple[Configuration, ...] = Field(min_length=1)

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
        for ref, known in [
            *((e.when, slots) for e in self.exclusions),
            *((e.off, slots) for e in self.exclusions),
            (self.boot_slot, slots | {""}),
            (self.power_off, obstacles | {""}),
            *((o.slot or "", slots | {""}) for o in self.obstacles),
        ]:
            if ref not in known:
                raise ValueError(f"{ref!r} is named but not there")
        for s in self.slots:
            if isinstance(s, CardSocket):
                lanes = [c.value.lanes for c in s.pcie.claims if isinstance(c.value, Link)]
                for key in (c.value for c in s.key.claims):
                    if lanes and max(lanes) > KEY_LANES.get(key, 4):
                        raise ValueError(f"slot {s.id}: key {key} carries no PCIe ×{max(lanes)}")
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
