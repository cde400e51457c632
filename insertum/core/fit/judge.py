"""From rules to verdicts: one part in one slot, a whole build, and the whole matrix."""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from ..base import Frozen
from ..machine import Slot
from ..part import Accessory, Fittable
from ..verdict import AccessoryNeed, Finding, Verdict, worst
from . import battery, bay, boot, card, cellular, drive, memory, outcome, radio, whole  # noqa: F401  (registers the rules)
from .build import Build
from .memo import Bench
from .rulebook import rules_for


class Judgement(Frozen):
    """A verdict for a part in a slot, in the context of a build.

    ``verdict`` None means the part is of another kind altogether (a module and a drive slot).
    ``accessories`` were taken from the catalogue to make it go, ``extra_minor`` is their price.
    """

    slot: str
    part: str
    verdict: Verdict | None
    findings: tuple[Finding, ...] = ()
    accessories: tuple[str, ...] = ()
    extra_minor: int = 0
    short: str = ""


class Cell(NamedTuple):
    """One pair of the matrix: a :class:`Judgement` light enough to be made by the ten thousand."""

    slot: str
    part: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    accessories: tuple[str, ...]
    extra_minor: int
    short: str


def kind_fits(slot: Slot, part: Fittable) -> bool:
    """Are slot and part of kinds that could ever meet? Cards meet every M.2 socket."""
    sockets = ("m2_drive", "radio", "cellular")
    return (
        slot.kind == part.kind
        or (slot.kind == "bay" and part.kind == "bay_drive")
        or (slot.kind in sockets and part.kind in sockets)
    )


def judge(build: Build, slot_id: str, part: Fittable) -> Judgement:
    """The verdict on ``part`` put into the slot, everything else as the build has it."""
    slot = build.machine.slot(slot_id)
    if not kind_fits(slot, part):
        return Judgement(slot=slot_id, part=part.number, verdict=None)
    if build.now(slot_id) is not part:
        build = build.with_part(slot_id, part, build.accessories.get(slot_id, ()))
    findings = [*_alone(build, slot, part), *_with_the_rest(build, slot, part)]
    findings.sort(key=lambda f: -f.verdict.rank)
    return Judgement(
        slot=slot_id,
        part=part.number,
        verdict=worst(findings),
        findings=tuple(findings),
        short=next((f.short or f.says for f in findings if f.verdict is worst(findings) and (f.short or f.says)), ""),
    )


def _alone(build: Build, slot: Slot, part: Fittable) -> tuple[Finding, ...]:
    """What the rules say that do not look at the rest of the build, worked out once.

    The key names everything such a rule may look at; the value holds on to what is known by its
    identity, so that no identity is ever given again while the memo lives.
    """
    kit = build.accessories.get(slot.id, ())
    key = (
        id(build.machine), id(build.fitted), id(build.sightings), build.stance, build.firmware, slot.id, id(part),
        tuple(a.number for a in kit), build.boot_slot == slot.id,
    )  # fmt: skip
    known = build.memo.get(key)
    if known is None:
        rules = rules_for(type(slot), type(part), False)
        found = tuple(f for r in rules if not r.silent(part.number, build) for f in r.findings(slot, part, build))
        known = build.memo[key] = (found, build.machine, build.fitted, build.sightings, part)
    return known[0]  # type: ignore[return-value]


def _with_the_rest(build: Build, slot: Slot, part: Fittable) -> list[Finding]:
    return [f for r in rules_for(type(slot), type(part), True) for f in r.findings(slot, part, build)]


def judge_kept(build: Build, slot_id: str, part: Fittable) -> Judgement:
    """The verdict on a part that stays: it seats already, only the rest of the build can hurt it."""
    slot = build.machine.slot(slot_id)
    rules = (*rules_for(type(slot), type(part), False), *rules_for(type(slot), type(part), True))
    findings = [f for r in rules if r.context for f in r.findings(slot, part, build)]
    return Judgement(slot=slot_id, part=part.number, verdict=worst(findings), findings=tuple(findings))


def judge_equipped(build: Build, slot_id: str, part: Fittable, shelf: Sequence[Accessory]) -> Judgement:
    """As :func:`judge`, together with the cheapest accessories from ``shelf`` that it needs."""
    alone = judge(build, slot_id, part)
    needs = [f.needs for f in alone.findings if f.needs]
    if not needs:
        return alone
    bought = [a for need in needs if (a := cheapest(need, shelf, build.machine.machine.id))]
    if not bought:
        return alone
    kit = tuple({a.number: a for a in bought}.values())
    dressed = judge(build.with_part(slot_id, part, kit), slot_id, part)
    assert dressed.verdict is not None and alone.verdict is not None
    if dressed.verdict.rank >= alone.verdict.rank:
        return alone  # nothing to sell where it does not help
    return dressed.model_copy(
        update={"accessories": tuple(a.number for a in kit), "extra_minor": sum(a.price_minor or 0 for a in kit)}
    )


