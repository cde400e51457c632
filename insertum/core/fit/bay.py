"""2.5-inch bay rules (rules.md section 4)."""

from collections.abc import Iterator

from ..claim import settle
from ..machine import BaySlot, Presence
from ..part import ACCESSORY_WORDS, BayDrive
from ..verdict import AccessoryNeed, Finding, measure, note, refused
from .build import Build
from .rulebook import rule


@rule(
    "bay.height",
    "A bay drive is no taller than the bay; a lower one wants a spacer.",
    "SFF-8201: 5, 7, 9.5, 12.5, 15 mm",
    BaySlot,
    BayDrive,
)
def height(slot: BaySlot, part: BayDrive, build: Build) -> Iterator[Finding]:
    bay = settle(slot.height_um)
    if part.height_um is None:
        yield measure("The drive's height is unknown.", "part.height_um", "Measure it with a calliper: 5, 7 or 9.5 mm.")
    elif bay.value is None:
        yield measure(
            "The bay's height is unknown.",
            f"{slot.id}.height_um",
            "Measure from the bay floor to the cover's ribs: 7 or 9.5 mm.",
            bay.why,
            short="bay height unknown",
        )
    elif part.height_um > bay.value:
        yield refused(
            f"{part.height_um / 1000:g} mm tall; the bay is {bay.value / 1000:g} mm.",
            bay.why,
            short=f"{part.height_um / 1000:g} mm tall",
        )
    elif part.height_um < bay.value:
        mm = (part.height_um / 1000, bay.value / 1000)
        need = AccessoryNeed(supplies="spacer", from_mm=mm[0], to_mm=(mm[1],))
        yield from _wanted(slot, "spacer", build, need, f"{mm[0]:g} mm in a {mm[1]:g} mm bay")


@rule(
    "bay.edge",
    "A 5 mm drive may have an edge connector, which the bay's SATA plug does not take.",
    "SFF-8784 edge connector; SFF-8201 for the usual one",
    BaySlot,
    BayDrive,
)
def edge(slot: BaySlot, part: BayDrive, build: Build) -> Iterator[Finding]:
    low = part.height_um is None or part.height_um <= 5000
    if part.edge_connector:
        yield refused("It has an edge connector; the bay's plug is the usual SATA one.", short="edge connector")
    elif low and part.edge_connector is None:
        yield measure(
            "Its connector may not be the usual one.",
            "part.edge_connector",
            "Look at the drive's plug.",
            short="connector unknown",
        )


@rule(
    "bay.accessories",
    "A bay drive needs caddy, ribbon and screws.",
    "machine claims: each present, missing or unknown",
    BaySlot,
    BayDrive,
)
def accessories(slot: BaySlot, part: BayDrive, build: Build) -> Iterator[Finding]:
    for supplies in ("caddy", "ribbon", "screws"):
        yield from _wanted(slot, supplies, build, AccessoryNeed(supplies=supplies), "the bay")


def _wanted(slot: BaySlot, supplies: str, build: Build, need: AccessoryNeed, where: str) -> Iterator[Finding]:
    if build.has_accessory(slot.id, supplies):
        yield note(f"With {ACCESSORY_WORDS[supplies]}.", short=f"with {supplies}")
        return
    there = settle(getattr(slot, supplies))
    if there.value is Presence.MISSING:
        yield refused(
            f"{ACCESSORY_WORDS[supplies].capitalize()} is missing ({where}).",
            there.why,
            short=f"{supplies} missing",
            remedy=f"Buy {ACCESSORY_WORDS[supplies]}.",
            needs=need,
        )
    elif there.value is None:
        yield measure(
            f"Whether {ACCESSORY_WORDS[supplies]} is there is unknown ({where}).",
            f"{slot.id}.{supplies}",
            "Look in the machine and in the box the owner kept.",
            there.why,
            short=f"{supplies} unknown",
            needs=need,
        )
