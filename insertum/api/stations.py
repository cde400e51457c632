"""What each station of a job shows, and the actions that are more than an edit."""

import io
from typing import Literal

import segno
from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, UploadedFile

from ..core.base import Frozen, InputError
from ..core.bench.sheet import Sheet
from ..core.claim import Limits
from ..core.identify.identify import Identification, identify
from ..core.intake.complaints import COMPLAINTS, Complaint
from ..core.intake.intake import derive_needs
from ..core.intake.presets import PRESETS
from ..core.job.desk import Desk, FitView
from ..core.job.slots import MapView, map_view
from ..core.machine import BaySlot, DriveSlot
from ..core.plan.need import UNITS, Need
from ..core.plan.report import LABELS
from ..core.plan.request import Plan, PlanPoint
from ..core.prepare.gates import Gate
from ..core.prove.compare import ProofReport
from ..core.prove.expect import Expected
from ..core.survey.attributes import typed_value
from ..core.verdict import Verdict
from ..demo import laptop
from ..shop.services import edit_job, jobs, machines, plan_job, take_reading
from .jobs import JobView, view_of
from .shapes import Problem

router = Router()


class NeedView(Frozen):
    need: Need
    label: str
    unit: str


class IntakeView(Frozen):
    """The choices intake offers, and the needs that follow from what is entered."""

    uses: dict[str, str]
    complaints: tuple[Complaint, ...]
    needs: tuple[NeedView, ...]
    slots: dict[str, str]


@router.get("/jobs/{int:number}/intake", response={200: IntakeView, 404: Problem})
def intake(request: HttpRequest, number: int):
    desk = jobs.desk_of(number, with_parts=False)
    known = desk.machine is not None and bool(desk.job.identify.configuration)
    needs = desk.needs if known else derive_needs(desk.job.intake, None)
    return IntakeView(
        uses={k: p.name for k, p in PRESETS.items()},
        complaints=tuple(COMPLAINTS.values()),
        needs=tuple(NeedView(need=n, label=LABELS[n.kind], unit=UNITS[n.kind]) for n in needs),
        slots={x.id: x.name for x in desk.configured.slots} if known else {},
    )


@router.get("/jobs/{int:number}/identify", response={200: Identification, 404: Problem})
def identify_job(request: HttpRequest, number: int):
    job = jobs.job_of(number)
    texts = job.identify.texts.splitlines()
    if job.survey.reading:
        texts += job.survey.reading.texts
    return identify(texts, machines.library())


class Choice(Frozen):
    """A part that could be named as fitted in a slot."""

    number: str
    name: str


class SurveyView(Frozen):
    map: MapView
    choices: dict[str, tuple[Choice, ...]]
    limits: Limits


