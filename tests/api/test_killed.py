"""An import whose process is killed half-way leaves nothing behind."""

import os
import signal
import sqlite3
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
RUN = """
import django; django.setup()
from insertum.shop.services.parts import import_steps
from tests.api.test_library import many
for step in import_steps(many(20_000).decode()):
    print(step.says, step.done, flush=True)
"""


def test_twenty_thousand_rows_killed_half_way_leave_nothing(tmp_path: Path) -> None:
    env = os.environ | {
        "INSERTUM_VAR": str(tmp_path),
        "DJANGO_SETTINGS_MODULE": "tests.settings",
        "INSERTUM_SECRET_KEY": "x" * 50,
    }
    subprocess.run([sys.executable, ROOT / "manage.py", "migrate", "-v0"], env=env, check=True, cwd=ROOT)
    running = subprocess.Popen([sys.executable, "-c", RUN], env=env, cwd=ROOT, stdout=subprocess.PIPE, text=True)
    assert running.stdout is not None
    for line in running.stdout:
        if line.startswith("writing 10000"):
            running.send_signal(signal.SIGKILL)
            break
    running.wait(10)
    assert running.returncode == -signal.SIGKILL
    with sqlite3.connect(tmp_path / "insertum.sqlite3") as db:
        assert db.execute("select count(*) from shop_part").fetchone() == (0,)
        assert db.execute("select count(*) from shop_pricepoint").fetchone() == (0,)
