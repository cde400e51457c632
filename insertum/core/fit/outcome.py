"""What this very part did in this very slot before: the workshop's own outcomes speak first."""

from collections.abc import Iterator

from ..base import plural
from ..machine import BatterySlot, BaySlot, CardSocket, MemorySlot
from ..part import CARDS, BayDrive, Fittable, MemoryModule, Pack
from ..verdict import Finding, note, refused
from .build import Build
from .rulebook import rule


@rule(
    "bench.outcome",
    "A part that only ever failed here, in this slot under this firmware, is not sold for it again.",
    "sightings: own outcomes by configuration, slot, part and firmware",
    (MemorySlot, CardSocket, BaySlot, BatterySlot),
    (MemoryModule, *CARDS, BayDrive, Pack),
    about=lambda build: build.seen_parts,
)
def outcome(slot: MemorySlot | CardSocket | BaySlot | BatterySlot, part: Fittable, build: Build) -> Iterator[Finding]:
    seen = [s for s in build.sightings if s.slot == slot.id and s.part == part.number]
    own = [s for s in seen if not s.hearsay and s.firmware and s.firmware == build.firmware]
    failed = [s for s in own if not s.worked]
    if failed and len(failed) == len(own):
        last = failed[-1]
        yield refused(
            f"It did not work here under firmware {build.firmware} ({plural(len(failed), 'time')}).",
            *([last.note] if last.note else []),
            short="did not work here",
            remedy="Find the cause first, or look at another firmware.",
        )
    for s in seen:
        if not (s in failed and len(failed) == len(own)):
            yield note(f"Seen: {s.says}{f'. {s.note}' if s.note else ''}.")
