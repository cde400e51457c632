"""From rules to verdicts: one part in one slot, a whole build, and the whole matrix."""

from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import NamedTuple

from ..frozen import Frozen
from ..known.known import Explained
from ..known.limits import CAPS
from ..machine.attribute import lowered
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CardSocket
from ..machine.drive_parts import BayDrive
from ..machine.memory_system import MemorySlot
from ..machine.part import CARDS, Accessory, Fittable, MemoryModule, Pack
from ..machine.shape import Slot
from ..verdict import AccessoryNeed, Finding, Verdict, worst
from . import battery, bay, boot, card, cellular, drive, memory, outcome, radio  # noqa: F401  (registers the rules)
from .build import Build
from .engine import AS_USUAL, Asker, Joint, join, on_the_owners_word
from .findings import findings_of
from .leaf import Leaf
from .matrix_cache import Bench
from .questions import NO_PLACE, place_of, words_of
from .required_accessories import cheapest
from .rulebook import Rule, rule, rules_for


@rule(
    "job.as_usual",
    "What the owner takes as usual is unproven: the old part is kept, with the right to return the new one.",
    "rules.md section 2: returnable attributes, on the owner's word for this job",
    (MemorySlot, CardSocket, BaySlot, BatterySlot),
    (MemoryModule, *CARDS, BayDrive, Pack),
    apart=True,
)
def as_usual(slot: object, part: object, build: object) -> tuple[()]:
    """Said by :func:`judged`, which compares the verdict with and without the assumption."""
    return ()


class Judgement(Frozen):
    """A verdict for a part in a slot, in the context of a build.

    ``verdict`` None means the part is of another kind altogether (a module and a drive slot).
    ``accessories`` were taken from the catalogue to make it go, ``extra_minor`` is their price. ``rests_on`` are the
    places its rules looked at: all of them where it is usable, those that object where it is not.
    """

    slot: str
    part: str
    verdict: Verdict | None
    findings: tuple[Finding, ...] = ()
    accessories: tuple[str, ...] = ()
    extra_minor: int = 0
    short: str = ""
    asks: tuple[str, ...] = ()
    rests_on: tuple[str, ...] = ()


class Cell(NamedTuple):
    """One pair of the matrix: a :class:`Judgement` light enough to be made by the ten thousand. ``asks`` are the
    places to look at where it is *measure first*."""

    slot: str
    part: str
    verdict: Verdict
    short: str
    asks: tuple[str, ...]
    accessories: tuple[str, ...]
    extra_minor: int


def kind_fits(slot: Slot, part: Fittable) -> bool:
    """Are slot and part of kinds that could ever meet?"""
    return slot.kind in part.could_meet


def _rules(slot: Slot, part: Fittable) -> tuple[Rule, ...]:
    rules = (*rules_for(type(slot), type(part), False), *rules_for(type(slot), type(part), True))
    # A pair that could meet and that no rule judges is an error, never seats (rules.md section 1).
    assert rules, f"no rule speaks of a {part.kind} in a {slot.kind} slot"
    return rules


