"""The record: what was done, from events alone (rules.md section 12).

*Fitted*, *removed* and *done* come from steps that were ticked, *returned*, *to the shelf* and *erased* from words that
were entered, *measured* from measurements. What was planned and not done is listed as such; what was only expected is
never said to be measured.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from ..frozen import Frozen
from ..phrases import ends
from ..plan.result import PlanPoint
from .shape import MEASURED_LABELS, MEASURED_UNITS, MORE_IS_BETTER, Gone, Measurement, StepSaid, Stopped, Tick

State = Literal["open", "waiting", "stopped", "done", "no part sold"]


class Event(Frozen):
    """One thing that happened. ``slot`` and ``number`` where it is about a part."""

    what: Literal["removed", "fitted", "task", "returned", "shelf", "erased", "stopped"]
    says: str
    slot: str = ""
    number: str = ""
    at: str = ""
    who: str = ""


class Compared(Frozen):
    """One thing measured before and after, or later: figures with their conditions, and the change where both ends have
    one. ``expected`` is what the plan said, where it said something."""

    label: str
    unit: str
    conditions: str
    before: Measurement | None
    after: Measurement | None
    later: tuple[Measurement, ...] = ()
    change_percent: float | None = None
    better: bool | None = None


class Foreseen(Frozen):
    """What the plan expected of a need: said beside what was measured, never as if it were."""

    label: str
    says: str


class Record(Frozen):
    """What the owner's record and the workshop's rest on. ``whole`` tells whether all that was planned was done;
    ``cost_minor`` is None where it was not, or nothing was planned."""

    state: State
    events: tuple[Event, ...]
    not_done: tuple[str, ...]
    still_out: tuple[str, ...]
    noted: tuple[str, ...]
    compared: tuple[Compared, ...]
    expected: tuple[Foreseen, ...]
    worked: tuple[str, ...]
    whole: bool
    cost_minor: int | None
    stopped: Stopped | None


def happened(
    done: Mapping[str, str], ticks: Mapping[str, Tick], gone: Mapping[str, Gone], stopped: Stopped | None
) -> tuple[Event, ...]:
    """Events in the order they were entered: ``done`` keeps it."""
    return tuple(_all(done, ticks, gone, stopped))


def _all(
    done: Mapping[str, str], ticks: Mapping[str, Tick], gone: Mapping[str, Gone], stopped: Stopped | None
) -> Iterator[Event]:
    for step in done:
        tick = ticks.get(step, Tick(at=done[step]))
        way, _, what = step.partition(":")
        where = tick.slot_name or what
        moved = {"slot": what, "number": tick.number, "at": tick.at, "who": tick.who}
        if way == "out":
            yield Event(what="removed", says=f"{tick.part or 'What was in it'} out of {where}", **moved)
        elif way == "in":
            yield Event(what="fitted", says=f"{tick.part or 'A part'} into {where}", **moved)
        elif way == "task":
            yield Event(what="task", says=tick.text.rstrip(".") or what, at=tick.at, who=tick.who)
    out = {step.partition(":")[2] for step in done if step.startswith("out:")}
    for slot, g in gone.items():
        if slot in out:  # what was not taken out can go nowhere
            yield Event(
                what=g.fate,
                says=f"{g.part or 'what was taken out'}{f': {g.note}' if g.note else ''}",
                slot=slot,
                number=g.number,
                at=g.at,
                who=g.who,
            )
    if stopped is not None:
        yield Event(what="stopped", says=stopped.why, at=stopped.at, who=stopped.who)


def state_of(closed: bool, outcome: str, stopped: Stopped | None, waits_for: str) -> State:
    """How a job stands, in the record's words; ``waits_for`` is '' where nothing is waited for."""
    if stopped is not None or outcome == "stopped":
        return "stopped"
    if closed:
        return "no part sold" if outcome == "no part sold" else "done"
    return "waiting" if waits_for else "open"


