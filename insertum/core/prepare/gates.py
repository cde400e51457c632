"""Gates before a screw is touched: what must be done, or waived in the owner's words."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from ..bench.sheet import Sheet
from ..fit.build import Build
from ..fit.judge import judge_build
from ..frozen import Frozen
from ..intake.intake import Intake
from ..machine.attribute import listed, lowered
from ..machine.part import CARDS, Fittable
from ..machine.radio_parts import Cellular, Radio
from ..plan.candidates import AS_USUAL
from ..plan.measure import TRIAL
from ..plan.request import TaskOffer
from ..plan.result import CopyPath, ToSettle, WaitingAct
from ..verdict import Verdict

#: A waiver is words, not a tick.
WAIVER_WORDS = 12

#: Somebody's name at least.
SAID_WORDS = 2

#: Gates that follow from the plan's parts: another plan opens them again.
PLAN_GATES = (
    "owners_word",
    "trial",
    "consent",
    "boot_stick",
    "copy",
    "drivers",
    "approvals",
    "parts",
    "tasks",
    "tools",
)
#: What is asked anew where only the tasks beside the parts are others.
TASK_GATES = ("consent", "tasks")
#: What is asked anew where the same parts are taken at another price.
PRICE_GATES = ("consent",)


class AsUsual(Frozen):
    """The owner's word to take returnable unknowns as usual on this job (rules.md section 2): whose, and when."""

    owner: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)]
    at: str = ""
    only: tuple[str, ...] = Field((), description="which unknowns, as slot.attribute; none named is all of them")


class Gate(Frozen):
    """One check. ``items`` are ticked off in the mind, the gate as a whole on the screen."""

    id: str
    title: str
    why: str
    items: tuple[str, ...] = ()
    caution: str = ""
    waivable: bool = True
    derived: bool = Field(False, description="done by an event alone, the owner's word taken down: no tick closes it")
    settled: bool = Field(False, description="the event a derived gate waits for has been")
    asks: str = Field("", description="what has to be written down for a tick to count")


class GateState(Frozen):
    """What was said of a gate. "blocked" is a finding that stops the job (a swollen pack)."""

    state: Literal["open", "done", "waived", "blocked"] = "open"
    words: str = Field("", max_length=2000)
    who: str = Field("", max_length=150)


class GateTick(Frozen):
    """Who said what stands of a gate, and when: written by the server beside it."""

    at: str
    who: str = ""


@dataclass(frozen=True)
class Work:
    """What the gates are asked of: the build with the tasks beside it. ``copy`` is how the system gets onto a new drive,
    ``price`` what the owner is asked to agree to, and ``agreed`` whether their word was taken down for it. ``known`` is the
    build as it is known by now, ``waits`` what was to be looked at when it was chosen, ``unmeasured`` what its figures still
    rest on."""

    build: Build
    intake: Intake
    sheet: Sheet
    as_usual: AsUsual | None
    copy: CopyPath | None
    price: str
    tasks: Sequence[TaskOffer]
    differs: Sequence[str]
    agreed: bool
    waits: Sequence[WaitingAct]
    known: Build
    unmeasured: frozenset[str]

    @cached_property
    def changed(self) -> dict[str, Fittable | None]:
        return {s: self.build.now(s) for s in self.build.changed()}

    @property
    def new(self) -> list[Fittable]:
        """What goes in."""
        return [p for p in self.changed.values() if p is not None]

    @property
    def moves(self) -> bool:
        """Does the system go onto a new drive?"""
        return self.build.boot_slot in self.changed


def gates(
    build: Build, intake: Intake, sheet: Sheet, as_usual: AsUsual | None = None, copy: CopyPath | None = None,
    price: str = "", tasks: Sequence[TaskOffer] = (), differs: Sequence[str] = (), agreed: bool = False,
    waits: Sequence[WaitingAct] = (), known: Build | None = None, unmeasured: frozenset[str] = frozenset(),
) -> tuple[Gate, ...]:  # fmt: skip
    """The gates this build and the tasks beside it need, in the order of Prepare."""
    work = Work(build, intake, sheet, as_usual, copy, price, tasks, differs, agreed, waits, known or build, unmeasured)
    return tuple(found for gate in GATES if (found := gate(work)) is not None)


