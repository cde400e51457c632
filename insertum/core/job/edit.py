"""Edits: one value at one place of a job, with the value it replaces.

A place is a JSON Pointer (RFC 6901). An edit that was made against a value somebody else has
since changed is a conflict: nothing is overwritten and both words are returned.
"""

import copy
import json
from typing import Any, Literal

from pydantic import Field, ValidationError

from ..diff_words import place, spoken
from ..errors import Code, InputError
from ..frozen import Frozen
from .shape import Job

#: What only the server writes.
_GUARDED = ("format", "number")


class Edit(Frozen):
    """``uid`` is made by whoever edits, so that sending it twice does it once. ``base`` is what the
    editor saw there (null where nothing was)."""

    uid: str = Field(min_length=1, max_length=64)
    path: str = Field(max_length=300)
    op: Literal["set", "remove"] = "set"
    base: Any = None
    value: Any = None


class EditResult(Frozen):
    """``theirs`` is what stands there now, when it is a conflict; then also where that is, both answers in words, and who
    changed it last and when ("" where nobody is known). A moment in the words stays ISO 8601."""

    uid: str
    path: str
    outcome: Literal["applied", "already", "conflict"]
    before: Any = None
    theirs: Any = None
    place: str = ""
    yours_words: str = ""
    theirs_words: str = ""
    who: str = ""
    at: str = ""


def pointed(path: str) -> tuple[str, ...]:
    """The unescaped steps of a JSON Pointer (RFC 6901), whatever it points into."""
    return tuple(s.replace("~1", "/").replace("~0", "~") for s in path.removeprefix("/").split("/"))


def steps_of(path: str) -> list[str]:
    """The unescaped steps of a JSON Pointer; refuses what is none or what is not to be edited."""
    if not path.startswith("/") or len(path) < 2:
        raise InputError("not a place in a job", f"path {path!r}", "Write it as /section/field.")
    steps = list(pointed(path))
    if steps[0] in _GUARDED or steps[0] not in Job.model_fields:
        raise InputError(f"{steps[0]!r} cannot be edited", f"path {path!r}")
    return steps


def value_at(document: dict[str, Any], steps: list[str]) -> Any:
    """The value at a place, None where there is nothing."""
    here: Any = document
    for step in steps:
        if not isinstance(here, dict) or step not in here:
            return None
        here = here[step]
    return here


def refused(error: ValidationError) -> InputError:
    """The first thing no job can hold, in words: what a place takes, not what a validator calls it."""
    first = error.errors()[0]
    path = tuple(str(p) for p in first["loc"])
    bounds = {k: int(v) if isinstance(v, float) and v.is_integer() else v for k, v in first.get("ctx", {}).items()}
    match first["type"]:
        case "less_than_equal":
            what = f"more than {spoken(path, bounds['le'])} is not taken here"
        case "greater_than_equal":
            what = f"less than {spoken(path, bounds['ge'])} is not taken here"
        case "less_than":
            what = f"{spoken(path, bounds['lt'])} or more is not taken here"
        case "greater_than":
            what = f"it has to be more than {spoken(path, bounds['gt'])}"
        case "string_too_long":
            what = f"more than {bounds['max_length']} characters are not kept here"
        case "string_too_short":
            what = "it may not be empty"
        case "int_from_float" | "int_parsing":
            what = "it has to be a whole number"
        case "float_parsing" | "int_type" | "float_type" | "finite_number":
            what = "it has to be a number"
        case "extra_forbidden":
            what = "nothing of this name is kept here"
        case "missing":
            what = "it is missing"
        case "literal_error" | "enum":
            what = f"it is one of {bounds.get('expected', 'what is offered')}"
        case _:
            what = first["msg"].removeprefix("Value error, ")
    return InputError(what, place(path), "Nothing was changed.")


def _stands(document: dict[str, Any], steps: list[str]) -> bool:
    """Does anything stand at a place, be it null?"""
    holder = value_at(document, steps[:-1]) if len(steps) > 1 else document
    return isinstance(holder, dict) and steps[-1] in holder


def apply_edit(job: Job, edit: Edit) -> tuple[Job, EditResult]:
    """Make one edit. Raises :class:`InputError` when the outcome would be no valid job."""
    steps = steps_of(edit.path)
    try:
        json.dumps([edit.path, edit.value], ensure_ascii=False).encode()
    except UnicodeEncodeError as error:
        raise InputError("half a character in it", edit.path, "Type it again.") from error
    document = job.model_dump(mode="json")
    current = value_at(document, steps)
    # Null is a value where it stands: a slot set to empty is not one nobody has looked into.
    if edit.op == "set" and current == edit.value and (edit.value is not None or _stands(document, steps)):
        return job, EditResult(uid=edit.uid, path=edit.path, outcome="already", before=current)
    # An empty text that came with its neighbour is nothing that anybody wrote.
    if current != edit.base and not (edit.base is None and current == ""):
        return job, EditResult(uid=edit.uid, path=edit.path, outcome="conflict", theirs=current)
    changed = copy.deepcopy(document)
    here: Any = changed
    for step in steps[:-1]:
        here = here.setdefault(step, {}) if isinstance(here, dict) else None
    if not isinstance(here, dict):
        raise InputError("no such place", f"path {edit.path!r}", code=Code.MISSING)
    if edit.op == "remove":
        here.pop(steps[-1], None)
    else:
        here[steps[-1]] = edit.value
    try:
        new = Job.model_validate(changed)
    except ValidationError as error:
        raise refused(error) from error
    return new, EditResult(uid=edit.uid, path=edit.path, outcome="applied", before=current)
