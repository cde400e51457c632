"""The workshop's own record of a job: the document, what follows from its events, and every change in its order."""

from typing import Any, Literal

from ...core.frozen import Frozen
from ...core.job.shape import Job
from ...core.prove.compare import ProofReport
from ...core.record.record import Record
from .. import models
from . import photographs
from .jobs import desk_of


class JobChange(Frozen):
    """One change of the job. ``sequence`` rises from change to change, whatever the clock said."""

    sequence: int
    at: str
    who: str
    path: str
    op: str
    before: Any
    after: Any
    undone: bool


class WorkshopRecord(Frozen):
    """``changes`` oldest first. The photographs' files lie beside the database under their ``uid``."""

    format: Literal["insertum-record/1"] = "insertum-record/1"
    job: Job
    record: Record
    reports: tuple[ProofReport, ...]
    photographs: tuple[photographs.Taken, ...]
    changes: tuple[JobChange, ...]


def workshop_record(number: int) -> WorkshopRecord:
    """Everything kept of a job. Raises :class:`NoSuchJob`."""
    desk = desk_of(number)
    return WorkshopRecord(
        job=desk.job, record=desk.record(), reports=desk.proofs(), photographs=photographs.of_job(number),
        changes=tuple(changes_of(number)),
    )  # fmt: skip


def changes_of(number: int) -> list[JobChange]:
    """Every change of a job in order, each with who made it and when."""
    rows = models.JobEdit.objects.filter(job__number=number).order_by("id").select_related("who")
    return [
        JobChange(
            sequence=r.pk, at=r.at.isoformat(timespec="seconds"), who=r.who.get_username() if r.who else "", path=r.path,
            op=r.op, before=r.before, after=r.after, undone=r.undone,
        )
        for r in rows
    ]  # fmt: skip
