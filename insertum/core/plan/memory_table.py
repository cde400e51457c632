"""What memory measures before and after, over everything that could be, without going through it one by one.

How fast memory runs and how its capacity lies on the channels rest on different unknowns: each is gone through by itself,
and what they come to together is a table of the few figures either leads to. A machine nobody has looked into has
thousands of possibilities and a few hundred figures.
"""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from itertools import product
from math import prod
from typing import Any, NamedTuple

from ..fit.build import Build
from ..fit.enumeration import MOST, TooMany
from ..fit.memory import spread
from ..fit.unseen import ALL_GRADES, unseen_sizes
from ..known.domain import Some
from ..machine.part import MemoryModule
from ..standards import ddr

#: (place, name) of something unknown.
Attribute = tuple[str, str]
#: (capacity in GB, throughput in MB/s).
Figures = tuple[int, int]
Gain = tuple[int, int]
#: What is known of today's modules, by which of the sockets hold some.
Tables = dict[tuple[str, ...], dict[Any, Any]]
#: Each unknown with what it could be.
Unknowns = dict[Attribute, tuple[Any, ...]]


class Cases(NamedTuple):
    """``cases`` are (figures today, figures of the build), each once; ``asks`` the attributes that, alone set to their
    best, improve the least that is gained; all that bear on it where none does alone."""

    cases: tuple[tuple[Figures, Figures], ...]
    asks: frozenset[Attribute]


class _Unseen(NamedTuple):
    """Whatever module runs in a socket nobody has looked into."""

    slot: str


_Held = Mapping[str, MemoryModule | _Unseen]


def memory_cases(today: Build, build: Build, tables: Tables | None = None) -> Cases:
    """What a build measures against today at the same possibility; ``tables`` keeps what of it is today's alone. Raises :class:`TooMany` where not even each half of it
    can be gone through."""
    unseen = [s.id for s in build.memory_slots if s.id not in today.fitted and s.id not in today.changes]
    found: dict[tuple[Figures, Figures], None] = {}
    parts: list[_Part] = []
    for filled in product((False, True), repeat=len(unseen)):
        there = dict(zip(unseen, filled, strict=True))
        part = _Part(build, _modules(today, there), _modules(build, there), {} if tables is None else tables)
        for slot, full in there.items():
            part.least[("fitted", slot)] = {full: part.worst}
        found |= dict.fromkeys(part.cases)
        parts.append(part)
    return Cases(tuple(found), _asks(parts) if len(found) > 1 else frozenset())


def _modules(build: Build, there: Mapping[str, bool]) -> _Held:
    held: dict[str, MemoryModule | _Unseen] = {}
    for s in build.memory_slots:
        if build.looked_into(s.id):
            if isinstance(module := build.now(s.id), MemoryModule):
                held[s.id] = module
        elif there[s.id]:
            held[s.id] = _Unseen(s.id)
    return held


def _asks(parts: "Sequence[_Part]") -> frozenset[Attribute]:
    worst = min(p.worst for p in parts)
    attributes = list(dict.fromkeys(a for p in parts for a in p.least))
    named = []
    for a in attributes:
        values = dict.fromkeys(v for p in parts for v in p.least.get(a, ()))
        # Where it was not asked for it may be anything.
        if max(min(p.least[a].get(v, _MOST) if a in p.least else p.worst for p in parts) for v in values) > worst:
            named.append(a)
    return frozenset(named or attributes)


_MOST: Gain = (1 << 60, 0)


