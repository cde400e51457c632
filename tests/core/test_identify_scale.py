"""Identify over hundreds of configurations and labels as they are met."""

import random

from insertum.core.identify.identify import NONE_OF_THESE, UNREADABLE, Library, identify
from insertum.core.identify.match import one_off
from insertum.core.machine.shape import Machine

from . import made
from .library import generated, met

DEMO = [Machine.model_validate_json(p.read_text()) for p in sorted((made.DEMO / "machines").glob("*.json"))]


def test_the_right_one_is_first_or_left_with_a_question_that_splits() -> None:
    """At least 98 % over more than 400 configurations (benchmarks/identify.py prints the figure)."""
    machines = generated(420)
    library, chance = Library(machines), random.Random(11)
    right = total = 0
    for machine in machines:
        for i, c in enumerate(machine.configurations):
            total += 1
            found = identify(met(machine, i, chance), library)
            first = found.remaining[:1] == (f"{machine.id}/{c.id}",)
            right += first or (f"{machine.id}/{c.id}" in found.remaining and found.question is not None)
    assert total >= 400 and right >= 0.98 * total, f"{right} of {total}"


def test_answers_split_are_taken_back_and_may_be_none() -> None:
    library = Library(DEMO)
    open_ = identify(["Veyra Strand 15"], library)
    assert open_.question is not None and open_.question.kind == "model" and len(open_.remaining) == 2
    said = identify(["Veyra Strand 15"], library, answers={"model": "Strand 15 mk I"})
    assert said.remaining == ("veyra-strand-15/mk1-rill-310",) and said.settled
    unread = identify(["Veyra Strand 15"], library, answers={"model": UNREADABLE})
    assert unread.question is not None and unread.question.kind != "model" and len(unread.remaining) == 2
    none = identify(["Veyra Strand 15"], library, answers={"processor": NONE_OF_THESE})
    assert not none.settled and not none.in_library and none.relatives[0].machine == "veyra-strand-15"


def test_a_part_found_inside_identifies_too() -> None:
    library = Library(DEMO)
    assert identify(["AP-HA83"], library).remaining == ("brannock-harrow-16/beck-450",)
    assert identify(["BB-F17 rev C"], library).remaining == ("brannock-fell-17/beck-680",)


def test_what_the_library_lacks_is_said_plainly_with_its_relatives() -> None:
    library = Library(DEMO)
    gone = identify(["Halden Tern 12", "Rill 999"], library)
    assert not gone.settled and not gone.in_library
    strange = identify(["Veyra Strand 15", "Rill 777"], library)
    assert not strange.settled and "Rill 777" in strange.doubts[0]
    torn = identify(["Fell 17", "AP-TE50"], library)
    assert not torn.settled and "contradicted" in torn.doubts[0]
    empty = identify([], library)
    assert empty.in_library and not empty.settled and empty.question is not None and not empty.remaining


def test_the_workshops_own_counts_are_the_prior() -> None:
    counted = identify(["Veyra Strand 15"], Library(DEMO), {"veyra-strand-15/mk1-rill-310": 3})
    assert counted.remaining[0] == "veyra-strand-15/mk1-rill-310"
    assert round(counted.candidates[0].share / counted.candidates[1].share) == 4  # 1 + 3 against 1


def test_alike_in_all_that_matters_is_settled() -> None:
    twin = DEMO[0].model_copy(update={"id": "twin"})
    assert identify(["BF17-01", "Beck 540"], [DEMO[0], twin]).settled


def test_one_wrong_character_and_no_more() -> None:
    pairs = [
        ("ABCDEF", "ABCDEF"),
        ("ABCDEF", "ABXDEF"),
        ("ABCDEF", "ABCDE"),
        ("ABCDEF", "ABXCDEF"),
        ("ABCDEF", "ABXXEF"),
        ("ABCDEF", "ABCD"),
    ]
    assert [one_off(*p) for p in pairs] == [True, True, True, True, False, False]
