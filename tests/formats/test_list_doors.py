"""The doors of a supplier's list: nothing false comes in, and what could be meant two ways is asked. Worked by hand from the
sentences of a list, before the reader was written for them."""

import pytest

from insertum.core.part_title import read_title
from insertum.formats.parts import part_from, read_csv, write_csv
from insertum.formats.supplier_offers import SupplierList, read_supplier_list
from tests import draws

from ..core import made

KNOWN = read_csv((made.DEMO / "parts.csv").read_text())
NUMBERS = ("PM4S-08G26", "PM4S-04G26", "QK2-1T0-80M")


def read(text: str, told: str = "", own: str = "EUR", **more) -> SupplierList:
    return read_supplier_list(text, "UTF-8", KNOWN, "Tern Lane Parts", own, told=told, **more)


def offer_of(found: SupplierList, number: str = "PM4S-08G26"):
    part = next((p for p in found.parts if p.number == number), None)
    return next((o for o in part.offers if o.shop == "Tern Lane Parts"), None) if part else None


# -- money ---------------------------------------------------------------------------------------------
# list, what the supplier is known to sell in, the workshop's own -> minor units and currency ("" the workshop's), or asked
MONEY = [
    ("Number;Price\nPM4S-08G26;17,20\n", "", "EUR", None),  # nothing says: asked once
    ("Number;Price\nPM4S-08G26;17,20\n", "EUR", "EUR", (1720, "")),
    ("Number;Price\nPM4S-08G26;17,20\n", "USD", "EUR", (1720, "USD")),
    ("Number;Price\nPM4S-08G26;17,20\n", "CHF", "CHF", (1720, "")),
    ("Number;Price €\nPM4S-08G26;17,20\n", "", "EUR", (1720, "")),
    ("Number;Price €\nPM4S-08G26;17,20\n", "", "CHF", (1720, "EUR")),
    ("Number;Price\nPM4S-08G26;17,20 €\n", "", "EUR", (1720, "")),
    ("Number;Price\nPM4S-08G26;$17.20\n", "", "EUR", (1720, "USD")),
    ("Number;Price\nPM4S-08G26;$17.20\n", "", "USD", None),  # US or another dollar? the workshop deals in one
    ("Number;Price\nPM4S-08G26;$17.20\n", "USD", "USD", (1720, "")),
    ("Number;Price\nPM4S-08G26;$17.20\n", "CAD", "USD", (1720, "CAD")),
    ("Number;Price\nPM4S-08G26;US$ 17.20\n", "", "USD", (1720, "")),
    ("Number;Price\nPM4S-08G26;17.20 usd\n", "", "EUR", (1720, "USD")),
    ("Number;Price\nPM4S-08G26;CHF 17.20\n", "", "EUR", (1720, "CHF")),
    ("Number;Price\nPM4S-08G26;149 kr\n", "", "EUR", None),  # of four countries
    ("Number;Price\nPM4S-08G26;149 kr\n", "SEK", "EUR", (14900, "SEK")),
    ("Number;Price\nPM4S-08G26;¥5,980\n", "JPY", "EUR", None),  # 5,980: a point, or thousands?
    ("Number;Price\nPM4S-08G26;¥ 5980\n", "", "EUR", (5980, "JPY")),  # yen have no minor unit
    ("Number;Price KWD\nPM4S-08G26;5.250\n", "", "EUR", (5250, "KWD")),  # dinars have three places
    ("Number;Price JPY\nPM4S-08G26;5980.5\n", "", "EUR", "left"),  # no half a yen
    ("Number;Price;Currency\nPM4S-08G26;17,20;GBP\n", "", "EUR", (1720, "GBP")),
    ("Number;Price;Cur.\nPM4S-08G26;17,20;eur\n", "", "EUR", (1720, "")),
    ("Number;Price;Currency\nPM4S-08G26;17,20;\n", "", "EUR", None),
    ("Number;Price EUR\nPM4S-08G26;$17.20\n", "", "EUR", None),  # head and cell contradict
    ("Number;Price EUR/USD\nPM4S-08G26;17,20\n", "EUR", "EUR", None),
    ("All prices in US dollars, USD\n\nNumber;Price\nPM4S-08G26;17,20\n", "", "EUR", (1720, "USD")),
    ("Number;EUR\nPM4S-08G26;17,20\n", "", "EUR", (1720, "")),
    ("Number;Price\nPM4S-08G26;0,00 €\n", "", "EUR", "left"),  # a price of 0 is none
    ("Number;Price\nPM4S-08G26;€ 17.20 *\n", "", "EUR", "left"),
    ("Number;List price €;Discount;Net price €\nPM4S-08G26;21,50;20 %;17,20\n", "", "EUR", (1720, "")),
    ("Artikelnummer;UVP EUR;Rabatt;Ihr Nettopreis EUR\nPM4S-08G26;21,50;20 %;17,20\n", "", "EUR", (1720, "")),
    ("Number;Price 10+ €;Price 1+ €;Price 100+ €\nPM4S-08G26;16,00;17,20;15,00\n", "", "EUR", (1720, "")),
    ("Number;1+;10+;100+;Currency\nPM4S-08G26;17,20;16,00;15,00;EUR\n", "", "EUR", (1720, "")),
]


