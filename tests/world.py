"""The demo's world, loaded once for all who test on it, and copied for each of them.

Loading it takes longer than most tests. It is loaded anew when anything it comes from changes, and every day, for its
jobs are due so many days from today.
"""

import fcntl
import os
import sqlite3
import subprocess
import sys
from contextlib import closing
from datetime import date
from hashlib import sha256
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
KEPT = ROOT / "var" / "tests"
NAME = "insertum.sqlite3"


def copy_to(var: Path) -> None:
    """A database of the whole demo in ``var``."""
    var.mkdir(parents=True, exist_ok=True)
    with closing(sqlite3.connect(_loaded())) as source, closing(sqlite3.connect(var / NAME)) as target:
        source.backup(target)


def copy_into(target: sqlite3.Connection) -> None:
    """The same in the place of whatever an open database holds."""
    with closing(sqlite3.connect(_loaded())) as source:
        source.backup(target)


def _loaded() -> Path:
    KEPT.mkdir(parents=True, exist_ok=True)
    kept = KEPT / f"{_digest()}.sqlite3"
    with (KEPT / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # of two who want it the second waits for the first
        if not kept.exists():
            for old in KEPT.glob("*.sqlite3*"):
                old.unlink()
            making = KEPT / "making"
            making.mkdir(exist_ok=True)
            for left in making.iterdir():
                left.unlink()
            env = os.environ | {"INSERTUM_VAR": str(making), "INSERTUM_DEMO": "1", "INSERTUM_SECRET_KEY": "x" * 50}
            env["DJANGO_SETTINGS_MODULE"] = "tests.settings"
            for command in (["migrate"], ["load_demo"]):
                subprocess.run([sys.executable, ROOT / "manage.py", *command, "-v0"], env=env, check=True)
            with closing(sqlite3.connect(making / NAME)) as made:
                made.execute("pragma journal_mode = delete")  # one file, whole
            (making / NAME).rename(kept)
    return kept


def _digest() -> str:
    """Of the day and of everything the demo is made from."""
    found = sha256(date.today().isoformat().encode())
    sources = [*(ROOT / "tests").glob("*.py"), *(ROOT / "insertum").rglob("*")]
    for path in sorted(p for p in sources if p.suffix in (".py", ".json", ".csv")):
        found.update(str(path.relative_to(ROOT)).encode() + path.read_bytes())
    return found.hexdigest()[:16]


if __name__ == "__main__":
    _loaded()
