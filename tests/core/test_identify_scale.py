"""Identify over hundreds of configurations and labels as they are met."""

import random

import pytest

from insertum.core.identify.identify import identify
from insertum.core.identify.library import NONE_OF_THESE, UNREADABLE, Library
from insertum.core.identify.match import one_off
from insertum.core.machine.shape import Machine
from insertum.core.spelling import folded

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


# -- another model is no match -------------------------------------------------------------------------
ALL = Library(DEMO)
MARKS = sorted(
    {
        (f"{m.id}/{c.id}", m.marks[0].text, mark.text)
        for m in DEMO
        for c in m.configurations
        for mark in (*m.marks, *c.marks)
    }
)


def changed(text: str) -> list[str]:
    """Every text that is one character off: another one, one less in the middle, one more at either end or in between."""
    found = []
    for i, was in enumerate(text):
        if was.isalnum():
            found += [text[:i] + new + text[i + 1 :] for new in "4B7XK9" if folded(new) != folded(was)]
            found += [text[:i] + text[i + 1 :]] if 0 < i < len(text) - 1 else []
    return [*found, f"{text}0", f"{text}7", f"X{text}", *(text[:i] + "8" + text[i:] for i in range(1, len(text)))]


def test_no_mark_with_a_character_changed_settles_as_the_machine_it_came_from() -> None:
    """Makers tell models apart by one character: every mark of the library, every character, alone and beside the family's
    name, which by itself may settle it."""
    known = {folded(mark) for m in DEMO for c in m.configurations for mark in (t.text for t in (*m.marks, *c.marks))}
    wrong = []
    for name, family, mark in MARKS:
        for text in changed(mark):
            if folded(text) in known or any(k.startswith(folded(text)) or k.endswith(folded(text)) for k in known):
                continue  # another machine's mark, or a part of one
            if text == "H-W11 rev 3":
                continue  # the board's mark with a letter less is the model's own, HW11, and a revision it has
            for texts in ([text], [family, text]) if mark != family else ([text],):
                found = identify(texts, ALL)
                if found.settled and name in found.remaining:
                    wrong.append((texts, name))
    assert wrong == [], f"{len(wrong)}: {wrong[:10]}"


@pytest.mark.parametrize(
    ("texts", "doubt"),
    [
        (["Veyra Drover 140"], "is not Drover 14"),
        (["Drover 140"], "is not"),
        (["Halden Drover 14"], "another maker's"),
        (["Drover 14", "Rill 330"], "is not Rill 320"),
        (["Veyra Drover 14 mk III"], "mk III"),
        (["Veyra Drover 14 2031"], "2031"),
        (["Veyra Strand 15 rev 9"], "rev 9"),
    ],
)
def test_what_is_nearly_a_machine_is_doubted_in_words(texts: list[str], doubt: str) -> None:
    found = identify(texts, ALL)
    assert not found.settled and any(doubt in d for d in found.doubts), found.doubts


@pytest.mark.parametrize(
    "text", ["Veyra Drover 14", "DROVER-14", "drover  l4", "Veyra DR0VER I4", "Drover 14 19V 3.42A", "Model: Drover 14"]
)
def test_what_labels_get_wrong_settles_all_the_same(text: str) -> None:
    found = identify([text], ALL)
    assert found.settled and found.remaining == ("veyra-drover-14/rill-320",)
    assert found.candidates[0].matched in (
        ("Drover 14",),
        ("Veyra Drover 14",),
    )  # the library's mark, not what was typed


def test_exact_marks_of_two_configurations_are_a_question() -> None:
    found = identify(["VS15-R3A", "VB-S15 rev 3"], ALL)
    assert not found.settled and found.question is not None
