"""From a machine and a catalogue to groups of options: where laptops meet the frontier.

Slots that bear on each other (memory sockets; drives; what shares lanes or room) form one group
and are judged jointly. Within a group every allowed combination becomes one option; before that a
candidate is dropped only where another of the same context key serves at least as well for no
more, and would not lose a tie.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import NamedTuple

from ..bench.access import access_seconds
from ..fit.build import Build
from ..fit.engine import place_of
from ..fit.judge import AS_USUAL, judge_kept, kind_fits, kit_for, verdict_of
from ..fit.measured import rate_mb_s
from ..kinds.all import KINDS
from ..machine.part import Accessory, BayDrive, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..machine.shape import BaySlot, DriveSlot, MemorySlot, Slot
from ..verdict import Verdict
from .frontier import Option, Tariff
from .measure import SLOT_KINDS, measure, physical
from .need import Need, NeedKind
from .request import Terms, Use


@dataclass(frozen=True)
class Candidate:
    """A part for a slot with the accessories it takes, the total price, and what it waits for.

    ``key`` is what the verdicts of other parts may depend on; of candidates with one key, more of
    every merit is never worse (:func:`_context_key`)."""

    part: Fittable
    accessories: tuple[Accessory, ...]
    money: int
    waits: frozenset[str] = frozenset()
    key: tuple[object, ...] = ()
    merits: tuple[float, ...] = ()


class Light(NamedTuple):
    """A verdict without its words: ``asks`` are the places it waits for."""

    verdict: Verdict
    short: str
    asks: tuple[str, ...]


@dataclass(frozen=True)
class Choice:
    """One option's meaning: the group's part of the build, its judgements, and its measures by need."""

    changes: dict[str, Candidate | None]
    boot_slot: str | None
    judged: dict[str, Light]
    measures: dict[str, float]
    met: dict[str, int]
    physical: dict[NeedKind, float]
    waits: frozenset[str]

    @property
    def worst(self) -> Verdict:
        return max((j.verdict for j in self.judged.values()), key=lambda v: v.rank, default=Verdict.SEATS)


@dataclass(frozen=True)
class Group:
    """Slots that are decided together. ``today`` is doing nothing; filters on ``choices`` keep it."""

    slots: tuple[Slot, ...]
    needs: tuple[Need, ...]
    today: Choice
    choices: tuple[Choice, ...]


@dataclass(frozen=True)
class Shop:
    """What can be bought, split once."""

    parts: tuple[Fittable, ...]
    accessories: tuple[Accessory, ...]


def tariff(build: Build, terms: Terms) -> Tariff:
    seen: dict[frozenset[str], int] = {}

    def access(touch: frozenset[str]) -> int:
        if touch not in seen:
            seen[touch] = access_seconds(build.machine, touch)
        return seen[touch]

    return Tariff(access, terms.rate_minor_per_hour)


def grouped_slots(build: Build) -> list[tuple[Slot, ...]]:
    """Slots that bear on each other, in machine order."""
    family = {s.id: s.id for s in build.machine.slots}

    def root(slot: str) -> str:
        while family[slot] != slot:
            slot = family[slot]
        return slot

    def join(a: str, b: str) -> None:
        family[root(a)] = root(b)

    for kinds in ((MemorySlot,), (DriveSlot, BaySlot)):
        alike = [s.id for s in build.machine.slots if isinstance(s, kinds)]
        for other in alike[1:]:
            join(other, alike[0])
    for e in build.machine.machine.exclusions:
        join(e.when, e.on)
    heads = dict.fromkeys(root(s.id) for s in build.machine.slots)
    return [tuple(s for s in build.machine.slots if root(s.id) == head) for head in heads]


def groups(build: Build, shop: Shop, needs: Sequence[Need], use: Use, terms: Terms) -> list[Group]:
    """All groups with their allowed joint choices. ``needs`` with weight 0 are not stated."""
    stated = [n for n in needs if n.weight_units > 0]
    result = []
    for slots in grouped_slots(build):
        own = tuple(n for n in stated if _depends(n, slots))
        choices = tuple(_choices(build, shop, slots, own, use, terms))
        result.append(Group(slots, own, next(c for c in choices if not c.changes), choices))
    return result


def _depends(need: Need, slots: Sequence[Slot]) -> bool:
    if need.kind is NeedKind.FAULT:
        return need.slot in {s.id for s in slots}
    return depends_on(need.kind, slots)


def depends_on(kind: NeedKind, slots: Sequence[Slot]) -> bool:
    """Is this measure decided by these slots?"""
    return any(isinstance(s, SLOT_KINDS.get(kind, (MemorySlot,))) for s in slots)


def candidates(build: Build, shop: Shop, slot: Slot, group: Sequence[Slot], judge_all: bool = False) -> list[Candidate]:
    """Parts that could be usable in the slot in some build of the group, useless ones dropped.

    Judged in the kindest context, every other slot of the group empty: other parts never improve a
    verdict, so what is refused there is refused everywhere. ``judge_all`` keeps what is dominated.
    """
    kindest = replace(build, changes={**build.changes, **{s.id: None for s in group if s.id != slot.id}}, boot_slot="")
    found: list[Candidate] = []
    for part in shop.parts:
        if part.price_minor is None or slot.kind not in KINDS[part.kind].slots:
            continue
        kit = kit_for(kindest, slot, part, shop.accessories)
        verdict = verdict_of(kindest, slot, part, kit)
        if verdict.verdict.rank > Verdict.MEASURE_FIRST.rank:
            continue
        waits = frozenset(place_of(a) for a in verdict.asks)
        if not judge_all and (len(waits) > 1 or any(w.startswith("part.") for w in waits)):
            continue  # a plan rests on no unknown, or waits for one measurement of the machine
        key, merits = _context_key(build, slot, part, kit)
        extra = sum(a.price_minor or 0 for a in kit)
        found.append(Candidate(part, kit, part.price_minor + extra, waits, key, merits))
    if judge_all:
        return found
    return [c for c in found if not any(_serves(o, c) for o in found if o is not c)]


def _serves(a: Candidate, b: Candidate) -> bool:
    """Does a make b useless: no dearer, no worse, and never losing a tie?"""
    return (
        (a.key, a.waits) == (b.key, b.waits)
        and a.money <= b.money
        and all(x >= y for x, y in zip(a.merits, b.merits, strict=True))
        and (a.money < b.money or a.part.number < b.part.number)
    )


def _context_key(
    build: Build, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]
) -> tuple[tuple[object, ...], tuple[float, ...]]:
    """What the verdicts of *other* parts may depend on, and the merits where more is never worse."""
    match part:
        case MemoryModule():
            # The total ceiling makes more capacity able to be worse, so it is part of the key.
            # Beyond the fastest rate of any population a faster grade does nothing.
            return (part.capacity_gb, part.generation), (min(_rated(part, build), fastest(build)),)
        case M2Drive() | BayDrive() if isinstance(slot, DriveSlot | BaySlot):
            booting = verdict_of(replace(build, boot_slot=slot.id), slot, part, kit)
            data = verdict_of(replace(build, boot_slot=""), slot, part, kit)
            boots = (booting.verdict, booting.asks, data.verdict)
            interface = part.interface if isinstance(part, M2Drive) else "bay"
            rate = rate_mb_s(build.with_part(slot.id, part), slot.id) or 0
            # What shared lanes leave a drive depends on its own link, so that is part of the key.
            own = (
                (part.generation, part.lanes, part.read_mb_s)
                if _shares_lanes(build, slot.id) and isinstance(part, M2Drive)
                else ()
            )
            return (interface, boots, own), (part.capacity_gb, rate)
        case Pack():
            return (part.fills_bay,), (part.design_mwh if part.full_mwh is None else part.full_mwh,)
        case Radio() if part.side:
            side = part.side
            # Two cards compare only where one does everything the other does.
            return (side.bands,), (("n", "ac", "ax", "be").index(side.standard), side.streams, side.width_mhz)
        case _:
            return (part.number,), ()


def fastest(build: Build) -> float:
    """The fastest rate this machine runs with any number of modules; unbounded while one is unknown."""
    caps = [build.known.limit("memory", f"speed_by_modules.{n}").value for n in range(1, len(build.memory_slots) + 1)]
    return max((c if c is not None else math.inf for c in caps), default=math.inf)


def _rated(module: MemoryModule, build: Build) -> int:
    applies = build.known.value("memory", "applies_profiles")
    return module.profile_mts if module.profile_mts and applies is not False else module.grade_mts


def _shares_lanes(build: Build, slot_id: str) -> bool:
    return any(e.on == slot_id for e in build.machine.machine.exclusions)


def joint_changes(
    build: Build, per_slot: dict[str, list[Candidate]], slots: Sequence[Slot], terms: Terms
) -> Iterator[dict[str, Candidate | None]]:
    """Every way to keep, replace or (where allowed) empty the group's slots."""
    ways: list[list[tuple[str, Candidate | None] | None]] = []
    for s in slots:
        here: list[tuple[str, Candidate | None] | None] = [None, *((s.id, c) for c in per_slot[s.id])]
        if terms.allow_emptying and build.now(s.id) is not None:
            here.append((s.id, None))
        ways.append(here)
    for combination in product(*ways):
        changes = dict(c for c in combination if c is not None)
        # Two unknowns in one plan: neither settled, nor waiting for a single measurement.
        if len({w for c in changes.values() if c for w in c.waits}) <= 1:
            yield changes


