"""A supplier's price list as it comes: any separator, any usual encoding, headers in English, German or French.

Only what a list of prices proves is taken: the offer of a part the catalogue knows by its number. Every row ends as
taken or left out with its reason, and what was assumed (encoding, currency, net or gross, the shop) is said.
"""

import csv
import io
import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Literal

from ..core.base import Frozen, InputError
from ..core.machine.part import AnyPart, Offer
from .sheet import is_sheet, sheet_text

#: What heads a column, folded to letters and digits: the longest that stands in the header wins.
_HEADS: Mapping[str, tuple[str, ...]] = {
    "number": (
        "number", "partnumber", "partno", "partnr", "mpn", "sku", "articleno", "articlenumber", "itemno", "manufacturerno",
        "artikelnummer", "artikelnr", "artnr", "bestellnummer", "bestellnr", "herstellernummer", "herstellernr", "teilenummer",
        "reference", "ref", "codearticle", "numerodarticle",
    ),
    "price": (
        "price", "unitprice", "netprice", "grossprice", "priceeur", "preis", "einzelpreis", "nettopreis", "bruttopreis", "vkpreis",
        "ekpreis", "prix", "prixunitaire", "prixht", "prixttc", "tarif",
    ),
    "stock": ("stock", "qty", "quantity", "available", "bestand", "lagerbestand", "lager", "verfugbar", "verfuegbar", "menge", "quantite", "disponible", "stockdisponible"),
    "name": ("name", "title", "description", "product", "bezeichnung", "beschreibung", "artikelbezeichnung", "designation", "libelle", "titre", "article"),
    "shop": ("shop", "supplier", "lieferant", "fournisseur"),
    "currency": ("currency", "wahrung", "waehrung", "devise"),
}  # fmt: skip
_ACCENTS = str.maketrans("àâäéèêëîïôöùûüçÀÂÄÉÈÊËÎÏÔÖÙÛÜÇß", "aaaeeeeiioouuucAAAEEEEIIOOUUUCs")
_GROSS, _NET = ("gross", "brutto", "ttc", "inclvat", "inklmwst"), ("net", "netto", "ht", "exclvat", "exklmwst")
_SEPARATORS = ";\t|,"
#: Rows before the header: a supplier's letterhead.
_LETTERHEAD = 15
_MOST_ROWS = 100_000
Outcome = Literal["taken", "left_out"]


class Row(Frozen):
    """What became of one row; ``line`` counts from 1."""

    line: int
    number: str
    outcome: Outcome
    reason: str = ""


class PriceList(Frozen):
    """The parts whose offers change, what became of every row, and what was assumed."""

    parts: tuple[AnyPart, ...]
    rows: tuple[Row, ...]
    assumed: tuple[str, ...]
    columns: dict[str, str]


def text_as_it_comes(data: bytes, where: str) -> tuple[str, str]:
    """The text of a list and what it was taken to be written in. Raises for what is no text and no workbook."""
    if is_sheet(data):
        return sheet_text(data, where), "a workbook"
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            return data.decode("utf-16"), "UTF-16"
        except UnicodeDecodeError as error:
            raise InputError("half a character in it", where, "Save it again as UTF-8.") from error
    if b"\x00" in data[:4000]:
        raise InputError("no text", where, "Save it as xlsx, ods or CSV.")
    try:
        return data.decode("utf-8-sig"), "UTF-8"
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace"), "Windows-1252"


def columns_of(text: str) -> tuple[int, dict[str, int], str] | None:
    """The header's row, the column of each meaning, and the separator; None where no row heads numbers and prices."""
    lines = text[:20_000].splitlines()[:_LETTERHEAD]
    for n, line in enumerate(lines):
        for separator in _SEPARATORS:
            cells = _head(line, separator)
            found: dict[str, int] = {}
            for i, cell in enumerate(cells):
                meaning = _meaning(cell)
                if meaning and meaning not in found:
                    found[meaning] = i
            if {"number", "price"} <= found.keys():
                return n, found, separator
    return None


def _head(line: str, separator: str) -> list[str]:
    try:
        return next(csv.reader([line], delimiter=separator), [])
    except csv.Error:
        return []


def is_price_list(text: str) -> bool:
    """Numbers and prices, and not our own columns."""
    first = {c.strip().lower() for c in _head(text[:5000].split("\n", 1)[0], ",")}
    return (
        not {"kind", "number", "name"} <= first and text.lstrip()[:1] not in ("[", "{") and columns_of(text) is not None
    )


def _plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.translate(_ACCENTS).lower())


def _meaning(head: str) -> str:
    """What a header means: by the whole of it, or by the longest word known at one of its ends."""
    plain = _plain(head)
    if not plain or len(plain) > 60:
        return ""
    best, length = "", 0
    for meaning, words in _HEADS.items():
        for word in words:
            fits = plain == word or (len(word) >= 4 and (plain.startswith(word) or plain.endswith(word)))
            if fits and len(word) > length:
                best, length = meaning, len(word)
    return best


