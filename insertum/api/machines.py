"""Machines: the library, a configuration's page, the editor, claims for review."""

import json
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Body, File, Query, Router, Status, UploadedFile
from ninja import Form as FormField

from ..core.errors import Code, InputError
from ..core.frozen import Frozen
from ..formats.json_errors import text_of
from ..shop.services import claims, draft_machine, machines, other_library, show_machines
from .download import download
from .shapes import Problem

router = Router()


@router.get("/machines", response=show_machines.MachineList)
def list_machines(request: HttpRequest):
    """Every machine of the library with its configurations, and what is known of each in short."""
    return show_machines.library()


# -- the editor (before the addresses that take any two words) -----------------------------------
@router.get("/machines/form", response=show_machines.Form)
def editor_form(request: HttpRequest):
    """What the machine editor asks: attributes by slot kind with their units, domains and sources."""
    return show_machines.editor_form()


@router.post("/machines/check", response=show_machines.Checked)
def check_draft(request: HttpRequest, data: Body[dict[str, Any]], configuration: Query[str] = ""):
    """A description that is being edited, checked whole and laid out as far as it goes. Nothing is kept."""
    return show_machines.checked(data, configuration)


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
    """A description to begin with: a copy, a job's reading, or nearly empty. Nothing is kept."""
    match body.start:
        case "copy":
            return draft_machine.from_copy(body.machine, body.configuration)
        case "reading":
            return draft_machine.from_job(body.job or 0)
        case _:
            return draft_machine.from_nothing(body.maker, body.name)


@router.post("/machines/draft-from-bundle", response={200: dict[str, Any], 400: Problem})
def draft_from_bundle(request: HttpRequest, file: File[UploadedFile]):
    """A description as far as a gathered bundle tells it. Nothing is kept."""
    return draft_machine.from_bundle(file.read(), file.name or "bundle")


@router.post("/machines/slot/{template}", response={200: dict[str, Any], 400: Problem})
def new_slot(request: HttpRequest, template: str, data: Body[dict[str, Any]]):
    """A slot of a template, placed where it overlaps none of the draft's."""
    return draft_machine.slot_of(template, data)


class Saved(Frozen):
    machine: str
    configuration: str


@router.put("/machines/saved", response={200: Saved, 400: Problem})
def save_machine(
    request: HttpRequest, data: Body[dict[str, Any]], what: Query[str] = "edited", new: Query[bool] = False
):
    """Keep a machine whole. ``what`` goes into its history; ``new`` refuses an id that is there already."""
    if new and machines.machine_of(str(data.get("id"))):
        raise InputError(
            f"{data.get('id')} is in the library already",
            "machine, id",
            "Give the new machine another id.",
            code=Code.TAKEN,
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
    """Bring in machines from a file: all of them or none, with what is new, changed and the same."""
    name = file.name or "machine file"
    return machines.import_machines(text_of(file.read(), name), name, request.user)


@router.get("/machines/library/file", include_in_schema=False)
def library_file(request: HttpRequest) -> HttpResponse:
    """The whole library as one file."""
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
    """Accept or decline what a job claims of a machine; the role that may is the library's."""
    return claims.decide(claim, body.accept, request.user)


@router.get("/claims", response=list[claims.Review])
def open_claims(request: HttpRequest):
    """Claims that wait for somebody to decide."""
    return claims.reviews()


@router.get("/machines/{slug}/file", include_in_schema=False)  # before the next: "file" is no configuration
def machine_file(request: HttpRequest, slug: str) -> HttpResponse:
    """One machine as a file."""
    machine = machines.machine_file(slug)
    if machine is None:
        return HttpResponse(status=404)
    return download(machine.model_dump_json(indent=1), f"{slug}.json", "application/json")


@router.get("/machines/{slug}/data", response={200: dict[str, Any], 404: Problem})
def machine_data(request: HttpRequest, slug: str):
    """The machine as its file holds it, for the editor."""
    machine = machines.machine_file(slug)
    if machine is None:
        return Status(404, Problem(what=f"no machine {slug}", where="machines", code=Code.MISSING))
    return machine.model_dump(mode="json")


@router.get(
    "/machines/{slug}/{configuration}", response={200: show_machines.ConfigurationView, 400: Problem, 404: Problem}
)
def get_configuration(request: HttpRequest, slug: str, configuration: str):
    """One configuration's page: its map, facts with their sources, ceilings and what was tried in it."""
    machine = machines.machine_of(slug)
    if machine is None:
        return Status(404, Problem(what=f"no machine {slug}", where="machines", code=Code.MISSING))
    return show_machines.page(machine, configuration)
