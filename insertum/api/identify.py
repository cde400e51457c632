"""Identify: candidates, the next question, and what to do when the library does not have it."""

from django.http import HttpRequest
from ninja import Router

from ..core.identify.identify import Identification, identify
from ..core.survey.new_machine import Offered, Started
from ..demo.beside import build_beside
from ..shop.services import jobs, machines, start_machine
from .jobs import JobView, view_of
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/identify", response={200: Identification, 404: Problem})
def identify_job(request: HttpRequest, number: int):
    job = jobs.job_of(number)
    return identify(start_machine.texts_of(job), machines.library(), machines.worked_on(), job.identify.answers)


class StartView(Offered):
    """``simulated`` is whether a simulated laptop of this job stands in for the customer's."""

    simulated: bool


@router.get("/jobs/{int:number}/identify/start", response={200: StartView, 404: Problem})
def offered(request: HttpRequest, number: int):
    """What is known already of a machine the library lacks."""
    known = start_machine.offer(number)
    return StartView(**dict(known), simulated=build_beside(number) is not None)


@router.post("/jobs/{int:number}/identify/start", response={200: JobView, 400: Problem, 404: Problem})
def start(request: HttpRequest, number: int, body: Started):
    """Start this machine here: a draft in the library, and the job goes on with it."""
    return view_of(start_machine.start(number, body, request.user))
