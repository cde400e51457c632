"""Purchase and selling price: both kept, half a cent upwards, a part's own price first."""

import pytest

from insertum.core.machine.part_base import Offer
from insertum.core.plan.totals import earned
from insertum.core.selling_price import marked_up

from . import made


def part(offers: list[tuple[int, int | None]], selling: int | None = None):
    return made.module("M-1", 1).model_copy(
        update={
            "offers": tuple(Offer(shop=f"s{i}", price_minor=p, stock=n) for i, (p, n) in enumerate(offers)),
            "selling_minor": selling,
        }
    )


@pytest.mark.parametrize(
    ("offers", "selling", "percent", "purchase", "price", "gained"),
    [
        ([(1000, 3)], None, 0, 1000, 1000, 0),
        ([(1000, 3), (900, 1)], None, 20, 900, 1080, 180),
        ([(1000, 3), (900, 0)], None, 20, 1000, 1200, 200),  # what is out of stock costs nothing
        ([(990, 3)], None, 15, 990, 1139, 149),  # 1138.5
        ([(991, 3)], None, 15, 991, 1140, 149),  # 1139.65
        ([(1000, 3)], 1500, 20, 1000, 1500, 500),
        ([(1000, 3)], 800, 20, 1000, 800, -200),  # sold below cost is said
        ([], None, 20, None, None, 0),
        ([], 1500, 20, None, 1500, 0),  # its own, of a shelf: what it cost is not known
        ([(1000, 0)], 1500, 20, None, None, 0),  # there are offers, and none can be had
    ],
)
def test_prices(offers, selling, percent, purchase, price, gained) -> None:
    (sold,) = marked_up([part(offers, selling)], percent)
    assert (sold.purchase_minor, sold.price_minor, earned(sold)) == (purchase, price, gained)
