"""Slots as the map and the survey table show them: geometry, what is fitted, how each fact is known."""

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel

from ..base import Frozen
from ..claim import Claim, Fact, limit, settle
from ..fit.build import Build
from ..machine import BatterySlot, BaySlot, Feature, M2Socket, MemorySlot, Place, Slot
from ..part import BayDrive, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..standards import ddr
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


class MapView(Frozen):
    """The machine to scale, from the side it opens."""

    title: str
    width_mm: float
    depth_mm: float
    opens: str
    slots: tuple[SlotView, ...]
    features: tuple[Feature, ...]
    board: tuple[FactView, ...]


#: Label, unit, scale from stored to shown, and how to measure, by attribute.
_FACTS: dict[str, tuple[str, str, float, str]] = {
    "generation": (
        "Generation",
        "",
        1,
        "Read PC3, PC4 or PC5 off the fitted module, or count contacts: 204, 260, 262.",
    ),
    "channel": ("Channel", "", 1, ""),
    "limit_gb": ("Takes at most", "GB", 1, "Service manual for this exact processor."),
    "room_above_um": ("Room above", "mm", 1000, "Modelling clay on the module, close the cover, measure what is left."),
    "key": ("Key", "", 1, "Look at the socket: the key sits at pins 8-15 A, 12-19 B, 24-31 E, 59-66 M."),
    "width_mm": ("Width", "mm", 1, "Rule."),
    "standoffs_mm": ("Standoffs at", "mm", 1, "Posts behind the socket, measured from its contacts."),
    "socket_height": ("Socket height", "", 1, "Calliper: board to the top of the socket."),
    "clearance_below_um": ("Room below", "mm", 1000, "Feeler gauges between the board and a card in the socket."),
    "clearance_above_um": ("Room above", "mm", 1000, "Modelling clay on the card, close shield or cover, measure."),
    "pcie": ("PCIe", "", 1, "Service manual, or read the fitted drive's link."),
    "sata": ("SATA", "", 1, "Service manual, or read the fitted drive's link."),
    "bracket_mm": ("Brackets there for", "mm", 1, "Look at the fitted card and in the owner's box."),
    "pad_below": ("Pad below", "", 1, "Lift the fitted card, or a torch under the shield."),
    "cooled": ("Cooled", "", 1, "Look for a pad or shield that touches the drive."),
    "drive_limit_gb": ("Largest drive", "GB", 1, "Service manual."),
    "usb": ("USB", "", 1, "See if the fitted card's Bluetooth shows up."),
    "cnvi": ("Companion radios", "", 1, "The processor's radio list."),
    "leads": ("Antenna leads", "", 1, "Count them at the fitted card."),
    "plug": ("Lead plugs", "", 1, "About 3 mm across is MHF1, about 2 mm MHF4."),
    "antenna_bands": ("Antennas made for", "GHz", 1, "The print on the antenna."),
    "card_policy": ("Card policy", "", 1, "Manual or sightings; 'any' or 'listed'."),
    "listed_cards": ("Listed cards", "", 1, "The maker's list of FRUs."),
    "height_um": ("Bay height", "mm", 1000, "From the bay floor to the cover's ribs."),
    "caddy": ("Caddy", "", 1, "Look in the machine and in the owner's box."),
    "ribbon": ("Ribbon", "", 1, "Look in the machine and in the owner's box."),
    "screws": ("Screws", "", 1, "Look in the machine and in the owner's box."),
    "spacer": ("Spacer", "", 1, "Look in the machine and in the owner's box."),
    "accepts": ("Packs", "", 1, "The number on the fitted pack."),
    "voltage_mv": ("Voltage", "V", 1000, "The fitted pack's label."),
    "connector": ("Plug", "", 1, "Look at the fitted pack's plug."),
    "held_by": ("Held by", "", 1, "Screws or glue: look."),
    "total_limit_gb": ("Memory ceiling", "GB", 1, "Service manual for this exact processor."),
    "speed_mts": ("Memory runs at", "MT/s", 1, "Firmware screen or the running system."),
    "density_gbit": ("Densest chips", "Gbit", 1, "Listed modules, or sightings."),
    "applies_profiles": ("Applies profiles", "", 1, "Firmware setup."),
    "graphics_share_mb": ("Graphics share", "MB", 1, "Firmware setup."),
}
_OPTIONS: dict[str, tuple[str, ...]] = {
    "pad_below": ("none", "removable", "stays"),
    "cooled": ("yes", "no"),
    "usb": ("yes", "no"),
    "plug": ("MHF1", "MHF4"),
    "card_policy": ("any", "listed"),
    "caddy": ("present", "missing"),
    "ribbon": ("present", "missing"),
    "screws": ("present", "missing"),
    "spacer": ("present", "missing"),
    "held_by": ("screws", "glue"),
    "key": ("A", "B", "E", "M"),
    "applies_profiles": ("yes", "no"),
}
_LISTS = {"standoffs_mm", "bracket_mm", "antenna_bands", "listed_cards", "cnvi", "accepts"}


