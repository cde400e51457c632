"""What was changed here, by whom and when: every log of the house as one list, newest first, searched by words."""

import json
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import timedelta
from itertools import islice
from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db.models import Model, Q, QuerySet
from django.utils import timezone

from ...core.base import Frozen
from ...core.changed import changed
from .. import models

#: Changes on a page, and signs of what stood and stands there.
PAGE, MOST_SHOWN = 50, 300
#: Days in which what was removed can be brought back.
KEPT_DAYS = 30


class HistoryLine(Frozen):
    """One change. ``about`` is what kind of thing it was made to, ``key`` which one; ``change`` is its number among those
    of its kind, where it can be taken back."""

    change: int | None = None
    at: str
    who: str
    about: str
    key: str
    says: str
    before: Any = None
    after: Any = None


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
    return HistoryPage(changes=tuple(_short(_changed(r)) for r in shown), page=page, more=len(found) > page * PAGE)


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


def _short(line: HistoryLine) -> HistoryLine:
    """With the beginning of what is long: a reading, a plan."""
    long = {}
    for name in ("before", "after"):
        value = getattr(line, name)
        places = value if isinstance(value, dict) else {"": value}
        cut = {p: _beginning(v) for p, v in places.items()}
        long[name] = cut if isinstance(value, dict) else cut[""]
    return line.model_copy(update=long)


def _beginning(value: Any) -> Any:
    if not isinstance(value, str | dict | list):
        return value
    told = value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)
    return value if len(told) <= MOST_SHOWN else f"{told[:MOST_SHOWN]} …"


def _changed(r: Any) -> HistoryLine:
    told = {"at": r.at.isoformat(timespec="seconds"), "who": r.who.get_username() if r.who else ""}
    if isinstance(r, models.JobEdit):
        says = r.path.strip("/").replace("/", ", ").replace("_", " ") + (", taken back since" if r.undone else "")
        return HistoryLine(
            about="job", key=str(r.job.number), says=says, before=r.before, after=r.after,
            change=None if r.undone else r.pk, **told,
        )  # fmt: skip
    if isinstance(r, models.Entry):
        if can_be_brought_back(r):
            return HistoryLine(about=r.about, key=r.key, says=r.says, before=r.before, change=r.pk, **told)
        back = (
            (r.about == "settings" or (r.about == "part" and bool(r.key)))
            and isinstance(r.before, dict)
            and isinstance(r.after, dict)
        )
        before, after = changed(r.before, r.after) if back else (r.before, r.after)
        return HistoryLine(
            about=r.about, key=r.key, says=r.says, before=before, after=after, change=r.pk if back else None, **told
        )
    about, key = ("machine", r.machine) if isinstance(r, models.MachineEdit) else ("processor", r.processor)
    then = after_of(r)
    if not isinstance(r.before, dict) or not isinstance(then, dict):
        return HistoryLine(about=about, key=key, says=r.what, **told)
    before, after = changed(r.before, then)
    return HistoryLine(about=about, key=key, says=r.what, before=before, after=after, change=r.pk, **told)


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
