"""A supplier's list: looked through, its columns chosen once and remembered, taken in with progress or not at all."""

from collections.abc import Iterator, Mapping
from typing import Any

from pydantic import Field

from ...core.base import Frozen, InputError
from ...core.identify.match import folded
from ...formats.checked import MAX_BYTES
from ...formats.price_list import Layout, cells_of, is_price_list, layout_of, text_as_it_comes
from ...formats.supplier_list import Row, SupplierList, read_supplier_list, supplier_steps
from .. import models
from . import parts
from .parts import Preview, Progress, bounded, catalogue

#: Rows shown that were not simply taken; samples of a list whose columns somebody has to name.
SHOWN, SAMPLES = 300, 3


class ListPreview(Preview):
    """What an import would do. Of a supplier's list also whose it is, its heads, which means what, what was assumed, how
    many rows end how, and the rows that are not simply taken. ``open`` says what has to be chosen first."""

    shop: str = ""
    remembered: bool = False
    heads: tuple[str, ...] = ()
    columns: dict[str, str] = {}
    samples: tuple[tuple[str, ...], ...] = ()
    assumed: tuple[str, ...] = ()
    outcomes: dict[str, int] = {}
    rows: tuple[Row, ...] = ()
    open: str = ""


class _Asked(Frozen):
    """A list and how it is to be read."""

    text: str = Field(max_length=MAX_BYTES)
    encoding: str
    layout: Layout
    shop: str
    columns: dict[str, str]
    remembered: bool


def preview(data: bytes, where: str, shop: str, columns: Mapping[str, str] | None) -> ListPreview:
    """What an import would change, without changing it. Raises what reading raises."""
    text, encoding = text_as_it_comes(bounded(data, where), where)
    if not is_price_list(text):
        return ListPreview(**dict(parts.preview(text)))
    asked = _asked(text, encoding, where, shop, columns)
    told: dict[str, Any] = {
        "shop": asked.shop,
        "remembered": asked.remembered,
        "heads": asked.layout.heads,
        "samples": _samples(asked),
    }
    try:
        found = read_supplier_list(text, encoding, catalogue(), asked.shop, named=asked.columns)
    except InputError as error:
        if asked.layout.is_complete:
            raise
        at = {m: asked.layout.heads[i] for m, i in asked.layout.at.items()}
        nothing = parts.previewed(())
        return ListPreview(**dict(nothing), **told, columns=at, open=error.what)
    return ListPreview(**dict(parts.previewed(found.parts)), **told, **_said(found))


def _said(found: SupplierList) -> dict[str, Any]:
    outcomes: dict[str, int] = {}
    for row in found.rows:
        outcomes[row.outcome] = outcomes.get(row.outcome, 0) + 1
    rest = [r for r in found.rows if r.outcome != "taken"]
    rest.sort(key=lambda r: (r.outcome != "asked", r.line))
    return {"columns": found.columns, "assumed": found.assumed, "outcomes": outcomes, "rows": tuple(rest[:SHOWN])}


def _samples(asked: _Asked) -> tuple[tuple[str, ...], ...]:
    rows = cells_of(asked.text[:20_000], asked.layout.start, asked.layout.separator)[1:]
    return tuple(tuple(c.strip()[:60] for c in r) for r in rows if any(c.strip() for c in r))[:SAMPLES]


def _asked(text: str, encoding: str, where: str, shop: str, columns: Mapping[str, str] | None) -> _Asked:
    """How the list is read: as somebody chose, else as this supplier's last list was, else by likeness."""
    plain = layout_of(text)
    kept = next((k for k in models.SupplierLayout.objects.all() if tuple(k.heads) == plain.heads), None)
    if kept is None:
        kept = next(
            (
                k
                for k in models.SupplierLayout.objects.all()
                if set(k.columns.values()) <= set(plain.heads) and k.shop == shop
            ),
            None,
        )
    chosen = dict(columns) if columns is not None else dict(kept.columns) if kept else {}
    whose = shop.strip() or (kept.shop if kept else "") or _shop_of(where)
    layout = layout_of(text, chosen) if chosen else plain
    return _Asked(
        text=text, encoding=encoding, layout=layout, shop=whose[:60], columns=chosen, remembered=kept is not None and columns is None,
    )  # fmt: skip


def _shop_of(where: str) -> str:
    """Whose list a file is by its name: a shop the catalogue knows, else the name itself."""
    stem = where.rpartition(".")[0] or where
    shops = {o.shop for p in catalogue() for o in p.offers}
    return next((s for s in sorted(shops, key=len, reverse=True) if folded(stem).startswith(folded(s))), stem)


def take(data: bytes, where: str, shop: str, columns: Mapping[str, str] | None) -> Iterator[Progress]:
    """Import a file as it was dropped: our own columns, or a supplier's list. Everything is read before anything is
    written, and what is written is one transaction: stopped half-way, nothing of it is kept."""
    text, encoding = text_as_it_comes(bounded(data, where), where)
    if not is_price_list(text):
        return parts.import_steps(text)
    return _taken(_asked(text, encoding, where, shop, columns))


def _taken(asked: _Asked) -> Iterator[Progress]:
    steps = supplier_steps(asked.text, asked.encoding, catalogue(), asked.shop, named=asked.columns)
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
        shop=asked.shop, defaults={"heads": list(found.heads), "columns": found.columns}
    )
