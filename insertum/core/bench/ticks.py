"""What a ticked step was, kept beside the tick: the sheet may be another one later."""

from typing import Protocol

from ..fit.build import Build
from ..record.shape import Tick
from .sheet import Sheet


class Bench(Protocol):
    """What a desk tells of its bench."""

    @property
    def must_plan(self) -> Build: ...

    def sheet(self) -> Sheet: ...


def tick_of(desk: Bench, step: str, at: str, who: str) -> Tick:
    """The tick of a step of the sheet as it stands. A part that goes in is the planned one, one that comes out the one
    that was there; what nobody had looked into has no name."""
    found = next((s for s in desk.sheet().steps if s.id == step), None)
    if found is None:
        return Tick(at=at, who=who)
    build = desk.must_plan
    slot = build.machine.slot(found.slot) if found.slot in {s.id for s in build.machine.slots} else None
    part = None
    if slot is not None and step.startswith(("in:", "out:")):
        part = build.now(slot.id) if step.startswith("in:") else build.fitted.get(slot.id)
    return Tick(
        at=at, who=who, text=found.text, slot=found.slot, slot_name=slot.name if slot else "",
        number=part.number if part else "", part=part.name if part else "",
    )  # fmt: skip
