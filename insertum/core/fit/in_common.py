"""What all parts of a kind wait for in a slot: said once above them, not beside each."""

from collections.abc import Iterable, Mapping

from ..frozen import Frozen
from ..known.known import Known
from ..machine.attribute import lowered
from ..machine.part import Fittable
from ..verdict import Verdict
from .judge import Cell
from .questions import words_of

#: Fewer parts than this have nothing in common worth a line of its own.
LEAST = 3


class InCommon(Frozen):
    """What each part of a ``kind`` that is *measure first* in a ``slot`` waits for: places, and the words for them."""

    kind: str
    slot: str
    asks: tuple[str, ...]
    labels: tuple[str, ...]


def in_common(known: Known, cells: Iterable[Cell], parts: Mapping[str, Fittable]) -> tuple[InCommon, ...]:
    """By kind and slot what at least :data:`LEAST` parts wait for, all of them."""
    waiting: dict[tuple[str, str], list[Cell]] = {}
    for c in cells:
        if c.verdict is Verdict.MEASURE_FIRST and c.asks:
            waiting.setdefault((parts[c.part].kind, c.slot), []).append(c)
    found = []
    for (kind, slot), alike in waiting.items():
        shared = [a for a in alike[0].asks if all(a in c.asks for c in alike)]
        if len(alike) >= LEAST and shared:
            labels = (label_of(known, parts[alike[0].part], a) for a in shared)
            found.append(InCommon(kind=kind, slot=slot, asks=tuple(shared), labels=tuple(dict.fromkeys(labels))))
    return tuple(found)


def besides(known: Known, cell: Cell, part: Fittable, common: InCommon) -> str:
    """What a part waits for besides what is said above it; '' where that is all, or where it waits for nothing."""
    if cell.verdict is not Verdict.MEASURE_FIRST:
        return ""
    left = [a for a in cell.asks if a not in common.asks]
    if not left:
        return ""
    more = f" and {len(left) - 1} more" if len(left) > 1 else ""
    return f"{label_of(known, part, left[0])} unknown{more}"


def label_of(known: Known, part: Fittable, place: str) -> str:
    """A question's words inside a sentence."""
    where, _, name = place.partition(".")
    return lowered(words_of(known, part, (where, name))[0])