@pytest.mark.parametrize(("text", "told", "own", "wanted"), MONEY)
def test_money_is_what_the_list_says(text: str, told: str, own: str, wanted) -> None:
    found = read(text, told, own)
    offer = offer_of(found)
    if wanted is None or wanted == "left":
        assert offer is None and found.rows[0].outcome == ("asked" if wanted is None else "left_out"), found.rows
        assert wanted is not None or "currenc" in found.rows[0].reason or "two ways" in found.rows[0].reason
    else:
        assert offer is not None and (offer.price_minor, offer.currency) == wanted


def test_where_some_rows_name_a_currency_the_others_are_asked() -> None:
    found = read("Number;Price\nPM4S-08G26;17,20 €\nPM4S-04G26;10,00\n", "EUR")
    assert [r.outcome for r in found.rows] == ["taken", "asked"]


@pytest.mark.parametrize(
    ("head", "tax"), [("Preis netto €", "net"), ("Prix TTC €", "gross"), ("Price €", ""), ("VK brutto EUR", "gross")]
)
def test_net_and_gross_are_kept_as_told(head: str, tax: str) -> None:
    offer = offer_of(read(f"Number;{head}\nPM4S-08G26;17,20\n"))
    assert offer is not None and offer.tax == tax


def test_an_offer_in_other_money_is_no_price_here_and_is_never_relabelled() -> None:
    part = next(p for p in read("Number;Price\nPM4S-08G26;$3.00\n").parts if p.number == "PM4S-08G26")
    before = next(p for p in KNOWN if p.number == "PM4S-08G26")
    assert part.price_minor == before.price_minor  # 3 dollars are not the cheapest in euros
    (back,) = read_csv(write_csv([part]))
    assert back.offers == part.offers


# -- kits ----------------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("title", "gb", "pieces"),
    [
        ("Orrin 16GB Kit (2x8GB) DDR4-3200 SO-DIMM", 8, 2), ("Orrin 2x8GB DDR4-3200 SO-DIMM", 8, 2), ("Orrin 32GB DDR4-3200 SO-DIMM Kit of 2", 16, 2),
        ("Orrin 32GB (4 x 8GB) DDR4-3200 SO-DIMM", 8, 4), ("Orrin 16GB DDR4-3200 SO-DIMM", 16, 1), ("Orrin 2x 16GB DDR4-3200 SODIMM", 16, 2),
    ],
)  # fmt: skip
def test_a_kit_is_its_modules_and_its_price_the_kits(title: str, gb: int, pieces: int) -> None:
    found = read(f"Number;Title;Price €\nOR4K-X1;{title};39,00\n")
    offer = offer_of(found, "OR4K-X1")
    assert (
        found.parts[0].capacity_gb == gb and offer is not None and (offer.pieces, offer.price_minor) == (pieces, 3900)
    )
    assert (found.parts[0].price_minor is None) == (pieces > 1)  # what one of a kit costs nobody says


