"""The machine library: read it, import into it."""

from django.db import transaction

from ...core.base import InputError
from ...core.machine import Machine
from ...formats.checked import parsed, shaped
from .. import models


def library() -> list[Machine]:
    """Every machine, as the core knows it."""
    return [Machine.model_validate(m.spec) for m in models.Machine.objects.all()]


def machine_of(slug: str) -> Machine | None:
    row = models.Machine.objects.filter(slug=slug).first()
    return Machine.model_validate(row.spec) if row else None


def import_machines(text: str, where: str = "machine file") -> list[str]:
    """Import one machine or a list of them, all or nothing. Returns their ids."""
    data = parsed(text, where)
    machines = [
        shaped(Machine, d, f"{where}, machine {i}") for i, d in enumerate(data if isinstance(data, list) else [data], 1)
    ]
    for m in machines:
        for c in m.configurations:
            m.configured(c.id)
    if len({m.id for m in machines}) < len(machines):
        raise InputError("one machine stands twice in it", where)
    with transaction.atomic():
        for m in machines:
            models.Machine.objects.update_or_create(
                slug=m.id, defaults={"maker": m.maker, "name": m.name, "spec": m.model_dump(mode="json")}
            )
    return [m.id for m in machines]
