"""Labels scanned at the bench: the planned part and no other, however its label is written."""

import pytest

from insertum.core.bench.scan import scanned, serial_of

from . import made

PARTS = [
    made.drive("QB5-1T0-80BM"),
    made.drive("QB5-1T0-80BMS"),
    made.module("PM4S-16G32A1", 1),
    made.module("PM4S-16G32", 1),
]


@pytest.mark.parametrize(
    ("text", "number", "outcome"),
    [
        ("QB5-1T0-80BM", "QB5-1T0-80BM", "planned"), (" qb5 1t0 80bm ", "QB5-1T0-80BM", "planned"),
        ("P/N QB5-1T0-80BM 1TB", "QB5-1T0-80BM", "planned"), ("SNXX9QB51T080BM77", "QB5-1T0-80BM", "planned"),
        ("QB5-1T0-80BMS", "QB5-1T0-80BMS", "other"),  # its twin: the shorter number stands inside it
        ("XQB51T080BMS1", "QB5-1T0-80BMS", "other"), ("PM4S-16G32", "PM4S-16G32", "other"), ("PM4S-16G32A1", "PM4S-16G32A1", "planned"),
        ("NOBODY", "", "unknown"), ("", "", "unknown"), ("80BM", "", "unknown"),
    ],
)  # fmt: skip
def test_what_a_label_names(text: str, number: str, outcome: str) -> None:
    got = scanned(text, ["QB5-1T0-80BM", "PM4S-16G32A1"], PARTS)
    assert (got.number, got.outcome) == (number, outcome)
    assert ("not a part of this plan" in got.says) == (outcome != "planned")


def test_a_planned_part_the_catalogue_lacks_is_known_by_its_number() -> None:
    assert scanned("old-9000", ["OLD-9000"], PARTS).outcome == "planned"


@pytest.mark.parametrize(
    ("text", "serial"),
    [
        ("QB5-1T0-80BM S/N QB7F-00419", "QB7F-00419"), ("QB5-1T0-80BM,SN:ab12cd34", "AB12CD34"), ("Serial No. 0042-77 PM4S-16G32", "0042-77"),
        ("SER 9911", "9911"), ("QB5-1T0-80BM", ""), ("S/N", ""), ("SNXX9QB51T080BM77", ""), ("S/N unknown", ""), ("serial ATA 6 Gb/s", ""),
    ],
)  # fmt: skip
def test_a_piece_is_told_by_the_serial_its_label_marks(text: str, serial: str) -> None:
    assert serial_of(text) == serial
    assert scanned(text, ["QB5-1T0-80BM"], PARTS).serial == serial
