"""Triage: complaint → free causes → the test that tells → only then a part. The list is the
workshop's own data; outcomes on its jobs say which causes were worth looking at first."""

from collections.abc import Iterable, Mapping
from typing import Literal

from pydantic import Field, model_validator

from ..frozen import Frozen
from ..plan.need import NeedKind as K
from ..tasks.catalogue import BY_ID as TASKS

PartKind = Literal["memory", "m2_drive", "bay_drive", "radio", "cellular", "battery", "kit", "speaker"]
Outcome = Literal["untried", "helped", "no_help", "found"]


class FreeCause(Frozen):
    """A cause, and the test that tells: nothing to mend it, or a task of the catalogue (``cure``) and no part."""

    id: str = Field(pattern=r"^[a-z0-9_]+\.[0-9]+$")
    cause: str = Field(min_length=1, max_length=200)
    test: str = Field(min_length=1, max_length=400)
    cure: str = Field("", description="the task that mends it, where mending takes one")


class Complaint(Frozen):
    """What a customer says. ``then`` are the part kinds that come after the free causes; ``weights``
    is what the complaint adds to the weight of each need."""

    id: str = Field(pattern=r"^[a-z0-9_]+$", max_length=40)
    name: str = Field(min_length=1, max_length=120)
    causes: tuple[FreeCause, ...] = Field(min_length=1)
    then: tuple[PartKind, ...] = ()
    weights: dict[K, float] = {}

    @model_validator(mode="after")
    def _sound(self) -> "Complaint":
        ids = [c.id for c in self.causes]
        if len(set(ids)) < len(ids) or any(not i.startswith(f"{self.id}.") for i in ids):
            raise ValueError(f"causes are numbered {self.id}.1, {self.id}.2 …, each once")
        if unknown := next((c.cure for c in self.causes if c.cure and c.cure not in TASKS), None):
            raise ValueError(f"{unknown!r} is no task: one of {', '.join(TASKS)}")
        if K.FAULT in self.weights or any(not 0 <= w <= 10 for w in self.weights.values()):
            raise ValueError("a weight is from 0 to 10, and a fault is found, not weighed")
        return self


class Triage(Frozen):
    """The whole list, as its file holds it."""

    format: Literal["insertum-triage/1"] = "insertum-triage/1"
    complaints: tuple[Complaint, ...]

    @model_validator(mode="after")
    def _unique(self) -> "Triage":
        ids = [c.id for c in self.complaints]
        if len(set(ids)) < len(ids):
            raise ValueError("two complaints share one id")
        return self

    def by_id(self) -> dict[str, Complaint]:
        return {c.id: c for c in self.complaints}


class Tried(Frozen):
    """How often a free cause was looked at on this workshop's jobs, and how often that was it."""

    helped: int = 0
    no_help: int = 0


def tried(jobs: Iterable[Mapping[str, str]]) -> dict[str, Tried]:
    """Outcomes by cause over the triage answers of all jobs."""
    counts: dict[str, list[int]] = {}
    for answers in jobs:
        for cause, outcome in answers.items():
            if outcome in ("helped", "no_help", "found"):
                counts.setdefault(cause, [0, 0])[1 if outcome == "no_help" else 0] += 1
    return {cause: Tried(helped=h, no_help=n) for cause, (h, n) in counts.items()}
