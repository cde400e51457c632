"""Plans the long way round: every build tried, judged, measured in every world and priced, one by one.

Nothing here is the planner's: needs are met by figures written out again, unknowns are whole worlds in which nothing is
unknown, and exactness is that of fractions. What is shared is the rules that judge and the demo shapes.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cache
from itertools import product
from typing import Any

from insertum.core.access.way import bench_seconds
from insertum.core.fit.build import Build
from insertum.core.fit.judge import judge_build, judge_equipped
from insertum.core.machine.part import Accessory
from insertum.core.plan.need import Need
from insertum.core.plan.request import PlanRequest
from insertum.core.standards import wlan
from insertum.core.survey.current_build import build_today, laid_out
from insertum.core.verdict import Verdict

KIND = {"memory": "memory", "m2_drive": "m2_drive", "radio": "radio", "bay": "bay_drive", "battery": "battery"}
FAMILY = {
    "memory_capacity": "m", "memory_throughput": "m", "drive_space": "d", "drive_speed": "d", "radio_throughput": "r", "runtime": "b",
}  # fmt: skip
LINK = {("pcie", 1): 250 * 4, ("pcie", 2): 500 * 4}


# -- how far a need is met ----------------------------------------------------------------------------
@cache
def met(kind: str, floor: Fraction, comfort: Fraction, ceiling: Fraction, x: Any) -> Fraction:
    """0.4·x/floor, then 0.4 to 0.9, then to 1; a log2 share is taken to 2**-50."""
    if kind == "fault":
        return Fraction(1 if x else 0)
    a, b, c = floor, comfort, ceiling
    if x >= c:
        return Fraction(1)
    if x < a:
        return Fraction(2, 5) * max(Fraction(x), Fraction(0)) / a
    low, high, at, rise = (a, b, Fraction(2, 5), Fraction(1, 2)) if x < b else (b, c, Fraction(9, 10), Fraction(1, 10))
    if kind in ("drive_space", "runtime"):
        return at + rise * (Fraction(x) - low) / (high - low)
    share = math.log2(Fraction(x) / low) / math.log2(high / low)
    return at + rise * Fraction(round(share * 2**50), 2**50)


@dataclass(frozen=True)
class Exact:
    """A need in figures without rounding."""

    kind: str
    floor: Fraction
    comfort: Fraction
    ceiling: Fraction
    weight_units: int
    slot: str
    growth_percent: float | None

    def factor(self, use: Any) -> Fraction:
        percent = use.growth_percent if self.growth_percent is None else self.growth_percent
        return (1 + Fraction(str(percent)) / 100) ** use.years


def exactly(n: Need) -> Exact:
    floor, comfort, ceiling = (Fraction(str(x)) for x in (n.floor, n.comfort, n.ceiling))
    return Exact(str(n.kind), floor, comfort, ceiling, round(n.weight * 1000), n.slot, n.growth_percent)


def _grown(n: Exact, use: Any) -> Exact:
    if n.kind in ("drive_space", "fault"):
        return n
    factor = n.factor(use)
    return replace(n, floor=n.floor * factor, comfort=n.comfort * factor, ceiling=n.ceiling * factor)


# -- worlds -------------------------------------------------------------------------------------------
@dataclass(frozen=True)
class World:
    """What is in each slot today, with nothing unknown, and what the machine does. ``full_mwh`` is what each pack holds."""

    held: dict[str, Any]
    full_mwh: dict[str, int]
    profiles: bool = False


def worlds(request: PlanRequest) -> list[World]:
    """Every world that is possible: contents nobody has seen, a pack whose charge nobody has read."""
    held = {s: p for s, p in request.fitted.items() if s not in request.unknown}
    options: list[list[tuple[str, Any]]] = []
    for slot in request.unknown:
        sizes = [None, *DRIVES_ON_SALE] if slot in ("bay", "drive-1") else [None, 1, 2, 4, 8, 12, 16, 24, 32, 48, 64]
        options.append([(slot, size) for size in sizes])
    packs = {s: p for s, p in held.items() if s in BATTERIES and p is not None}
    ends = [[p.full_mwh] if p.full_mwh is not None else [0, p.design_mwh] for p in packs.values()]
    fulls = [dict(zip(packs, full, strict=True)) for full in product(*ends)]
    told = request.machine.memory.applies_profiles.claims
    profiles = [told[0].value] if told else [False, True]
    return [
        World(held | dict(found), full, applied)
        for found in product(*options)
        for full in fulls
        for applied in profiles
    ]


DRIVES_ON_SALE = (
    16,
    32,
    64,
    120,
    128,
    240,
    250,
    256,
    480,
    500,
    512,
    960,
    1000,
    1024,
    1920,
    2000,
    2048,
    4000,
    8000,
    16000,
)


def figures(request: PlanRequest, world: World, changes: dict[str, Any], boot: str, needs: list[Exact], mended: frozenset[str], used: Fraction) -> list[Any]:  # fmt: skip
    """The measure of each need in one world, after the changes."""
    now = {s: p for s, p in world.held.items() if s not in request.dead} | changes
    modules = [now[s] for s in ("memory-a", "memory-b") if now.get(s) is not None]
    found: list[Any] = []
    for n in needs:
        if n.kind == "fault":
            found.append(int(n.slot in mended or (n.slot in changes and changes[n.slot] is not None)))
        elif n.kind == "memory_capacity":
            found.append(sum(_gb(m) for m in modules))
        elif n.kind == "memory_throughput":
            found.append(_throughput(request, now, world.profiles))
        elif n.kind == "drive_space":
            found.append(sum(_gb(now[s]) for s in ("drive-1", "bay") if now.get(s) is not None) - used)
        elif n.kind == "drive_speed":
            found.append(_rate(now.get(boot)))
        elif n.kind == "radio_throughput":
            found.append(_delivered(now.get("radio")))
        else:
            found.append(Fraction(_energy(world, now, changes), request.use.average_mw))
    return found


BATTERIES = ("battery", "battery-2")


def _energy(world: World, now: dict[str, Any], changes: dict[str, Any]) -> int:
    """What the packs hold: one bought what it was made for, one in use what this world has in it."""
    total = 0
    for slot in BATTERIES:
        if (pack := now.get(slot)) is not None:
            bought = pack.full_mwh if pack.full_mwh is not None else pack.design_mwh
            total += bought if slot in changes else world.full_mwh[slot]
    return total


def _gb(part: Any) -> int:
    return part if isinstance(part, int) else part.capacity_gb


def _rated(module: Any, profiles: bool) -> Fraction:
    grade = module.profile_mts if module.profile_mts and profiles else module.grade_mts
    return Fraction(400, 3) * round(Fraction(grade * 3, 400))


def _throughput(request: PlanRequest, now: dict[str, Any], profiles: bool) -> int:
    """Total ÷ (interleaved ÷ two-channel rate + rest ÷ one), 8 bytes a transfer."""
    memory = request.machine.memory
    held = [now.get("memory-a"), now.get("memory-b")]
    sizes = [_gb(m) if m is not None else 0 for m in held]
    there = [m for m in held if m is not None]
    if not sum(sizes):
        return 0
    by_count = {k: f.claims[0].value for k, f in memory.speed_by_modules.items()}
    cap = by_count.get(len(there), memory.speed_mts.claims[0].value)
    rates = [Fraction(400, 3) * round(Fraction(cap * 3, 400)), *(_rated(m, profiles) for m in there)]
    one = min(rates) * 8
    both, single = 2 * min(sizes), abs(sizes[0] - sizes[1])
    return round(sum(sizes) / (both / (2 * one) + single / one))


def _rate(drive: Any) -> int:
    if drive is None:
        return 0
    if isinstance(drive, int):
        return 600
    if drive.kind == "bay_drive":
        return min(drive.read_mb_s, 600)
    return min(drive.read_mb_s, 3938 if drive.interface == "pcie" else 600)


def _delivered(card: Any) -> int:
    mode = None
    if card is not None:
        made = tuple(b for b in card.bands if b in ("2.4", "5"))
        mode = wlan.best_mode(card.side, card.side, 2, made)
    return wlan.delivered_mbit_s(mode, None)


# -- builds -------------------------------------------------------------------------------------------
@dataclass
class Built:
    """One whole build: what it costs, its gains need by need and world by world, and what it waits for."""

    cost: int
    worth: Fraction
    order: tuple[Any, ...]
    enough: list[Fraction]
    physical: tuple[float, ...]
    waits: frozenset[str]
    changes: dict[str, Any]

    @property
    def names(self) -> tuple[str, ...]:
        return self.order[1]


def today_of(request: PlanRequest) -> Build:
    laid = laid_out(request.machine.configured("only"))
    return build_today(laid, request.fitted, request.terms.limits, boot_slot=request.boot_slot, unknown=request.unknown)


def ways(request: PlanRequest, today: Build) -> list[list[tuple[str, Any]]]:
    """What can be done to each slot: keep, empty where it may be, or any offer, the shelf's apart."""
    schools = request.terms.schools
    found = []
    for slot in today.machine.slots:
        here: list[tuple[str, Any]] = [(slot.id, "keep")]
        for p in request.parts:
            if p.kind != KIND[slot.kind] or (schools.makes and p.maker not in schools.makes):
                continue
            if p.kind == "bay_drive" and p.spinning and not schools.spinning:
                continue
            if p.price_minor is not None:
                here.append((slot.id, (p, p.price_minor, None)))
            here += [(slot.id, (p, s.price_minor, s.count)) for s in request.shelf if s.number == p.number]
        drive_leaves = schools.drive == "replace" and slot.kind in ("m2_drive", "bay")
        if today.now(slot.id) is not None and (request.terms.empties(slot.id) or drive_leaves):
            here.append((slot.id, "empty"))
        found.append(here)
    return found


