"""What could sit in slots that are decided together, and what exclusions make of it: context by context."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import cached_property
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
from ..machine.part import Fittable, Pack
from ..machine.radio_parts import Radio
from ..machine.shape import Slot
from ..verdict import Verdict
from .candidates import Candidate, link_class
from .choices import Change, Stage
from .need import NeedKind

_UNBOUND = 1_000_000


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


class Surroundings:
    """The slots of one group as exclusions see them: contexts, candidates, and verdicts in a context."""

    def __init__(self, stage: Stage, slots: Sequence[Slot], full: bool) -> None:
        self.stage, self.slots, self.full = stage, tuple(slots), full
        self.judges = stage.judges(slots)
        ids = {s.id for s in slots}
        self.exclusions = [e for e in stage.build.machine.machine.exclusions if e.when in ids or e.on in ids]
        self.bound = [s for s in self.slots if any(s.id in (e.when, e.on) for e in self.exclusions)]
        self.drive_slots = [s for s in self.slots if isinstance(s, DriveSlot | BaySlot)]
        self._steps: dict[Any, list[tuple[Candidate, Seen]]] = {}
        self._verdicts: dict[Any, frozenset[str] | None] = {}
        self._links: dict[Any, tuple[int, int] | None] = {}

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
                    return aspect(c), self.holds_all(c), () if sure else (link_class(c.part), told)  # type: ignore[arg-type]

                def merits(c: Candidate) -> tuple[float, ...]:
                    reads = c.part.read_mb_s or 0  # type: ignore[union-attr]
                    span = self.link(s, c.part)
                    if not lanes and span is not None and span[0] == span[1]:
                        reads = min(reads, span[0])
                    return self.cap(c.gb), reads

                return self.stage.undominated(found, key, merits, len(self.drive_slots))
            case BatterySlot():
                return self.stage.undominated(found, aspect, lambda c: (made_for(c.part),), self._places(s))
            case RadioSlot():
                return self.stage.undominated(
                    found, lambda c: (aspect(c), side_of(c.part)), lambda c: (), self._places(s)
                )
            case _:
                return self.stage.undominated(found, aspect, lambda c: (), self._places(s))

    def holds_all(self, c: Candidate) -> bool:
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
        near = self.near(context, s.id)
        if part is None or not near:
            return frozenset()
        key = (s.id, "kept", boot == s.id, near)
        if key not in self._verdicts:
            kept = judge_kept(replace(self.placed(context), boot_slot=boot), s.id, part)
            self._verdicts[key] = _more(kept.verdict or Verdict.SEATS, kept.asks, frozenset())
        return self._verdicts[key]

    def near(self, context: Context, slot: str) -> tuple[Any, ...]:
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

    def sight(self, context: Context, slots: Sequence[Slot]) -> Any:
        """All that choices of these slots look at in a context."""
        fixed = [(s.id, context[s.id][0], context[s.id][2]) for s in slots if s.id in context]
        return tuple(s.id for s in slots), tuple(fixed), tuple(self.near(context, s.id) for s in slots)

    def ways(self, context: Context, s: Slot, boot: str, starts: str) -> Iterator[tuple[Change | None, frozenset[str]]]:
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
        near = self.near(context, s.id)
        for c, seen in self.offered(s, boot):
            if fixed is not None and seen != fixed[0]:
                continue
            more = self.adds(context, s, c, seen, boot == s.id, near)
            if more is not None and not (more and self.stage.certain):
                yield (s.id, c), c.waits | more

    @cached_property
    def known_gb(self) -> int:
        held = [self.stage.counted.now(s.id) for s in self.drive_slots]
        return sum(getattr(d, "capacity_gb", 0) for d in held if d is not None)


def _more(verdict: Verdict, asks: Iterable[str], waits: frozenset[str]) -> frozenset[str] | None:
    if verdict.usable:
        return frozenset()
    return frozenset(asks) - waits if verdict is Verdict.MEASURE_FIRST else None


def made_for(part: Fittable) -> int:
    """What a pack holds when full, in mWh: measured, else as designed."""
    assert isinstance(part, Pack)
    return part.design_mwh if part.full_mwh is None else part.full_mwh


def side_of(part: Fittable) -> Any:
    """What of a Wi-Fi card decides its rate."""
    assert isinstance(part, Radio)
    return part.standard, part.streams, part.channel_mhz, part.bands


def figures_of(part: Fittable | None) -> Any:
    """What of a part its measures depend on: two that give the same measure the same."""
    if isinstance(part, Radio):
        return side_of(part)
    return (made_for(part), part.full_mwh) if isinstance(part, Pack) else part and part.number
