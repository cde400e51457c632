"""What an answer follows from, as one value that changes when any of it does: caches key on it, never on a clock."""

from typing import Any

from .. import models
from .jobs import NoSuchJob
from .table_cache import stamps

#: Every table a plan or a verdict may follow from, beside the job itself.
TABLES = (
    models.Machine,
    models.Part,
    models.Processor,
    models.Sighting,
    models.ShelfPart,
    models.Workshop,
    models.Complaint,
    models.StepTime,
)


def revision(number: int) -> tuple[Any, ...]:
    """The job's version and the stamps of all that it is judged by. Raises :class:`NoSuchJob`."""
    row = models.Job.objects.filter(number=number).values_list("version", "updated").first()
    if row is None:
        raise NoSuchJob(number)
    return (*row, *stamps(TABLES))
