"""The shelf of parts taken out: origin, condition, and what became of the data on a drive."""

from collections.abc import Callable
from typing import TypeVar

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.machine.drive_parts import BayDrive, M2Drive
from .. import models
from .history import entered, logged
from .jobs import desk_of
from .parts import part_of
from .table_cache import Kept

T = TypeVar("T")
CONDITIONS = ("good", "worn", "untested", "faulty")
ERASED = ("no data", "not yet", "erased", "returned to owner")
STATES = ("on the shelf", "used", "returned", "scrapped")


class OnShelf(Frozen):
    id: int
    number: str
    name: str
    kind: str
    origin: str
    job: int | None
    condition: str
    erased: str
    erased_note: str
    price_minor: int | None
    state: str
    note: str
    at: str


def shelf(state: str = "") -> tuple[OnShelf, ...]:
    """What lies on the shelf, in ``state`` where one is given; the first thousand."""
    rows = models.ShelfPart.objects.all()
    if state:
        rows = rows.filter(state=state)
    return tuple(_shown(r) for r in rows[:1000])


def counts() -> dict[str, int]:
    """How many of each part number lie on the shelf and may be fitted: sound, and no data on them."""
    found: dict[str, int] = {}
    rows = models.ShelfPart.objects.filter(state="on the shelf", condition__in=("good", "worn"))
    for number in rows.exclude(erased="not yet").values_list("number", flat=True):
        found[number] = found.get(number, 0) + 1
    return found


def _shown(row: models.ShelfPart) -> OnShelf:
    names = [n for n in OnShelf.model_fields if n not in ("at", "id")]
    return OnShelf(id=row.pk, at=row.at.date().isoformat(), **{n: getattr(row, n) for n in names})


def put(
    number: str, origin: str, condition: str, note: str, who: AbstractBaseUser | None, job: int | None = None
) -> OnShelf:
    """Put a part on the shelf. A drive's data state is "not yet" until somebody says otherwise."""
    _one_of(condition, CONDITIONS, "condition")
    part = part_of(number)
    drive = isinstance(part, M2Drive | BayDrive)
    row = models.ShelfPart.objects.create(
        number=number,
        name=part.name if part else number,
        kind=part.kind if part else "",
        origin=origin[:200],
        job=job,
        condition=condition,
        erased="not yet" if drive or part is None else "no data",
        note=note[:300],
        who=who,
    )
    entered("shelf", number, f"{row.name} put on the shelf", None, {"origin": row.origin, "erased": row.erased}, who)
    return _shown(row)


@transaction.atomic
def put_from_job(number: int, who: AbstractBaseUser | None) -> tuple[OnShelf, ...]:
    """Put everything that was taken out at a job on the shelf, once: drives wait there for their erasure."""
    desk = desk_of(number)
    if models.ShelfPart.objects.filter(job=number).exists():
        raise InputError("its parts are on the shelf already", f"job {number}", "Change them under Parts.")
    build = desk.must_plan
    done = desk.job.bench.done
    taken = [(s, p) for s in build.changed() if f"out:{s}" in done and (p := build.fitted.get(s)) is not None]
    if not taken:
        raise InputError(
            "nothing was taken out yet", f"job {number}", "What comes out is ticked at the bench.", code=Code.NOT_YET
        )
    title = f"{build.machine.title}, job {number}"
    return tuple(put(p.number, f"{title}, {build.machine.slot(s).name}", "untested", "", who, number) for s, p in taken)


@transaction.atomic
def change(
    id: int, condition: str, erased: str, erased_note: str, state: str, note: str, price_minor: int | None = None
) -> OnShelf:
    """Change what is said of a part. A drive with somebody's data on it is not used, and not credited:
    it is erased and recorded first, or returned."""
    _one_of(condition, CONDITIONS, "condition")
    _one_of(erased, ERASED, "data")
    _one_of(state, STATES, "state")
    row = models.ShelfPart.objects.select_for_update().filter(pk=id).first()
    if row is None:
        raise InputError("no such part on the shelf", "shelf", "Reload the list.", code=Code.MISSING)
    if erased == "not yet" and state == "used":
        raise InputError("it holds somebody's data", row.number, "Erase it and record how, or return it to its owner.")
    if erased == "erased" and not erased_note.strip():
        raise InputError("how it was erased is not said", row.number, "Write the method, and who did it.")
    told = ("condition", "erased", "erased_note", "state", "note", "price_minor")
    before = {n: getattr(row, n) for n in told}
    row.condition, row.erased, row.erased_note = condition, erased, erased_note[:300]
    row.state, row.note, row.price_minor = state, note[:300], price_minor
    row.save()
    after = {n: getattr(row, n) for n in told}
    if after != before:
        logged("shelf", row.number, f"{row.name} on the shelf: {row.state}, {row.erased}", before, after)
    return _shown(row)


def _one_of(value: str, allowed: tuple[str, ...], where: str) -> None:
    if value not in allowed:
        raise InputError(f"{value!r} is none of them", where, f"Choose {', '.join(allowed)}.")


def while_nothing_changes(make: Callable[[], T]) -> Kept[T]:
    """Something made of the catalogue and the shelf, until either changes."""
    return Kept((models.Part, models.ShelfPart), make)
