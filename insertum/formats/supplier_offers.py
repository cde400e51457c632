"""A supplier's list read row by row: offers of parts the catalogue knows, and new parts from what titles prove.

Every row ends as taken, taken without an offer, asked or left out, with its reason; what was assumed (encoding,
currency, net or gross, the shop) is said.
"""

import re
from collections.abc import Generator, Iterable, Mapping, Sequence
from typing import Any, Literal

from ..core.errors import InputError
from ..core.frozen import Frozen
from ..core.machine.part import AnyPart
from ..core.machine.part_base import Offer
from ..core.part_title import not_new, read_title, sold_together
from ..core.standards.currency import digits, named_in
from .list_layout import (
    GROSS,
    MOST_ROWS,
    NET,
    Layout,
    cells_of,
    layout_of,
    plain,
    price_minor,
    reads_two_ways,
    stock_of,
)
from .parts import part_from

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
    #: Asked for what a part is: its fields answer it.
    answerable: bool = False


class SupplierList(Frozen):
    """The parts that come in or whose offers change, what became of every row, and what was assumed."""

    parts: tuple[AnyPart, ...]
    rows: tuple[Row, ...]
    assumed: tuple[str, ...]
    columns: dict[str, str]
    heads: tuple[str, ...]
    #: Does a currency have to be named, because the list names none or a sign several share?
    currency_open: bool = False


def read_supplier_list(
    text: str, encoding: str, known: Iterable[AnyPart], shop: str, currency: str = "EUR", named: Mapping[str, str] | None = None,
    told: str = "", answers: Mapping[str, Mapping[str, Any]] | None = None,
) -> SupplierList:  # fmt: skip
    """The whole list at once."""
    steps = supplier_steps(text, encoding, known, shop, currency, named, told, answers)
    while True:
        try:
            next(steps)
        except StopIteration as done:
            found: SupplierList = done.value
            return found


def supplier_steps(
    text: str, encoding: str, known: Iterable[AnyPart], shop: str, currency: str = "EUR", named: Mapping[str, str] | None = None,
    told: str = "", answers: Mapping[str, Mapping[str, Any]] | None = None,
) -> Generator[tuple[int, int], None, SupplierList]:  # fmt: skip
    """Read a list, saying (rows read, rows in all) on the way. ``named`` says which head means what, where somebody has
    chosen; ``currency`` is the workshop's own, ``told`` the one this supplier is known to sell in; ``answers`` are fields
    somebody gave for all rows asked for one reason. Raises :class:`InputError` where no column holds prices or nothing
    tells parts."""
    layout = layout_of(text, named)
    if not layout.is_complete:
        raise InputError(
            "which column holds the prices, and which the numbers or titles?", "price list", "Choose them below."
        )
    rows = cells_of(text, layout.start, layout.separator)
    if len(rows) > MOST_ROWS:
        raise InputError(f"{len(rows)} rows, at most {MOST_ROWS} are read", "price list", "Split it.")
    body = rows[1:] if layout.headed else rows
    reader = _Reader(layout, body, known, shop.strip() or "supplier", currency, told, answers or {})
    for n, cells in enumerate(body, layout.start + 2):
        if any(c.strip() for c in cells):
            reader.take(n, cells)
        if n % CHUNK == 0:
            yield n, len(rows)
    return SupplierList(
        parts=tuple(reader.found.values()), rows=tuple(reader.told), assumed=_assumed(layout, encoding, shop, told, reader.money),
        columns={meaning: layout.heads[i] for meaning, i in layout.at.items()}, heads=layout.heads,
        currency_open=reader.money.open,
    )  # fmt: skip


def _assumed(layout: Layout, encoding: str, shop: str, told: str, money: "_Money") -> tuple[str, ...]:
    said = [f"read as {encoding}"]
    if not layout.headed:
        said.append("it has no heads: the columns are told by what stands in them")
    if "shop" not in layout.at:
        said.append(f"the shop is called {shop.strip() or 'supplier'}")
    if told and not money.head:
        said.append(f"prices without a sign are in {told}, as this supplier's are")
    if money.tax == "gross":
        said.append("prices are gross, kept as told")
    elif money.tax == "net":
        said.append("prices are net, kept as told")
    else:
        said.append("neither net nor gross is said")
    return tuple(said)


