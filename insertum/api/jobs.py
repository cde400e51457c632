"""Jobs: the list, one job, its edits, its JSON."""

from typing import Annotated, Literal
from urllib.parse import unquote

from django.http import HttpRequest, HttpResponse
from ninja import Body, File, Header, Query, Router, Status, UploadedFile
from pydantic import Field

from ..core.errors import Code
from ..core.frozen import Frozen
from ..core.job.desk import StationState
from ..core.job.edit import Edit, EditResult
from ..core.job.shape import Job
from ..core.plan.totals import Tally
from ..formats.json_errors import read_json, text_of
from ..shop.services import edit_job, jobs, remove_job, unreadable
from ..shop.services.epoch import epoch
from ..shop.services.history import who_is_at_work
from ..shop.services.table_cache import one_look
from .kept import kept
from .shapes import Problem

router = Router()


#: Edits of one request; a browser sends what waits in parts of this size.
MOST_EDITS = 200


class NewJob(Frozen):
    customer: str = ""
    title: str = ""
    due: str = ""


class JobView(Frozen):
    """A job with where its stations stand, its title, and the safety key's open checks. ``sequence`` rises with every
    change of the job; ``epoch`` is another after the workshop was restored, and sequences of two epochs say nothing of
    each other. ``undo`` is what whoever asked would take back, "" for nothing."""

    job: Job
    sequence: int
    epoch: str
    undo: str
    stations: tuple[StationState, ...]
    machine_title: str
    processor: str
    open_gates: int | None


class EditsView(Frozen):
    results: tuple[EditResult, ...]
    view: JobView


@one_look()
def view_of(changed: Job) -> JobView:
    """The job as it stands now, whoever changed it since: sequence and document are of one moment."""
    job, sequence = jobs.as_it_stands(changed.number)
    desk = jobs.desk_for(job)
    known = desk.machine is not None and bool(job.identify.configuration)
    return JobView(
        job=job,
        sequence=sequence,
        epoch=epoch(),
        undo=edit_job.last_by(job.number, who_is_at_work()),
        stations=desk.stations(),
        machine_title=desk.configured.configuration.name if known else "",
        processor=desk.configured.configuration.processor if known else "",
        open_gates=len(desk.open_gates()) if known and desk.planned else None,
    )


@router.get("/jobs", response=jobs.JobPage)
def list_jobs(
    request: HttpRequest,
    text: Annotated[str, Query(max_length=200)] = "",
    which: Literal["open", "closed", "all"] = "open",
    sort: Literal["due", "number", "customer", "station", "cost"] = "due",
    page: Annotated[int, Query(ge=1, le=100_000)] = 1,
):
    """A page of jobs: searched, sorted, open or closed."""
    return jobs.page_of(text, which, sort, page)


@router.get("/unreadable", response=list[unreadable.Unreadable])
def unreadable_rows(request: HttpRequest):
    """Stored rows no shape of today can hold, each with what stands against it."""
    return list(unreadable.unreadable())


@router.post("/jobs", response={200: JobView, 400: Problem})
def new_job(request: HttpRequest, body: NewJob):
    """Start a job; its number is the next free one."""
    return view_of(jobs.start_job(body.customer, body.title, body.due))


@router.post("/jobs/import", response={200: JobView, 400: Problem})
def import_job(request: HttpRequest, file: File[UploadedFile]):
    """Bring a job in from its file, under its own number; refused where that number is taken."""
    job = read_json(Job, text_of(file.read(), file.name or "job file"), file.name or "job file")
    jobs.import_job(job)
    return view_of(job)


@router.get("/jobs/removed", response=tuple[remove_job.RemovedJob, ...])
def removed_jobs(request: HttpRequest):
    """Jobs that can still be brought back."""
    return remove_job.removed()


@router.post("/jobs/{int:number}/removed", response={204: None, 404: Problem})
def remove(request: HttpRequest, number: int):
    """Take a job off the board; it can be brought back for thirty days."""
    remove_job.remove(number, request.user)
    return Status(204, None)


@router.delete("/jobs/{int:number}/removed", response={204: None, 400: Problem})
def bring_back(request: HttpRequest, number: int):
    """Bring a removed job back, as it was."""
    remove_job.bring_back(number, request.user)
    return Status(204, None)


@router.post("/jobs/{int:number}/erased", response={204: None, 404: Problem})
def erase(request: HttpRequest, number: int):
    """Remove a job with all that was written and photographed for it, for good."""
    remove_job.erase(number, request.user)
    return Status(204, None)


@router.get("/jobs/{int:number}", response={200: JobView, 404: Problem})
def get_job(request: HttpRequest, number: int):
    """The job as it stands, with the sequence edits are based on."""
    return view_of(jobs.job_of(number))


@router.get("/jobs/{int:number}/file", include_in_schema=False)
def job_file(request: HttpRequest, number: int):
    """The job as a file of its own."""
    return HttpResponse(
        jobs.job_of(number).model_dump_json(indent=1),
        content_type="application/json",
        headers={"Content-Disposition": f'attachment; filename="job-{number}.json"'},
    )


@router.post("/jobs/{int:number}/edits", response={200: EditsView, 400: Problem, 401: Problem, 404: Problem})
def make_edits(
    request: HttpRequest,
    number: int,
    edits: Body[Annotated[list[Edit], Field(max_length=MOST_EDITS)]],
    typed_by: Annotated[str, Header(alias="X-Insertum-Person")] = "",
):
    """Who typed them may be named, percent-encoded: where somebody else is signed in by now, none is made."""
    if typed_by and unquote(typed_by) != request.user.get_username():
        return Status(
            401,
            Problem(
                what="somebody else is signed in here now",
                mend="Sign in as who typed it; it waits.",
                code=Code.NOT_ALLOWED,
            ),
        )
    job, results = edit_job.edit_job(number, edits, request.user)
    return EditsView(results=tuple(results), view=view_of(job))


@router.post("/jobs/{int:number}/undo", response={200: JobView, 400: Problem, 404: Problem})
def undo(request: HttpRequest, number: int):
    """Take back this person's last change of the job, where nobody has changed the same place since."""
    job, _ = edit_job.undo(number, request.user)
    return view_of(job)


@router.get("/jobs/{int:number}/tally", response={200: Tally, 400: Problem})
@kept
def tally(request: HttpRequest, number: int, planned: bool = False):
    """Of the build in hand, or (``planned``) of the chosen plan."""
    return jobs.desk_of(number).tally(planned)
