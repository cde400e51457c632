"""The frontier alone, which knows nothing of laptops: against brute force on abstract options."""

from itertools import product

from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.plan.frontier import Option, Tariff, combine, frontier, hull, prune

PLACES = "abc"


@st.composite
def groups(draw):
    """Groups of options over their own places; the first option of each does nothing."""
    result = []
    for place in PLACES[: draw(st.integers(1, 3))]:
        options = [Option(frozenset(), 0, 0, (), 0)]
        for name in draw(st.lists(st.sampled_from("pqrs"), max_size=4, unique=True)):
            options.append(
                Option(
                    frozenset(place if draw(st.booleans()) else place * 1 + "x"),
                    draw(st.integers(-3, 9)),
                    draw(st.integers(0, 4)),
                    (name,),
                    draw(st.integers(-2, 6)),
                    (f"{place}{name}",),
                )
            )
        result.append(options)
    return result


def together(choice) -> Option:
    return Option(
        frozenset().union(*(o.touch for o in choice)),
        sum(o.money for o in choice),
        sum(o.seconds for o in choice),
        tuple(sorted(n for o in choice for n in o.names)),
        sum(o.worth for o in choice),
        tuple(c for o in choice for c in o.choice),
    )


def tariff(rate: int) -> Tariff:
    return Tariff(lambda touch: 5 * len(touch) ** 2, rate)


@settings(max_examples=400)
@given(groups(), st.sampled_from([0, 100, 1800, 3600]))
def test_frontier_is_that_of_all_combinations(options, rate) -> None:
    price = tariff(rate)
    every = sorted((price.cost(o), -o.worth, len(o.names), o.names) for o in map(together, product(*options)))
    wanted = []
    for cost, worth, count, names in every:
        if not wanted or -worth > wanted[-1][1]:
            wanted.append((cost, -worth, count, names))
    assert [(p.cost, p.worth, len(p.option.names), p.option.names) for p in frontier(options, price)] == wanted


@given(groups(), st.sampled_from([0, 1800]))
def test_points_rise_in_cost_and_worth_and_the_hull_is_concave(options, rate) -> None:
    points = frontier(options, tariff(rate))
    assert all(a.cost < b.cost and a.worth < b.worth for a, b in zip(points, points[1:], strict=False))
    walk = hull(points, points[0])
    slopes = [(b.worth - a.worth) / (b.cost - a.cost) for a, b in zip(walk, walk[1:], strict=False)]
    assert all(a > b for a, b in zip(slopes, slopes[1:], strict=False))
    assert walk[-1] == points[-1]


@given(groups())
def test_pruning_keeps_the_cheapest_and_the_best_of_every_touch(options) -> None:
    for group in options:
        kept = prune(group)
        assert set(kept) <= set(group)
        for o in group:
            same = [k for k in kept if k.touch == o.touch]
            assert min(k.money for k in same) <= o.money and max(k.worth for k in same) >= o.worth
    assert {o.touch for o in combine(options)} <= {together(c).touch for c in product(*options)}


@given(st.integers(0, 100_000), st.integers(0, 100_000), st.integers(0, 20_000))
def test_labour_never_falls_with_time(a, b, rate) -> None:
    low, high = sorted((a, b))
    assert tariff(rate).labour(low) <= tariff(rate).labour(high)
