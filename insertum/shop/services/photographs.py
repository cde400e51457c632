"""Photographs of a job's steps: files beside the database, their rows in it. What is acknowledged is on the disk."""

import os
import uuid
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...formats.photograph import photograph
from .. import models
from .history import logged
from .jobs import row_of
from .people import may, role_of

#: More than a job's bench ever needs; a full disk stops everybody.
MOST_OF_A_JOB = 200


class Taken(Frozen):
    """A photograph of a step (``''`` for the job as a whole)."""

    uid: str
    step: str
    note: str
    width: int
    height: int
    at: str
    who: str


def folder() -> Path:
    """Where photographs lie, made for the server's own eyes only."""
    found = Path(settings.VAR) / "photographs"
    found.mkdir(mode=0o700, exist_ok=True)
    return found


def of_job(number: int) -> tuple[Taken, ...]:
    """The job's photographs in the order they were taken. Raises :class:`NoSuchJob`."""
    row = row_of(number)
    rows = models.Photograph.objects.filter(job=row, removed=False).select_related("who").order_by("id")
    return tuple(_taken(r) for r in rows)


def take(
    number: int, step: str, note: str, data: bytes, name: str, who: AbstractBaseUser | None, uid: str = ""
) -> Taken:
    """Keep a photograph, once for each ``uid`` (32 hexadecimal digits; one is made where none is given). Raises
    :class:`InputError` for what is no picture, and for an id that another picture has."""
    row = row_of(number)
    known = models.Photograph.objects.filter(uid=uid).select_related("who", "job").first() if uid else None
    if known is not None:
        if known.job_id != row.pk or known.who_id != (who.pk if who else None):
            raise InputError("another photograph has this id", name, "Take it once more.")
        return _taken(known)
    made = photograph(data, name)
    if models.Photograph.objects.filter(job=row, removed=False).count() >= MOST_OF_A_JOB:
        raise InputError(f"{MOST_OF_A_JOB} photographs are kept of a job", name, "Remove some first.")
    uid = uid or uuid.uuid4().hex
    _written(folder() / f"{uid}.jpg", made.data)
    # Of two that come at once with one id the second finds the first's row.
    kept, _ = models.Photograph.objects.get_or_create(
        job=row, uid=uid,
        defaults={
            "step": step[:120], "note": note[:600], "width": made.width, "height": made.height, "size": len(made.data), "who": who,
        },
    )  # fmt: skip
    return _taken(kept)


def picture(number: int, uid: str, who: AbstractBaseUser) -> bytes:
    """The JPEG of a photograph. Raises :class:`InputError` where there is none; one of a job that was taken off the board is
    shown to those who may bring the job back."""
    found = models.Photograph.objects.filter(job__number=number, uid=uid).select_related("job").first()
    path = folder() / f"{uid}.jpg"
    hidden = found is not None and found.job.removed is not None and not may(role_of(who), "owner")
    if found is None or hidden or not path.is_file():
        raise InputError("no such photograph", f"job {number}", code=Code.MISSING)
    return path.read_bytes()


@transaction.atomic
def remove(number: int, uid: str, removed: bool) -> None:
    """Take a photograph out of the job, or bring it back. Its file stays until the job's data are removed for good."""
    if not models.Photograph.objects.filter(job__number=number, uid=uid).update(removed=removed):
        raise InputError("no such photograph", f"job {number}", code=Code.MISSING)
    logged("job", str(number), f"a photograph was {'taken out' if removed else 'brought back'}")


def _written(path: Path, data: bytes) -> None:
    """Whole or not at all, readable by its owner only, and on the disk before anybody is told."""
    part = path.with_name(f"{path.stem}.{uuid.uuid4().hex}.part")  # two may write one at once
    try:
        with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        part.replace(path)
    except BaseException:
        part.unlink(missing_ok=True)  # there was no room for it
        raise
    directory = os.open(path.parent, os.O_RDONLY)
    try:
        os.fsync(directory)
    finally:
        os.close(directory)


def _taken(r: models.Photograph) -> Taken:
    return Taken(
        uid=r.uid, step=r.step, note=r.note, width=r.width, height=r.height, at=r.at.isoformat(timespec="seconds"),
        who=r.who.get_username() if r.who else "",
    )  # fmt: skip
