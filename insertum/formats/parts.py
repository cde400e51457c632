"""Parts as CSV and JSON. A CSV row may carry the printed label or M.2 code: what those prove is
read from them, and a column that says otherwise is a mistake in the row."""

import csv
import io
import json
import re
from collections.abc import Generator, Iterator
from decimal import Decimal, InvalidOperation
from typing import Any, get_args

from pydantic import TypeAdapter

from ..core.errors import InputError
from ..core.frozen import Frozen
from ..core.kinds.all import KINDS
from ..core.kinds.base import COMMON_COLUMNS
from ..core.machine.part import AnyPart, Part
from ..core.machine.part_base import Offer, card_from_code
from ..core.money import major
from ..core.standards import m2
from ..core.standards.currency import CODES, digits
from ..core.standards.module_label import read_label
from ..core.survey.label_fields import module_fields
from .json_errors import RowsRefused, parsed, rows_of, shaped

PART: TypeAdapter[Any] = TypeAdapter(Part)


class _One(Frozen):
    part: Part


def part_from(value: Any) -> AnyPart:
    """One part from what was typed. Raises :class:`InputError` naming the field."""
    return shaped(_One, {"part": value}, "part").part


#: Every kind's columns, the common ones first and what all have at the end.
COLUMNS = list(
    dict.fromkeys([*COMMON_COLUMNS, *(c for k in KINDS.values() for c in k.columns), "selling", "offers", "note"])
)
#: CSV column to (attribute, factor): people write mm, V and Wh; the core counts µm, mV and mWh.
SCALED = {
    "height_mm": ("height_um", 1000),
    "above_mm": ("above_um", 1000),
    "below_mm": ("below_um", 1000),
    "design_wh": ("design_mwh", 1000),
    "full_wh": ("full_mwh", 1000),
    "voltage_v": ("voltage_mv", 1000),
    "charge_v": ("charge_mv", 1000),
    "spreader_mm": ("spreader_um", 1000),
    "thickness_mm": ("thickness_um", 1000),
    "selling": ("selling_minor", 100),
}
_COLUMN_OF = {attribute: column for column, (attribute, _) in SCALED.items()}
LISTS = ("bands", "families", "keys", "drivers_full", "drivers_older", "drivers_none")
FLAGS = ("needs_cooling", "spinning", "safety_mark", "fills_bay", "edge_connector", "clock_driver", "swollen")
_NONE_IS_KNOWN = ("bluetooth", "tied_to")
_YES_NO = {"yes": True, "no": False}


def columns_of(attribute: str) -> tuple[str, ...]:
    """The columns a part's attribute stands in; how far a driver goes stands in three."""
    if attribute == "drivers":
        return tuple(c for c in LISTS if c.startswith("drivers_"))
    return (_COLUMN_OF.get(attribute, attribute),)


#: How many rows are read between two words about progress.
CHUNK = 500
Steps = Generator[int, None, list[AnyPart]]


def read_csv(text: str) -> list[AnyPart]:
    """Parts from CSV text, all or nothing. Empty cells are unknown.

    Raises :class:`RowsRefused` with every bad row, or :class:`InputError` for a bad header.
    """
    return _drained(_csv_steps(text))


def _csv_steps(text: str) -> Steps:
    reader = csv.DictReader(io.StringIO(text, newline=""), delimiter=_separator(text))
    try:
        header = [h.strip() for h in reader.fieldnames or []]
    except csv.Error as error:
        raise InputError(f"no CSV: {error}", "row 1", "Save it as comma-separated text.") from error
    if unknown := [h for h in header if h not in COLUMNS]:
        raise InputError(f"no column {unknown[0]!r}", "row 1", f"Columns are {', '.join(COLUMNS)}.")
    if missing := [c for c in ("kind", "number", "name") if c not in header]:
        raise InputError(f"column {missing[0]!r} is missing", "row 1", "kind, number and name are needed.")
    parts: list[AnyPart] = []
    problems: list[tuple[int, str, str]] = []
    seen: dict[str, int] = {}
    for count, line in enumerate(_lines(reader), 1):
        number = reader.line_num
        if count % CHUNK == 0:
            yield count
        if None in line:
            problems.append((number, "row", "more cells than columns"))
            continue
        cells = {k.strip(): _plain((v or "").strip()) for k, v in line.items()}
        if (first := seen.setdefault(cells["number"], number)) != number:
            problems.append((number, "number", f"{cells['number']} is in row {first} already"))
        try:
            parts += rows_of(PART, [(number, _row(cells))])
        except RowsRefused as error:
            problems += [(row, _COLUMN_OF.get(field, field), what) for row, field, what in error.problems]
        except InputError as error:
            problems.append((number, error.where.partition(" ")[0], str(error)))
    if problems:
        raise RowsRefused(sorted(problems))
    return parts


def _separator(text: str) -> str:
    """What parts the cells: a comma, or what a spreadsheet of another country writes."""
    head = text.lstrip("\ufeff").split("\n", 1)[0]
    return max(",;\t|", key=lambda s: (sum(c.strip() in COLUMNS for c in head.split(s)), s == ","))


