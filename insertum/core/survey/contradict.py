"""Where a reading and the library disagree: shown side by side, and offered as a claim for review."""

from collections.abc import Iterator
from typing import Any

from ..base import Frozen
from ..claim import Limits, Source, limit, settle
from ..identify.match import folded
from ..machine import Configured, DriveSlot
from ..part import AnyPart
from ..reading import Reading
from ..standards import ddr
from ..standards.pcie import Link
from .fill import filled


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
    fastest = limit(_unread(machine.memory.speed_mts), Limits.PROVEN)
    if running and fastest.value and ddr.exact_mts(min(running)) > ddr.exact_mts(fastest.value):
        yield Contradiction(
            says="Memory runs faster than the library says it can.",
            library=f"{fastest.value} MT/s",
            source=str(fastest.source),
            read=f"{min(running)} MT/s",
            attribute="memory.speed_mts",
            value=min(running),
        )
    for slot_id, part in filled(machine, reading, parts).items():
        slot = machine.slot(slot_id)
        drive = next((d for d in reading.drives if part and folded(part.number) in folded(d.model)), None)
        if not isinstance(slot, DriveSlot) or drive is None or drive.port is None:
            continue
        wired = settle(_unread(slot.pcie))
        if isinstance(wired.value, Link) and wired.value != drive.port:
            yield Contradiction(
                says=f"{slot.name}: the port reports another link than the library.",
                library=str(wired.value),
                source=str(wired.source),
                read=str(drive.port),
                attribute=f"{slot_id}.pcie",
                value=drive.port.model_dump(),
            )


def _unread(fact: Any) -> Any:
    """The library's own claims: what this very reading laid over them is no second witness."""
    return type(fact)(tuple(c for c in fact.claims if c.source not in (Source.READ, Source.MEASURED)))


def read_facts(machine: Configured, reading: Reading, parts: list[AnyPart]) -> dict[str, Any]:
    """Facts about this very machine that the reading proves: running speed, and links at the port."""
    facts: dict[str, Any] = {}
    running = [m.running_mts for m in reading.modules if m.size_gb and m.running_mts]
    if running:
        facts["memory.speed_mts"] = min(running)
    for slot_id, part in filled(machine, reading, parts).items():
        drive = next((d for d in reading.drives if part and folded(part.number) in folded(d.model)), None)
        if drive and drive.port and isinstance(machine.slot(slot_id), DriveSlot):
            facts[f"{slot_id}.pcie"] = drive.port.model_dump()
    return facts
