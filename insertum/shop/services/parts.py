"""The parts catalogue: read it, import into it."""

from django.db import transaction

from ...core.base import Frozen
from ...core.part import AnyPart
from ...formats.parts import PART, read_parts
from .. import models


class ImportReport(Frozen):
    added: int
    changed: int
    same: int


def catalogue() -> list[AnyPart]:
    """Every part, as the core knows it."""
    return [PART.validate_python(spec) for spec in models.Part.objects.values_list("spec", flat=True)]


def import_parts(text: str) -> ImportReport:
    """Import parts from CSV or JSON, all or nothing. Parts that are there already are replaced."""
    parts = read_parts(text)
    known = dict(models.Part.objects.values_list("number", "spec"))
    specs = {p.number: p.model_dump(mode="json") for p in parts}
    added = [p for p in parts if p.number not in known]
    changed = [p for p in parts if p.number in known and known[p.number] != specs[p.number]]
    with transaction.atomic():
        for part in (*added, *changed):
            models.Part.objects.update_or_create(
                number=part.number,
                defaults={
                    "kind": part.kind,
                    "maker": part.maker,
                    "name": part.name,
                    "price_minor": part.price_minor,
                    "spec": specs[part.number],
                },
            )
    return ImportReport(added=len(added), changed=len(changed), same=len(parts) - len(added) - len(changed))
