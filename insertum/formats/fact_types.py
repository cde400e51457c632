"""Writes ``core/fit/shape_facts.py``: what a rule may read of each shape, and of what type, from the shapes themselves.

``python -m insertum.formats.fact_types`` writes it, before anything that imports the rules.
"""

from collections.abc import Iterator
from enum import Enum
from pathlib import Path
from types import NoneType, UnionType
from typing import Any, Literal, Union, get_args, get_origin

from ..core.known.limits import CAPS
from ..core.machine.attribute import attributes_of
from ..core.machine.bay_and_battery import BatterySlot, BaySlot
from ..core.machine.boot import Boot
from ..core.machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ..core.machine.claim import Fact
from ..core.machine.drive_parts import BayDrive, M2Drive
from ..core.machine.memory_system import MemorySlot, MemorySystem
from ..core.machine.part import MemoryModule, Pack
from ..core.machine.part_base import PartBase
from ..core.machine.radio_parts import Cellular, Radio
from ..core.machine.slot_base import SlotBase

TARGET = Path(__file__).resolve().parents[1] / "core" / "fit" / "shape_facts.py"
SLOTS = (MemorySlot, DriveSlot, RadioSlot, CellularSlot, BaySlot, BatterySlot)
PARTS = (MemoryModule, M2Drive, BayDrive, Radio, Cellular, Pack)
#: Attributes that only follow from others, with what a rule reads of them.
FOLLOWING: dict[type, dict[str, str]] = {
    **dict.fromkeys((DriveSlot, RadioSlot, CellularSlot), {"holds_mm": "Listing[int]"}),
    BaySlot: {"held_um": "Listing[int]"},
}
_HEAD = '''"""What a rule may read of each slot and part, one value each. Generated from the shapes by ``make schemas``.

An attribute that nobody may know is a plain value here: the engine goes through all it could be. What only a part's record
can leave out, and no rule needs, stays optional.
"""

from typing import Literal, Protocol

from ..known.school import Cap
from .facts import Listing, PartFacts, PlaceFacts, SlotFacts, WholeMemory
'''


def module() -> str:
    """The text of the module."""
    blocks = [_HEAD]
    for shape, base in [*((s, "SlotFacts") for s in SLOTS), (MemorySystem, "WholeMemory"), (Boot, "PlaceFacts"), *((p, "PartFacts") for p in PARTS)]:  # fmt: skip
        lines = [f"class {shape.__name__}Facts({base}, Protocol):"]
        for name, type_ in _fields(shape):
            lines += ["    @property", f"    def {name}(self) -> {type_}: ..."]
        blocks.append("\n".join(lines) + "\n")
    blocks.append(
        "\n".join(
            [
                "CardSocketFacts = DriveSlotFacts | RadioSlotFacts | CellularSlotFacts",
                "CardFacts = M2DriveFacts | RadioFacts | CellularFacts",
                "DriveFacts = M2DriveFacts | BayDriveFacts",
                "DrivePlaceFacts = DriveSlotFacts | BaySlotFacts",
                f"AnySlotFacts = {' | '.join(s.__name__ + 'Facts' for s in SLOTS)}",
                f"AnyPartFacts = {' | '.join(p.__name__ + 'Facts' for p in PARTS)}",
            ]
        )
        + "\n"
    )
    return "\n\n".join(blocks)


def _fields(shape: Any) -> Iterator[tuple[str, str]]:
    words = attributes_of(shape)
    base = SlotBase if issubclass(shape, SlotBase) else PartBase if issubclass(shape, PartBase) else None
    for name, field in shape.model_fields.items():
        if base is not None and name in base.model_fields:
            continue
        of = field.annotation
        if isinstance(of, type) and issubclass(of, Fact):
            yield name, "Cap" if name in CAPS else _type(of.__pydantic_generic_metadata__["args"][0])
        elif get_origin(of) is not dict and "Soldered" not in str(of):
            yield name, _type(of, known=name in words)
    yield from FOLLOWING.get(shape, {}).items()


def _type(of: Any, known: bool = True) -> str:
    """A type as it is written; without ``None`` where the engine gives a value."""
    origin, args = get_origin(of), get_args(of)
    if hasattr(of, "__metadata__"):
        return _type(of.__origin__)
    if origin in (Union, UnionType):
        some = [_type(a) for a in args if a is not NoneType]
        return " | ".join(some if known or NoneType not in args else [*some, "None"])
    if origin is Literal:
        return f"Literal[{', '.join(repr(a) for a in args)}]".replace("'", '"')
    if origin is tuple:
        return f"Listing[{_type(args[0])}]" if known else f"tuple[{_type(args[0])}, ...]"
    if isinstance(of, type) and issubclass(of, Enum):
        return "Literal[" + ", ".join(f'"{m.value}"' for m in of) + "]"
    if (plain := getattr(of, "__value__", None)) is not None:
        return _type(plain)
    return next((t.__name__ for t in (bool, int, str) if issubclass(of, t)), of.__name__)


if __name__ == "__main__":
    TARGET.write_text(module())
