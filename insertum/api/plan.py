"""Plan: the answer, what is beside it, choosing, and the owner's word."""

from django.http import HttpRequest
from ninja import Query, Router
from pydantic import Field

from ..core.frozen import Frozen
from ..core.plan.need import NeedKind
from ..core.plan.result import PlanDetail
from ..shop.services import plan_job, show_plan, tasks_beside
from .jobs import JobView, view_of
from .kept import kept
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/plan", response={200: show_plan.PlanStation, 400: Problem, 404: Problem})
@kept
def plan(request: HttpRequest, number: int, certain: Query[bool] = False):
    """The ladder, the stances and the frontier under the job's terms, and what waits for an answer. ``certain``: only what
    rests on no question, which is there at once."""
    return show_plan.plan(number, certain)


@router.get("/jobs/{int:number}/plan/detail", response={200: PlanDetail, 400: Problem, 404: Problem})
def plan_detail(request: HttpRequest, number: int):
    """Schools with the price of each choice, what was left out and why, how firm the plan is, and the wishes."""
    return plan_job.planned_detail(number)


class Picked(Frozen):
    stance: str
    index: int | None = None
    sees: dict[str, str] | None = Field(None, description="the parts by slot of the plan that was seen under the index")


@router.post("/jobs/{int:number}/plan", response={200: JobView, 400: Problem, 404: Problem})
def choose(request: HttpRequest, number: int, body: Picked):
    """Choose a plan by its stance, or a point of the frontier or of what waits by its index."""
    return view_of(plan_job.choose_plan(number, body.stance, body.index, request.user, body.sees))


class OwnersWord(Frozen):
    said_by: str = Field(max_length=120)
    how: str = Field("", max_length=120)
    about: str = Field("", max_length=2000)


@router.post("/jobs/{int:number}/plan/agree", response={200: JobView, 400: Problem, 404: Problem})
def agree(request: HttpRequest, number: int, body: OwnersWord):
    """The owner agrees to the chosen plan at its price."""
    return view_of(plan_job.agree(number, body.said_by, body.how, body.about, request.user))


@router.get("/jobs/{int:number}/quote", response={200: plan_job.Paper, 400: Problem, 404: Problem})
def quote(request: HttpRequest, number: int):
    """The quote of the chosen plan, ready for its paper."""
    return plan_job.quote_of(number)


@router.get("/jobs/{int:number}/tasks", response={200: tuple[tasks_beside.Beside, ...], 400: Problem, 404: Problem})
def tasks(request: HttpRequest, number: int):
    """Work beside the chosen plan's parts, with what each adds to it."""
    return tasks_beside.beside(number)


class Tasks(Frozen):
    ids: tuple[str, ...] = Field(max_length=60)


@router.put("/jobs/{int:number}/tasks", response={200: JobView, 400: Problem, 404: Problem})
def plan_tasks(request: HttpRequest, number: int, body: Tasks):
    """The chosen plan with just these tasks beside its parts."""
    return view_of(tasks_beside.plan_tasks(number, body.ids, request.user))


class FactoryOption(Frozen):
    kind: NeedKind
    figure: float = Field(gt=0, le=1_000_000)
    price_minor: int = Field(ge=0, le=1_000_000_000)


class Said(Frozen):
    says: str


@router.post("/jobs/{int:number}/plan/factory", response={200: Said, 400: Problem, 404: Problem})
def factory(request: HttpRequest, number: int, body: FactoryOption):
    """What a factory option comes to as parts; nothing is kept of it."""
    return Said(says=plan_job.factory_option(number, body.kind, body.figure, body.price_minor))
