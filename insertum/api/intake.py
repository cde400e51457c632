"""Intake: the choices it offers, what follows from them, and the workshop's triage list."""

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, UploadedFile

from ..core.frozen import Frozen
from ..core.intake.triage import Complaint
from ..formats.json_errors import text_of
from ..shop.services import show_intake, triage
from .download import download
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/intake", response={200: show_intake.IntakeView, 404: Problem})
def intake(request: HttpRequest, number: int):
    """The job's complaint taken up: needs it leads to, free causes, what is still to ask."""
    return show_intake.intake(number)


@router.get("/triage", response=show_intake.TriageView)
def get_triage(request: HttpRequest):
    """The workshop's list of complaints, with what each word leads to."""
    return show_intake.triage_list()


class KeptComplaint(Frozen):
    """``base`` is the complaint as it stood when the typing began; None takes it over whatever stands there now."""

    complaint: Complaint
    base: Complaint | None = None


@router.put("/triage/complaints", response={200: show_intake.TriageView, 400: Problem})
def put_complaint(request: HttpRequest, body: KeptComplaint):
    """Keep one complaint. ``base`` is what the editor saw: somebody else's change meanwhile is refused, not overwritten."""
    triage.save_complaint(body.complaint, body.base)
    return show_intake.triage_list()


@router.delete("/triage/complaints/{slug}", response={200: show_intake.TriageView, 400: Problem})
def delete_complaint(request: HttpRequest, slug: str):
    """Take a complaint off the list; jobs that name it keep their own copy."""
    triage.remove_complaint(slug)
    return show_intake.triage_list()


@router.post("/triage/import", response={200: show_intake.TriageView, 400: Problem})
def import_triage(request: HttpRequest, file: File[UploadedFile]):
    """Replace the whole list by a file of ``insertum-triage``, or nothing of it."""
    name = file.name or "triage file"
    triage.replace_triage(text_of(file.read(), name), name)
    return show_intake.triage_list()


@router.get("/triage/file", include_in_schema=False)
def triage_file(request: HttpRequest) -> HttpResponse:
    """The list of complaints as a file another workshop can bring in."""
    return download(show_intake.triage_list().triage.model_dump_json(indent=1), "triage.json", "application/json")
