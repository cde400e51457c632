"""What the planner answers, as the plan JSON format holds it."""

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import WithJsonSchema, model_validator

from ..frozen import Frozen
from ..survey.acts import ActId
from ..verdict import Verdict
from .request import TaskOffer
from .value_of_information import Visit

#: The two ends of what something may be, equal where it is known; told to the web as a list of two.
Ends = Annotated[
    tuple[float, float], WithJsonSchema({"type": "array", "items": {"type": "number"}, "minItems": 2, "maxItems": 2})
]


class Change(Frozen):
    """One slot's change in a plan. ``part`` '' means the slot is emptied."""

    slot: str
    slot_name: str
    part: str
    part_name: str
    maker: str = ""
    price_minor: int
    shelf: bool = False
    accessories: tuple[str, ...] = ()
    accessories_minor: int = 0
    takes_out: str = ""
    credit_minor: int = 0
    credit_to_come_minor: int = 0
    verdict: Verdict = Verdict.SEATS
    short: str = ""
    boot: bool = False


class NeedState(Frozen):
    """A need before and after, each as a range in its unit (one figure where both ends are the same), and how far it is
    met, 0 to 1. ``points`` are what it surely gains, ``hoped`` what it gains if what is unknown turns out well."""

    need: str
    label: str
    unit: str
    weight: float
    set_by: str
    today: Ends
    after: Ends
    met_today: Ends
    met_after: Ends
    points: float
    hoped: float = 0.0

    @property
    def grows(self) -> bool:
        """Does its figure fall by itself as the owner's use grows? Free space does; nothing else is used up."""
        return self.need == "drive_space"

    @model_validator(mode="before")
    @classmethod
    def _ranges(cls, data: Any) -> Any:
        """Before 2026-12 each was one figure, and memory's throughput was shown in the unit it is measured in."""
        if not isinstance(data, Mapping):
            return data
        if data.get("need") == "memory_throughput":
            data = {**data, "unit": "GB/s"}
        ends = ("today", "after", "met_today", "met_after")
        return {k: (v, v) if k in ends and isinstance(v, int | float) else v for k, v in data.items()}


class PlanPoint(Frozen):
    """One build with its whole sum. ``cost_minor`` = parts + accessories + consumables + labour − credit. The figures of
    its needs are those after so many ``years`` of growth, with it and without it; 0 is today."""

    changes: tuple[Change, ...]
    tasks: tuple[TaskOffer, ...] = ()
    boot_slot: str
    cost_minor: int
    parts_minor: int
    accessories_minor: int
    consumables_minor: int = 0
    bench_seconds: int
    labour_minor: int
    credit_minor: int
    benefit: float
    needs: tuple[NeedState, ...]
    falls: tuple[str, ...] = ()
    copy_path: "CopyPath | None" = None
    for_owner: str = ""
    years: int = 0


class CopyPath(Frozen):
    """How the system gets onto a new system drive: cloned or installed clean. ``minutes`` is elapsed and unattended,
    None where a rate or the amount is not known; ``buys`` what the copy needs and nobody has, ``must`` what has to be
    true, ``fits`` whether the target holds it, None while nobody knows how much is used."""

    path: Literal["slot", "usb5", "usb10"]
    says: str
    minutes: int | None
    needs_gb: float | None
    fits: bool | None
    buys: tuple[str, ...] = ()
    must: tuple[str, ...] = ()
    clean: tuple[str, ...] = ()


class StancePlan(Frozen):
    """What one stance picks, in one sentence, and what it cannot meet. ``points_today`` are those on the needs as stated
    today, where the plan's own are on grown ones."""

    stance: str
    plan: PlanPoint
    points_today: float | None = None
    says: str
    unmet: tuple[str, ...] = ()
    over_budget_minor: int = 0


