"""What the owner told us, as a shape; and the needs that follow from it."""

from collections.abc import Iterator, Mapping
from typing import Any, Literal

from pydantic import Field, field_validator, model_validator

from ..frozen import Frozen
from ..machine.attribute import lowered
from ..plan.need import Need, NeedKind
from ..standards.wlan import RadioSide
from ..tasks.catalogue import BY_ID as TASKS
from ..tasks.catalogue import PREFIX
from .load import LoadSays
from .presets import GROWTH_PERCENT, PRESETS, Preset
from .triage import Complaint, Outcome

#: Nobody plans a laptop further ahead.
MOST_YEARS = 15
#: More than any measure of a laptop in any need's unit.
_MOST = 1_000_000


class NeedEdit(Frozen):
    """A change to a derived need: any figure left out stays as derived, as far as what is said leaves room for it."""

    floor: float | None = Field(None, gt=0, le=_MOST)
    comfort: float | None = Field(None, gt=0, le=_MOST)
    ceiling: float | None = Field(None, gt=0, le=_MOST)
    weight: float | None = Field(None, ge=0, le=100)
    growth_percent: float | None = Field(None, ge=0, le=100)

    @model_validator(mode="after")
    def _rising(self) -> "NeedEdit":
        said = [x for x in (self.floor, self.comfort, self.ceiling) if x is not None]
        if not all(a < b for a, b in zip(said, said[1:], strict=False)):
            raise ValueError("a need rises: floor below comfort below ceiling")
        return self


class Intake(Frozen):
    """The owner's words and circumstances. None is not asked yet."""

    words: str = ""
    complaints: tuple[str, ...] = ()
    use: str = "office"
    budget_minor: int | None = Field(None, ge=0)
    years: int = Field(3, ge=0, le=MOST_YEARS)
    growth_percent: float = Field(GROWTH_PERCENT, ge=0, le=100)
    router: RadioSide | None = None
    line_mbit_s: int | None = Field(None, ge=0)
    used_gb: float | None = Field(None, ge=0)
    peak_memory_gb: float | None = Field(None, ge=0, le=4096)
    processor_at_limit: bool = False
    pages: bool | None = None
    drive_filled_percent: int | None = Field(None, ge=0, le=100)
    owned: Literal["owned", "not_bought"] = "owned"
    average_w: float | None = Field(None, gt=0, le=300)
    encryption: Literal["unknown", "off", "on"] = "unknown"
    key_holder: str = ""
    backup: Literal["unknown", "none", "confirmed"] = "unknown"
    warranty: str = ""
    came_with: str = Field("", max_length=500, description="what came with the machine, as it goes back")
    pack: Literal["not_looked", "sound", "swollen"] = "not_looked"
    notes: str = ""
    triage: dict[str, Outcome] = {}
    needs: dict[str, NeedEdit] = {}
    fault_slot: str = ""
    system: str = Field("", max_length=60, description="the owner's operating system, where the job names it")

    @field_validator("years", mode="before")
    @classmethod
    def _foreseeable(cls, years: Any) -> Any:
        if isinstance(years, int) and years > MOST_YEARS:
            raise ValueError(f"more than {MOST_YEARS} years is not planned for")
        return years


def faults_found(intake: Intake, complaints: Mapping[str, Complaint]) -> dict[str, str]:
    """Faults that triage found and a task mends: the task's id with the complaint it answers, in the order of the list."""
    return {
        cause.cure: complaint.name
        for name in intake.complaints
        if (complaint := complaints.get(name))
        for cause in complaint.causes
        if cause.cure and intake.triage.get(cause.id) == "found"
    }


def free_first(intake: Intake, complaints: Mapping[str, Complaint]) -> tuple[str, ...]:
    """For each complaint of the job the free causes nobody has looked at yet: they come before any part. Where one of its
    causes was found or helped, nothing more is looked for."""
    found = []
    for complaint in (complaints[name] for name in dict.fromkeys(intake.complaints) if name in complaints):
        came = [intake.triage.get(c.id, "untried") for c in complaint.causes]
        left = [c.cause for c, how in zip(complaint.causes, came, strict=True) if how == "untried"]
        if left and not {"helped", "found"} & set(came):
            found.append(f"{complaint.name}: before any part, look at: {'; '.join(lowered(c) for c in left)}.")
    return tuple(found)


