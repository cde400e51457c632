"""How a supplier's list is laid out: any separator, any usual encoding, headers in English, German or French, prices and
stock as people write them. What becomes of its rows: :mod:`.supplier_list`."""

import csv
import io
import re
from collections.abc import Mapping, Sequence
from functools import lru_cache

from ..core.errors import InputError
from ..core.frozen import Frozen
from ..core.standards.currency import named_in, without
from .sheet import is_sheet, sheet_text

#: What heads a column, folded to letters and digits: the longest that stands in the header wins.
_HEADS: Mapping[str, tuple[str, ...]] = {
    "number": (
        "number", "partnumber", "partno", "partnr", "mpn", "sku", "articleno", "articlenumber", "itemno", "manufacturerno", "id", "no", "nr", "code",
        "artikelnummer", "artikelnr", "artnr", "bestellnummer", "bestellnr", "herstellernummer", "herstellernr", "teilenummer",
        "reference", "ref", "codearticle", "numerodarticle", "codigo", "referencia", "codice", "riferimento", "productcode", "itemcode",
    ),
    "price": (
        "price", "unitprice", "netprice", "grossprice", "priceeur", "preis", "einzelpreis", "nettopreis", "bruttopreis", "vkpreis",
        "ekpreis", "prix", "prixunitaire", "prixht", "prixttc", "tarif", "vk", "vkbrutto", "vknetto", "ek", "precio", "prezzo",
    ),
    "stock": (
        "stock", "qty", "quantity", "available", "availability", "avail", "bestand", "lagerbestand", "lager", "verfugbar", "verfuegbar", "verfugbarkeit",
        "menge", "quantite", "disponible", "stockdisponible", "dispo", "onhand", "instock", "existencias", "cantidad", "giacenza", "disponibilita", "quantita",
    ),
    "name": (
        "name", "title", "description", "product", "bezeichnung", "beschreibung", "artikelbezeichnung", "designation", "libelle", "titre", "article", "item",
        "titel", "artikel", "produkt", "produit", "descripcion", "producto", "descrizione", "prodotto", "articolo",
    ),
    "maker": ("maker", "manufacturer", "brand", "hersteller", "marke", "fabricant", "marque", "fabricante", "marca", "produttore"),
    "shop": ("shop", "supplier", "lieferant", "fournisseur", "proveedor", "fornitore"),
    "currency": ("currency", "cur", "curr", "wahrung", "waehrung", "devise", "moneda", "divisa", "valuta"),
    "condition": ("condition", "zustand", "etat", "estado", "stato", "condizione"),
    "group": ("group", "category", "type", "kind", "warengruppe", "gruppe", "kategorie", "typ", "categorie", "famille", "categoria", "tipo", "interface"),
    "capacity": ("capacity", "size", "kapazitat", "kapazitaet", "groesse", "grosse", "capacite", "taille", "capacidad", "capacita"),
    "pieces": ("modules", "module", "pieces", "pcsperkit", "packsize", "kitsize", "stuckprokit", "modulesperkit", "piecesperkit"),
    "list": (
        "listprice", "listpreis", "listenpreis", "uvp", "rrp", "msrp", "oldprice", "was", "prixcatalogue", "prixpublic", "preciodelista", "prezzodilistino",
        "discount", "rabatt", "remise", "descuento", "sconto", "total", "gesamt", "gesamtpreis", "summe", "linetotal",
    ),
}  # fmt: skip
#: What is told of a row beside what it is and what it costs.
_LESS_THAN_NET = ("net", "netto", "nettopreis", "prixht", "ekpreis", "ihrpreis", "yourprice")
#: "10+", "ab 10", "Price 10+": a price for so many.
_TIER = re.compile(
    r"(?:\bab\s*|\bfrom\s*|\bdes\s*)(\d{1,5})\b|(\d{1,5})\s?\+|\b(\d{1,5})\s?(?:-|–)\s?\d{1,5}\b(?!\s?(?:mm|GB))", re.I
)
_ACCENTS = str.maketrans("àáâäéèêëíîïóôöùúûüçñÀÁÂÄÉÈÊËÍÎÏÓÔÖÙÚÛÜÇÑß", "aaaaeeeeiiiooouuuucnAAAAEEEEIIIOOOUUUUCNs")
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
    #: What the lines above the header and the head of the prices name as currencies.
    above: str = ""
    #: Is there a row of heads, or were the columns told by the shapes of all rows?
    headed: bool = True

    @property
    def is_complete(self) -> bool:
        """Are there prices, and something to tell parts by?"""
        return "price" in self.at and bool({"number", "name"} & self.at.keys())


