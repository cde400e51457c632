"""What was changed here, by whom and when: every log of the house as one list, newest first, searched by words."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import timedelta
from itertools import islice
from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db.models import Model, Q, QuerySet
from django.utils import timezone

from ...core.diff_words import ChangedPlace, changed_places, place
from ...core.frozen import Frozen
from ...core.job.edit import pointed
from ...core.machine.shape import Machine
from .. import models

#: Changes on a page.
PAGE = 50
#: Fields of a whole document that have an attribute's name and are none.
_OWN: dict[str, tuple[str, ...]] = {"machine": tuple(Machine.model_fields), "processor": ()}
#: Days in which what was removed can be brought back.
KEPT_DAYS = 30


class HistoryLine(Frozen):
    """One change. ``about`` is what kind of thing it was made to, ``key`` which one, ``places`` what stood and stands there
    in words; ``change`` is its number among those of its kind, where it can be taken back."""

    change: int | None = None
    at: str
    who: str
    about: str
    key: str
    says: str
    places: tuple[ChangedPlace, ...] = ()


class HistoryPage(Frozen):
    changes: tuple[HistoryLine, ...]
    page: int
    more: bool


def entered(
    about: str, key: str, says: str, before: Any, after: Any, who: AbstractBaseUser | None
) -> None:  # fmt: skip
    """Log a change of something that has no log of its own."""
    known = who if who is not None and getattr(who, "pk", None) else None
    models.Entry.objects.create(about=about, key=key[:120], says=says[:400], before=before, after=after, who=known)


#: Who is at work in this request; a command from a terminal has nobody.
_acting: ContextVar[AbstractBaseUser | None] = ContextVar("acting", default=None)


@contextmanager
def acting(who: AbstractBaseUser | None) -> Iterator[None]:
    """Whoever it is that makes the changes within."""
    token = _acting.set(who)
    try:
        yield
    finally:
        _acting.reset(token)


def at_work(who: AbstractBaseUser | None) -> None:
    """The person of the request that is being answered; :func:`acting` around the whole of it ends it."""
    _acting.set(who)


def who_is_at_work() -> AbstractBaseUser | None:
    """Whoever makes the changes of this request; None for a command."""
    return _acting.get()


def logged(about: str, key: str, says: str, before: Any = None, after: Any = None) -> None:
    """Log a change made by whoever is at work."""
    entered(about, key, says, before, after, _acting.get())


def history(text: str, page: int) -> HistoryPage:
    """A page of changes whose words, place or person hold what was typed."""
    words = text.split()
    reach = page * PAGE + 1
    found = [
        *_of(models.Entry, words, ("about", "key", "says"), reach),
        *_of(models.MachineEdit, words, ("machine", "what"), reach),
        *_of(models.ProcessorEdit, words, ("processor", "what"), reach),
        *_of(models.JobEdit, words, ("path", "job__customer", "job__title"), reach),
    ]
    found.sort(key=lambda r: (r.at, type(r).__name__, r.pk), reverse=True)
    shown = islice(found, (page - 1) * PAGE, page * PAGE)
    return HistoryPage(changes=tuple(_line(r) for r in shown), page=page, more=len(found) > page * PAGE)


def _of(table: type[Model], words: list[str], fields: tuple[str, ...], reach: int) -> QuerySet[Any]:
    rows = table._default_manager.select_related("who").order_by("-id")
    if table is models.JobEdit:
        rows = rows.select_related("job", "who").defer("job__spec")
    if table in (models.MachineEdit, models.ProcessorEdit):
        rows = rows.defer("before")  # whole documents: read for those that are shown
    for word in words:
        asked = Q(who__username__icontains=word)
        for name in fields:
            asked |= Q(**{f"{name}__icontains": word})
        if table is models.JobEdit and word.isdigit() and len(word) < 10:
            asked |= Q(job__number=int(word))
        rows = rows.filter(asked)
    return rows[:reach]


def _line(r: Any) -> HistoryLine:
    about = {"at": r.at.isoformat(timespec="seconds"), "who": r.who.get_username() if r.who else ""}
    if isinstance(r, models.JobEdit):
        path = pointed(r.path)
        says = place(path) + (", taken back since" if r.undone else "")
        # The line itself says where it is: a single value needs no place of its own.
        places = tuple(
            t.model_copy(update={"place": ""}) if t.place == place(path) else t
            for t in changed_places(path, r.before, r.after)
        )
        return HistoryLine(
            about="job", key=str(r.job.number), says=says, places=places, change=None if r.undone else r.pk, **about
        )
    if isinstance(r, models.Entry):
        field = "price_minor" if r.about == "prices" else ""
        back = can_be_brought_back(r) or (
            (r.about == "settings" or (r.about == "part" and bool(r.key)))
            and isinstance(r.before, dict)
            and isinstance(r.after, dict)
        )
        places = changed_places((), r.before, r.after, field)
        return HistoryLine(about=r.about, key=r.key, says=r.says, places=places, change=r.pk if back else None, **about)
    kind, key = ("machine", r.machine) if isinstance(r, models.MachineEdit) else ("processor", r.processor)
    then = after_of(r)
    if not isinstance(r.before, dict) or not isinstance(then, dict):
        return HistoryLine(about=kind, key=key, says=r.what, **about)
    return HistoryLine(
        about=kind,
        key=key,
        says=r.what,
        places=changed_places((), r.before, then, own=_OWN[kind]),
        change=r.pk,
        **about,
    )


def can_be_brought_back(entry: models.Entry) -> bool:
    """Is this the taking back of an outcome, not too long ago?"""
    kept = timezone.now() - timedelta(days=KEPT_DAYS)
    return entry.about == "sighting" and bool(entry.before) and entry.after is None and entry.at > kept


def after_of(edit: models.MachineEdit | models.ProcessorEdit) -> Any:
    """What an edit left: what stood before the next one, or what stands there now; None where it is gone."""
    if isinstance(edit, models.MachineEdit):
        later = models.MachineEdit.objects.filter(machine=edit.machine, pk__gt=edit.pk)
        now = models.Machine.objects.filter(slug=edit.machine)
    else:
        later = models.ProcessorEdit.objects.filter(processor=edit.processor, pk__gt=edit.pk)
        now = models.Processor.objects.filter(slug=edit.processor)
    following = later.order_by("pk").values_list("before", flat=True).first()
    return following if following is not None else now.values_list("spec", flat=True).first()
