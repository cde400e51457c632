"""The planner's input and output, as the plan request and plan JSON formats hold them."""

from collections.abc import Mapping
from typing import Any, Literal

from pydantic import Field, model_validator

from ..base import Frozen
from ..known.evidence import Grade, Signs
from ..machine.claim import Limits
from ..machine.part import FittedPart, Part
from ..machine.shape import Machine
from ..machine.upgrade import request_1_to_2
from ..sighting import Sighting
from ..standards.wlan import RadioSide
from ..verdict import Verdict
from .need import Need, NeedKind


class Use(Frozen):
    """How the owner uses the machine: what credits a build beside its parts."""

    used_gb: float = Field(0, ge=0)
    router: RadioSide | None = None
    line_mbit_s: int | None = Field(None, ge=0)
    average_mw: int | None = Field(None, gt=0, description="measured average draw")
    growth_percent: float = Field(12, ge=0, le=100)
    years: int = Field(3, ge=0, le=15)
    processor_at_limit: bool = False

    def grown(self) -> tuple["Use", float]:
        """The use after ``years`` of growth, and the factor needs grow by."""
        factor = (1 + self.growth_percent / 100) ** self.years
        return self.model_copy(update={"used_gb": self.used_gb * factor}), factor


class Terms(Frozen):
    """What the job allows and how it is priced. ``threshold`` is points per major unit of money."""

    limits: Limits = Limits.PROVEN
    budget_minor: int | None = Field(None, ge=0)
    currency: str = "EUR"
    rate_minor_per_hour: int = Field(5000, ge=0)
    threshold: float = Field(0.1, ge=0)
    credits: dict[str, int] = Field({}, description="credit in minor units for the part taken out of a slot")
    allow_emptying: bool = False
    allow_loss: bool = False
    fill_order: tuple[NeedKind, ...] = (
        NeedKind.MEMORY_CAPACITY,
        NeedKind.DRIVE_SPEED,
        NeedKind.DRIVE_SPACE,
        NeedKind.RADIO_THROUGHPUT,
        NeedKind.RUNTIME,
    )


class PlanRequest(Frozen):
    """Everything a plan follows from. ``fitted`` overrides what is fitted as delivered; null empties
    a slot, and ``unknown`` names slots nobody has seen into. ``measured`` and ``read`` map ``slot.attribute`` to what was measured on this machine
    and what software read there; ``grades`` how well each slot's content is known and ``signs`` what a reading tells
    beside it; ``as_usual`` takes returnable unknowns as usual, on the owner's word; ``system`` is the owner's system.
    ``sightings`` are the workshop's outcomes on it."""

    format: Literal["insertum-plan-request/2"] = "insertum-plan-request/2"
    machine: Machine
    configuration: str
    firmware: str = ""
    fitted: dict[str, FittedPart | None] = {}
    unknown: tuple[str, ...] = ()
    measured: dict[str, Any] = {}
    read: dict[str, Any] = {}
    grades: dict[str, tuple[Grade, ...]] = {}
    signs: dict[str, Signs] = {}
    as_usual: bool = False
    system: str = ""
    sightings: tuple[Sighting, ...] = ()
    boot_slot: str = ""
    parts: tuple[Part, ...] = ()
    needs: tuple[Need, ...] = ()
    use: Use = Use()
    terms: Terms = Terms()

    @model_validator(mode="before")
    @classmethod
    def _brought_up(cls, data: Any) -> Any:
        old = isinstance(data, Mapping) and data.get("format") == "insertum-plan-request/1"
        return request_1_to_2(data) if old else data

    @model_validator(mode="after")
    def _unique(self) -> "PlanRequest":
        ids = [n.id for n in self.needs]
        if len(set(ids)) < len(ids):
            raise ValueError("two needs of one kind")
        return self


class Change(Frozen):
    """One slot's change in a plan. ``part`` '' means the slot is emptied."""

    slot: str
    slot_name: str
    part: str
    part_name: str
    price_minor: int
    accessories: tuple[str, ...] = ()
    accessories_minor: int = 0
    takes_out: str = ""
    credit_minor: int = 0
    verdict: Verdict = Verdict.SEATS
    short: str = ""
    boot: bool = False


class NeedState(Frozen):
    """A need before and after: the measure in its unit and how far it is met, 0 to 1."""

    need: str
    label: str
    unit: str
    weight: float
    set_by: str
    today: float
    after: float
    met_today: float
    met_after: float
    points: float


class PlanPoint(Frozen):
    """One build with its whole sum. ``cost_minor`` = parts + accessories + labour − credit."""

    changes: tuple[Change, ...]
    boot_slot: str
    cost_minor: int
    parts_minor: int
    accessories_minor: int
    bench_seconds: int
    labour_minor: int
    credit_minor: int
    benefit: float
    needs: tuple[NeedState, ...]


class StancePlan(Frozen):
    """What one stance picks, in one sentence, and what it cannot meet."""

    stance: str
    plan: PlanPoint
    says: str
    unmet: tuple[str, ...] = ()
    over_budget_minor: int = 0


class Tread(Frozen):
    """A step of the ladder: from the plan before to this one. Cost and benefit are totals,
    ``step_minor`` and ``gain`` the step's own; ``slope`` is points per major unit of money."""

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


class Waiting(Frozen):
    """A better plan that rests on an unknown: what to settle, in how many minutes, and what it would give."""

    attribute: str
    label: str = ""
    how: str
    minutes: int = 0
    gain: float
    plan: PlanPoint


class Plan(Frozen):
    """The whole answer. ``frontier`` has the exact Pareto points, do-nothing included."""

    format: Literal["insertum-plan/1"] = "insertum-plan/1"
    rules_version: str
    today: tuple[NeedState, ...]
    binds: tuple[str, ...]
    frontier: tuple[PlanPoint, ...]
    stances: tuple[StancePlan, ...]
    ladder: tuple[Tread, ...]
    waiting: tuple[Waiting, ...]
