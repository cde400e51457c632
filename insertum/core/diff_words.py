"""A change of any document of the house in words: its places by their names, its values with their units."""

import re
from collections.abc import Collection, Iterator, Mapping
from typing import Any

from .document_diff import named
from .frozen import Frozen
from .machine.attribute import Attribute, attributes_of, lowered, shown
from .machine.bay_and_battery import BatterySlot, BaySlot
from .machine.boot import Boot
from .machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from .machine.drive_parts import BayDrive, M2Drive
from .machine.memory_system import MemorySlot, MemorySystem
from .machine.part import Accessory, MemoryModule, Pack
from .machine.processor import Processor
from .machine.radio_parts import Cellular, Radio

_NOTHING = "nothing"
#: So many places of one change are told, and so many signs of one value.
MOST, LONGEST = 12, 160


class ChangedPlace(Frozen):
    """One place of a change. A moment stays ISO 8601: whoever shows it knows the clock and the form of the house. ``before``
    is "" where only what came is told, ``after`` where only what went is."""

    place: str
    before: str
    after: str


#: The words of every attribute that machines, processors and parts have, by field.
_WORDS: dict[str, Attribute] = {
    name: words
    for shape in (
        MemorySlot, DriveSlot, RadioSlot, CellularSlot, BaySlot, BatterySlot, MemorySystem, Boot, Processor,
        MemoryModule, M2Drive, BayDrive, Radio, Cellular, Pack, Accessory,
    )
    for name, words in reversed(attributes_of(shape).items())
}  # fmt: skip
#: What the end of any other field's name says of its figure: unit and scale.
_UNITS = {
    "_minor": ("", 100), "_um": ("mm", 1000), "_mm": ("mm", 1), "_gb": ("GB", 1), "_mb_s": ("MB/s", 1), "_mts": ("MT/s", 1),
    "_mwh": ("Wh", 1000), "_mv": ("V", 1000), "_percent": ("%", 1), "_seconds": ("s", 1), "_minutes": ("min", 1),
    "_hours": ("h", 1), "_days": ("days", 1), "_years": ("years", 1),
}  # fmt: skip
_STEPS = {"off": "{} off", "on": "{} back on", "out": "{} out", "in": "{} in"}
#: Words of the house's own lists that stand in documents with an underscore in them.
_OURS = re.compile(r"[a-z]+(?:_[a-z0-9]+)+")
_SHORT = {"cl", "tbw", "fru"}
#: What the line itself says already, or nobody reads.
_SILENT = {"at", "chosen_at", "format", "uid", "id"}


def changed_places(
    path: tuple[str, ...], before: Any, after: Any, field: str = "", own: Collection[str] = ()
) -> tuple[ChangedPlace, ...]:
    """The places a change differs at. ``path`` leads to the value in its document, () is the whole of it; ``field`` says
    what kind of figure every value is, where that is not its own name's to say; ``own`` are fields of the document itself
    that are no attribute, though one has their name (a machine's width is no card's)."""
    lines = (_line(p, a, b, field, own) for p, a, b in _differing(path, before, after))
    found = [t for t in lines if {t.before, t.after} != {"", _NOTHING}]  # an empty list for none is no change
    if len(found) > MOST:
        found = [*found[:MOST], ChangedPlace(place=f"and {len(found) - MOST} more", before="", after="")]
    return tuple(found)


def spoken(path: tuple[str, ...], value: Any) -> str:
    """A value that stands, or was to stand, at a place: "nothing" where there is none."""
    lines = changed_places(path, None, value)
    if len(lines) == 1 and lines[0].place == place(path):
        return lines[0].after or _NOTHING
    return "; ".join(f"{t.place.removeprefix(place(path)).strip(', ')} {t.after}".strip() for t in lines) or _NOTHING


def place(path: tuple[str, ...], own: Collection[str] = ()) -> str:
    """Where in a document: 'bench, cover screws off', 'survey, drive-2, room below'."""
    if path[:2] == ("bench", "done") and len(path) == 3:
        verb, _, thing = path[2].partition(":")
        step = _STEPS[verb].format(thing) if verb in _STEPS else f"{verb} {thing}"
        return f"bench, {step.replace('-', ' ').replace('_', ' ').strip()}"
    if len(path) == 1 and path[0] in own:
        return _name(path[0], None)
    names = [n for p in path for n in (p.split(".") if re.fullmatch(r"[\w-]+\.\w+", p) else [p])]
    return ", ".join(_name(n, _WORDS.get(n)) for n in names)


def _differing(path: tuple[str, ...], a: Any, b: Any) -> Iterator[tuple[tuple[str, ...], Any, Any]]:
    """The deepest places both still have, but not within what is told as one thing."""
    if a == b:
        return
    left, right = named(a), named(b)
    # The whole of a document is looked into also where a part of one is told as one thing.
    one = (_thing(a) or _thing(b)) and not (path == () and left and right)
    if one or not ((left or right) and _open(a, left) and _open(b, right)):
        yield path, a, b
        return
    for name in dict.fromkeys((*(left or {}), *(right or {}))):
        yield from _differing((*path, name), (left or {}).get(name), (right or {}).get(name))


