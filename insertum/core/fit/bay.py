"""2.5-inch bay rules (rules.md section 4)."""

from collections.abc import Iterator

from ..machine.bay_and_battery import BaySlot
from ..machine.drive_parts import BayDrive
from ..machine.part import ACCESSORY_WORDS
from ..verdict import AccessoryNeed, Said, note, refused
from .rulebook import rule
from .shape_facts import BayDriveFacts, BaySlotFacts
from .views import BuildView


@rule(
    "bay.height",
    "A bay drive is no taller than the bay.",
    "SFF-8201: 5, 7, 9.5, 12.5, 15 mm",
    BaySlot,
    BayDrive,
    more=("height_um",),
    less=("part.height_um",),
)
def height(slot: BaySlotFacts, part: BayDriveFacts, build: BuildView) -> Iterator[Said]:
    if part.height_um > slot.height_um:
        yield refused(
            f"{part.height_um / 1000:g} mm tall; the bay is {slot.height_um / 1000:g} mm.",
            short=f"{part.height_um / 1000:g} mm tall",
            keeps_out=True,
        )


@rule(
    "bay.spacer",
    "A lower drive wants a spacer, unless caddy or screws hold it, or one as low was seen held there.",
    "SFF-8201 heights; machine claims",
    BaySlot,
    BayDrive,
)
def spacer(slot: BaySlotFacts, part: BayDriveFacts, build: BuildView) -> Iterator[Said]:
    if part.height_um >= slot.height_um or any(part.height_um >= seen for seen in slot.held_um):
        return
    mm = (part.height_um / 1000, slot.height_um / 1000)
    need = AccessoryNeed(supplies="spacer", from_mm=mm[0], to_mm=(mm[1],))
    if build.serves("spacer", **need.sizes):
        yield note("With a spacer.", short="with spacer")
    elif slot.spacer == "missing":
        yield refused(
            f"A spacer is missing ({mm[0]:g} mm in a {mm[1]:g} mm bay).",
            short="spacer missing",
            remedy="Buy a spacer.",
            needs=need,
        )


@rule(
    "bay.edge",
    "A 5 mm drive may have an edge connector, which the bay's SATA plug does not take.",
    "SFF-8784 edge connector; SFF-8201 for the usual one",
    BaySlot,
    BayDrive,
)
def edge(slot: BaySlotFacts, part: BayDriveFacts, build: BuildView) -> Iterator[Said]:
    if part.edge_connector:
        yield refused(
            "It has an edge connector; the bay's plug is the usual SATA one.", short="edge connector", keeps_out=True
        )


@rule(
    "bay.accessories",
    "A bay drive needs caddy, ribbon and screws.",
    "machine claims: each present or missing",
    BaySlot,
    BayDrive,
)
def accessories(slot: BaySlotFacts, part: BayDriveFacts, build: BuildView) -> Iterator[Said]:
    for supplies in ("caddy", "ribbon", "screws"):
        if build.serves(supplies):
            yield note(f"With {ACCESSORY_WORDS[supplies]}.", short=f"with {supplies}")
        elif getattr(slot, supplies) == "missing":
            yield refused(
                f"{ACCESSORY_WORDS[supplies].capitalize()} is missing (the bay).",
                short=f"{supplies} missing",
                remedy=f"Buy {ACCESSORY_WORDS[supplies]}.",
                needs=AccessoryNeed(supplies=supplies),
            )
