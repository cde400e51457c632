from django.core.management.base import BaseCommand

from ....demo import story
from ...models import Job


class Command(BaseCommand):
    help = "Load the demo workshop into an empty database."

    def handle(self, *args: object, **options: object) -> None:
        if Job.objects.exists():
            self.stdout.write("Demo data is there already.")
            return
        count = story.load()
        self.stdout.write(f"Demo data loaded: {count} jobs.")
