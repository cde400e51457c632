"""What a dearer part adds here, and what the difference costs: waste is named before it is bought."""

from collections.abc import Sequence

from ..fit.build import Build
from ..fit.judge import Cell
from ..frozen import Frozen
from ..kinds.all import kind_of
from ..machine.part import Fittable, MemoryModule
from ..machine.radio_parts import Radio
from ..money import money
from ..standards import ddr


class Waste(Frozen):
    """A part against the cheapest one that does as much in the same slot, else the cheapest that serves the same end.
    ``adds`` is what the dearer one gives here; 0 is waste."""

    than: str
    than_name: str
    more_minor: int
    adds: float
    unit: str
    says: str


def waste(
    build: Build, slot_id: str, part: Fittable, cells: Sequence[Cell], parts: dict[str, Fittable], currency: str = "EUR"
) -> Waste | None:
    """The cheapest usable part that does as much for less; where none does, the cheapest of the same end, and what this
    one adds to it. None where nothing cheaper serves. ``cells`` are the matrix; accessories count into both prices."""
    own = next((c for c in cells if c.slot == slot_id and c.part == part.number), None)
    if own is None or own.verdict is None or not own.verdict.usable or part.price_minor is None:
        return None
    does = kind_of(part).does(build, slot_id, part)
    end, figure, unit = does.end, does.figure, does.unit
    if not unit or isinstance(part, Radio):
        return None
    price = part.price_minor + own.extra_minor
    found: tuple[bool, int, float, Fittable] | None = None
    for c in cells:
        other = parts.get(c.part)
        if c.slot != slot_id or other is None or other is part or not c.verdict.usable or other.price_minor is None:
            continue
        cost = other.price_minor + c.extra_minor
        if cost >= price:
            continue
        there = kind_of(other).does(build, slot_id, other)
        # A figure that is not known is no ground to call the dearer part waste.
        if there.end != end or not there.figure:
            continue
        less = round(figure - there.figure, 3) > 0
        if found is None or (less, cost) < found[:2]:
            found = (less, cost, there.figure, other)
    if found is None:
        return None
    less, cost, there_figure, other = found
    more, adds, name = price - cost, max(round(figure - there_figure, 3), 0.0), other.name
    paid = money(more, currency)
    if less:
        says = f"{paid} more than {name} buys {adds:g} {unit} here."
    else:
        says = f"{paid} more than {name}, which {_AS_MUCH.get(unit, 'does as much')} here."
        if isinstance(part, MemoryModule) and not ddr.same_grade(part.grade_mts, round(figure)):
            says = f"This {part.grade_mts} module settles at {figure:g}. {says}"
    return Waste(than=other.number, than_name=name, more_minor=more, adds=adds, unit=unit, says=says)


#: What a cheaper part does as well, by the unit it is measured in.
_AS_MUCH = {"MT/s": "runs as fast", "MB/s": "reads as fast", "Wh": "holds as much", "GB": "holds as much"}


def per_gb(part: Fittable) -> float | None:
    """Price per GB in minor units; None for what has no capacity or no price."""
    capacity, price = getattr(part, "capacity_gb", None), part.price_minor
    return price / capacity if capacity and price is not None else None
