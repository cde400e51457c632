"""Battery pack rules (rules.md section 6)."""

from collections.abc import Iterator

from ..claim import settle
from ..machine import BatterySlot
from ..part import Pack
from ..verdict import Finding, harm, measure, note, refused
from .build import Build
from .rulebook import rule


@rule(
    "pack.number",
    "A pack fits by its part number for this configuration.",
    "machine claims: accepted packs",
    BatterySlot,
    Pack,
)
def number(slot: BatterySlot, part: Pack, build: Build) -> Iterator[Finding]:
    accepts = settle(slot.accepts)
    if accepts.value is None:
        yield measure(
            "Which packs this machine takes is unknown.",
            f"{slot.id}.accepts",
            "Read the number on the fitted pack.",
            short="pack list unknown",
        )
    elif part.number not in accepts.value:
        yield refused(f"{part.number} is not a pack of this machine.", accepts.why, short="another machine's pack")


@rule(
    "pack.voltage",
    "Pack and machine have one voltage.",
    "IEC 61960: nominal voltage on the pack label",
    BatterySlot,
    Pack,
)
def voltage(slot: BatterySlot, part: Pack, build: Build) -> Iterator[Finding]:
    wanted = settle(slot.voltage_mv)
    if part.voltage_mv is None:
        yield measure(
            "The pack's voltage is unknown.",
            "part.voltage_mv",
            "Read it off the pack's label.",
            short="pack voltage unknown",
        )
    elif wanted.value is None:
        yield measure(
            "The machine's pack voltage is unknown.",
            f"{slot.id}.voltage_mv",
            "Read it off the fitted pack's label.",
            short="voltage unknown",
        )
    elif wanted.value != part.voltage_mv:
        yield harm(
            f"{part.voltage_mv / 1000:g} V pack, {wanted.value / 1000:g} V machine.",
            wanted.why,
            short="wrong voltage",
            caution="A pack of another voltage can damage the machine and catch fire. Never connect it.",
        )


@rule("pack.connector", "The pack's plug is the machine's.", "machine claims: connector", BatterySlot, Pack)
def connector(slot: BatterySlot, part: Pack, build: Build) -> Iterator[Finding]:
    there = settle(slot.connector)
    if part.connector is None:
        yield measure(
            "The pack's plug is unknown.", "part.connector", "Compare it with the fitted pack.", short="plug unknown"
        )
    elif there.value is None:
        yield measure(
            "The machine's battery plug is unknown.",
            f"{slot.id}.connector",
            "Look at the fitted pack's plug.",
            short="plug unknown",
        )
    elif there.value != part.connector:
        yield refused(f"{part.connector} plug, {there.value} socket.", there.why, short="another plug")


@rule("pack.safety_mark", "A pack carries its safety mark.", "IEC 62133 mark, or the local one", BatterySlot, Pack)
def safety_mark(slot: BatterySlot, part: Pack, build: Build) -> Iterator[Finding]:
    if part.safety_mark is None:
        yield measure(
            "Whether it carries a safety mark is unknown.",
            "part.safety_mark",
            "Ask for a picture of the label.",
            short="mark unknown",
        )
    elif not part.safety_mark:
        yield refused(
            "No safety mark on the pack.", short="no safety mark", caution="Do not fit an unmarked lithium pack."
        )


@rule("pack.glue", "Glued packs are for someone trained.", "machine claims: how the pack is held", BatterySlot, Pack)
def glue(slot: BatterySlot, part: Pack, build: Build) -> Iterator[Finding]:
    if settle(slot.held_by).value == "glue":
        yield note("The pack is glued in.", caution="Never heat or pry under a pack. Leave it to someone trained.")


@rule(
    "pack.swollen",
    "A swollen pack is never fitted and never charged.",
    "usual lithium cautions; local rules for damaged batteries",
    BatterySlot,
    Pack,
    context=True,
)
def swollen(slot: BatterySlot, part: Pack, build: Build) -> Iterator[Finding]:
    if part.swollen:
        yield harm(
            "The pack is swollen.",
            short="swollen",
            caution="Stop. Do not charge or press it; move it away from anything that burns and follow local rules.",
        )