def layout_of(text: str, named: Mapping[str, str] | None = None) -> Layout:
    """Where header and columns are, by likeness, or as somebody named them (meaning to head, "" for none). Where no
    row heads prices the columns are told by the shapes of all rows, where those tell; else the first row that parts into
    cells is the header, and which column is which stays open."""
    best: Layout | None = None
    lines = text[:20_000].splitlines()[:_LETTERHEAD]
    for n, line in enumerate(lines):
        for separator in _SEPARATORS:
            heads = [h.strip() for h in _head(line, separator)]
            if len([h for h in heads if h]) < 2:
                continue
            at = _meanings(heads)
            if named:
                at = {m: i for m, i in at.items() if m not in named}
                at |= {m: heads.index(h) for m, h in named.items() if h in heads}
                if any(h and h not in heads for h in named.values()):
                    continue
            above = " ".join(lines[:n])[:400]
            found = Layout(start=n, heads=tuple(heads), at=at, separator=separator, above=above)
            if best is None or _worth(found) > _worth(best):
                best = found
    if (best is None or not best.is_complete) and (shaped := _by_shapes(text, named)):
        return shaped
    if best is None:
        raise InputError(
            "no row parts into columns", "price list", "Save it as CSV, with a first row that names the columns."
        )
    return best


def _meanings(heads: Sequence[str]) -> dict[str, int]:
    """Which column means what: of list price, discount and net the net, of prices for many the price of one."""
    at: dict[str, int] = {}
    ranks: dict[int, int] = {}
    for i, head in enumerate(heads):
        meaning, tier = _meaning(head), _TIER.search(head)
        named = named_in(head)
        priced = meaning == "price" or (bool(named) and (not meaning or not plain(without(head))))
        if tier and (priced or not meaning):
            if int(next(g for g in tier.groups() if g)) == 1:
                ranks[i] = 1
        elif priced:
            ranks[i] = 0 if any(word in plain(head) for word in _LESS_THAN_NET) else 2
        elif meaning and meaning != "list" and meaning not in at:
            at[meaning] = i
    if ranks:
        at["price"] = min(ranks, key=lambda i: (ranks[i], i))
    return at


#: Rows of a list without heads are told apart by the shapes of so many of them.
_LOOKED_AT = 400
_LIKE_NUMBER = re.compile(r"(?=.*\d)(?=.*[A-Za-z])[A-Za-z0-9][A-Za-z0-9./_-]{3,39}")


def _by_shapes(text: str, named: Mapping[str, str] | None) -> Layout | None:
    """The columns of a list without heads, by what stands in them: prices have decimals or a sign, numbers are words of
    letters and digits that differ, titles are the longest texts, stock is small whole numbers."""
    for separator in _SEPARATORS:
        rows = [r for r in cells_of(text[:200_000], 0, separator)[:_LOOKED_AT] if any(c.strip() for c in r)]
        width = max((len(r) for r in rows), default=0)
        if not rows or width < 2:
            continue
        share: dict[str, list[float]] = {}
        columns = [[r[i].strip() if i < len(r) else "" for r in rows] for i in range(width)]
        share["price"] = [sum(bool(_LIKE_PRICE.fullmatch(c)) for c in col) / len(rows) for col in columns]
        share["number"] = [
            sum(bool(_LIKE_NUMBER.fullmatch(c)) for c in col) / len(rows) * len(set(col)) / len(rows) for col in columns
        ]
        share["stock"] = [sum(bool(re.fullmatch(r"\d{1,4}", c)) for c in col) / len(rows) for col in columns]
        at: dict[str, int] = {}
        for meaning, least in (("price", 0.6), ("number", 0.6), ("stock", 0.8)):
            free = [i for i in range(width) if i not in at.values()]
            best = max(free, key=lambda i: share[meaning][i], default=-1)
            if best >= 0 and share[meaning][best] >= least:
                at[meaning] = best
        rest = [i for i in range(width) if i not in at.values()]
        long = max(rest, key=lambda i: sum(len(c) for c in columns[i]), default=-1)
        if long >= 0 and sum(len(c) for c in columns[long]) > 8 * len(rows):
            at["name"] = long
        if named:
            heads = [f"column {i + 1}" for i in range(width)]
            at = {m: i for m, i in at.items() if m not in named} | {
                m: heads.index(h) for m, h in named.items() if h in heads
            }
        # A first row without a price is a row of heads nobody knows: which means what is asked.
        first = "price" in at and bool(_LIKE_PRICE.fullmatch(columns[at["price"]][0]))
        if first and ({"number", "name"} & at.keys()):
            return Layout(
                start=-1, heads=tuple(f"column {i + 1}" for i in range(width)), at=at, separator=separator, headed=False
            )
    return None


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
    """A header without accents, spaces, marks and capitals."""
    return re.sub(r"[^a-z0-9]", "", text.translate(_ACCENTS).lower())


