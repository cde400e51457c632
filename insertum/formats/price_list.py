"""How a supplier's list is laid out: any separator, any usual encoding, headers in English, German or French, prices and
stock as people write them. What becomes of its rows: :mod:`.supplier_list`."""

import csv
import io
import re
from collections.abc import Mapping

from ..core.base import Frozen, InputError
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
        "ekpreis", "prix", "prixunitaire", "prixht", "prixttc", "tarif", "vk", "vkbrutto", "vknetto", "ek",
    ),
    "stock": ("stock", "qty", "quantity", "available", "bestand", "lagerbestand", "lager", "verfugbar", "verfuegbar", "menge", "quantite", "disponible", "stockdisponible", "onhand", "instock"),
    "name": ("name", "title", "description", "product", "bezeichnung", "beschreibung", "artikelbezeichnung", "designation", "libelle", "titre", "article", "item", "titel"),
    "maker": ("maker", "manufacturer", "brand", "hersteller", "marke", "fabricant", "marque"),
    "shop": ("shop", "supplier", "lieferant", "fournisseur"),
    "currency": ("currency", "wahrung", "waehrung", "devise"),
}  # fmt: skip
_ACCENTS = str.maketrans("àâäéèêëîïôöùûüçÀÂÄÉÈÊËÎÏÔÖÙÛÜÇß", "aaaeeeeiioouuucAAAEEEEIIOOUUUCs")
GROSS, NET = ("gross", "brutto", "ttc", "inclvat", "inklmwst"), ("net", "netto", "ht", "exclvat", "exklmwst")
_SEPARATORS = ";\t|,"
#: Rows before the header: a supplier's letterhead.
_LETTERHEAD = 15
MOST_ROWS = 100_000


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


class Layout(Frozen):
    """How a list is laid out: the header's row, its heads, the column of each meaning, and what parts the cells."""

    start: int
    heads: tuple[str, ...]
    at: dict[str, int]
    separator: str

    @property
    def is_complete(self) -> bool:
        """Are there prices, and something to tell parts by?"""
        return "price" in self.at and bool({"number", "name"} & self.at.keys())


def layout_of(text: str, named: Mapping[str, str] | None = None) -> Layout:
    """Where header and columns are, by likeness, or as somebody named them (meaning to head, "" for none). Where no
    row heads prices the first row that parts into cells is the header, and which column is which stays open."""
    best: Layout | None = None
    for n, line in enumerate(text[:20_000].splitlines()[:_LETTERHEAD]):
        for separator in _SEPARATORS:
            heads = [h.strip() for h in _head(line, separator)]
            if len([h for h in heads if h]) < 2:
                continue
            at: dict[str, int] = {}
            for i, head in enumerate(heads):
                meaning = _meaning(head)
                if meaning and meaning not in at:
                    at[meaning] = i
            if named:
                at = {m: i for m, i in at.items() if m not in named}
                at |= {m: heads.index(h) for m, h in named.items() if h in heads}
                if any(h and h not in heads for h in named.values()):
                    continue
            found = Layout(start=n, heads=tuple(heads), at=at, separator=separator)
            if best is None or _worth(found) > _worth(best):
                best = found
    if best is None:
        raise InputError(
            "no row parts into columns", "price list", "Save it as CSV, with a first row that names the columns."
        )
    return best


def _worth(layout: Layout) -> tuple[bool, int, int]:
    return layout.is_complete, len(layout.at), len(layout.heads) if layout.start == 0 else 0


def _head(line: str, separator: str) -> list[str]:
    try:
        return next(csv.reader([line], delimiter=separator), [])
    except csv.Error:
        return []


def is_price_list(text: str) -> bool:
    """No JSON, and not our own columns."""
    for separator in _SEPARATORS:
        first = {c.strip().lower() for c in _head(text[:5000].lstrip("\ufeff").split("\n", 1)[0], separator)}
        if {"kind", "number"} <= first or {"kind", "name"} <= first:
            return False
    return text.lstrip()[:1] not in ("[", "{")


def plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.translate(_ACCENTS).lower())


def _meaning(head: str) -> str:
    """What a header means: by the whole of it, or by the longest word known at one of its ends."""
    folded = plain(head)
    if not folded or len(folded) > 60:
        return ""
    best, length = "", 0
    for meaning, words in _HEADS.items():
        for word in words:
            fits = folded == word or (len(word) >= 4 and (folded.startswith(word) or folded.endswith(word)))
            if fits and len(word) > length:
                best, length = meaning, len(word)
    return best


def price_minor(text: str) -> int | None:
    """'31,50 €', '1.234,50', '1,234.50', '31.5', '1 234,50' in minor units; None for what reads two ways ('1.234' may
    be a thousand or a little over one), for anything else and below zero."""
    cleaned = re.sub(r"(?i)\b(?:EUR|USD|GBP|CHF)\b|[€$£\s\u00a0\u202f']", "", text.strip()[:40])
    if simple := re.fullmatch(r"(\d{1,9})(?:[.,](\d{1,2}))?", cleaned):
        return _minor(simple[1], simple[2])
    for group, point in ((".", ","), (",", ".")):
        found = re.fullmatch(rf"(\d{{1,3}}(?:\{group}\d{{3}}){{1,3}})(?:\{point}(\d{{1,2}}))?", cleaned)
        if found and (found[2] or found[1].count(group) > 1):
            return _minor(found[1].replace(group, ""), found[2])
    return None


def _minor(whole: str, part: str | None) -> int:
    return int(whole) * 100 + int((part or "0").ljust(2, "0"))


def stock_of(text: str) -> int | None:
    found = re.fullmatch(
        r"\s*(?:>\s*)?(\d{1,7})(?:[.,]0+)?\s*\+?\s*(?:pcs|stk|st|pieces|stück)?\.?\s*", text, re.IGNORECASE
    )
    return int(found[1]) if found else None


def cells_of(text: str, start: int, separator: str) -> list[list[str]]:
    reader = csv.reader(io.StringIO("\n".join(text.splitlines()[start:])), delimiter=separator)
    try:
        return list(reader)
    except csv.Error as error:
        raise InputError(f"no list: {error}", f"price list, row {start + reader.line_num}", "Mend that row.") from error
