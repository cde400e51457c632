"""What could go in a slot: every part judged once, and of those only what nothing beats where it can matter."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from operator import ge
from typing import Any, NamedTuple

from ..fit.build import Build
from ..fit.matrix_cache import Bench
from ..fit.questions import words_of
from ..kinds.all import KINDS
from ..machine.attribute import attributes_of
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.part import Accessory, Fittable, MemoryModule
from ..machine.shape import Slot
from ..verdict import Verdict
from .measure import TRIAL
from .request import PlanRequest, Schools, ShelfOffer
from .result import ToSettle

#: What the owner may take as usual, as a question that costs no looking.
AS_USUAL = "job.as_usual"


@dataclass(frozen=True, eq=False)
class Candidate:
    """A part for a slot with the accessories it takes, at what price both come, and how often it is there (None: as
    often as one likes). ``waits`` are the questions it rests on; ``unproven`` says it is taken as usual."""

    part: Fittable
    accessories: tuple[Accessory, ...]
    price_minor: int
    money: int
    waits: frozenset[str] = frozenset()
    stock: int | None = None
    shelf: bool = False
    unproven: bool = False

    @cached_property
    def name(self) -> str:
        return self.part.number

    @cached_property
    def gb(self) -> int:
        """What it holds; 0 for what holds nothing."""
        return getattr(self.part, "capacity_gb", 0)


class Offered(NamedTuple):
    """A price, how many there are at it (None: as many as one likes), and whether they lie on the shelf."""

    price_minor: int
    stock: int | None
    shelf: bool


class Market:
    """What can be had, split once: parts in stock at suppliers, the workshop's own shelf, and accessories."""

    def __init__(self, request: PlanRequest) -> None:
        self.accessories = tuple(p for p in request.parts if isinstance(p, Accessory))
        self.by_accessory = {a.number: a for a in self.accessories}
        self.parts = tuple(p for p in request.parts if not isinstance(p, Accessory))
        self.by_number: dict[str, Fittable] = {p.number: p for p in self.parts}
        self.shelf: Mapping[str, ShelfOffer] = {s.number: s for s in request.shelf if s.number in self.by_number}
        self.schools: Schools = request.terms.schools
        self._by_slot_kind: dict[str, list[tuple[Fittable, tuple[Offered, ...]]]] = {}

    def for_kind(self, slot_kind: str) -> list[tuple[Fittable, tuple[Offered, ...]]]:
        """Parts that belong in slots of a kind, of the makes and sorts the schools allow, with what they are to be had
        for."""
        if slot_kind not in self._by_slot_kind:
            kinds = {k for k, own in KINDS.items() if slot_kind in own.slots}
            self._by_slot_kind[slot_kind] = [
                (p, offers)
                for p in self.parts
                if p.kind in kinds
                and (not self.schools.makes or p.maker in self.schools.makes)
                and (self.schools.spinning or not getattr(p, "spinning", False))
                and (offers := tuple(self.offers(p)))
            ]
        return self._by_slot_kind[slot_kind]

    def offers(self, part: Fittable) -> Iterable[Offered]:
        if own := self.shelf.get(part.number):
            yield Offered(own.price_minor, own.count, True)
        price = part.price_minor
        if price is not None:
            yield Offered(price, None, False)


class Judges:
    """Benches for one build with its slots in the kindest context, by where the system starts from.

    Other parts never improve a verdict, so what is refused there is refused everywhere; what the rest of the build adds
    is asked when combinations are made.
    """

    def __init__(self, build: Build, slots: Sequence[Slot], market: Market, certain: bool = False) -> None:
        self.build, self.slots, self.market, self.certain = build, slots, market, certain
        self._benches: dict[tuple[str, bool], Bench] = {}
        self._candidates: dict[tuple[str, str], list[Candidate]] = {}

    @cached_property
    def kindest(self) -> Build:
        return replace(self.build, changes={**self.build.changes, **{s.id: None for s in self.slots}}, boot_slot="")

    def bench(self, boot: str, usual: bool) -> Bench:
        if (boot, usual) not in self._benches:
            build = replace(self.kindest, boot_slot=boot)
            beside = self.bench("", usual) if boot else None
            plain = self.bench(boot, False) if usual else None
            if usual:
                build = build.taken_as_usual(True)
            self._benches[(boot, usual)] = Bench(build, self.market.accessories, beside, plain, self.certain)
        return self._benches[(boot, usual)]

    def candidates(self, slot: Slot, boot: str = "") -> list[Candidate]:
        """Parts that are usable in the slot in some build, or would be once something is known; of ``certain`` judges the
        usable ones alone."""
        if (slot.id, boot) not in self._candidates:
            self._candidates[(slot.id, boot)] = self._found(slot, boot)
        return self._candidates[(slot.id, boot)]

    def _found(self, slot: Slot, boot: str) -> list[Candidate]:
        plain = self.bench(boot, False)
        found: list[Candidate] = []
        by_number = self.market.by_accessory
        for part, offers in self.market.for_kind(slot.kind):
            (verdict, short, asks), kit, extra = plain.judged(slot, part)
            if verdict.rank > Verdict.MEASURE_FIRST.rank:
                continue
            accessories = tuple([by_number[a] for a in kit]) if kit else ()
            if verdict is not Verdict.MEASURE_FIRST:
                for price, stock, shelf in offers:
                    found.append(
                        Candidate(part, accessories, price, price + extra, _NOTHING, stock, shelf, short == _USUAL)
                    )
                continue
            if self.certain:
                continue
            ways = [(frozenset(asks), short == _USUAL, accessories, extra)]
            if not self.build.known.as_usual:
                (usual, _, left), kit, extra = self.bench(boot, True).judged(slot, part)
                if usual.usable:
                    ways.append((frozenset((AS_USUAL,)), True, tuple(by_number[a] for a in kit), extra))
                elif usual is Verdict.MEASURE_FIRST and set(left) != set(asks):
                    ways.append((frozenset((AS_USUAL, *left)), True, tuple(by_number[a] for a in kit), extra))
            for price, stock, shelf in offers:
                for waits, unproven, accessories, extra in ways:
                    found.append(Candidate(part, accessories, price, price + extra, waits, stock, shelf, unproven))
        return found


