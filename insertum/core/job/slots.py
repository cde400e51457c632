"""Slots as the map and the survey table show them: geometry, what is fitted, how each fact is known."""

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel

from ..base import Frozen
from ..claim import Claim, Fact, limit, settle
from ..fit.build import Build
from ..fit.card import MINI_MM
from ..machine import (
    BatterySlot,
    BaySlot,
    CardSocket,
    CellularSlot,
    DriveSlot,
    Feature,
    MemorySlot,
    Place,
    RadioSlot,
    Slot,
)
from ..part import Accessory, BayDrive, Cellular, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..standards import ddr, pad
from ..survey.attributes import ATTRIBUTES, relevant, shown
from ..verdict import Verdict


class ClaimView(Frozen):
    value: str
    source: str
    note: str


class FactView(Frozen):
    """One attribute of a slot. ``value`` is '' when unknown; ``measure`` tells how to settle it and
    ``unit``/``kind`` what to type."""

    attribute: str
    label: str
    value: str
    why: str
    known: bool
    conflict: bool
    claims: tuple[ClaimView, ...]
    kind: str
    unit: str
    options: tuple[str, ...] = ()
    tool: str = ""
    measure: str = ""


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


def _known(name: str, fact: Fact[Any], build: Build) -> tuple[Any, str, bool]:
    """Value, how it is known, and whether claims conflict."""
    if ATTRIBUTES[name].is_limit:
        picked = limit(fact, build.stance, build.firmware)
        return picked.value, str(picked.source or "unknown"), bool(picked.contradictions)
    settled = settle(fact)
    return settled.value, str(settled.source or settled.why), settled.conflict


def facts_of(model: BaseModel, place: str, build: Build) -> tuple[FactView, ...]:
    """Every fact of a slot or of the memory system, in declared order; limits by the build's stance."""
    found = []
    for known in relevant(model):
        fact = getattr(model, known.name)
        value, why, conflict = _known(known.name, fact, build)
        found.append(
            FactView(
                attribute=f"{place}.{known.name}",
                label=known.label,
                value="" if value is None else shown(value, known.scale),
                why=why,
                known=value is not None,
                conflict=conflict,
                claims=tuple(_claim(c, known.scale) for c in fact.claims),
                kind=known.kind,
                unit=known.unit,
                options=("yes", "no") if known.kind == "flag" else known.options,
                tool=known.tool,
                measure=known.how,
            )
        )
    return tuple(found)


def _claim(claim: Claim[Any], scale: float) -> ClaimView:
    times = f", worked {claim.count}×, failed {claim.failures}×" if claim.count or claim.failures else ""
    firmware = f", firmware {claim.firmware}" if claim.firmware else ""
    return ClaimView(
        value=shown(claim.value, scale), source=claim.source, note=f"{claim.note}{times}{firmware}".strip(", ")
    )


class Size(Frozen):
    w_mm: float
    h_mm: float


def size_of(part: Fittable) -> Size | None:
    """Length and width of a part in mm; None when unknown, or (a pack) as large as its slot."""
    size: tuple[float, float] | None = None
    match part:
        case MemoryModule():
            size = ddr.SODIMM_MM.get(part.generation)
        case M2Drive() | Radio() | Cellular() if part.form == "mini" and part.mini_size:
            size = (MINI_MM[part.mini_size], 30.0)
        case M2Drive() | Radio() | Cellular() if part.length_mm and part.width_mm:
            size = (part.length_mm, part.width_mm)
        case BayDrive():
            size = (100.0, 69.85)
        case _:
            pass
    return Size(w_mm=size[0], h_mm=size[1]) if size else None


def outline(slot: Slot, part: Fittable, verdict: Verdict | None) -> Outline | None:
    """A part's size as it lies in the slot; None when its size is unknown."""
    size = Size(w_mm=slot.place.w_mm, h_mm=slot.place.h_mm) if isinstance(part, Pack) else size_of(part)
    return Outline(w_mm=size.w_mm, h_mm=size.h_mm, name=part.name, verdict=verdict) if size else None


def detail(part: Fittable | Accessory) -> str:
    """What a part is, in a few words."""
    match part:
        case MemoryModule():
            chips = f", {part.ranks}Rx{part.chip_width}" if part.ranks else ""
            return f"{part.capacity_gb} GB DDR{part.generation}-{part.grade_mts}{chips}"
        case M2Drive():
            bus = part.link or {"emmc": "eMMC", "sata": "mSATA" if part.form == "mini" else "SATA"}.get(
                part.interface or "", "interface unknown"
            )
            return f"{part.capacity_gb} GB {bus}"
        case BayDrive():
            return f"{part.capacity_gb} GB SATA"
        case Radio():
            standard = f"802.11{part.standard}" if part.standard else "standard unknown"
            return f"{standard} {part.streams}×{part.streams}" if part.streams else standard
        case Cellular():
            return f"{part.generation or 'cellular'}, {part.bus or 'bus unknown'}"
        case Pack():
            full = f", {part.full_mwh / 1000:g} Wh today" if part.full_mwh else ""
            return f"{part.design_mwh / 1000:g} Wh{full}"
        case Accessory():
            return part.supplies.replace("_", " ")


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
            wired = [said("pcie", "{}", "PCIe unknown")] if said("pcie") != "none" else []
            if "sata" in by_name and by_name["sata"].value not in ("none", ""):
                wired.append("SATA")
            short = [] if said("clearance_below_um") or said("socket_height") else ["height unknown"]
            if isinstance(slot, CellularSlot):
                wired = [
                    n
                    for n, s in (("USB", slot.usb), ("PCIe", slot.pcie))
                    if any(c.value not in (False, "none") for c in s.claims)
                ]
            if slot.form == "mini":
                return ", ".join([f"mini card, {said('mini_sizes', '{}', 'size unknown')}", *wired])
            return ", ".join([f"key {said('key', '{}', '?')}", *wired, *short])


def _notes(slot: Slot) -> tuple[str, ...]:
    """What follows from a measurement of the slot alone: the pad for a measured gap."""
    gap = settle(slot.pad_gap_um).value if isinstance(slot, DriveSlot) else None
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
        key = settle(slot.key).value if isinstance(slot, CardSocket) else None
        standoffs = settle(slot.standoffs_mm).value if isinstance(slot, CardSocket) else None
        leads = settle(slot.leads).value if isinstance(slot, RadioSlot | CellularSlot) else None
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
                fitted_name=f"{today.name}" if today else ("empty" if build.known(slot.id) else "unknown"),
                fitted_how=how.get(slot.id, "as delivered"),
                fitted_outline=outline(slot, today, None) if today else None,
                planned_name=planned.name if planned else ("taken out" if slot.id in changed else ""),
                planned_outline=outline(slot, planned, verdicts.get(slot.id)) if planned else None,
                facts=facts,
                notes=_notes(slot),
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
    )
