"""Jobs taken off the board, brought back, and a customer's data removed for good."""

from collections.abc import Iterable, Mapping
from contextlib import suppress
from datetime import timedelta
from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db import OperationalError, connection, transaction
from django.db.models import Q
from django.utils import timezone

from ...core.errors import InputError
from ...core.frozen import Frozen
from .. import models
from .history import KEPT_DAYS, entered
from .jobs import NoSuchJob
from .photographs import folder


class RemovedJob(Frozen):
    number: int
    title: str
    customer: str
    removed: str


def removed() -> tuple[RemovedJob, ...]:
    """Removed jobs, the latest first."""
    rows = models.Job.everything.filter(removed__isnull=False).order_by("-removed")
    return tuple(
        RemovedJob(number=n, title=t, customer=c, removed=at.isoformat(timespec="minutes"))
        for n, t, c, at in rows.values_list("number", "title", "customer", "removed")
    )


@transaction.atomic
def remove(number: int, who: AbstractBaseUser | None) -> None:
    """Take a job off the board. It can be brought back for thirty days. Raises :class:`NoSuchJob`."""
    if not models.Job.objects.filter(number=number).update(removed=timezone.now()):
        raise NoSuchJob(number)
    entered("job", str(number), f"job {number} was taken off the board", None, None, who)
    for old in models.Job.everything.filter(removed__lt=timezone.now() - timedelta(days=KEPT_DAYS)):
        _for_good(old, f"job {old.number} was removed for good after {KEPT_DAYS} days", None)


@transaction.atomic
def bring_back(number: int, who: AbstractBaseUser | None) -> None:
    """Raises :class:`InputError` where no such job was removed."""
    if not models.Job.everything.filter(number=number, removed__isnull=False).update(removed=None):
        raise InputError(f"job {number} is not among those removed", "jobs", "Look at the list again.")
    entered("job", str(number), f"job {number} was brought back", None, None, who)


@transaction.atomic
def erase(number: int, who: AbstractBaseUser | None) -> None:
    """Remove a job with all that was written and photographed for it, and keep only that it was done. What was seen of
    parts in the machine stays, without the words beside it. Raises :class:`NoSuchJob`."""
    row = models.Job.everything.filter(number=number).first()
    if row is None:
        raise NoSuchJob(number)
    _for_good(row, f"all data of job {number} were removed for good on request", who)


def _for_good(row: models.Job, says: str, who: AbstractBaseUser | None) -> None:
    number, files = row.number, [f"{uid}.jpg" for uid in row.photographs.values_list("uid", flat=True)]
    models.StepTime.objects.filter(job=number).update(job=0)  # the minutes stay, and are nobody's
    _without_words(number)
    models.ClaimReview.objects.filter(job=number).update(note="", job=None)
    models.Entry.objects.filter(about="job", key=str(number)).delete()
    row.delete()  # its edits, which hold what stood in it, and the rows of its photographs go with it
    entered("job", str(number), says, None, None, who)
    # The files go once it is sure that their rows have, and so does what the database's log still holds of them.
    transaction.on_commit(lambda: [(folder() / name).unlink(missing_ok=True) for name in files])
    transaction.on_commit(_log_emptied)


def _log_emptied() -> None:
    """SQLite's log keeps what was overwritten until it is emptied; somebody who reads at that moment puts it off."""
    with suppress(OperationalError), connection.cursor() as cursor:
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def _without_words(number: int) -> None:
    """What was seen of parts at a job, and where its old ones lie, without what somebody wrote beside it; in the history
    too."""
    for row in models.Sighting.objects.filter(spec__job=number):
        row.spec |= _without(row.spec)
        row.save()
    for part in models.ShelfPart.objects.filter(job=number):
        _blanked(models.Entry.objects.filter(about="shelf", key=part.number, at__gte=part.at))
    seen = Q(before__job=number) | Q(after__job=number)
    _blanked(models.Entry.objects.filter(seen, about="sighting"))
    models.ShelfPart.objects.filter(job=number).update(origin="", note="", erased_note="")


#: What somebody wrote in their own words beside a part that was seen or shelved; hearsay names who said it, and where.
_WORDS = ("note", "origin", "erased_note", "after", "where")


def _without(told: Mapping[str, Any]) -> dict[str, str]:
    names = (*_WORDS, "who") if told.get("hearsay") else _WORDS
    return {n: "" for n in names if n in told}


def _blanked(entries: Iterable[models.Entry]) -> None:
    for entry in entries:
        for told in (entry.before, entry.after):
            if told:
                told |= _without(told)
        entry.save()
