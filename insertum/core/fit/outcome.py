"""What this very part did in this very slot before: the workshop's own outcomes speak first."""

from collections.abc import Iterator

from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CardSocket
from ..machine.drive_parts import BayDrive
from ..machine.memory_system import MemorySlot
from ..machine.part import CARDS, MemoryModule, Pack
from ..phrases import plural
from ..verdict import Said, note, refused
from .rulebook import rule
from .shape_facts import AnyPartFacts, AnySlotFacts
from .views import BuildView


@rule(
    "bench.outcome",
    "A part the machine did not take, in this slot under this firmware, is not sold for it again.",
    "sightings: own outcomes by configuration, slot, part, firmware and cause",
    (MemorySlot, CardSocket, BaySlot, BatterySlot),
    (MemoryModule, *CARDS, BayDrive, Pack),
    about=lambda build: build.seen_parts,
)
def outcome(slot: AnySlotFacts, part: AnyPartFacts, build: BuildView) -> Iterator[Said]:
    seen = [s for s in build.sightings if s.slot == slot.id and s.part == part.number]
    own = [s for s in seen if not s.hearsay and s.firmware]
    own = [s for s in own if s.firmware == build.firmware]
    failed = [s for s in own if not s.worked]
    counted = [s for s in failed if s.speaks_of_machine]
    # A failure of unknown cause counts the second time, with another specimen or in another machine.
    unknown = {s.job for s in failed if s.cause in ("", "unknown")}
    if not any(s.worked for s in own) and (counted or len(unknown) > 1):
        last = (counted or failed)[-1]
        yield refused(
            f"It did not work here under firmware {failed[-1].firmware} ({plural(len(failed), 'time')}).",
            *([last.note] if last.note else []),
            short="did not work here",
            remedy="Look at another firmware, or another part.",
        )
        seen = [s for s in seen if s not in failed]
    for s in seen:
        yield note(f"Seen: {s.says}{f'. {s.note}' if s.note else ''}.")
