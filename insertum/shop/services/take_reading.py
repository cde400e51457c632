"""Take in a reading bundle for a job: before the machine is identified it helps to identify it, at
Survey it fills what is fitted, at Prove it is compared."""

from typing import Literal

from django.contrib.auth.models import AbstractBaseUser

from ...core.errors import InputError
from ...core.job.shape import Job
from ...core.prove.compare import same_machine
from ...core.reading import Reading
from ...formats.bundle import files_of
from ...formats.readings import read_bundle
from .edit_job import add_to, write_all
from .jobs import desk_of


def take_reading(
    number: int, data: bytes, station: Literal["survey", "prove"], who: AbstractBaseUser | None
) -> tuple[Job, Reading]:
    """Read a bundle and keep the reading. Raises :class:`InputError` for what is no bundle, holds
    nothing, or comes from another machine; the job is then unchanged."""
    reading = read_bundle(files_of(data))
    if not reading.understood:
        raise InputError("nothing in it was understood", "bundle", "; ".join(reading.not_understood) or "It is empty.")
    desk = desk_of(number)
    if desk.job.identify.configuration:
        same_machine(desk.plain.system_name, reading)
    if station == "survey":
        # What was believed before was said of another reading.
        found = {"/survey/reading": reading.model_dump(mode="json"), "/survey/believed": {}}
        return write_all(number, found, who), reading
    _ = desk.must_plan
    return add_to(number, "/prove/readings", reading.model_dump(mode="json"), who), reading
