"""One reading from what several tools said: joined by address, never by likeness; what they disagree on is left out."""

import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, TypeVar

from pydantic import ValidationError

from ...core.reading import ReadAdapter, ReadBattery, ReadBluetooth, ReadDrive, Reading, ReadLoad, ReadModule, ReadRadio
from ...core.spelling import folded
from .cim import COUNTED

Facts = dict[str, Any]
T = TypeVar("T", ReadDrive, ReadBattery)

#: Firmware writes these once a machine: two files that differ in them are of two machines.
_IDENTITY = {"system": "the system's name", "board": "the board's name"}
#: What the system sees differs a little from tool to tool; more than this share is another machine's.
_ALIKE = 0.1


def joined(told: Sequence[tuple[str, Facts]], odd: list[str]) -> Reading:
    """The reading of one machine. Files of two machines give a reading of nothing, that says which they are."""
    for key, words in _IDENTITY.items():
        said = [(name, f[key]) for name, f in told if f.get(key)]
        if other := next(((n, v) for n, v in said if folded(v) != folded(said[0][1])), None):
            says = (
                f"{said[0][0]} and {other[0]} are of two machines ({words}: {said[0][1]}, {other[1]}): drop each alone"
            )
            return Reading(not_understood=(*odd, says))
    found = {
        key: next((f[key] for _, f in told if f.get(key)), "")
        for key in ("maker", "system", "board", "firmware", "processor")
    }
    every = _Told(told, odd)
    found |= _memory(every) | _drives(every) | _cards(every) | _power(every)
    found["visible_mb"] = every.alike("visible_mb", "how much memory the system sees")
    found["word_bits"] = every.agreed("word_bits", "the word size of the system")
    found["images"] = tuple(i for f in every.facts for i in f.get("images", ()))
    found["load"] = _load(every, found)
    found = {k: v for k, v in found.items() if v not in (None, "", ())}
    understood = tuple(name for name, _ in told)
    found["cut_off"] = tuple(name for name, f in told if f.get("cut"))
    try:
        return Reading.model_validate(found | {"understood": understood, "not_understood": tuple(odd)})
    except ValidationError as error:  # a figure no machine has: the rest of the bundle is not lost by it
        bad = {str(e["loc"][0]) for e in error.errors()}
        odd.append(f"figures out of range: {', '.join(sorted(bad))}")
        kept = {k: v for k, v in found.items() if k not in bad}
        return Reading.model_validate(kept | {"understood": understood, "not_understood": tuple(odd)})


class _Told:
    """What every file told, and where they disagree."""

    def __init__(self, told: Sequence[tuple[str, Facts]], odd: list[str]) -> None:
        self.told, self.odd = told, odd
        self.facts = [f for _, f in told]

    def of(self, key: str) -> list[Any]:
        return [f[key] for f in self.facts if f.get(key) is not None]

    def table(self, key: str) -> dict[str, Any]:
        """Tables of all files as one; a row two files tell otherwise is left out."""
        found: dict[str, Any] = {}
        bad = set()
        for table in self.of(key):
            for name, value in table.items():
                if found.setdefault(name, value) != value:
                    bad.add(name)
        return {name: value for name, value in found.items() if name not in bad}

    def agreed(self, key: str, words: str) -> Any:
        values = self.of(key)
        if any(v != values[0] for v in values):
            self.odd.append(f"the files disagree on {words}: it is left out")
            return None
        return values[0] if values else None

    def alike(self, key: str, words: str) -> int | None:
        values = self.of(key)
        if values and max(values) - min(values) > _ALIKE * max(values):
            self.odd.append(f"the files disagree on {words}: it is left out")
            return None
        return values[0] if values else None


# -- memory -------------------------------------------------------------------------------------
_MEMORY = ("modules", "memory_complete", "devices", "arrays", "maximum_gb", "slots")


def _memory(every: _Told) -> Facts:
    """One tool's list, the fullest; two lists that hold something else are both left out."""
    lists = [f for f in every.facts if f.get("modules")]
    slots = next(iter(every.of("slots")), ())
    counted = next(({k: f[k] for k in ("devices", "arrays") if f.get(k)} for f in every.facts if f.get("devices")), {})
    if not lists:
        return {"slots": slots, **counted}
    if any(_held(f["modules"]) != _held(lists[0]["modules"]) for f in lists):
        every.odd.append("the files disagree on the memory that is fitted: it is left out")
        return {"slots": slots}
    best = max(lists, key=lambda f: (bool(f.get("memory_complete")), len(f["modules"])))
    return {"slots": slots, **counted} | {k: best[k] for k in _MEMORY if best.get(k)}


