"""What two people change of one thing: every way a field can go, by hand."""

import pytest

from insertum.core.three_way_merge import both_kept, torn


@pytest.mark.parametrize(
    ("base", "mine", "theirs", "kept", "both"),
    [
        ("a", "a", "a", "a", False),  # nobody
        ("a", "b", "a", "b", False),  # only I
        ("a", "a", "b", "b", False),  # only they
        ("a", "b", "b", "b", False),  # both to the same
        ("a", "b", "c", "c", True),  # each to something else: theirs stands until somebody says so
        ("", "b", "", "b", False),  # I added it
        ("a", "", "a", "", False),  # I took it away
        ("a", "", "c", "c", True),  # I took away what they changed
    ],
)
def test_a_field_that_two_may_have_changed(base, mine, theirs, kept, both) -> None:
    # "" is a field that is not there at all, too
    for strip in (False, True):
        three = [{"n": v} if v or not strip else {} for v in (base, mine, theirs)]
        made, names = both_kept(*three, "")
        assert (made.get("n", ""), names) == (kept, ["n"] if both else [])


def test_both_words_are_said() -> None:
    error = torn("this part", {"chip_width": ("8", ""), "name": ("A", "B")})
    assert error.what == "somebody else changed this part meanwhile"
    assert error.where == "chip width: theirs 8, yours nothing; name: theirs A, yours B"
    # Whoever goes on from it reads these, never the words.
    assert error.code == "conflict" and error.fields == {"chip_width": ("8", ""), "name": ("A", "B")}
