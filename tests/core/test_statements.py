"""A pasted page taken apart: statements, labels, columns, sections, and whose a figure in a sentence is."""

import pytest

from insertum.core.maker_text.page_text import normalised, sentences
from insertum.core.maker_text.scope import Scope
from insertum.core.maker_text.statements import MOST_SENTENCE, UNSURE, Statement, page_of

APART = [
    ("Memory: two sockets\nDrive: one slot", [("Memory", "two sockets"), ("Drive", "one slot")]),
    ("MEMORY SLOTS\n2\nBATTERY\n54 Wh", [("MEMORY SLOTS", "2"), ("BATTERY", "54 Wh")]),
    ("Memory ..... 2 sockets", [("Memory", "2 sockets")]),
    ("Memory 2 x SO-DIMM\nBattery 54 Wh", [("Memory", "2 x SO-DIMM"), ("Battery", "54 Wh")]),
    ("Storage\n• a slot\n• a bay", [("Storage", "a slot"), ("Storage", "a bay")]),
    ("Ports: HDMI. Storage: a slot.", [("Ports", "HDMI."), ("Storage", "a slot.")]),
    ("It has max. 64 GB in M.2 form. No bay.", [("", "It has max. 64 GB in M.2 form."), ("", "No bay.")]),
    ("one; two; three", [("", "one"), ("", "two"), ("", "three")]),
    ("It takes two SO-\nDIMMs and a mod-\nule more.", [("", "It takes two SO-DIMMs and a module more.")]),
    ("1. Lift the cover.\n2. Pull the plug\n   of the battery.", [("", "Lift the cover."), ("", "Pull the plug of the battery.")]),
    ("Memory: one\n\nTwo", [("Memory", "one"), ("", "Two")]),
]  # fmt: skip


@pytest.mark.parametrize(("text", "wanted"), APART)
def test_apart(text: str, wanted: list[tuple[str, str]]) -> None:
    assert [(s.label, s.text) for s in page_of(text).statements] == wanted


@pytest.mark.parametrize(
    ("written", "read"),
    [("2×8", "2x8"), ("S0-DIMM", "SO-DIMM"), ("sodimm", "SO-DIMM"), ("so dimm", "SO-DIMM"), ("Dr1ve", "Drive"), ("max l6 GB", "max 16 GB"), ("228O", "2280"), ("PC1e", "PCIe"), ("I am l6", "I am l6"),
     ("22B0", "22B0"), ("4B Wh", "4B Wh"), ("PCIe® 4.0", "PCIe 4.0"), ("“a”", '"a"'), ("A\r\nB", "A\nB"), ("x" * 90, " "), ("x" * 79, "x" * 79)],
)  # fmt: skip
def test_signs_that_come_in_several_ways(written: str, read: str) -> None:
    assert normalised(written) == read


def test_columns_are_those_of_a_head_that_names_processors_or_machines() -> None:
    page = page_of("x\tRill 340\tBeck 450\nMax\t1\t2\nSame\t3\t3\nShort\t4")
    assert page.configurations == ("Rill 340", "Beck 450")
    assert [(s.text, s.configuration) for s in page.statements] == [
        ("1", "Rill 340"),
        ("2", "Beck 450"),
        ("3", ""),
        ("4", UNSURE),
    ]
    assert [s.configuration for s in page_of("Feature\tValue\tNote\nMax\t1\t2").statements] == ["", "", "", ""]


def test_a_blank_line_ends_a_table_of_tabs() -> None:
    page = page_of("x\tRill 340\tBeck 450\nMax\t1\t2\n\nSlots\t2")
    assert page.statements[-1] == Statement("2", 4, "Slots", "row", "")


def test_a_row_each_machine() -> None:
    page = page_of("Model\tMemory slots\tBattery\nA 14\t2\t54 Wh\nB 16\t4\t86 Wh")
    assert [(s.label, s.text, s.configuration) for s in page.statements] == [
        ("Memory slots", "2", "A 14"), ("Battery", "54 Wh", "A 14"), ("Memory slots", "4", "B 16"), ("Battery", "86 Wh", "B 16"),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("text", "kept"),
    [("Unlike the Spar 15, which has two, the Weir 14 has one.", "the Weir 14 has one."), ("Unlike others it has one.", ""),
     ("Unlike the rest, small.", ""), ("The Weir 14 has one.", "The Weir 14 has one.")],
)  # fmt: skip
def test_a_comparison_keeps_what_is_said_of_this_machine(text: str, kept: str) -> None:
    assert " ".join(s.text for s in page_of(text, "Weir 14").statements) == kept


def test_what_is_said_of_another_machine_is_left_out() -> None:
    text = "The Weir 14 has two sockets. The Spar 15 has four."
    assert [s.text for s in page_of(text, "Weir 14").statements] == ["The Weir 14 has two sockets."]
    assert [s.text for s in page_of(text, "Spar 15").statements] == ["The Spar 15 has four."]
    assert [s.text for s in page_of(text).statements] == [
        "The Weir 14 has two sockets."
    ]  # the first is whose page it is


def test_sentences_are_no_longer_than_people_write() -> None:
    assert sentences("a. B. c") == ["a.", "B. c"]
    assert [len(s) for s in sentences("x" * (2 * MOST_SENTENCE + 1))] == [MOST_SENTENCE, MOST_SENTENCE, 1]


SCOPE = [
    ("With the Rill 340 it is A, with the Beck 450 Z", "A", "Rill 340"), ("With the Rill 340 it is A, with the Beck 450 Z", "Z", "Beck 450"),
    ("A with the Rill 340 and B with the Beck 450", "A", "Rill 340"), ("A with the Rill 340 and B with the Beck 450", "B with", "Beck 450"),
    ("A with the Rill 340", "A", "Rill 340"), ("A with either processor", "A", ""), ("A, whatever", "A", ""),
    ("the mk II has A", "A", "mk II"), ("Rill 340 models take A", "A", "Rill 340"),
]  # fmt: skip


@pytest.mark.parametrize(("text", "figure", "whose"), SCOPE)
def test_whose_a_figure_is(text: str, figure: str, whose: str) -> None:
    assert Scope(Statement(text, 1)).at(text.index(figure), wiring=True) == whose


def test_a_place_named_for_two_keeps_its_size_and_deals_out_its_wiring() -> None:
    scope = Scope(Statement("S is A with the Rill 340 and B with the Beck 450", 1))
    assert scope.at(0) == "" and scope.at(5, wiring=True) == "Rill 340"
    assert scope.at(5, 0, 10) == ""  # of a part of the sentence that names nobody
    fixed = Scope(Statement("A with the Rill 340", 1, configuration="Beck 450"))
    assert fixed.at(0) == "Beck 450"  # its column outweighs a name in the cell