def _held(modules: Iterable[ReadModule]) -> list[tuple[int, str]]:
    return sorted((m.size_mb or 0, folded(m.part_number)) for m in modules if m.present)


# -- drives -------------------------------------------------------------------------------------
def _drives(every: _Told) -> Facts:
    guests, kinds, places = every.table("guests"), every.table("place_kinds"), every.table("places")
    listed = [f["drives"] for f in every.facts if f.get("drives")]
    by_name = [d for drives in listed for d in drives if not d.name.startswith("PHYSICALDRIVE")]
    foreign = [d for drives in listed for d in drives if d.name.startswith("PHYSICALDRIVE")]
    drives = _one_each(every, by_name or foreign, "drive")
    kept: list[ReadDrive] = []
    health, held = every.table("health"), every.table("held")
    started = {every.table("partitions").get(g) for g in every.of("started_from")} - {None}
    for d in drives:
        if kinds.get(d.name) == "usb" or guests.get(d.name) == "usb":
            continue
        if guests.get(d.name) == "card" and kinds.get(d.name) != "MMC":
            if kinds.get(d.name) != "SD":
                every.odd.append(f"{d.name}: a card or soldered storage, nothing tells which: it is left out")
            continue
        volumes = tuple(
            v.model_copy(
                update={
                    "used_bytes": held[v.name][1] if v.used_bytes is None and v.name in held else v.used_bytes,
                    "size_bytes": held[v.name][0] if v.used_bytes is None and v.name in held else v.size_bytes,
                    "started": v.name in started,
                }
            )
            for v in d.volumes
        )
        # Health is told by controller or by name space: nvme0 is nvme0n1's.
        report = health.get(d.name) or health.get(re.sub(r"(?<=\d)n\d+$", "", d.name)) or {}
        if report and report["serial"] and d.serial and folded(report["serial"]) != folded(d.serial):
            report = {}
        kept.append(
            d.model_copy(
                update={
                    "pci": d.pci or places.get(d.name, ""),
                    "transport": d.transport or ("sata" if kinds.get(d.name) == "ata" else ""),
                    "volumes": volumes,
                    "temperature_c": report.get("temperature_c"),
                    "worn_percent": report.get("worn_percent"),
                    "firmware": d.firmware or report.get("firmware", ""),
                }
            )
        )
    return {"drives": _linked(every, kept), "own_system": _own_system(every, kept, guests, kinds)}


def _linked(every: _Told, drives: list[ReadDrive]) -> tuple[ReadDrive, ...]:
    """Each NVMe drive's link, by the address of its controller."""
    links = every.table("links")
    mine = [d for d in drives if d.transport == "nvme" and d.pci]
    if links and (lost := [d.name for d in mine if d.pci not in links]):
        # Hidden from one of the tools, or the lists are of two machines: then no address proves anything.
        every.odd.append(f"no controller at the address of {', '.join(lost)}: links are left out")
        return tuple(drives)
    found = []
    for d in drives:
        if d in mine and d.pci in links:
            capable, running, port = links[d.pci]
            d = d.model_copy(
                update={
                    "capable": capable, "running": running,
                    "port": port.capable if port else None, "port_pci": port.pci if port else "",
                }
            )  # fmt: skip
        found.append(d)
    return tuple(found)


def _one_each(every: _Told, rows: list[T], what: str) -> list[T]:
    """Several tools on one thing of one name: what the first left open the others fill. Where their numbers or sizes
    differ they speak of two things, and none of them is taken."""
    found: dict[str, T] = {}
    bad: set[str] = set()
    for n, row in enumerate(rows):
        name = row.name or f"#{n}"
        known = found.setdefault(name, row)
        if known is row:
            continue
        a, b = known.model_dump(), row.model_dump()
        if any(a.get(k) and b.get(k) and folded(str(a[k])) != folded(str(b[k])) for k in _SAME_THING):
            bad.add(name)
        empty = (None, "", ())
        found[name] = known.model_copy(
            update={k: getattr(row, k) for k, v in a.items() if v in empty and b[k] not in empty}
        )
    for name in sorted(bad):
        every.odd.append(f"the files disagree on {what} {name}: it is left out")
    return [row for name, row in found.items() if name not in bad]


_SAME_THING = ("serial", "size_bytes", "design_mwh")


