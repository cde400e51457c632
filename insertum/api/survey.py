"""Survey: what is in each slot, how that is known, and what a measurement would open."""

from typing import Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, UploadedFile

from ..core.fit.judge import Worth
from ..core.frozen import Frozen
from ..core.survey.acts import NextAct
from ..core.survey.recognise import Recognised
from ..shop.services import claims, show_survey, survey_slot, take_reading
from .download import download
from .jobs import JobView, view_of
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/survey", response={200: show_survey.SurveyView, 400: Problem, 404: Problem})
def survey(request: HttpRequest, number: int):
    """What is known of this machine, slot by slot, with its sources, and what is still open."""
    return show_survey.survey(number)


@router.get("/jobs/{int:number}/survey/worth", response={200: tuple[Worth, ...], 400: Problem, 404: Problem})
def worth(request: HttpRequest, number: int):
    """What settling each thing that is still asked would decide: the whole catalogue is looked through for it, so it comes
    after what is seen first."""
    return show_survey.worth(number)


@router.get("/jobs/{int:number}/survey/acts", response={200: tuple[NextAct, ...], 400: Problem, 404: Problem})
def acts(request: HttpRequest, number: int):
    """What to do next: acts in the order in which they decide most for their minutes, with the questions each answers."""
    return show_survey.acts(number)


class Fitted(Frozen):
    """A slot's content as found: a part number of the catalogue, '' for empty; or how it stands where
    nobody has looked."""

    slot: str
    number: str = ""
    state: Literal["found", "unknown", "as_delivered"] = "found"


@router.post("/jobs/{int:number}/survey/fitted", response={200: JobView, 400: Problem, 404: Problem})
def set_fitted(request: HttpRequest, number: int, body: Fitted):
    """Say what sits in a slot: a part by its number, nothing, or not known."""
    return view_of(survey_slot.set_fitted(number, body.slot, body.number, body.state, request.user))


class Label(Frozen):
    """A label typed or scanned for a slot."""

    slot: str
    text: str


@router.post("/jobs/{int:number}/survey/recognise", response={200: Recognised, 400: Problem, 404: Problem})
def recognise_label(request: HttpRequest, number: int, body: Label):
    """What a label found in a slot is: parts of the catalogue, or a new part with what the label says."""
    return survey_slot.label_in_slot(number, body.slot, body.text)


class LabelledPart(Frozen):
    """A part the label proves, taken into the catalogue and named as fitted in the slot."""

    slot: str
    number: str
    offered: dict[str, Any]


@router.post("/jobs/{int:number}/survey/new-part", response={200: JobView, 400: Problem, 404: Problem})
def new_part(request: HttpRequest, number: int, body: LabelledPart):
    """Keep a part the catalogue lacked as it was offered from its label, and say it sits in the slot."""
    return view_of(survey_slot.take_new_part(number, body.slot, body.number, body.offered, request.user))


class Measured(Frozen):
    """What was typed for ``slot.attribute``, in the unit shown."""

    attribute: str
    typed: str


@router.post("/jobs/{int:number}/survey/measured", response={200: JobView, 400: Problem, 404: Problem})
def set_measured(request: HttpRequest, number: int, body: Measured):
    """Keep a figure measured on this machine, as it was typed with its unit."""
    return view_of(survey_slot.set_measured(number, body.attribute, body.typed, request.user))


class NewClaim(Frozen):
    """ "Not what the library says": recorded against the configuration, for review."""

    attribute: str
    typed: str
    source: str = "measured"
    note: str = ""


@router.post("/jobs/{int:number}/survey/claim", response={200: list[claims.Review], 400: Problem, 404: Problem})
def new_claim(request: HttpRequest, number: int, body: NewClaim):
    """Say something of the machine for the library, with its source; the library's role decides it."""
    return survey_slot.claim(number, body.attribute, body.typed, body.source, body.note, request.user)


class Belief(Frozen):
    """Who is right where reading and library disagree, by the contradiction's id."""

    id: str
    right: Literal["reading", "library"]


@router.post("/jobs/{int:number}/survey/believe", response={200: JobView, 400: Problem, 404: Problem})
def believe(request: HttpRequest, number: int, body: Belief):
    """One act: the library's word counts on this job, or the reading's does and goes to the library for review."""
    return view_of(survey_slot.believe(number, body.id, body.right, request.user))


@router.post("/jobs/{int:number}/reading/{station}", response={200: JobView, 400: Problem, 404: Problem})
def reading(request: HttpRequest, number: int, station: Literal["survey", "prove"], file: File[UploadedFile]):
    """Take a reading (a gathered bundle or what a tool printed), before the work or after it. All of it or nothing."""
    job, _ = take_reading.take_reading(number, file.read(), station, request.user)
    return view_of(job)


@router.get("/jobs/{int:number}/simulated/{station}", include_in_schema=False)
def simulated(
    request: HttpRequest,
    number: int,
    station: Literal["survey", "prove"],
    faults: Query[str] = "",
    busy: Query[bool] = False,
) -> HttpResponse:
    """The simulated laptop's bundle for this job: as it stands, or as planned."""
    text = survey_slot.simulated_bundle(number, station, [f for f in faults.split(",") if f], busy)
    return download(text, f"bundle-{number}-{station}.json", "application/json")
