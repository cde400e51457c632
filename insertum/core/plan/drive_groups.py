"""Drives, and what shares room or lanes with them, decided together.

Drives are decided by the sum of what they hold and by which one starts the system. Where slots share lanes or room
(exclusions), every combination of what can sit there, as the exclusion sees it, is a *context*: inside one the verdicts
of the slots no longer depend on each other.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import cached_property, partial
from itertools import product
from math import ceil
from typing import Any, NamedTuple

from ..fit.build import Build
from ..fit.figures import rate_span
from ..fit.judge import judge_kept, verdict_of
from ..fit.questions import place_of
from ..fit.shared_resources import bites
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import DriveSlot, RadioSlot
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.memory_system import MemorySlot
from ..machine.part import Fittable, Pack
from ..machine.radio_parts import Radio
from ..machine.shape import Slot
from ..verdict import Verdict
from .candidates import Candidate, link_class
from .choices import Change, Choice, Stage, Step, choice, fewest, in_stock, stairs, thinned
from .frontier import Pick
from .measure import RADIO, Effect, Measure, Raw, measure
from .need import NeedKind
from .request import Use


# -- drives and what shares room or lanes with them ---------------------------------------------------
class Seen(NamedTuple):
    """What an exclusion sees of a slot: '' empty, '?' nobody looked, or a kind with its interface and size."""

    kind: str
    interface: str = ""
    fills_bay: bool = False


def seen_of(part: Fittable | None, looked: bool = True) -> Seen:
    """What of a slot's content decides its part in an exclusion; ``?`` where nobody looked."""
    if not looked:
        return Seen("?")
    if part is None:
        return Seen("")
    return Seen(part.kind, getattr(part, "interface", "") or "", bool(getattr(part, "fills_bay", False)))


def _told(holds: str, part: Fittable) -> bool:
    """Is what an exclusion asks of a part known of it?"""
    match holds:
        case "anything":
            return True
        case "fills_bay":
            return not isinstance(part, Pack) or part.fills_bay is not None
        case _:
            return not isinstance(part, M2Drive) or part.interface is not None


Context = Mapping[str, tuple[Seen, Fittable | None, bool]]