def applied(build: Build, changes: dict[str, Candidate | None], boot_slot: str) -> Build:
    """The build with a group's changes made."""
    return replace(
        build,
        changes={**build.changes, **{s: c.part if c else None for s, c in changes.items()}},
        accessories={**build.accessories, **{s: c.accessories if c else () for s, c in changes.items()}},
        boot_slot=boot_slot,
    )


def boot_slots(build: Build, changes: dict[str, Candidate | None]) -> list[str]:
    """Where the system may start from: today's slot while it holds a drive, or any new drive."""
    new = [s for s, c in changes.items() if c and isinstance(c.part, M2Drive | BayDrive)]
    today = build.boot_slot
    stays = today and (today in new or (today not in changes and build.now(today) is not None))
    return list(dict.fromkeys([*([today] if stays else []), *new])) or [""]


def _choices(
    build: Build, shop: Shop, slots: Sequence[Slot], needs: Sequence[Need], use: Use, terms: Terms
) -> Iterator[Choice]:
    per_slot = {s.id: candidates(build, shop, s, slots) for s in slots}
    today = {n.id: n.met(measure(n, build, use)) for n in needs}
    for changes, boot in _worthwhile(build, joint_changes(build, per_slot, slots, terms), slots):
        choice = choice_of(build, slots, needs, use, terms, changes, boot)
        # Doing nothing is always allowed, whatever the rules say of what is there.
        if changes and choice.worst.rank > Verdict.MEASURE_FIRST.rank:
            continue
        if not terms.allow_loss and any(choice.met[n] < today[n] for n in choice.met):
            continue
        yield choice


