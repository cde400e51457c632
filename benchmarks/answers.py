"""Processor time of an answer in a full workshop: 10,000 jobs, 5,000 parts, against an empty view (who is signed in) in the
same process. *again* is a view asked for once more, *first* the first answer after a note was typed in the job, *cold* one with nothing kept
from before. Prints medians and how
many empty views that is."""

import os
import statistics
import sys
import tempfile
import time
import uuid
from collections.abc import Callable
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(HERE), str(HERE / "benchmarks")]

LISTS = ("jobs", "jobs?text=customer%2012", "jobs?which=closed&page=90", "find?text=slow%20desk%205000", "find?text=QK2-1T0-80M",
         "parts", "shelf", "history", "jobs/148")  # fmt: skip
STATIONS = ("intake", "survey", "survey/worth", "fit", "plan", "tally")


def main() -> None:
    with tempfile.TemporaryDirectory() as var:
        os.environ |= {
            "INSERTUM_VAR": var,
            "DJANGO_SETTINGS_MODULE": "tests.settings",
            "INSERTUM_DEMO": "1",
            "INSERTUM_SECRET_KEY": "b" * 50,
        }
        from tests import world

        world.copy_to(Path(var))
        import django

        django.setup()
        from django.contrib.auth.models import User
        from django.test import Client
        from lists import FILLED

        from insertum.shop.services import answers

        exec(FILLED, {})
        client = Client(headers={"host": "127.0.0.1"})
        client.force_login(User.objects.get(username="owner"), backend="django.contrib.auth.backends.ModelBackend")
        said = [""]

        def edit() -> None:
            text = uuid.uuid4().hex
            body = [{"uid": text, "path": "/bench/notes", "op": "set", "base": said[0], "value": text}]
            assert client.post("/api/jobs/148/edits", body, content_type="application/json").status_code == 200
            said[0] = text

        def forget() -> None:
            """As if nobody had looked at this job since the server began."""
            answers.answers = answers._Answers()
            answers._sections.clear()

        def view(path: str) -> int:
            answer = client.get(f"/api/{path}")
            assert answer.status_code == 200, answer.content
            return len(answer.content)

        def median(act: Callable[[], object], before: Callable[[], object] = lambda: None, turns: int = 15) -> float:
            times = []
            for _ in range(turns):
                before()
                began = time.process_time()
                act()
                times.append(time.process_time() - began)
            return statistics.median(times[2:])

        said[0] = client.get("/api/jobs/148").json()["job"]["bench"]["notes"]
        empty = median(lambda: view("session"), turns=100)
        print(f"empty view: {empty * 1000:.2f} ms")
        told = lambda name, took: print(f"{name}: {took * 1000:.1f} ms, {took / empty:.1f} ×", flush=True)  # noqa: E731
        told("an edit", median(edit))
        for path in LISTS:
            told(path, median(lambda path=path: view(path)))  # type: ignore[misc]
        for station in STATIONS:
            path = f"jobs/148/{station}"
            told(f"{station}, first ({view(path) // 1000} kB)", median(lambda path=path: view(path), edit, 8))  # type: ignore[misc]
            told(f"{station}, cold", median(lambda path=path: view(path), forget, 6))  # type: ignore[misc]
            told(f"{station}, again", median(lambda path=path: view(path)))  # type: ignore[misc]


if __name__ == "__main__":
    main()
