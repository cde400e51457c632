"""Whole-build rules: slots that share lanes or room (rules.md section 1, exclusions)."""

from collections.abc import Iterator

from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CardSocket
from ..machine.drive_parts import BayDrive
from ..machine.opening import Exclusion
from ..machine.part import CARDS, Fittable, Pack
from ..verdict import Lazy, Said, held, note, refused
from .drive import link_rate
from .rulebook import rule
from .shape_facts import AnyPartFacts, AnySlotFacts
from .views import BuildView

#: What an exclusion leaves of the other slot's lanes.
LANES = {"x1": 1, "x2": 2}


def bites(exclusion: Exclusion, part: AnyPartFacts | Fittable | None) -> bool:
    """Does this part in the exclusion's slot do something to the other?"""
    if part is None:
        return False
    match exclusion.holds:
        case "anything":
            return True
        case "fills_bay":
            return bool(part.kind == "battery" and part.fills_bay)
        case interface:
            if part.kind == "m2_drive":
                return bool(part.interface == interface)
            return bool(part.kind == "bay_drive" and interface == "sata")


def _loses(slot: AnySlotFacts, part: AnyPartFacts | None, lanes: int) -> tuple[int, int] | None:
    """(rating, what fewer lanes carry) where a drive loses by them."""
    if part is None or part.kind != "m2_drive" or part.interface != "pcie" or slot.kind != "m2_drive":
        return None
    carries = link_rate(slot, part, lanes)
    return (part.read_mb_s, carries) if carries is not None and carries < part.read_mb_s else None


@rule(
    "build.shared",
    "Two slots that share lanes or room do not both work in full.",
    "machine claims: exclusions with their effect",
    (CardSocket, BaySlot, BatterySlot),
    (*CARDS, BayDrive, Pack),
    whole=True,
    role=True,
    less=("part.read_mb_s",),
)
def shared(slot: AnySlotFacts, part: AnyPartFacts, build: BuildView) -> Iterator[Said]:
    for i, e in enumerate(build.exclusions):
        if e.on == slot.id and bites(e, build.content(e.when)):
            yield from _suffered(slot, part, build.effect(i), build.slot_name(e.when))
        elif e.when == slot.id and bites(e, part):
            yield from _caused(build, e.on, build.effect(i))


def _suffered(slot: AnySlotFacts, part: AnyPartFacts, effect: str, what: str) -> Iterator[Said]:
    if effect in ("off", "filled"):
        yield refused(f"{slot.name} is {effect} by what is in {what}.", short="slot is off")
    elif lanes := LANES.get(effect):
        if lost := _loses(slot, part, lanes):
            yield held(
                Lazy("What is in {} leaves it ×{}: {} of {} MB/s.", what, lanes, lost[1], lost[0]),
                short=f"×{lanes}, {lost[1]} MB/s",
                figure=lost[1],
                unit="MB/s",
            )
        else:
            yield note(f"What is in {what} leaves it ×{lanes}, which is enough for it.")


def _caused(build: BuildView, on: str, effect: str) -> Iterator[Said]:
    name = build.slot_name(on)
    if effect == "none":
        return
    there = build.content(on)
    emptied = there is None and build.content(on, today=True) is not None
    lanes = LANES.get(effect)
    if lanes:
        if lost := _loses(build.slot_at(on), there, lanes):
            yield held(f"It leaves {name} ×{lanes}: {lost[1]} of {lost[0]} MB/s there.", short=f"{name} at ×{lanes}")
        else:
            yield note(f"It leaves {name} ×{lanes}; nothing there loses by it.")
    elif there is not None and effect == "filled":
        yield refused(f"It takes the room of {name}, which is in use.", short=f"fills {name}")
    elif there is not None:
        yield held(f"It turns {name} off, which is in use.", short=f"turns {name} off")
    elif emptied:
        yield held(f"It turns {name} off, which was emptied for it.", short=f"turns {name} off")
    else:
        yield note(f"It turns {name} off; nothing is in it.")
