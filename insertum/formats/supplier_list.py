"""A supplier's list read row by row: offers of parts the catalogue knows, and new parts from what titles prove.

Every row ends as taken, taken without an offer, asked or left out, with its reason; what was assumed (encoding,
currency, net or gross, the shop) is said.
"""

import re
from collections.abc import Generator, Iterable, Mapping, Sequence
from typing import Literal

from ..core.base import Frozen, InputError
from ..core.machine.part import AnyPart, Offer
from ..core.title import read_title
from .parts import part_from
from .price_list import GROSS, MOST_ROWS, NET, Layout, cells_of, layout_of, plain, price_minor, stock_of

Outcome = Literal["taken", "taken_without_offer", "asked", "left_out"]
#: Rows between two words about progress.
CHUNK = 500


class Row(Frozen):
    """What became of one row; ``line`` counts from 1."""

    line: int
    number: str
    outcome: Outcome
    reason: str = ""
    new: bool = False


class SupplierList(Frozen):
    """The parts that come in or whose offers change, what became of every row, and what was assumed."""

    parts: tuple[AnyPart, ...]
    rows: tuple[Row, ...]
    assumed: tuple[str, ...]
    columns: dict[str, str]
    heads: tuple[str, ...]


def read_supplier_list(
    text: str, encoding: str, known: Iterable[AnyPart], shop: str, currency: str = "EUR", named: Mapping[str, str] | None = None
) -> SupplierList:  # fmt: skip
    """The whole list at once."""
    steps = supplier_steps(text, encoding, known, shop, currency, named)
    while True:
        try:
            next(steps)
        except StopIteration as done:
            found: SupplierList = done.value
            return found


def supplier_steps(
    text: str, encoding: str, known: Iterable[AnyPart], shop: str, currency: str = "EUR", named: Mapping[str, str] | None = None
) -> Generator[tuple[int, int], None, SupplierList]:  # fmt: skip
    """Read a list, saying (rows read, rows in all) on the way. ``named`` says which head means what, where somebody has
    chosen. Raises :class:`InputError` where no column holds prices or nothing tells parts."""
    layout = layout_of(text, named)
    if not layout.is_complete:
        raise InputError(
            "which column holds the prices, and which the numbers or titles?", "price list", "Choose them below."
        )
    rows = cells_of(text, layout.start, layout.separator)
    if len(rows) > MOST_ROWS:
        raise InputError(f"{len(rows)} rows, at most {MOST_ROWS} are read", "price list", "Split it.")
    reader = _Reader(layout, known, shop.strip() or "supplier", currency)
    for n, cells in enumerate(rows[1:], layout.start + 2):
        if any(c.strip() for c in cells):
            reader.take(n, cells)
        if n % CHUNK == 0:
            yield n, len(rows)
    return SupplierList(
        parts=tuple(reader.found.values()), rows=tuple(reader.told), assumed=_assumed(layout, encoding, shop, currency),
        columns={meaning: layout.heads[i] for meaning, i in layout.at.items()}, heads=layout.heads,
    )  # fmt: skip


def _assumed(layout: Layout, encoding: str, shop: str, currency: str) -> tuple[str, ...]:
    price_head = plain(layout.heads[layout.at["price"]])
    said = [f"read as {encoding}"]
    if "shop" not in layout.at:
        said.append(f"the shop is called {shop.strip() or 'supplier'}")
    if "currency" not in layout.at and not re.search(r"eur|usd|gbp|chf", price_head):
        said.append(f"prices are in {currency}")
    if any(word in price_head for word in GROSS):
        said.append("prices are gross, taken as they stand")
    elif not any(word in price_head for word in NET):
        said.append("prices are as the catalogue's: neither net nor gross is said")
    return tuple(said)