#: A cell that begins so is a formula to a spreadsheet.
_FORMULA = ("=", "+", "-", "@")


def _plain(cell: str) -> str:
    """A cell without the mark that keeps it from being a formula."""
    return cell[1:] if _is_marked(cell) else cell


def safe(cell: str) -> str:
    """A cell no spreadsheet runs. A number below zero is one still."""
    is_number = re.fullmatch(r"-\d+(\.\d+)?", cell)
    return f"'{cell}" if (cell[:1] in _FORMULA and not is_number) or _is_marked(cell) else cell


def _is_marked(cell: str) -> bool:
    return cell[:1] == "'" and cell[1:2] in (*_FORMULA, "'")


def _drained(steps: Steps) -> list[AnyPart]:
    while True:
        try:
            next(steps)
        except StopIteration as done:
            parts: list[AnyPart] = done.value
            return parts


def _lines(reader: "csv.DictReader[str]") -> Iterator[dict[str, Any]]:
    try:
        yield from reader
    except csv.Error as error:
        raise InputError(f"no CSV: {error}", f"row {reader.line_num}", "Mend the quotes there.") from error


def _row(cells: dict[str, str]) -> dict[str, Any]:
    row: dict[str, Any] = {}
    for column, cell in cells.items():
        if cell == "" or column in ("label", "code"):
            continue
        if column in SCALED:
            attribute, factor = SCALED[column]
            row[attribute] = int(_decimal(column, cell) * factor)
        elif column in LISTS:
            row[column] = tuple(cell.split())
        elif column == "offers":
            row["offers"] = [_offer(o) for o in cell.split(";") if o.strip()]
        elif column in _NONE_IS_KNOWN and cell == "none":
            row[column] = ""  # known to have none, where an empty cell is unknown
        elif column in FLAGS:
            if cell not in _YES_NO:
                raise InputError(f"{cell!r} is neither yes nor no", column)
            row[column] = _YES_NO[cell]
        else:
            row[column] = cell
    if label := cells.get("label"):
        read = read_label(label)
        _lay(row, "label", module_fields(read))
        if read.modules > 1:  # a kit: modules of the single size, and the price is the kit's
            row["offers"] = [o | {"pieces": read.modules} if o["pieces"] == 1 else o for o in row.get("offers", ())]
    if code := cells.get("code"):
        _lay(row, "code", card_from_code(m2.read_code(code)))
    return row


def fields_from(cells: dict[str, str]) -> dict[str, Any]:
    """A part's fields from cells as people type them ("height_mm": "7"); an empty one is unknown. Raises
    :class:`InputError` naming the column."""
    if unknown := [c for c in cells if c not in COLUMNS]:
        raise InputError(f"no column {unknown[0]!r}", "answer", "Name the columns as in docs/formats.")
    return _row({c: v.strip() for c, v in cells.items()})


def _lay(row: dict[str, Any], column: str, proven: dict[str, Any]) -> None:
    for attribute, value in proven.items():
        if value is None:
            continue
        if attribute in row and str(row[attribute]) != str(value):
            raise InputError(f"{column} proves {attribute} {value}, the row says {row[attribute]}", column)
        row[attribute] = value


def _decimal(column: str, cell: str) -> Decimal:
    try:
        value = Decimal(cell.replace(",", ".") if cell.count(",") == 1 and "." not in cell else cell)
    except InvalidOperation:
        raise InputError(f"{cell!r} is not a number", column) from None
    if not value.is_finite():
        raise InputError(f"{cell!r} is not a number", column)
    return value


_OFFER = re.compile(
    r"(?P<shop>.+?)\s+(?P<price>-?[\d.,]+)(?:\s+(?P<currency>[A-Z]{3}))?(?:\s+for\s+(?P<pieces>\d{1,3}))?(?:\s+(?P<tax>net|gross))?"
    r"(?:\s+x(?P<stock>\d+))?"
)


def _offer(text: str) -> dict[str, Any]:
    """'Quay Supply 31.50 x4', 'Quay Supply 39.00 USD for 2 net x4': shop, price in major units, currency where it is not
    the workshop's, how many pieces it buys, tax, stock."""
    told = _OFFER.fullmatch(" ".join(text.split()))
    if told is None:
        raise InputError(
            f"{text.strip()!r} is no offer",
            "offers",
            "Write shop, price and xSTOCK; in other money with its code: 31.50 USD.",
        )
    currency = told["currency"] or ""
    if currency and currency not in CODES:
        raise InputError(f"{currency} is no currency", "offers", "Write its three letters, as EUR or USD.")
    places = digits(currency or "EUR")
    minor = _decimal("offers", told["price"]) * 10**places
    if minor != minor.to_integral_value() or minor < 0:
        raise InputError(f"{told['price']} is no price", "offers", f"{places} decimals at most, not negative.")
    return {
        "shop": told["shop"], "price_minor": int(minor), "stock": None if told["stock"] is None else int(told["stock"]),
        "currency": currency, "pieces": int(told["pieces"] or 1), "tax": told["tax"] or "",
    }  # fmt: skip


