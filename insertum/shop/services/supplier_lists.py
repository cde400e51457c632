"""A supplier's list: looked through, its columns chosen once and remembered, taken in with progress or not at all."""

from collections.abc import Iterator
from typing import Any

from pydantic import Field

from ...core.errors import InputError
from ...core.frozen import Frozen
from ...core.spelling import folded
from ...core.standards.currency import CODES
from ...formats.json_errors import MAX_BYTES
from ...formats.list_layout import Layout, cells_of, is_price_list, layout_of, text_as_it_comes
from ...formats.parts import fields_from
from ...formats.supplier_offers import SupplierList, read_supplier_list, supplier_steps
from .. import models
from . import parts
from .parts import Preview, Progress, bounded, catalogue
from .workshop import workshop

#: Samples of a list whose columns somebody has to name.
SAMPLES = 3


class Ended(Frozen):
    """Rows that end one way for one reason: each with its line and number."""

    outcome: str
    reason: str
    rows: tuple[tuple[int, str], ...]
    #: Can fields of a part answer it, for all of them at once?
    answerable: bool = False


class ListPreview(Preview):
    """What an import would do. Of a supplier's list also whose it is, its heads, which means what, what was assumed, and
    every row by how it ends and why. ``open`` says what has to be chosen first; ``currency`` is what prices without a sign
    are in, "" while nobody has said and ``currency_open`` asks for it."""

    shop: str = ""
    remembered: bool = False
    heads: tuple[str, ...] = ()
    columns: dict[str, str] = {}
    samples: tuple[tuple[str, ...], ...] = ()
    assumed: tuple[str, ...] = ()
    outcomes: dict[str, int] = {}
    ends: tuple[Ended, ...] = ()
    open: str = ""
    currency: str = ""
    currency_open: bool = False


class _Asked(Frozen):
    """A list and how it is to be read."""

    text: str = Field(max_length=MAX_BYTES)
    encoding: str
    layout: Layout
    shop: str
    columns: dict[str, str]
    remembered: bool
    currency: str = Field("", pattern=r"^([A-Z]{3})?$")
    answers: dict[str, dict[str, Any]] = {}


class Told(Frozen):
    """What somebody said of a list: whose it is, which head means what (None for as it is likely, or as last time), in
    which currency prices without a sign are, and the fields of all rows asked for one reason."""

    shop: str = ""
    columns: dict[str, str] | None = None
    currency: str = ""
    answers: dict[str, dict[str, str]] = {}


def preview(data: bytes, where: str, said: Told) -> ListPreview:
    """What an import would change, without changing it. Raises what reading raises."""
    text, encoding = text_as_it_comes(bounded(data, where), where)
    if not is_price_list(text):
        return ListPreview(**dict(parts.preview(text)))
    asked = _asked(text, encoding, where, said)
    told: dict[str, Any] = {
        "shop": asked.shop,
        "remembered": asked.remembered,
        "heads": asked.layout.heads,
        "samples": _samples(asked),
        "currency": asked.currency,
    }
    try:
        found = read_supplier_list(text, encoding, catalogue(), asked.shop, **_how(asked))
    except InputError as error:
        if asked.layout.is_complete:
            raise
        at = {m: asked.layout.heads[i] for m, i in asked.layout.at.items()}
        nothing = parts.previewed(())
        return ListPreview(**dict(nothing), **told, columns=at, open=error.what)
    return ListPreview(**dict(parts.previewed(found.parts)), **told, **_said(found))


def _how(asked: _Asked) -> dict[str, Any]:
    return {"currency": workshop().currency, "named": asked.columns, "told": asked.currency, "answers": asked.answers}


