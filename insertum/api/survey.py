"""Survey: what is in each slot, how that is known, and what a measurement would open."""

from typing import Any, Literal

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, UploadedFile

from ..core.errors import InputError
from ..core.fit.judge import Worth
from ..core.frozen import Frozen
from ..core.job.desk import Desk
from ..core.job.slots import MapView, map_view, soldered_lines
from ..core.kinds.all import kind_for
from ..core.known.known import Usual
from ..core.machine.claim import Limits
from ..core.prepare.gates import AsUsual
from ..core.survey.attributes import typed_value
from ..core.survey.contradict import Contradiction
from ..core.survey.recognise import Recognised, recognise
from ..demo import laptop
from ..demo.beside import build_beside, words_beside
from ..formats.parts import part_from
from ..shop.services import claims, edit_job, jobs, parts, parts_found, take_reading
from ..shop.services.answer_cache import answered_from
from .download import download
from .jobs import JobView, view_of
from .shapes import Choice, Problem

router = Router()
#: So many parts are offered by name as found in a slot; of a larger catalogue the label names one sooner than a list.
MOST_NAMED = 80


class ReadView(Frozen):
    """The reading in short: which files were understood and which not, what it proved and what it left open."""

    understood: tuple[str, ...]
    not_understood: tuple[str, ...]
    proved: tuple[str, ...]
    left_open: tuple[str, ...]
    weak: tuple[str, ...]


class SurveyView(Frozen):
    map: MapView
    choices: dict[str, tuple[Choice, ...]]
    more_by_label: tuple[str, ...]
    limits: Limits
    observed: dict[str, tuple[str, ...]]
    since: dict[str, jobs.Since]
    contradictions: tuple[Contradiction, ...]
    reading: ReadView | None
    claims: tuple[claims.Review, ...]
    usual: tuple[Usual, ...]
    as_usual: AsUsual | None
    believed: dict[str, Literal["reading", "library"]]
    words_beside: str
    simulated: bool
    soldered: tuple[str, ...]
    machine: str


