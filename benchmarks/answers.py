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

        from insertum.shop.services import answer_cache

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
            answer_cache.answers = answer_cache._Answers()
            answer_cache._sections.clear()

        def view(path: str) -> int:
            answer = client.get(f"/api/{path}")
            assert answer.status_code == 200, answer.content
            return len(answer.content)

        def took(act: Callable[[], object]) -> float:
            began = time.process_time()
            act()
            return time.process_time() - began

        def told(
            name: str, act: Callable[[], object], before: Callable[[], object] = lambda: None, turns: int = 20
        ) -> None:
            """Each turn beside an empty view: whatever else slows the machine down slows both."""
            times, empty = [], []
            for _ in range(turns):
                empty.append(took(lambda: view("session")))
                before()
                times.append(took(act))
            mine, nothing = statistics.median(times[2:]), statistics.median(empty[2:])
            print(f"{name}: {mine * 1000:.1f} ms, {mine / nothing:.1f} ×", flush=True)

        said[0] = client.get("/api/jobs/148").json()["job"]["bench"]["notes"]
        told("an edit", edit)
        for path in LISTS:
            told(path, lambda path=path: view(path))  # type: ignore[misc]
        for station in STATIONS:
            path = f"jobs/148/{station}"
            ask = lambda path=path: view(path)  # type: ignore[misc] # noqa: E731
            told(f"{station}, first ({ask() // 1000} kB)", ask, edit)
            told(f"{station}, cold", ask, forget)
            told(f"{station}, again", ask)


if __name__ == "__main__":
    main()
