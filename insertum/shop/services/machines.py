"""The machine library: read it, import into it, and change it with a record of who did."""

from collections import Counter
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.identify.library import Library
from ...core.machine.merge import merged
from ...core.machine.processor import dressed
from ...core.machine.shape import Machine
from ...formats.json_errors import RowsRefused, parsed, shaped
from .. import models
from .processors import processors
from .table_cache import Kept
from .unreadable import readable

_library = Kept((models.Machine, models.Processor), lambda: Library([dressed(m, processors()) for m in _plain()]))


def _plain() -> list[Machine]:
    return list(readable(models.Machine.objects.values_list("spec", flat=True), Machine.model_validate))


class MachineReport(Frozen):
    """What an import did, machine by machine."""

    added: tuple[str, ...]
    changed: tuple[str, ...]
    same: tuple[str, ...]

    @property
    def ids(self) -> tuple[str, ...]:
        return (*self.added, *self.changed, *self.same)


class MachineChange(Frozen):
    what: str
    who: str
    at: str


def library() -> Library:
    """Every machine, as the core knows it, with its processors' claims, its marks indexed."""
    return _library.get()


def machine_of(slug: str) -> Machine | None:
    """A machine to be judged and looked at: with its processors' claims."""
    return library().by_id.get(slug)


def machine_file(slug: str) -> Machine | None:
    """A machine as its file holds it, to be edited, copied and exchanged: what processors say is theirs."""
    spec = models.Machine.objects.filter(slug=slug).values_list("spec", flat=True)
    return next(iter(readable(spec, Machine.model_validate)), None)


def machine_files() -> list[Machine]:
    """The whole library as its files hold it."""
    return _plain()


def worked_on() -> dict[str, int]:
    """The workshop's own counts by "machine/configuration": the prior at Identify."""
    rows = models.Job.objects.exclude(configuration="").values_list("machine", "configuration")
    return dict(Counter(f"{m}/{c}" for m, c in rows))


def checked(data: Any, where: str) -> Machine:
    """A machine that is sound in every configuration. Raises :class:`InputError` where it is not."""
    machine = shaped(Machine, data, where)
    for c in machine.configurations:
        machine.configured(c.id)
    return machine


def import_machines(text: str, where: str = "machine file", who: AbstractBaseUser | None = None) -> MachineReport:
    """Import one machine, a list of them, or a library file, all or nothing: where any is unsound,
    every unsound one is reported and none is taken in."""
    data = parsed(text, where)
    if isinstance(data, dict) and data.get("format") == "insertum-library/1":
        data = data.get("machines")
    rows = data if isinstance(data, list) else [data]
    machines, problems = [], []
    for i, d in enumerate(rows, 1):
        try:
            machines.append(checked(d, f"machine {i}"))
        except InputError as error:
            problems.append((i, error.where.removeprefix(f"machine {i}").strip(", ") or "machine", error.what))
    if problems:
        raise RowsRefused(problems, "machine")
    if len({m.id for m in machines}) < len(machines):
        raise InputError("one machine stands twice in it", where, "Take one of them out.")
    if not machines:
        raise InputError("no machine in it", where, 'Write one machine, a list, or {"format": "insertum-library/1"}.')
    done: dict[str, list[str]] = {"added": [], "changed": [], "same": []}
    with transaction.atomic():
        for m in machines:
            done[_store(m, who, f"imported from {where}")].append(m.id)
    return MachineReport(**{k: tuple(v) for k, v in done.items()})


def save_machine(data: Any, who: AbstractBaseUser | None, what: str = "edited") -> Machine:
    """Save a machine from the editor under its own id. Raises :class:`InputError` and saves nothing
    where it is not sound."""
    machine = checked(data, "machine")
    with transaction.atomic():
        _store(machine, who, what)
    return machine


@transaction.atomic
def save_edited(mine: dict[str, Any], base: dict[str, Any], prefer: bool, who: AbstractBaseUser | None) -> Machine:
    """Save what somebody changed since ``base`` beside what others have changed meanwhile. Raises :class:`InputError`,
    and keeps what stands, where both changed the same thing differently, unless mine is preferred there."""
    slug = str(base.get("id"))
    theirs = machine_file(slug)
    if theirs is None:
        raise InputError(f"{slug} is no longer in the library", "machine", "Save it under another id.", Code.MISSING)
    if mine.get("id") != slug:
        raise InputError(
            f"this machine is {slug} in the library, and jobs name it so", "machine, id", "Copy it to begin another."
        )
    now = theirs.model_dump(mode="json")
    found = merged(base, mine, now)
    if found.conflicts and not prefer:
        raise InputError(
            "somebody else changed the same thing meanwhile", ", ".join(found.conflicts)[:400],
            "Keep yours there, or load theirs. Everything else of both is kept either way.",
            Code.CONFLICT, dict.fromkeys(found.conflicts, ()),
        )  # fmt: skip
    return save_machine(merged(base, now, mine).data if prefer else found.data, who, "edited")


def _store(machine: Machine, who: AbstractBaseUser | None, what: str) -> str:
    spec = machine.model_dump(mode="json")
    row = models.Machine.objects.select_for_update().filter(slug=machine.id).first()
    if row and row.spec == spec:
        return "same"
    models.MachineEdit.objects.create(machine=machine.id, what=what[:300], before=row.spec if row else None, who=who)
    models.Machine.objects.update_or_create(
        slug=machine.id, defaults={"maker": machine.maker, "name": machine.name, "spec": spec}
    )
    return "changed" if row else "added"


def changes_of(slug: str) -> tuple[MachineChange, ...]:
    """Who changed what and when, newest first."""
    rows = models.MachineEdit.objects.filter(machine=slug).select_related("who")[:50]
    return tuple(
        MachineChange(what=r.what, who=r.who.get_username() if r.who else "", at=r.at.isoformat(timespec="minutes"))
        for r in rows
    )
