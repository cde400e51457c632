from django.core.management.base import BaseCommand
from django.db import OperationalError, transaction

from ....demo import story
from ...models import Job

#: A wait for the one write lock is twenty seconds; loading on a slow machine may take some of those.
WAITS = 10


class Command(BaseCommand):
    help = "Load the demo workshop into an empty database: whole, or not at all."

    def handle(self, *args: object, **options: object) -> None:
        for left in reversed(range(WAITS)):
            try:
                self.stdout.write(self._loaded())
                return
            except OperationalError as error:
                if "locked" not in str(error) or not left:
                    raise

    def _loaded(self) -> str:
        with transaction.atomic():
            if Job.objects.exists():
                return "Demo data is there already."
            return f"Demo data loaded: {story.load()} jobs."