def allowed(request: PlanRequest, today: Build, changes: dict[str, Any]) -> bool:
    """What the schools and the shelf leave."""
    schools = request.terms.schools
    memory = {s: c for s, c in changes.items() if s.startswith("memory")}
    drives = {s: c for s, c in changes.items() if s in ("drive-1", "bay")}
    limited: dict[str, int] = {}
    for c in changes.values():
        if c != "empty" and c[2] is not None:
            limited[c[0].number] = limited.get(c[0].number, 0) + 1
            if limited[c[0].number] > c[2]:
                return False
    if schools.memory == "add" and any(today.now(s) is not None for s in memory):
        return False
    if schools.memory == "pair" and memory:
        held = {s: today.now(s) for s in ("memory-a", "memory-b")} | {
            s: None if c == "empty" else c[0] for s, c in memory.items()
        }
        there = [p.number for p in held.values() if p is not None]
        if len(there) != 2 or len(set(there)) != 1:
            return False
    if schools.drive == "keep" and any(today.now(s) is not None for s in drives):
        return False
    if schools.drive == "replace" and drives:
        bought = any(c != "empty" for c in drives.values())
        old = [s for s in ("drive-1", "bay") if today.now(s) is not None and s not in drives]
        if bought and old:
            return False
        if not bought and not any(request.terms.empties(s) for s in drives):
            return False
    return True


