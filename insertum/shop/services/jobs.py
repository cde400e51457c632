"""Jobs: list, open, start, import, and lay one out on the desk."""

from datetime import date

from django.db import transaction
from django.db.models import Max

from ...core.base import Frozen, InputError
from ...core.job import entries
from ...core.job.desk import Desk
from ...core.job.shape import Job
from ...core.sighting import Sighting
from ...formats.checked import shaped
from .. import models
from .machines import library, machine_of
from .stock import on_offer
from .triage import complaints
from .unreadable import readable
from .workshop import selling


class JobLine(Frozen):
    """One job in the list."""

    number: int
    customer: str
    title: str
    machine: str
    configuration: str
    station: str
    due: str
    waits_for: str
    closed: bool


class NoSuchJob(Exception):
    """There is no job of that number."""


def lines() -> list[JobLine]:
    """All jobs: open ones first, by due date."""
    names = {f"{m.id}/{c.id}": f"{m.maker} {c.name}" for m, c in library().every}
    rows = sorted(models.Job.objects.all(), key=lambda j: (j.closed, j.due or date.max, j.number))
    return [
        JobLine(
            number=j.number,
            customer=j.customer,
            title=j.title,
            machine=names.get(f"{j.machine}/{j.configuration}", j.machine),
            configuration=j.configuration,
            station=j.station,
            due=j.due.isoformat() if j.due else "",
            waits_for=j.waits_for,
            closed=j.closed,
        )
        for j in rows
    ]


def names() -> list[tuple[int, str, str]]:
    """Number, title and customer of every job: no job's document is read for a list."""
    return list(models.Job.objects.order_by("number").values_list("number", "title", "customer"))


def row_of(number: int, lock: bool = False) -> models.Job:
    rows = models.Job.objects.select_for_update() if lock else models.Job.objects
    row = rows.filter(number=number).first()
    if row is None:
        raise NoSuchJob(number)
    return row


def job_of(number: int) -> Job:
    return shaped(Job, row_of(number).spec, f"job {number}, as it is stored")


def desk_of(number: int, with_parts: bool = True) -> Desk:
    """The job with its machine and catalogue."""
    return desk_for(job_of(number), with_parts)


def desk_for(job: Job, with_parts: bool = True) -> Desk:
    seen = sightings_for(job.identify.machine, job.identify.configuration)
    stock = on_offer() if with_parts else ()
    return Desk(job, machine_of(job.identify.machine), selling() if with_parts else [], complaints(), seen, stock)


def sightings_for(machine: str, configuration: str) -> list[Sighting]:
    """The workshop's sightings of one configuration, oldest first."""
    rows = models.Sighting.objects.filter(machine=machine, configuration=configuration)
    return list(readable(rows.values_list("spec", flat=True), Sighting.model_validate))


@transaction.atomic
def start_job(customer: str, title: str, due: str) -> Job:
    """Start a job under the next number."""
    highest = models.Job.objects.aggregate(n=Max("number"))["n"] or 100
    job = shaped(Job, {"number": highest + 1, "customer": customer, "title": title, "due": due}, "new job")
    store(models.Job(number=job.number), job)
    return job


def look_over(job: Job, before: Job | None = None) -> None:
    """Raises :class:`InputError` where a job could not be opened as it stands, or what is new in it could not be:
    before it is kept, never after."""
    desk = desk_for(job)
    if desk.machine is not None and job.identify.configuration:
        entries.look_over(desk.plain, before, job, desk.fittable)
        _ = desk.build
        if desk.planned is not None:
            desk.open_gates()


@transaction.atomic
def import_job(job: Job) -> int:
    """Take in a job from its JSON under its own number. Refuses a number that is taken."""
    if models.Job.objects.filter(number=job.number).exists():
        raise InputError(f"job {job.number} is here already", "job file", "Give it another number.")
    look_over(job)
    store(models.Job(number=job.number), job)
    return job.number


def store(row: models.Job, job: Job) -> None:
    """Write a job with the columns that are searched."""
    row.customer, row.title, row.waits_for = job.customer, job.title, job.waits_for
    row.station = job.station
    row.due = _day(job.due)
    row.machine, row.configuration = job.identify.machine, job.identify.configuration
    row.closed = bool(job.hand_over.closed_at)
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