_USUAL = "taken as usual"
_NOTHING: frozenset[str] = frozenset()


def undominated(
    candidates: Iterable[Candidate],
    key: Callable[[Candidate], Any],
    merits: Callable[[Candidate], tuple[float, ...]],
    places: int = 1,
    loose: frozenset[str] = frozenset(),
) -> list[Candidate]:
    """Candidates that nothing makes useless. One is useless where enough others of the same key (as many as there are
    places) cost no more, have no less of any merit, and lose no tie: strictly cheaper, or a name that sorts no later.
    Any build with it is then no better than one with such another in its stead. Those named ``loose`` have an open price:
    they are kept, and make nothing useless."""
    by_key: dict[Any, list[tuple[int, str, tuple[float, ...], Candidate]]] = {}
    kept: list[Candidate] = []
    for c in candidates:
        if c.part.number in loose:
            kept.append(c)
            continue
        by_key.setdefault((key(c), c.waits, c.unproven), []).append((c.money, c.part.number, merits(c), c))
    for alike in by_key.values():
        alike.sort(key=lambda e: (e[0], e[1]))
        front: list[tuple[tuple[float, ...], str, Candidate]] = []
        for _, number, merit, c in alike:
            enough = 0
            for other, name, k in front:
                if all(map(ge, other, merit)) and (k.money < c.money or name <= number):
                    enough += places if k.stock is None else k.stock
                    if enough >= places:
                        break
            if enough < places:
                front.append((merit, number, c))
        kept += [c for _, _, c in front]
    return kept


def rated(module: MemoryModule, applies_profiles: bool) -> int:
    """MT/s a module is good for here: its profile's where the machine applies profiles, else its grade's."""
    return module.profile_mts if module.profile_mts and applies_profiles else module.grade_mts


def link_class(part: M2Drive | BayDrive) -> tuple[Any, ...]:
    """What the link between a drive and any slot depends on."""
    if isinstance(part, BayDrive):
        return ("bay", part.generation, part.spinning)
    return (part.form, part.interface, part.generation, part.lanes, tuple(sorted(part.keys or ())))


def tells_of(part: Fittable, name: str) -> bool:
    """Is this something a part of its kind can be asked about?"""
    return name == "drivers" or name in attributes_of(type(part))


def question(build: Build, place: str, market: Market, about: Fittable | None = None) -> ToSettle:
    """One place to look at, in its own words; what is asked of parts on sale in the words of ``about``'s kind."""
    where, _, name = place.partition(".")
    if place == AS_USUAL:
        return ToSettle(
            attribute=place, label="taking usual things as usual", minutes=0,
            how="The owner's word: the old part is kept, with the right to return the new one.",
        )  # fmt: skip
    if place == TRIAL:
        return ToSettle(
            attribute=place, label="how far away it carries", minutes=10,
            how="Only a trial tells: fit it with the right to return it, and measure at the owner's far place.",
        )  # fmt: skip
    if place == "intake.used_gb":
        return ToSettle(
            attribute=place, label="how much of the drives is used", minutes=1,
            how="Read it from the running system, or ask the owner.",
        )  # fmt: skip
    asked = (p for p in (about, *market.parts) if p is not None)
    part = next((p for p in asked if where != "part" or tells_of(p, name)), None)
    assert part is not None, "a question comes from a part"
    label, how, minutes = words_of(build.known, part, (where, name))
    known_place = where in build.known.slots or where in ("memory", "boot")
    shown = f"{build.known.place_name(where)}: {label[0].lower()}{label[1:]}" if known_place else label
    return ToSettle(attribute=place, label=shown, how=how, minutes=minutes)
