"""How old the last backup is, as `insertum backup` notes it beside the database."""

from datetime import datetime
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from .. import models


def backup_due(days: int) -> str:
    """What is to be said of it; nothing while it is no older than the settings say, where they ask for none, or before there is a job."""
    if not days or not models.Job.everything.exists():
        return ""
    try:
        last = datetime.fromisoformat((Path(settings.VAR) / "last_backup").read_text().strip())
    except (OSError, ValueError):
        return "No backup was made yet. Make one with: insertum backup FILE"
    old = (timezone.now() - last).days
    return f"The last backup is {old} days old. Make one with: insertum backup FILE" if old >= days else ""
