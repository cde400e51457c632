"""Twelve suppliers' lists held against what becomes of every row, and titles two by two."""

import json
import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from insertum.core.errors import InputError
from insertum.core.part_title import read_title
from insertum.formats.list_layout import text_as_it_comes
from insertum.formats.parts import read_csv
from insertum.formats.supplier_offers import read_supplier_list

from ..core import made
from .test_price_list import ods, xlsx

KNOWN = read_csv((made.DEMO / "parts.csv").read_text())
BODIES = re.split(r"^#### (.+)$", (Path(__file__).parent / "supplier_lists.txt").read_text(), flags=re.M)
LISTS = dict(zip(BODIES[1::2], BODIES[2::2], strict=True))


def written(text: str, how: str) -> bytes:
    if how in ("xlsx", "ods"):
        rows = [line.split("\t") for line in text.rstrip("\n").split("\n")]
        return (xlsx if how == "xlsx" else ods)(rows)
    return text.encode("utf-16" if how == "utf-16" else how)


@pytest.mark.parametrize("head", LISTS)
def test_a_list_with_its_truth(head: str) -> None:
    name, shop, how = (w.strip() for w in head.split("|"))
    text, _, truth = LISTS[head].lstrip("\n").partition("---- truth\n")
    named, wanted = None, []
    for line in truth.strip().splitlines():
        words = line.split()
        if words[0] == "columns":
            named = dict(w.split("=") for w in words[1:])
        else:
            wanted.append(
                (int(words[0]), words[1], words[2] if len(words) > 2 else "", dict(w.split("=") for w in words[3:]))
            )
    read, encoding = text_as_it_comes(written(text, how), name)
    got = read_supplier_list(read, encoding, KNOWN, shop, named=named, told="EUR")
    assert [(r.line, r.outcome) for r in got.rows] == [(n, o) for n, o, _, _ in wanted]
    by_number = {p.number: p for p in got.parts}
    for row, (_, outcome, number, fields) in zip(got.rows, wanted, strict=True):
        assert row.reason or outcome == "taken"
        if number and outcome.startswith("taken"):
            part = by_number[number].model_dump()
            assert {k: str(part[k]) for k in fields} == fields
            assert any(o.shop == shop for o in by_number[number].offers) == (outcome == "taken")
    assert len(by_number) == sum(o.startswith("taken") for _, o, _, _ in wanted)


TITLES = [
    ("Orrin 16GB DDR4-3200 SO-DIMM", "kind", "memory"), ("Orrin 16GB DDR4-3200 DIMM", "left_out", "desktop"),
    ("Orrin 16GB DDR4-3200", "asked", "SO-DIMM"), ("Orrin 16GB DDR4 SO-DIMM", "asked", "grade"),
    ("Orrin 16GB kit DDR4-3200 SO-DIMM", "asked", "kit"), ("Orrin 16GB DDR5-4800 SO-DIMM on-die ECC", "module_type", "S"), ("Orrin 16GB DDR5-4800 ECC SO-DIMM", "module_type", "T"),
    ("Orrin 16GB PC4-25600 SO-DIMM", "grade_mts", 3200),
    ("Orrin 16GB PC4-3200AA SO-DIMM", "grade_mts", 3200), ("8GB PC3L-12800 SO-DIMM 1.35V", "voltage_mv", 1350),
    ("8GB PC3-12800 SO-DIMM", "grade_mts", 1600), ("16GB DDR4-2666/3200 SO-DIMM", "asked", "grade"),
    ("16GB DDR4-3200 ECC SO-DIMM", "module_type", "T"), ("16GB DDR4-3200 non-ECC SO-DIMM", "module_type", "S"),
    ("1TB M.2 2280 NVMe", "interface", "pcie"), ("1TB M.2 2280 SATA SSD", "interface", "sata"), ("1TB NVMe external SSD", "left_out", "outside"),
    ("1TB M.2 SSD", "kind", "m2_drive"), ("1TB SSD", "asked", "2.5-inch"), ('1TB 2.5" SATA drive', "asked", "spinning"),
    ('1TB 2.5" HDD 5400 rpm 7mm', "spinning", True), ('1TB 2.5" SSD', "spinning", False), ('4TB 3.5" HDD', "left_out", "3.5"),
    ("256GB/512GB M.2 NVMe", "asked", "sizes"), ("Wi-Fi 6E M.2 2230 2x2", "streams", 2), ("Wi-Fi 6 USB stick", "left_out", "outside"),
    ("Wi-Fi 5 or Wi-Fi 6 card M.2 2230", "asked", "standards"), ("Battery 54 Wh 15.4 V", "design_mwh", 54000),
    ("Battery 5200 mAh", "asked", "Wh"), ("Bracket for an M.2 drive", "asked", "accessory"), ("Shipping 1TB NVMe", "left_out", "freight"),
    ("LTE modem card M.2 3042 key B", "kind", "cellular"), ("A nice mug", "asked", "kind of part"),
]  # fmt: skip


