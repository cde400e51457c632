"""Drafts of machines: from nothing, a copy, a reading; and a slot more for one."""

from typing import Any

from ...core.errors import Code, InputError
from ...core.survey import draft
from ...formats.bundle import files_of
from ...formats.readings import read_bundle
from . import jobs, machines, parts


def from_nothing(maker: str, name: str) -> dict[str, Any]:
    """One with nothing but its name."""
    return draft.blank_machine(maker, name)


def from_copy(machine: str, configuration: str) -> dict[str, Any]:
    """Raises :class:`InputError` for a machine the library lacks."""
    found = machines.machine_file(machine)
    if found is None:
        raise InputError(f"no machine {machine!r}", "copy", "Choose one of the library.", code=Code.MISSING)
    return draft.copied(found, configuration)


def from_job(number: int) -> dict[str, Any]:
    """Of the reading of a job. Raises :class:`InputError` where it has none."""
    reading = jobs.job_of(number).survey.reading
    if reading is None:
        raise InputError(
            "this job has no reading yet", f"job {number or None}", "Read a bundle first.", code=Code.NOT_YET
        )
    return draft.from_reading(reading, parts.catalogue())


def from_bundle(data: bytes, name: str) -> dict[str, Any]:
    """Of a reading bundle. Raises :class:`InputError` where nothing in it was understood."""
    reading = read_bundle(files_of(data, name))
    if not reading.understood:
        raise InputError("nothing in it was understood", name, "; ".join(reading.not_understood))
    return draft.from_reading(reading, parts.catalogue())


def slot_of(template: str, data: dict[str, Any]) -> dict[str, Any]:
    """A slot of a template, placed where it overlaps none of the draft's. Raises :class:`InputError`."""
    if template not in draft.TEMPLATES:
        raise InputError(
            f"no template {template!r}", "slot", f"There are {', '.join(draft.TEMPLATES)}.", code=Code.MISSING
        )
    slots = data.get("slots")
    taken = (
        [s for s in slots if isinstance(s, dict) and isinstance(s.get("place"), dict)]
        if isinstance(slots, list)
        else []
    )
    width = data.get("width_mm")
    return draft.slot_from(template, taken, float(width) if isinstance(width, int | float) else 320)
