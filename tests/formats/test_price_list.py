"""Suppliers' price lists as they come: separators, encodings, header languages, decimal commas; every row accounted for."""

import csv
import io
import zipfile

import pytest

from insertum.core.errors import InputError
from insertum.formats.list_layout import is_price_list, layout_of, price_minor, text_as_it_comes
from insertum.formats.parts import read_csv, write_csv
from insertum.formats.supplier_offers import read_supplier_list

from ..core import made

KNOWN = [made.module("PM4S-16G32A1", 3150), made.drive("QK2-1T0-80M", 5490), made.radio("LR-AX2-E30")]

# how a supplier writes it → (offers by number in minor units and stock)
LISTS = [
    ("Part number,Price,Stock\nPM4S-16G32A1,29.90,4\nQK2-1T0-80M,51.00,0\n", {"PM4S-16G32A1": (2990, 4), "QK2-1T0-80M": (5100, 0)}),
    ("Artikel-Nr.;Bezeichnung;Nettopreis;Lagerbestand\nPM4S-16G32A1;Speicher 16 GB;29,90 €;> 10\n", {"PM4S-16G32A1": (2990, 10)}),
    ("Référence\tDésignation\tPrix HT\tDisponible\nqk2-1t0-80m\tSSD\t1 051,00\t3 pcs\n", {"QK2-1T0-80M": (105100, 3)}),
    ("Seagrass Supply\nPrices of November\n\nMPN|Unit price EUR|Qty\nLR-AX2-E30|1,234.50|\n", {"LR-AX2-E30": (123450, None)}),
    ("SKU;Preis\nPM4S-16G32A1;1.234,5\n", {"PM4S-16G32A1": (123450, None)}),
    ('"Hersteller-Nr";"VK-Preis";"Menge"\n"PM4S-16G32A1";"30";"2,0"\n', {"PM4S-16G32A1": (3000, 2)}),
]  # fmt: skip


@pytest.mark.parametrize(("text", "wanted"), LISTS)
def test_a_list_as_it_comes(text, wanted) -> None:
    assert is_price_list(text)
    got = read_supplier_list(text, "UTF-8", KNOWN, "Seagrass", told="EUR")
    offers = {p.number: next((o.price_minor, o.stock) for o in p.offers if o.shop == "Seagrass") for p in got.parts}
    assert offers == wanted
    assert all(r.outcome == "taken" for r in got.rows)


def test_the_other_shops_offers_stay_and_the_rest_of_the_part_too() -> None:
    (part,) = read_supplier_list("Number;Price\nPM4S-16G32A1;20,00\n", "UTF-8", KNOWN, "Seagrass", told="EUR").parts
    assert {o.shop: o.price_minor for o in part.offers} == {"Quay Supply": 3150, "Seagrass": 2000}
    (again,) = read_supplier_list("Number;Price\nPM4S-16G32A1;21,00\n", "UTF-8", [part], "Seagrass", told="EUR").parts
    assert [o.price_minor for o in again.offers if o.shop == "Seagrass"] == [2100]
    assert part.model_dump(exclude={"offers"}) == KNOWN[0].model_dump(exclude={"offers"})


def test_every_row_is_taken_or_left_out_with_its_reason() -> None:
    text = (
        "Number;Name;Price;Stock;Currency\nPM4S-16G32A1;a;29,90;4;EUR\nNEVER-SEEN;b;1,00;1;EUR\n;Freight;9,90;;EUR\n"
        "QK2-1T0-80M;c;on request;1;EUR\nLR-AX2-E30;d;5,00;1;USD\nPM4S-16G32A1;again;1,00;1;EUR\n\n"
    )
    got = read_supplier_list(text, "UTF-8", KNOWN, "Seagrass")
    assert [p.number for p in got.parts] == ["PM4S-16G32A1", "LR-AX2-E30"] and got.parts[0].offers[
        -1
    ].price_minor == 2990
    assert [(r.line, r.number, r.outcome, r.reason) for r in got.rows] == [
        (2, "PM4S-16G32A1", "taken", ""),
        (3, "NEVER-SEEN", "asked", "the title does not say what kind of part it is"),
        (4, "Freight", "left_out", "no part: freight or a service"),
        (5, "QK2-1T0-80M", "left_out", "'on request' is no price"),
        (6, "LR-AX2-E30", "taken", "its price is in USD: kept as told, never converted"),
        (7, "PM4S-16G32A1", "left_out", "it stands in the list twice: the first row counts"),
    ]