def cheapest(need: AccessoryNeed, shelf: Iterable[Accessory], family: str) -> Accessory | None:
    """The cheapest offered accessory that meets a need in this machine; None when there is none."""
    fitting = [
        a
        for a in shelf
        if a.supplies == need.supplies
        and (not a.families or family in a.families)
        and (need.from_mm is None or a.from_mm is None or a.from_mm == need.from_mm)
        and (not need.to_mm or a.to_mm is None or a.to_mm in need.to_mm)
        and (need.thickness_um is None or a.thickness_um == need.thickness_um)
        and a.price_minor is not None
    ]
    return min(fitting, key=lambda a: (a.price_minor or 0, a.number), default=None)


def judge_build(build: Build, slot_ids: Sequence[str] = ()) -> dict[str, Judgement]:
    """A verdict for every occupied slot of the build (or of those named). Its worst is the build's
    verdict."""
    changed = set(build.changed())
    judged: dict[str, Judgement] = {}
    for slot in build.machine.slots:
        if slot_ids and slot.id not in slot_ids:
            continue
        part = build.now(slot.id)
        if part is not None:
            judged[slot.id] = (judge if slot.id in changed else judge_kept)(build, slot.id, part)
    return judged


def build_verdict(build: Build) -> Verdict:
    """Never better than the worst slot."""
    return max(
        (j.verdict or Verdict.SEATS for j in judge_build(build).values()), key=lambda v: v.rank, default=Verdict.SEATS
    )


class Worth(Frozen):
    """What settling one unknown would open: how many parts, and their price range."""

    attribute: str
    how: str
    parts: int
    from_minor: int | None = None
    to_minor: int | None = None


def matrix(
    build: Build, parts: Sequence[Fittable], shelf: Sequence[Accessory], slot_ids: Sequence[str] = ()
) -> list[Cell]:
    """Every part against every slot it could ever meet, in the context of the build as it stands, as
    :func:`judge_equipped` would judge it, with the accessories the build holds already."""
    wanted = [s for s in build.machine.slots if not slot_ids or s.id in slot_ids]
    bench, family = Bench(build), build.machine.machine.id
    kits: dict[tuple[AccessoryNeed, ...], tuple[Accessory, ...]] = {}
    meets: dict[str, list[Slot]] = {}
    cells: list[Cell] = []
    for part in parts:
        if part.kind not in meets:
            meets[part.kind] = [s for s in wanted if kind_fits(s, part)]
        for slot in meets[part.kind]:
            held = build.accessories.get(slot.id, ())
            verdict, findings, short = bench.judged(slot, part, held)
            bought: tuple[Accessory, ...] = ()
            if verdict is not Verdict.SEATS and (needs := tuple([f.needs for f in findings if f.needs])):
                if needs not in kits:
                    found = [a for need in needs if (a := cheapest(need, shelf, family))]
                    kits[needs] = tuple({a.number: a for a in found}.values())
                if kits[needs]:
                    dressed = bench.judged(slot, part, kits[needs])
                    if dressed[0].rank < verdict.rank:  # nothing to sell where it does not help
                        verdict, findings, short = dressed
                        bought = kits[needs]
            numbers: tuple[str, ...] = ()
            extra = 0
            if bought:
                numbers, extra = tuple(a.number for a in bought), sum(a.price_minor or 0 for a in bought)
            cells.append(Cell(slot.id, part.number, verdict, findings, numbers, extra, short))
    return cells


def worth_of_measuring(judgements: Iterable[Cell], parts: Sequence[Fittable]) -> list[Worth]:
    """For each unknown machine attribute: the parts that nothing else stands against."""
    price = {p.number: p.price_minor for p in parts}
    opened: dict[str, tuple[str, set[str]]] = {}
    for j in judgements:
        if j.verdict is not Verdict.MEASURE_FIRST:
            continue
        blocking = [f for f in j.findings if not f.verdict.usable]
        attributes = {f.attribute for f in blocking}
        if len(attributes) == 1 and not blocking[0].attribute.startswith("part."):
            opened.setdefault(blocking[0].attribute, (blocking[0].how, set()))[1].add(j.part)
    return [
        Worth(
            attribute=attribute,
            how=how,
            parts=len(numbers),
            from_minor=min((p for n in numbers if (p := price.get(n)) is not None), default=None),
            to_minor=max((p for n in numbers if (p := price.get(n)) is not None), default=None),
        )
        for attribute, (how, numbers) in sorted(opened.items(), key=lambda o: -len(o[1][1]))
    ]
