"""What of the workshop's own shelf a plan may take."""

from ...core.plan.request import ShelfOffer
from .. import models


def on_offer() -> tuple[ShelfOffer, ...]:
    """Sound parts of the shelf with nobody's data on them that have a price: what a plan may take from it. Of one
    number the cheapest counts first; a plan reckons all of it at the dearest, so that it never asks too little."""
    found: dict[str, list[int]] = {}
    rows = models.ShelfPart.objects.filter(
        state="on the shelf", condition__in=("good", "worn"), price_minor__isnull=False
    )
    for number, price in rows.exclude(erased="not yet").values_list("number", "price_minor"):
        found.setdefault(number, []).append(price)
    return tuple(
        ShelfOffer(number=n, count=len(prices), price_minor=max(prices)) for n, prices in sorted(found.items())
    )
