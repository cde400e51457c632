"""The workshop's own settings, and the catalogue as it sells it."""

from typing import Annotated, Literal

from django.contrib.auth.base_user import AbstractBaseUser
from pydantic import AfterValidator, Field

from ...core.catalogue import Catalogue
from ...core.frozen import Frozen
from ...core.plan.request import Schools
from ...core.selling_price import marked_up
from ...core.tasks.catalogue import BY_ID, OwnTask
from .. import models
from .history import entered
from .parts import catalogue
from .table_cache import Kept


def _task(name: str) -> str:
    if name not in BY_ID:
        raise ValueError(f"there is no task {name!r}")
    return name


class Workshop(Frozen):
    """What stands on its papers, and how it reckons. ``tax_percent`` is held by its prices already where
    ``prices_hold_tax``; a quote holds for ``quote_days`` (0: no time is set). ``markup_percent`` is laid on what parts cost, where a part has no price of its own; ``approved_makes`` are those a
    job may keep to."""

    name: str = Field("", max_length=120)
    address: str = Field("", max_length=400)
    logo: str = Field("", max_length=200_000, pattern=r"^(data:image/(png|jpeg);base64,[A-Za-z0-9+/=]+)?$")
    currency: str = Field("EUR", pattern=r"^[A-Z]{3}$")
    rate_minor_per_hour: int = Field(5000, ge=0, le=100_000)
    schools: Schools = Schools()
    decimal: Literal[".", ","] = "."
    dates: Literal["iso", "dmy", "mdy"] = "iso"
    letter_keys: bool = True
    session_hours: int = Field(12, ge=1, le=24 * 30)
    backup_days: int = Field(7, ge=0, le=365)
    tax_percent: int = Field(0, ge=0, le=50)
    prices_hold_tax: bool = True
    quote_days: int = Field(14, ge=0, le=365)
    warranty: str = Field("", max_length=600)
    markup_percent: int = Field(0, ge=0, le=500)
    tasks: dict[Annotated[str, AfterValidator(_task)], OwnTask] = Field(
        {}, description="how this workshop does a task of the catalogue, by its id"
    )
    approved_makes: tuple[Annotated[str, Field(max_length=60)], ...] = Field((), max_length=60)


def _workshop() -> Workshop:
    row = models.Workshop.objects.first()
    return Workshop.model_validate(row.spec) if row else Workshop()


_kept: Kept[Workshop] = Kept((models.Workshop,), _workshop)


def workshop() -> Workshop:
    """The settings as they stand."""
    return _kept.get()


def save_workshop(settings: Workshop, who: AbstractBaseUser | None) -> Workshop:
    """Keep the settings; what they were stays in the history."""
    was = workshop().model_dump(mode="json")
    now = settings.model_dump(mode="json")
    models.Workshop.objects.update_or_create(pk=1, defaults={"spec": now})
    changed = [k for k in now if now[k] != was.get(k)]
    if changed:
        says = ", ".join(k.replace("_", " ") for k in changed)
        told = [{k: d.get(k) for k in changed if k != "logo"} for d in (was, now)]
        entered("settings", "", f"settings: {says}", told[0], told[1], who)
    return settings


_selling: Kept[Catalogue] = Kept(
    (models.Part, models.Workshop), lambda: Catalogue(marked_up(catalogue(), workshop().markup_percent))
)


def selling() -> Catalogue:
    """Every part at the workshop's price: what jobs, plans and quotes reckon with."""
    return _selling.get()
