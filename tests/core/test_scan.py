"""Labels scanned at the bench: the planned part and no other, however its label is written."""

import pytest

from insertum.core.bench.scan import scanned

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
