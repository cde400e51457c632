"""Taken as usual on the owner's word: held back, no credit until it has proved itself, and a gate of its own."""

from typing import Any

import pytest

from insertum.core.bench.sheet import sheet
from insertum.core.fit.build import Build
from insertum.core.fit.judge import judge
from insertum.core.intake.intake import Intake
from insertum.core.plan.need import Need
from insertum.core.plan.planner import Planner
from insertum.core.plan.request import PlanRequest, Terms, Use
from insertum.core.plan.totals import tally
from insertum.core.prepare.gates import AsUsual, gates

from . import made

OLD, NEW = made.radio("OLD", None, standard="ac"), made.radio("NEW", 2000, fru="F-2")
TERMS = {"rate_minor_per_hour": 0, "credits": {"radio": 900}}
WORD = AsUsual(owner="Mira Holt", at="2026-11-26T10:00:00Z")


def build(policy: str | None, word: bool) -> Build:
    laid = made.machine({"radio": {"card_policy": policy, "fitted": OLD.model_dump(mode="json")}})
    return made.build_today(laid, {"radio": OLD}, grades={"radio": set()}, as_usual=word).with_part("radio", NEW)


# what firmware says of cards, the owner's word: verdict, credit now, what the sum says
@pytest.mark.parametrize(
    ("policy", "word", "verdict", "credit"),
    [
        ("any", False, "seats", 900),
        ("any", True, "seats", 900),  # known: nothing is taken as anything
        (None, True, "held_back", 0),
        (None, False, "measure_first", 900),
    ],
)
def test_no_credit_while_its_successor_is_unproven(policy, word, verdict, credit) -> None:
    put = build(policy, word)
    assert judge(put, "radio", NEW).verdict == verdict
    told = tally(put, Terms.model_validate(TERMS), Use())
    assert told.credit_minor == credit
    unproven = verdict == "held_back"
    assert any("once it has proved itself: 9.00" in line for line in told.sum) == unproven
    asked = [g for g in gates(put, Intake(), sheet(put), WORD if word else None) if g.id == "owners_word"]
    assert bool(asked) == unproven
    if unproven:
        assert not asked[0].waivable and asked[0].items[0].startswith("Mira Holt took") and "NEW" in asked[0].items[1]


@pytest.mark.parametrize(("policy", "cost"), [("any", 2000 - 900), (None, 2000)])
def test_the_planner_counts_it_no_other_way(policy, cost) -> None:
    laid = made.machine({"radio": {"card_policy": policy, "fitted": OLD.model_dump(mode="json")}})
    need = Need(kind="radio_throughput", floor=100, comfort=400, ceiling=900)
    asked: dict[str, Any] = {
        "machine": laid.machine, "configuration": "only", "fitted": {"radio": OLD}, "grades": {"radio": []},
        "parts": [NEW], "needs": [need], "use": {}, "terms": TERMS, "as_usual": True,
    }  # fmt: skip
    front = Planner(PlanRequest.model_validate(asked)).front()
    assert [(p.cost, p.option.order[1]) for p in front if p.option.picks] == [(cost, ("NEW",))]


def test_an_empty_slot_gives_no_credit() -> None:
    empty = made.build(made.machine()).with_part("radio", NEW)
    assert tally(empty, Terms.model_validate(TERMS), Use()).credit_minor == 0