def _leaves(build: Build, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> tuple[Leaf, ...]:
    """What each rule says. Rules that do not look at the rest of the build are asked once for a part and a kit; the
    key names everything such a rule may look at, and the value holds on to what is known by its identity."""
    rules = _rules(slot, part)
    asker = Asker(build, slot, kit)
    key = (
        id(build.known), id(build.sightings), slot.id, id(part), tuple(a.number for a in kit), build.boot_slot == slot.id,
    )  # fmt: skip
    known = build.memo.get(key)
    if known is None:
        alone = tuple(asker.ask(r, part) for r in rules if not r.whole and not r.silent(part.number, build))
        known = build.memo[key] = (alone, build.known, build.sightings, part)
    rest = tuple(asker.ask(r, part) for r in rules if r.whole)
    return (*known[0], *rest)  # type: ignore[misc]


class Asked(NamedTuple):
    """What the rules say of a part, one by one, without what is taken as usual where that was asked too, and together."""

    leaves: tuple[Leaf, ...]
    plain: Joint
    joint: Joint


def _asked(build: Build, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> Asked:
    """Everything asked once: with and without what is taken as usual, where the owner allows it."""
    leaves = _leaves(build, slot, part, kit)
    found = join(leaves, build.known, part)
    if not build.known.as_usual:
        return Asked(leaves, found, found)
    unassuming = build.taken_as_usual(False)
    plain = join(_leaves(unassuming, slot, part, kit), unassuming.known, part)
    return Asked(leaves, plain, on_the_owners_word(found, plain))


def verdict_of(build: Build, slot: Slot, part: Fittable, kit: tuple[Accessory, ...] = ()) -> Joint:
    """The verdict alone, without its words."""
    return _asked(build, slot, part, kit).joint


def judge(build: Build, slot_id: str, part: Fittable) -> Judgement:
    """The verdict on ``part`` put into the slot, everything else as the build has it."""
    return judged(build, slot_id, part, build.kit_of(slot_id, part))


def judged(build: Build, slot_id: str, part: Fittable, kit: tuple[Accessory, ...]) -> Judgement:
    """The same with a kit of accessories beside it."""
    slot = build.machine.slot(slot_id)
    if not kind_fits(slot, part):
        return Judgement(slot=slot_id, part=part.number, verdict=None)
    return _worded(build, slot, part, kit, _asked(build, slot, part, kit))


def _worded(build: Build, slot: Slot, part: Fittable, kit: tuple[Accessory, ...], asked: Asked) -> Judgement:
    """What was found, with its words."""
    leaves, plain, joint = asked
    asker = Asker(build, slot, kit)
    entering = not any(leaf.out for leaf in leaves)
    findings: list[Finding] = []
    looked_at: dict[str, None] = {}
    for leaf in leaves:
        said = findings_of(leaf, asker, part, entering)
        findings += said
        if said or joint.verdict.usable:
            looked_at.update(dict.fromkeys(leaf.looked_at))
    if build.known.as_usual and joint.short == AS_USUAL:
        findings.append(_assumed(build, part, plain))
    if joint.verdict.rank > worst(findings).rank:  # only together they leave no possibility
        findings.append(
            Finding(
                rule=leaves[0].rule.id,
                verdict=joint.verdict,
                says="No possibility is usable to all of this together.",
                short=joint.short,
            )
        )
    findings.sort(key=lambda f: (-f.verdict.rank,))
    return Judgement(
        slot=slot.id, part=part.number, verdict=joint.verdict, findings=tuple(findings), short=joint.short,
        asks=tuple(place_of(a) for a in joint.asks),
        accessories=tuple(a.number for a in kit), extra_minor=sum(a.price_minor or 0 for a in kit),
        rests_on=tuple(looked_at),
    )  # fmt: skip


def _assumed(build: Build, part: Fittable, plain: Joint) -> Finding:
    """What the owner takes as usual, named by what was asked without it."""
    known = build.taken_as_usual(False).known
    names = ", ".join(dict.fromkeys(lowered(words_of(known, part, a)[0]) for a in plain.asks))
    return Finding(
        rule="job.as_usual", verdict=Verdict.HELD_BACK, short=AS_USUAL,
        says=f"Taken as usual on the owner's word: {names or 'what is not known'}. Unproven.",
        remedy="Keep the old part and the right to return this one.",
    )  # fmt: skip


def because(build: Build, found: Judgement) -> tuple[Explained, ...]:
    """Everything the judgement rests on of the machine, from claims and deductions to what counts: *why*."""
    explained = []
    for place in found.rests_on:
        where, _, name = place.partition(".")
        if where in (*build.known.slots, "memory", "boot") and _is_attribute(build, where, name):
            explained.append(build.known.explain(where, name))
    return tuple(explained)


def _is_attribute(build: Build, place: str, name: str) -> bool:
    return name in CAPS or name.startswith("speed_by_modules") or name in build.known.attributes(place)


def judge_equipped(build: Build, slot_id: str, part: Fittable, shelf: Sequence[Accessory]) -> Judgement:
    """As :func:`judge`, together with the cheapest accessories from ``shelf`` that it needs, or those the build has
    for it."""
    slot = build.machine.slot(slot_id)
    if not kind_fits(slot, part):
        return Judgement(slot=slot_id, part=part.number, verdict=None)
    bare = _asked(build, slot, part, ())
    kit = _kit(build, slot, part, shelf, bare) or build.kit_of(slot_id, part)
    return _worded(build, slot, part, kit, _asked(build, slot, part, kit) if kit else bare)


def kit_for(build: Build, slot: Slot, part: Fittable, shelf: Sequence[Accessory]) -> tuple[Accessory, ...]:
    """The kit that makes the part's verdict best, none where nothing on the shelf helps: one kit serves all
    possibilities, and nothing is in it that makes no difference."""
    return _kit(build, slot, part, shelf, _asked(build, slot, part, ()))


def _kit(build: Build, slot: Slot, part: Fittable, shelf: Sequence[Accessory], bare: Asked) -> tuple[Accessory, ...]:
    needs = needs_of(bare.leaves)
    if bare.joint.verdict is Verdict.SEATS or not needs:
        return ()
    bought = tuple({a.number: a for n in needs if (a := cheapest(n, shelf, build.machine.machine.id))}.values())
    if not bought:
        return ()
    dressed = verdict_of(build, slot, part, bought)
    if dressed.verdict.rank >= bare.joint.verdict.rank:
        return ()  # nothing to sell where it does not help
    for spare in sorted(bought, key=lambda a: (-(a.price_minor or 0), a.number)):
        fewer = tuple(a for a in bought if a is not spare)
        if verdict_of(build, slot, part, fewer).verdict.rank <= dressed.verdict.rank:
            bought = fewer
    return bought


def needs_of(leaves: Iterable[Leaf]) -> tuple[AccessoryNeed, ...]:
    """What the part needs beside itself in any possibility."""
    return tuple(dict.fromkeys(n for leaf in leaves for n in leaf.wants))


def judge_kept(build: Build, slot_id: str, part: Fittable) -> Judgement:
    """The verdict on a part that stays: it works already; what the build changes of its role is judged."""
    slot = build.machine.slot(slot_id)
    asker = Asker(build, slot, ())
    before = Asker(_as_today(build), slot, ())
    findings: list[Finding] = []
    leaves = []
    for r in _rules(slot, part):
        if not r.role:
            continue
        leaf = asker.ask(r, part)
        # What was so before is not what this build does.
        if r.id != "pack.swollen" and leaf.worst <= before.ask(r, part).worst:
            continue
        leaves.append(leaf)
        findings += findings_of(leaf, asker, part)
    joint = join(leaves, build.known, part) if leaves else Joint(Verdict.SEATS, "", ())
    findings = [f for f in findings if f.verdict is not Verdict.SEATS]
    return Judgement(
        slot=slot_id, part=part.number, verdict=joint.verdict, findings=tuple(findings), short=joint.short,
        asks=tuple(place_of(a) for a in joint.asks),
    )  # fmt: skip


def _as_today(build: Build) -> Build:
    key = ("today", id(build.known))
    if key not in build.memo:
        today = Build(build.known, boot_slot=build.boots_today, sightings=build.sightings)
        build.memo[key] = (today,)
    today = build.memo[key][0]  # type: ignore[assignment]
    assert isinstance(today, Build)
    return today


def judge_build(build: Build, slot_ids: Sequence[str] = ()) -> dict[str, Judgement]:
    """A verdict for every occupied slot of the build (or of those named). Its worst is the build's
    verdict."""
    changed = set(build.changed())
    found: dict[str, Judgement] = {}
    for slot in build.machine.slots:
        if slot_ids and slot.id not in slot_ids:
            continue
        part = build.now(slot.id)
        if part is not None:
            found[slot.id] = (judge if slot.id in changed else judge_kept)(build, slot.id, part)
    return found


def build_verdict(build: Build) -> Verdict:
    """Never better than the worst slot."""
    return max(
        (j.verdict or Verdict.SEATS for j in judge_build(build).values()), key=lambda v: v.rank, default=Verdict.SEATS
    )


class Worth(Frozen):
    """What settling one unknown would open: ``parts`` it decides alone, ``among`` those that wait for more beside it, and
    the price range of the first, or of the second where there are none. ``tool`` is what one looks with."""

    attribute: str
    label: str
    how: str
    minutes: int
    parts: int
    tool: str = ""
    among: int = 0
    from_minor: int | None = None
    to_minor: int | None = None


def _tool_for(build: Build, place: str, name: str) -> str:
    known = place in (*build.known.slots, "memory", "boot") and _is_attribute(build, place, name)
    return build.known.words(place, name).tool if known else ""


def matrix(
    build: Build, parts: Sequence[Fittable], shelf: Sequence[Accessory], slot_ids: Sequence[str] = ()
) -> list[Cell]:
    """Every part against every slot it could ever meet, in the context of the build as it stands, as
    :func:`judge_equipped` would judge it."""
    wanted = [s for s in build.machine.slots if not slot_ids or s.id in slot_ids]
    bench = Bench(build, shelf)
    meets: dict[str, list[Slot]] = {}
    cells: list[Cell] = []
    for part in parts:
        here = meets.get(part.kind)
        if here is None:
            here = meets[part.kind] = [s for s in wanted if kind_fits(s, part)]
        for slot in here:
            (verdict, short, asks), numbers, extra = bench.judged(slot, part)  # as cell_of, ten thousand times
            cells.append(Cell(slot.id, part.number, verdict, short, asks, numbers, extra))
    return cells


def cell_of(bench: Bench, slot: Slot, part: Fittable) -> Cell:
    """One pair of the matrix that a bench is ready for."""
    (verdict, short, asks), numbers, extra = bench.judged(slot, part)
    return Cell(slot.id, part.number, verdict, short, asks, numbers, extra)


def worth_of_measuring(build: Build, cells: Sequence[Cell], parts: Sequence[Fittable]) -> list[Worth]:
    """What each unknown of the machine would open, most first: a part that waits for three things counts a third for
    each of them. Empty only where no part waits for anything of the machine."""
    by_number = {p.number: p for p in parts}
    #: By unknown and part: in the slot where it waits for the fewest things, for how many.
    waits: dict[str, dict[str, int]] = {}
    for c in cells:
        for place in c.asks:
            if not place.startswith("part."):
                of = waits.setdefault(place, {})
                of[c.part] = min(of.get(c.part, len(c.asks)), len(c.asks))
    found = []
    for place, of in waits.items():
        slot, _, name = place.partition(".")
        label, how, minutes = words_of(build.known, by_number[next(iter(of))], (slot, name))
        alone = [n for n, things in of.items() if things == 1]
        prices = [p for n in alone or of if (p := by_number[n].price_minor) is not None]
        where = "" if slot in NO_PLACE else f"{build.known.place_name(slot)}: "
        worth = Worth(
            attribute=place, label=f"{where}{lowered(label)}" if where else label, how=how, minutes=minutes, tool=_tool_for(build, slot, name),
            parts=len(alone), among=len(of) - len(alone), from_minor=min(prices, default=None), to_minor=max(prices, default=None),
        )  # fmt: skip
        found.append((-sum(Fraction(1, things) for things in of.values()), place, worth))
    return [worth for _, _, worth in sorted(found, key=lambda f: f[:2])]
