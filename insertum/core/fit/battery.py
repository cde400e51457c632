"""Battery pack rules (rules.md section 6)."""

from collections.abc import Iterator
from typing import Any

from ..machine.part import Pack
from ..machine.shape import BatterySlot
from ..standards import pack as packs
from ..verdict import Said, harm, note, refused
from .rulebook import rule


@rule(
    "pack.number",
    "A pack fits by its part number for this configuration.",
    "machine claims: accepted packs",
    BatterySlot,
    Pack,
)
def number(slot: Any, part: Any, build: Any) -> Iterator[Said]:
    if part.number not in slot.accepts:
        yield refused(f"{part.number} is not a pack of this machine.", short="another machine's pack")


@rule(
    "pack.voltage",
    "Pack and machine have one number of cells, charged to one voltage.",
    "nominal volts a cell: 3.60 to 3.70, 3.80, 3.85 to 3.88; IEC 61960 label",
    BatterySlot,
    Pack,
    harms=True,
)
def voltage(slot: Any, part: Any, build: Any) -> Iterator[Said]:
    if not packs.alike(slot.voltage_mv, part.voltage_mv):
        yield harm(
            f"{part.voltage_mv / 1000:g} V pack, {slot.voltage_mv / 1000:g} V machine.",
            short="wrong voltage",
            caution="A pack of another voltage can damage the machine and catch fire. Never connect it.",
        )


@rule("pack.connector", "The pack's plug is the machine's.", "machine claims: connector", BatterySlot, Pack)
def connector(slot: Any, part: Any, build: Any) -> Iterator[Said]:
    if slot.connector != part.connector:
        yield refused(f"{part.connector} plug, {slot.connector} socket.", short="another plug", keeps_out=True)


@rule("pack.safety_mark", "A pack carries its safety mark.", "IEC 62133 mark, or the local one", BatterySlot, Pack)
def safety_mark(slot: Any, part: Any, build: Any) -> Iterator[Said]:
    if not part.safety_mark:
        yield refused(
            "No safety mark on the pack.", short="no safety mark", caution="Do not fit an unmarked lithium pack."
        )


@rule("pack.glue", "Glued packs are for someone trained.", "machine claims: how the pack is held", BatterySlot, Pack)
def glue(slot: Any, part: Any, build: Any) -> Iterator[Said]:
    if slot.held_by == "glue":
        yield note("The pack is glued in.", caution="Never heat or pry under a pack. Leave it to someone trained.")


@rule(
    "pack.swollen",
    "A swollen pack is never fitted and never charged.",
    "usual lithium cautions; local rules for damaged batteries",
    BatterySlot,
    Pack,
    role=True,
    harms=True,
)
def swollen(slot: Any, part: Any, build: Any) -> Iterator[Said]:
    if part.swollen:
        yield harm(
            "The pack is swollen.",
            short="swollen",
            caution="Stop. Do not charge or press it; move it away from anything that burns and follow local rules.",
        )
