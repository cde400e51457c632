"""The demo's machines, processors and parts as examples for a workshop of one's own; no job, no person, no shelf."""

from django.contrib.auth.base_user import AbstractBaseUser
from django.db import transaction

from ..shop.services import machines, parts, processors
from ..shop.services.history import entered
from ..shop.services.stand_ins import BroughtIn
from .story import DATA


@transaction.atomic
def bring_in(who: AbstractBaseUser | None) -> BroughtIn:
    """All of them or none. What is there already under the same name stays as it is in the history."""
    processors.import_processors((DATA / "processors.json").read_text(), "processors.json", who)
    files = sorted((DATA / "machines").glob("*.json"))
    for path in files:
        machines.import_machines(path.read_text(), path.name, who)
    brought = parts.import_parts((DATA / "parts.csv").read_text())
    entered("library", "", f"example machines ({len(files)}) and parts were brought in", None, None, who)
    return BroughtIn(machines=len(files), parts=brought.added + brought.changed + brought.same)
