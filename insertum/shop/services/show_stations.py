"""What Prepare, Bench, Prove and Hand over show of a job."""

from ...core.bench.scan import Scanned, scanned
from ...core.bench.sheet import Sheet
from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.job.shape import Agreement
from ...core.job.slots import MapView, map_view
from ...core.machine.attribute import lowered
from ...core.machine.numbered import things
from ...core.plan.quote import Quote
from ...core.plan.result import PlanPoint
from ...core.prepare.gates import Gate
from ...core.prove.compare import ProofReport
from ...core.prove.expect import Expected
from ...core.record.record import Compared, Record
from ...core.record.shape import MEASURED_LABELS, MEASURED_UNITS
from . import jobs, plan_job, workshop
from .stand_ins import stand_ins


class PrepareView(Frozen):
    gates: tuple[Gate, ...]
    open: tuple[str, ...]
    numbers: tuple[str, ...]
    plan: PlanPoint
    sheet: Sheet


def prepare(number: int) -> PrepareView:
    """The gates, what is to be at hand, and the sheet. Raises :class:`InputError` where no plan is chosen."""
    desk = jobs.desk_of(number)
    sheet = desk.sheet()
    chosen = desk.job.plan.chosen
    if chosen is None:
        raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.", code=Code.NOT_YET)
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


def bench(number: int) -> BenchView:
    """The sheet as far as it is done, and what was found to differ."""
    desk = jobs.desk_of(number)
    sheet, done = desk.sheet(), desk.job.bench.done
    waiting = desk.open_gates()
    return BenchView(
        sheet=sheet,
        map=map_view(desk.today, {}, desk.how_known()),
        differs=desk.differs(),
        screws_out=sum(s.screws for s in sheet.steps if s.id in done),
        seconds_left=sum(s.seconds for s in sheet.steps if s.id not in done),
        locked=f"The safety key is shut: {', '.join(lowered(g.title) for g in waiting)}." if waiting else "",
        things=dict(things(desk.machine)),
    )


def scan(number: int, text: str) -> Scanned:
    """Is what was scanned the planned part? Nothing is ticked by it."""
    desk = jobs.desk_of(number)
    return scanned(text, desk.numbers_planned, desk.parts)


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


def prove(number: int) -> ProveView:
    """What is expected, what was read and measured, and how the two compare."""
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
        faults=stands.FAULTS if (stands := stand_ins()) else {},
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


def hand_over(number: int) -> RecordView:
    """The record with its paper's head and the readings' proofs."""
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