def test_what_was_assumed_is_said() -> None:
    said = read_supplier_list("Number;Price\nPM4S-16G32A1;1\n", "Windows-1252", KNOWN, "Seagrass", told="EUR").assumed
    assert said == (
        "read as Windows-1252",
        "the shop is called Seagrass",
        "prices without a sign are in EUR, as this supplier's are",
        "neither net nor gross is said",
    )
    gross = read_supplier_list("Number;Bruttopreis EUR;Shop\nPM4S-16G32A1;1;Tern\n", "UTF-8", KNOWN, "x")
    assert (
        gross.assumed == ("read as UTF-8", "prices are gross, kept as told")
        and gross.parts[0].offers[-1].shop == "Tern"
    )


@pytest.mark.parametrize(
    ("text", "minor"),
    [("31.50", 3150), ("31,5", 3150), ("1.234,50", 123450), ("1,234.50", 123450), ("1 234,50 €", 123450), ("EUR 12", 1200), ("1.234", None),
     ("1'234.50", 123450), ("0", 0), ("", None), ("-5", None), ("12,345,6", None), ("on request", None), ("9" * 40, None), ("12.345.67", None), ("1.234.567", 123456700), ("0,5", 50)],
)  # fmt: skip
def test_prices_as_people_write_them(text, minor) -> None:
    assert price_minor(text) == minor


def test_encodings_and_what_is_no_list() -> None:
    assert text_as_it_comes("Größe".encode("cp1252"), "x") == ("Größe", "Windows-1252")
    assert text_as_it_comes("Größe".encode("utf-16"), "x") == ("Größe", "UTF-16")
    assert text_as_it_comes("\ufeffGröße".encode(), "x") == ("Größe", "UTF-8")
    with pytest.raises(InputError, match="no text"):
        text_as_it_comes(b"\x89PNG\x00\x00", "x")
    assert not layout_of("letter,to,you\n1,2,3\n").is_complete and not is_price_list("kind,number,name,offers,price\n")
    with pytest.raises(InputError, match="which column holds"):
        read_supplier_list("a;b\n", "UTF-8", KNOWN, "x")


@pytest.mark.parametrize("separator", [",", ";", "\t", "|"])
def test_our_own_columns_come_with_any_separator_and_decimal_commas(separator) -> None:
    head = ["kind", "number", "name", "generation", "capacity_gb", "grade_mts", "spreader_mm"]
    row = ["memory", "A-1", "A", "4", "8", "3200", "1,5" if separator != "," else "1.5"]
    (part,) = read_csv("\n".join(separator.join(r) for r in (head, row)) + "\n")
    assert (part.number, part.spreader_um) == ("A-1", 1500)  # type: ignore[union-attr]


@pytest.mark.parametrize("name", ["=1+1", "+49 fits", "-odd", "@home", "'quoted", "plain", "'=told so", "''twice"])
def test_no_exported_cell_is_a_formula_and_all_read_back(name) -> None:
    text = write_csv([made.module("=A1", name=name, note="-5 mm")])
    assert not [c for line in csv.reader(io.StringIO(text)) for c in line if c[:1] in ("=", "+", "@")]
    (back,) = read_csv(text)
    assert (back.number, back.name, back.note) == ("=A1", name, "-5 mm")


def xlsx(rows: list[list[object]]) -> bytes:
    """The smallest workbook there is: one sheet, texts in place."""

    def cell(value: object) -> str:
        if isinstance(value, int | float):
            return f"<c><v>{value}</v></c>"
        return f'<c t="inlineStr"><is><t>{value}</t></is></c>'

    main = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"'
    rels = 'xmlns="http://schemas.openxmlformats.org/package/2006/relationships"'
    kind = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
    sheet = "".join(f"<row>{''.join(map(cell, r))}</row>" for r in rows)
    return packed({
        "_rels/.rels": f'<Relationships {rels}><Relationship Id="r1" Type="{kind}/officeDocument" Target="xl/workbook.xml"/></Relationships>',
        "xl/workbook.xml": f'<workbook {main} xmlns:r="{kind}"><sheets><sheet name="L" sheetId="1" r:id="r1"/></sheets></workbook>',
        "xl/_rels/workbook.xml.rels": f'<Relationships {rels}><Relationship Id="r1" Type="{kind}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
        "xl/worksheets/sheet1.xml": f"<worksheet {main}><sheetData>{sheet}</sheetData></worksheet>",
        "[Content_Types].xml": '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>',
    })  # fmt: skip


