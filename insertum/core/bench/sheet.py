"""The bench sheet: steps in access order, what they need, and the way back."""

from typing import Literal

from ..base import Frozen, plural
from ..fit.build import Build
from ..kinds.all import kind_of
from ..kinds.base import Moves
from ..machine.shape import Obstacle, Slot
from .access import SETTING_OUT_SECONDS, TRIAL_SECONDS, opening_order


class Step(Frozen):
    """One thing to do. ``screws`` is negative when they go back in.
    ``number`` is the part that goes in, to be checked against its label."""

    id: str
    phase: Literal["set out", "open", "exchange", "put back", "trial", "close"]
    text: str
    hint: str = ""
    tool: str = ""
    screws: int = 0
    length_mm: float | None = None
    captive: bool = False
    place: str = ""
    caution: str = ""
    seconds: int = 0
    source: str = ""
    slot: str = ""
    number: str = ""


class Sheet(Frozen):
    steps: tuple[Step, ...]
    tools: tuple[str, ...]
    screws: int
    seconds: int


def sheet(build: Build, trial_before_closing: bool = True) -> Sheet:
    """Steps for everything the build changes. Reassembly is the reverse of opening; the trial
    start, adapter plugged in, sits before the last screws unless asked otherwise."""
    touched = build.changed()
    if not touched:
        return Sheet(steps=(), tools=(), screws=0, seconds=0)
    opening = opening_order(build.machine, touched)
    power = build.machine.machine.power_off
    steps = [_set_out()]
    steps += [_off(o) for o in opening]
    steps += [s for slot in touched for s in _exchange(build, slot)]
    back = [_on(o, o.id == power or _before_power(o, opening, power)) for o in reversed(opening)]
    trial = Step(
        id="trial",
        phase="trial",
        text="Trial start, adapter plugged in, cover laid on. The first start after new memory may be slow: wait.",
        hint="Firmware screen: total memory, both modules, speed, every drive.",
        seconds=TRIAL_SECONDS,
    )
    at = next((i + 1 for i, o in enumerate(reversed(opening)) if o.id == power), 0)
    check = Step(
        id="check",
        phase="put back",
        text="Before closing: battery plug home and straight, latches shut, leads routed, tools and screws counted.",
    )
    steps += [*back[:at], trial, check, *back[at:]] if trial_before_closing else [*back[:at], check, *back[at:], trial]
    tools = dict.fromkeys(s.tool for s in steps if s.tool and s.tool != "fingers")
    return Sheet(
        steps=tuple(steps),
        tools=tuple(tools),
        screws=sum(s.screws for s in steps if s.screws > 0),
        seconds=sum(s.seconds for s in steps),
    )


def _set_out() -> Step:
    return Step(
        id="set-out",
        phase="set out",
        text="Shut down properly (a closed lid is sleep). Unplug the adapter. Touch grounded metal, strap on.",
        hint="Soft surface under the lid, grid laid out for the screws.",
        caution="Mains adapter out before the cover; no work on the adapter itself.",
        seconds=SETTING_OUT_SECONDS,
    )


def _off(o: Obstacle) -> Step:
    counted = f" ({plural(o.screws, 'screw')}, {o.length_mm:g} mm)" if o.screws and o.length_mm else ""
    verb = {"battery": "Unplug", "screws": "Undo"}.get(o.what, "Take off")
    return Step(
        id=f"off:{o.id}",
        phase="open",
        text=f"{verb}: {o.name.lower()}{counted}.",
        hint=o.hint,
        tool=o.tool,
        screws=o.screws,
        length_mm=o.length_mm,
        captive=o.captive,
        place=o.place,
        caution=o.caution,
        seconds=o.seconds - o.seconds // 2,
        source=o.source,
    )


def _on(o: Obstacle, closing: bool) -> Step:
    verb = {"battery": "Plug in", "screws": "Drive in"}.get(o.what, "Put back")
    return Step(
        id=f"on:{o.id}",
        phase="close" if closing and o.what != "battery" else "put back",
        text=f"{verb}: {o.name.lower()}.",
        tool=o.tool,
        screws=-o.screws,
        length_mm=o.length_mm,
        place=o.place,
        seconds=o.seconds // 2,
        source=o.source,
    )


def _before_power(o: Obstacle, opening: tuple[Obstacle, ...], power: str) -> bool:
    order = [x.id for x in opening]
    return power in order and order.index(o.id) <= order.index(power)


def _exchange(build: Build, slot_id: str) -> list[Step]:
    slot: Slot = build.machine.slot(slot_id)
    old, new = build.fitted.get(slot_id), build.now(slot_id)
    share = slot.swap_seconds // 2 if old and new else slot.swap_seconds
    steps = []
    if old:
        steps.append(_swap(slot, "out", f"Take out {old.name} from {slot.name}.", kind_of(old).moves(), share))
    if new:
        seconds = slot.swap_seconds - share if old else slot.swap_seconds
        extras = ", ".join(a.name for a in build.accessories.get(slot_id, ()))
        text = f"Fit {new.name} in {slot.name}" + (f" with {extras}." if extras else ".")
        steps.append(_swap(slot, "in", text, kind_of(new).moves(), seconds, new.number))
    return steps


def _swap(slot: Slot, way: str, text: str, moves: Moves, seconds: int, number: str = "") -> Step:
    return Step(
        id=f"{way}:{slot.id}",
        phase="exchange",
        text=text,
        hint=moves.out if way == "out" else moves.into,
        caution=moves.caution,
        seconds=seconds,
        slot=slot.id,
        number=number,
    )