@pytest.mark.parametrize(("title", "what", "says"), TITLES)
def test_what_a_title_proves(title: str, what: str, says: object) -> None:
    said = read_title(title, "X-1")
    if what in ("asked", "left_out"):
        assert str(says) in getattr(said, what)
    else:
        assert said.fields[what] == says and not said.asked and not said.left_out


@pytest.mark.parametrize(
    ("title", "number"),
    [("Orrin OM4S-16G36 16GB DDR4-3600 2Rx8", "OM4S-16G36"), ("16GB DDR4-3200 SO-DIMM PC4-25600", ""), ("AB-12 or CD-34", ""),
     ("512GB NVMe 2280-S3-M", ""), ("WH42T080X 2TB", "WH42T080X"), ("1TB M.2 2280", "")],
)  # fmt: skip
def test_the_number_in_a_title_is_never_a_standard_s_code(title: str, number: str) -> None:
    assert read_title(title).number == number


def test_columns_somebody_has_chosen_and_columns_nobody_can_guess() -> None:
    text = "A;B;C\nPM4S-08G26;x;17,00\n"
    with pytest.raises(InputError, match="which column"):
        read_supplier_list(text, "UTF-8", KNOWN, "S")
    got = read_supplier_list(text, "UTF-8", KNOWN, "S", named={"number": "A", "price": "C"}, told="EUR")
    assert [r.outcome for r in got.rows] == ["taken"] and got.columns == {"number": "A", "price": "C"}
    # "" takes a guess back: the number is not a number
    text = "Part no;Title;Price\n77;PM4S-08G26 8GB;17,00\n"
    assert [r.outcome for r in read_supplier_list(text, "UTF-8", KNOWN, "S").rows] == ["asked"]
    assert [
        r.outcome for r in read_supplier_list(text, "UTF-8", KNOWN, "S", named={"number": ""}, told="EUR").rows
    ] == ["taken"]


@given(st.lists(st.lists(st.text(max_size=12), min_size=1, max_size=5), max_size=8))
def test_every_row_of_any_list_is_accounted_for(rows: list[list[str]]) -> None:
    text = "Number\tTitle\tPrice\n" + "".join("\t".join(c) + "\n" for c in rows)
    try:
        got = read_supplier_list(text, "UTF-8", KNOWN[:5], "S")
    except InputError:
        return
    lines = {r.line for r in got.rows}
    assert len(lines) == len(got.rows)
    assert all(r.reason for r in got.rows if r.outcome != "taken")
    json.dumps([r.model_dump() for r in got.rows])


def test_every_figure_of_a_title_has_its_place() -> None:
    module = read_title("Orrin OM4S-X1 16GB DDR4-3200 SO-DIMM 2Rx8 CL22").fields
    assert module == {
        "kind": "memory", "generation": 4, "capacity_gb": 16, "grade_mts": 3200, "module_type": "S", "ranks": 2, "chip_width": 8,
        "cl": 22, "voltage_mv": 1200,
    }  # fmt: skip
    assert read_title("8GB DDR5-4800 SO-DIMM", "X").fields["voltage_mv"] == 1100
    assert "voltage_mv" not in read_title("8GB PC3-12800 SO-DIMM", "X").fields  # 1.5 V or both: not said
    radio = read_title("Larkfield LF-9 Wi-Fi 6E M.2 2230 2x2 BT 5.3, key A+E").fields
    assert radio == {
        "kind": "radio", "standard": "ax", "width_mm": 22, "length_mm": 30, "keys": ("A", "E"), "streams": 2, "bluetooth": "5.3",
    }  # fmt: skip
    drive = read_title("Wherry WX-1 2TB M.2 2280 NVMe Gen4 x4 7,000 MB/s").fields
    assert (drive["capacity_gb"], drive["generation"], drive["lanes"], drive["read_mb_s"]) == (2000, 4, 4, 7000)
    assert read_title("960GB 2.5\" SATA SSD 7 mm", "X").fields == {
        "kind": "bay_drive", "spinning": False, "capacity_gb": 960, "height_um": 7000,
    }  # fmt: skip
    assert read_title("5G modem card M.2 3052 key B", "X").fields == {
        "kind": "cellular", "generation": "5G", "width_mm": 30, "length_mm": 52, "keys": ("B",),
    }  # fmt: skip
    assert read_title("Battery 60 Wh 15.4 V", "X").fields == {
        "kind": "battery",
        "design_mwh": 60000,
        "voltage_mv": 15400,
    }
    assert read_title("Battery 60 Wh 13.9 V", "X").fields == {
        "kind": "battery",
        "design_mwh": 60000,
    }  # no cells make 13.9
    assert read_title("256GB mSATA SSD", "X").fields == {
        "capacity_gb": 256,
        "kind": "m2_drive",
        "form": "mini",
        "interface": "sata",
    }
