"""Machines: the library, a configuration's page, the editor, claims for review."""

import json
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Body, File, Query, Router, Status, UploadedFile
from ninja import Form as FormField

from ..core.errors import InputError
from ..core.frozen import Frozen
from ..core.identify.matters import matters
from ..core.intake.purchase import PurchaseAdvice, advice
from ..core.job.slots import MapView, map_view
from ..core.known.known import as_delivered
from ..core.machine.shape import Machine, Mark
from ..core.survey import draft
from ..core.survey.attributes import AttributeForm, places, relevant
from ..core.survey.current_build import build_today, laid_out
from ..formats.bundle import files_of
from ..formats.json_errors import text_of
from ..formats.readings import read_bundle
from ..shop.services import claims, jobs, machines, other_library, parts, sightings
from .download import download
from .shapes import Problem

router = Router()


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


@router.get("/machines", response=MachineList)
def list_machines(request: HttpRequest):
    library = machines.library()
    waiting: dict[str, int] = {}
    for review in claims.reviews():
        key = f"{review.machine}/{review.configuration}"
        waiting[key] = waiting.get(key, 0) + 1
    return MachineList(
        lines=tuple(_line(m, c.id, waiting.get(f"{m.id}/{c.id}", 0)) for m, c in library.every),
        machines={m.id: f"{m.maker} {m.name}" for m in library.machines},
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
        "radio": "radio",
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


# -- the editor (before the addresses that take any two words) -----------------------------------
class Form(Frozen):
    """What the editor offers: attributes by kind of slot, and templates to add slots from."""

    places: dict[str, tuple[AttributeForm, ...]]
    templates: dict[str, str]
    mark_kinds: tuple[str, ...]


@router.get("/machines/form", response=Form)
def editor_form(request: HttpRequest):
    kinds = ("family", "model", "type_code", "product", "board", "processor", "system", "battery")
    return Form(places=places(), templates={k: v[0] for k, v in draft.TEMPLATES.items()}, mark_kinds=kinds)


class Checked(Frozen):
    """A draft as far as it is sound: the map where it is, the first problem where it is not."""

    map: MapView | None
    what: str = ""
    where: str = ""
    mend: str = ""


@router.post("/machines/check", response=Checked)
def check_draft(request: HttpRequest, data: Body[dict[str, Any]], configuration: Query[str] = ""):
    try:
        machine = machines.checked(data, "machine")
        chosen = configuration or machine.configurations[0].id
        return Checked(map=map_view(build_today(machine.configured(chosen)), {}, {}))
    except InputError as error:
        return Checked(map=None, what=error.what, where=error.where, mend=error.mend)


class NewDraft(Frozen):
    """Start from nothing, a copy, or a job's reading; or add a slot to a draft from a template."""

    start: str = "nothing"
    machine: str = ""
    configuration: str = ""
    job: int | None = None
    maker: str = ""
    name: str = ""


@router.post("/machines/draft", response={200: dict[str, Any], 400: Problem, 404: Problem})
def new_draft(request: HttpRequest, body: NewDraft):
    match body.start:
        case "copy":
            machine = machines.machine_file(body.machine)
            if machine is None:
                raise InputError(f"no machine {body.machine!r}", "copy", "Choose one of the library.")
            return draft.copied(machine, body.configuration)
        case "reading":
            reading = jobs.job_of(body.job or 0).survey.reading
            if reading is None:
                raise InputError("this job has no reading yet", f"job {body.job}", "Read a bundle first.")
            return draft.from_reading(reading, parts.catalogue())
        case _:
            return draft.blank_machine(body.maker, body.name)


@router.post("/machines/draft-from-bundle", response={200: dict[str, Any], 400: Problem})
def draft_from_bundle(request: HttpRequest, file: File[UploadedFile]):
    reading = read_bundle(files_of(file.read(), file.name or "bundle"))
    if not reading.understood:
        raise InputError("nothing in it was understood", file.name or "bundle", "; ".join(reading.not_understood))
    return draft.from_reading(reading, parts.catalogue())


@router.post("/machines/slot/{template}", response={200: dict[str, Any], 400: Problem})
def new_slot(request: HttpRequest, template: str, data: Body[dict[str, Any]]):
    """A slot of a template, placed where it overlaps none of the draft's."""
    if template not in draft.TEMPLATES:
        raise InputError(f"no template {template!r}", "slot", f"There are {', '.join(draft.TEMPLATES)}.")
    slots = data.get("slots")
    taken = (
        [s for s in slots if isinstance(s, dict) and isinstance(s.get("place"), dict)]
        if isinstance(slots, list)
        else []
    )
    width = data.get("width_mm")
    return draft.slot_from(template, taken, float(width) if isinstance(width, int | float) else 320)


class Saved(Frozen):
    machine: str
    configuration: str


@router.put("/machines/saved", response={200: Saved, 400: Problem})
def save_machine(
    request: HttpRequest, data: Body[dict[str, Any]], what: Query[str] = "edited", new: Query[bool] = False
):
    if new and machines.machine_of(str(data.get("id"))):
        raise InputError(
            f"{data.get('id')} is in the library already", "machine, id", "Give the new machine another id."
        )
    machine = machines.save_machine(data, request.user, what)
    return Saved(machine=machine.id, configuration=machine.configurations[0].id)


class EditedMachine(Frozen):
    """A machine as somebody has it, and as it was when they began. ``mine`` decides where two changed one thing."""

    machine: dict[str, Any]
    base: dict[str, Any]
    mine: bool = False


@router.put("/machines/edited", response={200: Saved, 400: Problem})
def save_edited(request: HttpRequest, body: EditedMachine):
    """Save an edit beside what others have changed meanwhile."""
    machine = machines.save_edited(body.machine, body.base, body.mine, request.user)
    return Saved(machine=machine.id, configuration=machine.configurations[0].id)


@router.post("/machines/import", response={200: machines.MachineReport, 400: Problem})
def import_machines(request: HttpRequest, file: File[UploadedFile]):
    name = file.name or "machine file"
    return machines.import_machines(text_of(file.read(), name), name, request.user)


@router.get("/machines/library/file", include_in_schema=False)
def library_file(request: HttpRequest) -> HttpResponse:
    text = json.dumps(other_library.library_file(), indent=1, ensure_ascii=False)
    return download(text, "library.json", "application/json")


@router.post("/machines/library/bring", response={200: other_library.LibraryPreview, 400: Problem})
def bring_library(
    request: HttpRequest, file: File[UploadedFile], workshop: FormField[str] = "", take: FormField[bool] = False
):
    """Look another workshop's library through, or take it in beside ours as reports."""
    name = file.name or "library"
    return other_library.bring(text_of(file.read(), name), name, workshop, request.user, take)


class Decision(Frozen):
    accept: bool


@router.post("/claims/{int:claim}", response={200: claims.Review, 400: Problem})
def decide_claim(request: HttpRequest, claim: int, body: Decision):
    return claims.decide(claim, body.accept, request.user)


@router.get("/claims", response=list[claims.Review])
def open_claims(request: HttpRequest):
    return claims.reviews()


@router.get("/machines/{slug}/file", include_in_schema=False)  # before the next: "file" is no configuration
def machine_file(request: HttpRequest, slug: str) -> HttpResponse:
    machine = machines.machine_file(slug)
    if machine is None:
        return HttpResponse(status=404)
    return download(machine.model_dump_json(indent=1), f"{slug}.json", "application/json")


@router.get("/machines/{slug}/data", response={200: dict[str, Any], 404: Problem})
def machine_data(request: HttpRequest, slug: str):
    """The machine as its file holds it, for the editor."""
    machine = machines.machine_file(slug)
    if machine is None:
        return Status(404, Problem(what=f"no machine {slug}", where="machines"))
    return machine.model_dump(mode="json")


@router.get("/machines/{slug}/{configuration}", response={200: ConfigurationView, 400: Problem, 404: Problem})
def get_configuration(request: HttpRequest, slug: str, configuration: str):
    machine = machines.machine_of(slug)
    if machine is None:
        return Status(404, Problem(what=f"no machine {slug}", where="machines"))
    seen = jobs.sightings_for(slug, configuration)
    plain = machine.configured(configuration)
    laid = laid_out(plain, seen)
    view = map_view(build_today(laid, sightings=seen), {}, {})
    conflicts = [f"{s.name}: {f.label.lower()}" for s in view.slots for f in s.facts if f.conflict]
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
