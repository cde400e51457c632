"""What a scanned text means: exact number, then job, then machine, then label; likeness is shown and never opened."""

import pytest

from insertum.core.find import JobNamed, find, listed
from insertum.core.identify.identify import identify
from insertum.core.identify.library import Library
from insertum.core.machine.shape import Machine
from insertum.formats.parts import read_csv

from . import made

PARTS = read_csv((made.DEMO / "parts.csv").read_text())
LIBRARY = Library([Machine.model_validate_json(p.read_text()) for p in sorted((made.DEMO / "machines").glob("*.json"))])
JOBS = [JobNamed(number=147, title="Slow desk", customer="Wren Street"), JobNamed(number=5, title="Strand 15 again")]


def sure(text: str) -> str:
    found = find(text, listed(PARTS), JOBS, LIBRARY).sure
    return found.link if found else ""


@pytest.mark.parametrize(
    ("text", "link"),
    [
        ("PM4S-16G32A1", "/parts?number=PM4S-16G32A1"),
        ("  pm4s-16g32al ", "/parts?number=PM4S-16G32A1"),  # as a worn label is typed
        ("LF-0202", "/parts?number=LR-AX2-E30"),  # the id firmware knows a card by
        ("147", "/jobs/147"), ("job 147", "/jobs/147"), ("#147", "/jobs/147"), ("http://desk:8000/jobs/147", "/jobs/147"), ("5", "/jobs/5"),
        ("VS15-R4B", "/machines/veyra-strand-15/mk2-rill-430"),  # type code of one configuration
        ("VB-S15 rev 3", "/machines/veyra-strand-15/mk2-rill-430"),  # board
        ("Veyra Strand 15", "/machines/veyra-strand-15/mk1-rill-310"),  # all of one machine: its page
        ("16GB 2Rx8 PC4-3200AA-SE1-11", "/gauges?gauge=memory_label&text=16GB%202Rx8%20PC4-3200AA-SE1-11"),
        ("2280-D2-B-M", "/gauges?gauge=m2_code&text=2280-D2-B-M"),
        ("PM4S", ""), ("Strand", ""), ("Wren", ""), ("148", ""), ("", ""), ("zzzz", ""),  # likeness, or nothing
        ("Quern", ""), ("16GB DDR4-3200", ""), ("1TB NVMe 2280", ""),  # a seller's words are a search as well
    ],
)  # fmt: skip
def test_what_a_text_means(text, link) -> None:
    assert sure(text) == link


def test_likeness_is_shown_and_several_are_not_guessed() -> None:
    found = find("Strand 15", listed(PARTS), JOBS, LIBRARY)
    assert {f.kind for f in found.found} == {"machine", "job", "part"}  # and what is sold for it
    twins = [made.module("AB-10"), made.module("AB-1O")]  # one worn letter apart
    assert (
        find("ab10", listed(twins), JOBS, LIBRARY).sure is None
        and len(find("ab10", listed(twins), JOBS, LIBRARY).found) == 2
    )
    assert find("AB-10", listed(twins), JOBS, LIBRARY).sure is not None  # as it is written
    part_and_job = find("147", listed([made.module("147")]), JOBS, LIBRARY)
    assert part_and_job.sure and part_and_job.sure.kind == "part" and part_and_job.found[1].kind == "job"


def test_counts_order_only_what_the_evidence_leaves_equal() -> None:
    often = {"veyra-strand-15/mk1-rill-310": 400}
    exact = identify(["VB-S15 rev 3"], LIBRARY, often)
    assert exact.settled and exact.remaining == ("veyra-strand-15/mk2-rill-430",)
    equal = identify(["Veyra Strand 15"], LIBRARY, often)
    assert equal.remaining[0] == "veyra-strand-15/mk1-rill-310" and len(equal.remaining) == 2
    assert equal.candidates[0].share > equal.candidates[1].share
    # a whole family name that only one machine has settles the family, whatever is worked on elsewhere
    family = identify(["Halden Tern 13"], LIBRARY, {"halden-wick-11/fen-210": 400})
    assert {name.partition("/")[0] for name in family.remaining} == {"halden-tern-13"}
    # one text carried whole is not outvoted by guesses
    both = identify(["VB-S15 rev 3", "Strand 1S mk I"], LIBRARY, often)
    assert both.remaining[0] == "veyra-strand-15/mk2-rill-430"


def test_a_known_makers_unknown_machine_is_doubted_whatever_its_processor_matches() -> None:
    weir = identify(["Brannock Weir 14", "Corvane Beck 450"], LIBRARY)
    assert not weir.settled and not weir.in_library and "names a machine it does not have" in weir.doubts[0]
    for known in ("Brannock Harrow 16", "Brannock Harrow", "Harrow 16 Brannock"):
        assert identify([known, "Corvane Beck 450"], LIBRARY).doubts == ()


@pytest.mark.parametrize(
    ("text", "doubted"),
    [
        ("Corvane Rill 130", True),
        ("Rill 119", True),
        ("Corvane Rill 110", False),
        ("Corvane RiIl 11O", False),
        ("Corvane Ril 110", True),
        ("Quern 110", False),
    ],
)
def test_a_processor_one_digit_off_is_another_processor(text, doubted) -> None:
    found = identify(["Halden Almanac 12", text], LIBRARY)
    assert any("is not Rill 110" in d or "is not Corvane" in d for d in found.doubts) is doubted
    assert found.settled is not doubted
