"""Which claim counts: facts as domains by rank, limits picked by school, contradictions shown (rules.md section 2)."""

from typing import Any

import pytest
from pydantic import ValidationError

from insertum.core.errors import InputError
from insertum.core.known.domain import Lot, Some, Span
from insertum.core.known.known import as_delivered
from insertum.core.known.school import pick
from insertum.core.machine.claim import Claim, Fact, Limits, Source
from insertum.core.survey.current_build import build_today, with_claims

from . import made

IntFact = Fact[int]


def fact(*claims) -> IntFact:
    """(value, source) or (value, source, firmware, count, failures, configuration)."""
    names = ("value", "source", "firmware", "count", "failures", "configuration")
    return IntFact(tuple(Claim[int](**dict(zip(names, c, strict=False))) for c in claims))


D, C, P, R, M, X = "documented", "controller", "proven", "reported", "measured", "read"

# claims → documented, controller, proven, open (value; '?' after it: only a report carries it)
LIMITS = [
    ([], (None, None, None, None)),
    ([(16, D)], (16, 16, 16, 16)),
    ([(16, D), (32, C)], (16, 32, 16, 32)),
    ([(32, C)], (None, 32, None, 32)),  # controller alone: documented and proven know nothing
    ([(16, D), (32, C), (24, P, "", 1, 0)], (16, 32, 24, 32)),
    ([(16, D), (24, P, "", 1, 1)], (16, 16, 16, 16)),  # a failure at that value
    ([(16, D), (24, P, "", 2, 0), (32, P, "", 1, 1)], (16, 16, 24, 24)),
    ([(16, D), (24, P, "9.9", 1, 0)], (16, 16, 16, 16)),  # another firmware is shown, never decides
    ([(16, D), (24, P, "1.0", 1, 0)], (16, 16, 24, 24)),  # this firmware
    ([(16, D), (24, P, "1.0", 1, 0, "other")], (16, 16, 16, 16)),  # another configuration never decides
    ([(16, D), (24, P, "1.0", 1, 0, "this")], (16, 16, 24, 24)),
    ([(16, D), (64, R)], (16, 16, 16, "64?")),
    ([(16, D), (12, R)], (16, 16, 16, 16)),
    ([(64, R)], (None, None, None, "64?")),
    ([(32, D), (16, C)], (32, 16, 32, 32)),  # controller below documented counts under controller
    ([(16, D), (32, D)], (16, 16, 16, 16)),  # one source twice: the lower
    ([(24, X)], (None, None, None, None)),  # what runs now is a lower bound, not a limit
    ([(16, D), (24, X)], (24, 24, 24, 24)),  # running now is a lower bound under every school
]


@pytest.mark.parametrize(("claims", "wanted"), LIMITS)
def test_limit_by_school(claims, wanted) -> None:
    picked = [pick(fact(*claims), school, "this", "1.0") for school in Limits]
    assert tuple(f"{p.value}?" if p.sure != p.value else p.value for p in picked) == wanted


def test_what_runs_is_a_lower_bound_and_contradictions_are_said() -> None:
    assert pick(fact((8, D)), Limits.DOCUMENTED, at_least=16).value == 16
    assert pick(fact((32, D), (16, C)), Limits.PROVEN).contradictions == (
        "controller says 16, below the documented 32",
    )
    assert "the lower counts" in pick(fact((16, D), (32, D)), Limits.PROVEN).contradictions[0]


def test_an_unknown_limit_is_met_at_its_worst_and_its_best() -> None:
    low, high = pick(fact(), Limits.PROVEN, at_least=8).caps()
    assert (low.most, low.sure) == (8, 8) and high.most > 10**9
    (one,) = pick(fact((16, D)), Limits.PROVEN).caps()
    assert (one.most, one.sure, one.source) == (16, 16, Source.DOCUMENTED)


def known_bay(*claims: dict[str, Any], firmware: str = "", runs_mm: float = 0, delivered_mm: float = 0) -> Any:
    """The domain of a bay's height, with a drive that works there or was delivered there."""
    bay: dict[str, Any] = {"height_um": list(claims)}
    if delivered_mm:
        bay["fitted"] = made.bay_drive(height_um=round(delivered_mm * 1000)).model_dump(mode="json")
    held = {"bay": made.bay_drive(height_um=round(runs_mm * 1000))} if runs_mm else {}
    return build_today(made.machine({"bay": bay}), held, firmware=firmware).known.domain("bay", "height_um")


ALL = Some((5000, 7000, 9500, 12500, 15000))
said = made.said


