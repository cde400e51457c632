"""Plan a job, and choose one of its plans as a snapshot."""

from django.contrib.auth.models import AbstractBaseUser
from django.utils import timezone

from ...core.base import RULES_VERSION, Frozen, InputError
from ...core.job.desk import Desk
from ...core.job.shape import Job, Snapshot
from ...core.plan.planner import Planner
from ...core.plan.request import Plan, PlanPoint
from ...core.prepare.gates import PLAN_GATES
from .edit_job import write
from .jobs import desk_of


class OwnPlan(Frozen):
    """The build made by hand at Fit as a plan, and what stands against choosing it."""

    plan: PlanPoint
    against: tuple[str, ...]


def plan_for(desk: Desk) -> tuple[Plan, OwnPlan | None]:
    """The planner's answer, and the build in hand as a plan where there is one."""
    planner = Planner(desk.request())
    own = None
    if desk.build.changed():
        point, against = planner.own(desk.build)
        own = OwnPlan(plan=point, against=against)
    return planner.plan(), own


def choose_plan(number: int, stance: str, index: int | None, who: AbstractBaseUser | None) -> Job:
    """Choose a stance's plan, a frontier point by index (stance "frontier"), or doing nothing
    (stance "nothing"), or the build in hand from Fit (stance "own"). Stored with everything it followed from. Checks
    that were made for another plan's parts are open again."""
    desk = desk_of(number)
    answer, own = plan_for(desk)
    point = _picked(answer, own, stance, index)
    numbers = {c.part for c in point.changes} | {a for c in point.changes for a in c.accessories}
    snapshot = Snapshot(
        stance=stance,
        plan=point,
        request=desk.request([p for p in desk.parts if p.number in numbers]),
        rules_version=RULES_VERSION,
        chosen_at=timezone.now().isoformat(timespec="seconds"),
        chosen_by=who.get_username() if who else "",
    )
    before = desk.job.plan.chosen
    if before and before.plan.changes != point.changes:
        kept = {g: s.model_dump() for g, s in desk.job.prepare.gates.items() if g not in PLAN_GATES}
        write(number, "/prepare/gates", kept, who)
    write(number, "/fit/build", {c.slot: c.part for c in point.changes}, who)
    write(number, "/fit/boot_slot", point.boot_slot, who)
    return write(number, "/plan/chosen", snapshot.model_dump(mode="json"), who)


def _picked(answer: Plan, own: OwnPlan | None, stance: str, index: int | None) -> PlanPoint:
    if stance == "frontier" and index is not None and 0 <= index < len(answer.frontier):
        return answer.frontier[index]
    if stance == "nothing":
        zero = dict.fromkeys(
            ("cost_minor", "parts_minor", "accessories_minor", "bench_seconds", "labour_minor", "credit_minor"), 0
        )
        return PlanPoint(changes=(), boot_slot="", benefit=0, needs=answer.today, **zero)
    if stance == "own" and own:
        if own.against:
            raise InputError(own.against[0], "build in hand", "Change the build at Fit, or measure first.")
        return own.plan
    for s in answer.stances:
        if s.stance == stance:
            return s.plan
    raise InputError(f"no plan {stance!r}", "plan", "Choose one of the plans shown.")
