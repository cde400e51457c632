"""A part nobody knew, found in a machine: into the catalogue and into its slot, both or neither."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.job.shape import Job
from ...core.machine.part import AnyPart
from .edit_job import write
from .parts import save_part


@transaction.atomic
def found_new(number: int, slot: str, part: AnyPart, who: AbstractBaseUser | None) -> Job:
    """Take a part found in a job's machine into the catalogue and name it as fitted there."""
    save_part(part)
    return write(number, f"/survey/fitted/{slot}", part.model_dump(mode="json"), who)
