"""Which claim counts: facts settled, limits picked by school, contradictions shown."""

import pytest
from pydantic import ValidationError

from insertum.core.base import InputError
from insertum.core.machine.claim import Claim, Fact, Limits, Source, limit, settle
from insertum.core.survey.bench import with_claims

from . import made

IntFact = Fact[int]


def fact(*claims) -> IntFact:
    """(value, source) or (value, source, firmware, count, failures)."""
    names = ("value", "source", "firmware", "count", "failures")
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
    picked = [limit(fact(*claims), school, "1.0") for school in Limits]
    assert tuple(f"{p.value}?" if p.unproven else p.value for p in picked) == wanted


def test_fitted_is_a_lower_bound_and_contradictions_are_said() -> None:
    assert limit(fact((8, D)), Limits.DOCUMENTED, fitted=16).value == 16
    assert limit(fact((32, D), (16, C)), Limits.PROVEN).contradictions == (
        "controller says 16, below the documented 32",
    )
    assert "the lower counts" in limit(fact((16, D), (32, D)), Limits.PROVEN).contradictions[0]


@pytest.mark.parametrize(
    ("claims", "value"),
    [
        ([], None),
        ([(3, D)], 3),
        ([(3, D), (4, D)], None),  # no safe side to a fact
        ([(3, D), (4, M)], 4),
        ([(3, D), (4, X)], 4),
        ([(4, M), (5, X)], None),  # measured against read
        ([(4, M), (5, M)], 5),  # the later measurement
        ([(3, D), (4, P, "", 1, 0)], 4),
        ([(3, D), (4, P, "", 0, 2)], 3),  # it only ever failed
        ([(4, C)], 4),
        ([(9, R)], None),  # a report alone settles nothing
    ],
)
def test_settle(claims, value) -> None:
    settled = settle(fact(*claims))
    assert settled.value == value
    assert settled.why


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
    assert settle(laid.slot("drive-1").clearance_below_um).value == 900
    assert settle(laid.memory.speed_mts).value == 2666


@pytest.mark.parametrize("key", ["drive-9.key", "drive-1.nonsense", "drive-1.name", "memory.soldered", "drive-1"])
def test_measuring_what_is_not_there(key: str) -> None:
    with pytest.raises(InputError):
        with_claims(made.machine(), {key: 1}, Source.MEASURED)


def test_measuring_in_another_kind() -> None:
    with pytest.raises(InputError, match="valid integer"):
        with_claims(made.machine(), {"drive-1.clearance_below_um": "a lot"}, Source.MEASURED)
