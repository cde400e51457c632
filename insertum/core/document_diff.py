"""What a change of a document changed, place by place."""

from collections.abc import Iterator, Mapping
from typing import Any

#: More than this of one change is not listed.
MOST = 12


def changed(before: Mapping[str, Any], after: Mapping[str, Any]) -> tuple[dict[str, Any], dict[str, Any]]:
    """The places two documents differ at, each as deep as both still have it, with what stood there and what stands
    there now. Members of a list that carry ids are told apart by them."""
    found = list(_differing(dict(before), dict(after), ""))
    if len(found) > MOST:
        found = [*found[:MOST], ("more", f"{len(found) - MOST} more", None)]
    return {p: a for p, a, _ in found}, {p: b for p, _, b in found}


def _differing(a: Any, b: Any, path: str) -> Iterator[tuple[str, Any, Any]]:
    if a == b:
        return
    left, right = named(a), named(b)
    if left is None or right is None:
        yield path, a, b
        return
    for name in dict.fromkeys((*left, *right)):
        yield from _differing(left.get(name), right.get(name), f"{path}.{name}" if path else str(name))


def named(value: Any) -> dict[str, Any] | None:
    """Something that is looked into by names: a mapping, or a list whose members have ids."""
    if isinstance(value, dict):
        return value
    if isinstance(value, list) and value and all(isinstance(m, dict) and isinstance(m.get("id"), str) for m in value):
        return {m["id"]: m for m in value}
    return None
