"""A change in words: no raw name, no stored unit, nothing that did not change (interface.md, screens)."""

import re
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from insertum.core.diff_words import LONGEST, MOST, changed_places, place

READING = {
    "format": "insertum-reading/2",
    "maker": "Halden",
    "system": "Gannet 15",
    "firmware": "1.02",
    "modules": [{"a": 1}],
}
CHOSEN = {
    "stance": "best_value", "request": {"machine": {"id": "x"}},
    "plan": {"cost_minor": 8383, "changes": [{"slot_name": "Memory B", "part_name": "Orrin 8 GB", "price_minor": 1490}], "tasks": [{"name": "Clean fans"}]},
}  # fmt: skip
AGREED = {"said_by": "the treasurer", "how": "in writing", "at": "2026-11-27T10:00:00+00:00", "cost_minor": 8383}


@pytest.mark.parametrize(
    ("path", "before", "after", "lines"),
    [
        # attributes have their labels, their units and their scale
        (("survey", "measured", "drive-2.clearance_below_um"), None, 1400, [("survey, measured, drive-2, room below", "nothing", "1.4 mm")]),
        ((), {"slots": [{"id": "drive-2", "width_mm": [{"value": 22, "source": "documented", "note": "p. 4"}]}]},
         {"slots": [{"id": "drive-2", "width_mm": [{"value": 30, "source": "documented"}]}]},
         [("slots, drive-2, card width", "22 mm (documented, p. 4)", "30 mm (documented)")]),
        # any other figure by the end of its name
        ((), {"hourly_rate_minor": 5000, "tax_percent": 19}, {"hourly_rate_minor": 5250, "tax_percent": 20},
         [("hourly rate", "50.00", "52.50"), ("tax", "19 %", "20 %")]),
        (("plan", "allow_loss"), False, True, [("plan, allow loss", "no", "yes")]),
        (("intake", "horizon_years"), 0, 3, [("intake, horizon", "0 years", "3 years")]),  # 0 is not nothing
        ((), {"kind": "memory", "number": "O-1", "name": "Orrin", "cl": 17}, {"kind": "memory", "number": "O-1", "name": "Orrin", "cl": 18}, [("CL", "17", "18")]),
        ((), {"depth_mm": 211.5}, {"depth_mm": 212.0}, [("depth", "211.5 mm", "212 mm")]),
        # only what changed
        (("fit", "build"), {"bay": "A-1", "radio": "R-1"}, {"bay": "A-2", "radio": "R-1"}, [("fit, build, bay", "A-1", "A-2")]),
        (("fit", "build"), None, {"bay": "A-2"}, [("fit, build, bay", "nothing", "A-2")]),
        (("plan", "wishes"), ["A", "B"], ["A", "B", "C"], [("plan, wishes", "", "C")]),
        (("plan", "wishes"), ["A", "B"], ["B"], [("plan, wishes", "A", "")]),
        (("plan", "wishes"), ["A", "B"], ["B", "C"], [("plan, wishes", "A, B", "B, C")]),
        (("plan", "wishes"), [], ["C"], [("plan, wishes", "nothing", "C")]),
        # a step was done, or is not any more
        (("bench", "done", "on:cover-screws"), None, "2026-11-27T10:00:00", [("bench, cover screws back on", "not done", "done")]),
        (("bench", "done"), {"out:bay": "2026-11-27T10:00:00"}, {}, [("bench, bay out", "done", "not done")]),
        (("bench", "done", "set-out"), None, "2026-11-27T10:00:00", [("bench, set out", "not done", "done")]),
        # things that are told as one
        (("prepare", "gates", "backup"), None, {"state": "waived", "words": "none wanted", "who": "bench"},
         [("prepare, gates, backup", "nothing", "waived: none wanted")]),
        (("prove", "readings"), [], [READING], [("prove, readings", "nothing", "a reading of Halden Gannet 15, firmware 1.02")]),
        (("survey", "reading"), None, {"format": "insertum-reading/2"}, [("survey, reading", "nothing", "a reading of a machine that does not say its name")]),
        (("plan", "chosen"), None, CHOSEN, [("plan, chosen", "nothing", "best value, 83.83: Orrin 8 GB in Memory B, Clean fans")]),
        (("plan", "agreed"), [], [AGREED], [("plan, agreed", "nothing", "the treasurer agreed to 83.83, in writing")]),
        (("survey", "fitted", "bay"), None, {"kind": "bay_drive", "number": "W-1", "name": "Wherry 1 TB"},
         [("survey, fitted, bay", "nothing", "Wherry 1 TB (W-1)")]),
        # what differs behind the words is not told as a change of the words
        (("plan", "chosen"), CHOSEN, {**CHOSEN, "rules_version": "2"}, [("plan, chosen", "", "best value, 83.83: Orrin 8 GB in Memory B, Clean fans")]),
        (("intake", "another"), None, {"price_minor": 9900, "notes": "", "memory_gb": 16}, [("intake, another, price", "nothing", "99.00"), ("intake, another, memory", "nothing", "16 GB")]),
    ],
)  # fmt: skip
def test_a_change_is_told(path, before: Any, after: Any, lines) -> None:
    assert [(t.place, t.before, t.after) for t in changed_places(path, before, after)] == lines


def test_a_machines_width_is_no_cards() -> None:
    assert changed_places((), {"width_mm": 307}, {"width_mm": 308}, own=("width_mm",))[0].place == "width"
    assert changed_places((), {"width_mm": 22}, {"width_mm": 30})[0].place == "card width"


def test_figures_of_one_kind_are_told_so() -> None:
    """A price list keeps prices by part number: the number's end is no unit."""
    assert [(t.place, t.before, t.after) for t in changed_places((), {"A_mm": 150}, {"A_mm": 99}, "price_minor")][0][
        1:
    ] == ("1.50", "0.99")


def test_what_is_long_is_cut_and_shows_it() -> None:
    one = changed_places(("bench", "notes"), "", "x" * (LONGEST + 1))[0].after
    assert (
        one == "x" * LONGEST + "…" and changed_places(("bench", "notes"), "", "x" * LONGEST)[0].after == "x" * LONGEST
    )
    many = changed_places((), {}, {f"n{i}": i for i in range(MOST + 3)})
    assert len(many) == MOST + 1 and many[-1].place == "and 3 more"
    assert len(changed_places((), {}, {f"n{i}": i for i in range(MOST)})) == MOST


def test_what_a_person_wrote_is_left_as_it_is() -> None:
    assert changed_places(("bench", "notes"), "", "lid_cable torn")[0].after == "lid_cable torn"
    assert place(("survey", "fitted", "memory-a")) == "survey, fitted, memory-a"


_DOCUMENT = st.recursive(
    st.none() | st.booleans() | st.integers(-5, 5) | st.text("ab", max_size=3),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from(["a", "width_mm", "price_minor", "id", "value", "source", "state"]), inner, max_size=3),
    max_leaves=8,
)  # fmt: skip


@given(_DOCUMENT, _DOCUMENT)
def test_only_changes_are_told_and_in_words(before: Any, after: Any) -> None:
    lines = changed_places(("intake",), before, after)
    assert before != after or not lines
    assert all(t.before != t.after for t in lines)
    assert not any(re.search(r"[{}]|width_mm|_minor|None", t.place + t.before + t.after) for t in lines)
