"""Slots as the map and the survey table show them: geometry, what is fitted, how each fact is known."""

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel, Field

from ..fit.build import Build
from ..frozen import Frozen
from ..kinds.all import kind_of
from ..kinds.base import Size
from ..known.limits import CAPS
from ..machine.attribute import Attribute, shown
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CardSocket, CellularSlot, DriveSlot, RadioSlot
from ..machine.claim import Claim
from ..machine.memory_system import MemorySlot
from ..machine.opening import Feature
from ..machine.part import AnyPart, Fittable, Pack
from ..machine.shape import Slot
from ..machine.slot_base import Place
from ..standards import pad
from ..survey.attributes import relevant
from ..verdict import Verdict


class ClaimView(Frozen):
    value: str
    source: str
    note: str


class FactView(Frozen):
    """One attribute of a slot. ``value`` is '' when unknown, a range or choice where ``known`` is false and
    something is known of it; ``steps`` lead from claims and deductions to it; ``measure`` tells how to settle it and
    ``unit``/``kind`` what to type."""

    attribute: str
    label: str
    value: str
    why: str
    known: bool
    conflict: bool
    claims: tuple[ClaimView, ...]
    steps: tuple[str, ...]
    kind: str
    unit: str
    options: tuple[str, ...] = ()
    tool: str = ""
    measure: str = ""
    where: str = Field("manual", description="where one looks: software, firmware, label, seller, manual, cover, board")
    picks: tuple[str, ...] = Field((), description="the real values as they are typed, where they are few")


class Outline(Frozen):
    """A part's true size in mm, laid over its slot."""

    w_mm: float
    h_mm: float
    name: str
    verdict: Verdict | None


class SlotView(Frozen):
    id: str
    name: str
    kind: str
    place: Place
    summary: str
    form: str
    key: str
    standoffs_mm: tuple[int, ...]
    leads: int
    fitted_number: str
    fitted_name: str
    fitted_how: str
    fitted_outline: Outline | None
    planned_name: str
    planned_outline: Outline | None
    facts: tuple[FactView, ...]
    notes: tuple[str, ...] = ()


class MapView(Frozen):
    """The machine to scale, from the side it opens."""

    title: str
    width_mm: float
    depth_mm: float
    opens: str
    slots: tuple[SlotView, ...]
    features: tuple[Feature, ...]
    board: tuple[FactView, ...]
    starts: tuple[FactView, ...]


def facts_of(model: BaseModel, place: str, build: Build) -> tuple[FactView, ...]:
    """Every fact of a slot or of the memory system, in declared order; limits by the build's school. What is known
    in part is said in part ("1.35 mm or more"), with the steps that lead there."""
    return tuple(_fact(model, place, n, words, build) for n, words in relevant(build.known, place, model).items())


def _fact(model: BaseModel, place: str, name: str, words: Attribute, build: Build) -> FactView:
    known = build.known
    told = known.explain(place, name)
    if name in CAPS:
        limit = known.limit(place, name)
        is_known, why = limit.value is not None, str(limit.source or "unknown")
        if name == "speed_mts" and known.read_mts > (limit.value or limit.at_least):
            is_known, why = True, "read"
    elif name == "density_gbit":
        is_known, why = bool(known.densities.sure), str(known.school)
    else:
        is_known, why = known.value(place, name) is not None, _source_of(told.steps)
    value = told.value.removesuffix(words.unit).strip() if is_known and words.unit else told.value
    return FactView(
        attribute=f"{place}.{name}",
        label=words.label,
        value="" if told.value == "unknown" else value,
        why=why,
        known=is_known,
        conflict=told.conflict,
        claims=tuple(_claim(c, words.scale) for c in getattr(model, name).claims),
        steps=told.steps,
        kind=words.kind,
        unit=words.unit,
        options=("yes", "no") if words.kind == "flag" else words.options,
        tool=words.tool,
        measure=words.how,
        where=words.where,
        picks=_picks(words),
    )


#: More real values than this are no choice for a thumb.
_MOST_PICKS = 10


def _picks(words: Attribute) -> tuple[str, ...]:
    if words.kind == "flag":
        return ("yes", "no")
    values = tuple(shown(v, words.scale) for v in words.values)
    return values if len(values) <= _MOST_PICKS else ()


def _source_of(steps: tuple[str, ...]) -> str:
    """Who says so, in one word: the first step that is a claim, or that it follows."""
    first = steps[0] if steps else "unknown"
    head = first.partition(":")[0]
    return (
        head
        if head in ("measured", "read", "proven", "documented", "controller")
        else "unknown"
        if "nobody" in first
        else "follows"
    )


def _claim(claim: Claim[Any], scale: float) -> ClaimView:
    times = f", worked {claim.count}×, failed {claim.failures}×" if claim.count or claim.failures else ""
    firmware = f", firmware {claim.firmware}" if claim.firmware else ""
    return ClaimView(
        value=shown(claim.value, scale), source=claim.source, note=f"{claim.note}{times}{firmware}".strip(", ")
    )


def size_of(part: Fittable) -> Size | None:
    """Length and width of a part in mm; None when unknown, or (a pack) as large as its slot."""
    return kind_of(part).size(part)