def derive_needs(
    intake: Intake,
    graphics_share: bool | None,
    complaints: Mapping[str, Complaint] | None = None,
    load: LoadSays | None = None,
    measured_far: bool = False,
) -> tuple[Need, ...]:
    """Needs from use, complaints, what was observed, and the job's own edits, in that order.

    Memory throughput counts only where graphics share memory (unknown counts as shared). A peak observed under the
    owner's own work sets the need for memory, whatever the preset says. Hours and reach without a figure of this machine
    are no need by a preset alone; a complaint about them keeps its need, which waits for a trial.
    """
    preset: Preset = PRESETS.get(intake.use) or PRESETS["office"]
    weights, complained = _weights(intake, preset, complaints or {})
    peak = load.peak_memory_gb if load else intake.peak_memory_gb
    used = load.used_gb if load else intake.used_gb
    needs = []
    for kind, (floor, comfort, ceiling, _) in preset.needs.items():
        weight, set_by = weights[kind]
        if kind is NeedKind.MEMORY_THROUGHPUT and graphics_share is False:
            weight, set_by = 0, "graphics have their own memory"
        waits = {
            NeedKind.RUNTIME: "draw not measured" if intake.average_w is None else "",
            NeedKind.RADIO_REACH: "" if measured_far else "not measured far away",
        }.get(kind, "")
        if waits:
            weight, set_by = (weight, f"{set_by}, {waits}") if kind in complained else (0, waits)
        if kind is NeedKind.MEMORY_CAPACITY and load and load.pages:
            weight, set_by = weight + 1, "it pages"
        if kind is NeedKind.DRIVE_SPACE and used and used * 0.1 > floor:
            # A drive filled beyond nine tenths slows itself: that much free is the floor.
            floor, set_by = used * 0.1, "a tenth of what is stored"
            comfort, ceiling = max(comfort, floor * 2), max(ceiling, floor * 4)
        if kind is NeedKind.MEMORY_CAPACITY and peak:
            # An observation beats a preset (rules.md section 7): the peak, 1.3 of it, twice of it.
            floor, comfort, ceiling, set_by = peak, peak * 1.3, peak * 2, "observed peak use"
        edit = intake.needs.get(kind)
        if edit:
            floor, comfort, ceiling = _edited(edit, floor, comfort, ceiling)
            weight = edit.weight if edit.weight is not None else weight
            set_by = "this job"
        needs.append(
            Need(
                kind=kind, floor=floor, comfort=comfort, ceiling=ceiling, weight=weight, set_by=set_by,
                growth_percent=edit.growth_percent if edit else None,
            )
        )  # fmt: skip
    return (*needs, *_faults(intake, complaints or {}))


Weights = dict[NeedKind, tuple[float, str]]


def _weights(
    intake: Intake, preset: Preset, complaints: Mapping[str, Complaint]
) -> tuple[Weights, frozenset[NeedKind]]:
    """What each need weighs by use and complaints, with who set it; and what complaints are first of all about: that
    stays though it has no figure, what a complaint bears on besides does not."""
    weights: Weights = {kind: (figures[3], f"use: {lowered(preset.name)}") for kind, figures in preset.needs.items()}
    about: set[NeedKind] = set()
    for name in dict.fromkeys(intake.complaints):  # said twice it weighs once
        if complaint := complaints.get(name):
            for kind, extra in complaint.weights.items():
                weights[kind] = (weights[kind][0] + extra, f"complaint: {lowered(complaint.name)}")
                about |= {kind} if extra and extra == max(complaint.weights.values()) else set()
    return weights, frozenset(about)


def _faults(intake: Intake, complaints: Mapping[str, Complaint]) -> Iterator[Need]:
    """A need for the broken part, and one for each fault that triage found."""

    def fault(set_by: str, slot: str, note: str = "") -> Need:
        return Need(
            kind=NeedKind.FAULT, floor=1, comfort=2, ceiling=3, weight=4, set_by=set_by, slot=slot, note=note
        )  # fmt: skip

    if intake.fault_slot:
        yield fault("fault found", intake.fault_slot)
    for task, name in faults_found(intake, complaints).items():
        yield fault(f"found: {lowered(name)}", PREFIX + task, TASKS[task].mends)


def _edited(edit: NeedEdit, floor: float, comfort: float, ceiling: float) -> tuple[float, float, float]:
    """The three figures with what the job says of them. What it says stands; a derived one that would break the rise
    makes room by the same shares a peak is given, 1.3 of the floor and twice of it, or half way where that is too far."""
    if edit.comfort is not None:
        comfort = edit.comfort
    elif edit.floor is not None and edit.floor >= comfort:
        comfort = edit.floor * 1.3
    elif edit.ceiling is not None and edit.ceiling <= comfort:
        comfort = edit.ceiling * 0.65
    if edit.floor is not None and edit.ceiling is not None and not edit.floor < comfort < edit.ceiling:
        comfort = (edit.floor + edit.ceiling) / 2
    floor = edit.floor if edit.floor is not None else floor if floor < comfort else comfort / 1.3
    ceiling = edit.ceiling if edit.ceiling is not None else ceiling if comfort < ceiling else comfort / 0.65
    return floor, comfort, ceiling