def _said(found: SupplierList) -> dict[str, Any]:
    ends: dict[tuple[str, str], list[tuple[int, str]]] = {}
    open_: set[str] = {r.reason for r in found.rows if r.outcome == "asked" and r.answerable}
    outcomes: dict[str, int] = {}
    for row in found.rows:
        outcomes[row.outcome] = outcomes.get(row.outcome, 0) + 1
        ends.setdefault((row.outcome, row.reason), []).append((row.line, row.number))
    order = ("asked", "left_out", "taken_without_offer", "taken")
    told = sorted(ends.items(), key=lambda e: (order.index(e[0][0]), -len(e[1])))
    return {
        "columns": found.columns, "assumed": found.assumed, "outcomes": outcomes, "currency_open": found.currency_open,
        "ends": tuple(Ended(outcome=o, reason=why, rows=tuple(rows), answerable=why in open_) for (o, why), rows in told),
    }  # fmt: skip


def _samples(asked: _Asked) -> tuple[tuple[str, ...], ...]:
    rows = cells_of(asked.text[:20_000], asked.layout.start, asked.layout.separator)[int(asked.layout.headed) :]
    return tuple(tuple(c.strip()[:60] for c in r) for r in rows if any(c.strip() for c in r))[:SAMPLES]


def _asked(text: str, encoding: str, where: str, said: Told) -> _Asked:
    """How the list is read: as somebody chose, else as this supplier's last list was, else by likeness."""
    plain = layout_of(text)
    kept = next((k for k in models.SupplierLayout.objects.all() if tuple(k.heads) == plain.heads), None)
    if kept is None:
        kept = next(
            (
                k
                for k in models.SupplierLayout.objects.all()
                if set(k.columns.values()) <= set(plain.heads) and k.shop == said.shop
            ),
            None,
        )
    chosen = dict(said.columns) if said.columns is not None else dict(kept.columns) if kept else {}
    whose = said.shop.strip() or (kept.shop if kept else "") or _shop_of(where)
    layout = layout_of(text, chosen) if chosen else plain
    return _Asked(
        text=text, encoding=encoding, layout=layout, shop=whose[:60], columns=chosen,
        remembered=kept is not None and said.columns is None, currency=_currency(said.currency, whose, kept),
        answers={why: fields_from(cells) for why, cells in said.answers.items()},
    )  # fmt: skip


def _currency(said: str, shop: str, kept: models.SupplierLayout | None) -> str:
    """What prices without a sign are in: as somebody says, else as this supplier's last list was."""
    if said and said not in CODES:
        raise InputError(f"{said} is no currency", "currency", "Write its three letters, as EUR or USD.")
    if said or kept is not None:
        return said or str(kept.currency if kept else "")
    last = models.SupplierLayout.objects.filter(shop=shop).first()
    return last.currency if last else ""


def _shop_of(where: str) -> str:
    """Whose list a file is by its name: a shop the catalogue knows, else the name itself."""
    stem = where.rpartition(".")[0] or where
    shops = {o.shop for p in catalogue() for o in p.offers}
    return next((s for s in sorted(shops, key=len, reverse=True) if folded(stem).startswith(folded(s))), stem)


def take(data: bytes, where: str, said: Told) -> Iterator[Progress]:
    """Import a file as it was dropped: our own columns, or a supplier's list. Everything is read before anything is
    written, and what is written is one transaction: stopped half-way, nothing of it is kept."""
    text, encoding = text_as_it_comes(bounded(data, where), where)
    if not is_price_list(text):
        return parts.import_steps(text)
    return _taken(_asked(text, encoding, where, said))


def _taken(asked: _Asked) -> Iterator[Progress]:
    steps = supplier_steps(asked.text, asked.encoding, catalogue(), asked.shop, **_how(asked))
    while True:
        try:
            done, of = next(steps)
            yield Progress(says="reading", done=done, of=of)
        except StopIteration as end:
            found: SupplierList = end.value
            break
    yield from parts.kept(found.parts)
    # Kept with its list: an import that was stopped teaches nothing.
    models.SupplierLayout.objects.update_or_create(
        shop=asked.shop, defaults={"heads": list(found.heads), "columns": found.columns, "currency": asked.currency}
    )
