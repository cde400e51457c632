"""Keep a part somebody typed."""

from typing import Any

from ...core.errors import Code, InputError
from ...core.three_way_merge import both_kept, torn
from ...formats.parts import cells_of_part, part_from, part_of_cells
from . import parts


def save_typed(cells: dict[str, str], base: dict[str, str] | None, new: bool) -> parts.ImportReport:
    """A part by its columns; what it is offered for stays. ``base`` is what stood there when the typing began; None takes
    it over whatever stands there now. Raises :class:`InputError` where somebody else changed the same column, or where a
    new part's number is taken."""
    mine = cells
    stands = parts.part_of(cells.get("number", "").strip())
    if stands is not None and base is not None:
        theirs = cells_of_part(stands)
        cells, both = both_kept(base, cells, theirs, "")
        if both:
            raise torn("this part", {n: (theirs.get(n, ""), mine.get(n, "")) for n in both})
    part = part_of_cells({k: v for k, v in cells.items() if v.strip()})
    before = parts.part_of(part.number)
    if new and before:
        raise InputError(f"{part.number} is in the catalogue already", "part number", "Open it there.", code=Code.TAKEN)
    if before:
        part = part.model_copy(update={"offers": before.offers, "note": before.note})
    parts.save_part(part)
    return parts.ImportReport(
        added=int(not before), changed=int(bool(before) and part != before), same=int(part == before)
    )


def save_new(record: dict[str, Any]) -> parts.ImportReport:
    """A part as the parts format holds it. Raises :class:`InputError` where its number is taken."""
    part = part_from(record)
    if parts.part_of(part.number):
        raise InputError(
            f"{part.number} is in the catalogue already",
            "part number",
            "Give it another, or import over it.",
            code=Code.TAKEN,
        )
    parts.save_part(part)
    return parts.ImportReport(added=1, changed=0, same=0)
