"""What fits: the matrix and its best rows, why, comparison, what to measure and what to do next."""

from bisect import insort
from collections.abc import Sequence
from functools import cached_property
from typing import NamedTuple

from ..comparison.side_by_side import Comparison, side_by_side
from ..comparison.waste import Waste, waste
from ..fit.judge import (
    Cell,
    Judgement,
    Worth,
    cell_of,
    judge_build,
    judge_equipped,
    kind_fits,
    matrix,
    worth_of_measuring,
)
from ..fit.matrix_cache import Bench
from ..fit.premises import Aside, why
from ..fit.required_accessories import Extra, extras
from ..kinds.all import kind_of
from ..known.known import Explained
from ..machine.claim import Limits
from ..machine.part import Accessory, Fittable
from ..survey.acts import NextAct, next_acts
from ..survey.seller import SellerMessage, seller_message
from ..verdict import Verdict
from .plan_desk import PlanDesk


def _price(part: Fittable) -> int:
    """For sorting: what nobody sells comes last."""
    return part.price_minor or 10**9


class Row(NamedTuple):
    """A catalogue part for the matrix: its figures, what it adds at its best, and its verdicts as
    (index of slot, verdict, few words, price of accessories)."""

    part: Fittable
    adds: float
    unit: str
    cells: list[Cell]


class Why(NamedTuple):
    """One pair, opened: see :meth:`Desk.why`."""

    judgement: Judgement
    because: tuple[Explained, ...]
    aside: tuple[Aside, ...]
    waste: Waste | None


class FitDesk(PlanDesk):
    """The desk with its catalogue judged."""

    @property
    def fitting(self) -> list[Fittable]:
        """What can go in a slot, in the order a bench thinks of it."""
        return self.parts.fitting

    @cached_property
    def cells(self) -> list[Cell]:
        """The matrix of parts by slots, in the context of the build in hand."""
        return matrix(self.build, self.fitting, self.shelf)

    def rows(self) -> list[Row]:
        """The matrix by part, with what each adds in the best slot it goes in."""
        by_part: dict[str, list[Cell]] = {}
        for c in self.cells:
            by_part.setdefault(c.part, []).append(c)
        return [self._row(p, by_part.get(p.number, [])) for p in self.fitting]

    def _row(self, part: Fittable, cells: list[Cell]) -> Row:
        kind = kind_of(part)
        return Row(
            part,
            *max((kind.adds(self.build, c.slot, part) for c in cells if c.verdict.usable), default=(0.0, "")),
            cells,
        )

    def best_rows(self, kind: str, most: int) -> list[Row]:
        """The best rows of a kind, so many at most: what goes in first, then what it adds, then the price; and what the build
        holds. Parts are judged from the one that could add most on, until no other could come before those found: the same
        as judging all of them."""
        parts = self.parts.by_kind.get(kind, [])
        slots = [s for s in self.configured.slots if parts and kind_fits(s, parts[0])]
        if not slots:
            return []
        bench = Bench(self.build, self.shelf)
        rows: dict[str, Row] = {}

        def row(part: Fittable) -> Row:
            if part.number not in rows:
                rows[part.number] = self._row(part, [cell_of(bench, s, part) for s in slots])
            return rows[part.number]

        def order(r: Row) -> tuple[bool, float, int]:
            return not any(c.verdict.usable for c in r.cells), -r.adds, _price(r.part)

        # What a part could add at most, and its place among the others where nothing else tells them apart.
        adds = kind_of(parts[0]).adds
        could = sorted((-max(adds(self.build, s.id, p)[0] for s in slots), _price(p), i) for i, p in enumerate(parts))
        best: list[tuple[tuple[bool, float, int], int]] = []
        for bound, price, i in could:
            if len(best) == most and ((False, bound, price), i) > best[-1]:
                break
            insort(best, (order(row(parts[i])), i))
            del best[most:]
        seen = [rows[parts[i].number] for _, i in best]
        held = set(self.job.fit.build.values()) - {r.part.number for r in seen}
        return seen + [row(p) for p in parts if p.number in held]

    def worth(self) -> tuple[Worth, ...]:
        """What settling each unknown would open, in parts and prices."""
        return tuple(worth_of_measuring(self.build, self.cells, self.fitting))

    def worth_today(self) -> tuple[Worth, ...]:
        """The same for the machine as it stands, before anything is chosen."""
        return tuple(worth_of_measuring(self.today, matrix(self.today, self.fitting, self.shelf), self.fitting))

    def next_acts(self) -> tuple[NextAct, ...]:
        """What to do next, of the machine as it stands."""
        cells = matrix(self.today, self.fitting, self.shelf)
        unmeasured = [n.label for n in self.needs if n.weight_units and self.use.unmeasured(n.kind)]
        return next_acts(
            self.today, cells, self.fitting, worth_of_measuring(self.today, cells, self.fitting),
            told=self.acts_told, closed=self.job.survey.closed_acts,
            unmeasured=unmeasured,
        )  # fmt: skip

    def why(self, slot_id: str, number: str) -> Why:
        """Everything said of one pair, what carries it and what was said besides, and what a cheaper part would do in its
        place."""
        part = self.fittable(number)
        judged = judge_equipped(self.build, slot_id, part, self.shelf)
        alike = self.parts.by_kind[part.kind]
        cells = matrix(self.build, alike, self.shelf, [slot_id])
        carries, aside = why(self.build, judged, part, self.shelf)
        return Why(
            judged, carries, aside,
            waste(self.build, slot_id, part, cells, {p.number: p for p in alike}, self.job.currency),
        )  # fmt: skip

    def waiting(self, slot_id: str, kind: str) -> int:
        """How many parts of a kind would add to what is in a slot, and wait for something to be looked at."""
        alike = self.parts.by_kind[kind]
        cells = matrix(self.build, alike, self.shelf, [slot_id])
        open_ = {c.part for c in cells if c.verdict is Verdict.MEASURE_FIRST}
        adds = kind_of(alike[0]).adds
        return sum(p.number in open_ and adds(self.build, slot_id, p)[0] > 0 for p in alike)

    def judged_in(self, slot_id: str, part: Fittable) -> Judgement:
        """The verdict of a part, of the catalogue or not, in a place of the build in hand, with what it needs beside it."""
        return judge_equipped(self.build, slot_id, part, self.shelf)

    def seller_message(self, number: str) -> SellerMessage | None:
        """What to ask the seller of a part before it can be sold for this machine; None where nothing is open of it."""
        part = self.fittable(number)
        asks = (a for c in matrix(self.build, [part], self.shelf) for a in c.asks)
        return seller_message(part, asks, self.job.intake.system)

    def compared(self, slot_id: str, numbers: Sequence[str]) -> Comparison:
        return side_by_side(self.build, slot_id, [self.fittable(n) for n in numbers], self.shelf)

    def extras(self) -> tuple[Extra, ...]:
        """What the build in hand wants beside its parts."""
        return extras(self.build, self.shelf)

    @cached_property
    def extras_taken(self) -> list[Accessory]:
        return [a for a in self.shelf if self.job.fit.extras.get(a.number)]

    def judged(self) -> dict[str, Judgement]:
        """The verdict on each slot of the build in hand."""
        return judge_build(self.build)

    def schools(self) -> dict[Limits, int]:
        """How many part-slot pairs are usable under each school of limits."""
        return {
            school: sum(c.verdict.usable for c in matrix(self.build.under(school), self.fitting, self.shelf))
            for school in Limits
        }
