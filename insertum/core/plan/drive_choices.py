"""Drives: where the system starts, what else is put in, copied, kept or taken out; what beats what, and what it measures."""

from collections.abc import Iterator
from typing import Any

from ..fit.build import Build
from ..machine.shape import Slot
from .candidates import link_class
from .choices import Change, Choice, Stage, Step, choice, in_stock
from .contexts import Context, Surroundings
from .effect import Effect
from .measure import Raw
from .need import NeedKind
from .thinning import fewest, stairs


class DriveChoices:
    """All useful ways to fill the drive slots of one group."""

    def __init__(self, stage: Stage, around: Surroundings) -> None:
        self.stage, self.around = stage, around

    def within(self, context: Context) -> Iterator[Choice]:
        build = self.stage.build
        today = build.boot_slot
        system = today in {s.id for s in self.around.drive_slots} and (
            not build.looked_into(today) or build.now(today) is not None
        )
        if system:
            yield from self._starting(context, today, new=False)
        else:
            nothing = [self.around.ways(context, s, "", today) for s in self.around.drive_slots]
            if all(any(change is None for change, _ in ways) for ways in nothing):
                yield from self._ended(context, [self._untouched(context, today)], today, None)
        for s in self.around.drive_slots:
            if s.id in context and context[s.id][2]:
                continue
            yield from self._starting(context, s.id, new=True)

    def _untouched(self, context: Context, starts: str) -> Step:
        waits = [self.around.keeps(context, s, starts) or frozenset() for s in self.around.drive_slots]
        return Step(0, 0, 0, (), frozenset().union(*waits) if waits else frozenset(), frozenset())

    def _starting(self, context: Context, boot: str, new: bool) -> Iterator[Choice]:
        """Choices in which the system starts from one slot: today's as it is, or a new drive there."""
        data = [Step(0, 0, 0, (), frozenset(), frozenset())]
        for s in self.around.drive_slots:
            if s.id == boot:
                continue
            ways = list(self.around.ways(context, s, "", boot))
            if self.stage.market.schools.drive == "keep" and self.stage.build.now(s.id) is not None:
                ways = [w for w in ways if w[0] is None]
            data = self._merged(data, [self._step(s, change, waits) for change, waits in ways])
            if not data:
                return
        own = next(s for s in self.around.drive_slots if s.id == boot)
        if not new:
            if not self._stays(context, own):
                return
            waits = self.around.keeps(context, own, boot)
            if waits is not None:
                yield from self._ended(context, data, boot, None, waits)
            return
        if self.stage.market.schools.drive == "keep" and self.stage.build.now(boot) is not None:
            return
        for change, waits in self.around.ways(context, own, boot, boot):
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
        unseen = frozenset((s.id,)) & self.around.unseen
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
        most = self.around.most_gb
        base = self.around.known_gb
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

    def _ended(
        self, context: Context, data: list[Step], boot: str, change: Change | None, waits: frozenset[str] = frozenset()
    ) -> Iterator[Choice]:
        """Data drives and the system drive put together, measured and priced."""
        stage = self.stage
        own = next((s for s in self.around.drive_slots if s.id == boot), None)
        first = self._step(own, change, waits) if own is not None else Step(0, 0, 0, (), waits, frozenset())
        speed: tuple[tuple[Effect, ...], Raw] | None = None
        late = int(boot != stage.build.boot_slot)
        if change is not None and change[1] is not None and not self.around.holds_all(change[1]):
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
                {NeedKind.DRIVE_SPACE: self.around.known_gb + step.gb, NeedKind.DRIVE_SPEED: speed[1].physical[0]}, boot, late,
                (step.opens, step.effort),
            )  # fmt: skip

    def _all_replaced(self, changes: tuple[Change, ...]) -> bool:
        """Where a drive is bought, the old ones leave (what is soldered stays)."""
        if not any(c for _, c in changes):
            return not changes or self.stage.terms.may_empty != ()
        gone = {s for s, _ in changes}
        return all(
            s.id in gone or self.stage.build.now(s.id) is None or getattr(s, "form", "") == "soldered"
            for s in self.around.drive_slots
        )

    def _speed(self, context: Context, boot: str, change: Change | None) -> tuple[tuple[Effect, ...], Raw]:
        stage = self.stage
        part = change[1].part if change and change[1] else None
        kinds = (NeedKind.DRIVE_SPEED,)
        near = self.around.near(context, boot)
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
        before = self.around.known_gb
        after = before + step.gb
        if self.around.unseen:
            return stage.effects((kind,), (after, step.unseen), lambda: stage.counting(step.changes))
        if self.around.most_gb is not None:
            before, after = before, min(after, max(self.around.most_gb, 0))
        return stage.effects((kind,), after, lambda: Raw((({kind: before}, {kind: after}),), physical=(after,)))
