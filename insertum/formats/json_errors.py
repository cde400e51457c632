"""Reading JSON into a core shape, with errors a person can act on."""

import json
from collections.abc import Iterator, Sequence
from math import isinf
from typing import Any, TypeVar

from pydantic import BaseModel, TypeAdapter, ValidationError

from ..core.errors import InputError
from .pydantic_words import in_words

M = TypeVar("M", bound=BaseModel)

#: No file of ours comes near this; a larger one is a mistake.
MAX_BYTES = 10 * 1024 * 1024
#: Lists and objects in each other: twice as deep as any form of ours.
MOST_DEPTH = 60
#: Digits of the longest figure that is meant: a drive's size in bytes has 15.
_MOST_DIGITS = 40


class RowsRefused(InputError):
    """An import refused as a whole, with every row's problem: (row, column, what, mend)."""

    def __init__(self, problems: list[tuple[int, str, str]], unit: str = "row") -> None:
        self.problems = problems
        rows = [f"{unit} {n}" for n in sorted({r for r, _, _ in problems})]
        more = f" and {len(rows) - 20} more" if len(rows) > 20 else ""
        super().__init__(
            f"{len(problems)} problem{'s' if len(problems) != 1 else ''}, nothing was imported",
            ", ".join(rows[:20]) + more,
            f"Mend the {unit}s and import the file again.",
        )


def text_of(data: bytes, where: str) -> str:
    """The text of an upload; refuses what is too large or no UTF-8."""
    if len(data) > MAX_BYTES:
        raise InputError(
            f"{len(data) / 2**20:.0f} MB, at most {MAX_BYTES // 2**20} MB are read",
            where,
            "Check that it is the right file.",
        )
    if b"\x00" in data:
        raise InputError("a character that is none (NUL) in it", where, "Save it as UTF-8 text.")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InputError(f"not UTF-8 text (byte {error.start})", where, "Save it as UTF-8.") from error


def parsed(text: str, where: str) -> Any:
    """One JSON value. Raises :class:`InputError` in words for what JSON has no word for (NaN), for figures longer
    than any that is meant, half characters and depths nobody writes."""

    def no_number(word: str) -> Any:
        raise InputError(f"{word} is no figure", where, "Write null for what is unknown.")

    def a_number(digits: str) -> int:
        if len(digits) > _MOST_DIGITS:
            raise InputError(f"a figure of {len(digits)} digits", where, "Check that it is the right file.")
        return int(digits)

    def a_measure(digits: str) -> float:
        value = float(digits)
        if isinf(value):
            raise InputError(f"{digits[:20]} is larger than any figure", where, "Write null for what is unknown.")
        return value

    try:
        value = json.loads(text, parse_constant=no_number, parse_int=a_number, parse_float=a_measure)
        spelt = json.dumps(value, ensure_ascii=False)
        if "\\u0000" in spelt and "\x00" in "".join(_texts(value)):
            raise InputError("a character that is none (NUL) in it", where, "Take it out.")
        spelt.encode()
        if _depth(value) > MOST_DEPTH:
            raise InputError("nested too deep", where, "Check that it is the right file.")
        return value
    except UnicodeEncodeError as error:
        raise InputError("half a character in it", where, "Save the file again as UTF-8.") from error
    except json.JSONDecodeError as error:
        raise InputError(
            f"not JSON: {error.msg}", f"{where}, line {error.lineno}, column {error.colno}", "Mend it there."
        ) from error
    except RecursionError as error:
        raise InputError("nested too deep", where, "Check that it is the right file.") from error


def _texts(value: Any) -> Iterator[str]:
    """Every text of a JSON value, names of members too."""
    if isinstance(value, str):
        yield value
    elif isinstance(value, list):
        for member in value:
            yield from _texts(member)
    elif isinstance(value, dict):
        yield from value
        for member in value.values():
            yield from _texts(member)


def _depth(value: Any) -> int:
    """How many lists and objects lie in each other."""
    level, depth = [value], 0
    while level := [m for v in level if isinstance(v, dict | list) for m in (v.values() if isinstance(v, dict) else v)]:
        depth += 1
    return depth


def first_problem(error: ValidationError) -> tuple[str, str]:
    """Where and what of the first of pydantic's errors."""
    first = error.errors()[0]
    return place_of(first["loc"]), in_words(first)[0]


def place_of(loc: Sequence[int | str]) -> str:
    """Where an error is in the document: without the words of the check that found it."""
    return ".".join(str(p) for p in loc if "[" not in str(p))


def shaped(model: type[M], value: Any, where: str) -> M:
    """Validate into a model; :class:`InputError` names the field."""
    try:
        return model.model_validate(value)
    except ValidationError as error:
        field, message = first_problem(error)
        raise InputError(message, f"{where}, {field}" if field else where, "See docs/formats.") from error


def read_json(model: type[M], text: str, where: str) -> M:
    """Read one JSON document of a given shape."""
    return shaped(model, parsed(text, where), where)


def rows_of(adapter: TypeAdapter[Any], rows: list[tuple[int, dict[str, Any]]]) -> list[Any]:
    """Validate numbered rows all or nothing; :class:`RowsRefused` reports every bad one."""
    good, problems = [], []
    for number, row in rows:
        try:
            good.append(adapter.validate_python(row))
        except ValidationError as error:
            for e in error.errors()[:3]:
                # The first word of a place is the kind; where a kind has checks of its own, their name follows it.
                column = place_of(e["loc"][1:]) or place_of(e["loc"]) or "row"
                problems.append((number, column, in_words(e)[0]))
    if problems:
        raise RowsRefused(problems)
    return good
