"""Databases of every released version open whole: each job, plan and machine (files made by those versions). What differs in a
stored document then is listed, and nothing else does."""

import json
import lzma
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

RELEASED = Path(__file__).parent / "released"
#: Jobs, machines and parts each was released with.
HELD = {
    "0.1.0": (11, 2, 49), "0.2.0": (18, 8, 187), "0.3.0": (18, 8, 188), "0.4.0": (19, 8, 188), "0.5.0": (19, 8, 188), "0.6.0": (19, 8, 188),
    "0.7.0": (23, 8, 193),
}  # fmt: skip

#: Opens everything there is in a database brought up by the migrations; run in a process of its own.
OPENS = """
import django; django.setup()
from django.core.management import call_command
call_command("migrate", verbosity=0)
from django.contrib.auth.models import User
from django.test import Client
from insertum.shop import models
from insertum.shop.services import jobs, machines, parts, unreadable
assert unreadable.unreadable() == (), unreadable.unreadable()
numbers = list(models.Job.objects.values_list("number", flat=True))
print(len(numbers), len(machines.library().machines), len(parts.catalogue()))
client = Client(HTTP_HOST="localhost"); client.force_login(User.objects.first(), backend="django.contrib.auth.backends.ModelBackend")
for n in numbers:
    desk = jobs.desk_of(n)
    pages = ["intake", "identify"] + (["survey", "fit", "hand-over"] if desk.job.identify.configuration else [])
    pages += ["plan"] if n % 9 == 0 and "fit" in pages else []
    pages += ["prepare", "bench", "prove"] if desk.job.plan.chosen else []
    for page in pages:
        answer = client.get(f"/api/jobs/{n}/{page}")
        assert answer.status_code == 200, (n, page, answer.content[:300])
    if desk.job.plan.chosen:
        chosen, build = desk.job.plan.chosen.plan, desk.must_plan
        assert {c.slot: c.part for c in chosen.changes} == {s: p.number if p else "" for s in build.changed() for p in [build.now(s)]}
for m in machines.library().machines:
    for c in m.configurations:
        assert client.get(f"/api/machines/{m.id}/{c.id}").status_code == 200
"""


#: The tables that keep documents, with what names a row.
KEPT = {
    "job": "number", "machine": "slug", "part": "number", "sighting": "id", "complaint": "slug", "processor": "slug", "workshop": "id",
}  # fmt: skip
_LISTED = [
    line.split(" | ") for line in (RELEASED / "differs.txt").read_text().splitlines() if "|" in line and line[0] != "#"
]
DIFFERS = {v: {(table, place) for versions, table, place, _ in _LISTED if v in versions.split()} for v in HELD}


def documents(database: Path) -> dict[tuple[str, str], Any]:
    found = {}
    with sqlite3.connect(database) as connection:
        there = {name for (name,) in connection.execute("select name from sqlite_master")}
        for table, key in KEPT.items():
            if f"shop_{table}" in there:
                rows = connection.execute(f"select {key}, spec from shop_{table}")
                found |= {(table, str(name)): json.loads(spec) for name, spec in rows}
    connection.close()
    return found


def differing(before: Any, after: Any, place: str = "") -> Iterator[str]:
    """Places that differ, members of a list under one name."""
    if isinstance(before, dict) and isinstance(after, dict):
        for name in before.keys() | after.keys():
            if name in before and name in after:
                yield from differing(before[name], after[name], f"{place}/{name}")
            else:
                yield f"{place}/{name}"
    elif isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        for one, other in zip(before, after, strict=True):
            yield from differing(one, other, place)
    elif before != after:
        yield place


@pytest.mark.parametrize("version", sorted(HELD))
def test_a_released_database_opens_whole(version: str, tmp_path: Path) -> None:
    database = tmp_path / "insertum.sqlite3"
    database.write_bytes(lzma.decompress((RELEASED / f"{version}.sqlite3.xz").read_bytes()))
    before = documents(database)
    run = subprocess.run(
        [sys.executable, "-c", OPENS],
        env={"PATH": "", "INSERTUM_VAR": str(tmp_path), "DJANGO_SETTINGS_MODULE": "tests.settings"},
        cwd=Path(__file__).resolve().parents[2], capture_output=True, text=True,
    )  # fmt: skip
    assert run.returncode == 0, run.stderr[-2000:]
    assert tuple(map(int, run.stdout.split())) == HELD[version]
    after = documents(database)
    assert before.keys() <= after.keys()
    assert {(table, p) for (table, name), was in before.items() for p in differing(was, after[table, name])} == DIFFERS[
        version
    ]
