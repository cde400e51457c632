"""Processors as they are looked at: the list with the machines that name each, and one's page."""

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.machine.processor import Processor, named_by
from . import machines, processors
from .shapes import Choice


class ProcessorLine(Frozen):
    """A processor and the configurations that name it."""

    processor: Processor
    machines: tuple[Choice, ...]


class ProcessorPage(ProcessorLine):
    changes: tuple[processors.ProcessorChange, ...]


class ProcessorList(Frozen):
    """``missing`` are processors that machines name and the library lacks."""

    lines: tuple[ProcessorLine, ...]
    missing: tuple[str, ...]


def every() -> ProcessorList:
    """All of the library, and those that machines name and it lacks."""
    known = processors.processors()
    named: dict[str, list[Choice]] = {p.id: [] for p in known}
    missing: dict[str, None] = {}
    for machine, c in machines.library().every:
        found = named_by(c, known)
        if found:
            named[found.id].append(Choice(number=f"{machine.id}/{c.id}", name=f"{machine.maker} {c.name}"))
        elif c.processor and c.processor != "unknown":
            missing[c.processor] = None
    lines = tuple(ProcessorLine(processor=p, machines=tuple(named[p.id])) for p in known)
    return ProcessorList(lines=lines, missing=tuple(missing))


def page(slug: str) -> ProcessorPage:
    """Raises :class:`InputError` for one the library lacks."""
    line = next((x for x in every().lines if x.processor.id == slug), None)
    if line is None:
        raise InputError(
            f"no processor {slug!r}", "processors", "Choose one of the library, or add it.", code=Code.MISSING
        )
    return ProcessorPage(**dict(line), changes=processors.changes_of(slug))
