"""Run with ``after.so`` loaded: brings copies of one old workshop up, each killed one thing later, and says what was left.

Arguments: the old database, a folder to work in, and which counts to try beside the first and the last: every so-manyeth. A
line of JSON at the end: how many things a whole migration does, and each count with what was wrong.
"""

import ctypes
import json
import os
import shutil
import sqlite3
import sys
from contextlib import closing
from pathlib import Path

import django

django.setup()

from django.db import connections  # noqa: E402

from insertum.site import admin_commands  # noqa: E402

old, work, every = Path(sys.argv[1]), Path(sys.argv[2]), int(sys.argv[3])
shim = ctypes.CDLL(None)


def brought_up(var: Path, count: int) -> int:
    """In a process of its own; its exit code, and (count 0) how many things it did, in a file."""
    if pid := os.fork():
        return os.waitstatus_to_exitcode(os.waitpid(pid, 0)[1])
    code = 1
    try:
        connections.databases["default"]["NAME"] = var / "insertum.sqlite3"
        shim.kill_after(str(var).encode(), ctypes.c_long(count))
        admin_commands._brought_up(var)
        done = shim.things_done()
        shim.kill_after(b"", ctypes.c_long(-1))
        (work / "done").write_text(str(done))
        code = 0
    finally:
        os._exit(code)


def holds(var: Path) -> list[object]:
    """What people would miss."""
    with closing(sqlite3.connect(var / "insertum.sqlite3")) as db:
        assert db.execute("pragma integrity_check").fetchone() == ("ok",)
        return [
            db.execute(f"select count(*) from {t}").fetchone()
            for t in ("shop_job", "shop_part", "shop_machine", "auth_user")
        ]


def fresh(name: str) -> Path:
    var = work / name
    shutil.rmtree(var, ignore_errors=True)
    var.mkdir()
    shutil.copyfile(old, var / "insertum.sqlite3")
    return var


whole = fresh("whole")
wanted = holds(whole)
assert brought_up(whole, -1) == 0 and holds(whole) == wanted
things = int((work / "done").read_text())
wrong: list[str] = []
counts = [n for n in range(1, things + 1) if n % every == 0 or n <= 3 or n > things - 14]
for n in counts:
    var = fresh("killed")
    try:
        if brought_up(var, n) != 137:
            wrong.append(f"{n}: it was not killed")
        elif brought_up(var, -1) != 0:
            wrong.append(f"{n}: it does not start again")
        elif holds(var) != wanted:
            wrong.append(f"{n}: {holds(var)}")
        elif left := [p.name for p in var.iterdir() if p.name not in ("insertum.sqlite3", "secret_key")]:
            wrong.append(f"{n}: {left} is left")
    except Exception as error:
        wrong.append(f"{n}: {error!r}")
print(json.dumps({"things": things, "tried": len(counts), "wrong": wrong}))