def _backup(w: Work) -> Gate:
    said = "The owner has not been asked." if w.intake.backup == "unknown" else f"The owner said: {w.intake.backup}."
    return Gate(
        id="backup",
        title="Backup confirmed",
        why="No work on a machine with data without a backup or the owner's written word.",
        items=(said,),
    )


def _encryption(w: Work) -> Gate | None:
    if w.intake.encryption == "off":
        return None
    return Gate(
        id="encryption",
        title="Encryption suspended, recovery key with the owner",
        why="New memory or a new drive can bring up the recovery screen.",
        items=(
            "Encryption is " + ("on" if w.intake.encryption == "on" else "not known: look"),
            f"Key held by: {w.intake.key_holder or 'nobody named yet'}",
        ),
    )


def _boot_stick(w: Work) -> Gate | None:
    if not w.moves:
        return None
    return Gate(
        id="boot_stick",
        title="Boot stick made, at least 8 GB",
        why="The system drive changes: a clean install or the clone starts from it.",
    )


def _copy(w: Work) -> Gate | None:
    if w.copy is None:
        return None
    unattended = (f"about {w.copy.minutes} min unattended",) if w.copy.minutes is not None else ()
    return Gate(
        id="copy",
        title="The way the system gets over is clear",
        why=w.copy.says,
        items=(*(f"at hand: {b}" for b in w.copy.buys), *w.copy.must, *unattended),
    )


def _drivers(w: Work) -> Gate | None:
    if not w.moves and not any(isinstance(p, Radio) for p in w.new):
        return None
    return Gate(
        id="drivers",
        title="Wi-Fi and network drivers on a stick, or a wired adapter at hand",
        why="A new Wi-Fi card or a new system may have no driver, and then no network to fetch one.",
    )


def _approvals(w: Work) -> Gate | None:
    senders = tuple(p.name for p in w.new if isinstance(p, Radio | Cellular))
    if not senders:
        return None
    return Gate(
        id="approvals",
        title="Wi-Fi and cellular may be used here",
        why="Bands, power and whether another card than the maker's may be fitted are the region's to say: "
        "local rules decide, not this page.",
        items=senders,
    )


def _owners_word(w: Work) -> Gate | None:
    unproven = _unproven(w.build)
    if not unproven:
        return None
    whose = f"{w.as_usual.owner} took what is not known as usual." if w.as_usual else "A school that takes reports."
    return Gate(
        id="owners_word",
        title="The owner's word for what is unproven",
        why="It may not work and then goes back: the old part is kept, and neither erased, sold nor credited "
        "until Prove has settled it.",
        items=(whose, *unproven),
        waivable=False,
        asks="Who said it, and how",
    )


def _looked(w: Work) -> Gate | None:
    questions = [q for act in w.waits for q in act.questions if q.attribute != TRIAL]
    if not questions:
        return None
    asks, passed = dict[str, list[str]](), []
    for slot, judged in judge_build(w.known).items():
        if (part := w.changed.get(slot)) is None:
            continue
        for q in judged.asks:
            asks.setdefault(q, []).append(part.name)
        if judged.verdict is Verdict.MEASURE_FIRST or (judged.verdict and judged.verdict.usable):
            continue
        passed.append(f"{part.name} does not go into {w.build.machine.slot(slot).name}: {judged.short}")
    # What is taken as usual is open while a verdict is: it is asked in place of the looking.
    word = {AS_USUAL} if asks and w.as_usual is None else set()

    def is_open(q: ToSettle) -> bool:
        if q.attribute.startswith("part."):  # asked of each part by its name: one may have been told of, the other not
            of = asks.get(q.attribute, []) + ([""] if q.attribute in w.unmeasured else [])
            return any(q.label.startswith(f"{name}: " if name else "") for name in of)
        return q.attribute in asks or q.attribute in word or q.attribute in w.unmeasured

    acts = [(act, [lowered(q.label) for q in act.questions if q in questions and is_open(q)]) for act in w.waits]
    items = [f"{act.name}: {listed(labels)}" for act, labels in acts if labels]
    if asks and not items:
        items.append("Survey says what else is open")
    return Gate(
        id="looked",
        title="The plan holds no longer: choose another" if passed else "What the plan waits for",
        why="It was chosen for what would turn out well. Until that is known nothing is bought for it.",
        items=(*passed, *items),
        waivable=False,
        derived=True,
        settled=not items and not passed,
    )


