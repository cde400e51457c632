"""The workshop's triage list: read it, change it, and count what it found."""

from pathlib import Path
from typing import Any

from django.db import transaction

from ...core.intake.triage import Complaint, Triage, Tried, tried
from ...core.three_way_merge import both_kept, torn
from ...formats.json_errors import read_json
from .. import models
from .history import logged
from .table_cache import Kept

SHIPPED = Path(__file__).resolve().parents[1] / "data" / "triage.json"


def _complaints() -> dict[str, Complaint]:
    rows = models.Complaint.objects.values_list("spec", flat=True)
    found = [Complaint.model_validate(spec) for spec in rows]
    return {c.id: c for c in found or shipped().complaints}


_kept: Kept[dict[str, Complaint]] = Kept((models.Complaint,), _complaints)


def complaints() -> dict[str, Complaint]:
    """The list in the workshop's order; the shipped one while it has none of its own."""
    return dict(_kept.get())


def shipped() -> Triage:
    """The list of complaints that ships with the product."""
    return read_json(Triage, SHIPPED.read_text(), SHIPPED.name)


@transaction.atomic
def replace_triage(text: str, where: str = "triage file") -> Triage:
    """Take in a whole list, all or nothing."""
    triage = read_json(Triage, text, where)
    was = {c: told.model_dump(mode="json") for c, told in complaints().items()}
    now = {c.id: c.model_dump(mode="json") for c in triage.complaints}
    for c in (c for c in {**was, **now} if was.get(c) != now.get(c)):
        how = "added" if c not in was else "removed" if c not in now else "changed"
        logged("triage", c, f"complaint {c} {how}", was.get(c), now.get(c))
    models.Complaint.objects.all().delete()
    models.Complaint.objects.bulk_create(
        models.Complaint(slug=c.id, place=i, spec=c.model_dump(mode="json")) for i, c in enumerate(triage.complaints)
    )
    return triage


@transaction.atomic
def save_complaint(complaint: Complaint, base: Complaint | None = None) -> None:
    """Change or add one complaint; the rest of the list stays as it is. What somebody else changed since ``base`` is
    kept beside it; raises :class:`InputError` with both words where both changed one thing."""
    whole = complaints()
    stands = whole.get(complaint.id)
    if base is not None and stands is not None and stands != base:
        was, mine, theirs = (c.model_dump(mode="json") for c in (base, complaint, stands))
        merged, both = both_kept(was, mine, theirs, None)
        if both:
            raise torn("this complaint", {n: (_short(theirs[n]), _short(mine[n])) for n in both})
        complaint = Complaint.model_validate(merged)
    whole[complaint.id] = complaint
    replace_triage(Triage(complaints=tuple(whole.values())).model_dump_json())


@transaction.atomic
def remove_complaint(slug: str) -> None:
    """Take a complaint off the workshop's list."""
    kept = tuple(c for c in complaints().values() if c.id != slug)
    replace_triage(Triage(complaints=kept).model_dump_json())


def _short(value: Any) -> str:
    """A value of a complaint as it is read: causes by their names."""
    if isinstance(value, list):
        return ", ".join(v["cause"] if isinstance(v, dict) else str(v) for v in value) or "nothing"
    return str(value)


def outcomes() -> dict[str, Tried]:
    """How often each free cause was it, over all jobs."""
    return tried(models.Job.objects.exclude(tried={}).order_by().values_list("tried", flat=True))
