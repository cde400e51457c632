"""The fields of a kind as an entry form has them, from the shapes' own words."""

from types import UnionType
from typing import Any, Literal, get_args, get_origin

from ..core.frozen import Frozen
from ..core.kinds.all import KINDS
from ..core.machine.attribute import attributes_of
from .parts import FLAGS, LABELS, LISTS, NOT_TYPED, SCALED, SHAPES, UNITS


class PartField(Frozen):
    """A column of a kind as a screen asks for it; an empty one is unknown."""

    name: str
    label: str
    unit: str = ""
    options: tuple[str, ...] = ()


def fields_of(kind: str) -> tuple[PartField, ...]:
    """The columns one types for a part of a kind, with their words."""
    words = attributes_of(SHAPES[kind])
    found = []
    for column in KINDS[kind].columns:
        if column in NOT_TYPED:
            continue
        attribute = SCALED.get(column, (column, 1))[0]
        unit = next((u for end, u in UNITS.items() if column.endswith(f"_{end}")), "")
        plain = column.removesuffix(next((f"_{end}" for end in UNITS if column.endswith(f"_{end}")), ""))
        known = words.get(attribute)
        label = known.label if known else LABELS.get(column, plain.replace("_", " ").capitalize())
        literal = _choices(SHAPES[kind].model_fields[attribute].annotation)
        chosen = (
            known.values if known and known.kind == "choice" and column not in LISTS and column != "bluetooth" else ()
        )
        options = ("yes", "no") if column in FLAGS else tuple(map(str, literal or chosen))
        found.append(PartField(name=column, label=label, unit=unit, options=options))
    return (*found, PartField(name="selling", label="Selling price", unit="where it is not the mark-up's"))


def _choices(annotation: Any) -> tuple[Any, ...]:
    """The values a field is one of, where its shape says so."""
    if get_origin(annotation) is Literal:
        return get_args(annotation)
    return (
        next((found for a in get_args(annotation) if (found := _choices(a))), ())
        if get_origin(annotation) is UnionType
        else ()
    )
