"""Attributes as survey and editor use them: what is relevant at a place, and what was typed for one.

Their words are declared on the fields of the shapes (:mod:`insertum.core.machine.attribute`).
"""

import re
from typing import Any

from pydantic import BaseModel

from ..errors import InputError
from ..frozen import Frozen
from ..known.known import Known
from ..machine.attribute import Attribute, Kind, attributes_of
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.boot import Boot
from ..machine.card_sockets import CardSocket, CellularSlot, DriveSlot, RadioSlot
from ..machine.memory_system import MemorySlot, MemorySystem
from ..machine.shape import Configured


class AttributeForm(Frozen):
    """An attribute as a screen asks for it. ``scale`` leads from the stored integer to the unit shown."""

    name: str
    label: str
    kind: Kind
    unit: str = ""
    scale: int = 1
    most: int | None = None
    options: tuple[str, ...] = ()
    tool: str = ""
    how: str = ""
    is_limit: bool = False


def form_of(name: str, words: Attribute) -> AttributeForm:
    """An attribute as a form asks it: its words, unit, domain and how it is found out."""
    return AttributeForm(
        name=name, label=words.label, kind=words.kind, unit=words.unit, scale=words.scale, most=words.high,
        options=words.options, tool=words.tool, how=words.how, is_limit=words.is_limit,
    )  # fmt: skip


_PLACES: dict[str, type[BaseModel]] = {
    "memory": MemorySlot,
    "m2_drive": DriveSlot,
    "radio": RadioSlot,
    "cellular": CellularSlot,
    "bay": BaySlot,
    "battery": BatterySlot,
    "memory_system": MemorySystem,
    "boot": Boot,
}
_M2_ONLY = {
    "key", "width_mm", "standoffs_mm", "fixed_posts_mm", "socket_height", "board_below", "clearance_below_um",
    "clearance_above_um", "bracket_mm", "pad_below",
}  # fmt: skip


def relevant(known: Known, place: str, shape: BaseModel) -> dict[str, Attribute]:
    """The attributes that mean something at a place: a soldered thing has none to measure, a mini socket no
    key, an M.2 socket no mini sizes, and a slot that nothing cools from above no pad."""
    every = attributes_of(type(shape))
    if not isinstance(shape, CardSocket):
        return every
    if shape.form == "soldered":
        return {n: a for n, a in every.items() if getattr(shape, n)}
    left_out = {"mini_sizes"} if shape.form == "m2" else set(_M2_ONLY)
    if isinstance(shape, DriveSlot) and known.value(place, "cooled") in ("none", "below"):
        left_out |= {"pad", "pad_gap_um"}
    if isinstance(shape, RadioSlot) and not any(c.value for c in shape.cnvi.claims):
        left_out.add("host_generation")
    if known.value(place, "card_policy") == "any":
        left_out.add("listed_cards")
    return {n: a for n, a in every.items() if n not in left_out or getattr(shape, n)}


def places() -> dict[str, tuple[AttributeForm, ...]]:
    """Attributes by kind of slot, with ``memory_system`` and ``boot`` beside them."""
    return {kind: tuple(form_of(n, a) for n, a in attributes_of(model).items()) for kind, model in _PLACES.items()}


def words_at(machine: Configured, attribute: str) -> Attribute | None:
    """The words of ``place.attribute`` in a machine; None when there is no such attribute."""
    place, _, name = attribute.partition(".")
    if place in ("memory", "boot"):
        shape: BaseModel | None = getattr(machine, place)
    else:
        shape = next((s for s in machine.slots if s.id == place), None)
    return attributes_of(type(shape)).get(name) if shape is not None else None


#: Longer than this nothing is that one would type for an attribute.
MOST_TYPED = 2000


def typed_value(machine: Configured, attribute: str, typed: str) -> Any:
    """What was typed for ``place.attribute``, in the stored unit: '1.4' mm is 1400 µm. A bound ('1.35 or more', '≤ 2', 'at
    most 2') and one of several ('B or M') are claims as files write them: a value with its bound or alternatives.

    Raises :class:`InputError` for an unknown attribute or a text that is no value of its kind.
    """
    known = words_at(machine, attribute)
    if known is None:
        raise InputError(f"no attribute {attribute!r} to measure", attribute, "Name it as slot.attribute.")
    text = typed.strip()
    try:
        if len(text) > MOST_TYPED:
            raise ValueError("too long")
        return _claimed(known, text)
    except (ValueError, KeyError, OverflowError) as error:
        most = f", {known.high / known.scale:g} at most" if known.high else ""
        wanted = " or ".join(map(str, known.values)) if known.values else f"a value in {known.unit}{most}"
        shown = f"{typed[:60]!r}" + ("…" if len(typed) > 60 else "")
        raise InputError(f"{shown} is no value for this", attribute, f"Type {wanted}.") from error


_LEAST = re.compile(r"(?:≥|>=|at\s+least|mindestens|au\s+moins)\s*(.+)|(.+?)\s+or\s+more", re.I)
_MOST = re.compile(r"(?:≤|<=|at\s+most|up\s+to|höchstens|au\s+plus)\s*(.+)|(.+?)\s+or\s+less", re.I)


def _claimed(known: Attribute, text: str) -> Any:
    for bound, words in (("at_least", _LEAST), ("at_most", _MOST)):
        if known.kind == "number" and (m := words.fullmatch(text)):
            return {"value": _value(known, m[1] or m[2]), "bound": bound}
    parts = re.split(r"\s+(?:or|oder|ou)\s+", text) if known.kind in ("choice", "number") else [text]
    if len(parts) == 1:
        return _value(known, text)
    first, *others = dict.fromkeys(_value(known, p) for p in parts)
    return {"value": first, "alternatives": others} if others else first


def _value(known: Attribute, text: str) -> Any:
    match known.kind:
        case "flag":
            return {"yes": True, "no": False}[text.lower()]
        case "number":
            figure = float(text.removesuffix(known.unit).strip().replace(",", "."))
            value = round(figure * known.scale)
            if figure < 0 or (known.high is not None and value > known.high):
                raise ValueError("below nothing, or more than a laptop has")
            if known.low is not None and value < known.low:
                raise ValueError("less than any has")
            if not known.unit and known.values and value not in known.values:
                raise ValueError("none of those there are")
            return value
        case "list" | "numbers":
            words = [w for w in text.replace(",", " ").split() if w.lower() != "none"]
            if known.kind == "list" and known.values and any(w not in known.values for w in words):
                raise ValueError(text)
            return [int(w) for w in words] if known.kind == "numbers" else words
        case "choice":
            if text not in known.options:
                raise ValueError(text)
            return text
        case _:
            if not text:
                raise ValueError(text)
            return text
