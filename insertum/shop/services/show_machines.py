"""The library of machines as it is looked at: the list, one configuration's page, a draft's map."""

from typing import Any

from ...core.errors import InputError
from ...core.frozen import Frozen
from ...core.identify.matters import matters
from ...core.intake.purchase import PurchaseAdvice, advice
from ...core.job.slots import MapView, map_view
from ...core.known.known import as_delivered
from ...core.machine.attribute import lowered
from ...core.machine.opening import Mark
from ...core.machine.shape import Machine
from ...core.survey import draft
from ...core.survey.attributes import AttributeForm, places, relevant
from ...core.survey.current_build import build_today, laid_out
from . import claims, jobs, machines, sightings


class ConfigurationView(Frozen):
    """One configuration with every attribute, its claims and sources. ``conflicts`` are attributes whose
    claims contradict one another."""

    machine: str
    configuration: str
    title: str
    year: int | None
    processor: str
    graphics: str
    marks: tuple[Mark, ...]
    draft: bool
    obstacles: tuple["ObstacleView", ...]
    matters: dict[str, str]
    map: MapView
    conflicts: tuple[str, ...]
    sightings: tuple[sightings.SightingLine, ...]
    reviews: tuple[claims.Review, ...]
    changes: tuple[machines.MachineChange, ...]
    advice: tuple[PurchaseAdvice, ...]


class ObstacleView(Frozen):
    name: str
    what: str
    after: tuple[str, ...]
    tool: str
    screws: int
    seconds: int
    source: str


class MachineLine(Frozen):
    machine: str
    configuration: str
    title: str
    year: int | None
    processor: str
    slots: str
    unknown: int
    facts: int
    open_claims: int
    draft: bool


class MachineList(Frozen):
    lines: tuple[MachineLine, ...]
    machines: dict[str, str]


ConfigurationView.model_rebuild()


def library() -> MachineList:
    """A line for every configuration."""
    every = machines.library()
    waiting: dict[str, int] = {}
    for review in claims.reviews():
        key = f"{review.machine}/{review.configuration}"
        waiting[key] = waiting.get(key, 0) + 1
    return MachineList(
        lines=tuple(_line(m, c.id, waiting.get(f"{m.id}/{c.id}", 0)) for m, c in every.every),
        machines={m.id: f"{m.maker} {m.name}" for m in every.machines},
    )


def _line(machine: Machine, configuration: str, waiting: int) -> MachineLine:
    laid = machine.configured(configuration)
    known = as_delivered(laid)
    facts = [getattr(s, name) for s in laid.slots for name in relevant(known, s.id, s)]
    kinds: dict[str, int] = {}
    for s in laid.slots:
        kinds[s.kind] = kinds.get(s.kind, 0) + 1
    words = {
        "memory": "memory",
        "m2_drive": "drive",
        "radio": "Wi-Fi card",
        "cellular": "cellular",
        "bay": "bay",
        "battery": "battery",
    }
    return MachineLine(
        machine=machine.id,
        configuration=configuration,
        title=laid.title,
        year=laid.configuration.year,
        processor=laid.configuration.processor,
        slots=", ".join(f"{n} {words[k]}" if n > 1 else words[k] for k, n in kinds.items()),
        unknown=sum(not f for f in facts),
        facts=len(facts),
        open_claims=waiting,
        draft=machine.draft,
    )


def page(machine: Machine, configuration: str) -> ConfigurationView:
    """One configuration with everything that is said of it."""
    slug = machine.id
    seen = jobs.sightings_for(slug, configuration)
    plain = machine.configured(configuration)
    laid = laid_out(plain, seen)
    view = map_view(build_today(laid, sightings=seen), {}, {})
    conflicts = [f"{s.name}: {lowered(f.label)}" for s in view.slots for f in s.facts if f.conflict]
    return ConfigurationView(
        machine=slug,
        configuration=configuration,
        title=laid.title,
        year=laid.configuration.year,
        processor=laid.configuration.processor,
        graphics=laid.configuration.graphics,
        marks=(*machine.marks, *laid.configuration.marks),
        draft=machine.draft,
        obstacles=tuple(_obstacles(machine)),
        matters=matters(laid),
        map=view,
        conflicts=(*conflicts, *(f.label for f in view.board if f.conflict)),
        sightings=tuple(sightings.lines(slug, configuration)),
        reviews=tuple(r for r in claims.reviews(slug) if r.configuration == configuration),
        changes=machines.changes_of(slug),
        advice=advice(plain),
    )


def _obstacles(machine: Machine) -> list[ObstacleView]:
    names = {o.id: o.name for o in machine.obstacles}
    return [
        ObstacleView(
            name=o.name,
            what=o.what,
            after=tuple(names[a] + (f" ({o.after_sources[a]})" if a in o.after_sources else "") for a in o.after),
            tool=o.tool,
            screws=o.screws,
            seconds=o.seconds,
            source=o.source,
        )
        for o in machine.obstacles
    ]


class Form(Frozen):
    """What the editor offers: attributes by kind of slot, and templates to add slots from."""

    places: dict[str, tuple[AttributeForm, ...]]
    templates: dict[str, str]
    mark_kinds: tuple[str, ...]


def editor_form() -> Form:
    """What the editor offers."""
    kinds = ("family", "model", "type_code", "product", "board", "processor", "system", "battery")
    return Form(places=places(), templates={k: v[0] for k, v in draft.TEMPLATES.items()}, mark_kinds=kinds)


class Checked(Frozen):
    """A draft as far as it is sound: the map where it is, the first problem where it is not."""

    map: MapView | None
    what: str = ""
    where: str = ""
    mend: str = ""


def checked(data: dict[str, Any], configuration: str) -> Checked:
    """A draft's map, or the first thing that is wrong with it."""
    try:
        machine = machines.checked(data, "machine")
        chosen = configuration or machine.configurations[0].id
        return Checked(map=map_view(build_today(machine.configured(chosen)), {}, {}))
    except InputError as error:
        return Checked(map=None, what=error.what, where=error.where, mend=error.mend)
