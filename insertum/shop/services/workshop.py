"""The workshop's own settings, and the catalogue as it sells it."""

from typing import Annotated

from pydantic import Field

from ...core.base import Frozen
from ...core.machine.part import AnyPart
from ...core.markup import marked_up
from .. import models
from .kept import Kept
from .parts import catalogue


class Workshop(Frozen):
    """``markup_percent`` is laid on what parts cost, where a part has no price of its own; ``approved_makes`` are those a
    job may keep to."""

    markup_percent: int = Field(0, ge=0, le=500)
    approved_makes: tuple[Annotated[str, Field(max_length=60)], ...] = Field((), max_length=60)


def workshop() -> Workshop:
    row = models.Workshop.objects.first()
    return Workshop.model_validate(row.spec) if row else Workshop()


def save_workshop(settings: Workshop) -> Workshop:
    models.Workshop.objects.update_or_create(pk=1, defaults={"spec": settings.model_dump(mode="json")})
    return settings


_selling: Kept[list[AnyPart]] = Kept(
    (models.Part, models.Workshop), lambda: marked_up(catalogue(), workshop().markup_percent)
)


def selling() -> list[AnyPart]:
    """Every part at the workshop's price: what jobs, plans and quotes reckon with."""
    return _selling.get()