def test_a_kit_over_two_columns_and_one_that_does_not_add_up() -> None:
    found = read("Number;Title;Modules;Price €\nOR4K-X1;Orrin 8GB DDR4-3200 SO-DIMM;2;39,00\n")
    assert offer_of(found, "OR4K-X1").pieces == 2
    odd = read("Number;Title;Price €\nOR4K-X1;Orrin 16GB Kit (2x4GB) DDR4-3200 SO-DIMM;39,00\n")
    assert odd.rows[0].outcome == "asked"


def test_a_known_part_sold_as_a_kit_is_offered_as_a_kit() -> None:
    found = read("Number;Title;Price €\nPM4S-08G26;Pallas 16GB Kit (2x8GB) DDR4-2666 SO-DIMM;33,00\n")
    before = next(p for p in KNOWN if p.number == "PM4S-08G26")
    assert offer_of(found).pieces == 2 and found.parts[0].price_minor == before.price_minor
    odd = read("Number;Title;Price €\nPM4S-08G26;Pallas DDR4-2666 SO-DIMM kit;33,00\n")
    assert odd.rows[0].outcome == "asked"


def test_a_kit_in_our_own_columns_is_no_error_of_the_file() -> None:
    text = "kind,number,name,label,offers\nmemory,KIT-1,a kit,16GB (2x8GB) DDR4-3200 SO-DIMM,Quay Supply 39.00\nmemory,ONE-1,one,8GB DDR4-3200 SO-DIMM,Quay Supply 20.00\n"
    kit, one = read_csv(text)
    assert (kit.capacity_gb, kit.offers[0].pieces, one.offers[0].pieces) == (8, 2, 1)


