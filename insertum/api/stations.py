"""Plan to Hand over: what these stations of a job show, and the actions that are more than an edit."""

import io

import segno
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from ..core.bench.scan import Scanned, scanned
from ..core.bench.sheet import Sheet
from ..core.errors import InputError
from ..core.frozen import Frozen
from ..core.job.shape import Agreement
from ..core.job.slots import MapView, map_view
from ..core.machine.numbered import things
from ..core.plan.quote import Quote
from ..core.plan.result import PlanPoint
from ..core.prepare.gates import Gate
from ..core.prove.compare import ProofReport
from ..core.prove.expect import Expected
from ..core.prove.typed import TypedScreen
from ..core.record.record import Compared, Record
from ..core.record.shape import MEASURED_LABELS, MEASURED_UNITS, Fate, Measurement
from ..demo import laptop
from ..shop.services import bench_job, jobs, plan_job, workshop, workshop_record
from .jobs import JobView, view_of
from .kept import kept
from .shapes import Problem

router = Router()


class PrepareView(Frozen):
    gates: tuple[Gate, ...]
    open: tuple[str, ...]
    numbers: tuple[str, ...]
    plan: PlanPoint
    sheet: Sheet


@router.get("/jobs/{int:number}/prepare", response={200: PrepareView, 400: Problem, 404: Problem})
@kept
def prepare(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    sheet = desk.sheet()
    chosen = desk.job.plan.chosen
    if chosen is None:
        raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.")
    return PrepareView(
        gates=desk.gates(),
        open=tuple(g.id for g in desk.open_gates()),
        numbers=desk.numbers_planned,
        plan=chosen.plan,
        sheet=sheet,
    )


class BenchView(Frozen):
    """``things`` are what a number can be found on, each as it is called after "the"."""

    sheet: Sheet
    map: MapView
    differs: tuple[str, ...]
    screws_out: int
    seconds_left: int
    locked: str
    things: dict[str, str]


@router.get("/jobs/{int:number}/bench", response={200: BenchView, 400: Problem, 404: Problem})
@kept
def bench(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    sheet, done = desk.sheet(), desk.job.bench.done
    waiting = desk.open_gates()
    return BenchView(
        sheet=sheet,
        map=map_view(desk.today, {}, desk.how_known()),
        differs=desk.differs(),
        screws_out=sum(s.screws for s in sheet.steps if s.id in done),
        seconds_left=sum(s.seconds for s in sheet.steps if s.id not in done),
        locked=f"The safety key is shut: {', '.join(g.title.lower() for g in waiting)}." if waiting else "",
        things=dict(things(desk.machine)),
    )


class ScannedLabel(Frozen):
    text: str = Field(max_length=400)


@router.post("/jobs/{int:number}/bench/scan", response={200: Scanned, 400: Problem, 404: Problem})
def scan(request: HttpRequest, number: int, body: ScannedLabel):
    """Is what was scanned the planned part? Nothing is ticked by it."""
    desk = jobs.desk_of(number)
    return scanned(body.text, desk.numbers_planned, desk.parts)


class Changed(Frozen):
    """A slot in which a part was fitted at this job: ticked, not planned."""

    slot: str
    name: str
    part: str


class ProveView(Frozen):
    expected: Expected
    changed: tuple[Changed, ...]
    report: ProofReport | None
    readings: int
    sockets: dict[str, str]
    measurable: dict[str, str]
    units: dict[str, str]
    compared: tuple[Compared, ...]
    faults: dict[str, str]


@router.get("/jobs/{int:number}/prove", response={200: ProveView, 400: Problem, 404: Problem})
@kept
def prove(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    build = desk.must_plan
    changed = [
        Changed(slot=s, name=build.machine.slot(s).name, part=p.name)
        for s in build.changed()
        if (p := build.now(s)) is not None and f"in:{s}" in desk.job.bench.done
    ]
    return ProveView(
        expected=desk.expected(),
        changed=tuple(changed),
        report=desk.proof(),
        readings=len(desk.job.prove.readings),
        sockets={s.id: s.name for s in build.memory_slots},
        measurable=MEASURED_LABELS,
        units=MEASURED_UNITS,
        compared=desk.record().compared,
        faults=laptop.FAULTS if settings.DEMO else {},
    )


class RecordView(Frozen):
    """The record from events alone, with what its paper's head says, and the readings' proofs."""

    workshop: str
    address: str
    logo: str
    title: str
    processor: str
    record: Record
    currency: str
    chosen_at: str
    rules_version: str
    agreed: Agreement | None
    quote: Quote | None
    reports: tuple[ProofReport, ...]


@router.get("/jobs/{int:number}/hand-over", response={200: RecordView, 400: Problem, 404: Problem})
@kept
def hand_over(request: HttpRequest, number: int):
    desk, own = jobs.desk_of(number), workshop.workshop()
    plan = desk.job.plan
    paper = plan_job.quote_of(number) if desk.record().whole else None
    return RecordView(
        workshop=own.name,
        address=own.address,
        logo=own.logo,
        title=desk.configured.title,
        processor=desk.configured.configuration.processor,
        record=desk.record(),
        currency=desk.job.currency,
        chosen_at=plan.chosen.chosen_at if plan.chosen else "",
        rules_version=plan.chosen.rules_version if plan.chosen else "",
        agreed=paper.agreed if paper else None,
        quote=paper.quote if paper else None,
        reports=desk.proofs(),
    )


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
