"""What a dearer part adds here, and what the difference costs: waste is named before it is bought."""

from collections.abc import Sequence

from ..base import Frozen, money
from ..machine.part import BayDrive, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..machine.shape import BaySlot, DriveSlot, MemorySlot
from ..standards import ddr
from .build import Build
from .judge import Cell
from .measured import rate_mb_s, running_mts


class Waste(Frozen):
    """A part against the cheapest one that serves the same end in the same slot. ``adds`` is what the
    dearer one gives here; 0 is waste."""

    than: str
    than_name: str
    more_minor: int
    adds: float
    unit: str
    says: str


def does(build: Build, slot_id: str, part: Fittable) -> tuple[str, float, str]:
    """What a part does in the slot: a group of parts that serve one end, a figure, its unit."""
    slot = build.machine.slot(slot_id)
    match slot, part:
        case MemorySlot(), MemoryModule():
            return f"{part.capacity_gb} GB", float(running_mts(build.with_part(slot_id, part)) or 0), "MT/s"
        case ((DriveSlot() | BaySlot()), (M2Drive() | BayDrive())):
            return f"{part.capacity_gb} GB", float(rate_mb_s(build.with_part(slot_id, part), slot_id) or 0), "MB/s"
        case _, Radio():
            return "radio", float((part.streams or 0) * (part.channel_mhz or 0)), "MHz × streams"
        case _, Pack():
            return "pack", (part.full_mwh or part.design_mwh) / 1000, "Wh"
        case _:
            return part.kind, 0.0, ""


def waste(
    build: Build, slot_id: str, part: Fittable, cells: Sequence[Cell], parts: dict[str, Fittable]
) -> Waste | None:
    """The cheapest usable part of the same end that is cheaper, and what this one adds to it. None
    where nothing cheaper serves. ``cells`` are the matrix; accessories count into both prices."""
    own = next((c for c in cells if c.slot == slot_id and c.part == part.number), None)
    if own is None or own.verdict is None or not own.verdict.usable or part.price_minor is None:
        return None
    end, figure, unit = does(build, slot_id, part)
    if not unit or isinstance(part, Radio):
        return None
    price = part.price_minor + own.extra_minor
    cheaper: tuple[int, float, Fittable] | None = None
    for c in cells:
        other = parts.get(c.part)
        if c.slot != slot_id or other is None or other is part or not c.verdict.usable or other.price_minor is None:
            continue
        cost = other.price_minor + c.extra_minor
        if cost >= price or (cheaper and cost >= cheaper[0]):
            continue
        other_end, other_figure, _ = does(build, slot_id, other)
        # A figure that is not known is no ground to call the dearer part waste.
        if other_end == end and other_figure:
            cheaper = (cost, other_figure, other)
    if cheaper is None:
        return None
    more, adds = price - cheaper[0], round(figure - cheaper[1], 3)
    name = cheaper[2].name
    if adds <= 0:
        says = f"The dearer one adds nothing here over {name}: {money(more)} for nothing."
        if isinstance(part, MemoryModule) and not ddr.same_grade(part.grade_mts, round(figure)):
            says = f"This {part.grade_mts} module settles at {figure:g}: nothing more than {name} for {money(more)}."
    else:
        says = f"{money(more)} more than {name} buys {adds:g} {unit} here."
    return Waste(than=cheaper[2].number, than_name=name, more_minor=more, adds=max(adds, 0.0), unit=unit, says=says)


def adds(build: Build, slot_id: str, part: Fittable) -> tuple[float, str]:
    """What the part adds to what sits in the slot now: GB for memory and drives, Wh for packs, MB/s of
    channel for radios. 0 where it adds nothing."""
    now = build.now(slot_id)
    match part:
        case MemoryModule():
            return float(part.capacity_gb - (now.capacity_gb if isinstance(now, MemoryModule) else 0)), "GB"
        case M2Drive() | BayDrive():
            return float(part.capacity_gb - (now.capacity_gb if isinstance(now, M2Drive | BayDrive) else 0)), "GB"
        case Pack():
            held = (now.full_mwh or now.design_mwh) if isinstance(now, Pack) else 0
            return ((part.full_mwh or part.design_mwh) - held) / 1000, "Wh"
        case Radio():
            before = (now.streams or 0) * (now.channel_mhz or 0) if isinstance(now, Radio) else 0
            return float((part.streams or 0) * (part.channel_mhz or 0) - before), "MHz × streams"
        case _:
            return 0.0, ""


def per_gb(part: Fittable) -> float | None:
    """Price per GB in minor units; None for what has no capacity or no price."""
    capacity, price = getattr(part, "capacity_gb", None), part.price_minor
    return price / capacity if capacity and price is not None else None
