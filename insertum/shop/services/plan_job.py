"""Plan a job, choose one of its plans as a snapshot, and take down what the owner says to it.

Planning happens on what was read, outside any transaction; identical requests are answered from a cache.
"""

from collections.abc import Mapping
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.utils import timezone

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.job.desk import Desk
from ...core.job.shape import Agreement, Job, Snapshot
from ...core.machine.part import Fittable
from ...core.plan.added_tasks import Besides
from ...core.plan.answer import answer, own
from ...core.plan.choices import TooOpen
from ...core.plan.detail import detail, factory
from ...core.plan.difference import SinceChosen, again, difference
from ...core.plan.need import NeedKind
from ...core.plan.planner import Planner
from ...core.plan.quote import Quote, Taxed, quote
from ...core.plan.report import plan_point
from ...core.plan.request import TaskOffer
from ...core.plan.result import Plan, PlanDetail, PlanPoint, WaitingAct
from ...core.prepare.gates import PLAN_GATES, PRICE_GATES
from ...core.version import RULES_VERSION
from .. import models
from .answer_cache import answered
from .edit_job import add_to, write_all
from .jobs import desk_of, job_of
from .planners import planners
from .workshop import workshop


class OwnPlan(Frozen):
    """The build made by hand at Fit as a plan, and what stands against choosing it."""

    plan: PlanPoint
    against: tuple[str, ...]


class MakeSeen(Frozen):
    """How often parts of a make were tried at this workshop, and how often they did not work."""

    tried: int
    failed: int


class Planned(Frozen):
    """The planner's answer, the build in hand as a plan where there is one, and how the chosen plan differs from
    today."""

    answer: Plan
    own: OwnPlan | None
    difference: SinceChosen | None
    makes: dict[str, MakeSeen]


def planned(number: int, certain: bool = False) -> Planned:
    """The plan of a job, from the cache where nothing it follows from has changed. ``certain``: only what rests on no
    question, which is there at once however little is known of the machine. Where too much is open to go through all that
    waits, that is all there is."""
    make = _certain if certain else _as_far
    return answered(("plan", certain), number, lambda: make(desk_of(number)))


def _certain(desk: Desk) -> Planned:
    return _planned(desk, Planner(desk.request(), certain=True))


def _as_far(desk: Desk) -> Planned:
    request = desk.request()
    try:
        return _planned(desk, planners.of(request))
    except TooOpen:
        return _certain(desk)


def _planned(desk: Desk, planner: Planner) -> Planned:
    mine = None
    if desk.build.changed():
        point, against = own(planner, desk.build)
        mine = OwnPlan(plan=point, against=against)
    chosen = desk.job.plan.chosen
    return Planned(
        answer=answer(planner),
        own=mine,
        difference=difference(planner, chosen.plan, chosen.grown) if chosen is not None else None,
        makes=makes_seen(planner.market.by_number),
    )


def makes_seen(by_number: Mapping[str, Fittable]) -> dict[str, MakeSeen]:
    """Outcomes of the workshop's own benches by make; that a machine does not take a part says nothing of its make."""
    counts: dict[str, list[int]] = {}
    for number, outcome, spec in models.Sighting.objects.values_list("part", "outcome", "spec__cause"):
        part = by_number.get(number)
        if part is None or not part.maker or (outcome == "did_not" and spec == "machine"):
            continue
        found = counts.setdefault(part.maker, [0, 0])
        found[0] += 1
        found[1] += outcome == "did_not"
    return {make: MakeSeen(tried=t, failed=f) for make, (t, f) in counts.items()}


def planned_detail(number: int) -> PlanDetail:
    """Schools, what was left out, firmness and wishes: more planning than one look at the plan is worth."""
    approved = approved_makes(number)
    return answered("detail", number, lambda: detail(desk_of(number).request(), approved))


def approved_makes(number: int) -> tuple[str, ...]:
    """The makes this job or the workshop approves of."""
    return job_of(number).fit.makes or workshop().approved_makes


