"""The catalogue of tasks: what each takes, its steps and cautions, and what it is told about where.

Seconds are the task's own, beside what is opened for it; consumables are in minor units of money, a workshop's usual
outlay. Sources: IEC 62368-1 for what may be hot or charged, the makers' usual service notes for the order of work.
"""

from collections.abc import Mapping

from pydantic import Field

from ..frozen import Frozen

#: Among consumables: the bench says how strong.
ISOPROPYL = "isopropyl"
#: What a fault that a task mends is called among needs: ``task:clean``.
PREFIX = "task:"


class TaskKind(Frozen):
    """One kind of work. ``on`` are the assemblies it is done to ('' for none); ``outside`` is done with the case shut.
    ``gates`` are said at Prepare, ``checks`` belong to the regression list, ``closing`` to the closing checks."""

    id: str
    name: str
    mends: str
    on: tuple[str, ...] = ()
    outside: bool = False
    seconds: int
    consumables_minor: int = 0
    consumables: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    steps: tuple[str, ...]
    caution: str = ""
    gates: tuple[str, ...] = ()
    checks: tuple[str, ...] = ()
    closing: tuple[str, ...] = ()


class OwnTask(Frozen):
    """How a workshop does a task: seconds of its own and outlay in minor units, None as the catalogue says; or not at
    all."""

    done_here: bool = True
    seconds: int | None = Field(None, ge=0, le=36_000)
    consumables_minor: int | None = Field(None, ge=0, le=10_000_000)


_KEY = "encryption suspended and the recovery key at hand: firmware that forgot its settings asks for it"

