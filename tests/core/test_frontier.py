"""The frontier alone, which knows nothing of laptops: against every combination of abstract options."""

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.plan.frontier import (
    UNIT,
    Option,
    Point,
    Tariff,
    cheapest,
    combine,
    cost_of,
    effort_of,
    frontier,
    hull,
    prune,
)

PLACES = "abc"


@st.composite
def groups(draw):
    """Groups of options over their own places and a shared one; the first of each does nothing."""
    result = []
    for i in range(draw(st.integers(1, 3))):
        options = [Option(0, 0, 0)]
        for name in draw(st.lists(st.sampled_from("pqrs"), max_size=4, unique=True)):
            opens = 1 | 2 << i | (16 if draw(st.booleans()) else 0)
            effort = effort_of(draw(st.integers(-3, 9)), draw(st.integers(0, 4)), 1800)
            options.append(Option(opens, effort, draw(st.integers(-2, 6)), ((i, name, None),), draw(st.integers(0, 1))))
        result.append(options)
    return result


def together(choice) -> Option:
    whole = choice[0]
    for o in choice[1:]:
        whole = whole.and_then(o)
    return whole


def tariff(rate: int) -> Tariff:
    """Opening more never costs less."""
    return Tariff(lambda opens: 2 * rate * 5 * opens.bit_count() ** 2)


@settings(max_examples=400)
@given(groups(), st.sampled_from([0, 100, 1800, 3600]))
def test_frontier_is_that_of_all_combinations(options, rate) -> None:
    price = tariff(rate)
    every = sorted((price.cost(o), -o.worth, o.order) for o in map(together, product(*options)))
    wanted = []
    for cost, worth, order in every:
        if not wanted or -worth > wanted[-1][1]:
            wanted.append((cost, -worth, order))
    assert [(p.cost, p.worth, p.option.order) for p in frontier(options, price)] == wanted
    least = min((price.cost(o), o.order) for o in map(together, product(*options)))
    found = cheapest(options, price)
    assert found is not None and (found.cost, found.option.order) == least


@given(groups(), st.sampled_from([0, 1800]))
def test_points_rise_in_cost_and_worth_and_the_hull_is_concave(options, rate) -> None:
    points = frontier(options, tariff(rate))
    assert all(a.cost < b.cost and a.worth < b.worth for a, b in zip(points, points[1:], strict=False))
    walk = hull(points, points[0])
    slopes = [(b.worth - a.worth) / (b.cost - a.cost) for a, b in zip(walk, walk[1:], strict=False)]
    assert all(a > b for a, b in zip(slopes, slopes[1:], strict=False))
    assert walk[-1] == points[-1]


@given(groups())
def test_pruning_only_leaves_out(options) -> None:
    for group in options:
        assert {id(o) for o in prune(group)} <= {id(o) for o in group}
    assert {o.order for o in combine(options)} <= {together(c).order for c in product(*options)}
    assert combine([[]]) == []


@pytest.mark.parametrize(
    ("minor", "seconds", "rate", "cost"),
    [
        (0, 0, 5000, 0),
        (0, 3600, 5000, 5000),
        (0, 60, 5000, 83),  # 83.33
        (0, 1500, 5000, 2083),  # 2083.33
        (0, 36, 5050, 51),  # 50.5 rounds half up
        (0, 36, 5049, 50),  # 50.49
        (100, 2460, 5000, 3517),  # 41 min: 3416.67, and a euro of parts
        (-900, 36, 5050, -849),  # a credit: −849.5 rounds half up
    ],
)
def test_money_and_time_are_one_integer_rounded_once(minor, seconds, rate, cost) -> None:
    assert cost_of(effort_of(minor, seconds, rate)) == cost
    assert effort_of(1, 0, rate) == UNIT


def point(cost: int, worth: int) -> Point:
    return Point(cost, worth, Option(0, cost * UNIT, worth))


def test_hull_takes_the_steepest_step_first() -> None:
    # slopes from the origin: 10/10, 18/20, 30/30, 31/60: the step to (30, 30) ties with (10, 10) and is longer
    points = [point(0, 0), point(10, 10), point(20, 18), point(30, 30), point(60, 31)]
    assert [(p.cost, p.worth) for p in hull(points, points[0])] == [(0, 0), (30, 30), (60, 31)]


def test_shared_access_makes_the_second_upgrade_cheaper() -> None:
    nothing = Option(0, 0, 0)
    memory = [nothing, Option(1, 500 * UNIT, 10, ((0, "m", None),))]
    drive = [nothing, Option(1, 700 * UNIT, 10, ((1, "d", None),))]
    front = frontier([memory, drive], Tariff(lambda opens: 1000 * UNIT if opens else 0))
    assert [(p.cost, p.worth) for p in front] == [(0, 0), (1500, 10), (2200, 20)]  # 500 + 700 + one hour


def test_equal_points_take_fewer_changes_then_names_then_places() -> None:
    free = Tariff(lambda _: 0)
    nothing = Option(0, 0, 0)
    a = [nothing, Option(1, 200 * UNIT, 10, ((0, "z", None),)), Option(1, 100 * UNIT, 5, ((0, "y", None),))]
    b = [nothing, Option(1, 100 * UNIT, 5, ((1, "b", None),))]
    assert [p.option.order[1] for p in frontier([a, b], free)] == [(), ("b",), ("z",), ("b", "z")]
    twins = [nothing, Option(1, UNIT, 5, ((1, "b", None),)), Option(1, UNIT, 5, ((0, "b", None),)),
             Option(1, UNIT, 5, ((0, "b", None),), late=1)]  # fmt: skip
    assert frontier([twins], free)[-1].option.order == (1, ("b",), (0,), ("b",), 0)