def _offer_text(o: Offer) -> str:
    more = [o.currency, f"for {o.pieces}" if o.pieces > 1 else "", o.tax, f"x{o.stock}" if o.stock is not None else ""]
    return " ".join([f"{o.shop} {major(o.price_minor, o.currency or 'EUR')}", *(m for m in more if m)])


def write_csv(parts: list[AnyPart]) -> str:
    """Parts as CSV, readable by :func:`read_csv`. Every attribute has its column, so label and code
    stay empty."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, COLUMNS)  # rows end as RFC 4180 says, and what holds such an end is quoted
    writer.writeheader()
    for part in parts:
        writer.writerow(cells_of_part(part))
    return out.getvalue()


def part_of_cells(cells: dict[str, str]) -> AnyPart:
    """A part from what was typed into its columns, an empty one unknown. Raises :class:`InputError` naming the column."""
    if odd := [c for c in cells if c not in COLUMNS]:
        raise InputError(f"no column {odd[0]!r}", "part", f"Columns are {', '.join(COLUMNS)}.")
    try:
        (part,) = rows_of(PART, [(1, _row({k: _plain(v.strip()) for k, v in cells.items()}))])
    except RowsRefused as error:
        _, column, what = error.problems[0]
        raise InputError(what, _COLUMN_OF.get(column, column), "Type it as its label or data sheet has it.") from error
    found: AnyPart = part
    return found


UNITS = {
    "gb": "GB",
    "mts": "MT/s",
    "mb_s": "MB/s",
    "mm": "mm",
    "wh": "Wh",
    "v": "V",
    "ns": "ns",
    "mhz": "MHz",
    "gbit_s": "Gb/s",
}
#: What is typed elsewhere, or read from a label.
NOT_TYPED = frozenset(("kind", "number", "maker", "name", "code", "label", "offers", "note"))
SHAPES: dict[str, Any] = {
    get_args(shape.model_fields["kind"].annotation)[0]: shape for shape in get_args(get_args(Part)[0])
}


LABELS = {
    "fru": "Card id (FRU)", "mini_size": "Mini card size", "form": "Card or mini card", "capacity_gb": "Capacity", "grade_mts": "Grade",
    "cl": "CAS latency", "read_mb_s": "Reads", "write_mb_s": "Writes", "tbw": "Endurance in TB written", "design_wh": "Energy, design",
    "full_wh": "Energy, full today", "channel_mhz": "Channel", "trfc_ns": "Refresh time", "profile_mts": "Profile, where it has one",
    "usb_gbit_s": "USB rate of an enclosure", "takes": "Drive an enclosure takes", "families": "Machines it is made for",
}  # fmt: skip


def cells_of_part(part: AnyPart) -> dict[str, str]:
    """A part as cells of a CSV row, by column; lengths in mm, prices in whole units with two decimals."""
    values = part.model_dump()
    for column, (attribute, factor) in SCALED.items():
        if values.get(attribute) is not None:
            values[column] = (
                f"{values[attribute] / factor:.2f}" if column == "selling" else f"{values[attribute] / factor:g}"
            )
    for column in _NONE_IS_KNOWN:
        if values.get(column) == "":
            values[column] = "none"
    values["offers"] = "; ".join(_offer_text(o) for o in part.offers)
    return {c: safe(_cell(values.get(c))) for c in COLUMNS}


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple | list):
        return " ".join(map(str, value))
    return f"{value:g}" if isinstance(value, float) else str(value)


def _json_steps(text: str) -> Steps:
    data = parsed(text, "parts file")
    rows = data.get("parts") if isinstance(data, dict) else data
    if not isinstance(rows, list):
        raise InputError("no list of parts", "parts file", 'Write [...] or {"parts": [...]}.')
    parts: list[AnyPart] = []
    problems: list[tuple[int, str, str]] = []
    seen: dict[str, int] = {}
    for count, row in enumerate(rows, 1):
        if count % CHUNK == 0:
            yield count
        number = str(row.get("number", "")) if isinstance(row, dict) else ""
        if number and (first := seen.setdefault(number, count)) != count:
            problems.append((count, "number", f"{number} is in row {first} already"))
        try:
            parts += rows_of(PART, [(count, row)])
        except RowsRefused as error:
            problems += error.problems
    if problems:
        raise RowsRefused(problems)
    return parts


def write_parts_json(parts: list[AnyPart]) -> str:
    """Parts as an ``insertum-parts/1`` file."""
    return json.dumps(
        {"format": "insertum-parts/1", "parts": [p.model_dump(mode="json") for p in parts]},
        indent=1,
        ensure_ascii=False,
    )


def read_steps(text: str) -> Steps:
    """Read either format, told apart by the first character, saying how many rows are read so far; the
    parts are the generator's value."""
    return (yield from _json_steps(text) if text.lstrip()[:1] in ("[", "{") else _csv_steps(text))


def read_parts(text: str) -> list[AnyPart]:
    """Parts from either format, all or nothing."""
    return _drained(read_steps(text))