def ods(rows: list[list[object]]) -> bytes:
    names = "urn:oasis:names:tc:opendocument:xmlns"

    def cell(value: object) -> str:
        if isinstance(value, int | float):
            return f'<table:table-cell office:value-type="float" office:value="{value}"/>'
        return f'<table:table-cell office:value-type="string"><text:p>{value}</text:p></table:table-cell>'

    table = "".join(f"<table:table-row>{''.join(map(cell, r))}</table:table-row>" for r in rows)
    spaces = f'xmlns:office="{names}:office:1.0" xmlns:table="{names}:table:1.0" xmlns:text="{names}:text:1.0"'
    body = f'<office:body><office:spreadsheet><table:table table:name="L">{table}</table:table></office:spreadsheet></office:body>'
    return packed({
        "mimetype": "application/vnd.oasis.opendocument.spreadsheet",
        "META-INF/manifest.xml": f'<manifest:manifest xmlns:manifest="{names}:manifest:1.0"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.spreadsheet"/></manifest:manifest>',
            "content.xml": f"<office:document-content {spaces}>{body}</office:document-content>",
    })  # fmt: skip


def packed(files: dict[str, str]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        for name, text in files.items():
            z.writestr(name, text)
    return out.getvalue()


@pytest.mark.parametrize("write", [xlsx, ods])
def test_a_workbook_is_a_list_too(write) -> None:
    rows = [
        ["Keelhouse Surplus", "", ""],
        ["MPN", "Unit price EUR", "Qty"],
        ["PM4S-16G32A1", 29.9, 4],
        ["QK2-1T0-80M", "51,00", 0],
        ["X", 1, 1],
    ]
    text, how = text_as_it_comes(write(rows), "list")
    got = read_supplier_list(text, how, KNOWN, "Keelhouse")
    assert {p.number: p.offers[-1].price_minor for p in got.parts} == {"PM4S-16G32A1": 2990, "QK2-1T0-80M": 5100}
    assert [(r.number, r.outcome) for r in got.rows][-1] == ("X", "asked") and got.assumed[0] == "read as a workbook"


def test_a_workbook_of_parts_reads_as_parts() -> None:
    text, _ = text_as_it_comes(
        xlsx([["kind", "number", "name", "capacity_gb", "height_mm"], ["bay_drive", "B-1", "B", 500, 7]]), "x"
    )
    (part,) = read_csv(text)
    assert (part.number, part.height_um) == ("B-1", 7000)  # type: ignore[union-attr]


def test_what_is_no_workbook_says_so() -> None:
    bomb = packed({"xl/big.xml": "0" * (81 * 2**20)})
    assert len(bomb) < 200_000
    for data, says in (
        (bomb, "unpacks to more"),
        (packed({"a": "b"}), "cannot be read"),
        (b"PK\x03\x04 nothing", "cannot be opened"),
    ):
        with pytest.raises(InputError, match=says):
            text_as_it_comes(data, "x")


def test_a_row_no_reader_takes_is_refused_in_words() -> None:
    with pytest.raises(InputError, match="no list: field larger"):
        read_supplier_list("MPN;Preis\nPM4S-16G32A1;" + "9" * 200_000 + "\n", "UTF-8", KNOWN, "x")
    assert layout_of('"MPN";"Preis; netto";Bestand\n').at == {"number": 0, "price": 1, "stock": 2}


@pytest.mark.parametrize(
    ("sheet", "says"),
    [
        (
            '<row r="1"><c r="XFD1048576"><v>1</v></c></row><row r="2"><c r="A1"><v>1</v></c></row>',
            "cannot be read|more than are read",
        ),
        ('<row r="99999999"><c><v>1</v></c></row>', "cannot be read|more than are read"),
        ('<row><c r="A"><v>1</v></c></row>', "cannot be read"),
    ],
)
def test_a_workbook_made_to_break_its_reader_is_refused_and_nobody_falls(sheet, says) -> None:
    with zipfile.ZipFile(io.BytesIO(xlsx([["a"]]))) as whole:
        files = {i.filename: whole.read(i).decode() for i in whole.infolist()}
    head, _, tail = files["xl/worksheets/sheet1.xml"].partition("<row>")
    files["xl/worksheets/sheet1.xml"] = head + sheet + tail[tail.index("</row>") + 6 :]
    with pytest.raises(InputError, match=says):
        text_as_it_comes(packed(files), "x")
