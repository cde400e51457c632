"""The library of processors: read it, change it with a record of who did, exchange it."""

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.machine.processor import Processor
from ...core.spelling import folded
from ...core.survey.draft import slug as id_of
from ...formats.json_errors import RowsRefused, parsed, shaped
from .. import models
from .table_cache import Kept
from .unreadable import readable

_processors = Kept(
    (models.Processor,),
    lambda: tuple(readable(models.Processor.objects.values_list("spec", flat=True), Processor.model_validate)),
)


class ProcessorReport(Frozen):
    """What an import did, processor by processor."""

    added: tuple[str, ...]
    changed: tuple[str, ...]
    same: tuple[str, ...]


class ProcessorChange(Frozen):
    what: str
    who: str
    at: str


def processors() -> tuple[Processor, ...]:
    """Every processor of the library, as last kept."""
    return _processors.get()


def save_processor(data: Any, who: AbstractBaseUser | None, new: bool = False, what: str = "edited") -> Processor:
    """Keep a processor as the page has it. Raises :class:`InputError` and keeps nothing where it is not sound."""
    processor = shaped(Processor, data, "processor")
    with transaction.atomic():
        if new and models.Processor.objects.filter(slug=processor.id).exists():
            raise InputError(
                f"{processor.name} is in the library already", "processor, name", "Open it there.", code=Code.TAKEN
            )
        _store(processor, who, "added" if new else what)
        _one_of_each_name()
    return processor


def add_processor(data: dict[str, Any], who: AbstractBaseUser | None) -> Processor:
    """A new one, whose id follows its name."""
    return save_processor({**data, "id": id_of(str(data.get("name", "")))}, who, new=True)


def import_processors(text: str, where: str, who: AbstractBaseUser | None) -> ProcessorReport:
    """Import one processor, a list or a file of them, all or nothing, every unsound row reported."""
    data = parsed(text, where)
    if isinstance(data, dict) and "processors" in data:
        data = data["processors"]
    rows = data if isinstance(data, list) else [data]
    found: list[Processor] = []
    problems = []
    for i, row in enumerate(rows, 1):
        try:
            found.append(shaped(Processor, row, f"processor {i}"))
        except InputError as error:
            problems.append((i, error.where.removeprefix(f"processor {i}").strip(", ") or "processor", error.what))
    if problems:
        raise RowsRefused(problems, "processor")
    if not found:
        raise InputError("no processor in it", where, "Write one processor, or a list of them.")
    if len({p.id for p in found}) < len(found):
        raise InputError("one processor stands twice in it", where, "Take one of them out.")
    done: dict[str, list[str]] = {"added": [], "changed": [], "same": []}
    with transaction.atomic():
        for p in found:
            done[_store(p, who, f"imported from {where}")].append(p.id)
        _one_of_each_name()
    return ProcessorReport(**{k: tuple(v) for k, v in done.items()})


def _one_of_each_name() -> None:
    """Raises :class:`InputError` where two records have one name: machines that name it would carry neither's claims."""
    seen: dict[str, str] = {}
    for slug, name in models.Processor.objects.values_list("slug", "name"):
        if (other := seen.setdefault(folded(name), slug)) != slug:
            raise InputError(f"{name} is {other} and {slug}", "processor, name", "One of them has another name.")


def _store(processor: Processor, who: AbstractBaseUser | None, what: str) -> str:
    spec = processor.model_dump(mode="json")
    row = models.Processor.objects.select_for_update().filter(slug=processor.id).first()
    if row and row.spec == spec:
        return "same"
    models.ProcessorEdit.objects.create(
        processor=processor.id, what=what[:300], before=row.spec if row else None, who=who
    )
    models.Processor.objects.update_or_create(
        slug=processor.id, defaults={"maker": processor.maker, "name": processor.name, "spec": spec}
    )
    return "changed" if row else "added"


def changes_of(slug: str) -> tuple[ProcessorChange, ...]:
    """Who changed what and when, newest first."""
    rows = models.ProcessorEdit.objects.filter(processor=slug).select_related("who")[:50]
    return tuple(
        ProcessorChange(what=r.what, who=r.who.get_username() if r.who else "", at=r.at.isoformat(timespec="minutes"))
        for r in rows
    )
