"""Gates before a screw is touched: what must be done, or waived in the owner's words."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from ..bench.sheet import Sheet
from ..fit.build import Build
from ..fit.judge import judge_build
from ..frozen import Frozen
from ..intake.intake import Intake
from ..machine.part import CARDS, Cellular, Radio
from ..plan.request import TaskOffer
from ..plan.result import CopyPath

#: A waiver is words, not a tick.
WAIVER_WORDS = 12

#: Somebody's name at least.
SAID_WORDS = 2

#: Gates that follow from the plan's parts: another plan opens them again.
PLAN_GATES = ("owners_word", "consent", "boot_stick", "copy", "drivers", "approvals", "parts", "tasks", "tools")
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


def gates(
    build: Build, intake: Intake, sheet: Sheet, as_usual: AsUsual | None = None, copy: CopyPath | None = None,
    price: str = "", tasks: Sequence[TaskOffer] = (), differs: Sequence[str] = (), agreed: bool = False,
) -> tuple[Gate, ...]:  # fmt: skip
    """The gates this build and the tasks beside it need. ``copy`` is how the system gets onto a new drive, ``price`` what the owner is asked
    to agree to, and ``agreed`` whether their word was taken down for it."""
    changed = {s: build.now(s) for s in build.changed()}
    drive_moves = build.boot_slot in changed
    found = [
        Gate(
            id="backup",
            title="Backup confirmed",
            why="No work on a machine with data without a backup or the owner's written word.",
            items=(
                "The owner has not been asked." if intake.backup == "unknown" else f"The owner said: {intake.backup}.",
            ),
        )
    ]
    if intake.encryption != "off":
        found.append(
            Gate(
                id="encryption",
                title="Encryption suspended, recovery key with the owner",
                why="New memory or a new drive can bring up the recovery screen.",
                items=(
                    "Encryption is " + ("on" if intake.encryption == "on" else "not known: look"),
                    f"Key held by: {intake.key_holder or 'nobody named yet'}",
                ),
            )
        )
    if drive_moves:
        found.append(
            Gate(
                id="boot_stick",
                title="Boot stick made, at least 8 GB",
                why="The system drive changes: a clean install or the clone starts from it.",
            )
        )
    if copy is not None:
        found.append(
            Gate(
                id="copy",
                title="The way the system gets over is clear",
                why=copy.says,
                items=(
                    *(f"at hand: {b}" for b in copy.buys),
                    *copy.must,
                    *((f"about {copy.minutes} min unattended",) if copy.minutes is not None else ()),
                ),
            )
        )
    if drive_moves or any(isinstance(p, Radio) for p in changed.values()):
        found.append(
            Gate(
                id="drivers",
                title="Radio and network drivers on a stick, or a wired adapter at hand",
                why="A new radio or a new system may have no driver, and then no network to fetch one.",
            )
        )
    if senders := [p.name for p in changed.values() if isinstance(p, Radio | Cellular)]:
        found.append(
            Gate(
                id="approvals",
                title="Radio and cellular may be used here",
                why="Bands, power and whether another card than the maker's may be fitted are the region's to say: "
                "local rules decide, not this page.",
                items=tuple(senders),
            )
        )
    if unproven := _unproven(build):
        whose = f"{as_usual.owner} took what is not known as usual." if as_usual else "A school that takes reports."
        found.append(
            Gate(
                id="owners_word",
                title="The owner's word for what is unproven",
                why="It may not work and then goes back: the old part is kept, and neither erased, sold nor credited "
                "until Prove has settled it.",
                items=(whose, *unproven),
                waivable=False,
                asks="Who said it, and how",
            )
        )
    if differs:
        found.append(
            Gate(
                id="found",
                title="What was found is not what the plan was made for",
                why="Fit and price are worked out anew, and the owner's word is asked before the work goes on.",
                items=tuple(differs),
                waivable=False,
                derived=True,
            )
        )
    if price:
        found.append(
            Gate(
                id="consent",
                title="The owner agrees to the price",
                why="Nothing is opened for a price nobody agreed to.",
                items=(price,),
                waivable=False,
                derived=True,
                settled=agreed,
            )
        )
    parts = [p.name for p in changed.values() if p] + [a.name for s in changed for a in build.accessories.get(s, ())]
    found.append(
        Gate(
            id="parts",
            title="The right parts on the bench",
            why="Read each label against the plan before the machine is open.",
            items=tuple(parts),
        )
    )
    told = dict.fromkeys(
        line for t in tasks for line in (*((t.part_name,) if t.part_name else ()), *t.consumables, *t.gates)
    )
    if told:
        found.append(
            Gate(
                id="tasks",
                title="What the work besides needs is at hand",
                why=f"For: {', '.join(t.name.lower() for t in tasks)}.",
                items=tuple(told),
                caution=" ".join(dict.fromkeys(t.caution for t in tasks if t.caution)),
            )
        )
    found.append(
        Gate(
            id="tools",
            title="Tools and bits laid out",
            why="The right bit saves a stripped screw.",
            items=(
                *sheet.tools,
                *(
                    ("the card's own screw, and its bit",)
                    if any(isinstance(p, CARDS) for p in changed.values())
                    else ()
                ),
            ),
        )
    )
    found.append(
        Gate(
            id="warranty",
            title="Owner told about the warranty",
            why="The maker's terms and local law decide what opening does to it.",
            items=(intake.warranty,) if intake.warranty else (),
        )
    )
    found.append(
        Gate(
            id="battery",
            title="Battery flat and cool",
            why="A swollen, hot, hissing or leaking pack stops the job.",
            caution="Swollen, hot, hissing or leaking: stop, do not charge, move it away from anything that burns, "
            "follow local rules for damaged batteries.",
            waivable=False,
        )
    )
    return tuple(found)


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
