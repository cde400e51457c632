"""Lists and plans in a full workshop: 10,000 jobs, 5,000 parts, against an empty view of the same server.

Prints the 95th percentile of each call as a multiple of the empty view's (the session). Runs in the test client, on a
database of its own.
"""

import os
import statistics
import sys
import tempfile
import time
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(HERE), str(HERE / "benchmarks")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "tests.settings")
os.environ["INSERTUM_VAR"] = tempfile.mkdtemp()


def main() -> None:
    import django

    django.setup()
    from django.contrib.auth.models import User
    from django.core.management import call_command
    from django.test import Client
    from matrix import many_parts

    from insertum.demo import story
    from insertum.shop import models
    from insertum.shop.services import parts

    call_command("migrate", verbosity=0)
    story.load()
    models.Part.objects.bulk_create([parts._row(p) for p in many_parts(HERE / "insertum/demo/data")], batch_size=500)
    plain = models.Job.objects.get(number=148)
    rows = []
    for n in range(1000, 11_000):
        rows.append(models.Job(number=n, customer=f"Customer {n % 997}", title=f"Slow desk {n}", station="fit", machine=plain.machine,
                               configuration=plain.configuration, closed=n % 5 > 0, words=f"{n}CUSTOMER{n % 997}SL0WDESK{n}", spec=plain.spec | {"number": n}))  # fmt: skip
    models.Job.objects.bulk_create(rows, batch_size=500)
    client = Client(HTTP_HOST="127.0.0.1")
    client.force_login(User.objects.first(), backend="django.contrib.auth.backends.ModelBackend")

    def p95(path: str, turns: int = 40) -> float:
        times = []
        for _ in range(turns):
            began = time.perf_counter()
            assert client.get(path).status_code == 200, path
            times.append(time.perf_counter() - began)
        return statistics.quantiles(times[2:], n=20)[-1]

    empty = p95("/api/session")
    print(f"empty view: {empty * 1000:.1f} ms")
    for path in ("/api/jobs", "/api/jobs?text=customer 12", "/api/jobs?which=closed&page=90", "/api/find?text=slow desk 5000",
                 "/api/find?text=QK2-1T0-80M", "/api/jobs/148", "/api/jobs/148/tally", "/api/jobs/148/survey", "/api/jobs/148/intake",
                 "/api/jobs/157/bench", "/api/jobs/157/prove", "/api/jobs/157/hand-over", "/api/jobs/148/plan", "/api/jobs/148/fit"):  # fmt: skip
        print(f"{path}: {p95(path, 40 if 'fit' not in path else 12) / empty:.1f} ×")


if __name__ == "__main__":
    main()