def _own_system(
    every: _Told, drives: list[ReadDrive], guests: Mapping[str, str], kinds: Mapping[str, str]
) -> bool | None:
    """Whose system ran: the one on a drive of the machine, or one that was brought. None where nothing tells, or
    two files tell two things."""
    said: set[bool] = {False for _ in every.of("live")}
    strangers = [n for n, k in guests.items() if k == "usb"] + [n for n, k in kinds.items() if k in ("usb", "SD")]
    for root in (r for roots in every.of("roots") for r in roots):
        if any(_is_on(root, name) for name in strangers):
            said.add(False)
        elif any(_is_on(root, d.name) or any(v.name == root for v in d.volumes) for d in drives):
            said.add(True)
    return said.pop() if len(said) == 1 else None


def _is_on(partition: str, drive: str) -> bool:
    """nvme0n1p2 is on nvme0n1, sda2 on sda; sdab is not on sda, nor nvme0n12 on nvme0n1."""
    number = r"p\d+" if drive[-1:].isdigit() else r"\d+"
    return partition == drive or bool(re.fullmatch(re.escape(drive) + number, partition))


# -- cards --------------------------------------------------------------------------------------
def _cards(every: _Told) -> Facts:
    chains = every.table("chains")
    interfaces = every.table("interfaces")
    at = {interfaces[name]: c for name, c in chains.items() if interfaces.get(name)}
    radios: dict[str, ReadRadio] = {}
    for n, r in enumerate(r for rs in every.of("radios") for r in rs):
        radios.setdefault(r.pci or f"{r.id}#{n}", r)
    seen = list(radios.values())
    if any(r.pci for r in seen):  # an inventory without addresses names the same cards again
        seen = [r for r in seen if r.pci]
    modems: dict[str, ReadRadio] = {}
    for r in (r for rs in every.of("modems") for r in rs):
        modems.setdefault(r.id or r.name, r)
    blue: list[ReadBluetooth] = every.of("bluetooth")
    return {
        "radios": tuple(r.model_copy(update={"chains_dbm": at[r.pci]}) if r.pci in at else r for r in seen),
        "modems": tuple(modems.values()),
        # The kernel's list tells more than names do.
        "bluetooth": max(blue, key=lambda b: (b.fixed is not None, b.driver is not None), default=None),
        "ports": next(iter(every.of("ports")), ()),
    }


# -- power --------------------------------------------------------------------------------------
def _power(every: _Told) -> Facts:
    # What the kernel says is absent is none, whatever another tool remembers of it.
    absent = {name for names in every.of("absent_packs") for name in names}
    packs: list[ReadBattery] = [p for ps in every.of("packs") for p in ps if p.name not in absent]
    # An inventory counts packs, the kernel names them: where both tell they are the same ones.
    kernels = [p for p in packs if p.name and not p.name.startswith(COUNTED)]
    found = _one_each(every, kernels or packs, "pack")
    if not packs:  # the table of the firmware names packs it may not hold today: only where no tool looked
        found = list(next(iter(every.of("table_packs")), ()))
    supplies: list[ReadAdapter] = every.of("adapter")
    online = {a.online for a in supplies if a.online is not None}
    return {
        "packs": tuple(found),
        "adapter": ReadAdapter(
            online=online.pop() if len(online) == 1 else None,
            most_mw=max((a.most_mw for a in supplies if a.most_mw), default=None),
        )
        if supplies
        else None,
    }


# -- load ---------------------------------------------------------------------------------------
def _load(every: _Told, found: Facts) -> ReadLoad | None:
    """The most that was seen of each figure, and what the file systems of the machine's drives hold."""
    figures: dict[str, Any] = {}
    for load in every.of("load"):
        for key, value in load.model_dump(exclude_none=True).items():
            figures[key] = max(value, figures.get(key, value))
    drives: Sequence[ReadDrive] = found["drives"]
    used = [d.used_bytes for d in drives]
    if used and all(u is not None for u in used):
        figures["drive_used_gb"] = round(sum(u for u in used if u is not None) / 1e9, 1)
    system = next((d for d in drives if any(v.mounted == "/" for v in d.volumes)), None)
    if system is not None and system.used_bytes is not None:
        room = sum(v.size_bytes or 0 for v in system.volumes if v.used_bytes is not None)
        figures["drive_filled_percent"] = 100 * system.used_bytes // room if room else None
    return ReadLoad(**figures) if figures else None
