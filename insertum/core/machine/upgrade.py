"""Older shapes, brought up one version at a time.

Each step takes the parsed JSON of one version and returns that of the next, touching nothing it was given.
Files and databases go through the same steps.
"""

from collections.abc import Mapping
from typing import Any

_CARDS = ("m2_drive", "radio", "cellular")


def machine_upgraded(data: Any) -> Any:
    """A machine of any version as the newest; what is no machine at all is given back as it is."""
    if isinstance(data, Mapping) and data.get("format", "insertum-machine/1") == "insertum-machine/1" and _is_v1(data):
        return _machine_1_to_2(data)
    return data


def _is_v1(data: Mapping[str, Any]) -> bool:
    """A file without a format is of the first version, except one built in memory from newer shapes."""
    return "format" in data or not any(not isinstance(s, Mapping) for s in data.get("slots", ()))


def _machine_1_to_2(data: Mapping[str, Any]) -> dict[str, Any]:
    """PCIe as lanes and generation apart, SATA "none" as 0, exclusions as claims with an effect.

    Lists of the first version are complete (rules.md section 1); hold-downs that stay were not known to it.
    """
    new = {**data, "format": "insertum-machine/2"}
    kinds = {}
    slots = []
    for slot in data.get("slots", ()):
        if not isinstance(slot, Mapping):
            slots.append(slot)
            continue
        kinds[slot.get("id")] = slot.get("kind")
        slots.append(_slot_facts(slot, slot.get("kind")))
    new["slots"] = slots
    new["exclusions"] = [
        {
            "when": e.get("when"), "holds": e.get("holds"), "on": e.get("off", e.get("on")),
            "effect": e["effect"] if "effect" in e
            else [{"value": "filled" if e.get("filled") else "off", "source": "documented", "note": e.get("source", "")}],
        }
        if isinstance(e, Mapping) else e
        for e in data.get("exclusions", ())
    ]  # fmt: skip
    configurations = []
    for c in data.get("configurations", ()):
        if isinstance(c, Mapping) and isinstance(c.get("differs"), Mapping):
            differs = {
                place: _slot_facts(patch, kinds.get(place)) if isinstance(patch, Mapping) else patch
                for place, patch in c["differs"].items()
            }
            c = {**c, "differs": differs}
        configurations.append(c)
    new["configurations"] = configurations
    return new


def _slot_facts(slot: Mapping[str, Any], kind: Any) -> dict[str, Any]:
    new = dict(slot)
    if kind in _CARDS and "pcie" in new:
        claims = _claims(new.pop("pcie"))
        new["pcie_lanes"] = [_with(c, 0 if c["value"] == "none" else _of(c["value"], "lanes")) for c in claims]
        new["pcie_generation"] = [_with(c, _of(c["value"], "generation")) for c in claims if c["value"] != "none"]
    if kind == "m2_drive" and "sata" in new:
        new["sata"] = [_with(c, 0 if c["value"] == "none" else c["value"]) for c in _claims(new["sata"])]
    if kind == "m2_drive" and "cooled" in new:
        # The very first files said whether something cools, and not from which side: that settles no side.
        new["cooled"] = [
            c if not isinstance(c["value"], bool)
            else {**c, "value": "above", "source": "reported", "note": "cooled, side not told in the first version"}
            if c["value"] else _with(c, "none")
            for c in _claims(new["cooled"])
        ]  # fmt: skip
    if isinstance(new.get("fitted"), Mapping):
        new["fitted"] = part_1_to_2(new["fitted"])
    return new


def _of(link: Any, what: str) -> Any:
    return link.get(what) if isinstance(link, Mapping) else link


def _claims(fact: Any) -> list[dict[str, Any]]:
    """A fact's claims, however shortly they were written."""
    if fact is None:
        return []
    if isinstance(fact, Mapping) and {"value", "source"} <= fact.keys():
        return [dict(fact)]
    if isinstance(fact, list | tuple) and all(isinstance(c, Mapping) and "value" in c for c in fact):
        return [dict(c) for c in fact]
    return [{"value": fact, "source": "documented"}]


def _with(claim: Mapping[str, Any], value: Any) -> dict[str, Any]:
    return {**claim, "value": value}


def part_1_to_2(part: Mapping[str, Any]) -> dict[str, Any]:
    """What the first version could not leave unknown was known: no clock driver, tied to nobody, no bay filled."""
    new = dict(part)
    known: dict[str, tuple[str, Any]] = {
        "memory": ("clock_driver", False),
        "radio": ("tied_to", ""),
        "battery": ("fills_bay", False),
    }
    if found := known.get(str(part.get("kind"))):
        name, none = found
        if new.get(name) is None:
            new[name] = none
    return new


def found_1_to_2(found: Mapping[str, Any]) -> dict[str, Any]:
    """Findings by ``slot.attribute`` of the first version: links become lanes and generation."""
    new: dict[str, Any] = {}
    for place, value in found.items():
        slot, _, name = place.partition(".")
        if name == "pcie":
            new[f"{slot}.pcie_lanes"] = 0 if value == "none" else _of(value, "lanes")
            if value != "none":
                new[f"{slot}.pcie_generation"] = _of(value, "generation")
        elif name == "sata" and value == "none":
            new[place] = 0
        elif name == "cooled" and isinstance(value, bool):
            if not value:
                new[place] = "none"
        else:
            new[place] = value
    return new


def request_1_to_2(data: Mapping[str, Any]) -> dict[str, Any]:
    """A plan request of the first version."""
    new = {**data, "format": "insertum-plan-request/2"}
    for name in ("measured", "read"):
        new[name] = found_1_to_2(data.get(name) or {})
    new["machine"] = machine_upgraded(data.get("machine"))
    new["fitted"] = {s: part_1_to_2(p) if isinstance(p, Mapping) else p for s, p in (data.get("fitted") or {}).items()}
    new["parts"] = [part_1_to_2(p) if isinstance(p, Mapping) else p for p in data.get("parts") or ()]
    return new


def job_1_to_2(data: Mapping[str, Any]) -> dict[str, Any]:
    """A job of the first version: what was found, and the request in a chosen plan's snapshot."""
    new = {**data, "format": "insertum-job/2"}
    survey = data.get("survey")
    if isinstance(survey, Mapping):
        fitted = {s: part_1_to_2(p) if isinstance(p, Mapping) else p for s, p in (survey.get("fitted") or {}).items()}
        new["survey"] = {**survey, "measured": found_1_to_2(survey.get("measured") or {}), "fitted": fitted}
    plan = data.get("plan")
    if isinstance(plan, Mapping) and isinstance(plan.get("chosen"), Mapping):
        chosen = dict(plan["chosen"])
        if isinstance(chosen.get("request"), Mapping):
            chosen["request"] = request_1_to_2(chosen["request"])
        new["plan"] = {**plan, "chosen": chosen}
    return new