@router.get("/jobs/{int:number}/survey", response={200: SurveyView, 400: Problem, 404: Problem})
def survey(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    kinds = {"bay": "bay_drive"}
    choices = {
        s.id: tuple(Choice(number=p.number, name=p.name) for p in desk.parts if p.kind == kinds.get(s.kind, s.kind))
        for s in desk.configured.slots
    }
    return SurveyView(map=map_view(desk.today, {}, desk.how_known()), choices=choices, limits=desk.job.fit.limits)


class Fitted(Frozen):
    """A slot's content as found: a part number of the catalogue, '' for empty."""

    slot: str
    number: str


@router.post("/jobs/{int:number}/survey/fitted", response={200: JobView, 400: Problem, 404: Problem})
def set_fitted(request: HttpRequest, number: int, body: Fitted):
    desk = jobs.desk_of(number)
    desk.configured.slot(body.slot)
    part = desk.fittable(body.number).model_dump(mode="json") if body.number else None
    return view_of(edit_job.write(number, f"/survey/fitted/{body.slot}", part, request.user))


class Measured(Frozen):
    """What was typed for ``slot.attribute``, in the unit shown."""

    attribute: str
    typed: str


@router.post("/jobs/{int:number}/survey/measured", response={200: JobView, 400: Problem, 404: Problem})
def set_measured(request: HttpRequest, number: int, body: Measured):
    value = typed_value(body.attribute, body.typed)
    return view_of(edit_job.write(number, f"/survey/measured/{body.attribute}", value, request.user))


@router.post("/jobs/{int:number}/reading/{station}", response={200: JobView, 400: Problem, 404: Problem})
def reading(request: HttpRequest, number: int, station: Literal["survey", "prove"], file: File[UploadedFile]):
    job, _ = take_reading.take_reading(number, file.read(), station, request.user)
    return view_of(job)


@router.get("/jobs/{int:number}/simulated/{station}", include_in_schema=False)
def simulated(request: HttpRequest, number: int, station: Literal["survey", "prove"], faults: Query[str] = ""):
    """The simulated laptop's bundle for this job: as it stands, or as planned."""
    desk = jobs.desk_of(number)
    build = desk.today if station == "survey" else desk.must_plan
    text = laptop.bundle_json(build, [f for f in faults.split(",") if f])
    return HttpResponse(
        text,
        content_type="application/json",
        headers={"Content-Disposition": f'attachment; filename="bundle-{number}-{station}.json"'},
    )


class FitStation(Frozen):
    fit: FitView
    map: MapView
    slots: tuple[Choice, ...]
    limits: Limits
    schools: dict[Limits, int]


@router.get("/jobs/{int:number}/fit", response={200: FitStation, 400: Problem, 404: Problem})
def fit(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    view = desk.fit()
    verdicts = _verdicts(desk)
    return FitStation(
        fit=view,
        map=map_view(desk.build, verdicts, desk.how_known()),
        slots=tuple(Choice(number=s.id, name=s.name) for s in desk.configured.slots),
        limits=desk.job.fit.limits,
        schools=desk.schools(),
    )


def _verdicts(desk: Desk) -> dict[str, Verdict | None]:
    return {s: j.verdict for s, j in desk.judged().items()}


class PlanStation(Frozen):
    """The answer, the build in hand from Fit as a plan of its own, and whether it may be chosen."""

    answer: Plan
    own: plan_job.OwnPlan | None
    needs: tuple[NeedView, ...]
    boot_slots: tuple[str, ...]


@router.get("/jobs/{int:number}/plan", response={200: PlanStation, 400: Problem, 404: Problem})
def plan(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    answer, own = plan_job.plan_for(desk)
    return PlanStation(
        answer=answer,
        own=own,
        needs=tuple(NeedView(need=n, label=LABELS[n.kind], unit=UNITS[n.kind]) for n in desk.needs),
        boot_slots=tuple(s.id for s in desk.configured.slots if isinstance(s, DriveSlot | BaySlot)),
    )


class Picked(Frozen):
    stance: str
    index: int | None = None


@router.post("/jobs/{int:number}/plan", response={200: JobView, 400: Problem, 404: Problem})
def choose(request: HttpRequest, number: int, body: Picked):
    return view_of(plan_job.choose_plan(number, body.stance, body.index, request.user))


class PrepareView(Frozen):
    gates: tuple[Gate, ...]
    open: tuple[str, ...]
    plan: PlanPoint
    sheet: Sheet


@router.get("/jobs/{int:number}/prepare", response={200: PrepareView, 400: Problem, 404: Problem})
def prepare(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    sheet = desk.sheet()
    chosen = desk.job.plan.chosen
    if chosen is None:
        raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.")
    return PrepareView(gates=desk.gates(), open=tuple(g.id for g in desk.open_gates()), plan=chosen.plan, sheet=sheet)


class BenchView(Frozen):
    sheet: Sheet
    screws_out: int
    seconds_left: int
    locked: str


@router.get("/jobs/{int:number}/bench", response={200: BenchView, 400: Problem, 404: Problem})
def bench(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    sheet, done = desk.sheet(), desk.job.bench.done
    waiting = desk.open_gates()
    return BenchView(
        sheet=sheet,
        screws_out=sum(s.screws for s in sheet.steps if s.id in done),
        seconds_left=sum(s.seconds for s in sheet.steps if s.id not in done),
        locked=f"The safety key is shut: {', '.join(g.title.lower() for g in waiting)}." if waiting else "",
    )


class ProveView(Frozen):
    expected: Expected
    report: ProofReport | None
    readings: int
    faults: dict[str, str]


@router.get("/jobs/{int:number}/prove", response={200: ProveView, 400: Problem, 404: Problem})
def prove(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    return ProveView(
        expected=desk.expected(), report=desk.proof(), readings=len(desk.job.prove.readings), faults=laptop.FAULTS
    )


class RecordView(Frozen):
    """The record as handed over: what was fitted and removed, cost, before and after, proof."""

    title: str
    processor: str
    plan: PlanPoint | None
    stance: str
    chosen_at: str
    rules_version: str
    reports: tuple[ProofReport, ...]
    removed: tuple[str, ...]


@router.get("/jobs/{int:number}/hand-over", response={200: RecordView, 400: Problem, 404: Problem})
def hand_over(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    chosen = desk.job.plan.chosen
    return RecordView(
        title=desk.configured.title,
        processor=desk.configured.configuration.processor,
        plan=chosen.plan if chosen else None,
        stance=chosen.stance if chosen else "",
        chosen_at=chosen.chosen_at if chosen else "",
        rules_version=chosen.rules_version if chosen else "",
        reports=desk.proofs(),
        removed=tuple(f"{c.slot_name}: {c.takes_out}" for c in chosen.plan.changes if c.takes_out) if chosen else (),
    )


@router.get("/jobs/{int:number}/qr.svg", include_in_schema=False)
def qr(request: HttpRequest, number: int):
    """A code that leads back to the job, for what is printed."""
    code = segno.make(request.build_absolute_uri(f"/jobs/{number}"), error="m")
    out = io.BytesIO()
    code.save(out, kind="svg", scale=3, dark="#15211C", light="#ffffff")
    return HttpResponse(out.getvalue(), content_type="image/svg+xml")