@router.get("/jobs/{int:number}/survey", response={200: SurveyView, 400: Problem, 404: Problem})
def survey(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    by_kind: dict[str, list[Choice]] = {}
    for p in desk.parts:
        named = by_kind.setdefault(p.kind, [])
        if len(named) <= MOST_NAMED:
            named.append(Choice(number=p.number, name=p.name))
    choices = {s.id: tuple(by_kind.get(kind_for(s.kind).id, ())) for s in desk.configured.slots}
    machine = desk.plain.machine.id
    return SurveyView(
        map=answered_from("map at survey", number, lambda d: map_view(d.today, {}, d.how_known())),
        choices={slot: named[:MOST_NAMED] for slot, named in choices.items()},
        more_by_label=tuple(slot for slot, named in choices.items() if len(named) > MOST_NAMED),
        limits=desk.job.fit.limits,
        observed=desk.observed(),
        since=jobs.since(number),
        contradictions=desk.contradictions(),
        reading=_in_short(desk),
        believed=desk.job.survey.believed,
        claims=tuple(c for c in claims.reviews(machine) if c.job == number),
        usual=desk.usual_things(),
        as_usual=desk.job.survey.as_usual,
        words_beside=words_beside(number),
        simulated=settings.DEMO,
        soldered=soldered_lines(desk.today),
        machine=machine,
    )


@router.get("/jobs/{int:number}/survey/worth", response={200: tuple[Worth, ...], 400: Problem, 404: Problem})
def worth(request: HttpRequest, number: int):
    """What settling each thing that is still asked would decide: the whole catalogue is looked through for it, so it comes
    after what is seen first."""
    return answered_from("worth", number, lambda desk: desk.worth_today())


def _in_short(desk: Desk) -> ReadView | None:
    reading, told = desk.job.survey.reading, desk.reading_summary()
    if reading is None or told is None:
        return None
    weak = []
    if reading.maximum_gb:
        weak.append(f"Firmware names {reading.maximum_gb} GB as its maximum: weak evidence, never a bound.")
    if reading.arrays and reading.arrays > 1:
        weak.append(f"Firmware lists {reading.arrays} memory arrays.")
    return ReadView(
        understood=reading.understood, not_understood=reading.not_understood,
        proved=told.proved, left_open=told.left_open, weak=tuple(weak),
    )  # fmt: skip


class Fitted(Frozen):
    """A slot's content as found: a part number of the catalogue, '' for empty; or how it stands where
    nobody has looked."""

    slot: str
    number: str = ""
    state: Literal["found", "unknown", "as_delivered"] = "found"


@router.post("/jobs/{int:number}/survey/fitted", response={200: JobView, 400: Problem, 404: Problem})
def set_fitted(request: HttpRequest, number: int, body: Fitted):
    desk = jobs.desk_of(number)
    desk.configured.slot(body.slot)
    if body.state != "found":
        fitted = {s: p for s, p in desk.job.model_dump(mode="json")["survey"]["fitted"].items() if s != body.slot}
        unknown = [s for s in desk.job.survey.unknown if s != body.slot]
        unknown += [body.slot] if body.state == "unknown" else []
        found = {"/survey/fitted": fitted, "/survey/unknown": unknown}
        return view_of(edit_job.write_all(number, found, request.user))
    part = desk.fittable(body.number).model_dump(mode="json") if body.number else None
    return view_of(edit_job.write(number, f"/survey/fitted/{body.slot}", part, request.user))


class Label(Frozen):
    """A label typed or scanned for a slot."""

    slot: str
    text: str


@router.post("/jobs/{int:number}/survey/recognise", response={200: Recognised, 400: Problem, 404: Problem})
def recognise_label(request: HttpRequest, number: int, body: Label):
    desk = jobs.desk_of(number)
    return recognise(body.text, desk.parts, kind_for(desk.configured.slot(body.slot).kind).id)


class LabelledPart(Frozen):
    """A part the label proves, taken into the catalogue and named as fitted in the slot."""

    slot: str
    number: str
    offered: dict[str, Any]


@router.post("/jobs/{int:number}/survey/new-part", response={200: JobView, 400: Problem, 404: Problem})
def new_part(request: HttpRequest, number: int, body: LabelledPart):
    desk = jobs.desk_of(number)
    desk.configured.slot(body.slot)
    if parts.part_of(body.number):
        raise InputError(f"{body.number} is in the catalogue already", "part number", "Choose it there.")
    part = part_from({**body.offered, "number": body.number})
    return view_of(parts_found.found_new(number, body.slot, part, request.user))


class Measured(Frozen):
    """What was typed for ``slot.attribute``, in the unit shown."""

    attribute: str
    typed: str


@router.post("/jobs/{int:number}/survey/measured", response={200: JobView, 400: Problem, 404: Problem})
def set_measured(request: HttpRequest, number: int, body: Measured):
    value = typed_value(jobs.desk_of(number, with_parts=False).configured, body.attribute, body.typed)
    return view_of(edit_job.write(number, f"/survey/measured/{body.attribute}", value, request.user))


class NewClaim(Frozen):
    """ "Not what the library says": recorded against the configuration, for review."""

    attribute: str
    typed: str
    source: str = "measured"
    note: str = ""


@router.post("/jobs/{int:number}/survey/claim", response={200: list[claims.Review], 400: Problem, 404: Problem})
def new_claim(request: HttpRequest, number: int, body: NewClaim):
    value = typed_value(jobs.desk_of(number, with_parts=False).configured, body.attribute, body.typed)
    claims.record_claim(number, body.attribute, value, body.source, body.note, request.user)
    return [c for c in claims.reviews() if c.job == number]


class Belief(Frozen):
    """Who is right where reading and library disagree, by the contradiction's id."""

    id: str
    right: Literal["reading", "library"]


@router.post("/jobs/{int:number}/survey/believe", response={200: JobView, 400: Problem, 404: Problem})
def believe(request: HttpRequest, number: int, body: Belief):
    """One act: the library's word counts on this job, or the reading's does and goes to the library for review."""
    said = next((c for c in jobs.desk_of(number).contradictions() if c.id == body.id), None)
    if said is None:
        raise InputError(f"no contradiction {body.id!r}", "survey", "Read the machine again.")
    before = jobs.desk_of(number, with_parts=False).job.survey.believed.get(body.id)
    job = edit_job.write(number, f"/survey/believed/{body.id}", body.right, request.user)
    if body.right == "reading" and said.attribute and before != body.right:
        claims.record_claim(number, said.attribute, said.value, "read", "read on this machine", request.user)
    return view_of(job)


@router.post("/jobs/{int:number}/reading/{station}", response={200: JobView, 400: Problem, 404: Problem})
def reading(request: HttpRequest, number: int, station: Literal["survey", "prove"], file: File[UploadedFile]):
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
    if not settings.DEMO:
        raise InputError("there is no simulated laptop in a workshop", f"job {number}", "Read the machine itself.")
    beside = build_beside(number) if station == "survey" else None
    desk = jobs.desk_of(number)
    build = beside or (desk.today if station == "survey" else desk.must_plan)
    load = laptop.SimulatedLoad(peak_memory_mb=7600, swap_used_mb=1400, paging_kb_s=2600) if busy else None
    text = laptop.bundle_json(build, [f for f in faults.split(",") if f], load)
    return download(text, f"bundle-{number}-{station}.json", "application/json")
