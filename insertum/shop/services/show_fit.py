"""What Fit shows: the matrix in a compact form, and everything said of one pair when it is looked at."""

import json

from ...core.comparison.side_by_side import Comparison
from ...core.comparison.waste import Waste, per_gb
from ...core.fit.in_common import InCommon, besides, in_common
from ...core.fit.judge import Judgement, Worth
from ...core.fit.premises import Aside
from ...core.fit.required_accessories import Extra
from ...core.frozen import Frozen
from ...core.job.desk import Desk
from ...core.job.fit_desk import Row
from ...core.job.slots import MapView, Size, detail, map_view, size_of, soldered_lines
from ...core.known.known import Explained, Usual
from ...core.machine.claim import Limits
from ...core.prepare.gates import AsUsual
from ...core.survey.seller import SellerMessage
from ...core.verdict import Verdict
from ...formats.parts import columns_of
from . import jobs, shelf
from .answer_cache import answered_from
from .shapes import Choice

#: So many parts are in the first answer, and of one kind no more: more than a screen shows.
FIRST = 40
#: Verdicts by number in a cell, best first.
VERDICTS = tuple(Verdict)


class MatrixRow(Frozen):
    """A part of the catalogue. ``cells`` are (slot, verdict, few words, price of accessories): slot is an
    index into the slots, verdict into seats … harm, the words into ``words``."""

    number: str
    name: str
    maker: str
    kind: str
    price_minor: int | None
    on_shelf: int
    detail: str
    adds: float
    unit: str
    per_gb: float | None
    size: Size | None
    cells: tuple[tuple[int, ...], ...]


class FitStation(Frozen):
    """``common`` is what all parts of a kind wait for in a slot, ``besides`` what some wait for besides, by part and slot."""

    rows: tuple[MatrixRow, ...]
    more: int
    words: tuple[str, ...]
    worth: tuple[Worth, ...]
    map: MapView
    slots: tuple[Choice, ...]
    limits: Limits
    makers: tuple[str, ...]
    extras: tuple[Extra, ...]
    usual: tuple[Usual, ...]
    as_usual: AsUsual | None
    soldered: tuple[str, ...]
    common: tuple[InCommon, ...] = ()
    besides: dict[str, str] = {}


class WhyView(Frozen):
    """``seller`` is what to ask the seller of the part for this machine, ``seller_columns`` where its answers go."""

    judgement: Judgement
    because: tuple[Explained, ...]
    aside: tuple[Aside, ...]
    accessories: tuple[str, ...]
    waste: Waste | None
    seller: SellerMessage | None = None
    seller_columns: tuple[str, ...] = ()


def fit(number: int, whole: bool) -> str:
    """A :class:`FitStation` as JSON. What is seen first: the best of the first kinds, with how many more parts there are;
    all of them, and what settling each unknown is worth among them, where ``whole`` is asked."""
    return answered_from(("fit", whole), number, lambda desk: station_of(desk, whole))


def _first(desk: Desk) -> list[Row]:
    """The best of the first kinds, as many as a screen shows, and what is in the build. The kinds behind them are not
    judged yet."""
    found: list[Row] = []
    for kind in desk.parts.by_kind:
        if len(found) >= FIRST:
            break
        found += desk.best_rows(kind, FIRST)  # a part that meets no slot stands in no section
    return found


def station_of(desk: Desk, whole: bool) -> str:
    """A :class:`FitStation` of any desk, a job's or nobody's, as JSON."""
    shown = desk.rows() if whole else _first(desk)
    slots = [s.id for s in desk.configured.slots]
    at = {s: i for i, s in enumerate(slots)}
    ranks = {v: i for i, v in enumerate(VERDICTS)}
    words: dict[str, int] = {}
    lying = shelf.counts()
    # While the rest is on its way nobody knows what all of them wait for.
    known, by_number = desk.build.known, {r.part.number: r.part for r in shown}
    common = in_common(known, (c for r in shown for c in r.cells), by_number) if whole else ()
    above = {(c.kind, c.slot): c for c in common}
    more = {
        f"{c.part} {c.slot}": says
        for r in shown
        for c in r.cells
        if (own := above.get((r.part.kind, c.slot))) and (says := besides(known, c, r.part, own))
    }
    rows = [
        {
            "number": r.part.number,
            "name": r.part.name,
            "maker": r.part.maker,
            "kind": r.part.kind,
            "price_minor": r.part.price_minor,
            "on_shelf": lying.get(r.part.number, 0),
            "detail": detail(r.part),
            "adds": r.adds,
            "unit": r.unit,
            "per_gb": per_gb(r.part),
            "size": None if (size := size_of(r.part)) is None else {"w_mm": size.w_mm, "h_mm": size.h_mm},
            "cells": [
                (at[c.slot], ranks[c.verdict], words.setdefault(c.short, len(words)), c.extra_minor) for c in r.cells
            ],
        }
        for r in shown
    ]
    rest = FitStation(
        rows=(),
        more=len(desk.fitting) - len(shown),
        words=tuple(words),
        worth=desk.worth() if whole else (),
        map=map_view(desk.build, {s: j.verdict for s, j in desk.judged().items()}, desk.how_known()),
        slots=tuple(Choice(number=s.id, name=s.name) for s in desk.configured.slots),
        limits=desk.job.fit.limits,
        makers=desk.parts.makers,
        extras=desk.extras(),
        usual=desk.usual_things(),
        as_usual=desk.job.survey.as_usual,
        soldered=soldered_lines(desk.today),
        common=common,
        besides=more,
    ).model_dump(mode="json")
    return json.dumps({**rest, "rows": rows}, separators=(",", ":"))


def schools(number: int) -> dict[Limits, int]:
    """How many pairs go in under each school of limits."""
    return jobs.desk_of(number).schools()


def why(number: int, slot: str, part: str) -> WhyView:
    """Every finding of one pair with its sources, the premises that carry it alone, what was said besides, and what a
    cheaper part would do."""
    return why_of(jobs.desk_of(number), slot, part)


def why_of(desk: Desk, slot: str, part: str) -> WhyView:
    """The same of any desk."""
    found = desk.why(slot, part)
    message = desk.seller_message(part)
    names = tuple(desk.by_number[a].name for a in found.judgement.accessories if a in desk.by_number)
    return WhyView(
        judgement=found.judgement, because=found.because, aside=found.aside, accessories=names, waste=found.waste,
        seller=message, seller_columns=tuple(c for a in (message.asks if message else ()) for c in columns_of(a)),
    )  # fmt: skip


def compared(number: int, slot: str, parts: list[str]) -> Comparison:
    """Parts side by side in one slot."""
    return jobs.desk_of(number).compared(slot, parts)
