"""Identify: candidates, the next question, and what to do when the library does not have it."""

from django.http import HttpRequest
from ninja import Router

from ..core.identify.library import Identification
from ..core.survey.new_machine import Started
from ..shop.services import identify_job, start_machine
from .jobs import JobView, view_of
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/identify", response={200: Identification, 404: Problem})
def identify(request: HttpRequest, number: int):
    """Candidates for the machine by what was read off it, with what tells them apart, and the marks still to look for."""
    return identify_job.candidates(number)


@router.get("/jobs/{int:number}/identify/start", response={200: identify_job.StartView, 404: Problem})
def offered(request: HttpRequest, number: int):
    """What is known already of a machine the library lacks."""
    return identify_job.offered(number)


@router.post("/jobs/{int:number}/identify/start", response={200: JobView, 400: Problem, 404: Problem})
def start(request: HttpRequest, number: int, body: Started):
    """Start this machine here: a draft in the library, and the job goes on with it."""
    return view_of(start_machine.start(number, body, request.user))
