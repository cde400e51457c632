"""The job as the job JSON format holds it: one section a station."""

from collections.abc import Mapping
from enum import StrEnum
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints, model_validator

from ..bench.sheet import Ways
from ..frozen import Frozen
from ..intake.intake import Intake
from ..machine.claim import Limits
from ..machine.part import FittedPart
from ..machine.upgrade import job_1_to_2
from ..plan.request import Another, PlanRequest, Schools, slots_to_empty
from ..plan.result import PlanPoint, WaitingAct
from ..prepare.gates import AsUsual, GateState, GateTick
from ..reading import Reading
from ..record.shape import Gone, Measurement, StepSaid, Stopped, Tick
from ..survey.acts import ActId


class Station(StrEnum):
    INTAKE = "intake"
    IDENTIFY = "identify"
    SURVEY = "survey"
    FIT = "fit"
    PLAN = "plan"
    PREPARE = "prepare"
    BENCH = "bench"
    PROVE = "prove"
    HAND_OVER = "hand_over"


STATIONS = tuple(Station)


class Identified(Frozen):
    """Label texts as typed, one a line; answers to questions by kind of mark ('' could not be read);
    and the configuration that was chosen."""

    texts: str = ""
    answers: dict[str, str] = {}
    machine: str = ""
    configuration: str = ""


class Looked(Frozen):
    """What somebody saw of a slot with the cover off, of the card ``part`` that lay there: it lies flat, nothing is beneath
    it and the cover closes over it without touching; so many antenna leads end there."""

    part: str = Field("", max_length=100)
    lies_flat: bool | None = None
    leads: int | None = Field(None, ge=0, le=4)


class Word(Frozen):
    """What the maker's page says of one attribute, taken on this job: documented, with the phrase it stands in."""

    value: Any
    note: str = Field("", max_length=300)
    among_others: bool = False


class Surveyed(Frozen):
    """What was found in this very machine. ``fitted`` overrides what is fitted as delivered;
    null is empty; ``unknown`` names slots whose content nobody has seen. ``measured`` maps
    ``slot.attribute`` to a value in the attribute's unit."""

    firmware: str = ""
    unknown: tuple[str, ...] = ()
    fitted: dict[str, FittedPart | None] = {}
    measured: dict[str, Any] = {}
    numbers: dict[str, Annotated[str, Field(max_length=400)]] = {}
    notes: str = ""
    reading: Reading | None = None
    not_working: tuple[str, ...] = Field((), description="slots whose part was seen and does not work")
    looked: dict[str, Looked] = Field({}, description="what was seen of a slot's card with the cover off")
    words: dict[str, tuple[Word, ...]] = Field({}, description="the maker's words taken on this job, by slot.attribute")
    as_usual: AsUsual | None = None
    closed_acts: dict[ActId, Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]] = (
        Field({}, description="acts that cannot be done here, or told nothing, with why")
    )
    believed: dict[str, Literal["reading", "library"]] = Field(
        {}, description="who is believed where reading and library disagree, by the contradiction's id"
    )


class FitChoice(Frozen):
    """The build in hand: part numbers by slot ('' takes the part out), and whose limits count.
    ``extras`` are part numbers beside it (an enclosure, a stick) that are taken; ``makes`` the approved
    ones when only those are looked at."""

    limits: Limits = Limits.PROVEN
    build: dict[str, str] = {}
    boot_slot: str = ""
    extras: dict[str, bool] = {}
    makes: tuple[str, ...] = ()


class Snapshot(Frozen):
    """A chosen plan as it was: parts, prices, claims and the rules of that day. The request holds
    only the parts of the plan, so a later price list never rewrites history."""

    stance: str
    plan: PlanPoint
    request: PlanRequest
    rules_version: str
    chosen_at: str
    chosen_by: str
    by_hand: tuple[str, ...] | None = Field(
        None,
        description="tasks somebody took on beside what the planner planned; null in plans from before this was kept",
    )
    dropped: tuple[str, ...] = Field((), description="tasks of the plan before that this one does not hold, by name")
    words_before: int | None = Field(
        None,
        description="how many of the owner's words stood when it was chosen; null in plans from before this was kept",
    )
    waits: tuple[WaitingAct, ...] = Field((), description="what has to be looked at first, where the plan rests on it")

    @property
    def grown(self) -> bool:
        """Was it chosen, and is it shown, on the needs as they grow?"""
        return self.stance == "room_for_years"


