"""Take back one change out of the history: what else was changed since stays."""

from collections.abc import Callable, Mapping
from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.machine.merge import merged
from ...formats.json_errors import shaped
from ...formats.parts import PART
from .. import models
from . import edit_job
from .history import after_of
from .machines import machine_file, save_machine
from .parts import part_of, save_part
from .processors import processors, save_processor
from .workshop import Workshop, save_workshop, workshop


def take_back(kind: str, change: int, who: AbstractBaseUser | None) -> None:
    """Put what one change changed back to what stood there before. Raises :class:`InputError` where it was changed again
    since, or where nothing stood there."""
    if kind == "job":
        edit_job.take_back(change, who)
        return
    with transaction.atomic():
        _KINDS[kind](change, who)


def _machine(change: int, who: AbstractBaseUser | None) -> None:
    edit = _found(models.MachineEdit, change)
    machine = machine_file(edit.machine)
    now = None if machine is None else machine.model_dump(mode="json")
    save_machine(_back(edit.before, after_of(edit), now), who, f"taken back: {edit.what}"[:300])


def _processor(change: int, who: AbstractBaseUser | None) -> None:
    edit = _found(models.ProcessorEdit, change)
    processor = next((p for p in processors() if p.id == edit.processor), None)
    now = None if processor is None else processor.model_dump(mode="json")
    save_processor(_back(edit.before, after_of(edit), now), who, what=f"taken back: {edit.what}"[:300])


def _part(change: int, who: AbstractBaseUser | None) -> None:
    entry = _found(models.Entry, change, about="part")
    part = part_of(entry.key)
    now = None if part is None else part.model_dump(mode="json")
    save_part(PART.validate_python(_back(entry.before, entry.after, now)))


def _settings(change: int, who: AbstractBaseUser | None) -> None:
    entry = _found(models.Entry, change, about="settings")
    now = workshop().model_dump(mode="json")
    told = {k: now[k] for k in entry.before or () if k in now}
    save_workshop(shaped(Workshop, now | _back(entry.before, entry.after, told), "settings"), who)


_KINDS: Mapping[str, Callable[[int, AbstractBaseUser | None], None]] = {
    "machine": _machine,
    "processor": _processor,
    "part": _part,
    "settings": _settings,
}


def _found(table: Any, change: int, **more: Any) -> Any:
    row = table.objects.filter(pk=change, **more).first()
    if row is None:
        raise InputError("no such change", f"change {change}", "Reload the history.", code=Code.MISSING)
    return row


def _back(before: Any, after: Any, now: Any) -> dict[str, Any]:
    """What stands now, with this one change taken out of it."""
    if not isinstance(before, dict) or not isinstance(after, dict):
        raise InputError("nothing stood there before", "history", "Remove it where it is shown, if it is not wanted.")
    if now is None:
        raise InputError("it is no longer here", "history", "Bring it in again first.")
    found = merged(after, before, now)
    if found.conflicts:
        raise InputError("it was changed again since", ", ".join(found.conflicts)[:300], "Change it by hand.")
    if found.data == now:
        raise InputError("it is taken back already", "history", "Reload the history.", code=Code.MISSING)
    return found.data