def _trial(w: Work) -> Gate | None:
    labels = [lowered(q.label) for act in w.waits for q in act.questions if q.attribute == TRIAL]
    if not labels:
        return None
    return Gate(
        id="trial",
        title="What only a trial tells",
        why="It is fitted with the right to return it and measured under the owner's own work afterwards: it may change nothing.",
        items=tuple(labels),
        waivable=False,
        asks="Who agreed to try it, and how",
    )


def _found(w: Work) -> Gate | None:
    if not w.differs:
        return None
    return Gate(
        id="found",
        title="What was found is not what the plan was made for",
        why="Fit and price are worked out anew, and the owner's word is asked before the work goes on.",
        items=tuple(w.differs),
        waivable=False,
        derived=True,
    )


def _consent(w: Work) -> Gate | None:
    if not w.price:
        return None
    return Gate(
        id="consent",
        title="The owner agrees to the price",
        why="Nothing is opened for a price nobody agreed to.",
        items=(w.price,),
        waivable=False,
        derived=True,
        settled=w.agreed,
    )


def _parts(w: Work) -> Gate:
    accessories = [a.name for s in w.changed for a in w.build.accessories.get(s, ())]
    return Gate(
        id="parts",
        title="The right parts on the bench",
        why="Read each label against the plan before the machine is open.",
        items=(*(p.name for p in w.new), *accessories),
    )


def _tasks(w: Work) -> Gate | None:
    told = dict.fromkeys(
        line for t in w.tasks for line in (*((t.part_name,) if t.part_name else ()), *t.consumables, *t.gates)
    )
    if not told:
        return None
    return Gate(
        id="tasks",
        title="What the work besides needs is at hand",
        why=f"For: {', '.join(lowered(t.name) for t in w.tasks)}.",
        items=tuple(told),
        caution=" ".join(dict.fromkeys(t.caution for t in w.tasks if t.caution)),
    )


def _tools(w: Work) -> Gate:
    screw = ("the card's own screw, and its bit",) if any(isinstance(p, CARDS) for p in w.new) else ()
    return Gate(
        id="tools",
        title="Tools and bits laid out",
        why="The right bit saves a stripped screw.",
        items=(*w.sheet.tools, *screw),
    )


def _warranty(w: Work) -> Gate:
    return Gate(
        id="warranty",
        title="Owner told about the warranty",
        why="The maker's terms and local law decide what opening does to it.",
        items=(w.intake.warranty,) if w.intake.warranty else (),
    )


def _battery(w: Work) -> Gate:
    swollen = w.intake.pack == "swollen"
    return Gate(
        id="battery",
        title="The pack came in swollen: the job stops here" if swollen else "Battery flat and cool",
        derived=swollen,
        why="A swollen, hot, hissing or leaking pack stops the job.",
        caution="Swollen, hot, hissing or leaking: stop, do not charge, move it away from anything that burns, "
        "follow local rules for damaged batteries.",
        waivable=False,
    )


#: Each asks for itself whether this work needs it, in the order of Prepare.
GATES: tuple[Callable[[Work], Gate | None], ...] = (
    _backup, _encryption, _boot_stick, _copy, _drivers, _approvals, _owners_word, _looked, _trial, _found, _consent, _parts, _tasks, _tools, _warranty,
    _battery,
)  # fmt: skip


def _unproven(build: Build) -> tuple[str, ...]:
    """What the build puts in that rests on the owner's word: taken as usual, or only reported by others."""
    return tuple(
        f"{part.name} in {build.machine.slot(slot).name}: {f.says}"
        for slot, judged in judge_build(build).items()
        if slot in build.changed() and (part := build.now(slot)) is not None
        for f in judged.findings
        if f.rule == "job.as_usual" or "unproven" in f.says
    )


def still_open(needed: tuple[Gate, ...], states: dict[str, GateState]) -> tuple[Gate, ...]:
    """Gates that neither are done nor rightly waived. A waiver without words does not count, and
    the battery's cannot be waived."""

    def passed(gate: Gate) -> bool:
        state = states.get(gate.id, GateState())
        if gate.derived:
            return gate.settled
        if state.state == "done":
            return not gate.asks or len(state.words.strip()) >= SAID_WORDS
        return state.state == "waived" and gate.waivable and len(state.words.strip()) >= WAIVER_WORDS

    return tuple(g for g in needed if not passed(g))
