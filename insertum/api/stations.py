"""Plan to Hand over: what these stations of a job show, and the actions that are more than an edit."""

import io

import segno
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from ..core.bench.scan import Scanned
from ..core.frozen import Frozen
from ..core.prove.typed import TypedScreen
from ..core.record.shape import Fate, Measurement
from ..shop.services import bench_job, show_stations, workshop_record
from .jobs import JobView, view_of
from .kept import kept
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/prepare", response={200: show_stations.PrepareView, 400: Problem, 404: Problem})
@kept
def prepare(request: HttpRequest, number: int):
    """Gates before the bench: what must hold, what is open, and which of them block."""
    return show_stations.prepare(number)


@router.get("/jobs/{int:number}/bench", response={200: show_stations.BenchView, 400: Problem, 404: Problem})
@kept
def bench(request: HttpRequest, number: int):
    """The bench sheet: steps in order with cautions, screws, what lies open and what is done."""
    return show_stations.bench(number)


class ScannedLabel(Frozen):
    text: str = Field(max_length=400)


@router.post("/jobs/{int:number}/bench/scan", response={200: Scanned, 400: Problem, 404: Problem})
def scan(request: HttpRequest, number: int, body: ScannedLabel):
    """Is what was scanned the planned part? Nothing is ticked by it."""
    return show_stations.scan(number, body.text)


@router.get("/jobs/{int:number}/prove", response={200: show_stations.ProveView, 400: Problem, 404: Problem})
@kept
def prove(request: HttpRequest, number: int):
    """What the machine must say of itself now, against its readings, and the checks that close the job."""
    return show_stations.prove(number)


@router.get("/jobs/{int:number}/hand-over", response={200: show_stations.RecordView, 400: Problem, 404: Problem})
@kept
def hand_over(request: HttpRequest, number: int):
    """The record: what was found, done and left, with every figure before and after."""
    return show_stations.hand_over(number)


@router.get("/jobs/{int:number}/record", response={200: workshop_record.WorkshopRecord, 404: Problem})
def workshops_record(request: HttpRequest, number: int):
    """Everything the workshop keeps of a job: the document, its events, every change in its order."""
    return workshop_record.workshop_record(number)


class Why(Frozen):
    why: str = Field("", max_length=600)


@router.post("/jobs/{int:number}/stop", response={200: JobView, 400: Problem, 404: Problem})
def stop(request: HttpRequest, number: int, body: Why):
    """Stop the job where it stands, or take the stop back where no reason is given for one."""
    return view_of(bench_job.stop(number, body.why, request.user))


@router.delete("/jobs/{int:number}/stop", response={200: JobView, 400: Problem, 404: Problem})
def take_stop_back(request: HttpRequest, number: int):
    """Take back a stop at the bench, which goes on where it stood."""
    return view_of(bench_job.take_stop_back(number, request.user))


class Became(Frozen):
    slot: str = Field(max_length=80)
    fate: Fate
    note: str = Field("", max_length=600)


@router.post("/jobs/{int:number}/gone", response={200: JobView, 400: Problem, 404: Problem})
def became(request: HttpRequest, number: int, body: Became):
    """What became of what was taken out of a slot."""
    return view_of(bench_job.became(number, body.slot, body.fate, body.note, request.user))


@router.post("/jobs/{int:number}/measured", response={200: JobView, 400: Problem, 404: Problem})
def measure(request: HttpRequest, number: int, body: Measurement):
    """Keep one measurement of the job: what, when, its figure in the unit of that measurement."""
    return view_of(bench_job.measured(number, body, request.user))


@router.post("/jobs/{int:number}/prove/typed", response={200: JobView, 400: Problem, 404: Problem})
def typed(request: HttpRequest, number: int, body: TypedScreen):
    """The firmware's screen, typed, as a reading."""
    return view_of(bench_job.typed_screen(number, body, request.user))


@router.get("/jobs/{int:number}/qr.svg", include_in_schema=False)
def qr(request: HttpRequest, number: int):
    """A code that leads back to the job, for what is printed."""
    code = segno.make(request.build_absolute_uri(f"/jobs/{number}"), error="m")
    out = io.BytesIO()
    code.save(out, kind="svg", scale=3, dark="#15211C", light="#ffffff")
    return HttpResponse(out.getvalue(), content_type="image/svg+xml")
