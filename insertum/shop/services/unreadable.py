"""Rows that cannot be read: one line that says so, never a page that fails."""

from collections.abc import Callable, Iterable, Iterator
from typing import Any, TypeVar

from pydantic import ValidationError

from ...core.errors import InputError
from ...core.frozen import Frozen
from ...formats.json_errors import first_problem
from .. import models

T = TypeVar("T")


class Unreadable(Frozen):
    """One stored row no shape of today can hold: what it is, and what stands against it."""

    kind: str
    name: str
    what: str


def readable(rows: Iterable[Any], read: Callable[[Any], T]) -> Iterator[T]:
    """The rows that can be read; the others are left out here and named by :func:`unreadable`."""
    for spec in rows:
        try:
            yield read(spec)
        except (ValidationError, InputError):
            continue


def unreadable() -> tuple[Unreadable, ...]:
    """Every stored row that cannot be read, with the first thing that stands against it."""
    from ...core.job.shape import Job
    from ...core.machine.shape import Machine
    from ...core.sighting import Sighting
    from ...formats.parts import PART

    every: list[tuple[str, Any, str, Callable[[Any], Any]]] = [
        ("machine", models.Machine, "slug", Machine.model_validate),
        ("part", models.Part, "number", PART.validate_python),
        ("job", models.Job, "number", Job.model_validate),
        ("sighting", models.Sighting, "part", Sighting.model_validate),
    ]
    found = []
    for kind, model, name, read in every:
        for row_name, spec in model.objects.values_list(name, "spec"):
            if problem := _problem(read, spec):
                found.append(Unreadable(kind=kind, name=str(row_name), what=problem))
    return tuple(found)


def _problem(read: Callable[[Any], Any], spec: Any) -> str:
    try:
        read(spec)
    except ValidationError as error:
        field, message = first_problem(error)
        return f"{field}: {message}" if field else message
    except InputError as error:
        return str(error)
    return ""
