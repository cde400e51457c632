"""What a change changed, place by place."""

from insertum.core.document_diff import MOST, changed


def test_only_what_differs_is_told_and_by_its_place() -> None:
    before = {"name": "A", "slots": [{"id": "m", "rate": 1}, {"id": "d", "rate": 2}], "marks": ["x"], "same": {"k": 0}}
    after = {
        "name": "B",
        "slots": [{"id": "d", "rate": 2}, {"id": "m", "rate": 3}],
        "marks": ["x", "y"],
        "same": {"k": 0},
    }
    assert changed(before, after) == (
        {"name": "A", "slots.m.rate": 1, "marks": ["x"]},
        {"name": "B", "slots.m.rate": 3, "marks": ["x", "y"]},
    )


def test_what_was_added_or_taken_out_stands_against_nothing() -> None:
    assert changed({"a": 1}, {"b": {"c": 2}}) == ({"a": 1, "b": None}, {"a": None, "b": {"c": 2}})
    assert changed({"s": [{"id": "m"}]}, {"s": [{"id": "m"}, {"id": "n"}]}) == ({"s.n": None}, {"s.n": {"id": "n"}})
    assert changed({"a": 1}, {"a": 1}) == ({}, {})
    assert changed({"a": 0}, {"a": False}) == ({}, {})  # as JSON compares in Python; no document holds both


def test_of_many_the_rest_is_counted() -> None:
    for n, told in ((MOST, MOST), (MOST + 1, MOST + 1)):
        before, after = changed({str(i): 0 for i in range(n)}, {str(i): 1 for i in range(n)})
        assert len(before) == len(after) == told
        assert before.get("more") == ("1 more" if n > MOST else None)