# -- what a title says, and what it does not -------------------------------------------------------------
TITLES = [
    ("Quern NVMe 500 GB M.2 2280", {"kind": "m2_drive", "interface": "pcie", "generation": None, "capacity_gb": 500}),
    ("Quern 1TB M.2 2280 NVMe 1.4 PCIe 4.0 x4", {"generation": 4, "lanes": 4}),
    ("Quern 1TB M.2 2280 NVMe 2.0", {"generation": None}),
    ("Quern 1TB M.2 2280 PCIe Gen3x4 NVMe", {"generation": 3, "lanes": 4}),
    ("Quern 500GB M.2 2280 SATA3 SSD 550/520 MB/s", {"interface": "sata", "read_mb_s": 550, "generation": 3}),
    ("Quern 500GB M.2 2280 SATA III R: 550 W: 500 MB/s", {"read_mb_s": 550, "generation": 3}),
    ("Quern 2TB M.2 22 x 80 mm NVMe 600 TBW", {"width_mm": 22, "length_mm": 80, "tbw": 600}),
    ("Quern 512GB M.2 2242 NVMe single-sided", {"length_mm": 42, "below_um": 0}),
    ("Quern 512GB M.2 2242 NVMe double sided", {"below_um": None}),
    ('Quern 1TB 2,5" HDD 5400 rpm 128 MB cache SATA 6Gb/s', {"kind": "bay_drive", "capacity_gb": 1000, "spinning": True}),
    ("Quern 1TB M.2 SATA B+M key", {"keys": ("B", "M")}),
    ("Quern 1TB M.2 SATA key B & M", {"keys": ("B", "M")}),
    ("Quern 1TB M.2 NVMe M-key", {"keys": ("M",)}),
    ("Orrin 16GB DDR4-3200 SO DIMM", {"kind": "memory", "module_type": "S", "clock_driver": None}),
    ("Orrin 16GB DDR5-5600 SODIMM", {"kind": "memory", "clock_driver": False}),
    ("Orrin 16GB DDR5-6400 CSODIMM", {"clock_driver": True}),
    ("Orrin 16GB DDR5-6400 SO-DIMM with clock driver", {"clock_driver": True}),
    ("16GB 2Rx8 PC4-3200AA-SE1-11", {"kind": "memory", "ranks": 2, "chip_width": 8, "grade_mts": 3200, "module_type": "S"}),
    ("Larkfield Wi-Fi 6 card M.2 2230 CNVio2", {"kind": "radio", "bus": "cnvi"}),
    ("Larkfield Wi-Fi 6 card M.2 2230 PCIe + USB key A+E", {"kind": "radio", "bus": "pcie", "keys": ("A", "E")}),
    ("Larkfield 802.11ac half mini PCIe card", {"kind": "radio", "form": "mini", "mini_size": "half"}),
    ("Larkfield 802.11n Mini-PCIe full size WLAN card", {"kind": "radio", "form": "mini", "mini_size": "full"}),
    ("Amberly battery AB-57 3-cell 11.4 V 57 Wh", {"kind": "battery", "voltage_mv": 11400, "design_mwh": 57000}),
    ("Amberly Akku 57Wh 11,52V", {"voltage_mv": 11520}),
    ("Bracket M.2 2242 to 2280", {"kind": "accessory", "supplies": "bracket", "from_mm": 42, "to_mm": 80}),
    ("Antenna adapter leads MHF4 to MHF1", {"kind": "accessory", "supplies": "adapter_leads", "from_plug": "MHF4", "to_plug": "MHF1"}),
    ("Thermal pad 1.0 mm 20x60", {"kind": "accessory", "supplies": "pad", "thickness_um": 1000}),
    ("Spacer 7 mm to 9.5 mm", {"kind": "accessory", "supplies": "spacer", "from_mm": 7, "to_mm": 9.5}),
]  # fmt: skip
ASKED = [
    ("Quern 1TB M.2 2280 SSD, NVMe or SATA, please say", "two"), ("Orrin 8GB or 16GB DDR4-3200 SO-DIMM", "size"), ("Orrin 8x8x8GB DDR4-3200 SO-DIMM", "size"),
    ("Quern 1TB M.2 2280 NVMe refurbished", "new"), ("Orrin 16GB DDR4-3200 SO-DIMM gebraucht", "new"), ("Orrin 16GB DDR4-3200 SO-DIMM pulled", "new"),
    ("Quern 1TB M.2 NVMe d'occasion", "new"), ("Quern 1TB M.2 NVMe SATA", "two"),
    ("Heatsink for M.2 2280 NVMe 1TB", "another part"), ("Kühlkörper für Quern 1TB M.2 2280 NVMe", "another part"),
    # one that names no machine would suit any
    ("Caddy for 2.5 inch drive", "one machine"), ("Caddy 2.5 inch 7 mm for Strand 15", "one machine"), ("Ribbon for 2.5 inch bay", "one machine"),
    ("Bracket M.2 2242 to 2280 for Drover 14", "one machine"), ("Spacer 7 mm to 9.5 mm für Weir 14", "one machine"),
]  # fmt: skip
LEFT_OUT = [
    ("Orrin 16GB LPDDR5-6400 chips", "soldered"), ("Orrin 16GB DDR4-3200 UDIMM desktop", "desktop"), ("Larkfield Wi-Fi 6 PCIe x1 desktop card", "laptop"),
    ("Larkfield Wi-Fi 6E 1216 solder-down module", "soldered"), ("Larkfield Wi-Fi 6 USB dongle", "laptop"), ('Quern 80GB 2.5" IDE hard disk 9.5mm', "IDE"),
    ('Quern 1.92TB U.2 NVMe 2.5"', "server"),
]  # fmt: skip