def record(
    plan: PlanPoint | None, done: Mapping[str, str], ticks: Mapping[str, Tick], gone: Mapping[str, Gone],
    measured: Sequence[Measurement], stopped: Stopped | None, closed: bool, outcome: str, waits_for: str,
    said: Mapping[str, StepSaid] | None = None,
    things: Mapping[str, str] | None = None,
) -> Record:  # fmt: skip
    """Everything a paper may say of a job."""
    events = happened(done, ticks, gone, stopped)
    fitted = {e.slot for e in events if e.what == "fitted"}
    removed = {e.slot for e in events if e.what == "removed"}
    tasks = {step.partition(":")[2] for step in done if step.startswith("task:")}
    not_done = _not_done(plan, fitted, removed, tasks)
    whole = plan is not None and bool(plan.changes or plan.tasks) and not not_done
    return Record(
        state=state_of(closed, outcome, stopped, waits_for),
        events=events,
        not_done=not_done,
        still_out=tuple(e.says for e in events if e.what == "removed" and e.slot not in gone),
        noted=tuple(_noted(said, ticks, things or {})),
        compared=compared(measured),
        expected=expected(plan) if whole else (),
        worked=tuple(dict.fromkeys(e.who for e in events if e.who)),
        whole=whole,
        cost_minor=plan.cost_minor if plan is not None and whole else None,
        stopped=stopped,
    )


def _noted(said: Mapping[str, StepSaid] | None, ticks: Mapping[str, Tick], things: Mapping[str, str]) -> Iterator[str]:
    """What was written down at the steps: words, and numbers that were found."""
    for step, s in (said or {}).items():
        at = f" ({ticks[step].text.rstrip('.')})" if step in ticks and ticks[step].text else ""
        if s.note.strip():
            yield f"{s.note.strip()}{at}"
        if s.number.strip():
            yield f"Number on the {things.get(s.of, s.of)}: {s.number.strip()}{at}"
        if s.serial.strip():
            yield f"Serial of the piece that was scanned: {s.serial.strip()}{at}"


def _not_done(plan: PlanPoint | None, fitted: set[str], removed: set[str], tasks: set[str]) -> tuple[str, ...]:
    if plan is None:
        return ()
    left = [
        f"{c.part_name} into {c.slot_name}" if c.part else f"{c.slot_name} emptied"
        for c in plan.changes
        if c.slot not in (fitted if c.part else removed)
    ]
    return (*left, *(t.name for t in plan.tasks if t.id not in tasks))


def expected(plan: PlanPoint | None) -> tuple[Foreseen, ...]:
    """What the plan said of each need it changes."""
    found = []
    for n in plan.needs if plan else ():
        if n.today != n.after:
            then = f" in {plan.years} years" if plan and plan.years and n.grows else ""
            says = f"{ends(n.today, n.unit)} → {ends(n.after, n.unit)} {n.unit}".strip()
            found.append(Foreseen(label=n.label + then, says=says))
    return tuple(found)


def compared(measured: Sequence[Measurement]) -> tuple[Compared, ...]:
    """Measurements of one thing under the same conditions side by side."""
    by_kind: dict[tuple[str, str, str], list[Measurement]] = {}
    for m in measured:
        by_kind.setdefault((m.what, m.place.strip().lower(), m.ran.strip().lower()), []).append(m)
    found = []
    for (what, _, _), same in by_kind.items():
        before = next((m for m in reversed(same) if m.when == "before"), None)
        after = next((m for m in reversed(same) if m.when == "after"), None)
        change = better = None
        if before and after and before.value and after.value is not None:
            change = 100 * (after.value - before.value) / before.value
            better = change > 0 if what in MORE_IS_BETTER else change < 0
        conditions = ", ".join(x for x in (same[-1].place, same[-1].ran) if x)
        found.append(
            Compared(
                label=MEASURED_LABELS[what], unit=MEASURED_UNITS[what], conditions=conditions, before=before, after=after,
                later=tuple(m for m in same if m.when == "later"), change_percent=change, better=better,
            )
        )  # fmt: skip
    return tuple(found)
