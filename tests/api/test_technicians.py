"""The application as it is served, by several workers on one database. Looking waits for nobody who writes. Eight
technicians tick on one job while the server is killed under them: nothing acknowledged is lost, nothing made twice, and
each step's log is in the order it was ticked; ``make technicians`` has them tick 2,000 steps each."""

import http.client
import json
import os
import sqlite3
import time
import urllib.error
import urllib.request
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path
from threading import Event

import pytest

from tests.served import Browser, Server, free_port

TECHNICIANS, TICKS, KILLS, JOB = 8, int(os.environ.get("INSERTUM_TICKS", "15")), 2, 150


class Technician(Browser):
    """Somebody who ticks, and sends again what was not acknowledged."""

    def __init__(self, server: Server) -> None:
        super().__init__(server)
        self.statuses = list[int]()

    def tick(self, step: str, times: int, over: Event) -> int:
        """Set and take back one step in turn, each resting on the one before. Returns what was acknowledged."""
        path, stands = f"/bench/done/{step}", None
        for n in range(times):
            value = None if n % 2 else f"2026-11-27T12:{n // 60 % 60:02}:{n % 60:02}+00:00"
            edit = {"uid": uuid.uuid4().hex, "path": path, "op": "remove" if value is None else "set", "base": stands,
                    "value": value}  # fmt: skip
            while not over.is_set():
                try:
                    (result,) = self.call(f"/api/jobs/{JOB}/edits", [edit])["results"]
                except urllib.error.HTTPError as error:
                    self.statuses.append(error.code)
                    return n
                except (OSError, ValueError, http.client.HTTPException):  # no line, or an answer cut short
                    time.sleep(0.05)
                    continue
                assert result["outcome"] in ("applied", "already"), result
                stands = value
                break
        return times


@pytest.fixture(scope="module")
def server(tmp_path_factory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("var"), free_port(), workers=2)
    running.start()
    yield running
    running.kill()


LOOKED_AT = [
    "session", "jobs", "machines", "parts", "processors", "shelf", "sightings", "triage", "claims", "workshop", "gauges",
    "rules", "find?text=harrow",
    *(f"jobs/{number}{station}" for number in (150, 159) for station in (
        "", "/intake", "/identify", "/survey", "/fit", "/plan", "/prepare", "/bench", "/prove", "/hand-over", "/tally", "/tasks",
    )),
]  # fmt: skip


def test_who_looks_does_not_wait_for_who_writes(server: Server) -> None:
    """Somebody holds the database's one write lock for as long as everything is looked at, planning included."""
    technician = Technician(server)
    technician.sign_in()
    with closing(sqlite3.connect(server.var / "insertum.sqlite3", isolation_level=None)) as db:
        db.execute("BEGIN IMMEDIATE")
        answers = {}
        for path in LOOKED_AT:
            try:
                technician.call(f"/api/{path}")
                answers[path] = 200
            except urllib.error.HTTPError as error:
                answers[path] = error.code
        db.execute("ROLLBACK")
    # 159 has no plan chosen yet: its gates, bench and proof say so in words
    assert {p: s for p, s in answers.items() if s != 200} == dict.fromkeys(
        ("jobs/159/prepare", "jobs/159/bench", "jobs/159/prove"), 400
    )


def test_eight_technicians_and_a_server_killed_under_them(server: Server) -> None:
    over = Event()
    try:
        technicians = [Technician(server) for _ in range(TECHNICIANS)]
        for technician in technicians:
            technician.sign_in()
        view = technicians[0].call(f"/api/jobs/{JOB}/bench")
        done = technicians[0].call(f"/api/jobs/{JOB}")["job"]["bench"]["done"]
        steps = [s["id"] for s in view["sheet"]["steps"] if s["id"] not in done][:TECHNICIANS]
        assert len(steps) == TECHNICIANS
        with ThreadPoolExecutor(TECHNICIANS) as pool:
            work = [pool.submit(t.tick, s, TICKS, over) for t, s in zip(technicians, steps, strict=True)]
            for _ in range(KILLS):
                before = _logged(server.var)
                while _logged(server.var) < before + TECHNICIANS * TICKS // (2 * KILLS + 2) and not all(
                    w.done() for w in work
                ):
                    time.sleep(0.02)
                server.kill()
                server.start()
            acknowledged = [w.result(timeout=1200) for w in work]
    finally:
        over.set()
    assert [t.statuses for t in technicians] == [[]] * TECHNICIANS  # no error of the server's, nor a refusal
    assert acknowledged == [TICKS] * TECHNICIANS
    with sqlite3.connect(server.var / "insertum.sqlite3") as db:
        ((spec,),) = db.execute("select spec from shop_job where number = ?", [JOB])
        for step in steps:
            log = db.execute(
                "select before, after from shop_jobedit where path = ? and job_id ="
                " (select id from shop_job where number = ?) order by id",
                [f"/bench/done/{step}", JOB],
            ).fetchall()
            assert len(log) == TICKS
            assert all(b == a for (_, a), (b, _) in zip(log, log[1:], strict=False))  # each rests on the one before
            assert (step in json.loads(spec)["bench"]["done"]) == bool(TICKS % 2)


def _logged(var: Path) -> int:
    with sqlite3.connect(var / "insertum.sqlite3", timeout=20) as db:
        return int(db.execute("select count(*) from shop_jobedit").fetchone()[0])