def price_minor(text: str) -> int | None:
    """'31,50 €', '1.234,50', '1,234.50', '31.5', '1 234,50' in minor units; None for what reads two ways ('1.234' may
    be a thousand or a little over one), for anything else and below zero."""
    cleaned = re.sub(r"(?i)\b(?:EUR|USD|GBP|CHF)\b|[€$£\s\u00a0\u202f']", "", text.strip()[:40])
    if plain := re.fullmatch(r"(\d{1,9})(?:[.,](\d{1,2}))?", cleaned):
        return _minor(plain[1], plain[2])
    for group, point in ((".", ","), (",", ".")):
        found = re.fullmatch(rf"(\d{{1,3}}(?:\{group}\d{{3}}){{1,3}})(?:\{point}(\d{{1,2}}))?", cleaned)
        if found and (found[2] or found[1].count(group) > 1):
            return _minor(found[1].replace(group, ""), found[2])
    return None


def _minor(whole: str, part: str | None) -> int:
    return int(whole) * 100 + int((part or "0").ljust(2, "0"))


def _stock(text: str) -> int | None:
    found = re.fullmatch(
        r"\s*(?:>\s*)?(\d{1,7})(?:[.,]0+)?\s*\+?\s*(?:pcs|stk|st|pieces|stück)?\.?\s*", text, re.IGNORECASE
    )
    return int(found[1]) if found else None


def read_price_list(text: str, encoding: str, known: Iterable[AnyPart], shop: str, currency: str = "EUR") -> PriceList:
    """Lay a list's prices on the catalogue. Raises :class:`InputError` where no column holds numbers or prices."""
    headed = columns_of(text)
    if headed is None:
        raise InputError("no row heads a part number and a price", "price list", "Name the columns in its first row.")
    start, at, separator = headed
    rows = _cells(text, start, separator)
    if len(rows) > _MOST_ROWS:
        raise InputError(f"{len(rows)} rows, at most {_MOST_ROWS} are read", "price list", "Split it.")
    head, shop = rows[0], shop.strip() or "supplier"
    by_number = {_key(p.number): p for p in known}
    price_head = _plain(head[at["price"]])
    gross = any(word in price_head for word in _GROSS)
    assumed = [f"read as {encoding}", f"the shop is called {shop}"] if "shop" not in at else [f"read as {encoding}"]
    if "currency" not in at and not re.search(r"eur|usd|gbp|chf", price_head):
        assumed.append(f"prices are in {currency}")
    if not gross and not any(word in price_head for word in _NET):
        assumed.append("prices are as the catalogue's: neither net nor gross is said")
    elif gross:
        assumed.append("prices are gross, taken as they stand")
    found: dict[str, AnyPart] = {}
    told: list[Row] = []
    for n, cells in enumerate(rows[1:], start + 2):
        told.append(_row(n, cells, at, by_number, found, shop, currency))
    return PriceList(
        parts=tuple(found.values()), rows=tuple(r for r in told if r.number or r.reason), assumed=tuple(assumed),
        columns={meaning: head[i] for meaning, i in at.items()},
    )  # fmt: skip


def _cells(text: str, start: int, separator: str) -> list[list[str]]:
    reader = csv.reader(io.StringIO("\n".join(text.splitlines()[start:])), delimiter=separator)
    try:
        return list(reader)
    except csv.Error as error:
        raise InputError(f"no list: {error}", f"price list, row {start + reader.line_num}", "Mend that row.") from error


def _row(
    line: int, cells: Sequence[str], at: Mapping[str, int], known: Mapping[str, AnyPart], found: dict[str, AnyPart], shop: str,
    currency: str,
) -> Row:  # fmt: skip
    def cell(meaning: str) -> str:
        i = at.get(meaning)
        return cells[i].strip() if i is not None and i < len(cells) else ""

    number = cell("number")
    if not any(c.strip() for c in cells):
        return Row(line=line, number="", outcome="left_out")
    if not number:
        return Row(line=line, number=cell("name")[:60], outcome="left_out", reason="no part number in it")
    part = known.get(_key(number))
    if part is None:
        return Row(line=line, number=number[:60], outcome="left_out", reason="no part of the catalogue has this number")
    said = cell("currency").upper()
    if said and said != currency:
        return Row(
            line=line,
            number=number[:60],
            outcome="left_out",
            reason=f"its price is in {said}, the catalogue's in {currency}",
        )
    minor = price_minor(cell("price"))
    if minor is None or not 0 <= minor <= 1_000_000_000:
        return Row(line=line, number=number[:60], outcome="left_out", reason=f"{cell('price')[:40]!r} is no price")
    if part.number in found:
        return Row(
            line=line,
            number=number[:60],
            outcome="left_out",
            reason="the number stands in the list twice: the first row counts",
        )
    offer = Offer(shop=cell("shop")[:60] or shop, price_minor=minor, stock=_stock(cell("stock")))
    kept = tuple(o for o in part.offers if o.shop != offer.shop)
    found[part.number] = part.model_copy(update={"offers": (*kept, offer)})
    return Row(line=line, number=part.number, outcome="taken")


def _key(number: str) -> str:
    return re.sub(r"\s+", "", number).upper()
