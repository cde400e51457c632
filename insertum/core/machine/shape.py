"""Machines: configurations, slots, what is soldered, and what is in the way of each slot.

A machine file holds one shell with its configurations. What differs between configurations is
said once, as ``differs``; :meth:`Machine.configured` lays it over the shared description.
Geometry is in mm from the top left corner of the side drawn. Each attribute is declared once, on its
field, with its words (:mod:`.attribute`). Older files are brought up by :mod:`.upgrade`.
"""

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator

from ..errors import InputError
from ..frozen import Frozen
from ..standards.m2 import KEY_LANES
from .bay_and_battery import BatterySlot, BaySlot
from .boot import Boot
from .card_sockets import CardSocket, CellularSlot, DriveSlot, RadioSlot
from .memory_system import MemorySlot, MemorySystem
from .opening import Assembly, Exclusion, Feature, Mark, Obstacle
from .plausible import look_over
from .slot_base import MOST_MM
from .upgrade import machine_upgraded

Slot = Annotated[MemorySlot | DriveSlot | RadioSlot | CellularSlot | BaySlot | BatterySlot, Field(discriminator="kind")]


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
