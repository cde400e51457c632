"""Where a reading and the library disagree: shown side by side, and offered as a claim for review."""

from collections.abc import Iterator
from typing import Any

from ..base import Frozen
from ..identify.match import folded
from ..known.known import as_delivered
from ..machine.part import AnyPart
from ..machine.shape import Configured, DriveSlot
from ..reading import Reading
from ..standards import ddr
from .fill import drive_in


class Contradiction(Frozen):
    """``attribute`` and ``value`` make the claim where the disagreement is about one fact; they are
    empty where it is about the machine as a whole."""

    says: str
    library: str
    source: str
    read: str
    attribute: str = ""
    value: Any = None


def contradictions(machine: Configured, reading: Reading, parts: list[AnyPart]) -> tuple[Contradiction, ...]:
    """What the reading says that the library's description of this configuration does not."""
    return tuple(_all(machine, reading, parts))


def _all(machine: Configured, reading: Reading, parts: list[AnyPart]) -> Iterator[Contradiction]:
    c = machine.configuration
    short = c.processor.split(" ", 1)[-1]
    if reading.processor and folded(short) not in folded(reading.processor):
        yield Contradiction(
            says="Another processor than this configuration has: choose again at Identify.",
            library=c.processor,
            source="library",
            read=reading.processor,
        )
    soldered = sum(s.capacity_gb for s in machine.memory.soldered)
    found = sum(m.size_gb for m in reading.modules if m.soldered)
    if reading.modules and found != soldered:
        yield Contradiction(
            says="Another amount of soldered memory.", library=f"{soldered} GB", source="library", read=f"{found} GB"
        )
    sockets = sum(1 for s in machine.slots if s.kind == "memory")
    listed = (reading.devices or 0) - sum(1 for m in reading.modules if m.soldered)
    if reading.devices and listed != sockets:
        yield Contradiction(
            says="The firmware lists another number of memory sockets. A second pad on the board is no socket: look.",
            library=str(sockets),
            source="library",
            read=str(listed),
        )
    running = [m.running_mts for m in reading.modules if m.size_gb and m.running_mts]
    known = as_delivered(machine)
    fastest = known.limit("memory", "speed_mts")
    if running and fastest.value and ddr.exact_mts(min(running)) > ddr.exact_mts(fastest.value):
        yield Contradiction(
            says="Memory runs faster than the library says it can.",
            library=f"{fastest.value} MT/s",
            source=str(fastest.source),
            read=f"{min(running)} MT/s",
            attribute="memory.speed_mts",
            value=min(running),
        )
    for slot_id, drive in drive_in(machine, reading, parts).items():
        slot = machine.slot(slot_id)
        if not isinstance(slot, DriveSlot) or drive.port is None:
            continue
        for name, figure in (("pcie_lanes", drive.port.lanes), ("pcie_generation", drive.port.generation)):
            told = known.value(slot_id, name)
            # A port says what it could at most: fewer than the library tells contradict it.
            if told is not None and told > figure:
                words = known.words(slot_id, name)
                yield Contradiction(
                    says=f"{slot.name}: the port reports fewer than the library: {words.label}.",
                    library=str(told),
                    source=next((str(c.source) for c in getattr(slot, name).claims), "library"),
                    read=str(figure),
                    attribute=f"{slot_id}.{name}",
                    value=figure,
                )


def read_facts(machine: Configured, reading: Reading, parts: list[AnyPart]) -> dict[str, Any]:
    """Facts about this very machine that the reading proves: the running speed. Links are bounds and come by
    :func:`insertum.core.survey.fill.signs`."""
    running = [m.running_mts for m in reading.modules if m.size_gb and m.running_mts]
    return {"memory.speed_mts": min(running)} if running else {}
