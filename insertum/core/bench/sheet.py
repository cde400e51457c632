"""The bench sheet: the work in its order, what it needs, and the way back (rules.md section 8)."""

from collections.abc import Sequence
from typing import Literal

from ..access.way import SETTING_OUT_SECONDS, TRIAL_SECONDS
from ..fit.build import Build
from ..frozen import Frozen
from ..kinds.all import kind_of
from ..kinds.base import Moves
from ..machine.attribute import lowered
from ..machine.opening import Obstacle
from ..machine.radio_parts import Radio
from ..machine.shape import Slot
from ..phrases import plural
from ..plan.request import TaskOffer
from ..tasks.catalogue import ISOPROPYL
from .graph import OUTSIDE, Job, Node, obstacle_of, order


class Ways(Frozen):
    """How this bench goes about it: the machine's own order or the tool in hand, how power is cut, antenna leads before
    or after the card is seated, the trial start before or after closing, how strong the solvent is."""

    by: Literal["manual", "tool"] = "tool"
    power: Literal["connector", "pack", "firmware"] = "connector"
    leads: Literal["before", "after"] = "after"
    trial_before_closing: bool = True
    solvent: Literal["90", "99"] = "99"


class Step(Frozen):
    """One thing to do. ``screws`` come out, negative when they go back in; ``loosened`` are captive ones, which stay.
    ``number`` is the part that goes in, to be checked against its label; ``slot`` and ``obstacle`` say where it is on
    the map, ``thing`` what comes off or goes back; ``lines`` are the steps of a task, in their order."""

    id: str
    phase: Literal["set out", "open", "exchange", "put back", "trial", "close", "settings"]
    text: str
    lines: tuple[str, ...] = ()
    hint: str = ""
    tool: str = ""
    screws: int = 0
    loosened: int = 0
    length_mm: float | None = None
    place: str = ""
    caution: str = ""
    seconds: int = 0
    source: str = ""
    slot: str = ""
    obstacle: str = ""
    thing: str = ""
    number: str = ""


class Sheet(Frozen):
    """``seconds`` are those of the plan; ``screws`` as many as come out, and go back in."""

    steps: tuple[Step, ...]
    tools: tuple[str, ...]
    screws: int
    seconds: int


def sheet(build: Build, ways: Ways | None = None, tasks: Sequence[TaskOffer] = ()) -> Sheet:
    """Steps for everything the build changes and every task beside. The trial start, adapter plugged in, sits before
    the last screws unless asked otherwise."""
    ways = ways or Ways()
    touched = build.changed()
    if not touched and not tasks:
        return Sheet(steps=(), tools=(), screws=0, seconds=0)
    machine = build.machine
    job = Job(
        slots=tuple((s, _taken_out(build, s), build.now(s) is not None) for s in touched),
        tasks=tuple((t.id, t.reached_by) for t in tasks if not t.outside),
        outside=tuple(t.id for t in tasks if t.outside),
    )
    nodes = order(machine, job, ways.by)
    by_task = {t.id: t for t in tasks}
    steps = [_step(build, n, ways, by_task) for n in nodes]
    outside = [s for s, n in zip(steps, nodes, strict=True) if n.do == "task" and n.what in job.outside]
    if len(outside) == len(steps):
        return _made(outside)
    steps = steps[: len(steps) - len(outside)]
    inside = nodes[: len(steps)]
    last = max((i for i, n in enumerate(inside) if not _closes(build, n)), default=-1) + 1
    trial, check = _trial(), _check()
    made = (
        [*steps[:last], trial, check, *steps[last:]]
        if ways.trial_before_closing
        else [*steps[:last], check, *steps[last:], trial]
    )
    return _made([_set_out(), *_cut_in_firmware(build, ways), *made, *outside])


def _made(made: Sequence[Step]) -> Sheet:
    tools = dict.fromkeys(t for s in made for t in s.tool.split(", ") if t and t != "fingers")
    return Sheet(
        steps=tuple(made),
        tools=tuple(tools),
        screws=sum(s.screws for s in made if s.screws > 0),
        seconds=sum(s.seconds for s in made),
    )


def _taken_out(build: Build, slot: str) -> bool:
    """Does something come out? Where nobody has looked it is looked for."""
    return not (slot in build.fitted and build.fitted[slot] is None)


def _closes(build: Build, n: Node) -> bool:
    return n.do == "on" and obstacle_of(build.machine, n).what in OUTSIDE


def _step(build: Build, n: Node, ways: Ways, tasks: dict[str, TaskOffer]) -> Step:
    match n.do:
        case "off":
            return _off(obstacle_of(build.machine, n), ways)
        case "on":
            return _on(obstacle_of(build.machine, n), _closes(build, n))
        case "out":
            return _out(build, build.machine.slot(n.what))
        case "in":
            return _in(build, build.machine.slot(n.what), ways)
        case "task":
            task = tasks[n.what]
            return _task(task, ways)
        case _:
            return _unknown_plug(n)


def _task(task: TaskOffer, ways: Ways) -> Step:
    hand = ", ".join(f"{c} {ways.solvent} %" if c == ISOPROPYL else c for c in task.consumables)
    return Step(
        id=f"task:{task.id}", phase="settings" if task.outside else "exchange", text=f"{task.name}.", lines=task.steps,
        hint=f"At hand: {hand}." if hand else "", tool=", ".join(task.tools),
        caution=task.caution, seconds=task.seconds, number=task.part,
    )  # fmt: skip


