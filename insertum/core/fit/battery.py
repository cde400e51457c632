"""Battery pack rules (rules.md section 6)."""

from collections.abc import Iterator

from ..machine.bay_and_battery import BatterySlot
from ..machine.part import Pack
from ..standards import pack as packs
from ..verdict import Said, harm, note, refused
from .rulebook import rule
from .shape_facts import BatterySlotFacts, PackFacts
from .views import BuildView


@rule(
    "pack.number",
    "A pack fits by its part number for this configuration.",
    "machine claims: accepted packs",
    BatterySlot,
    Pack,
)
def number(slot: BatterySlotFacts, part: PackFacts, build: BuildView) -> Iterator[Said]:
    if part.number not in slot.accepts:
        yield refused(f"{part.number} is not a pack of this machine.", short="another machine's pack")


@rule(
    "pack.voltage",
    "Pack and machine have one number of cells, charged to one voltage.",
    "nominal volts a cell: 3.60 to 3.70, 3.75 to 3.82, 3.83 to 3.90; charging voltages within 0.03 V; IEC 61960 label",
    BatterySlot,
    Pack,
    harms=True,
)
def voltage(slot: BatterySlotFacts, part: PackFacts, build: BuildView) -> Iterator[Said]:
    same = packs.charged_alike(slot.stated("charge_mv"), part.charge_mv)
    if same is None and not slot.makers_own(part):
        same = packs.alike(slot.voltage_mv, part.voltage_mv)
        if same is None:  # a figure of no group could be either
            place = slot.id if packs.cells_of(slot.voltage_mv) is None else "part"
            same = build.either((place, "voltage_mv", "group"), (False, True))
    elif same is None:
        same = _could_be_one(slot.stated("voltage_mv"), part.stated("voltage_mv"))
    if not same:
        yield harm(
            f"{_volts(part)} pack, {_volts(slot)} machine.",
            short="wrong voltage",
            caution="A pack of another voltage can damage the machine and catch fire. Never connect it.",
        )


def _volts(of: BatterySlotFacts | PackFacts) -> str:
    nominal, charged = of.stated("voltage_mv"), of.stated("charge_mv")
    return " ".join(
        [*([f"{nominal / 1000:g} V"] if nominal else []), *([f"(charged to {charged / 1000:g} V)"] if charged else [])]
    )


def _could_be_one(machine_mv: int | None, pack_mv: int | None) -> bool:
    """The machine's own number settles the group; a pack of another number of cells is not that pack, whatever is
    printed on it."""
    one, other = (packs.cells_of(mv) if mv is not None else None for mv in (machine_mv, pack_mv))
    return one is None or other is None or one[0] == other[0]


@rule("pack.connector", "The pack's plug is the machine's.", "machine claims: connector", BatterySlot, Pack)
def connector(slot: BatterySlotFacts, part: PackFacts, build: BuildView) -> Iterator[Said]:
    if slot.connector != part.connector:
        yield refused(f"{part.connector} plug, {slot.connector} socket.", short="another plug", keeps_out=True)


@rule("pack.safety_mark", "A pack carries its safety mark.", "IEC 62133 mark, or the local one", BatterySlot, Pack)
def safety_mark(slot: BatterySlotFacts, part: PackFacts, build: BuildView) -> Iterator[Said]:
    if not part.safety_mark:
        yield refused(
            "No safety mark on the pack.", short="no safety mark", caution="Do not fit an unmarked lithium pack."
        )


@rule("pack.glue", "Glued packs are for someone trained.", "machine claims: how the pack is held", BatterySlot, Pack)
def glue(slot: BatterySlotFacts, part: PackFacts, build: BuildView) -> Iterator[Said]:
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
def swollen(slot: BatterySlotFacts, part: PackFacts, build: BuildView) -> Iterator[Said]:
    if part.swollen:
        yield harm(
            "The pack is swollen.",
            short="swollen",
            caution="Stop. Do not charge or press it; move it away from anything that burns and follow local rules.",
        )