class _Money:
    """In which currency a list's prices are: the row's own word, its head's, or the supplier's; what could be meant two
    ways is asked, and nothing is converted."""

    def __init__(self, layout: Layout, rows: Sequence[Sequence[str]], own: str, told: str) -> None:
        self.own, self.told, self.at = own, told, layout.at
        head = layout.heads[layout.at["price"]] if layout.headed else ""
        self.head = named_in(head) or named_in(layout.above)
        folded = plain(head)
        self.tax = "gross" if any(w in folded for w in GROSS) else "net" if any(w in folded for w in NET) else ""
        #: Does any row name a currency? Then one that does not is not simply the supplier's.
        self.some_name = any(self._named(cells) for cells in rows)
        self.open = False

    def _cell(self, cells: Sequence[str], meaning: str) -> str:
        i = self.at.get(meaning)
        return cells[i].strip() if i is not None and i < len(cells) else ""

    def _named(self, cells: Sequence[str]) -> tuple[tuple[str, ...], ...]:
        return _named_anyhow(self._cell(cells, "currency")) or _named_anyhow(self._cell(cells, "price"))

    def of(self, cells: Sequence[str]) -> tuple[str, str]:
        """(the row's currency, "") or ("", what is asked)."""
        column, cell = (_named_anyhow(self._cell(cells, m)) for m in ("currency", "price"))
        said = [named for named in (column, cell, self.head) if named]
        if not said:
            if self.some_name:
                return "", "in which currency is its price? other rows name one"
            self.open = self.open or not self.told
            return (self.told, "") if self.told else ("", "in which currency are its prices? the list does not say")
        if any(len(named) > 1 for named in said):
            return "", "two currencies are named for one price"
        left = [c for c in said[0][0] if all(c in named[0] for named in said)]
        if not left:
            return "", "two currencies are named for one price"
        if len(left) == 1:
            return left[0], ""
        if self.told in left:
            return self.told, ""
        if left[0] in _USUAL and self.own not in left:
            return left[0], ""
        self.open = True
        return "", f"which currency is meant: {', '.join(left[:4])}?"


#: Of signs several currencies share, those that mean the first of them where the workshop deals in none of the others.
_USUAL = ("USD", "JPY")


def _named_anyhow(cell: str) -> tuple[tuple[str, ...], ...]:
    return named_in(cell) or named_in(cell.upper())


#: What stands for the sum of the rows above.
_SUM = re.compile(r"\s*(?:sub-?\s?total|total|totale|sum|summe|gesamt\w*|zwischensumme|sous-total|suma|somma)\b", re.I)


