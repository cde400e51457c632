"""A workshop as it is served: what a signal ends, what a slow browser may hold up, and what a power cut leaves of a migration."""

import fcntl
import json
import lzma
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.served import Server, free_port

ROOT = Path(__file__).resolve().parents[2]
HERE = Path(__file__).resolve().parent
PLAIN = {k: v for k, v in os.environ.items() if not k.startswith(("INSERTUM_", "DJANGO_"))}
#: `make kills` kills a migration after every single thing it does; the suite after some.
EVERY = 1 if int(os.environ.get("INSERTUM_KILLS", "1")) > 1 else 150


def insertum(var: Path, *verb: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "insertum.main", *verb], env=PLAIN | {"INSERTUM_VAR": str(var)}, cwd=ROOT,
        capture_output=True, text=True, timeout=120,
    )  # fmt: skip


@pytest.fixture(scope="module")
def workshop(tmp_path_factory) -> Path:
    var: Path = tmp_path_factory.mktemp("workshop")
    assert insertum(var, "migrate").returncode == 0
    return var


def running(group: int) -> list[int]:
    """The processes of a session that are not dead yet."""
    found = []
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            try:
                fields = (entry / "stat").read_text().rpartition(")")[2].split()
            except OSError:
                continue
            if int(fields[3]) == group and fields[0] != "Z":
                found.append(int(entry.name))
    return found


#: `make kills` tries every signal.
SIGNALS = ["SIGTERM", "SIGHUP", "SIGKILL", "SIGINT", "SIGQUIT", "SIGUSR2"][: 6 if EVERY == 1 else 3]


@pytest.mark.parametrize("name", SIGNALS)
def test_whatever_signal_ends_serve_ends_what_it_started_and_the_folder_is_free_after_that(workshop, name) -> None:
    port = free_port()
    serve = subprocess.Popen(
        [sys.executable, "-m", "insertum.main", "serve", "--port", str(port)], env=PLAIN | {"INSERTUM_VAR": str(workshop)},
        cwd=ROOT, start_new_session=True, stdout=subprocess.DEVNULL,
    )  # fmt: skip
    try:
        for _ in range(200):
            try:
                urllib.request.urlopen(f"http://127.0.0.1:{port}/healthz", timeout=1)
                break
            except OSError:
                time.sleep(0.05)
        started = running(serve.pid)
        assert len(started) >= 3  # a master and two workers
        assert insertum(workshop, "migrate").returncode == 2
        serve.send_signal(getattr(signal, name))
        held = True
        for _ in range(400):
            alive = running(serve.pid)
            if not alive:
                break
            held = held and not _free(workshop, [a for a in alive if a != serve.pid], serve.pid)
            time.sleep(0.02)
        assert running(serve.pid) == [] and held
        assert insertum(workshop, "migrate").returncode == 0
    finally:
        for left in running(serve.pid):
            os.kill(left, signal.SIGKILL)
        serve.wait(10)


def _free(var: Path, alive: list[int], group: int) -> bool:
    """Could somebody else take the folder, while some that serve were alive before and after they tried?"""
    with (var / "lock").open("a") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return False
        time.sleep(0.1)  # who is just ending has let go of it, and is still seen
        return bool(alive) and set(running(group)) >= set(alive)


@pytest.fixture(scope="module")
def server(tmp_path_factory) -> Iterator[Server]:
    made = Server(tmp_path_factory.mktemp("slow"), free_port(), workers=2)
    made.start()
    yield made
    made.kill()


def others_are_served(server: Server) -> None:
    time.sleep(0.3)
    for _ in range(10):
        assert json.load(urllib.request.urlopen(f"{server.base}/healthz", timeout=5))["status"] == "ok"


HEAD = b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"
SLOW = {
    "half a head": HEAD[:40],
    "a head without its end": HEAD,
    "a body that stalls": HEAD + b"Content-Length: 30000000\r\n\r\n" + b"x" * 70_000,
    "nothing at all": b"",
}


@pytest.mark.parametrize("what", SLOW)
def test_who_sends_slowly_holds_nobody_up(server: Server, what: str) -> None:
    port = int(server.base.rpartition(":")[2])
    slow = [socket.create_connection(("127.0.0.1", port)) for _ in range(16)]
    try:
        for s in slow:
            s.sendall(SLOW[what])
        others_are_served(server)
    finally:
        for s in slow:
            s.close()


def test_who_reads_slowly_holds_nobody_up(server: Server) -> None:
    port = int(server.base.rpartition(":")[2])
    script = next((ROOT / "web" / "dist" / "static").rglob("*.js"))
    ask = f"GET /static/{script.relative_to(ROOT / 'web' / 'dist' / 'static')} HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n".encode()
    slow = []
    try:
        for _ in range(16):
            s = socket.socket()
            s.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 2048)
            s.connect(("127.0.0.1", port))
            s.sendall(ask)
            slow.append(s)
        others_are_served(server)
    finally:
        for s in slow:
            s.close()


def test_a_migration_killed_at_any_moment_leaves_the_workshop_whole(tmp_path: Path) -> None:
    """After every open for writing, write, sync, rename and unlink (`make kills`; some of them here): it starts again, and
    nothing is missing."""
    shim, old, work = tmp_path / "after.so", tmp_path / "old.sqlite3", tmp_path / "work"
    subprocess.run(["gcc", "-shared", "-fPIC", "-O1", "-o", shim, HERE / "kill" / "after.c", "-ldl"], check=True)
    old.write_bytes(lzma.decompress((HERE / "released" / "0.6.0.sqlite3.xz").read_bytes()))
    work.mkdir()
    told = subprocess.run(
        [sys.executable, HERE / "kill" / "migrations.py", old, work, str(EVERY)],
        env=PLAIN | {"LD_PRELOAD": str(shim), "DJANGO_SETTINGS_MODULE": "tests.settings", "INSERTUM_VAR": str(work), "PYTHONPATH": str(ROOT)},
        cwd=ROOT, capture_output=True, text=True,
    )  # fmt: skip
    assert told.returncode == 0, told.stderr[-2000:]
    found = json.loads(told.stdout.splitlines()[-1])
    assert found["wrong"] == [] and found["things"] > 100 and found["tried"] >= 18, found


def test_a_copy_that_an_earlier_version_left_alone_is_put_back(workshop: Path, tmp_path: Path) -> None:
    """It took the database away before the copy was in its place, and was killed in between."""
    var = tmp_path / "orphan"
    var.mkdir()
    shutil.copy(workshop / "insertum.sqlite3", var / "before-migration.sqlite3")
    (var / "insertum.sqlite3-wal").write_bytes(b"of the one that is gone")
    assert insertum(var, "migrate").returncode == 0
    assert sorted(p.name for p in var.iterdir()) == ["insertum.sqlite3", "lock", "secret_key"]


def test_what_is_of_this_version_is_not_written_to_at_the_start(workshop: Path) -> None:
    """A full disk keeps nobody from starting when there is nothing to migrate."""
    before = (workshop / "insertum.sqlite3").stat().st_mtime_ns
    assert insertum(workshop, "migrate").returncode == 0
    assert (workshop / "insertum.sqlite3").stat().st_mtime_ns == before