@pytest.mark.parametrize(
    ("claims", "more", "wanted"),
    [
        ([], {}, ALL),
        ([said(7000)], {}, Some((7000,))),
        ([said(7000), said(9500)], {}, Some((7000, 9500))),  # one rank, in conflict: both
        ([said(7000), said(9500, M)], {}, Some((9500,))),  # measured ranks above documented
        ([said(7000), said(9500, X)], {}, Some((9500,))),
        ([said(9500, M), said(7000, X)], {}, Some((9500, 7000))),  # measured against read: both
        ([said(9500, M), said(7000, M)], {}, Some((7000,))),  # the later measurement
        ([said(7000), said(9500, P, count=1)], {}, Some((9500,))),  # proven ranks above documented
        ([said(7000), said(9500, P, count=0, failures=2)], {}, Some((7000,))),  # it only ever failed
        ([said(7000), said(9500, P, count=1, firmware="2")], {"firmware": "1"}, Some((7000,))),
        ([said(7000), said(9500, P, count=1, firmware="2")], {"firmware": "2"}, Some((9500,))),
        ([said(9500, R)], {}, ALL),  # a report alone settles nothing
        ([said(9500, C)], {}, Some((9500,))),
        ([said(7000), said(9500, C)], {}, Some((7000, 9500))),  # a bound that leaves nothing of a fact: both
        # what runs is a bound: it narrows what is documented, and beats what it contradicts
        ([], {"runs_mm": 9.5}, Some((9500, 12500, 15000))),
        ([said(9500)], {"runs_mm": 7}, Some((9500,))),
        ([said(7000)], {"runs_mm": 9.5}, Some((9500, 12500, 15000))),
        ([said(7000, M)], {"runs_mm": 9.5}, Some((7000, 9500, 12500, 15000))),  # works against measured: both
        ([said(7000, M)], {"delivered_mm": 9.5}, Some((7000,))),  # delivered only: what ranks higher stands
        ([said(9500)], {"delivered_mm": 7}, Some((9500,))),
    ],
)
def test_a_fact_by_rank(claims, more, wanted) -> None:
    assert known_bay(*claims, **more) == wanted


def test_every_conflict_is_shown_and_every_step_told() -> None:
    known = as_delivered(made.machine({"bay": {"height_um": [said(7000), said(9500)]}}))
    told = known.explain("bay", "height_um")
    assert told.conflict and told.value == "7 or 9.5 mm"
    assert told.steps[:2] == ("documented: 7 mm", "documented: 9.5 mm")
    assert not as_delivered(made.machine()).explain("bay", "height_um").conflict


def test_a_list_is_complete_unless_marked_among_others() -> None:
    def posts(claim: Any) -> Any:
        return as_delivered(made.machine({"drive-1": {"standoffs_mm": claim}})).domain("drive-1", "standoffs_mm")

    assert posts([42, 80]) == Lot(frozenset({42, 80}), frozenset())
    others = posts([said([80], among_others=True)])
    assert others.has == {80} and 42 in others.may and 80 not in others.may
    assert posts(None).has == frozenset() and 80 in posts(None).may


def test_a_range_is_what_was_measured() -> None:
    laid = with_claims(made.machine(), {"drive-1.clearance_below_um": 900}, Source.MEASURED)
    assert as_delivered(laid).domain("drive-1", "clearance_below_um") == Span(900, 900)


def test_shorthand_in_files() -> None:
    read = IntFact.model_validate
    assert read(3) == fact((3, D))
    assert read(None) == read([]) == fact()
    assert read({"value": 3, "source": "controller"}) == fact((3, C))
    assert read([{"value": 3, "source": "proven", "count": 2}]).claims[0].count == 2
    with pytest.raises(ValidationError):
        read("three")


def test_measuring_lays_a_claim_over_the_machine() -> None:
    laid = with_claims(made.machine(), {"drive-1.clearance_below_um": 900, "memory.speed_mts": 2666}, Source.MEASURED)
    known = as_delivered(laid)
    assert known.value("drive-1", "clearance_below_um") == 900
    # 3200 is documented; what was read to run is a lower bound of it
    assert known.limit("memory", "speed_mts").value == 3200


@pytest.mark.parametrize("key", ["drive-9.key", "drive-1.nonsense", "drive-1.name", "memory.soldered", "drive-1"])
def test_measuring_what_is_not_there(key: str) -> None:
    with pytest.raises(InputError):
        with_claims(made.machine(), {key: 1}, Source.MEASURED)


def test_measuring_in_another_kind() -> None:
    with pytest.raises(InputError, match="valid integer"):
        with_claims(made.machine(), {"drive-1.clearance_below_um": "a lot"}, Source.MEASURED)


def test_why_tells_every_claim_in_its_own_words() -> None:
    told = [said(7000, D, note="manual p. 12"), said(9500, P, count=2, firmware="1.4"), said(12500, R, who="a club")]
    explained = build_today(made.machine({"bay": {"height_um": told}}), firmware="1.4").known.explain(
        "bay", "height_um"
    )
    assert explained.steps == (
        "proven: 9.5 mm, worked 2×, failed 0×, firmware 1.4",
        "documented: 7 mm (manual p. 12)",
        "which is not so: what ranks higher stands",
        "reported: 12.5 mm, a club: a report alone settles no fact",
    )
    assert (explained.value, explained.conflict) == ("9.5 mm", True)