class Joint:
    """Drives, packs and single slots that are decided together, context by context."""

    def __init__(self, stage: Stage, slots: Sequence[Slot], full: bool) -> None:
        self.stage, self.slots, self.full = stage, tuple(slots), full
        self.judges = stage.judges(slots)
        ids = {s.id for s in slots}
        self.exclusions = [e for e in stage.build.machine.machine.exclusions if e.when in ids or e.on in ids]
        self.bound = [s for s in self.slots if any(s.id in (e.when, e.on) for e in self.exclusions)]
        self.drive_slots = [s for s in self.slots if isinstance(s, DriveSlot | BaySlot)]
        self.others = [s for s in self.slots if not isinstance(s, DriveSlot | BaySlot)]
        self._steps: dict[Any, list[tuple[Candidate, Seen]]] = {}
        self._verdicts: dict[Any, frozenset[str] | None] = {}
        self._links: dict[Any, tuple[int, int] | None] = {}
        self._lists: dict[Any, list[Choice]] = {}

    @property
    def fills(self) -> bool:
        """Does *fill it* ask for more of these slots than the needs do?"""
        return bool(self.drive_slots) or any(isinstance(s, RadioSlot | BatterySlot) for s in self.slots)

    # -- contexts -----------------------------------------------------------------------------
    def contexts(self) -> Iterator[Context]:
        """What could sit in the slots that exclusions speak of, as they see it. Each entry holds a part that stands
        for it, and whether it is today's."""
        ways = []
        for s in self.bound:
            build = self.stage.build
            looked, held = build.looked_into(s.id), build.now(s.id)
            here: dict[tuple[Seen, bool], tuple[Seen, Fittable | None, bool]] = {}
            today = seen_of(held, looked)
            here[(today, True)] = (today, held, True)
            if looked and held is not None and self.may_empty(s):
                here[(Seen(""), False)] = (Seen(""), None, False)
            for boot in ("", s.id) if isinstance(s, DriveSlot | BaySlot) else ("",):
                for c, seen in self.offered(s, boot):
                    here.setdefault((seen, False), (seen, c.part, False))
            ways.append([(s.id, way) for way in here.values()])
        for combination in product(*ways):
            yield dict(combination)

    def may_empty(self, s: Slot) -> bool:
        replaced = isinstance(s, DriveSlot | BaySlot) and self.stage.market.schools.drive == "replace"
        return self.stage.terms.empties(s.id) or replaced

    def placed(self, context: Context) -> Build:
        """The build as a context has it, for what the rest of it adds to a verdict."""
        build = self.stage.build
        for slot, (_, part, kept) in context.items():
            if not kept:
                build = build.with_part(slot, part)
        return build

    # -- candidates ---------------------------------------------------------------------------
    def offered(self, s: Slot, boot: str) -> list[tuple[Candidate, Seen]]:
        """Candidates for a slot, as a drive that starts the system (``boot`` is the slot) or as anything else."""
        if (s.id, boot) not in self._steps:
            found = self.judges.candidates(s, boot)
            if boot and self.stage.copied is not None:  # what no copy would fit on starts no system
                least = self.stage.copied.wants(leaves=s.id == self.stage.build.boot_slot)
                found = [c for c in found if c.gb >= least]
            useful = self._useful(s, found, bool(boot))
            self._steps[(s.id, boot)] = [(c, seen_of(c.part)) for c in useful]
        return self._steps[(s.id, boot)]

    def _useful(self, s: Slot, found: list[Candidate], boot: bool) -> list[Candidate]:
        bound = any(s.id in (e.when, e.on) for e in self.exclusions)

        def aspect(c: Candidate) -> Any:
            return seen_of(c.part) if bound else ""

        match s:
            case DriveSlot() | BaySlot():
                lanes = any(s.id == e.on for e in self.exclusions)
                if not boot:
                    return self.stage.undominated(found, aspect, lambda c: (self.cap(c.gb),), len(self.drive_slots))

                def key(c: Candidate) -> Any:
                    span = self.link(s, c.part)
                    sure = not lanes and span is not None and span[0] == span[1] and c.part.read_mb_s is not None  # type: ignore[union-attr]
                    told = c.part.read_mb_s is not None  # type: ignore[union-attr]
                    return aspect(c), self._holds_all(c), () if sure else (link_class(c.part), told)  # type: ignore[arg-type]

                def merits(c: Candidate) -> tuple[float, ...]:
                    reads = c.part.read_mb_s or 0  # type: ignore[union-attr]
                    span = self.link(s, c.part)
                    if not lanes and span is not None and span[0] == span[1]:
                        reads = min(reads, span[0])
                    return self.cap(c.gb), reads

                return self.stage.undominated(found, key, merits, len(self.drive_slots))
            case BatterySlot():
                return self.stage.undominated(found, aspect, lambda c: (_made_for(c.part),), self._places(s))
            case RadioSlot():
                return self.stage.undominated(
                    found, lambda c: (aspect(c), _side_of(c.part)), lambda c: (), self._places(s)
                )
            case _:
                return self.stage.undominated(found, aspect, lambda c: (), self._places(s))

    def _holds_all(self, c: Candidate) -> bool:
        """Does a new system drive hold all that is on the old one, so that the old one may leave?"""
        copied = self.stage.copied
        return copied is None or c.gb >= copied.leaves

    def _places(self, s: Slot) -> int:
        """How many slots of its kind there are: as many of a better part are wanted before another is useless."""
        return sum(type(other) is type(s) for other in self.slots)

    def link(self, s: Slot, part: Fittable) -> tuple[int, int] | None:
        """What the link carries at least and at most, for a drive that is not the bound."""
        assert isinstance(part, M2Drive | BayDrive)
        key = (s.id, link_class(part))
        if key not in self._links:
            fast = part.model_copy(
                update={"read_mb_s": _UNBOUND, "spinning": False}
                if isinstance(part, BayDrive)
                else {"read_mb_s": _UNBOUND}
            )
            self._links[key] = rate_span(self.judges.kindest.with_part(s.id, fast), s.id)
        return self._links[key]

    @cached_property
    def most_gb(self) -> int | None:
        """What is stored beyond this makes no need meet more; None where every GB counts."""
        wanted = [n for n in self.stage.needs if n.kind is NeedKind.DRIVE_SPACE]
        if self.full or (wanted and self.stage.use.used_gb is None) or self.unseen:
            return None
        used, use = self.stage.use.used or Fraction(0), self.stage.use
        grows = (max(Fraction(1), n.growth(use.growth_percent, use.years)) for n in wanted)
        return max(
            (ceil(n.exact_figures[2] + used * factor) for n, factor in zip(wanted, grows, strict=True)), default=0
        )

    def cap(self, gb: int) -> int:
        return gb if self.most_gb is None else min(gb, self.most_gb)

    @cached_property
    def unseen(self) -> frozenset[str]:
        return frozenset(s.id for s in self.drive_slots if not self.stage.build.looked_into(s.id))

    # -- verdicts in a context ----------------------------------------------------------------
    def adds(
        self, context: Context, s: Slot, c: Candidate, seen: Seen, boot: bool, near: tuple[Any, ...]
    ) -> frozenset[str] | None:
        """Questions the context adds to a part's verdict, None where it is refused there."""
        if not near:
            return frozenset()
        key = (s.id, seen, boot, c.waits, c.unproven, near)
        if key not in self._verdicts:
            build = replace(self.placed(context), boot_slot=s.id if boot else "")
            build = build.with_part(s.id, c.part, c.accessories)
            if c.unproven:
                build = build.taken_as_usual(True)
            joint = verdict_of(build, s, c.part, c.accessories)
            self._verdicts[key] = _more(joint.verdict, [place_of(a) for a in joint.asks], c.waits)
        return self._verdicts[key]

    def keeps(self, context: Context, s: Slot, boot: str) -> frozenset[str] | None:
        """The same for what stays in the slot."""
        part = self.stage.build.now(s.id)
        near = self._near(context, s.id)
        if part is None or not near:
            return frozenset()
        key = (s.id, "kept", boot == s.id, near)
        if key not in self._verdicts:
            kept = judge_kept(replace(self.placed(context), boot_slot=boot), s.id, part)
            self._verdicts[key] = _more(kept.verdict or Verdict.SEATS, kept.asks, frozenset())
        return self._verdicts[key]

    def _near(self, context: Context, slot: str) -> tuple[Any, ...]:
        """What a slot's exclusions see of the others; () where it has none. Of what may take something of the slot only
        whether it does, where that is known."""
        found: list[Any] = []
        for i, e in enumerate(self.exclusions):
            if e.when == slot and e.on in context:
                found.append((i, context[e.on][0], context[e.on][2]))
            elif e.on == slot and e.when in context:
                seen, part, kept = context[e.when]
                told = seen.kind != "?" and (part is None or _told(e.holds, part))
                found.append((i, bites(e, part)) if told else (i, seen, kept))
        return tuple(found)

    def _sight(self, context: Context, slots: Sequence[Slot]) -> Any:
        """All that choices of these slots look at in a context."""
        fixed = [(s.id, context[s.id][0], context[s.id][2]) for s in slots if s.id in context]
        return tuple(s.id for s in slots), tuple(fixed), tuple(self._near(context, s.id) for s in slots)

    def _once(self, context: Context, slots: Sequence[Slot], choices: Callable[[], Iterator[Choice]]) -> list[Choice]:
        """Choices of some of the slots in a context: made once for all contexts that are the same to them. Those that
        others make useless are left out, but where a fault is mended by any of them."""
        key = self._sight(context, slots)
        if key not in self._lists:
            mends = any(s.id in self.stage.faulty for s in slots)
            alone = len(slots) == len(self.slots) and not self.bound  # thinned as a group anyway
            self._lists[key] = list(choices()) if mends or alone else thinned(choices(), self.stage.loose, self.full)
        return self._lists[key]

    # -- choices ------------------------------------------------------------------------------
    def choices(self) -> Iterator[Choice]:
        for context in self.contexts():
            yield from self._within(context)

    def _within(self, context: Context) -> Iterator[Choice]:
        rest = [self._once(context, slots, partial(self._family, context, slots)) for slots in self.families]
        own = (
            self._once(context, self.drive_slots, partial(self._drives, context)) if self.drive_slots else [_nothing()]
        )
        for drives in own:
            for combination in product(*rest):
                yield _together((drives, *combination))

    @cached_property
    def families(self) -> list[tuple[Slot, ...]]:
        """The slots that hold no drive, those of one kind together: of two packs both count, and one part of the shelf
        goes into one of them."""
        found: dict[type[Slot], list[Slot]] = {}
        for s in self.others:
            found.setdefault(type(s), []).append(s)
        return [tuple(slots) for slots in found.values()]

    def _ways(
        self, context: Context, s: Slot, boot: str, starts: str
    ) -> Iterator[tuple[Change | None, frozenset[str]]]:
        """What can be done to one slot in a context: keep, empty, or put in a candidate. ``boot`` is the slot where
        this one is to start the system, ``starts`` where the build starts from."""
        fixed = context.get(s.id)
        build = self.stage.build
        looked, held = build.looked_into(s.id), build.now(s.id)
        if boot != s.id:
            if fixed is None or fixed[2]:
                waits = self.keeps(context, s, starts)
                if waits is not None:
                    yield None, waits
            if (
                (fixed is None or (fixed[0].kind == "" and not fixed[2]))
                and looked
                and held is not None
                and self.may_empty(s)
            ):
                yield (s.id, None), frozenset()
        if fixed is not None and (fixed[2] or fixed[0].kind == ""):
            return
        near = self._near(context, s.id)
        for c, seen in self.offered(s, boot):
            if fixed is not None and seen != fixed[0]:
                continue
            more = self.adds(context, s, c, seen, boot == s.id, near)
            if more is not None and not (more and self.stage.certain):
                yield (s.id, c), c.waits | more

    def _family(self, context: Context, slots: Sequence[Slot]) -> Iterator[Choice]:
        """Choices of slots of one kind that hold no drive, measured together."""
        stage = self.stage
        kinds: tuple[NeedKind, ...] = ()
        if isinstance(slots[0], RadioSlot):
            kinds = tuple(k for k in RADIO if k is RADIO[0] or stage.stated((k,)))
        elif isinstance(slots[0], BatterySlot):
            kinds = (NeedKind.RUNTIME,)
        for ways in product(*(list(self._ways(context, s, "", "")) for s in slots)):
            changes = tuple([change for change, _ in ways if change])
            if len(slots) > 1 and not in_stock(changes):
                continue
            own: tuple[Effect, ...] = ()
            physical: dict[NeedKind, Measure] = {}
            if kinds:
                new = dict(changes)
                key = tuple([
                    (s.id, _figures_of(new[s.id].part if new[s.id] else None) if s.id in new else "keep")  # type: ignore[union-attr]
                    for s in slots
                ])  # fmt: skip
                own, raw = stage.effects(kinds, key, lambda changes=changes: stage.counting(changes))
                if self.full or kinds[0] is not NeedKind.RADIO_THROUGHPUT:
                    physical = {kinds[0]: self._fills(kinds[0], raw, changes)}
            yield choice(stage, changes, own, frozenset().union(*(waits for _, waits in ways)), physical)

    def _fills(self, kind: NeedKind, raw: Raw, changes: tuple[Change, ...]) -> Measure:
        """The uncapped figure *fill it* goes by: no router, no line in the way."""
        if kind is not NeedKind.RADIO_THROUGHPUT:
            return raw.physical[0]
        free = measure((kind,), self.stage.counted, self.stage.counting(changes), Use())
        return free.physical[0]

    def _drives(self, context: Context) -> Iterator[Choice]:
        build = self.stage.build
        today = build.boot_slot
        system = today in {s.id for s in self.drive_slots} and (
            not build.looked_into(today) or build.now(today) is not None
        )
        if system:
            yield from self._starting(context, today, new=False)
        else:
            nothing = [self._ways(context, s, "", today) for s in self.drive_slots]
            if all(any(change is None for change, _ in ways) for ways in nothing):
                yield from self._ended(context, [self._untouched(context, today)], today, None)
        for s in self.drive_slots:
            if s.id in context and context[s.id][2]:
                continue
            yield from self._starting(context, s.id, new=True)

    def _untouched(self, context: Context, starts: str) -> Step:
        waits = [self.keeps(context, s, starts) or frozenset() for s in self.drive_slots]
        return Step(0, 0, 0, (), frozenset().union(*waits) if waits else frozenset(), frozenset())

    def _starting(self, context: Context, boot: str, new: bool) -> Iterator[Choice]:
        """Choices in which the system starts from one slot: today's as it is, or a new drive there."""
        data = [Step(0, 0, 0, (), frozenset(), frozenset())]
        for s in self.drive_slots:
            if s.id == boot:
                continue
            ways = list(self._ways(context, s, "", boot))
            if self.stage.market.schools.drive == "keep" and self.stage.build.now(s.id) is not None:
                ways = [w for w in ways if w[0] is None]
            data = self._merged(data, [self._step(s, change, waits) for change, waits in ways])
            if not data:
                return
        own = next(s for s in self.drive_slots if s.id == boot)
        if not new:
            if not self._stays(context, own):
                return
            waits = self.keeps(context, own, boot)
            if waits is not None:
                yield from self._ended(context, data, boot, None, waits)
            return
        if self.stage.market.schools.drive == "keep" and self.stage.build.now(boot) is not None:
            return
        for change, waits in self._ways(context, own, boot, boot):
            if change and change[1]:
                yield from self._ended(context, data, boot, change, waits)

    def _stays(self, context: Context, s: Slot) -> bool:
        return s.id not in context or context[s.id][2]

    def _step(self, s: Slot, change: Change | None, waits: frozenset[str]) -> Step:
        if change is None:
            return Step(0, 0, 0, (), waits, frozenset())
        stage = self.stage
        counted = stage.counted.now(s.id)
        gone = getattr(counted, "capacity_gb", 0) if counted is not None else 0
        gb = (change[1].gb if change[1] else 0) - gone
        unseen = frozenset((s.id,)) & self.unseen
        return Step(stage.opens(s.id), stage.effort(*change), gb, (change,), waits, unseen)

    def _merged(self, left: list[Step], right: list[Step]) -> list[Step]:
        """Pairs of steps, of which those are kept that no other one of the same kind beats: opens the same, waits for
        the same, mends the same, stores no less, and is cheaper by a whole unit or no dearer and first in order."""
        if not right:
            return []
        self.stage.look(len(left) * len(right))
        pairs = [
            Step(a.opens | b.opens, a.effort + b.effort, a.gb + b.gb, a.changes + b.changes, a.waits | b.waits, a.unseen | b.unseen)
            for a in left
            for b in right
        ]  # fmt: skip
        # A part of which there are only so many may still be wanted elsewhere: those are not compared.
        scarce = bool(self.stage.market.shelf or self.stage.loose)
        if scarce:
            pairs = [p for p in pairs if in_stock(p.changes)]
        usual = self.stage.build.known.as_usual
        by_kind: dict[Any, list[Step]] = {}
        for p in pairs:
            few = self._few(p.changes) if scarce else ()
            held = self._old_left(p)
            # Where the job does not take things as usual, what is taken so says it in what it waits for.
            unproven = usual and any(c.unproven for _, c in p.changes if c)
            mended = self.stage.mended(p.changes)
            by_kind.setdefault((p.opens, p.waits, p.unseen, few, held, unproven, mended), []).append(p)
        kept: list[Step] = []
        most = self.most_gb
        base = self.known_gb
        capped = (lambda gb: gb) if most is None else (lambda gb: min(gb + base, most) - base)
        by_rest: dict[Any, list[Step]] = {}
        for (opens, _, *rest), alike in by_kind.items():
            by_rest.setdefault((opens, *rest), []).extend(stairs(alike, self.stage, capped))
        for alike in by_rest.values():
            kept += fewest(alike, self.stage, capped)
        return kept

    def _few(self, changes: tuple[Change, ...]) -> tuple[Any, ...]:
        """Parts of which there are few, or whose price is open."""
        loose = self.stage.loose
        return tuple(sorted([(c.name, c.shelf) for _, c in changes if c and (c.stock is not None or c.name in loose)]))

    def _old_left(self, p: Step) -> Any:
        """Under *replace* it matters which of the old drives are out, and for a copy whether the system's is."""
        if self.stage.market.schools.drive == "replace":
            return frozenset(s for s, _ in p.changes)
        return self.stage.copied is not None and any(s == self.stage.build.boot_slot for s, _ in p.changes)

    @cached_property
    def known_gb(self) -> int:
        held = [self.stage.counted.now(s.id) for s in self.drive_slots]
        return sum(getattr(d, "capacity_gb", 0) for d in held if d is not None)

    def _ended(
        self, context: Context, data: list[Step], boot: str, change: Change | None, waits: frozenset[str] = frozenset()
    ) -> Iterator[Choice]:
        """Data drives and the system drive put together, measured and priced."""
        stage = self.stage
        own = next((s for s in self.drive_slots if s.id == boot), None)
        first = self._step(own, change, waits) if own is not None else Step(0, 0, 0, (), waits, frozenset())
        speed: tuple[tuple[Effect, ...], Raw] | None = None
        late = int(boot != stage.build.boot_slot)
        if change is not None and change[1] is not None and not self._holds_all(change[1]):
            data = [d for d in data if all(slot != stage.build.boot_slot for slot, _ in d.changes)]
        for step in self._merged(data, [first]):
            changes = tuple(sorted(step.changes, key=lambda c: stage.rank[c[0]]))
            if stage.market.schools.drive == "replace" and not self._all_replaced(changes):
                continue
            if speed is None:
                speed = self._speed(context, boot, change)
            space = self._space(step)
            yield choice(
                stage, changes, space[0] + speed[0], step.waits,
                {NeedKind.DRIVE_SPACE: self.known_gb + step.gb, NeedKind.DRIVE_SPEED: speed[1].physical[0]}, boot, late,
                (step.opens, step.effort),
            )  # fmt: skip

    def _all_replaced(self, changes: tuple[Change, ...]) -> bool:
        """Where a drive is bought, the old ones leave (what is soldered stays)."""
        if not any(c for _, c in changes):
            return not changes or self.stage.terms.may_empty != ()
        gone = {s for s, _ in changes}
        return all(
            s.id in gone or self.stage.build.now(s.id) is None or getattr(s, "form", "") == "soldered"
            for s in self.drive_slots
        )

    def _speed(self, context: Context, boot: str, change: Change | None) -> tuple[tuple[Effect, ...], Raw]:
        stage = self.stage
        part = change[1].part if change and change[1] else None
        kinds = (NeedKind.DRIVE_SPEED,)
        near = self._near(context, boot)
        key = (boot, part and (link_class(part), part.read_mb_s, getattr(part, "spinning", False)), near)  # type: ignore[arg-type, union-attr]

        def made() -> Build:
            build = stage.counting([change] if change else [], boot)
            for slot, (_, there, kept) in context.items():
                if not kept and slot != boot:
                    build = build.with_part(slot, there)
            return build

        return stage.effects(kinds, key, made)

    def _space(self, step: Step) -> tuple[tuple[Effect, ...], Raw]:
        stage, kind = self.stage, NeedKind.DRIVE_SPACE
        before = self.known_gb
        after = before + step.gb
        if self.unseen:
            return stage.effects((kind,), (after, step.unseen), lambda: stage.counting(step.changes))
        if self.most_gb is not None:
            before, after = before, min(after, max(self.most_gb, 0))
        return stage.effects((kind,), after, lambda: Raw((({kind: before}, {kind: after}),), physical=(after,)))


