"""The collector stands still in the steps of a long import and nowhere else, also where one breaks or is left."""

import gc
from collections.abc import Generator

import pytest

from insertum.shop.services.collector import paused, step_by_step


def steps(fails: bool = False) -> Generator[bool, None, str]:
    yield gc.isenabled()
    yield gc.isenabled()
    if fails:
        raise ValueError("a bad row")
    return "done"


def test_it_stands_still_in_each_step_and_goes_on_between() -> None:
    seen, running = [], step_by_step(steps())
    while True:
        try:
            seen.append((next(running), gc.isenabled()))
        except StopIteration as end:
            assert end.value == "done"
            break
    assert seen == [(False, True), (False, True)]


def test_it_goes_on_after_an_error_and_where_nobody_asks_on() -> None:
    with pytest.raises(ValueError, match="a bad row"):
        list(step_by_step(steps(fails=True)))
    assert gc.isenabled()
    left = step_by_step(steps())
    next(left)
    left.close()
    assert gc.isenabled()


def test_of_two_the_last_lets_it_go_on() -> None:
    with paused():
        with paused():
            pass
        assert not gc.isenabled()
    assert gc.isenabled()
