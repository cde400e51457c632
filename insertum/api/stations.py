"""Plan to Hand over: what these stations of a job show, and the actions that are more than an edit."""

import io

import segno
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from ..core.base import Frozen, InputError
from ..core.bench.scan import Scanned, scanned
from ..core.bench.sheet import Sheet
from ..core.plan.result import PlanPoint
from ..core.prepare.gates import Gate
from ..core.prove.compare import ProofReport
from ..core.prove.expect import Expected
from ..demo import laptop
from ..shop.services import jobs
from .shapes import Problem

router = Router()


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


class ScannedLabel(Frozen):
    text: str = Field(max_length=400)


@router.post("/jobs/{int:number}/bench/scan", response={200: Scanned, 400: Problem, 404: Problem})
def scan(request: HttpRequest, number: int, body: ScannedLabel):
    """Is what was scanned the planned part? Nothing is ticked by it."""
    desk = jobs.desk_of(number)
    return scanned(body.text, [s.number for s in desk.sheet().steps if s.number], desk.parts)


class Changed(Frozen):
    """A slot the plan changed, and the part that went in."""

    slot: str
    name: str
    part: str


class ProveView(Frozen):
    expected: Expected
    changed: tuple[Changed, ...]
    report: ProofReport | None
    readings: int
    faults: dict[str, str]


@router.get("/jobs/{int:number}/prove", response={200: ProveView, 400: Problem, 404: Problem})
def prove(request: HttpRequest, number: int):
    desk = jobs.desk_of(number)
    build = desk.must_plan
    changed = [
        Changed(slot=s, name=build.machine.slot(s).name, part=p.name)
        for s in build.changed()
        if (p := build.now(s)) is not None
    ]
    return ProveView(
        expected=desk.expected(),
        changed=tuple(changed),
        report=desk.proof(),
        readings=len(desk.job.prove.readings),
        faults=laptop.FAULTS,
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
