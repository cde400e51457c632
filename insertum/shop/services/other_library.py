"""Another workshop's library: looked through first, then taken in beside ours, all or nothing."""

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import InputError
from ...core.frozen import Frozen
from ...core.machine.processor import Processor
from ...core.machine.shape import Machine
from ...core.machine.travel import Brought, Parcel, unpack
from ...core.sighting import Sighting
from ...formats.json_errors import RowsRefused, parsed, shaped
from .. import models
from .machines import checked, machine_files, machine_of, save_machine
from .processors import processors, save_processor
from .sightings import record_sighting
from .unreadable import readable


class LibraryPreview(Frozen):
    """What would come in and what is only shown, with the outcomes that would stand as hearsay."""

    lines: tuple[Brought, ...]
    comes_in: int
    sightings: int
    sightings_left: int
    taken: bool = False


def bring(text: str, where: str, workshop: str, who: AbstractBaseUser | None, take: bool) -> LibraryPreview:
    """Look a library file through, or take it in. Raises :class:`InputError` and keeps nothing where any of it is
    unsound or nobody is named."""
    data = parsed(text, where)
    if not isinstance(data, dict) or data.get("format") != "insertum-library/1":
        raise InputError(
            "not a library file", where, 'It begins with {"format": "insertum-library/1"}; export all makes one.'
        )
    machines, theirs, seen = _rows(data)
    parcel = unpack(machines, theirs, machine_files(), processors(), workshop.strip())
    with transaction.atomic():
        if take:
            _keep(parcel, workshop.strip(), who)
        there = {(s.machine, s.configuration) for s in seen if _has(s, parcel)}
        fresh = [s for s in seen if (s.machine, s.configuration) in there and not _known(s, workshop.strip())]
        if take:
            for s in fresh:
                record_sighting(_hearsay(s, workshop.strip()), who)
    return LibraryPreview(
        lines=parcel.lines, comes_in=sum(x.comes_in for x in parcel.lines), sightings=len(fresh),
        sightings_left=len(seen) - len(fresh), taken=take,
    )  # fmt: skip


def _rows(data: dict[str, Any]) -> tuple[list[Machine], list[Processor], list[Sighting]]:
    problems: list[tuple[int, str, str]] = []
    found: dict[str, list[Any]] = {"machines": [], "processors": [], "sightings": []}

    def each(name: str, read: Any) -> None:
        rows = data.get(name, [])
        for i, row in enumerate(rows if isinstance(rows, list) else [rows], 1):
            try:
                found[name].append(read(row, f"{name[:-1]} {i}"))
            except InputError as error:
                problems.append((i, error.where, error.what))

    each("machines", checked)
    each("processors", lambda row, at: shaped(Processor, row, at))
    each("sightings", lambda row, at: shaped(Sighting, row, at))
    if problems:
        raise RowsRefused(problems, "library")
    if not any(found.values()):
        raise InputError("nothing in it", "library", "Export it anew.")
    return found["machines"], found["processors"], found["sightings"]


def _keep(parcel: Parcel, workshop: str, who: AbstractBaseUser | None) -> None:
    for machine in parcel.machines:
        save_machine(machine, who, f"reported by {workshop}")
    for p in parcel.processors:
        save_processor(p.model_dump(mode="json"), who, new=True)


def _has(seen: Sighting, parcel: Parcel) -> bool:
    """Is its configuration and slot in our library, or does it come in with the parcel?"""
    machine = machine_of(seen.machine)
    if machine is None:
        data = next((m for m in parcel.machines if m["id"] == seen.machine), None)
        machine = Machine.model_validate(data) if data else None
    return machine is not None and (
        any(c.id == seen.configuration for c in machine.configurations)
        and any(s.id == seen.slot for s in machine.slots)
    )


def _hearsay(seen: Sighting, workshop: str) -> Sighting:
    who = f"{workshop}, {seen.who}" if seen.hearsay and seen.who else workshop
    where = seen.where or (f"their job {seen.job}" if seen.job else "their library")
    return seen.model_copy(update={"hearsay": True, "who": who, "where": where, "job": None})


def _known(seen: Sighting, workshop: str) -> bool:
    spec = _hearsay(seen, workshop).model_dump(mode="json")
    rows = models.Sighting.objects.filter(machine=seen.machine, part=seen.part, slot=seen.slot).values_list(
        "spec", flat=True
    )
    same = ("configuration", "outcome", "firmware", "who", "where", "after")
    return any(all(row.get(k) == spec[k] for k in same) for row in rows)


def library_file() -> dict[str, Any]:
    """Everything the library knows, for another workshop or another day."""
    seen = models.Sighting.objects.values_list("spec", flat=True)
    return {
        "format": "insertum-library/1",
        "machines": [m.model_dump(mode="json") for m in machine_files()],
        "processors": [p.model_dump(mode="json") for p in processors()],
        "sightings": [s.model_dump(mode="json") for s in readable(seen, Sighting.model_validate)],
    }