class _Part:
    """The possibilities in which certain sockets are filled: ``least`` is the least gain by unknown and value."""

    def __init__(self, build: Build, before: _Held, after: _Held, tables: Tables) -> None:
        self.build, self.before, self.after, self.tables = build, before, after, tables
        self.least: dict[Attribute, dict[Any, Gain]] = {}
        rates, by_rate = self._gone_through(self._rate_unknowns(), self._rate)
        splits, by_split = self._gone_through(self._split_unknowns(), self._split)
        cases: dict[tuple[Figures, Figures], None] = {}
        low_rate, low_split = [_MOST] * len(rates), [_MOST] * len(splits)
        for i, (was, runs) in enumerate(rates):
            for j, (lay, lies) in enumerate(splits):
                a, b = _figures(lay, was), _figures(lies, runs)
                cases[a, b] = None
                gain = (b[0] - a[0], b[1] - a[1])
                low_rate[i] = min(low_rate[i], gain)
                low_split[j] = min(low_split[j], gain)
        self.cases = tuple(cases)
        self.worst = min(low_rate)
        for by, low in ((by_rate, low_rate), (by_split, low_split)):
            for (attribute, value), those in by.items():
                self.least.setdefault(attribute, {})[value] = min(low[n] for n in those)

    def _gone_through(self, unknowns: Unknowns, answer: Any) -> tuple[list[Any], dict[tuple[Attribute, Any], set[int]]]:
        """The different answers for today and the build, and which of them each value of each unknown leads to."""
        if prod(map(len, unknowns.values())) > MOST:
            raise TooMany
        ways = list(product(*unknowns.values()))
        kept = self.tables.setdefault((answer.__name__, *self.before), {})
        was = self._answers(unknowns, ways, self.before, answer, kept)
        then = self._answers(unknowns, ways, self.after, answer, {})
        numbers: dict[Any, int] = {}
        each = [numbers.setdefault(pair, len(numbers)) for pair in zip(was, then, strict=True)]
        by: dict[tuple[Attribute, Any], set[int]] = {}
        for attribute, values in zip(unknowns, zip(*ways, strict=True), strict=True):
            for value, n in set(zip(values, each, strict=True)):
                by.setdefault((attribute, value), set()).add(n)
        return list(numbers), by

    def _answers(
        self, unknowns: Unknowns, ways: list[tuple[Any, ...]], held: _Held, answer: Any, found: dict[Any, Any]
    ) -> list[Any]:
        """The answer for one side, way by way; what does not bear on it does not ask for another. ``found`` are those
        made before."""
        read = [(a, i) for i, a in enumerate(unknowns) if self._bears(a, held)]
        names, places = tuple(a for a, _ in read), [i for _, i in read]
        answers = []
        for values in ways:
            key = names, tuple([values[i] for i in places])
            if key not in found:
                found[key] = answer(held, dict(zip(*key, strict=True)))
            answers.append(found[key])
        return answers

    def _bears(self, attribute: Attribute, held: _Held) -> bool:
        """Does an unknown bear on these modules? What is asked of a socket does where one sits in it, and what they hold
        where nobody looked."""
        place, name = attribute
        if name.startswith("content."):
            return isinstance(held.get(place), _Unseen)
        if name.startswith("speed_by_modules."):
            return name == f"speed_by_modules.{len(held)}"
        return place == "memory" or place in held

    # -- how fast it runs -----------------------------------------------------------------------------
    def _rate_unknowns(self) -> Unknowns:
        found: Unknowns = {}
        known = self.build.known
        both = [*self.before.values(), *self.after.values()]
        for n, s in enumerate(self.build.machine.memory.soldered):
            if s.rated_mts is None:
                found["memory", f"soldered.{n}.rated_mts"] = (ALL_GRADES[0], ALL_GRADES[-1])
        for slot in dict.fromkeys(m.slot for m in both if isinstance(m, _Unseen)):
            found[slot, "content.grade_mts"] = (ALL_GRADES[0], ALL_GRADES[-1])
        for held in (self.before, self.after):
            caps = known.caps("memory", f"speed_by_modules.{len(held)}")
            if (held or self.build.machine.memory.soldered) and len(caps) > 1:
                found["memory", f"speed_by_modules.{len(held)}"] = caps
        return found

    def _rate(self, held: _Held, chosen: Mapping[Attribute, Any]) -> int:
        """min(rated speed of every module incl. soldered, the machine's limit for that population), 0 for no memory."""
        known = self.build.known
        rates = [
            s.rated_mts or chosen["memory", f"soldered.{n}.rated_mts"]
            for n, s in enumerate(self.build.machine.memory.soldered)
        ]
        for slot, m in held.items():
            if isinstance(m, _Unseen):
                rates.append(chosen[slot, "content.grade_mts"])
            else:
                rates.append(
                    m.profile_mts if m.profile_mts and known.value("memory", "applies_profiles") else m.grade_mts
                )
        if not rates:
            return 0
        name = f"speed_by_modules.{len(held)}"
        cap = chosen.get(("memory", name)) or known.caps("memory", name)[0]
        surely = known.runs_at_least({s: m.ranks if isinstance(m, MemoryModule) else None for s, m in held.items()})
        return int(min(*rates, max(cap.most, surely), key=ddr.exact_mts))

    # -- how its capacity lies ------------------------------------------------------------------------
    def _split_unknowns(self) -> Unknowns:
        found: Unknowns = {}
        for n, s in enumerate(self.build.machine.memory.soldered):
            if s.channel is None:
                found["memory", f"soldered.{n}.channel"] = ddr.CHANNELS
        for slot, m in {**self.after, **self.before}.items():
            found |= self._open(slot, "channel")
            if isinstance(m, _Unseen):  # what was there before: something new is known
                found[slot, "content.capacity_gb"] = unseen_sizes(self.build.known, slot)
        return found

    def _split(self, held: _Held, chosen: Mapping[Attribute, Any]) -> tuple[int, ...]:
        """Capacity on each channel, most first."""
        totals: dict[str, int] = {}
        for n, s in enumerate(self.build.machine.memory.soldered):
            channel = s.channel or chosen["memory", f"soldered.{n}.channel"]
            totals[channel] = totals.get(channel, 0) + s.capacity_gb
        for slot, m in held.items():
            channel = self._told(slot, "channel", chosen)
            gb = chosen[slot, "content.capacity_gb"] if isinstance(m, _Unseen) else m.capacity_gb
            totals[channel] = totals.get(channel, 0) + gb
        return tuple(sorted(totals.values(), reverse=True))

    # -- what is known --------------------------------------------------------------------------------
    def _open(self, place: str, name: str) -> Unknowns:
        """An attribute with its values, where it could have several."""
        domain = self.build.known.domain(place, name)
        assert isinstance(domain, Some), f"{place}.{name} is gone through value by value"
        return {(place, name): domain.values} if len(domain.values) > 1 else {}

    def _told(self, place: str, name: str, chosen: Mapping[Attribute, Any]) -> Any:
        if (place, name) in chosen:
            return chosen[place, name]
        domain = self.build.known.domain(place, name)
        assert isinstance(domain, Some)
        return domain.values[0]


@lru_cache(maxsize=1 << 16)
def _figures(lies: tuple[int, ...], mts: int) -> Figures:
    if not lies:
        return 0, 0
    parts = spread(lies)
    return parts.total_gb, ddr.throughput_mb_s(parts, mts)
