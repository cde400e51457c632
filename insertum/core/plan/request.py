"""The planner's input, as the plan request format holds it."""

from collections.abc import Mapping
from fractions import Fraction
from typing import Any, Literal

from pydantic import Field, model_validator

from ..frozen import Frozen
from ..known.evidence import Grade, Signs
from ..machine.claim import Limits
from ..machine.part import FittedPart, Part
from ..machine.shape import Machine
from ..machine.upgrade import request_1_to_2
from ..sighting import Sighting
from ..standards.wlan import RadioSide
from ..survey.acts import ActId
from .need import Need, NeedKind, exact


class Use(Frozen):
    """How the owner uses the machine: what credits a build beside its parts. ``used_gb`` None: nobody knows."""

    used_gb: float | None = Field(0, ge=0)
    system_gb: float | None = Field(None, ge=0, description="what the system's own volumes hold, where it was read")
    router: RadioSide | None = None
    line_mbit_s: int | None = Field(None, ge=0)
    average_mw: int | None = Field(None, gt=0, description="measured average draw")
    far_mbit_s: float | None = Field(
        None, ge=0, description="what the radio delivers at the owner's far place, measured"
    )
    growth_percent: float = Field(12, ge=0, le=100)
    years: int = Field(3, ge=0, le=15)
    processor_at_limit: bool = False

    def unmeasured(self, kind: NeedKind) -> str:
        """Why a need of this kind cannot be measured on any build; nothing where it can."""
        if kind is NeedKind.RUNTIME and self.average_mw is None:
            return "nobody has measured what the machine draws"
        if kind is NeedKind.RADIO_REACH and self.far_mbit_s is None:
            return "nobody has measured what the Wi-Fi card delivers there today"
        return ""

    @property
    def used(self) -> Fraction | None:
        """GB in use, as they were typed."""
        return None if self.used_gb is None else exact(self.used_gb)


MemorySchool = Literal["add", "pair", "free"]
GradeSchool = Literal["running", "newest", "free"]
DriveSchool = Literal["replace", "keep", "free"]


class Schools(Frozen):
    """How the job's workshop goes about it. ``memory``: add to what is there, a matched pair, or free. ``grade``: never
    above what reaches the running speed, the newest common grade, or free. ``drive``: the old one leaves, it stays and
    one is added, or free. ``makes`` are the approved ones, none for any; ``spinning`` allows spinning drives."""

    memory: MemorySchool = "free"
    grade: GradeSchool = "free"
    drive: DriveSchool = "free"
    spinning: bool = True
    makes: tuple[str, ...] = ()


class Terms(Frozen):
    """What the job allows and how it is priced. ``threshold`` is points per major unit of money; ``may_empty`` names
    the slots that may be emptied without a replacement, ``*`` all."""

    limits: Limits = Limits.PROVEN
    budget_minor: int | None = Field(None, ge=0)
    currency: str = "EUR"
    rate_minor_per_hour: int = Field(5000, ge=0)
    threshold: float = Field(0.1, ge=0)
    credits: dict[str, int] = Field({}, description="credit in minor units for the part taken out of a slot")
    may_empty: tuple[str, ...] = ()
    allow_loss: bool = False
    clean_install: bool = Field(False, description="the system is installed anew: nothing is copied onto a new drive")
    schools: Schools = Schools()
    fill_order: tuple[NeedKind, ...] = (
        NeedKind.MEMORY_CAPACITY,
        NeedKind.DRIVE_SPEED,
        NeedKind.DRIVE_SPACE,
        NeedKind.RADIO_THROUGHPUT,
        NeedKind.RUNTIME,
    )

    @model_validator(mode="before")
    @classmethod
    def _one_switch(cls, data: Any) -> Any:
        return slots_to_empty(data)

    def empties(self, slot: str) -> bool:
        return slot in self.may_empty or "*" in self.may_empty


def slots_to_empty(data: Any) -> Any:
    """Before 2026-12 one switch allowed every slot to be emptied."""
    if isinstance(data, Mapping) and "allow_emptying" in data:
        data = dict(data)
        if data.pop("allow_emptying"):
            data.setdefault("may_empty", ("*",))
    return data


class ShelfOffer(Frozen):
    """A part of the workshop's own shelf: how many there are and what each is sold for."""

    number: str
    count: int = Field(ge=1)
    price_minor: int = Field(ge=0)


class TaskOffer(Frozen):
    """Work without a slot: the obstacles it reaches through, its own seconds and consumables (and the assembly that goes
    in, priced among them), and the fault it mends ('' for none). ``outside`` is done with the case shut. The words are
    those of its sheet, its gates and its checks."""

    id: str
    name: str
    reached_by: tuple[str, ...] = ()
    seconds: int = Field(0, ge=0)
    consumables_minor: int = Field(0, ge=0)
    mends: str = ""
    outside: bool = False
    part: str = ""
    part_name: str = ""
    consumables: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    steps: tuple[str, ...] = ()
    caution: str = ""
    gates: tuple[str, ...] = ()
    checks: tuple[str, ...] = ()
    closing: tuple[str, ...] = ()


class Another(Frozen):
    """Another machine beside the plans: its price and what it measures, by kind of need; drive space is what it holds."""

    name: str = Field(min_length=1, max_length=120)
    price_minor: int = Field(ge=0)
    figures: dict[NeedKind, float] = {}


class PlanRequest(Frozen):
    """Everything a plan follows from. ``fitted`` overrides what is fitted as delivered; null empties
    a slot, and ``unknown`` names slots nobody has seen into. ``measured`` and ``read`` map ``slot.attribute`` to what was measured on this machine
    and what software read there; ``grades`` how well each slot's content is known and ``signs`` what a reading tells
    beside it; ``as_usual`` takes returnable unknowns as usual, on the owner's word (those of ``usual_only``, where it
    names any); ``system`` is the owner's system.
    ``sightings`` are the workshop's outcomes on it. No plan waits for ``closed_acts``: they cannot be done here, or told
    nothing."""

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
    usual_only: tuple[str, ...] = ()
    system: str = ""
    sightings: tuple[Sighting, ...] = ()
    boot_slot: str = ""
    parts: tuple[Part, ...] = ()
    needs: tuple[Need, ...] = ()
    use: Use = Use()
    terms: Terms = Terms()
    shelf: tuple[ShelfOffer, ...] = ()
    tasks: tuple[TaskOffer, ...] = ()
    dead: tuple[str, ...] = Field((), description="slots whose part does not work: it counts for nothing")
    another: Another | None = None
    wishes: tuple[str, ...] = ()
    closed_acts: tuple[ActId, ...] = ()

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
