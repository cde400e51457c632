"""Two people's edits of one machine, both kept: what each changed since the version both began with.

Lists whose members have an id (slots, obstacles, configurations) are merged member by member, other lists and single
values as a whole. Where both changed the same thing differently neither wins: it is named, and somebody decides.
"""

from collections.abc import Mapping
from typing import Any

from ..frozen import Frozen

_GONE = object()


class Merged(Frozen):
    """The merged data, and the places both changed differently (theirs stands in the data)."""

    data: dict[str, Any]
    conflicts: tuple[str, ...]


def merged(base: Mapping[str, Any], mine: Mapping[str, Any], theirs: Mapping[str, Any]) -> Merged:
    """Lay what I changed since ``base`` on ``theirs``."""
    conflicts: list[str] = []
    data = _value(dict(base), dict(mine), dict(theirs), "", conflicts)
    return Merged(data=data, conflicts=tuple(conflicts))


def _value(base: Any, mine: Any, theirs: Any, path: str, conflicts: list[str]) -> Any:
    if mine in (base, theirs):
        return theirs
    if theirs == base:
        return mine
    if all(isinstance(v, dict) for v in (base, mine, theirs)):
        return _mapping(base, mine, theirs, path, conflicts)
    if all(_keyed(v) for v in (base, mine, theirs)):
        return _members(base, mine, theirs, path, conflicts)
    conflicts.append(path.strip("/") or "the machine")
    return theirs


def _mapping(
    base: dict[str, Any], mine: dict[str, Any], theirs: dict[str, Any], path: str, conflicts: list[str]
) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for name in dict.fromkeys((*theirs, *mine)):
        value = _value(
            base.get(name, _GONE), mine.get(name, _GONE), theirs.get(name, _GONE), f"{path}/{name}", conflicts
        )
        if value is not _GONE:
            found[name] = value
    return found


def _members(base: list[Any], mine: list[Any], theirs: list[Any], path: str, conflicts: list[str]) -> list[Any]:
    by = [{m["id"]: m for m in members} for members in (base, mine, theirs)]
    merged_ = _mapping(by[0], by[1], by[2], path, conflicts)
    # In my order where I moved things, else in theirs; new members of the other at the end.
    kept = [m["id"] for m in base]
    moved = [m["id"] for m in mine if m["id"] in by[0]] != [i for i in kept if i in by[1]]
    first, second = (mine, theirs) if moved else (theirs, mine)
    order = dict.fromkeys([*(m["id"] for m in first), *(m["id"] for m in second)])
    return [merged_[i] for i in order if i in merged_]


def _keyed(value: Any) -> bool:
    return (
        isinstance(value, list)
        and all(isinstance(m, dict) and isinstance(m.get("id"), str) for m in value)
        and bool(value)
    )
