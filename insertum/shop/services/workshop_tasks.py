"""The catalogue of tasks as the workshop's settings list it."""

from ...core.frozen import Frozen
from ...core.tasks.catalogue import CATALOGUE


class TaskLine(Frozen):
    """A task of the catalogue, with what it takes where a workshop says nothing else."""

    id: str
    name: str
    seconds: int
    consumables_minor: int
    consumables: tuple[str, ...]


def every_task() -> list[TaskLine]:
    """All of them."""
    return [TaskLine.model_validate(t, from_attributes=True) for t in CATALOGUE]