Changes = dict[str, Candidate | None]


def _worthwhile(build: Build, joint: Iterator[Changes], slots: Sequence[Slot]) -> Iterator[tuple[Changes, str]]:
    """Joint changes with their boot slot, less those another one of the same kind makes useless.

    Of one kind are joint changes that touch the same slots, start from the same slot and hold parts
    of the same context key in each: they are allowed or not together, wait for the same things and
    take the same time. Among them what a plan measures depends on the total storage, the system
    drive's rate, the slowest new module and the merits of pack and radio alone, and more is never
    worse; so one that costs no more, has no less of any and loses no tie by its names is enough.
    """
    holds_drives = any(isinstance(s, DriveSlot | BaySlot) for s in slots)
    kinds: dict[tuple[object, ...], list[tuple[int, tuple[float, ...], tuple[str, ...], Changes, str]]] = {}
    for changes in joint:
        held = [(s, c) for s, c in changes.items() if c]
        money = sum(c.money for _, c in held)
        names = tuple(sorted(c.part.number if c else "" for c in changes.values()))
        drives = [c for _, c in held if isinstance(c.part, M2Drive | BayDrive)]
        rates = [c.merits[0] for _, c in held if isinstance(c.part, MemoryModule)]
        others = [m for _, c in held if isinstance(c.part, Pack | Radio) for m in c.merits]
        merits = (sum(c.merits[0] for c in drives), min(rates, default=0.0), *others)
        kind = (frozenset(changes), tuple((s, c.key, c.waits) if c else (s,) for s, c in changes.items()))
        for boot in boot_slots(build, changes) if holds_drives else [build.boot_slot]:
            system = changes.get(boot)
            rate = system.merits[1] if system else 0.0
            kinds.setdefault((*kind, boot), []).append((money, (*merits, rate), names, changes, boot))
    for alike in kinds.values():
        alike.sort(key=lambda a: (a[0], a[2]))
        kept: list[tuple[int, tuple[float, ...], tuple[str, ...], Changes, str]] = []
        for a in alike:
            if not any(
                (k[0] < a[0] or k[2] <= a[2]) and all(x >= y for x, y in zip(k[1], a[1], strict=True)) for k in kept
            ):
                kept.append(a)
        for _, _, _, changes, boot in kept:
            yield changes, boot


