"""Sightings: recorded by hand or at Prove."""

from django.http import HttpRequest
from ninja import Query, Router

from ..core.frozen import Frozen
from ..core.sighting import Cause, Outcome, Sighting
from ..shop.services import people, sightings
from .roles import NotAllowed
from .shapes import Problem

router = Router()


@router.get("/sightings", response=list[sightings.SightingLine])
def list_sightings(
    request: HttpRequest, machine: Query[str] = "", configuration: Query[str] = "", part: Query[str] = ""
):
    """What was tried, and whether it worked: of a machine, a configuration, a part, or all."""
    return sightings.lines(machine, configuration, part)


@router.post("/sightings", response={200: list[sightings.SightingLine], 400: Problem})
def record(request: HttpRequest, body: Sighting):
    """Keep a sighting that was typed in the library."""
    seen = sightings.record_sighting(body, request.user)
    return sightings.lines(seen.machine, seen.configuration)


@router.delete("/sightings/{int:id}", response={200: int})
def forget(request: HttpRequest, id: int):
    """Everybody takes back what they recorded themselves; what others did, an owner."""
    if people.role_of(request.user) != "owner" and sightings.is_anothers(id, request.user):
        raise NotAllowed("owner")
    return sightings.forget(id, request.user)


class JobSighting(Frozen):
    slot: str
    outcome: Outcome
    after: str = ""
    note: str = ""
    cause: Cause = ""


@router.post("/jobs/{int:number}/sightings", response={200: list[sightings.SightingLine], 400: Problem, 404: Problem})
def record_at_prove(request: HttpRequest, number: int, body: JobSighting):
    """Keep what this job's machine showed of a part that was put in."""
    seen = sightings.sight_job(number, body.slot, body.outcome, body.after, body.note, request.user, body.cause)
    return sightings.lines(seen.machine, seen.configuration)
