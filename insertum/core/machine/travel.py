"""Another workshop's library brought in: its claims come in beside ours as *reported*, with who says so.

Nothing of ours is overwritten and nothing is drawn into our machines: a slot, a difference or a way in that only they
have is shown, and somebody draws it who has seen it. A machine we lack comes in whole, all its claims reported.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from ..errors import InputError
from ..frozen import Frozen
from .attribute import Attribute, attributes_of, lowered, shown
from .claim import Fact, Source
from .processor import Processor, claims_of, named_by
from .shape import Configuration, Configured, Machine

_LONGEST_NAME = 60


class Brought(Frozen):
    """One thing that would come in, or that is only shown. ``ours`` is what our library says there."""

    machine: str
    label: str
    value: str
    ours: str
    comes_in: bool


class Parcel(Frozen):
    """Everything of a file: machines as they would be kept, and what changes, line by line."""

    machines: tuple[dict[str, Any], ...]
    processors: tuple[Processor, ...]
    lines: tuple[Brought, ...]


def unpack(
    theirs: Iterable[Machine], processors: Iterable[Processor], ours: Iterable[Machine], our_processors: Iterable[Processor],
    workshop: str,
) -> Parcel:  # fmt: skip
    """What of a library comes in. Raises :class:`InputError` where nobody is named."""
    if len(workshop) > _LONGEST_NAME or not workshop.isprintable():
        raise InputError(
            f"a workshop's name has at most {_LONGEST_NAME} characters, all of them to be seen",
            "other library",
            "Type it.",
        )
    if not workshop.strip():
        raise InputError("whose library is it?", "other library", "Name the workshop: its claims are kept under it.")
    known = {m.id: m for m in ours}
    kept: list[dict[str, Any]] = []
    lines: list[Brought] = []
    for machine in theirs:
        data, said = _beside(known[machine.id], machine, workshop) if machine.id in known else _whole(machine, workshop)
        lines += said
        if any(x.comes_in for x in said):
            kept.append(data)
    fresh, told = _processors(processors, list(our_processors), workshop)
    return Parcel(machines=tuple(kept), processors=tuple(fresh), lines=(*lines, *told))


def _processors(
    theirs: Iterable[Processor], ours: list[Processor], workshop: str
) -> tuple[list[Processor], list[Brought]]:
    by_id = {p.id: p for p in ours}
    fresh: list[Processor] = []
    lines: list[Brought] = []
    for p in theirs:
        mine = by_id.get(p.id)
        if mine is None:
            fresh.append(p.model_copy(update={"note": f"{p.note}; reported by {workshop}".strip("; ")[:300]}))
            lines.append(Brought(machine=p.name, label="Processor", value="new", ours="", comes_in=True))
            continue
        for name in Processor.model_fields:
            a, b = getattr(p, name), getattr(mine, name)
            if name != "note" and a != b and a not in (None, (), {}):
                label = name.replace("_", " ").capitalize()
                lines.append(Brought(machine=p.name, label=label, value=str(a), ours=str(b), comes_in=False))
    return fresh, lines


def _whole(machine: Machine, workshop: str) -> tuple[dict[str, Any], list[Brought]]:
    """A machine we lack: as it is, but every claim is a report."""
    data = _reported(_longhand(machine.model_dump(mode="json"), machine), workshop)
    count = sum(1 for _ in _claims(data))
    said = Brought(
        machine=f"{machine.maker} {machine.name}", label="The machine", value=f"{count} claims", ours="", comes_in=True
    )
    return data | {"draft": True}, [said]


def _longhand(data: dict[str, Any], machine: Machine) -> dict[str, Any]:
    """Differences may be written short, a bare value for one documented claim: here every claim says its source."""
    shapes: dict[str, type[Any]] = {"memory": type(machine.memory), "boot": type(machine.boot)}
    shapes |= {s.id: type(s) for s in machine.slots}
    for c in data["configurations"]:
        for place, patch in c["differs"].items():
            for name in attributes_of(shapes[place]):
                if name in patch:
                    patch[name] = claims_of(patch[name])
            if "speed_by_modules" in patch:
                patch["speed_by_modules"] = {k: claims_of(v) for k, v in patch["speed_by_modules"].items()}
    return data


def _claims(data: Any) -> Iterator[dict[str, Any]]:
    if isinstance(data, Mapping):
        if {"value", "source"} <= data.keys():
            yield dict(data)
        else:
            for value in data.values():
                yield from _claims(value)
    elif isinstance(data, list):
        for value in data:
            yield from _claims(value)


def _reported(data: Any, workshop: str) -> Any:
    if isinstance(data, Mapping):
        if {"value", "source"} <= data.keys():
            return _report(data, workshop)
        return {k: _reported(v, workshop) for k, v in data.items()}
    return [_reported(v, workshop) for v in data] if isinstance(data, list) else data


def _report(claim: Mapping[str, Any], workshop: str) -> dict[str, Any]:
    """A claim as a report: who says so, and what it rests on with them."""
    source, note, who = claim["source"], claim.get("note", ""), claim.get("who", "")
    basis = note if source == Source.REPORTED else f"{source}{': ' + note if note else ''}"
    told = {
        k: claim[k]
        for k in ("value", "date", "firmware", "configuration", "among_others")
        if claim.get(k) not in (None, "", False)
    }
    return {
        **told, "value": claim["value"], "source": Source.REPORTED.value, "note": str(basis)[:300],
        "who": f"{workshop}, {who}" if who and who != workshop else workshop,
    }  # fmt: skip


def _beside(ours: Machine, theirs: Machine, workshop: str) -> tuple[dict[str, Any], list[Brought]]:
    """Their claims beside ours: configuration by configuration, so that what they say of one stays of that one."""
    data = ours.model_dump(mode="json")
    title = f"{ours.maker} {ours.name}"
    lines: list[Brought] = []
    pairs = [(_same(c, theirs), c) for c in ours.configurations]
    general = not any(c.differs for c in (*ours.configurations, *theirs.configurations))
    for their, our in pairs:
        if their is None:
            continue
        laid, mine = theirs.configured(their.id), ours.configured(our.id)
        for place, label, name, words, claims, held in _apart(laid, mine):
            fresh = [c for c in claims if c["value"] not in held]
            for c in fresh:
                said = Brought(
                    machine=title if general else f"{title}, {our.processor or our.name}",
                    label=f"{label}: {lowered(words.label)}", value=f"{shown(_plain(c['value']), words.scale)} {words.unit}".strip(),
                    ours="; ".join(shown(_plain(v), words.scale) for v in held) or "unknown", comes_in=True,
                )  # fmt: skip
                if said not in lines:
                    lines.append(said)
                _add(data, None if general else our.id, place, name, mine, _report(c, workshop))
    matched = {their.id for their, _ in pairs if their}
    lines += [
        _shown(title, "Configuration", f"{c.name}, {c.processor}") for c in theirs.configurations if c.id not in matched
    ]
    here = {s.id for s in ours.slots}
    lines += [_shown(title, "Slot", s.name) for s in theirs.slots if s.id not in here]
    return data, lines


def _shown(title: str, label: str, value: str) -> Brought:
    return Brought(machine=title, label=label, value=value, ours="not there", comes_in=False)


def _plain(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def _same(ours: Configuration, theirs: Machine) -> Configuration | None:
    """Their configuration that is ours: by its id with the same processor, else by the processor alone."""
    alike = [c for c in theirs.configurations if _one_processor(c, ours)]
    by_id = [c for c in alike if c.id == ours.id]
    found = by_id or alike
    return found[0] if len(found) == 1 else None


def _one_processor(a: Configuration, b: Configuration) -> bool:
    probe = Processor.model_construct(id="p", maker="", name=b.processor)
    return bool(a.processor) and named_by(a, [probe]) is not None


def _apart(
    theirs: Configured, ours: Configured
) -> Iterator[tuple[str, str, str, Attribute, list[dict[str, Any]], list[Any]]]:
    """Attributes of both: (place, its name, attribute, words, their claims, the values we hold)."""
    places: list[tuple[str, str, Any, Any]] = [
        ("memory", "Memory", theirs.memory, ours.memory),
        ("boot", "Boot", theirs.boot, ours.boot),
    ]
    mine = {s.id: s for s in ours.slots}
    places += [(s.id, s.name, s, mine[s.id]) for s in theirs.slots if s.id in mine and type(mine[s.id]) is type(s)]
    for place, label, their, our in places:
        for name, words in attributes_of(type(their)).items():
            fact = getattr(their, name)
            if isinstance(fact, Fact) and fact.claims:
                claims = [c.model_dump(mode="json") for c in fact.claims]
                held = [c.model_dump(mode="json")["value"] for c in getattr(our, name).claims]
                yield place, label, name, words, claims, held


def _add(
    data: dict[str, Any], configuration: str | None, place: str, name: str, mine: Configured, claim: dict[str, Any]
) -> None:
    target = data[place] if place in ("memory", "boot") else next(s for s in data["slots"] if s["id"] == place)
    if configuration is None:
        if not any(c["value"] == claim["value"] for c in target.get(name) or []):
            target[name] = [*(target.get(name) or []), claim]
        return
    laid: Any = getattr(mine, place) if place in ("memory", "boot") else mine.slot(place)
    patch = next(c for c in data["configurations"] if c["id"] == configuration)["differs"].setdefault(place, {})
    if name not in patch or not isinstance(patch[name], list):
        patch[name] = [c.model_dump(mode="json") for c in getattr(laid, name).claims]
    patch[name] = [*patch[name], claim]


__all__ = ["Brought", "Parcel", "unpack"]
