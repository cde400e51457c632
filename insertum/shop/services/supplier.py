"""Fresh prices and stock from a supplier's feed, on request. The feed is somebody else's: it may be
slow, gone, or wrong, and then nothing changes and the reason is said."""

import urllib.error
import urllib.request
from http.client import HTTPException

from django.conf import settings
from django.db import transaction
from django.utils import timezone
from pydantic import Field

from ...core.errors import InputError
from ...core.frozen import Frozen
from ...core.machine.part_base import Offer
from ...formats.json_errors import MAX_BYTES, parsed, shaped, text_of
from ...formats.parts import PART
from .. import models
from .history import logged
from .parts import LOGGED, Asked, offers_of, points
from .wishes import look_at_wishes

TIMEOUT_S = 5.0


class FeedOffer(Frozen):
    number: str = Field(min_length=1, max_length=80)
    price_minor: int = Field(ge=1, le=10_000_000)
    stock: int | None = Field(None, ge=0, le=1_000_000)


class Feed(Frozen):
    """A supplier's answer: its name, and what it asks for each part number."""

    format: str = Field(pattern=r"^insertum-feed/1$")
    shop: str = Field(min_length=1, max_length=80)
    offers: tuple[FeedOffer, ...] = Field(max_length=100_000)


class Refreshed(Frozen):
    """What a refresh changed. ``unknown`` are numbers the catalogue does not have."""

    shop: str
    changed: int
    same: int
    unknown: int
    dearer: int
    cheaper: int
    at: str


def fetch(url: str, timeout_s: float = TIMEOUT_S) -> Feed:
    """One answer of the feed. Raises :class:`InputError` for no answer in time or a bad one."""
    try:
        with urllib.request.urlopen(url, timeout=timeout_s) as answer:
            data = answer.read(MAX_BYTES + 1)
    except urllib.error.HTTPError as error:
        raise InputError(
            f"the supplier answered {error.code}", "supplier feed", "Try again later; prices stay as they are."
        ) from error
    except TimeoutError as error:
        raise InputError(
            f"no answer in {timeout_s:g} s", "supplier feed", "Try again later; prices stay as they are."
        ) from error
    except (urllib.error.URLError, OSError, HTTPException, ValueError) as error:
        reason = getattr(error, "reason", error)
        if isinstance(reason, TimeoutError):
            raise InputError(f"no answer in {timeout_s:g} s", "supplier feed", "Try again later.") from error
        raise InputError(
            f"the supplier cannot be reached: {reason}", "supplier feed", "Is it running? Prices stay as they are."
        ) from error
    return shaped(Feed, parsed(text_of(data, "supplier feed"), "supplier feed"), "supplier feed")


def refresh(url: str = "", timeout_s: float = TIMEOUT_S) -> Refreshed:
    """Take the feed's prices and stock into the catalogue, all or nothing."""
    address = url or settings.SUPPLIER_URL
    if not address:
        raise InputError("no supplier's feed is set", "prices", "Set INSERTUM_SUPPLIER, or drop a price list on Parts.")
    feed = fetch(address, timeout_s)
    asked = {o.number: o for o in feed.offers}
    if len(asked) < len(feed.offers):
        raise InputError("a part stands twice in it", "supplier feed", "Prices stay as they are.")
    changed = same = dearer = cheaper = 0
    with transaction.atomic():
        rows = list(models.Part.objects.filter(number__in=asked))
        touched, before = [], {}
        for row in rows:
            old: Asked = offers_of(row.spec)
            new = asked[row.number]
            if old.get(feed.shop) == (new.price_minor, new.stock):
                same += 1
                continue
            was = old.get(feed.shop)
            dearer += bool(was and new.price_minor > was[0])
            cheaper += bool(was and new.price_minor < was[0])
            before[row.number] = old
            part = PART.validate_python(row.spec)
            offer = Offer(
                shop=feed.shop, price_minor=new.price_minor, stock=new.stock, seen=timezone.now().date().isoformat()
            )
            part = part.model_copy(update={"offers": (*(o for o in part.offers if o.shop != feed.shop), offer)})
            row.spec, row.price_minor, row.updated = part.model_dump(mode="json"), part.price_minor, timezone.now()
            touched.append((row, part))
            changed += 1
        models.Part.objects.bulk_update([r for r, _ in touched], ["spec", "price_minor", "updated"], batch_size=500)
        models.PricePoint.objects.bulk_create(points([p for _, p in touched], before))
        if touched:
            says = f"{changed} prices of {feed.shop} came in: {dearer} dearer, {cheaper} cheaper"
            first = [p.number for _, p in touched[:LOGGED]]
            was_asked = {n: before[n][feed.shop][0] for n in first if feed.shop in before[n]}
            logged("prices", feed.shop, says, was_asked, {n: asked[n].price_minor for n in first})
    look_at_wishes()
    return Refreshed(
        shop=feed.shop,
        changed=changed,
        same=same,
        unknown=len(asked) - len(rows),
        dearer=dearer,
        cheaper=cheaper,
        at=timezone.now().isoformat(timespec="seconds"),
    )