class _Reader:
    """One list's rows, one after the other."""

    def __init__(
        self, layout: Layout, rows: Sequence[Sequence[str]], known: Iterable[AnyPart], shop: str, currency: str, told: str,
        answers: Mapping[str, Mapping[str, Any]],
    ) -> None:  # fmt: skip
        self.at, self.shop, self.answers = layout.at, shop, answers
        self.money = _Money(layout, rows, currency, told)
        self.known = {_key(p.number): p for p in known}
        #: As lists write numbers, with other dashes and blanks; None where two are alike then.
        self.loose: dict[str, AnyPart | None] = {}
        for p in self.known.values():
            key = _loose(p.number)
            self.loose[key] = None if key in self.loose else p
        self.found: dict[str, AnyPart] = {}
        self.told: list[Row] = []
        #: What titles leave open, that fields of a part can answer.
        self.open: set[str] = set()
        #: Numbers of rows that came in.
        self.seen: set[str] = set()

    def take(self, line: int, cells: Sequence[str]) -> None:
        outcome, number, reason, new = self._row(cells)
        if outcome.startswith("taken"):
            self.seen.add(_key(number))
        open_ = outcome == "asked" and reason in self.open
        self.told.append(Row(line=line, number=number[:60], outcome=outcome, reason=reason, new=new, answerable=open_))

    def _cell(self, cells: Sequence[str], meaning: str) -> str:
        i = self.at.get(meaning)
        return cells[i].strip() if i is not None and i < len(cells) else ""

    def _known(self, number: str) -> AnyPart | None:
        return self.known.get(_key(number)) or self.loose.get(_loose(number))

    def _row(self, cells: Sequence[str]) -> tuple[Outcome, str, str, bool]:
        number, title = self._cell(cells, "number"), self._cell(cells, "name")
        shown = number or title
        told = [c.strip() for c in cells if c.strip()]
        if len(told) == 1 and not self._cell(cells, "price"):
            return "left_out", shown or told[0], "a heading", False
        if any(_SUM.match(c) for c in told[:2]) and (not number or _SUM.match(number)):
            return "left_out", shown, "a sum", False
        if number and _key(number) in self.seen:
            return "left_out", number, "it stands in the list twice: the first row counts", False
        part = self._known(number) if number else self._named_in(title)
        why = "not new, as the list says" if not_new(self._cell(cells, "condition")) else ""
        if part is None:
            return ("asked", shown, why, False) if why else self._new(cells, number, title)
        if part.number in self.found:
            return "left_out", part.number, "it stands in the list twice: the first row counts", False
        why = why or ("not new, as its title says" if not_new(title) else "")
        if why:
            return "asked", part.number, why, False
        pieces, why = sold_together(title)
        if why and part.kind == "memory":
            return "asked", part.number, why, False
        offer, outcome, why = self._offer(cells, max(self._pieces(cells), pieces))
        if offer is None:
            return outcome, part.number or shown, why, False
        kept = tuple(o for o in part.offers if o.shop != offer.shop)
        self.found[part.number] = part.model_copy(update={"offers": (*kept, offer)})
        return "taken", part.number, why, False

    def _named_in(self, title: str) -> AnyPart | None:
        """The one part of the catalogue whose number stands in a title."""
        words = {_key(w.strip(".,;:()")) for w in title.split()}
        found = [self.known[w] for w in words if w in self.known and len(w) >= 5]
        return found[0] if len(found) == 1 else None

    def _pieces(self, cells: Sequence[str]) -> int:
        """How many modules a kit's column says one row sells."""
        told = self._cell(cells, "pieces")
        return int(told) if re.fullmatch(r"[1-8]", told) else 1

    def _words(self, cells: Sequence[str], title: str) -> str:
        """The title with what group and capacity columns say beside it."""
        capacity = self._cell(cells, "capacity")
        return " ".join(
            w
            for w in (title, self._cell(cells, "group"), capacity)
            if w and w.lower() not in title.lower() or w == title
        )

    def _new(self, cells: Sequence[str], number: str, title: str) -> tuple[Outcome, str, str, bool]:
        """A part the catalogue lacks: from its title, as far as that proves one."""
        said = read_title(self._words(cells, title), number)
        shown = said.number or number or title
        if said.left_out:
            return "left_out", shown, said.left_out, False
        if number and not title:
            return "asked", shown, "no part of the catalogue has this number, and no title says what it is", False
        if said.asked and said.number and said.answerable:
            self.open.add(said.asked)
        answered = self.answers.get(said.asked) if said.asked else None
        if (said.asked and answered is None) or not (said.fields or answered) or not said.number:
            return "asked", shown, said.asked or "the title does not say what kind of part it is", False
        if _key(said.number) in self.seen:
            return "left_out", said.number, "it stands in the list twice: the first row counts", False
        offer, outcome, why = self._offer(cells, max(said.pieces, self._pieces(cells)))
        if offer is None and not (outcome == "left_out" and why.endswith("is no price")):
            return outcome, shown, why, False
        maker = self._cell(cells, "maker") or ""
        try:
            part = part_from(
                {**said.fields, **(answered or {}), "number": said.number, "name": title[:160], "maker": maker[:60],
                 "offers": [offer.model_dump()] if offer else [], "note": f"from a list of {self.shop}"[:200]}
            )  # fmt: skip
        except InputError as error:
            return "asked", shown, f"its title proves no part there is: {error.what}", False
        self.found[part.number] = part
        return ("taken" if offer else "taken_without_offer"), part.number, why, True

    def _offer(self, cells: Sequence[str], pieces: int) -> tuple[Offer | None, Outcome, str]:
        """The row's offer with a word on it, or what becomes of the row and why."""
        price = self._cell(cells, "price")
        if not re.search(r"\d", price):
            return None, "left_out", f"{price[:40]!r} is no price"
        currency, asked = self.money.of(cells)
        if asked:
            return None, "asked", asked
        places = digits(currency)
        minor = price_minor(price, places)
        if minor is None and reads_two_ways(price, places):
            return None, "asked", f"{price[:40]!r} reads two ways: thousands, or decimals?"
        if minor is None and re.search(r"-\s*\d", price):
            return None, "left_out", f"{price[:40]!r} is no price a part has"
        if minor is None or not 0 < minor <= 1_000_000_000:
            return None, "left_out", f"{price[:40]!r} is no price"
        foreign = "" if currency == self.money.own else currency
        words = [f"its price is in {foreign}: kept as told, never converted"] if foreign else []
        words += [f"a kit of {pieces}: its price is the kit's"] if pieces > 1 else []
        return Offer(
            shop=self._cell(cells, "shop")[:60] or self.shop, price_minor=minor, stock=stock_of(self._cell(cells, "stock")),
            currency=foreign, pieces=pieces, tax=self.money.tax,
        ), "taken", "; ".join(words)  # fmt: skip


def _loose(number: str) -> str:
    return re.sub(r"[\s\-–_/.]", "", number).upper()


def _key(number: str) -> str:
    return re.sub(r"\s+", "", number).upper()