def _meaning(head: str) -> str:
    """What a header means: by the whole of it, or by the longest word known at one of its ends."""
    folded = plain(head)
    if not folded or len(folded) > 60:
        return ""
    best, length = "", 0
    for meaning, words in _HEADS.items():
        for word in words:
            fits = folded == word or (
                len(word) >= 4 and meaning != "group" and (folded.startswith(word) or folded.endswith(word))
            )
            if fits and len(word) > length:
                best, length = meaning, len(word)
    return best


#: A cell of prices: with its decimals, or with a sign.
_LIKE_PRICE = re.compile(
    r"\D{0,4}\d{1,3}(?:[.,' ]?\d{3})*[.,]\d{2}\D{0,4}|(?:[€$£¥]|[A-Z]{3})\s?\d+|\d+\s?(?:[€$£¥]|[A-Z]{3})"
)


@lru_cache(maxsize=8192)  # a list says the same prices again and again
def price_minor(text: str, places: int = 2) -> int | None:
    """'31,50 €', '1.234,50', '1,234.50', '31.5', '1 234,50' in minor units of a currency with so many decimals; None for
    what reads two ways ('1.234' may be a thousand or a little over one), for anything else and below zero."""
    bare = re.sub(
        r"[.,][-–]+$", "", without(text.strip()[:40].upper() if text.isascii() else text.strip()[:40]).strip()
    )
    cleaned = re.sub(r"[\s\u00a0\u202f']", "", bare)
    if simple := re.fullmatch(rf"(\d{{1,9}})(?:[.,](\d{{1,{places}}}))?" if places else r"(\d{1,9})", cleaned):
        return _minor(simple[1], simple[2] if places else None, places)
    for group, point in ((".", ","), (",", ".")):
        found = re.fullmatch(rf"(\d{{1,3}}(?:\{group}\d{{3}}){{1,3}})(?:\{point}(\d{{1,2}}))?", cleaned)
        if found and (found[2] or found[1].count(group) > 1):
            if found[2] and len(found[2]) > places:
                return None
            return _minor(found[1].replace(group, ""), found[2], places)
    return None


def reads_two_ways(text: str, places: int = 2) -> bool:
    """'1.234': a thousand, or a little over one?"""
    bare = re.sub(r"[\s\u00a0\u202f']", "", without(text))
    return price_minor(text, places) is None and bool(re.fullmatch(r"\d{1,3}[.,]\d{3}", bare))


def _minor(whole: str, part: str | None, places: int) -> int:
    return int(whole) * 10**places + int((part or "0").ljust(places, "0") if places else 0)


@lru_cache(maxsize=1024)
def stock_of(text: str) -> int | None:
    """How many are there, of a cell as lists write it; None where it says no number."""
    found = re.fullmatch(
        r"\s*(?:>\s*)?(\d{1,7})(?:[.,]0+)?\s*\+?\s*(?:pcs|stk|st|pieces|stück)?\.?\s*", text, re.IGNORECASE
    )
    return int(found[1]) if found else None


def cells_of(text: str, start: int, separator: str) -> list[list[str]]:
    """The rows from the header on; from the first row where there is none (``start`` −1), after an empty one in its place."""
    lines = text.splitlines()
    reader = csv.reader(io.StringIO("\n".join(lines[max(start, 0) :])), delimiter=separator)
    try:
        return list(reader)
    except csv.Error as error:
        raise InputError(f"no list: {error}", f"price list, row {start + reader.line_num}", "Mend that row.") from error
