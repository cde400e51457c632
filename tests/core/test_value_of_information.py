"""A visit to look first, worked by hand: money and points, on both sides of where it pays."""

from fractions import Fraction

import pytest

from insertum.core.plan.value_of_information import visit


@pytest.mark.parametrize(
    ("minutes", "rate", "gain", "dearer", "threshold", "cost", "worth", "pays_from"),
    [
        # 14 min at 50.00 are 11.666…; 6 points at 0.1 for 1.00 are 60.00, less 12.00: 48.00; 11.67/48.00 is 24.3 in 100.
        (14, 5000, "6", 1200, "0.1", 1167, 4800, 25),
        (12, 6000, "6", 1200, "0.1", 1200, 4800, 25),  # 12.00 of 48.00: just 25
        (12, 6000, "6", 1201, "0.1", 1200, 4799, 26),  # a cent less: no longer
        (60, 4800, "6", 1200, "0.1", 4800, 4800, 100),  # only where it always turns out well
        (60, 4801, "6", 1200, "0.1", 4801, 4800, None),  # costs more than it can bring
        (12, 6000, "6", 6000, "0.1", 1200, 0, None),  # the better plan's price takes it all
        (12, 6000, "6", 6001, "0.1", 1200, -1, None),
        (12, 6000, "6", -1200, "0.1", 1200, 7200, 17),  # better and cheaper
        (9, 5010, "0.6005", -600, "0.1", 752, 1201, 63),  # 7.515 and 12.005: half a cent upwards; 7.52/12.005
        (12, 6000, "6", 1200, "0", 1200, None, None),  # nothing says what a point is worth
        (12, 0, "6", 1200, "0.1", 0, 4800, 0),  # the owner's own evening
    ],
)
def test_a_visit(minutes, rate, gain, dearer, threshold, cost, worth, pays_from) -> None:
    found = visit(minutes, rate, Fraction(gain), dearer, Fraction(threshold))
    assert found is not None
    assert (found.minutes, found.cost_minor, found.worth_minor, found.pays_from) == (minutes, cost, worth, pays_from)


def test_what_needs_no_opening_is_no_visit() -> None:
    assert visit(0, 5000, Fraction(6), 0, Fraction(1, 10)) is None