def _set_out() -> Step:
    return Step(
        id="set-out",
        phase="set out",
        text="Shut down properly (a closed lid is sleep). Unplug the adapter. Touch grounded metal, strap on.",
        hint="Soft surface under the lid, grid laid out for the screws.",
        caution="Mains adapter out before the cover; no work on the adapter itself.",
        seconds=SETTING_OUT_SECONDS,
    )


def _cut_in_firmware(build: Build, ways: Ways) -> list[Step]:
    """The battery switched off in firmware before the cover, where the machine can and the bench wants it."""
    slots = [s.id for s in build.machine.slots if s.kind == "battery"]
    if ways.power != "firmware" or not any(build.known.value(s, "firmware_switch") for s in slots):
        return []
    return [
        Step(
            id="firmware-off",
            phase="set out",
            text="Switch the battery off in the firmware's setup. The connector is pulled all the same.",
            hint="It sleeps until the adapter is plugged in: not before the trial start.",
        )
    ]


def _unknown_plug(n: Node) -> Step:
    if n.what == "back":
        return Step(id=n.id, phase="put back", text="Plug the battery in again, straight and home.")
    return Step(
        id=n.id,
        phase="open",
        text="Find and pull the battery's plug, and note where it is. Then hold the power button for ten seconds.",
        caution="Nothing on the board is touched before: no plug is recorded for this machine.",
    )


def _trial() -> Step:
    return Step(
        id="trial",
        phase="trial",
        text="Trial start, adapter plugged in, cover laid on. The first start after new memory may be slow: wait.",
        hint="Firmware screen: total memory, both modules, speed, every drive.",
        seconds=TRIAL_SECONDS,
    )


def _check() -> Step:
    return Step(
        id="check",
        phase="put back",
        text="Before closing: battery plug home and straight, latches shut, leads routed, tools and screws counted.",
    )


def _off(o: Obstacle, ways: Ways) -> Step:
    count = f"{plural(o.screws, 'captive screw' if o.captive else 'screw')}" if o.screws else ""
    length = f"{o.length_mm:g} mm" if o.length_mm else ""
    told = ", ".join(x for x in (count, length) if x)
    verb = {"battery": "Unplug", "screws": "Loosen" if o.captive else "Undo"}.get(o.what, "Take off")
    told_already = "power button" in o.hint
    drain = " Then hold the power button for ten seconds." if o.what == "battery" and not told_already else ""
    pack = ", and take the pack out" if o.what == "battery" and ways.power == "pack" else ""
    return Step(
        id=f"off:{o.id}", phase="open", text=f"{verb}: {lowered(o.name)}{f' ({told})' if told else ''}{pack}.{drain}",
        hint=o.hint, tool=o.tool, screws=0 if o.captive else o.screws, loosened=o.screws if o.captive else 0,
        length_mm=o.length_mm, place=o.place, caution=o.caution, seconds=o.seconds - o.seconds // 2, source=o.source,
        obstacle=o.id, thing=lowered(o.name), slot=o.slot or "",
    )  # fmt: skip


def _on(o: Obstacle, closing: bool) -> Step:
    verb = {"battery": "Plug in", "screws": "Tighten" if o.captive else "Drive in"}.get(o.what, "Put back")
    return Step(
        id=f"on:{o.id}", phase="close" if closing else "put back", text=f"{verb}: {lowered(o.name)}.", hint=o.hint_on,
        tool=o.tool, screws=0 if o.captive else -o.screws, loosened=-o.screws if o.captive else 0, length_mm=o.length_mm,
        place=o.place, caution=o.caution_on, seconds=o.seconds // 2, source=o.source, obstacle=o.id, thing=lowered(o.name),
        slot=o.slot or "",
    )  # fmt: skip


def _out(build: Build, slot: Slot) -> Step:
    old = build.fitted.get(slot.id)
    seconds = slot.swap_seconds // 2 if build.now(slot.id) is not None else slot.swap_seconds
    if old is None:
        return Step(
            id=f"out:{slot.id}", phase="exchange", seconds=seconds, slot=slot.id,
            text=f"Look into {slot.name}: nobody has. Take out what is there, and note its number.",
        )  # fmt: skip
    return _swap(slot, "out", f"Take out {old.name} from {slot.name}.", kind_of(old).moves(), seconds)


def _in(build: Build, slot: Slot, ways: Ways) -> Step:
    new = build.now(slot.id)
    assert new is not None, "something goes in"
    seconds = slot.swap_seconds - (slot.swap_seconds // 2 if _taken_out(build, slot.id) else 0)
    extras = ", ".join(a.name for a in build.accessories.get(slot.id, ()))
    text = f"Fit {new.name} in {slot.name}" + (f" with {extras}." if extras else ".")
    if isinstance(new, Radio):
        text += " Leads on first, then seat it." if ways.leads == "before" else " Seat it, then press the leads on."
    return _swap(slot, "in", text, kind_of(new).moves(), seconds, new.number)


def _swap(slot: Slot, way: str, text: str, moves: Moves, seconds: int, number: str = "") -> Step:
    return Step(
        id=f"{way}:{slot.id}", phase="exchange", text=text, hint=moves.out if way == "out" else moves.into,
        caution=moves.caution, seconds=seconds, slot=slot.id, number=number,
    )  # fmt: skip