class _Reader:
    """One list's rows, one after the other."""

    def __init__(self, layout: Layout, known: Iterable[AnyPart], shop: str, currency: str) -> None:
        self.at, self.shop, self.currency = layout.at, shop, currency
        self.known = {_key(p.number): p for p in known}
        self.found: dict[str, AnyPart] = {}
        self.told: list[Row] = []
        #: Numbers of rows that came in.
        self.seen: set[str] = set()

    def take(self, line: int, cells: Sequence[str]) -> None:
        outcome, number, reason, new = self._row(cells)
        if outcome.startswith("taken"):
            self.seen.add(_key(number))
        self.told.append(Row(line=line, number=number[:60], outcome=outcome, reason=reason, new=new))

    def _cell(self, cells: Sequence[str], meaning: str) -> str:
        i = self.at.get(meaning)
        return cells[i].strip() if i is not None and i < len(cells) else ""

    def _row(self, cells: Sequence[str]) -> tuple[Outcome, str, str, bool]:
        number, title = self._cell(cells, "number"), self._cell(cells, "name")
        shown = number or title
        if number and _key(number) in self.seen:
            return "left_out", number, "it stands in the list twice: the first row counts", False
        part = self.known.get(_key(number)) if number else self._named_in(title)
        if part is None:
            return self._new(cells, number, title)
        if part.number in self.found:
            return "left_out", part.number, "it stands in the list twice: the first row counts", False
        offer, why = self._offer(cells)
        if offer is None:
            return "left_out", part.number or shown, why, False
        kept = tuple(o for o in part.offers if o.shop != offer.shop)
        self.found[part.number] = part.model_copy(update={"offers": (*kept, offer)})
        return "taken", part.number, "", False

    def _named_in(self, title: str) -> AnyPart | None:
        """The one part of the catalogue whose number stands in a title."""
        words = {_key(w.strip(".,;:()")) for w in title.split()}
        found = [self.known[w] for w in words if w in self.known and len(w) >= 5]
        return found[0] if len(found) == 1 else None

    def _new(self, cells: Sequence[str], number: str, title: str) -> tuple[Outcome, str, str, bool]:
        """A part the catalogue lacks: from its title, as far as that proves one."""
        said = read_title(title, number)
        shown = said.number or number or title
        if said.left_out:
            return "left_out", shown, said.left_out, False
        if said.asked or not said.fields:
            if number and not title:
                return "asked", shown, "no part of the catalogue has this number, and no title says what it is", False
            return "asked", shown, said.asked, False
        if _key(said.number) in self.seen:
            return "left_out", said.number, "it stands in the list twice: the first row counts", False
        offer, why = self._offer(cells)
        if offer is None and ("in the list in" in why or "no price a part has" in why):
            return "left_out", shown, why, False
        maker = self._cell(cells, "maker") or ""
        try:
            part = part_from(
                {**said.fields, "number": said.number, "name": title[:160], "maker": maker[:60],
                 "offers": [offer.model_dump()] if offer else [], "note": f"from a list of {self.shop}"[:200]}
            )  # fmt: skip
        except InputError as error:
            return "asked", shown, f"its title proves no part there is: {error.what}", False
        self.found[part.number] = part
        return ("taken" if offer else "taken_without_offer"), part.number, why, True

    def _offer(self, cells: Sequence[str]) -> tuple[Offer | None, str]:
        """The row's offer, or why there is none."""
        currency = self._cell(cells, "currency").upper()
        if currency and currency != self.currency:
            return None, f"its price stands in the list in {currency}, the catalogue's are in {self.currency}"
        price = self._cell(cells, "price")
        minor = price_minor(price)
        if minor is None and re.search(r"-\s*\d", price):
            return None, f"{price[:40]!r} is no price a part has"
        if minor is None or not 0 <= minor <= 1_000_000_000:
            return None, f"{price[:40]!r} is no price"
        return Offer(
            shop=self._cell(cells, "shop")[:60] or self.shop,
            price_minor=minor,
            stock=stock_of(self._cell(cells, "stock")),
        ), ""


def _key(number: str) -> str:
    return re.sub(r"\s+", "", number).upper()
