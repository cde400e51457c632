"""Every view in a full workshop, over HTTP: 10,000 jobs, 5,000 parts, against an empty view of the same server (who is
signed in). Prints the 95th percentile of each call, and how many empty views that is."""

import statistics
import sys
import tempfile
import time
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(HERE))

from tests.served import Browser, Server, free_port  # noqa: E402

FILLED = """
import sys; sys.path.insert(0, "benchmarks")
from pathlib import Path
from matrix import many_parts
from insertum.shop import models
from insertum.shop.services import parts
models.Part.objects.bulk_create([parts._row(p) for p in many_parts(Path("insertum/demo/data"))], batch_size=500)
plain = models.Job.objects.get(number=148)
models.Job.objects.bulk_create([
    models.Job(number=n, customer=f"Customer {n % 997}", title=f"Slow desk {n}", station="fit", machine=plain.machine,
               configuration=plain.configuration, closed=n % 5 > 0, words=f"{n}CUSTOMER{n % 997}SL0WDESK{n}",
               spec=plain.spec | {"number": n}) for n in range(1000, 11_000)], batch_size=500)
"""
VIEWS = (
    "jobs", "jobs?text=customer%2012", "jobs?which=closed&page=90", "find?text=slow%20desk%205000", "find?text=QK2-1T0-80M",
    "machines", "processors", "parts", "shelf", "sightings", "triage", "history", "workshop", "people", "jobs/148",
    "jobs/148/tally", "jobs/148/intake", "jobs/148/identify", "jobs/148/survey", "jobs/157/prepare", "jobs/157/bench", "jobs/157/prove",
    "jobs/157/hand-over", "jobs/148/plan", "jobs/148/fit",
)  # fmt: skip


def p95(browser: Browser, path: str, turns: int = 60) -> float:
    times = []
    for _ in range(turns):
        began = time.perf_counter()
        browser.call(f"/api/{path}")
        times.append(time.perf_counter() - began)
    return statistics.quantiles(times[5:], n=20)[-1]


def main() -> None:
    with tempfile.TemporaryDirectory() as var:
        server = Server(Path(var), free_port())
        server.run(FILLED)
        server.start()
        try:
            browser = Browser(server)
            browser.sign_in("owner")
            empty = p95(browser, "session", 200)
            print(f"empty view: {empty * 1000:.1f} ms")
            for path in VIEWS:
                took = p95(browser, path)
                print(f"{path}: {took * 1000:.1f} ms, {took / empty:.1f} ×", flush=True)
        finally:
            server.kill()


if __name__ == "__main__":
    main()