CATALOGUE: tuple[TaskKind, ...] = (
    TaskKind(
        id="clean", name="Clean fans and fins", mends="Dust in fan and fins", on=("fan",), seconds=720,
        consumables_minor=100, consumables=("soft brush", "dry air"), tools=("brush",),
        steps=(
            "Hold each fan still: air that spins it drives it as a generator and wears its bearing.",
            "Brush the blades, then blow the fins out from the inside towards the vent.",
            "Lift felt and fluff off by hand; turn each fan once: it runs free and scrapes nowhere.",
        ),
        caution="Dust in the air: glasses, a window open or an extraction; no moisture on the board.",
        checks=("fans spin up and fall silent again", "temperature and rate under load, before and after"),
    ),
    TaskKind(
        id="paste", name="Renew paste and pads", mends="Paste dried out", on=("heat_sink",), seconds=1800,
        consumables_minor=450, consumables=("thermal paste or a sheet of the thickness that was there", "pads by their gaps", ISOPROPYL, "lint-free cloth"),
        tools=("plastic spatula",),
        steps=(
            "What was there decides: paste by paste, a phase-change sheet by a sheet of its thickness.",
            "Old stuff off both faces with isopropyl; let them dry before anything is put on.",
            "A thin layer for the size of the die; pads by the gap; every die the sink covers gets its own.",
            "Lay the sink down once, straight: never lift it to look.",
        ),
        caution="Isopropyl away from flame, from the screen's coating and from plastics; hot parts cool down first. "
        "Silver and liquid where paste should be is liquid metal: stop here, it is for someone trained in it.",
        checks=("fans spin up and fall silent again", "temperature and rate under load, before and after"),
    ),
    TaskKind(
        id="clock_cell", name="Change the clock cell", mends="Clock cell spent", on=("clock_cell",), seconds=480,
        consumables_minor=250, consumables=("cell of the type that is printed on it",), tools=("multimeter",),
        steps=(
            "Read type and plug off the old cell; measure it: under 2.7 V it is spent.",
            "Change it for the same type with the same plug, plus where plus was.",
            "Start, set clock, storage mode, boot style and boot order as they were noted.",
        ),
        caution="A cell that was swallowed burns: keep it from children. It rarely clears a firmware password.",
        gates=("storage mode, boot style, boot order and clock written down from firmware", _KEY),
        checks=("clock right after an hour unplugged",),
        closing=("storage mode, boot style and boot order are as they were noted",),
    ),
    TaskKind(
        id="hinges", name="Tighten the hinges", mends="Hinges loose", on=("hinges",), seconds=900,
        consumables_minor=50, consumables=("thread lock, a drop",), tools=("torque driver",),
        steps=(
            "Look at the posts first: where one is torn out of the plastic, tightening tears the next.",
            "Tighten a little at a time, left and right by turns; open and shut the lid between.",
        ),
        caution="The lid's cable runs through a hinge: it is not pinched and not stretched.",
        checks=("lid stays where it is left and opens with one hand", "picture steady while the lid moves"),
    ),
    TaskKind(
        id="seat", name="Seat modules, cards and plugs again", mends="Something not home", seconds=420,
        steps=(
            "Each module out and in again until both clips click; each card screwed down flat.",
            "Antenna plugs pressed straight on, main and aux by the print; ribbons straight and latched.",
        ),
        caution="A plug that sits crooked is lifted and set anew, never pressed home.",
        checks=("memory, drives and the Wi-Fi card are all seen",),
    ),
    TaskKind(
        id="fan", name="Change the fan", mends="Fan worn or broken", on=("fan",), seconds=900, tools=("tweezers",),
        steps=("Unplug it by the plug, not by the wire; note how the wire is laid.", "The same number goes in, its wire laid as it was."),
        checks=("fans spin up and fall silent again",),
    ),
    TaskKind(
        id="heat_sink", name="Change the heat sink", mends="Heat sink broken", on=("heat_sink",), seconds=1800,
        consumables_minor=450, consumables=("thermal paste", "pads by their gaps", ISOPROPYL), tools=("plastic spatula",),
        steps=("Old stuff off the dies with isopropyl; dry.", "New paste and pads, then the sink laid down once, straight."),
        caution="Isopropyl away from flame and plastics; hot parts cool down first.",
        checks=("temperature and rate under load, before and after",),
    ),
    TaskKind(
        id="speakers", name="Change the speakers", mends="Speakers broken", on=("speakers",), seconds=600,
        steps=("Note how the wire is laid; unplug it by the plug.", "Left and right are not the same part: the number tells."),
        checks=("sound on both sides",),
    ),
    TaskKind(
        id="port_board", name="Change the port board", mends="Socket loose or burnt", on=("port_board",), seconds=1200,
        steps=("Ribbons straight out of opened latches; note which is which.", "Charge and every socket tried before closing."),
        caution="A burnt socket may have taken the board with it: look before anything is ordered.",
        checks=("charging", "every socket of the port board"),
    ),
    TaskKind(
        id="keyboard", name="Change the keyboard", mends="Keys dead", on=("keyboard",), seconds=1800,
        steps=("Ribbons straight out of opened latches.", "Every key tried before closing, lights too."),
        checks=("keys", "pad", "lights"),
    ),
    TaskKind(
        id="lid_cable", name="Change the lid's cable", mends="Picture comes and goes with the lid", on=("lid_cable",), seconds=2400,
        steps=("Note its way through the hinge before it is lifted.", "Lay it in its guides; open and shut the lid ten times before closing."),
        caution="Panel and its lamp voltage: power isolated first; glass edges.",
        checks=("picture steady while the lid moves", "camera"),
    ),
    TaskKind(
        id="battery_reset", name="Reset the battery's electronics", mends="Left-over charge", outside=True, seconds=300,
        steps=("Unplug, hold the power button thirty seconds, plug in, wait a minute, start.", "Where the machine has a reset hole: as its label says."),
        checks=("charging",),
    ),
    TaskKind(
        id="firmware", name="Set firmware settings right", mends="Firmware settings", outside=True, seconds=600,
        steps=("Write down what is set before anything is changed.", "One change at a time, each with a start after it."),
        caution="A changed storage mode or boot style can leave the system without its drive.",
        gates=("backup confirmed before storage mode or boot style is touched; no RAID or cache volume", _KEY),
        closing=("firmware settings are as the system needs them",),
    ),
)  # fmt: skip
BY_ID: Mapping[str, TaskKind] = {t.id: t for t in CATALOGUE}


def in_house(kind: TaskKind, own: OwnTask | None) -> TaskKind:
    """A task as this workshop does it."""
    told = {} if own is None else own.model_dump(include={"seconds", "consumables_minor"}, exclude_none=True)
    return kind.model_copy(update=told)


#: Tasks that put in an assembly, which is sold by the number found on the old one.
EXCHANGES = frozenset(("fan", "heat_sink", "speakers", "port_board", "keyboard", "lid_cable"))
