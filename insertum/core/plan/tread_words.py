"""What a step of the ladder brings, in few words: "+ 8 GB memory", "1 TB drive beside the old one"."""

from collections.abc import Mapping
from typing import Any

from ..fit.build import Build
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.part import Fittable, MemoryModule, Pack
from ..machine.radio_parts import Cellular, Radio
from ..money import money
from .candidates import Market
from .contexts import made_for
from .result import Change, PlanPoint


def step_words(today: Build, market: Market, before: PlanPoint, after: PlanPoint, currency: str) -> tuple[str, str]:
    """The step from one plan to the next: what it brings, and its parts with their prices. ``today`` is the machine as it
    stands."""
    was, then = _contents(today, market, before), _contents(today, market, after)
    old = {c.slot: c for c in before.changes}
    new = [c for c in after.changes if c.slot not in old or old[c.slot].part != c.part]
    dropped = [c for c in before.changes if c.slot not in {a.slot for a in after.changes}]
    tasks = [t for t in after.tasks if t not in before.tasks]
    words = [*_brings(was, then, new), *(t.name for t in tasks), *(f"{c.slot_name} left as it is" for c in dropped)]
    detail = [f"{c.slot_name}: {c.part_name} {money(c.price_minor, currency)}" for c in new]
    return ", ".join(words) or "System drive moved", "; ".join([*detail, *(t.name for t in tasks)])


class Unseen:
    """What sits where nobody has looked."""


_Held = Mapping[str, Fittable | Unseen | None]


def _contents(today: Build, market: Market, plan: PlanPoint) -> _Held:
    held: dict[str, Any] = {s.id: today.now(s.id) if today.looked_into(s.id) else Unseen() for s in today.machine.slots}
    for c in plan.changes:
        held[c.slot] = market.by_number.get(c.part) if c.part else None
    return held


def _brings(was: _Held, then: _Held, new: list[Change]) -> list[str]:
    words = []
    memory = [c.slot for c in new if isinstance(then[c.slot] or was[c.slot], MemoryModule)]
    if memory:
        words.append(_memory(was, then, memory))
    rest = [(c, _brought(was, then, c)) for c in new if c.slot not in memory]
    said = [text for _, text in rest]
    return words + [f"{text} in {c.slot_name}" if said.count(text) > 1 else text for c, text in rest]


def _memory(was: _Held, then: _Held, slots: list[str]) -> str:
    known = not any(isinstance(was[s], Unseen) for s in slots)
    gb = sum(m.capacity_gb for s in slots if isinstance(m := then[s], MemoryModule))
    if not known:
        return f"{gb} GB memory"
    more = gb - sum(m.capacity_gb for s in slots if isinstance(m := was[s], MemoryModule))
    if more:
        return f"{'+' if more > 0 else '−'} {abs(more)} GB memory"
    rates = [{m.grade_mts for s in slots if isinstance(m := held[s], MemoryModule)} for held in (was, then)]
    if all(len(r) == 1 for r in rates) and max(rates[1]) > max(rates[0]):
        return f"memory of grade {max(rates[1])} instead of {max(rates[0])}"
    return "other memory of the same size"


def _brought(was: _Held, then: _Held, c: Change) -> str:
    old, part = was[c.slot], then[c.slot]
    match part:
        case M2Drive() | BayDrive():
            name = f"{size_words(part.capacity_gb)} drive"
            if isinstance(old, M2Drive | BayDrive) and old.capacity_gb == part.capacity_gb:
                faster = old.read_mb_s is not None and part.read_mb_s is not None and part.read_mb_s > old.read_mb_s
                return f"{'faster' if faster else 'another'} {name}"
            if isinstance(old, M2Drive | BayDrive):
                return f"{name} instead of {size_words(old.capacity_gb)}"
            others = [p for s, p in then.items() if s != c.slot and isinstance(p, M2Drive | BayDrive) and was[s] is p]
            return f"{name} beside the old one" if old is None and len(others) == 1 else name
        case Radio():
            return f"Wi-Fi card, 802.11{part.standard}" if part.standard else "Wi-Fi card"
        case Cellular():
            return "cellular card"
        case Pack():
            return f"battery of {round(made_for(part) / 1000)} Wh"
        case None:
            return f"{c.slot_name} emptied"
        case _:
            return c.slot_name


def size_words(gb: int) -> str:
    """'250 GB', '1 TB', '1.5 TB': a drive's size as its label has it."""
    return f"{gb / 1000:g} TB" if gb >= 1000 and gb % 100 == 0 else f"{gb} GB"