@pytest.mark.parametrize(
    ("title", "number"),
    [
        ("Orrin 8GB DDR4-2666 SO-DIMM OR4S-08G26", "OR4S-08G26"), ("Orrin 8GB PC4-25600 1Rx16 260-pin", ""), ("Quern 1TB HDD 2.5 inch 5400rpm 7 mm", ""),
        ("Orrin 64GB (4x16GB) DDR4-2400 SODIMM", ""), ("Amberly battery 4400mAh 48 Wh 3-cell", ""), ("Quern 1TB M.2 2280 NVMe 7000MB/s", ""),
    ],
)  # fmt: skip
def test_a_standards_word_is_no_part_number(title: str, number: str) -> None:
    assert read_title(title).number == number


@pytest.mark.parametrize(("title", "fields"), TITLES)
def test_what_a_title_says(title: str, fields: dict) -> None:
    said = read_title(title, "X-1")
    assert not said.asked and not said.left_out, said
    part = part_from({**said.fields, "number": "X-1", "name": title}).model_dump()
    assert {k: part[k] for k in fields} == fields


@pytest.mark.parametrize(("title", "why"), ASKED)
def test_what_could_be_meant_two_ways_is_asked(title: str, why: str) -> None:
    assert why in read_title(title, "X-1").asked


@pytest.mark.parametrize(("title", "why"), LEFT_OUT)
def test_what_no_laptop_takes_is_left_out(title: str, why: str) -> None:
    assert why in read_title(title, "X-1").left_out


# -- columns and rows ------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    "head",
    ["Id;Product;Price €;Availability", "No.;Item;Price €;Avail.", "Code;Description;Price €;Qty", "Artikel-Nr.;Artikel;Preis €;Verfügbarkeit",
     "Réf.;Article;Prix €;Dispo", "Código;Descripción;Precio €;Existencias", "Codice;Descrizione;Prezzo €;Giacenza"],
)  # fmt: skip
def test_columns_in_five_languages(head: str) -> None:
    found = read(f"{head}\nPM4S-08G26;Pallas 8 GB DDR4-2666;17,20;12\n")
    offer = offer_of(found)
    assert offer is not None and (offer.price_minor, offer.stock) == (1720, 12)


def test_a_list_without_a_header_loses_no_row() -> None:
    rows = "".join(f"{n};Pallas module no. {i};1{i},20 €;{i}\n" for i, n in enumerate(NUMBERS, 2))
    found = read(rows)
    assert [r.outcome for r in found.rows] == ["taken"] * 3 and {
        o.price_minor for n in NUMBERS if (o := offer_of(found, n))
    } == {1220, 1320, 1420}


@pytest.mark.parametrize("written", ["PM4S 08G26", "PM4S08G26", "pm4s-08g26", "PM4S - 08 G26"])
def test_a_number_with_blanks_or_dashes_is_the_known_one(written: str) -> None:
    assert offer_of(read(f"Number;Price €\n{written};17,20\n")) is not None


def test_another_number_is_not() -> None:
    assert read("Number;Price €\nPM4S-08G27;17,20\n").rows[0].outcome == "asked"


def test_headings_and_sums_are_no_rows() -> None:
    found = read("Number;Title;Price €\nMemory;;\nPM4S-08G26;Pallas 8 GB;17,20\n;Summe;17,20\nTotal;;34,40\n")
    assert [r.outcome for r in found.rows] == ["left_out", "taken", "left_out", "left_out"]


def test_a_blank_title_is_not_filled_from_the_row_above() -> None:
    found = read("Number;Title;Price €\nOR4S-A;Orrin 16GB DDR4-3200 SO-DIMM;40,00\nOR4S-B;;41,00\n")
    assert [r.outcome for r in found.rows] == ["taken", "asked"]


