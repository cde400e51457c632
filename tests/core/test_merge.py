"""Two people's edits of one machine: both kept, and named where they cannot be."""

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from insertum.core.machine.merge import merged

BASE: dict[str, Any] = {
    "name": "Weir 14", "memory": {"total": 32, "speed": 4800}, "marks": ["a"],
    "slots": [{"id": "a", "key": "M", "place": {"x": 1}}, {"id": "b", "key": "E"}],
}  # fmt: skip


def test_what_each_changed_stands() -> None:
    mine = {
        **BASE,
        "memory": {"total": 64, "speed": 4800},
        "slots": [{"id": "a", "key": "B", "place": {"x": 1}}, BASE["slots"][1]],
    }
    theirs = {**BASE, "memory": {"total": 32, "speed": 5600}, "slots": [*BASE["slots"], {"id": "c"}]}
    got = merged(BASE, mine, theirs)
    assert got.conflicts == ()
    assert got.data["memory"] == {"total": 64, "speed": 5600}
    assert got.data["slots"] == [{"id": "a", "key": "B", "place": {"x": 1}}, BASE["slots"][1], {"id": "c"}]


def test_the_same_place_changed_differently_is_named_and_nobody_s_is_lost_in_silence() -> None:
    mine = {**BASE, "slots": [{**BASE["slots"][0], "key": "B"}, BASE["slots"][1]]}
    theirs = {**BASE, "slots": [{**BASE["slots"][0], "key": "A"}, BASE["slots"][1]]}
    got = merged(BASE, mine, theirs)
    assert got.conflicts == ("slots/a/key",) and got.data["slots"][0]["key"] == "A"
    assert merged(BASE, mine, mine).conflicts == ()


def test_a_slot_taken_out_by_one_and_changed_by_the_other_is_named() -> None:
    out = {**BASE, "slots": [BASE["slots"][1]]}
    changed = {**BASE, "slots": [{**BASE["slots"][0], "key": "B"}, BASE["slots"][1]]}
    assert merged(BASE, out, changed).conflicts == ("slots/a",)
    assert merged(BASE, out, BASE).data["slots"] == [BASE["slots"][1]]
    assert merged(BASE, BASE, out).data["slots"] == [BASE["slots"][1]]


def test_an_order_somebody_changed_is_kept_with_what_is_new() -> None:
    turned = {**BASE, "slots": BASE["slots"][::-1]}
    more = {**BASE, "slots": [*BASE["slots"], {"id": "c"}]}
    for got in (merged(BASE, turned, more), merged(BASE, more, turned)):
        assert [s["id"] for s in got.data["slots"]] == ["b", "a", "c"] and not got.conflicts


VALUE = st.recursive(
    st.integers(0, 3), lambda inner: st.dictionaries(st.sampled_from("xyz"), inner, max_size=3), max_leaves=6
)
DOC = st.dictionaries(st.sampled_from("abc"), VALUE, max_size=3)


@given(DOC, DOC, DOC)
def test_laws(base, mine, theirs) -> None:
    assert merged(base, base, theirs).data == theirs and merged(base, mine, base).data == mine
    assert merged(base, mine, mine).data == mine
    one, other = merged(base, mine, theirs), merged(base, theirs, mine)
    assert set(one.conflicts) == set(other.conflicts)
    if not one.conflicts:
        assert one.data == other.data