def choice_of(
    build: Build,
    slots: Sequence[Slot],
    needs: Sequence[Need],
    use: Use,
    terms: Terms,
    changes: dict[str, Candidate | None],
    boot_slot: str,
) -> Choice:
    """One joint choice, judged and measured, whether it is allowed or not."""
    after = applied(build, changes, boot_slot)
    judged = judged_lightly(after, slots)
    measures = {n.id: measure(n, after, use) for n in needs}
    waits = [a for j in judged.values() for a in j.asks]
    return Choice(
        changes=changes,
        boot_slot=boot_slot if any(isinstance(s, DriveSlot | BaySlot) for s in slots) else None,
        judged=judged,
        measures=measures,
        met={n.id: n.met(measures[n.id]) for n in needs},
        physical={k: physical(k, after) for k in terms.fill_order if depends_on(k, slots)},
        waits=frozenset(waits if changes else ()),
    )


def judged_lightly(build: Build, slots: Sequence[Slot]) -> dict[str, Light]:
    """A verdict for every occupied slot of a group, without its words."""
    changed = set(build.changed())
    found: dict[str, Light] = {}
    for slot in slots:
        part = build.now(slot.id)
        if part is None:
            continue
        if slot.id in changed:
            if not kind_fits(slot, part):
                continue
            joint = verdict_of(build, slot, part, build.accessories.get(slot.id, ()))
            found[slot.id] = Light(joint.verdict, joint.short, tuple(place_of(a) for a in joint.asks))
        else:
            kept = judge_kept(build, slot.id, part)
            found[slot.id] = Light(kept.verdict or Verdict.SEATS, kept.short, kept.asks)
    return found


def credit_for(choice: Choice, build: Build, terms: Terms, slot_id: str) -> int:
    """Credit for what comes out of a slot; none while its successor is only taken as usual."""
    judged = choice.judged.get(slot_id)
    if build.now(slot_id) is None or (judged and judged.short == AS_USUAL):
        return 0
    return terms.credits.get(slot_id, 0)


def as_option(choice: Choice, build: Build, terms: Terms, worth: int) -> Option:
    """A choice as the frontier sees it."""
    slots = frozenset(choice.changes)
    return Option(
        touch=slots,
        money=sum(c.money for c in choice.changes.values() if c)
        - sum(credit_for(choice, build, terms, s) for s in slots),
        seconds=sum(build.machine.slot(s).swap_seconds for s in slots),
        names=tuple(sorted(c.part.number if c else "" for c in choice.changes.values())),
        worth=worth,
        choice=(choice,),
    )
