"""Numbers found on things: what carries one, and where a machine's file keeps it (rules.md section 12)."""

from collections.abc import Mapping
from typing import Any

from ..errors import InputError
from .shape import Machine

#: What every machine has a number on. Panel, fan and case give way to the machine's own assemblies of that kind.
_EVERYWHERE = {
    "part": "part", "board": "board", "pack": "pack", "panel": "panel", "fan": "fan", "case": "case",
}  # fmt: skip
#: No number printed on a thing is longer: what is, was scanned off something else.
LONGEST_NUMBER = 80
#: Numbers that identify a configuration: they are marks of it.
_MARKS = {"board": "board", "pack": "battery"}


def things(machine: Machine | None) -> Mapping[str, str]:
    """What a number can be found on, as words that stand after "the"."""
    assemblies = machine.assemblies if machine else ()
    own = {a.id: a.name[0].lower() + a.name[1:] for a in assemblies if a.id not in ("part", *_MARKS)}
    covered = {a.what for a in assemblies}
    return {k: w for k, w in _EVERYWHERE.items() if k not in covered} | own


def identifies(thing: str) -> bool:
    """Does its number tell this configuration from another?"""
    return thing in _MARKS


def library_says(machine: Machine, configuration: str, thing: str) -> tuple[str, ...]:
    """The numbers the machine's file has of it: none where nobody has noted one."""
    if identifies(thing):
        marks = [*machine.marks, *(m for c in machine.configurations if c.id == configuration for m in c.marks)]
        return tuple(dict.fromkeys(m.text for m in marks if m.kind == _MARKS[thing]))
    return tuple(a.number for a in machine.assemblies if a.id == thing and a.number)


def with_number(machine: Machine, configuration: str, thing: str, number: str) -> dict[str, Any]:
    """The machine's file with that number in it: another mark of the configuration, or the number of the assembly, which
    is added where the file has none. Raises :class:`InputError` for a thing no machine file keeps."""
    data = machine.model_dump(mode="json")
    if identifies(thing):
        for c in data["configurations"]:
            if c["id"] == configuration:
                c["marks"].append({"kind": _MARKS[thing], "text": number})
        return data
    for a in data["assemblies"]:
        if a["id"] == thing:
            a |= {"number": number, "source": "observed here"}
            return data
    if thing not in _EVERYWHERE or thing == "part":
        raise InputError(f"{machine.name} has no {thing!r} any more", thing, "Refuse it, or add the assembly first.")
    data["assemblies"].append(
        {"id": thing, "what": thing, "name": thing.capitalize(), "number": number, "source": "observed here"}
    )
    return data
