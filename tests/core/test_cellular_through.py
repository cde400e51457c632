"""A cellular card goes the whole way: sheet, expectation and proof know its kind."""

import pytest

from insertum.core.bench.sheet import sheet
from insertum.core.prove.compare import Outcome, compare
from insertum.core.prove.expect import expect
from insertum.core.reading import Reading, ReadRadio

from . import made


def test_sheet_and_expectation_know_a_cellular_card() -> None:
    card = made.cellular("CX-4")
    build = made.build(made.machine({"cellular": {}})).with_part("cellular", card)
    steps = sheet(build).steps
    assert [s.number for s in steps if s.slot == "cellular"] == ["CX-4"]
    expected = expect(build)
    assert [(e.what, e.number) for e in expected.expectations if e.slot == "cellular"] == [("cellular", "CX-4")]


@pytest.mark.parametrize(
    ("modems", "understood", "outcome"),
    [
        ((ReadRadio(name="Tolland CX-4 modem"),), ("lsusb.txt",), Outcome.AS_EXPECTED),
        ((ReadRadio(name="another"),), ("lsusb.txt",), Outcome.WORSE),
        ((), ("lsusb.txt",), Outcome.WORSE),
        ((), ("dmidecode.txt",), Outcome.NOT_SEEN),
    ],
)
def test_a_modem_is_looked_for_where_tools_would_show_it(modems, understood, outcome) -> None:
    build = made.build(made.machine({"cellular": {}})).with_part("cellular", made.cellular("CX-4"))
    report = compare(expect(build), Reading(modems=modems, understood=understood))
    assert next(p.outcome for p in report.proofs if p.id == "cellular.modem") == outcome
