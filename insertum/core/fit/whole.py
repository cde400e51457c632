"""Whole-build rules: slots that share lanes or room (rules.md section 1, exclusions)."""

from collections.abc import Iterator

from ..machine import BatterySlot, BaySlot, CardSocket, Exclusion
from ..part import CARDS, BayDrive, Fittable, M2Drive, Pack
from ..verdict import Finding, held, measure, note, refused
from .build import Build
from .rulebook import rule


def bites(exclusion: Exclusion, part: Fittable | None) -> bool | None:
    """Does this part in the exclusion's slot switch the other slot off? None when that is unknown."""
    if part is None:
        return False
    match exclusion.holds:
        case "anything":
            return True
        case "fills_bay":
            return isinstance(part, Pack) and part.fills_bay
        case interface:
            if isinstance(part, M2Drive):
                return None if part.interface is None else part.interface == interface
            return isinstance(part, BayDrive) and interface == "sata"


@rule(
    "build.shared",
    "Two slots that share lanes or room do not both work.",
    "machine data: exclusions",
    (CardSocket, BaySlot, BatterySlot),
    (*CARDS, BayDrive, Pack),
    whole=True,
    context=True,
)
def shared(slot: CardSocket | BaySlot | BatterySlot, part: Fittable, build: Build) -> Iterator[Finding]:
    for e in build.machine.machine.exclusions:
        off = build.machine.slot(e.off)
        what = build.machine.slot(e.when).name
        if e.off == slot.id and (not build.known(e.when) or bites(e, build.now(e.when)) is None):
            yield measure(
                f"What is in {what} may turn {slot.name} off, and is not known.",
                f"fitted.{e.when}",
                "Read it from the running system, or look under the cover.",
                e.source,
                short=f"{what} unknown",
            )
        elif e.off == slot.id and bites(e, build.now(e.when)):
            yield refused(
                f"{slot.name} is {'filled' if e.filled else 'off'} by what is in {what}.", e.source, short="slot is off"
            )
        elif e.when == slot.id and bites(e, part):
            if not build.known(e.off):
                yield measure(
                    f"It turns {off.name} off; what is in there is unknown.", f"fitted.{e.off}", "Look under the cover."
                )
            elif build.now(e.off) is None:
                yield note(f"It turns {off.name} off; nothing is in it.")
            elif e.filled:
                yield refused(f"It takes the room of {off.name}, which is in use.", e.source, short=f"fills {off.name}")
            else:
                yield held(f"It turns {off.name} off, which is in use.", e.source, short=f"turns {off.name} off")