class Tread(Frozen):
    """A step of the ladder: from the plan before to this one. Cost and benefit are totals,
    ``step_minor`` and ``gain`` the step's own; ``slope`` is points per major unit of money. ``stances`` stand on it."""

    label: str
    detail: str
    from_minor: int
    cost_minor: int
    step_minor: int
    benefit: float
    gain: float
    slope: float
    chosen: bool
    over_budget: bool
    plan: PlanPoint
    stances: tuple[str, ...] = ()


class ToSettle(Frozen):
    """One thing to look at: where, how, and for how long."""

    attribute: str
    label: str
    how: str
    minutes: int


class WaitingAct(Frozen):
    """An act that settles some of a plan's questions, in so many minutes for all of them."""

    id: ActId
    name: str
    minutes: int
    questions: tuple[ToSettle, ...]


class Waiting(Frozen):
    """A better plan that rests on a set of questions: the acts that settle them, in how many minutes, what it would gain over
    the best that is certain: in ``points``, and as ``gain`` with what its money is worth at the threshold taken off; and
    what stays certain if they do not turn out well."""

    questions: tuple[ToSettle, ...]
    acts: tuple[WaitingAct, ...] = ()
    minutes: int
    gain: float
    points: float
    plan: PlanPoint
    certain_minor: int
    certain_gain: float
    visit: Visit | None


class SchoolPrice(Frozen):
    """What one choice of a school comes to, beside the plan of best value: the difference in money and points, and
    whether it is the job's own. ``possible`` is false where nothing is left to choose under it."""

    school: str
    choice: str
    label: str
    says: str
    step_minor: int
    gain: float
    own: bool


class LeftOut(Frozen):
    """A part that would gain by itself and was not chosen, the one reason, and the price at which it would be (None
    where no price is low enough)."""

    part: str
    part_name: str
    slot: str
    slot_name: str
    price_minor: int
    alone: float
    reason: str
    enters_minor: int | None = None


class Firmness(Frozen):
    """How firm a chosen change is: the price above which the choice falls (None: at no price), and for each need the
    weights below and above which the plan is another."""

    part: str
    part_name: str
    slot: str
    price_minor: int
    falls_above_minor: int | None


class WeightBounds(Frozen):
    """The weights of a need between which the plan of best value stays as it is; None where it never changes."""

    need: str
    label: str
    weight: float
    below: float | None
    above: float | None


class AnotherScored(Frozen):
    """Another machine scored for the same needs."""

    name: str
    cost_minor: int
    benefit: float
    unknown: tuple[str, ...]
    says: str


class PlainChange(Frozen):
    """One slot's change by name alone; ``part`` '' means the slot is emptied."""

    slot: str
    slot_name: str
    part: str
    part_name: str


class FrontierPoint(Frozen):
    """A build that no other beats in both cost and benefit."""

    cost_minor: int
    benefit: float
    changes: tuple[PlainChange, ...]
    tasks: tuple[str, ...] = ()
    boot_slot: str


class Plan(Frozen):
    """The whole answer. ``frontier`` has the exact Pareto points, do-nothing included; ``first`` is what must be said
    first. Where it is not ``complete`` its plans are those that rest on no question, which are the same in the whole
    answer; what waits, and what is said of what could be, is left out."""

    format: Literal["insertum-plan/2"] = "insertum-plan/2"
    rules_version: str
    today: tuple[NeedState, ...]
    first: tuple[str, ...]
    frontier: tuple[FrontierPoint, ...]
    stances: tuple[StancePlan, ...]
    ladder: tuple[Tread, ...]
    waiting: tuple[Waiting, ...]
    unmeasured: tuple[str, ...] = ()
    another: AnotherScored | None = None
    complete: bool = True


class PlanDetail(Frozen):
    """What is asked of a plan beyond it: schools with their price, what was left out, how firm it is."""

    schools: tuple[SchoolPrice, ...]
    left_out: tuple[LeftOut, ...]
    firmness: tuple[Firmness, ...]
    weights: tuple[WeightBounds, ...]
    wishes: tuple[LeftOut, ...]


PlanPoint.model_rebuild()