def choose_plan(
    number: int, stance: str, index: int | None, who: AbstractBaseUser | None, sees: Mapping[str, str] | None = None
) -> Job:
    """Choose the chosen plan again at today's prices and knowledge (stance "again"), a stance's plan, a frontier point by index (stance "frontier"), what waits by index ("waiting": its acts become a gate), doing
    nothing (stance "nothing"), or the build in hand from Fit (stance "own"). Stored with everything it followed from.
    Tasks taken on by hand, and those done, stay in it where this machine still has them; what goes is named.
    Checks that were made for another plan's parts are open again, and what the owner agreed to stays in the log."""
    desk = desk_of(number)
    before = desk.job.plan.chosen
    waits: tuple[WaitingAct, ...] = ()
    if stance == "again" and before is not None:
        point = again(planners.of(desk.request()), before.plan, before.grown)
        stance, waits, reopened = before.stance, before.waits, PRICE_GATES
    elif stance == "waiting":
        waiting = planned(number).answer.waiting
        if index is None or not 0 <= index < len(waiting):
            raise InputError("that plan waits no longer", "plan", "Choose one of the plans shown.")
        point, waits, reopened = waiting[index].plan, waiting[index].acts, PLAN_GATES
    else:
        point, reopened = _picked(desk, planned(number), stance, index), PLAN_GATES
    if sees is not None and sees != {c.slot: c.part for c in point.changes}:
        # The list was worked out anew since it was looked at: under its number stands another plan.
        raise InputError("that plan is not there as it was seen", "plan", "Look at the plans again, and choose.")
    numbers = {c.part for c in point.changes} | {a for c in point.changes for a in c.accessories}
    request = desk.request([p for p in desk.parts if p.number in numbers])
    kept = _tasks_kept(desk, point)
    if kept:
        point = Besides(request, point, stance == "room_for_years").having([*point.tasks, *kept])
    planned_now = {t.id for t in point.tasks}
    snapshot = Snapshot(
        stance=stance,
        plan=point,
        request=request,
        by_hand=tuple(t.id for t in kept),
        dropped=tuple(t.name for t in (before.plan.tasks if before else ()) if t.id not in planned_now),
        rules_version=RULES_VERSION,
        chosen_at=timezone.now().isoformat(timespec="seconds"),
        chosen_by=who.get_username() if who else "",
        words_before=len(desk.job.plan.agreed),
        waits=waits,
    )
    values: dict[str, Any] = {}
    if before and _asked_about(before.plan) != _asked_about(point):
        values["/prepare/gates"] = {g: s.model_dump() for g, s in desk.job.prepare.gates.items() if g not in reopened}
    values["/fit/build"] = {c.slot: c.part for c in point.changes}
    values["/fit/boot_slot"] = point.boot_slot
    values["/plan/chosen"] = snapshot.model_dump(mode="json")
    return write_all(number, values, who, desk.job)


def _asked_about(plan: PlanPoint) -> tuple[Any, ...]:
    """What checks were made for: another one opens them again."""
    return plan.changes, plan.cost_minor, [t.id for t in plan.tasks]


def _tasks_kept(desk: Desk, point: PlanPoint) -> list[TaskOffer]:
    """Tasks of the plan chosen before that another choice keeps: those done, and those taken on by hand that can still be
    done here."""
    before = desk.job.plan.chosen
    if before is None:
        return []
    there = {t.id for t in point.tasks}
    offered = {o.id: o.task for o in desk.tasks_offered if o.task is not None}
    kept = []
    for task in before.plan.tasks:
        done = f"task:{task.id}" in desk.job.bench.done
        by_hand = before.by_hand is None or task.id in before.by_hand
        if task.id not in there and (done or (by_hand and task.id in offered)):
            kept.append(task if done else offered[task.id])
    return kept


def _picked(desk: Desk, found: Planned, stance: str, index: int | None) -> PlanPoint:
    answered = found.answer
    if stance == "frontier" and index is not None and 0 <= index < len(answered.frontier):
        planner = Planner(desk.request())
        return plan_point(planner.stage, planner.front()[index])
    if stance == "nothing":
        zero = dict.fromkeys(
            ("cost_minor", "parts_minor", "accessories_minor", "bench_seconds", "labour_minor", "credit_minor"), 0
        )
        return PlanPoint(changes=(), boot_slot=desk.today.boot_slot, benefit=0, needs=answered.today, **zero)
    if stance == "own" and found.own:
        if found.own.against:
            raise InputError(found.own.against[0], "build in hand", "Change the build at Fit, or measure first.")
        return found.own.plan
    for s in answered.stances:
        if s.stance == stance:
            return s.plan
    raise InputError(f"no plan {stance!r}", "plan", "Choose one of the plans shown.")


def agree(number: int, said_by: str, how: str, about: str, who: AbstractBaseUser | None) -> Job:
    """Take down that the owner agrees to the chosen plan at its price. Raises :class:`InputError` without a plan or a
    name."""
    job = job_of(number)
    if job.plan.chosen is None:
        raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.", code=Code.NOT_YET)
    if not said_by.strip():
        raise InputError("nobody is named", "agreement", "Write who agreed.")
    said = Agreement(
        said_by=said_by.strip(),
        how=how.strip(),
        at=timezone.now().isoformat(timespec="seconds"),
        cost_minor=job.plan.chosen.plan.cost_minor,
        taken_by=who.get_username() if who else "",
        about=about.strip(),
    )
    return add_to(number, "/plan/agreed", said.model_dump(mode="json"), who)


class Paper(Frozen):
    """A quote with its head: workshop, job, customer and machine; and the owner's word where it was given."""

    workshop: str
    address: str
    logo: str
    warranty: str
    number: int
    customer: str
    title: str
    machine: str
    quote: Quote
    agreed: Agreement | None


def quote_of(number: int) -> Paper:
    """The quote of the chosen plan. Raises :class:`InputError` without one."""
    desk, own_ = desk_of(number, with_parts=False), workshop()
    job, chosen = desk.job, desk.job.plan.chosen
    if chosen is None:
        raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.", code=Code.NOT_YET)
    tax = Taxed(percent=own_.tax_percent, included=own_.prices_hold_tax)
    return Paper(
        workshop=own_.name, address=own_.address, logo=own_.logo, warranty=own_.warranty, number=number, customer=job.customer,
        title=job.title, machine=desk.configured.title, agreed=job.plan.word,
        quote=quote(chosen.plan, chosen.request.terms, chosen.chosen_at, tax, own_.quote_days, desk.complained),
    )  # fmt: skip


def factory_option(number: int, kind: NeedKind, figure: float, price_minor: int) -> str:
    """What a factory option comes to as parts."""
    return factory(Planner(desk_of(number).request()), kind, figure, price_minor)