def shown(value: Any, scale: float = 1) -> str:
    """A claim's value as a person reads it."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple | list):
        return ", ".join(map(str, value)) or "none"
    if isinstance(value, int | float):
        return f"{value / scale:g}"
    return str(value)


#: Attributes that are limits: the stance picks them.
_LIMITS = {"limit_gb", "drive_limit_gb", "total_limit_gb", "speed_mts", "density_gbit"}


def _known(name: str, fact: Fact[Any], build: Build) -> tuple[Any, str, bool]:
    """Value, how it is known, and whether claims conflict."""
    if name in _LIMITS:
        picked = limit(fact, build.stance, build.firmware)
        return picked.value, str(picked.source or "unknown"), bool(picked.contradictions)
    settled = settle(fact)
    return settled.value, str(settled.source or settled.why), settled.conflict


def facts_of(model: BaseModel, place: str, build: Build) -> tuple[FactView, ...]:
    """Every fact of a slot or of the memory system, in declared order; limits by the build's stance."""
    found = []
    for name in type(model).model_fields:
        fact = getattr(model, name)
        if not isinstance(fact, Fact) or name not in _FACTS:
            continue
        label, unit, scale, how = _FACTS[name]
        value, why, conflict = _known(name, fact, build)
        kind = (
            "list"
            if name in _LISTS
            else "choice"
            if name in _OPTIONS
            else "number"
            if unit or scale != 1 or name in ("leads", "generation")
            else "text"
        )
        found.append(
            FactView(
                attribute=f"{place}.{name}",
                label=label,
                value="" if value is None else shown(value, scale),
                why=why,
                known=value is not None,
                conflict=conflict,
                claims=tuple(_claim(c, scale) for c in fact.claims),
                kind=kind,
                unit=unit,
                options=_OPTIONS.get(name, ()),
                measure=how,
            )
        )
    return tuple(found)


def _claim(claim: Claim[Any], scale: float) -> ClaimView:
    times = f", worked {claim.count}×, failed {claim.failures}×" if claim.count or claim.failures else ""
    firmware = f", firmware {claim.firmware}" if claim.firmware else ""
    return ClaimView(
        value=shown(claim.value, scale), source=claim.source, note=f"{claim.note}{times}{firmware}".strip(", ")
    )


def measured_value(attribute: str, typed: str) -> Any:
    """What was typed for an attribute, in the stored unit: '1.4' mm is 1400 µm. Raises ValueError."""
    name = attribute.rpartition(".")[2]
    _, unit, scale, _ = _FACTS[name]
    text = typed.strip()
    if name in _OPTIONS and _OPTIONS[name] == ("yes", "no"):
        return {"yes": True, "no": False}[text.lower()]
    if name in _LISTS:
        items = [t for t in text.replace(",", " ").split() if t != "none"]
        return [int(t) for t in items] if name in ("standoffs_mm", "bracket_mm") else items
    if unit or scale != 1 or name in ("leads", "generation"):
        return round(float(text.replace(",", ".")) * scale)
    return text


class Size(Frozen):
    w_mm: float
    h_mm: float


def size_of(part: Fittable) -> Size | None:
    """Length and width of a part in mm; None when unknown, or (a pack) as large as its slot."""
    size: tuple[float, float] | None = None
    match part:
        case MemoryModule():
            size = ddr.SODIMM_MM.get(part.generation)
        case M2Drive() | Radio() if part.length_mm and part.width_mm:
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


def detail(part: Fittable) -> str:
    """What a part is, in a few words."""
    match part:
        case MemoryModule():
            chips = f", {part.ranks}Rx{part.chip_width}" if part.ranks else ""
            return f"{part.capacity_gb} GB DDR{part.generation}-{part.grade_mts}{chips}"
        case M2Drive():
            return f"{part.capacity_gb} GB {part.link or 'SATA'}"
        case BayDrive():
            return f"{part.capacity_gb} GB SATA"
        case Radio():
            return f"802.11{part.standard} {part.streams}×{part.streams}"
        case Pack():
            full = f", {part.full_mwh / 1000:g} Wh today" if part.full_mwh else ""
            return f"{part.design_mwh / 1000:g} Wh{full}"


def summary(slot: Slot, facts: Sequence[FactView]) -> str:
    """The slot in half a line, for the map's label."""
    by_name = {f.attribute.rpartition(".")[2]: f for f in facts}

    def said(name: str, text: str = "{}", unknown: str = "") -> str:
        return text.format(by_name[name].value) if by_name[name].known else unknown

    match slot:
        case MemorySlot():
            return f"SO-DIMM DDR{said('generation', '{}', '?')}"
        case BaySlot():
            return said("height_um", "{} mm SATA", "height unknown")
        case BatterySlot():
            return said("voltage_mv", "{} V")
        case M2Socket():
            wired = [said("pcie", "{}", "PCIe unknown")] if said("pcie") != "none" else []
            if "sata" in by_name and by_name["sata"].value not in ("none", ""):
                wired.append("SATA")
            short = [] if by_name["clearance_below_um"].known or by_name["socket_height"].known else ["height unknown"]
            return ", ".join([f"key {said('key', '{}', '?')}", *wired, *short])


def map_view(build: Build, verdicts: dict[str, Verdict | None], how: dict[str, str]) -> MapView:
    """The machine with what is fitted and what the build lays over it. ``how`` tells how each
    slot's content is known."""
    views = []
    changed = set(build.changed())
    for slot in build.machine.slots:
        today, now = build.fitted.get(slot.id), build.now(slot.id)
        planned = now if slot.id in changed else None
        facts = facts_of(slot, slot.id, build)
        key = settle(slot.key).value if isinstance(slot, M2Socket) else None
        standoffs = settle(slot.standoffs_mm).value if isinstance(slot, M2Socket) else None
        leads = settle(slot.leads).value if slot.kind == "radio" else None
        views.append(
            SlotView(
                id=slot.id,
                name=slot.name,
                kind=slot.kind,
                place=slot.place,
                summary=summary(slot, facts),
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
