"""Where a reading and the library disagree: shown side by side with both sources, and settled by one act."""

from collections.abc import Iterator, Mapping
from typing import Any, Literal

from ..frozen import Frozen
from ..known.known import as_delivered
from ..machine.card_sockets import DriveSlot
from ..machine.shape import Configured
from ..reading import Reading
from ..spelling import folded
from ..standards import ddr
from .match_devices import Matched

#: Who is believed, by the contradiction's id.
Believed = Literal["reading", "library"]


class Contradiction(Frozen):
    """``attribute`` and ``value`` make the claim where the disagreement is about one fact; they are
    empty where it is about the machine as a whole. ``id`` names it on the job; ``mend`` is what believing the reading
    asks for, where it is more than a claim."""

    id: str
    says: str
    library: str
    source: str
    read: str
    attribute: str = ""
    value: Any = None
    mend: str = ""


_ANOTHER = "Choose the configuration again at Identify, or correct the machine in the library."


def contradictions(matched: Matched) -> tuple[Contradiction, ...]:
    """What the reading says that the library's description of this configuration does not."""
    return tuple(_all(matched))


def _all(matched: Matched) -> Iterator[Contradiction]:
    machine, reading = matched.machine, matched.reading
    c = machine.configuration
    short = c.processor.split(" ", 1)[-1]
    if reading.processor and folded(short) not in folded(reading.processor):
        yield Contradiction(
            id="processor",
            says="Another processor than this configuration has: choose again at Identify.",
            library=c.processor,
            source="library",
            read=reading.processor,
            mend=_ANOTHER,
        )
    yield from _memory(machine, reading)
    for slot_id, drive in matched.drives.items():
        slot = machine.slot(slot_id)
        if not isinstance(slot, DriveSlot) or drive.port is None:
            continue
        known = as_delivered(machine)
        for name, figure in (("pcie_lanes", drive.port.lanes), ("pcie_generation", drive.port.generation)):
            told = known.value(slot_id, name)
            # A port says what it could at most: fewer than the library tells contradict it.
            if told is not None and told > figure:
                words = known.words(slot_id, name)
                yield Contradiction(
                    id=f"{slot_id}.{name}",
                    says=f"{slot.name}: the port reports fewer than the library: {words.label}.",
                    library=str(told),
                    source=next((str(c.source) for c in getattr(slot, name).claims), "library"),
                    read=str(figure),
                    attribute=f"{slot_id}.{name}",
                    value=figure,
                )


def _memory(machine: Configured, reading: Reading) -> Iterator[Contradiction]:
    soldered = sum(s.capacity_gb for s in machine.memory.soldered)
    chips = [m for m in reading.modules if m.soldered]
    # What may be chips or a module, or is of a size nobody told, is a question and no contradiction.
    sure = reading.memory_complete and all(m.soldered is not None for m in reading.modules)
    if sure and all(m.size_mb is not None for m in chips):
        found = sum(m.size_mb or 0 for m in chips)
        if found != soldered * 1024:
            yield Contradiction(
                id="soldered",
                says="Another amount of soldered memory.",
                library=f"{soldered} GB",
                source="library",
                read=f"{found / 1024:g} GB",
                mend=_ANOTHER,
            )
    sockets = sum(1 for s in machine.slots if s.kind == "memory")
    listed = (reading.devices or 0) - len(chips)
    if reading.devices and sure and listed != sockets:
        yield Contradiction(
            id="sockets",
            says="The firmware lists another number of memory sockets. A second pad on the board is no socket: look.",
            library=str(sockets),
            source="library",
            read=str(listed),
            mend="Look under the cover; correct the machine in the library.",
        )
    known = as_delivered(machine)
    running, fastest = running_mts(reading), known.limit("memory", "speed_mts")
    if running and fastest.value and ddr.exact_mts(running) > ddr.exact_mts(fastest.value):
        yield Contradiction(
            id="memory.speed_mts",
            says="Memory runs faster than the library says it can.",
            library=f"{fastest.value} MT/s",
            source=str(fastest.source),
            read=f"{running} MT/s",
            attribute="memory.speed_mts",
            value=running,
        )


def running_mts(reading: Reading) -> int | None:
    """What memory runs at: the slowest of what is shown; None where a figure may be the clock or the rate."""
    shown = [m for m in reading.modules if m.present and m.running_mts]
    rates = [ddr.truly_running(m.running_mts or 0, m.rated_mts, m.generation) for m in shown]
    known = [r for r in rates if r is not None]
    return min(known) if known and len(known) == len(rates) else None


def read_facts(reading: Reading, believed: Mapping[str, Believed] | None = None) -> dict[str, Any]:
    """Facts about this very machine that the reading proves: the running speed. Links are bounds and come by
    :attr:`insertum.core.survey.match_devices.Matched.signs`. What the technician does not believe is left out."""
    running = running_mts(reading)
    facts = {"memory.speed_mts": running} if running else {}
    return {place: value for place, value in facts.items() if (believed or {}).get(place) != "library"}
