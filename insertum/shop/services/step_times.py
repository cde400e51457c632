"""How long this workshop takes, learnt when a job is closed and forgotten when it is opened again."""

from ...core.bench.learned import Timed, learned, timed, with_learned
from ...core.job.shape import Job
from ...core.machine.shape import Machine
from .. import models
from .table_cache import Kept


def learn(job: Job) -> None:
    """Take down what a closed job timed, in place of what it had; nothing of one that is open or stopped."""
    mine = models.StepTime.objects.filter(job=job.number)
    if mine.exists():  # caches rest on this table: it is not touched for nothing
        mine.delete()
    if not job.hand_over.closed_at or job.stopped is not None:
        return
    rows = [
        models.StepTime(job=job.number, machine=job.identify.machine, obstacle=t.obstacle, way=t.way, seconds=t.seconds)
        for t in timed(job.bench.done, job.bench.ticks)
    ]
    if rows:
        models.StepTime.objects.bulk_create(rows)


def _known() -> dict[str, dict[str, tuple[int, int]]]:
    by_machine: dict[str, list[Timed]] = {}
    for machine, obstacle, way, seconds in models.StepTime.objects.values_list("machine", "obstacle", "way", "seconds"):
        by_machine.setdefault(machine, []).append(Timed(obstacle=obstacle, way=way, seconds=seconds))
    return {machine: learned(times) for machine, times in by_machine.items()}


_kept: Kept[dict[str, dict[str, tuple[int, int]]]] = Kept((models.StepTime,), _known)


def as_timed(machine: Machine | None) -> Machine | None:
    """The machine with the minutes of this workshop, where it has timed them."""
    known = _kept.get().get(machine.id) if machine is not None else None
    return with_learned(machine, known) if machine is not None and known else machine
