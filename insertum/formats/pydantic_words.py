"""What a shape's check found, in words a person can act on: the framework's own are for who wrote the shape."""

from collections.abc import Mapping
from typing import Any

_KINDS = {
    "string": ("no text", "Write a text."),
    "int": ("no whole number", "Write a whole number."),
    "float": ("no number", "Write a number."),
    "bool": ("neither yes nor no", "Write true or false."),
    "list": ("no list", "Write a list, in square brackets."),
    "tuple": ("no list", "Write a list, in square brackets."),
    "dict": ("no object", "Write an object, in braces."),
    "model": ("no object", "Write an object, in braces."),
    "date": ("no day", "Write it as 2026-11-30."),
}
_FORMS = "See docs/formats, or the API's document."


def in_words(error: Mapping[str, Any]) -> tuple[str, str]:
    """(what is wrong, how to mend it) of one of pydantic's errors."""
    kind, ctx = str(error.get("type", "")), error.get("ctx") or {}
    match kind:
        case "missing":
            return "missing", "Add it."
        case "extra_forbidden":
            return "nothing of that name is known here", "Leave it out."
        case "literal_error" | "enum":
            return f"not one of {ctx.get('expected', 'those there are')}", "Take one of them."
        case "greater_than_equal" | "greater_than" | "less_than_equal" | "less_than":
            least = kind.startswith("greater")
            bound = next(iter(ctx.values()), "")
            or_that = kind.endswith("equal")
            return (
                f"{'below' if least else 'above'} {bound}" if or_that else f"not {'above' if least else 'below'} {bound}",
                f"Write {'at least' if least else 'at most'} {bound}." if or_that else f"Write {'more' if least else 'less'} than {bound}.",
            )  # fmt: skip
        case "string_too_long":
            return f"longer than {ctx.get('max_length')} characters", "Shorten it."
        case "string_too_short":
            return "too short" if ctx.get("min_length", 0) > 1 else "empty", "Write it out."
        case "too_long" | "too_short":
            return "too many" if kind == "too_long" else "too few", _FORMS
        case "string_pattern_mismatch":
            if r"\d{4}-\d" in str(ctx.get("pattern")):
                return "no day as 2026-11-30", "Write it as 2026-11-30."
            return "not written as it has to be", _FORMS
        case "value_error":
            return str(error.get("msg", "")).removeprefix("Value error, "), _FORMS
    found = _KINDS.get(kind.split("_")[0])
    return found or (str(error.get("msg", "not understood")), _FORMS)