def _open(value: Any, looked_into: Mapping[str, Any] | None) -> bool:
    return looked_into is not None or value in (None, "", [])


def _line(path: tuple[str, ...], a: Any, b: Any, field: str, own: Collection[str]) -> ChangedPlace:
    where = place(path, own)
    if path[:2] == ("bench", "done") and len(path) == 3:
        return ChangedPlace(place=where, before=_tick(a), after=_tick(b))
    name = field or (path[-1].rpartition(".")[2] if path else "")
    words = None if len(path) == 1 and name in own else _WORDS.get(name)

    def spoken(value: Any) -> str:
        said = _value(value, name, words)
        return said if len(said) <= LONGEST else f"{said[:LONGEST]}…"

    if isinstance(a, list) and isinstance(b, list) and a and b:
        gone, come = [m for m in a if m not in b], [m for m in b if m not in a]
        if bool(gone) != bool(come):
            return ChangedPlace(place=where, before=spoken(gone) if gone else "", after=spoken(come) if come else "")
    before, after = spoken(a), spoken(b)
    # What differs may lie behind what is told of a thing: then only what stands now is said.
    return ChangedPlace(place=where, before="" if before == after else before, after=after)


def _tick(value: Any) -> str:
    return "done" if value else "not done"


def _name(field: str, words: Attribute | None) -> str:
    if words:
        return lowered(words.label)
    for end in _UNITS:
        field = field.removesuffix(end)
    if field in _SHORT:
        return field.upper()
    return field.replace("_", " ") if _OURS.fullmatch(field) else field


def _value(value: Any, name: str, words: Attribute | None) -> str:
    if value is None or value == "" or value == [] or value == {}:
        return _NOTHING
    if isinstance(value, Mapping):
        return _thing(value, name, words) or _spelt(value)
    if isinstance(value, list):
        return ", ".join(_inner(m, name, words) for m in value)
    if isinstance(value, str):
        return value.replace("_", " ") if _OURS.fullmatch(value) else value
    if words:
        return f"{shown(value, words.scale)} {words.unit}".strip()
    for end, (unit, scale) in _UNITS.items():
        if (name.endswith(end) or name == end[1:]) and not isinstance(value, bool):
            return f"{value / 100:.2f}" if end == "_minor" else f"{value / scale:.12g} {unit}"
    return shown(value)


def _inner(value: Any, name: str, words: Attribute | None) -> str:
    """What is told by its fields stands in brackets inside something else."""
    said = _value(value, name, words)
    spelt = isinstance(value, Mapping) and said != _NOTHING and not _thing(value, name, words)
    return f"({said})" if spelt else said


def _spelt(value: Mapping[str, Any]) -> str:
    """A thing by its fields: those that say something."""
    said = {n: _inner(v, n, _WORDS.get(n)) for n, v in value.items() if n not in _SILENT}
    return "; ".join(f"{_name(n, _WORDS.get(n))} {w}" for n, w in said.items() if w != _NOTHING) or _NOTHING


def _thing(value: Any, name: str = "", words: Attribute | None = None) -> str:
    """What is told as one thing, in its own words; "" for what is told field by field."""
    if not isinstance(value, Mapping):
        return ""
    keys = set(value)
    if str(value.get("format", "")).startswith("insertum-reading/"):
        machine = " ".join(str(value[k]) for k in ("maker", "system") if value.get(k))
        firmware = f", firmware {value['firmware']}" if value.get("firmware") else ""
        return f"a reading of {machine or 'a machine that does not say its name'}{firmware}"
    if {"stance", "plan", "request"} <= keys:
        return _plan(value["stance"], value["plan"])
    if {"said_by", "cost_minor"} <= keys:
        how = f", {value['how']}" if value.get("how") else ""
        return f"{value['said_by']} agreed to {value['cost_minor'] / 100:.2f}{how}"
    if isinstance(value.get("state"), str) and keys <= {"state", "words", "who"}:
        return f"{value['state']}{': ' + str(value['words']) if value.get('words') else ''}"
    if "value" in keys and isinstance(value.get("source"), str):
        more = "".join(f", {value[k]}" for k in ("note", "who", "date") if isinstance(value.get(k), str) and value[k])
        return f"{_value(value['value'], name, words)} ({value['source']}{more})"
    if {"kind", "number", "name"} <= keys and isinstance(value["name"], str):
        return f"{value['name']} ({value['number']})" if value["number"] else value["name"]
    return ""


def _plan(stance: str, plan: Mapping[str, Any]) -> str:
    parts = [f"{c.get('part_name') or 'nothing'} in {c.get('slot_name')}" for c in plan.get("changes", ())]
    tasks = [str(t.get("name")) for t in plan.get("tasks", ()) if t.get("name")]
    what = ", ".join([*parts, *tasks]) or "buy nothing"
    return f"{stance.replace('_', ' ')}, {plan.get('cost_minor', 0) / 100:.2f}: {what}"
