import json

from django.core.management.base import BaseCommand

from ....api import api


class Command(BaseCommand):
    help = "Print the OpenAPI document the web client is generated from."

    def handle(self, *args: object, **options: object) -> None:
        self.stdout.write(json.dumps(api.get_openapi_schema(), indent=1, default=str))
