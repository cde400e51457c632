"""Tasks beside a chosen plan: offered with what each adds, and taken on or off one by one, never smuggled in."""

from collections.abc import Sequence

from django.contrib.auth.models import AbstractBaseUser

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.job.desk import Desk
from ...core.job.shape import Job
from ...core.plan.added_tasks import Besides
from ...core.plan.request import TaskOffer
from ...core.prepare.gates import TASK_GATES
from .answer_cache import answered
from .edit_job import write_all
from .jobs import desk_of


class Beside(Frozen):
    """A task with what it adds to the chosen plan (the cover is opened once), or why it is not offered."""

    id: str
    name: str
    mends: str
    planned: bool
    done: bool
    why: str
    adds_minor: int
    seconds: int
    caution: str
    steps: tuple[str, ...]


def beside(number: int) -> tuple[Beside, ...]:
    """Every task that can be thought of on the job's machine; none before a plan is chosen."""
    return answered("beside", number, lambda: _beside(desk_of(number)))


def _beside(desk: Desk) -> tuple[Beside, ...]:
    chosen = desk.job.plan.chosen
    if chosen is None:
        return ()
    with_plan = Besides(chosen.request, chosen.plan, chosen.grown)
    planned = {t.id: t for t in chosen.plan.tasks}
    found = []
    for o in desk.tasks_offered:
        task = planned.get(o.id, o.task)
        minor, seconds = with_plan.adds(task) if task is not None else (0, 0)
        found.append(
            Beside(
                id=o.id, name=o.name, mends=o.mends, planned=o.id in planned, done=f"task:{o.id}" in desk.job.bench.done,
                why=o.why if task is None else "", adds_minor=minor, seconds=seconds,
                caution=task.caution if task else "", steps=task.steps if task else (),
            )
        )  # fmt: skip
    return tuple(found)


def plan_tasks(number: int, ids: Sequence[str], who: AbstractBaseUser | None) -> Job:
    """The chosen plan with just these tasks beside its parts. Its price is another, so the owner's word is asked anew;
    a task that was done stays. Raises :class:`InputError` without a plan, or for what is not offered."""
    desk = desk_of(number)
    chosen = desk.job.plan.chosen
    if chosen is None:
        raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.", code=Code.NOT_YET)
    planned = {t.id: t for t in chosen.plan.tasks}
    offered = {o.id: o.task for o in desk.tasks_offered if o.task is not None} | planned
    tasks: list[TaskOffer] = []
    for ident in dict.fromkeys(ids):
        task = offered.get(ident)
        if task is None:
            raise InputError(f"no task {ident!r} is offered on this machine", "tasks", "Take one of those shown.")
        tasks.append(task)
    if gone := [t.name for i, t in planned.items() if i not in ids and f"task:{i}" in desk.job.bench.done]:
        raise InputError(f"{gone[0]} is done already", "tasks", "Take its tick back first.")
    if {t.id for t in tasks} == set(planned):
        return desk.job
    plan = Besides(chosen.request, chosen.plan, chosen.grown).having(tasks)
    by_hand = set(planned) if chosen.by_hand is None else set(chosen.by_hand)
    by_hand |= {t.id for t in tasks if t.id not in planned}
    snapshot = chosen.model_copy(
        update={"plan": plan, "by_hand": tuple(t.id for t in tasks if t.id in by_hand), "dropped": ()}
    )
    gates = {g: s.model_dump() for g, s in desk.job.prepare.gates.items() if g not in TASK_GATES}
    return write_all(number, {"/plan/chosen": snapshot.model_dump(mode="json"), "/prepare/gates": gates}, who, desk.job)