class Agreement(Frozen):
    """The owner's word on a price: who said it, how (``by telephone``), when, for which cost, and who took it down."""

    said_by: str = Field(min_length=1, max_length=120)
    how: str = Field("", max_length=120)
    at: str
    cost_minor: int
    taken_by: str = ""
    about: str = Field("", max_length=2000)


class PlanChoice(Frozen):
    rate_minor_per_hour: int = Field(5000, ge=0, le=100_000)
    threshold: float = Field(0.1, ge=0, le=100)
    credits: dict[str, Annotated[int, Field(ge=0, le=1_000_000_000)]] = {}
    may_empty: tuple[str, ...] = Field((), description="slots that may be emptied without a replacement, * all")
    allow_loss: bool = False
    clean_install: bool = False
    schools: Schools = Schools()
    wishes: tuple[str, ...] = Field((), description="part numbers the owner waits for to become cheaper")
    another: Another | None = None
    chosen: Snapshot | None = None
    agreed: tuple[Agreement, ...] = ()

    @model_validator(mode="before")
    @classmethod
    def _one_switch(cls, data: Any) -> Any:
        return slots_to_empty(data)

    @property
    def word(self) -> Agreement | None:
        """The owner's word on the plan that is chosen: given after it, by the order in which things were written and never
        by a clock, and for what it costs."""
        last = self.agreed[-1] if self.agreed else None
        if self.chosen is None or last is None or last.cost_minor != self.chosen.plan.cost_minor:
            return None
        before = self.chosen.words_before
        after = last.at >= self.chosen.chosen_at if before is None else len(self.agreed) > before
        return last if after else None


class Prepared(Frozen):
    """``ticks`` are who said what of each gate and when, written by the server."""

    gates: dict[str, GateState] = {}
    ticks: dict[str, GateTick] = {}


class Benched(Frozen):
    """``done`` maps step ids to the time they were ticked; ``ways`` is how this bench goes about it; ``said`` is what
    was noted at a step."""

    done: dict[str, str] = {}
    ticks: dict[str, Tick] = Field({}, description="what each tick was, written by the server")
    ways: Ways = Ways()
    said: dict[str, StepSaid] = {}
    notes: str = ""

    @property
    def found(self) -> dict[str, str]:
        """Numbers found on things of the machine, by what :attr:`Survey.numbers` calls them."""
        called = {"pack": "battery"}
        return {
            called.get(s.of, s.of): s.number.strip() for s in self.said.values() if s.of != "part" and s.number.strip()
        }

    @model_validator(mode="before")
    @classmethod
    def _one_way(cls, data: Any) -> Any:
        """Before 2026-12 only the trial start was a choice."""
        if isinstance(data, Mapping) and "trial_before_closing" in data:
            data = dict(data)
            data.setdefault("ways", {"trial_before_closing": data["trial_before_closing"]})
            del data["trial_before_closing"]
        return data


class Proved(Frozen):
    """The last reading is compared; earlier ones stay, because a fault mended is part of the story."""

    readings: tuple[Reading, ...] = ()
    measured: tuple[Measurement, ...] = ()
    checks: dict[str, Literal["works", "fails", ""]] = {}
    notes: str = ""


class HandedOver(Frozen):
    left_out: str = ""
    watch: str = Field("", description="what the owner is to watch")
    warranty: str = ""
    gone: dict[str, Gone] = Field({}, description="what became of what was taken out, by slot")
    closed_at: str = ""
    outcome: Literal["", "done", "no part sold", "stopped"] = ""


class Job(Frozen):
    """A whole job. ``number`` is given by the workshop."""

    format: Literal["insertum-job/2"] = "insertum-job/2"
    number: int = Field(ge=1, le=999_999_999)
    customer: str = ""
    title: str = ""
    due: str = Field("", pattern=r"^(\d{4}-\d{2}-\d{2})?$")
    waits_for: str = ""
    currency: str = Field("EUR", pattern=r"^[A-Z]{3}$")
    station: Station = Station.INTAKE
    intake: Intake = Intake()
    identify: Identified = Identified()
    survey: Surveyed = Surveyed()
    fit: FitChoice = FitChoice()
    plan: PlanChoice = PlanChoice()
    prepare: Prepared = Prepared()
    bench: Benched = Benched()
    prove: Proved = Proved()
    hand_over: HandedOver = HandedOver()
    stopped: Stopped | None = None

    @model_validator(mode="before")
    @classmethod
    def _brought_up(cls, data: Any) -> Any:
        return job_1_to_2(data) if isinstance(data, Mapping) and data.get("format") == "insertum-job/1" else data
