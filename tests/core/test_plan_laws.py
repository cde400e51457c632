"""Laws every plan keeps, on generated machines; and the integer program's answer to the same question."""

import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from insertum.core.plan.answer import answer
from insertum.core.plan.planner import Planner
from insertum.core.plan.request import PlanRequest

from .test_plan_exact import requests, tried

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "benchmarks"))


def best(request: PlanRequest):
    planner = Planner(request)
    found = planner.best_value(planner.front()).chosen
    return planner, found


def most(request: PlanRequest) -> float:
    planner = Planner(request)
    return planner.points(planner.affordable(planner.front())[-1].worth)


def under(request: PlanRequest, **terms: object) -> PlanRequest:
    return request.model_copy(update={"terms": request.terms.model_copy(update=terms)})


@tried
@given(requests(), st.integers(0, 30000))
def test_more_money_never_lowers_what_can_be_gained(request: PlanRequest, more: int) -> None:
    budget = request.terms.budget_minor or 5000
    assert most(under(request, budget_minor=budget + more)) >= most(under(request, budget_minor=budget)) - 1e-9


@tried
@given(requests(), st.integers(0, 9), st.integers(0, 6000))
def test_a_cheaper_offer_never_worsens_the_best_plan(request: PlanRequest, which: int, less: int) -> None:
    """Best by the job's own measure: points less what a unit of money is worth."""
    parts = [p for p in request.parts if p.price_minor is not None]
    part = parts[which % len(parts)]
    cheap = part.model_copy(update={"offers": tuple(o.model_copy(update={"price_minor": max(0, o.price_minor - less)}) for o in part.offers)})  # fmt: skip
    cheaper = request.model_copy(update={"parts": tuple(cheap if p is part else p for p in request.parts)})

    def score(r: PlanRequest) -> float:
        planner, _ = best(r)
        return max(
            planner.points(p.worth) - r.terms.threshold * p.cost / 100 for p in planner.affordable(planner.front())
        )

    assert score(cheaper) >= score(request) - 1e-9


@tried
@given(requests(), st.sampled_from([2, 5, 0.5]))
def test_scaled_weights_give_the_same_plans(request: PlanRequest, factor: float) -> None:
    needs = tuple(n.model_copy(update={"weight": n.weight * factor}) for n in request.needs)
    (_, one), (_, other) = best(request), best(request.model_copy(update={"needs": needs}))
    assert one.option.order == other.option.order


@tried
@given(requests(), st.lists(st.sampled_from([0.5, 1, 2, 7.5]), min_size=9, max_size=9))
def test_a_moved_weight_says_what_a_planner_of_its_own_says(request: PlanRequest, weights: list[float]) -> None:
    planner = Planner(request)
    first = answer(planner)
    needs = tuple(n.model_copy(update={"weight": w}) if n.weight_units else n for n, w in zip(request.needs, weights, strict=False))  # fmt: skip
    moved = request.model_copy(update={"needs": needs})
    again = planner.weighing(moved)
    assert again is not None and answer(again) == answer(Planner(moved))
    assert answer(planner) == first  # and the one it came from stays as it was


@tried
@given(requests())
def test_choices_are_kept_for_other_weights_and_for_nothing_else(request: PlanRequest) -> None:
    planner = Planner(request)
    need, *rest = request.needs
    for other in (
        need.model_copy(update={"weight": 0.0 if need.weight_units else 1.0}),
        need.model_copy(update={"ceiling": need.ceiling + 1}),
        need.model_copy(update={"growth_percent": 7.0}),
    ):
        assert planner.weighing(request.model_copy(update={"needs": (other, *rest)})) is None
    assert planner.weighing(under(request, threshold=request.terms.threshold + 0.1)) is None
    assert planner.weighing(request.model_copy(update={"parts": request.parts[1:]})) is None


@tried
@given(requests())
def test_a_part_with_nothing_to_add_is_never_bought(request: PlanRequest) -> None:
    """Left out of *just enough* and *best value*, none of what they change leaves the plan as good and no dearer."""
    planner, found = best(request)
    enough, _, _ = planner.just_enough()
    for point in (found, enough):
        worth = {c: planner.benefit()(c) for c in point.option.meaning}
        for c in point.option.meaning:
            if c.picks and c.effort > 0 and worth[c] <= 0 and all(max(x) <= 0 for e in c.effects for x in e.changes):
                assert point is enough and planner.keeps(c) is False, c.changes


@tried
@given(requests(hidden=1, plain=True))
def test_learning_never_lowers_what_is_certain_by_more_than_it_disproves(request: PlanRequest) -> None:
    """A fact that is learned (here: what sits in a bay nobody had looked into) can only take away what the plan wrongly
    hoped; what was certain stays certain, since it was the least over every possibility."""
    unseen = request.model_copy(
        update={"unknown": ("bay",), "fitted": {k: v for k, v in request.fitted.items() if k != "bay"}}
    )
    planner = Planner(unseen)
    certain = planner.best_value(planner.front()).chosen
    learned = unseen.model_copy(update={"unknown": (), "fitted": {**unseen.fitted, "bay": None}})
    after = Planner(learned)
    same = [p for p in after.front() if p.cost <= certain.cost]
    assert after.points(same[-1].worth) >= planner.points(certain.worth) - 1e-9


@pytest.mark.parametrize(("parts", "budget"), [(120, 40000), (120, 9000), (300, 25000)])
def test_the_integer_program_finds_no_more(parts: int, budget: int) -> None:
    """Nine slots and a catalogue of hundreds: the planner's best within the budget is the integer program's."""
    from plan_large import request as large

    from .plan_milp import best_by_milp

    asked = under(large(parts), budget_minor=budget)
    planner = Planner(asked)
    front = planner.affordable(planner.front())
    assert best_by_milp(planner, budget) == pytest.approx(planner.points(front[-1].worth), abs=1e-6)