def outline(slot: Slot, part: Fittable, verdict: Verdict | None) -> Outline | None:
    """A part's size as it lies in the slot; None when its size is unknown."""
    size = Size(w_mm=slot.place.w_mm, h_mm=slot.place.h_mm) if isinstance(part, Pack) else size_of(part)
    return Outline(w_mm=size.w_mm, h_mm=size.h_mm, name=part.name, verdict=verdict) if size else None


def detail(part: AnyPart) -> str:
    """What a part is, in a few words."""
    return kind_of(part).detail(part)


def summary(slot: Slot, facts: Sequence[FactView]) -> str:
    """The slot in half a line, for the map's label."""
    by_name = {f.attribute.rpartition(".")[2]: f for f in facts}

    def said(name: str, text: str = "{}", unknown: str = "") -> str:
        fact = by_name.get(name)
        return text.format(fact.value) if fact and fact.known else unknown

    if not by_name:
        return "soldered"
    match slot:
        case MemorySlot():
            return f"SO-DIMM DDR{said('generation', '{}', '?')}"
        case BaySlot():
            return said("height_um", "{} mm SATA", "height unknown")
        case BatterySlot():
            return said("voltage_mv", "{} V")
        case CardSocket() if slot.form == "soldered":
            return "soldered"
        case CardSocket():
            lanes, generation = said("pcie_lanes"), said("pcie_generation")
            wired = [f"PCIe {generation or '?'} ×{lanes}" if lanes else "PCIe unknown"] if lanes != "0" else []
            if said("sata", unknown="0") != "0":
                wired.append("SATA")
            short = [] if said("clearance_below_um") or said("socket_height") else ["height unknown"]
            if isinstance(slot, CellularSlot):
                wired = [n for n, s in (("USB", slot.usb), ("PCIe", slot.pcie_lanes)) if any(c.value for c in s.claims)]
            if slot.form == "mini":
                return ", ".join([f"mini card, {said('mini_sizes', '{}', 'size unknown')}", *wired])
            return ", ".join([f"key {said('key', '{}', '?')}", *wired, *short])


def _notes(slot: Slot, build: Build) -> tuple[str, ...]:
    """What follows from a measurement of the slot alone: the pad for a measured gap."""
    gap = build.known.value(slot.id, "pad_gap_um") if isinstance(slot, DriveSlot) else None
    if gap is None:
        return ()
    size = pad.pad_for(gap)
    if size is None:
        return (f"No pad on sale is squeezed by 10 to 30 % in a {gap / 1000:g} mm gap. Do not stack pads.",)
    return (
        f"A {gap / 1000:g} mm gap takes a {size / 1000:g} mm pad: squeezed by {float(pad.compression(gap, size)):.0%}.",
    )


def map_view(build: Build, verdicts: dict[str, Verdict | None], how: dict[str, str]) -> MapView:
    """The machine with what is fitted and what the build lays over it. ``how`` tells how each
    slot's content is known."""
    views = []
    changed = set(build.changed())
    for slot in build.machine.slots:
        today, now = build.fitted.get(slot.id), build.now(slot.id)
        planned = now if slot.id in changed else None
        facts = facts_of(slot, slot.id, build)
        card = isinstance(slot, CardSocket)
        key = build.known.value(slot.id, "key") if card else None
        standoffs = build.known.value(slot.id, "standoffs_mm") if card else None
        leads = build.known.value(slot.id, "leads") if isinstance(slot, RadioSlot | CellularSlot) else None
        views.append(
            SlotView(
                id=slot.id,
                name=slot.name,
                kind=slot.kind,
                place=slot.place,
                summary=summary(slot, facts),
                form=slot.form if isinstance(slot, CardSocket) else "",
                key=key or "",
                standoffs_mm=standoffs or (),
                leads=leads or 0,
                fitted_number=today.number if today else "",
                fitted_name=f"{today.name}" if today else ("empty" if build.looked_into(slot.id) else "unknown"),
                fitted_how=how.get(slot.id, "as delivered" if build.looked_into(slot.id) else "nobody has looked"),
                fitted_outline=outline(slot, today, None) if today else None,
                planned_name=planned.name if planned else ("taken out" if slot.id in changed else ""),
                planned_outline=outline(slot, planned, verdicts.get(slot.id)) if planned else None,
                facts=facts,
                notes=_notes(slot, build),
            )
        )
    m = build.machine.machine
    return MapView(
        title=build.machine.title,
        width_mm=m.width_mm,
        depth_mm=m.depth_mm,
        opens=m.opens,
        slots=tuple(views),
        features=m.features,
        board=facts_of(build.machine.memory, "memory", build),
        starts=facts_of(build.machine.boot, "boot", build),
    )


def soldered_lines(build: Build) -> tuple[str, ...]:
    """What is on the board, a line each: nothing is bought for it."""
    chips = build.machine.memory.soldered
    lines = []
    if chips:
        size = " and ".join(f"{c.capacity_gb} GB" for c in chips)
        sockets = any(isinstance(s, MemorySlot) for s in build.machine.slots)
        lines.append(f"Memory: {size} on the board" + ("." if sockets else ", and no socket is known."))
    for slot in build.machine.slots:
        if isinstance(slot, CardSocket) and slot.form == "soldered":
            part = build.now(slot.id)
            lines.append(f"{slot.name}: {part.name if part else 'soldered'}, on the board.")
    return tuple(lines)