_UNBOUND = 1_000_000


def _more(verdict: Verdict, asks: Iterable[str], waits: frozenset[str]) -> frozenset[str] | None:
    if verdict.usable:
        return frozenset()
    return frozenset(asks) - waits if verdict is Verdict.MEASURE_FIRST else None


def _made_for(part: Fittable) -> int:
    assert isinstance(part, Pack)
    return part.design_mwh if part.full_mwh is None else part.full_mwh


def _side_of(part: Fittable) -> Any:
    assert isinstance(part, Radio)
    return part.standard, part.streams, part.channel_mhz, part.bands


def _figures_of(part: Fittable | None) -> Any:
    if isinstance(part, Radio):
        return _side_of(part)
    return (_made_for(part), part.full_mwh) if isinstance(part, Pack) else part and part.number


def _nothing() -> Choice:
    return Choice((), None, 0, 0, (), 0, (), frozenset(), {})


def _together(parts: Sequence[Choice]) -> Choice:
    parts = [p for p in parts if p.changes or p.effects or p.waits or p.physical] or parts[:1]
    if len(parts) == 1:
        return parts[0]
    physical: dict[NeedKind, Measure] = {}
    opens = effort = late = 0
    changes: tuple[Change, ...] = ()
    picks: tuple[Pick, ...] = ()
    effects: tuple[Effect, ...] = ()
    waits: frozenset[str] = frozenset()
    boot: str | None = None
    for p in parts:
        physical.update(p.physical)
        opens, effort, late = opens | p.opens, effort + p.effort, late + p.late
        changes, picks, effects = changes + p.changes, picks + p.picks, effects + p.effects
        waits = waits | p.waits
        boot = p.boot if boot is None else boot
    return Choice(changes, boot, opens, effort, picks, late, effects, waits, physical)


def grouped(build: Build) -> tuple[list[MemorySlot], list[list[Slot]]]:
    """Memory sockets, and the other slots that are decided together: drives, batteries, what exclusions join."""
    rest = [s for s in build.machine.slots if not isinstance(s, MemorySlot)]
    head = {s.id: s.id for s in rest}

    def root(slot: str) -> str:
        while head[slot] != slot:
            slot = head[slot]
        return slot

    for kinds in ((DriveSlot, BaySlot), (BatterySlot,)):
        alike = [s.id for s in rest if isinstance(s, kinds)]
        for other in alike[1:]:
            head[root(other)] = root(alike[0])
    for e in build.machine.machine.exclusions:
        if e.when in head and e.on in head:
            head[root(e.when)] = root(e.on)
    heads = dict.fromkeys(root(s.id) for s in rest)
    return [s for s in build.machine.slots if isinstance(s, MemorySlot)], [
        [s for s in rest if root(s.id) == h] for h in heads
    ]
