"""A gauge: fields to type, a sum with the figures in it, and the register they stand in."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from .errors import InputError
from .frozen import Frozen

Values = Mapping[str, str]


class Field(Frozen):
    """One thing to type or choose. ``example`` is what the field holds at first."""

    name: str
    label: str
    kind: Literal["text", "long", "number", "choice"] = "number"
    unit: str = ""
    example: str = ""
    options: tuple[str, ...] = ()


class Line(Frozen):
    label: str
    value: str


class Shown(Frozen):
    """What a gauge says: its lines, the sum with the figures in it, and remarks."""

    lines: tuple[Line, ...]
    sum: str = ""
    remarks: tuple[str, ...] = ()


class Gauge(Frozen):
    id: str
    title: str
    fields: tuple[Field, ...]
    formula: str
    standard: str


@dataclass(frozen=True)
class Entry:
    gauge: Gauge
    run: Callable[[Values], Shown]


REGISTER: dict[str, Entry] = {}


def gauge(
    id: str, title: str, formula: str, standard: str, *fields: Field
) -> Callable[[Callable[[Values], Shown]], Callable[[Values], Shown]]:
    """Register a gauge under its stable id."""

    def register(run: Callable[[Values], Shown]) -> Callable[[Values], Shown]:
        REGISTER[id] = Entry(Gauge(id=id, title=title, fields=fields, formula=formula, standard=standard), run)
        return run

    return register


def number(values: Values, name: str, least: float = 0, most: float = 1e9) -> float:
    """The figure typed in a field. Raises :class:`InputError` for what is none, or lies out of range."""
    text = values[name].strip().replace(",", ".")
    try:
        typed = float(text)
    except ValueError:
        raise InputError(
            f"{values[name]!r} is no number", name.replace("_", " "), "Type a figure in the unit shown."
        ) from None
    if not least <= typed <= most:
        raise InputError(f"{text} is out of range", name.replace("_", " "), f"It lies between {least:g} and {most:g}.")
    return typed


def lines_of(**lines: object) -> tuple[Line, ...]:
    """A line for each figure there is, labelled by its name."""
    return tuple(
        Line(label=k[:1].upper() + k[1:].replace("_", " "), value=str(v))
        for k, v in lines.items()
        if v not in (None, "")
    )
