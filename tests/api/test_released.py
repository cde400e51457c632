"""Databases of every released version open whole: each job, plan and machine (files made by those versions)."""

import lzma
import subprocess
import sys
from pathlib import Path

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


@pytest.mark.parametrize("version", sorted(HELD))
def test_a_released_database_opens_whole(version: str, tmp_path: Path) -> None:
    (tmp_path / "insertum.sqlite3").write_bytes(lzma.decompress((RELEASED / f"{version}.sqlite3.xz").read_bytes()))
    run = subprocess.run(
        [sys.executable, "-c", OPENS],
        env={"PATH": "", "INSERTUM_VAR": str(tmp_path), "DJANGO_SETTINGS_MODULE": "tests.settings"},
        cwd=Path(__file__).resolve().parents[2], capture_output=True, text=True,
    )  # fmt: skip
    assert run.returncode == 0, run.stderr[-2000:]
    assert tuple(map(int, run.stdout.split())) == HELD[version]