class Brute:
    """All builds of a request, judged once."""

    def __init__(self, request: PlanRequest) -> None:
        self.request, self.today = request, today_of(request)
        self.shelf = [p for p in request.parts if isinstance(p, Accessory)]
        self.rank = {s.id: i for i, s in enumerate(self.today.machine.slots)}
        self.worlds = worlds(request)
        self._judged: dict[Any, Any] = {}

    def judged(self, changes: dict[str, Any], boot: str) -> tuple[Verdict, frozenset[str], int]:
        """The worst verdict of the build, what it asks, and what its accessories cost. Memory and the rest do not look
        at each other."""
        worst, asks, extra = Verdict.SEATS, frozenset[str](), 0
        for memory in (True, False):
            mine = {s: c for s, c in changes.items() if s.startswith("memory") == memory}
            key = (
                tuple(sorted((s, c if c == "empty" else c[0].number) for s, c in mine.items())),
                "" if memory else boot,
            )
            if key not in self._judged:
                self._judged[key] = self._judge(mine, boot)
            found, more, price = self._judged[key]
            worst = max(worst, found, key=lambda v: v.rank)
            asks, extra = asks | more, extra + price
        return worst, asks, extra

    def _judge(self, changes: dict[str, Any], boot: str) -> tuple[Verdict, frozenset[str], int]:
        build, extra = replace(self.today, boot_slot=boot), 0
        for slot, c in changes.items():
            build = build.with_part(slot, None if c == "empty" else c[0])
        for slot, c in changes.items():
            if c != "empty":
                verdict = judge_equipped(build, slot, c[0], self.shelf)
                by_number = {a.number: a for a in self.shelf}
                build = build.with_part(slot, c[0], tuple(by_number[a] for a in verdict.accessories))
                extra += verdict.extra_minor
        found = judge_build(build, [s.id for s in self.today.machine.slots if (s.kind == "memory") == any(x.startswith("memory") for x in changes)]) if changes else {}  # fmt: skip
        worst = max((j.verdict or Verdict.SEATS for j in found.values()), key=lambda v: v.rank, default=Verdict.SEATS)
        return worst, frozenset(a for j in found.values() if j.verdict is Verdict.MEASURE_FIRST for a in j.asks), extra

    def boots(self, changes: dict[str, Any]) -> list[str]:
        now = self.today
        new = [s for s, c in changes.items() if c != "empty" and s in ("drive-1", "bay")]
        there = now.boot_slot and (not now.looked_into(now.boot_slot) or now.now(now.boot_slot) is not None)
        stays = there and now.boot_slot not in changes
        found = [*([now.boot_slot] if stays or now.boot_slot in new else []), *new]
        if not there and not new:
            return [now.boot_slot]  # there is no system to lose
        return list(dict.fromkeys(found))

    def builds(self, grown: bool = False, waiting: bool = False) -> Iterator[Built]:
        """Every allowed build; ``waiting`` also those that wait to be measured."""
        r = self.request
        # What nobody has measured gains nothing that is known, whatever is built.
        stated = [
            exactly(n) for n in r.needs if n.weight > 0 and not (n.kind == "runtime" and r.use.average_mw is None)
        ]
        needs = [_grown(n, r.use) for n in stated] if grown else stated
        tasks = list(r.tasks)
        for choice in product(*ways(r, self.today)):
            changes = {s: c for s, c in choice if c != "keep"}
            if not allowed(r, self.today, changes):
                continue
            for boot in self.boots(changes):
                if not self.holds_the_copy(changes, boot):
                    continue
                worst, asks, extra = self.judged(changes, boot)
                most = Verdict.MEASURE_FIRST if waiting else Verdict.HELD_BACK
                if changes and worst.rank > most.rank:
                    continue
                for done in product((False, True), repeat=len(tasks)):
                    mine = [t for t, d in zip(tasks, done, strict=True) if d]
                    built = self._built(changes, boot, mine, extra, needs, stated, grown, asks if worst is Verdict.MEASURE_FIRST else frozenset())  # fmt: skip
                    if built is not None:
                        yield built

    def holds_the_copy(self, changes: dict[str, Any], boot: str) -> bool:
        """Does a new system drive hold what is copied onto it, with a tenth of room? Of a dead drive nothing is copied."""
        r, old = self.request, self.today.boot_slot
        source = r.fitted.get(old)
        if changes.get(boot, "empty") == "empty" or source is None or old in r.dead or r.terms.clean_install:
            return True
        on_it = Fraction(source.capacity_gb)
        if r.use.used_gb is not None:
            on_it = min(on_it, Fraction(str(r.use.used_gb)))
        if old not in changes and r.use.system_gb is not None:
            on_it = min(on_it, Fraction(str(r.use.system_gb)))
        return bool(changes[boot][0].capacity_gb >= on_it * Fraction(11, 10))

    def _built(self, changes: dict[str, Any], boot: str, tasks: list[Any], extra: int, needs: list[Exact], stated: list[Exact], grown: bool, asks: frozenset[str]) -> Built | None:  # fmt: skip
        r, terms = self.request, self.request.terms
        parts = {s: None if c == "empty" else c[0] for s, c in changes.items()}
        mended = frozenset(t.mends for t in tasks)
        if (changes or tasks) and not terms.allow_loss:
            for these, f in ((stated, False), (needs, grown)):
                if self._loses(parts, boot, mended, these, f):
                    return None
        gains, enough = self._gains(parts, boot, mended, needs, grown)
        opened = _opened(self.today, changes, tasks)
        seconds = opened + sum(t.seconds for t in tasks)
        labour = math.floor(Fraction(seconds * terms.rate_minor_per_hour, 3600) + Fraction(1, 2))
        paid = sum(c[1] for c in changes.values() if c != "empty") + sum(t.consumables_minor for t in tasks)
        credit = sum(terms.credits.get(s, 0) for s in changes if self.today.now(s) is not None)
        entries = sorted(
            [(self.rank[s], "" if c == "empty" else c[0].number) for s, c in changes.items()]
            + [(len(self.rank) + 1 + r.tasks.index(t), t.id) for t in tasks]
        )
        order = (
            len(entries), tuple(sorted(n for _, n in entries)), tuple(i for i, _ in entries), tuple(n for _, n in entries),
            int(boot != self.today.boot_slot),
        )  # fmt: skip
        worth = sum((n.weight_units * g for n, g in zip(needs, gains, strict=True)), Fraction(0))
        return Built(paid + extra + labour - credit, worth, order, enough, self._physical(parts, boot), asks, parts)

    def _mets(self, world: World, parts: dict[str, Any], boot: str, mended: frozenset[str], needs: list[Exact], grown: bool) -> list[tuple[Fraction, Fraction]]:  # fmt: skip
        use = self.request.use
        space = next((n for n in needs if n.kind == "drive_space"), None)
        used = Fraction(str(use.used_gb)) * (space.factor(use) if space and grown else 1)
        before = figures(self.request, world, {}, self.today.boot_slot, needs, frozenset(), used)
        after = figures(self.request, world, parts, boot, needs, mended, used)
        return [
            (met(n.kind, n.floor, n.comfort, n.ceiling, a), met(n.kind, n.floor, n.comfort, n.ceiling, b))
            for n, a, b in zip(needs, before, after, strict=True)
        ]

    def _gains(self, parts: dict[str, Any], boot: str, mended: frozenset[str], needs: list[Exact], grown: bool) -> Any:
        cases = [self._mets(w, parts, boot, mended, needs, grown) for w in self.worlds]
        gains = [min(c[i][1] - c[i][0] for c in cases) for i in range(len(needs))]
        return gains, [max(c[i][1] for c in cases) for i in range(len(needs))]

    def _loses(self, parts: dict[str, Any], boot: str, mended: frozenset[str], needs: list[Exact], grown: bool) -> bool:
        for world in self.worlds:
            families: dict[str, Fraction] = {}
            for n, (a, b) in zip(needs, self._mets(world, parts, boot, mended, needs, grown), strict=True):
                if a >= Fraction(2, 5) > b:
                    return True
                family = FAMILY.get(n.kind, n.slot)
                families[family] = families.get(family, Fraction(0)) + n.weight_units * (b - a)
            if any(f < 0 for f in families.values()):
                return True
        return False

    def _physical(self, parts: dict[str, Any], boot: str) -> tuple[float, ...]:
        """GB, MB/s, GB, Mb/s, mWh: the least over the worlds."""
        rows = []
        for w in self.worlds:
            now = {s: p for s, p in w.held.items() if s not in self.request.dead} | parts
            rows.append((
                sum(_gb(now[s]) for s in ("memory-a", "memory-b") if now.get(s) is not None), _rate(now.get(boot)),
                sum(_gb(now[s]) for s in ("drive-1", "bay") if now.get(s) is not None), _delivered(now.get("radio")), _energy(w, now, parts),
            ))  # fmt: skip
        return tuple(min(r[i] for r in rows) for i in range(5))


def _opened(today: Build, changes: dict[str, Any], tasks: list[Any]) -> int:
    """Seconds of all that comes off, once, with the exchanges."""
    machine = today.machine
    by_id = {o.id: o for o in machine.machine.obstacles}
    off: set[str] = set()

    def take(o: str) -> None:
        if o not in off:
            off.add(o)
            for before in by_id[o].after:
                take(before)

    for s in changes:
        for o in machine.slot(s).reached_by:
            take(o)
    for t in tasks:
        for o in t.reached_by:
            take(o)
    if not changes and not tasks:
        return 0
    take(machine.machine.power_off)
    seconds = 180 + 300 + sum(by_id[o].seconds for o in off) + sum(machine.slot(s).swap_seconds for s in changes)
    assert tasks or seconds == bench_seconds(machine, set(changes))
    return seconds


def pareto(builds: list[Built]) -> list[Built]:
    front: list[Built] = []
    for b in sorted(builds, key=lambda b: (b.cost, -b.worth, b.order)):
        if not front or b.worth > front[-1].worth:
            front.append(b)
    return front