def test_group_and_capacity_columns_are_read_with_the_title() -> None:
    found = read("Number;Group;Title;Capacity;Price €\nQX-1;M.2 NVMe SSD;Quern Swift 2280;1 TB;60,00\n")
    part = found.parts[0]
    assert (part.kind, part.capacity_gb, part.interface, part.length_mm) == ("m2_drive", 1000, "pcie", 80)


@pytest.mark.parametrize(
    ("condition", "outcome"),
    [("new", "taken"), ("refurbished", "asked"), ("gebraucht", "asked"), ("", "taken"), ("neu", "taken")],
)
def test_goods_that_are_not_new_are_asked(condition: str, outcome: str) -> None:
    found = read(f"Number;Condition;Price €\nPM4S-08G26;{condition};17,20\n")
    assert found.rows[0].outcome == outcome


def test_a_random_list_never_changes_money_currency_or_number_of_modules() -> None:
    for seed in range(150):
        r = draws.chance(seed)
        code, sign = r.choice(
            [("EUR", "€"), ("USD", "US$"), ("GBP", "£"), ("CHF", "CHF"), ("SEK", "SEK"), ("PLN", "zł")]
        )
        cents, pieces, gb = r.randint(100, 99_999), r.choice((1, 1, 2, 4)), r.choice((4, 8, 16))
        comma = r.random() < 0.5
        figure = f"{cents // 100}{',' if comma else '.'}{cents % 100:02d}"
        where = r.choice(("head", "before", "behind", "column"))
        cell = {"before": f"{sign} {figure}", "behind": f"{figure} {sign}"}.get(where, figure)
        size = f"{gb}GB" if pieces == 1 else r.choice((f"{pieces}x{gb}GB", f"{pieces * gb}GB Kit ({pieces} x {gb} GB)"))
        heads = [
            "Number",
            "Title",
            f"Price {code}" if where == "head" else "Price",
            *(["Currency"] if where == "column" else []),
        ]
        row = ["NEW-77X", f"Orrin {size} DDR4-3200 SO-DIMM", cell, *([code] if where == "column" else [])]
        order = r.sample(range(len(heads)), len(heads))
        text = "\n".join(";".join(cells[i] for i in order) for cells in (heads, row)) + "\n"
        own = r.choice(("EUR", "CHF"))
        offer = offer_of(read(text, own=own), "NEW-77X")
        wanted = (cents, "" if code == own else code, pieces)
        assert offer is not None and (offer.price_minor, offer.currency, offer.pieces) == wanted, (seed, text)


def test_one_answer_is_for_all_rows_asked_for_one_reason() -> None:
    text = (
        "Number;Title;Price €\n"
        + "".join(f"LR-9{n};Larkfield card no. {n};19,00\n" for n in range(5))
        + "QU-1;Quern 1TB NVMe refurbished;30,00\n"
    )
    first = read(text)
    asked = {r.reason for r in first.rows if r.answerable}
    assert [r.outcome for r in first.rows] == ["asked"] * 6 and len(asked) == 1
    assert not first.rows[5].answerable  # that it is not new no field of a part answers
    answer = {"kind": "radio", "standard": "ax", "keys": ("A", "E")}
    again = read(text, answers={asked.pop(): answer})
    assert [r.outcome for r in again.rows] == ["taken"] * 5 + ["asked"]
    assert {p.kind for p in again.parts} == {"radio"} and {p.number for p in again.parts} == {
        f"LR-9{n}" for n in range(5)
    }


def test_a_currency_is_asked_for_only_where_the_list_leaves_it_open() -> None:
    assert (
        read("Number;Price\nPM4S-08G26;17,20\n").currency_open
        and not read("Number;Price\nPM4S-08G26;17,20\n", "EUR").currency_open
    )
    assert not read("Number;Price\nPM4S-08G26;17,20 €\nPM4S-04G26;$3.00\n").currency_open
    assert read("Number;Price\nPM4S-08G26;17,20 kr\n").currency_open
