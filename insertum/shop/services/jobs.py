"""Jobs: list, open, start, import, and lay one out on the desk."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from django.db import transaction
from django.db.models import Count, F, Max, Q, QuerySet

from ...core.errors import Code, InputError
from ...core.find import job_number
from ...core.frozen import Frozen
from ...core.job import validation
from ...core.job.desk import Desk
from ...core.job.shape import Job
from ...core.job.words import with_words
from ...core.sighting import Sighting
from ...core.spelling import folded
from ...formats.json_errors import shaped
from .. import models
from . import step_times
from .history import logged
from .machines import library, machine_of
from .stock import on_offer
from .table_cache import one_look
from .triage import complaints
from .unreadable import readable
from .workshop import selling, workshop


class JobLine(Frozen):
    """One job in the list. ``cost_minor`` is the chosen plan's; ``wish`` names wished parts that came into their
    price."""

    number: int
    customer: str
    title: str
    machine: str
    configuration: str
    station: str
    due: str
    waits_for: str
    closed: bool
    stopped: bool
    cost_minor: int | None
    wish: str


class JobPage(Frozen):
    """One page of jobs. ``total`` match what is asked; ``open`` and ``waiting`` are of all jobs."""

    jobs: tuple[JobLine, ...]
    total: int
    page: int
    pages: int
    open: int
    waiting: int


class NoSuchJob(Exception):
    """There is no job of that number."""


#: Jobs on a page of the list.
PAGE = 40
#: What a job's document may hold: twenty readings and every note a bench writes are a tenth of it.
MOST_JOB_BYTES = 4 * 2**20
#: The highest number a job may have.
MOST_NUMBER = 999_999_999
SORTS = {
    "due": (F("due").asc(nulls_last=True), "number"),
    "number": ("-number",),
    "customer": ("customer", "number"),
    "station": ("station", "number"),
    "cost": (F("cost_minor").desc(nulls_last=True), "number"),
}


def page_of(text: str = "", which: str = "open", sort: str = "due", page: int = 1) -> JobPage:
    """A page of open or closed jobs, by words in number, customer, title and machine. No job's document is read."""
    known = library().every
    names = {f"{m.id}/{c.id}": f"{m.maker} {c.name}" for m, c in known}
    rows = models.Job.objects.filter(closed=which == "closed") if which != "all" else models.Job.objects.all()
    wanted = folded(text)
    if wanted:
        machines = {m.id for m, c in known if wanted in folded(f"{m.maker} {c.name}")}
        rows = rows.filter(pk__in=_keys(Q(words__contains=wanted) | Q(machine__in=machines)))
    counted = models.Job.objects.filter(closed=False).aggregate(
        open=Count("pk"), waiting=Count("pk", filter=~Q(waits_for=""))
    )
    sorted_keys = rows.order_by(*SORTS.get(sort, SORTS["due"])).values_list("pk", flat=True)
    matching = list(sorted_keys) if wanted else None  # words are looked through once
    total = len(matching) if matching is not None else counted["open"] if which == "open" else rows.count()
    pages = max(1, -(-total // PAGE))
    page = min(max(1, page), pages)
    columns = [f for f in JobLine.model_fields if f not in ("machine", "wish")]
    # Sorted by keys alone, which an index answers: a row is read for what is shown, its long document passed over.
    keys = list((sorted_keys if matching is None else matching)[(page - 1) * PAGE : page * PAGE])
    shown = models.Job.objects.filter(pk__in=keys).order_by().values("pk", *columns, "machine", "wish_come")
    found = sorted(shown, key=lambda row: keys.index(row["pk"]))
    lines = tuple(
        JobLine(
            **{c: row[c] for c in columns if c != "due"},
            due=row["due"].isoformat() if row["due"] else "",
            machine=names.get(f"{row['machine']}/{row['configuration']}", row["machine"]),
            wish=row["wish_come"],
        )
        for row in found
    )
    return JobPage(jobs=lines, total=total, page=page, pages=pages, **counted)  # fmt: skip


def _keys(wanted: Q) -> QuerySet[models.Job, Any]:
    """Keys of jobs by what is searched for: the index answers it alone, whatever their order, and no row is read."""
    return models.Job.objects.filter(wanted).order_by().values_list("pk", flat=True)


def names(text: str) -> list[tuple[int, str, str]]:
    """Number, title and customer of the jobs a text may mean: no job's document is read for a list."""
    wanted = folded(text)
    rows = models.Job.objects.filter(pk__in=_keys(Q(words__contains=wanted))) if wanted else models.Job.objects.none()
    number = job_number(text)
    if number is not None:
        rows = rows | models.Job.objects.filter(number=number)
    return list(rows.order_by("number").values_list("number", "title", "customer")[:50])


def row_of(number: int, lock: bool = False) -> models.Job:
    """The job's row, locked until the transaction ends where ``lock`` says so. Raises :class:`NoSuchJob`."""
    rows = models.Job.objects.select_for_update() if lock else models.Job.objects
    row = rows.filter(number=number).first()
    if row is None:
        raise NoSuchJob(number)
    return row


def job_of(number: int) -> Job:
    """The job as it stands. Raises :class:`NoSuchJob`, and :class:`InputError` where what is stored cannot be read."""
    return shaped(Job, row_of(number).spec, f"job {number}, as it is stored")


def as_it_stands(number: int) -> tuple[Job, int]:
    """The job, and the count of its changes so far, of one moment."""
    row = row_of(number)
    return shaped(Job, row.spec, f"job {number}, as it is stored"), row.version


def desk_of(number: int, with_parts: bool = True) -> Desk:
    """The job with its machine and catalogue."""
    return desk_for(job_of(number), with_parts)


@one_look()
def desk_for(job: Job, with_parts: bool = True) -> Desk:
    """The desk of a job's document, kept or not: its machine, sightings, catalogue and settings. Without parts it is quicker and fits nothing."""
    seen = sightings_for(job.identify.machine, job.identify.configuration)
    stock = on_offer() if with_parts else ()
    machine = step_times.as_timed(machine_of(job.identify.machine))
    if machine is not None:
        machine = with_words(machine, job.identify.configuration, job.survey.words)
    return Desk(job, machine, selling() if with_parts else [], complaints(), seen, stock, workshop().tasks)


def sightings_for(machine: str, configuration: str) -> list[Sighting]:
    """The workshop's sightings of one configuration, oldest first."""
    rows = models.Sighting.objects.filter(machine=machine, configuration=configuration)
    return list(readable(rows.values_list("spec", flat=True), Sighting.model_validate))


@transaction.atomic
def start_job(customer: str, title: str, due: str) -> Job:
    """Start a job under the next number."""
    return _started({"customer": customer, "title": title, "due": due})


@transaction.atomic
def start_asked(told: Mapping[str, Any]) -> int:
    """Start a job from a question, with what it told of the job. Returns the number. Raises :class:`InputError`."""
    return _started(told).number


def _started(told: Mapping[str, Any]) -> Job:
    own = workshop()
    plan = {"rate_minor_per_hour": own.rate_minor_per_hour, "schools": own.schools.model_dump()}
    new = {"number": _next_number(), "currency": own.currency, "plan": plan, **told}
    job = shaped(Job, new, "new job")
    look_over(job)
    store(models.Job(number=job.number), job)
    logged("job", str(job.number), f"job {job.number} was started")
    return job


def _next_number() -> int:
    """One more than the highest, those of removed jobs included; where somebody used up the highest, the least that is
    free above a hundred."""
    highest = models.Job.everything.aggregate(n=Max("number"))["n"] or 100
    if highest < MOST_NUMBER:
        return int(highest) + 1
    taken = set(models.Job.everything.filter(number__gt=100).values_list("number", flat=True))
    return next(n for n in range(101, MOST_NUMBER) if n not in taken)


def look_over(job: Job, before: Job | None = None) -> None:
    """Raises :class:`InputError` where a job could not be opened as it stands, or what is new in it could not be:
    before it is kept, never after."""
    desk = desk_for(job)
    if desk.machine is not None and job.identify.configuration:
        validation.look_over(desk.plain, before, job, desk.fittable)
        _ = desk.build
        if desk.planned is not None:
            desk.open_gates()


@transaction.atomic
def import_job(job: Job) -> int:
    """Take in a job from its JSON under its own number. Refuses a number that is taken."""
    if models.Job.everything.filter(number=job.number).exists():
        raise InputError(f"job {job.number} is here already", "job file", "Give it another number.", code=Code.TAKEN)
    look_over(job)
    store(models.Job(number=job.number), job)
    logged("job", str(job.number), f"job {job.number} came in from a file")
    return job.number


def store(row: models.Job, job: Job) -> None:
    """Write a job with the columns that are searched. Raises :class:`InputError` where it has grown beyond any job."""
    if len(job.model_dump_json()) > MOST_JOB_BYTES:
        raise InputError(
            f"a job holds at most {MOST_JOB_BYTES // 2**20} MB",
            f"job {job.number}",
            "Take out readings or notes first.",
        )
    row.customer, row.title, row.waits_for = job.customer, job.title, job.waits_for
    row.station = job.station
    row.due = _day(job.due)
    row.machine, row.configuration = job.identify.machine, job.identify.configuration
    row.closed = bool(job.hand_over.closed_at)
    row.stopped = job.stopped is not None or job.hand_over.outcome == "stopped"
    row.cost_minor = job.plan.chosen.plan.cost_minor if job.plan.chosen else None
    row.words = folded(f"{job.number} {job.customer} {job.title}")[:400]
    row.tried = {cause: came for cause, came in job.intake.triage.items() if came != "untried"}
    row.wishes = bool(job.plan.wishes)
    row.wish_come = row.wish_come if row.wishes else ""
    row.spec = job.model_dump(mode="json")
    row.version += 1
    row.save()


class Since(Frozen):
    """Who last changed a place of the job, and when."""

    who: str
    at: str


def since(number: int) -> dict[str, Since]:
    """By place, who last changed it and when: the survey's "how known, since when"."""
    rows = models.JobEdit.objects.filter(job__number=number, undone=False, path__startswith="/survey").select_related(
        "who"
    )
    found: dict[str, Since] = {}
    for row in rows:  # newest first
        at = row.at.isoformat(timespec="minutes")
        found.setdefault(row.path, Since(who=row.who.get_username() if row.who else "", at=at))
    return found


def _day(text: str) -> date | None:
    try:
        return date.fromisoformat(text) if text else None
    except ValueError as error:
        raise InputError(f"no date {text}", "due", "Write it as 2026-11-30.") from error
