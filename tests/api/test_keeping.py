"""A workshop from a terminal: kept safe while people work, and the same workshop out of its backup and its export."""

import json
import os
import shutil
import signal
import sqlite3
import stat
import subprocess
import sys
import threading
import time
import urllib.request
import zipfile
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest

from tests import world
from tests.served import free_port

ROOT = Path(__file__).resolve().parents[2]


def ran(var: Path, *verb: str, **env: str) -> subprocess.CompletedProcess[str]:
    plain = {k: v for k, v in os.environ.items() if not k.startswith(("INSERTUM_", "DJANGO_"))}
    return subprocess.run(
        [sys.executable, "-m", "insertum.main", *verb], env=plain | {"INSERTUM_VAR": str(var)} | env, cwd=ROOT,
        capture_output=True, text=True, timeout=120,
    )  # fmt: skip


def django(var: Path, code: str) -> None:
    env = os.environ | {"INSERTUM_VAR": str(var), "DJANGO_SETTINGS_MODULE": "tests.settings", "INSERTUM_DEMO": "1"}
    subprocess.run([sys.executable, "-c", f"import django; django.setup()\n{code}"], env=env, cwd=ROOT, check=True)


PHOTOGRAPH = """
import io
from PIL import Image
from insertum.shop.services import photographs
out = io.BytesIO(); Image.new("RGB", (40, 30), "red").save(out, "JPEG")
photographs.take(155, "off:cover", "lid", out.getvalue(), "lid.jpg", None)
"""


@pytest.fixture(scope="module")
def filled(tmp_path_factory) -> Path:
    """The demo's world as a workshop's own, with a photograph."""
    var = tmp_path_factory.mktemp("filled")
    assert ran(var, "migrate").returncode == 0
    world.copy_to(var)
    django(var, PHOTOGRAPH)
    return var


@pytest.fixture(scope="module")
def kept(filled: Path, tmp_path_factory) -> dict[str, Path]:
    """Its backup, and its open files."""
    out = tmp_path_factory.mktemp("kept")
    made = {verb: out / f"{verb}.zip" for verb in ("backup", "export")}
    for verb, file in made.items():
        assert ran(filled, verb, str(file)).returncode == 0
    return made


def plain(value: Any) -> Any:
    """JSON as what it says, whatever its order and spaces."""
    try:
        return (
            json.dumps(json.loads(value), sort_keys=True)
            if isinstance(value, str) and value[:1] in ("{", "[")
            else value
        )
    except ValueError:
        return value


def objects(var: Path, without: tuple[str, ...] = ()) -> dict[str, list[tuple[Any, ...]]]:
    """Every row of every table, but those Django keeps for itself."""
    with closing(sqlite3.connect(var / "insertum.sqlite3")) as db:
        names = [
            n
            for (n,) in db.execute("select name from sqlite_master where type = 'table'")
            if n.startswith(("shop_", "auth_user"))
        ]
        found = {}
        for n in names:
            columns = [c for _, c, *_ in db.execute(f"pragma table_info({n})") if f"{n}.{c}" not in without]
            rows = db.execute(f"select {', '.join(columns)} from {n} order by 1").fetchall()
            found[n] = [tuple(map(plain, r)) for r in rows]
        # The epoch is another one in every workshop that was brought in from somewhere.
        found["shop_revision"] = [r for r in found["shop_revision"] if "epoch" not in r]
        return found


def epoch(var: Path) -> list[tuple[str]]:
    with closing(sqlite3.connect(var / "insertum.sqlite3")) as db:
        return db.execute("select mark from shop_revision where name = 'epoch'").fetchall()


def pictures(var: Path) -> dict[str, bytes]:
    return {p.name: p.read_bytes() for p in (var / "photographs").glob("*.jpg")}


def test_the_same_workshop_comes_out_of_its_backup(filled: Path, tmp_path: Path) -> None:
    kept = tmp_path / "kept.zip"
    made = ran(filled, "backup", str(kept))
    assert made.returncode == 0, made.stderr
    assert stat.S_IMODE(kept.stat().st_mode) == 0o600
    there = tmp_path / "there"
    assert ran(there, "restore", str(kept)).returncode == 0
    assert objects(there) == objects(filled) and pictures(there) == pictures(filled) != {}
    assert len(epoch(there)) == 1 and epoch(there) != epoch(filled)  # answers from before are told from those after
    again = ran(there, "restore", str(kept))
    assert again.returncode == 2 and "a workshop lies here already" in again.stderr
    assert "key" not in "".join(zipfile.ZipFile(kept).namelist())  # a stolen backup opens no session


def test_the_same_workshop_comes_out_of_its_open_files(filled: Path, kept: dict[str, Path], tmp_path: Path) -> None:
    there = tmp_path / "there"
    made = ran(there, "import", str(kept["export"]))
    assert made.returncode == 0, made.stderr
    no_passwords = ("auth_user.password",)
    assert objects(there, no_passwords) == objects(filled, no_passwords) and pictures(there) == pictures(filled)
    with sqlite3.connect(filled / "insertum.sqlite3") as db:
        hashes = [h.encode() for (h,) in db.execute("select password from auth_user")]
    with zipfile.ZipFile(kept["export"]) as out:
        told = b"".join(out.read(n) for n in out.namelist() if n.endswith(".jsonl"))
    assert hashes and not any(h in told or h.split(b"$")[-1] in told for h in hashes)
    assert "changed at the first sign-in" in ran(there, "person", "bench").stdout


@pytest.mark.parametrize("verb", ["restore", "import"])
@pytest.mark.parametrize("what", ["no archive", "another archive", "cut short", "the other's", "missing"])
def test_what_is_no_backup_is_refused_and_nothing_is_left(
    kept: dict[str, Path], tmp_path: Path, verb: str, what: str
) -> None:
    file, there = tmp_path / "file.zip", tmp_path / "there"
    right, wrong = ("backup", "export") if verb == "restore" else ("export", "backup")
    if what == "no archive":
        file.write_bytes(b"nothing of the kind")
    elif what == "another archive":
        with zipfile.ZipFile(file, "w") as out:
            out.writestr("readme.txt", "hello")
    elif what != "missing":
        data = kept[right if what == "cut short" else wrong].read_bytes()
        file.write_bytes(data[: len(data) * 2 // 3] if what == "cut short" else data)
    made = ran(there, verb, str(file))
    assert made.returncode == 2 and str(file) in made.stderr and "Traceback" not in made.stderr
    assert not list(there.glob("*.sqlite3*")) and not list(there.glob("photographs/*"))


def test_a_damaged_table_keeps_nothing(kept: dict[str, Path], tmp_path: Path) -> None:
    broken, there = tmp_path / "b.zip", tmp_path / "there"
    with zipfile.ZipFile(kept["export"]) as found, zipfile.ZipFile(broken, "w") as out:
        for name in found.namelist():
            data = found.read(name)
            out.writestr(name, data.replace(b'"number":', b'"numbre":', 1) if name == "tables/job.jsonl" else data)
    made = ran(there, "import", str(broken))
    assert made.returncode == 2 and "damaged" in made.stderr and not list(there.glob("*.sqlite3*"))


def test_a_backup_has_no_room_or_no_place(filled: Path, tmp_path: Path) -> None:
    no_folder = ran(filled, "backup", str(tmp_path / "not-there" / "b.zip"))
    assert no_folder.returncode == 2 and "Name a file in a folder" in no_folder.stderr
    nothing = ran(tmp_path / "empty", "backup", str(tmp_path / "b.zip"))
    assert nothing.returncode == 2 and "no workshop lies here" in nothing.stderr
    # A disk that is full: no file may grow beyond a few kB.
    small = subprocess.run(
        ["bash", "-c", f"ulimit -f 8; exec {sys.executable} -m insertum.main backup {tmp_path / 'b.zip'}"],
        env=os.environ | {"INSERTUM_VAR": str(filled)}, cwd=ROOT, capture_output=True, text=True,
    )  # fmt: skip
    assert small.returncode == 2 and "Traceback" not in small.stderr and not list(tmp_path.glob("b.zip*"))


def test_a_failed_migration_leaves_the_database_as_it_was(filled: Path, tmp_path: Path) -> None:
    kept, there = tmp_path / "kept.zip", tmp_path / "there"
    assert ran(filled, "backup", str(kept)).returncode == 0 and ran(there, "restore", str(kept)).returncode == 0
    with closing(sqlite3.connect(there / "insertum.sqlite3")) as db:
        # As if 0007 had not run, while its tables are there: it fails half-way.
        db.execute("delete from django_migrations where app = 'shop' and name like '0007%'")
        db.commit()
    before = objects(there)
    made = ran(there, "migrate")
    assert made.returncode == 2 and "It is as it was" in made.stderr
    assert objects(there) == before


# -- serving ------------------------------------------------------------------------------------------
class Serving:
    def __init__(self, var: Path, port: int, **env: str) -> None:
        plain = {k: v for k, v in os.environ.items() if not k.startswith(("INSERTUM_", "DJANGO_"))}
        self.base = f"http://127.0.0.1:{port}"
        self.process = subprocess.Popen(
            [sys.executable, "-m", "insertum.main", "serve", "--port", str(port), "--workers", "1"],
            env=plain | {"INSERTUM_VAR": str(var)} | env, cwd=ROOT, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
            text=True, start_new_session=True,
        )  # fmt: skip

    def ready(self) -> "Serving":
        for _ in range(150):
            try:
                with urllib.request.urlopen(f"{self.base}/healthz", timeout=1) as answer:
                    assert json.load(answer)["status"] == "ok"
                    return self
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("it did not start")

    def stop(self, how: int = signal.SIGTERM) -> None:
        os.killpg(self.process.pid, how)
        self.process.wait(15)


def test_served_killed_half_way_and_served_again(tmp_path: Path) -> None:
    """A start that is killed at any moment leaves nothing that stops the next one."""
    for wait in (0.1, 0.6, 1.2, 2.5):
        killed = Serving(tmp_path, free_port())
        time.sleep(wait)
        killed.stop(signal.SIGKILL)
    port = free_port()
    server = Serving(tmp_path, port).ready()
    try:
        for path in ("insertum.sqlite3", "secret_key"):
            assert stat.S_IMODE((tmp_path / path).stat().st_mode) == 0o600
        second = ran(tmp_path, "serve", "--port", str(free_port()))
        assert second.returncode == 2 and "served or changed by another process" in second.stderr
        taken = ran(tmp_path / "other", "serve", "--port", str(port))
        assert taken.returncode == 2 and f"port {port} cannot be taken" in taken.stderr and "Ready" not in taken.stdout
        with urllib.request.urlopen(f"{server.base}/", timeout=5) as page:
            assert b'<div id="root">' in page.read()  # the web build is served
    finally:
        server.stop()


def test_without_a_key_the_server_refuses_to_start(tmp_path: Path) -> None:
    plain = {k: v for k, v in os.environ.items() if not k.startswith(("INSERTUM_", "DJANGO_"))}
    made = subprocess.run(
        [sys.executable, "-c", "import insertum.site.wsgi"], env=plain | {"INSERTUM_VAR": str(tmp_path)}, cwd=ROOT,
        capture_output=True, text=True,
    )  # fmt: skip
    assert made.returncode != 0 and "no key in" in made.stderr


def test_a_folder_nobody_may_write_to_is_said(tmp_path: Path) -> None:
    made = ran(Path("/proc/insertum"), "serve")
    assert (
        made.returncode == 2
        and "Set INSERTUM_VAR to a folder you may write to" in made.stderr
        and "Traceback" not in made.stderr
    )


def test_a_backup_while_people_work_is_of_one_moment(filled: Path, tmp_path: Path) -> None:
    """Somebody writes all the while: two rows in each transaction. Of no transaction the backup holds half."""
    busy = Path(shutil.copytree(filled, tmp_path / "busy"))
    over = threading.Event()

    def work() -> None:
        with closing(sqlite3.connect(busy / "insertum.sqlite3", timeout=20, isolation_level=None)) as db:
            n = 0
            while not over.is_set():
                n += 1
                db.execute("BEGIN IMMEDIATE")
                for half in "ab":
                    db.execute(
                        "insert into shop_pricepoint (part, shop, price_minor, at) values (?, 'half', ?, '2026-11-27')",
                        (half, n),
                    )
                db.execute("COMMIT")

    worker = threading.Thread(target=work)
    worker.start()
    try:
        for n in range(3):
            kept = tmp_path / f"{n}.zip"
            assert ran(busy, "backup", str(kept)).returncode == 0
            there = tmp_path / str(n)
            assert ran(there, "restore", str(kept)).returncode == 0
            with closing(sqlite3.connect(there / "insertum.sqlite3")) as db:
                counts = db.execute(
                    "select part, count(*), max(price_minor) from shop_pricepoint where shop = 'half' group by part"
                ).fetchall()
            assert len({c[1:] for c in counts}) == 1 and counts[0][1] > 0
    finally:
        over.set()
        worker.join()


def test_the_documented_settings_behind_tls_are_clean(tmp_path: Path) -> None:
    env = {
        "INSERTUM_ADDRESS": "https://bench.example",
        "INSERTUM_SECRET_KEY": "k9-" + "aB3x" * 20,
        "INSERTUM_VAR": str(tmp_path),
        "INSERTUM_HSTS_ALL": "1",
    }
    plain = {k: v for k, v in os.environ.items() if not k.startswith(("INSERTUM_", "DJANGO_"))}
    made = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
        env=plain | env,
        cwd=ROOT,
        capture_output=True,
        text=True,
    )
    assert made.returncode == 0, made.stderr
    open_ = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
        env=plain | {k: v for k, v in env.items() if k != "INSERTUM_ADDRESS"}, cwd=ROOT, capture_output=True, text=True,
    )  # fmt: skip
    assert open_.returncode != 0  # what is documented is what makes it clean


def test_the_demo_is_loaded_whole_or_not_at_all(tmp_path: Path) -> None:
    """Half-way something fails, as when its process is killed: the next start begins from nothing."""
    django(tmp_path, "from django.core.management import call_command; call_command('migrate', verbosity=0)")
    empty = objects(tmp_path)
    code = """
from django.core.management import call_command
from insertum.demo import story
told, left = story._tell, iter(range(9))
def tell(*step):
    if next(left, None) is None: raise SystemExit(9)
    told(*step)
story._tell = tell
call_command("load_demo")
"""
    with pytest.raises(subprocess.CalledProcessError) as ended:
        django(tmp_path, code)
    assert ended.value.returncode == 9 and objects(tmp_path) == empty


TEXTS = """
from django.contrib.auth.models import User
from insertum.shop import models
from insertum.shop.services import edit_job, jobs, shelf
from insertum.shop.services.history import logged
from tests import draws
chance, who = draws.chance(21), User.objects.get(username="bench")
odd = "aé漢😀 \\t\\n\\r\\u0085\\u2028\\u2029\\u000b\\u000c\\u001c\\u200b\\"',;{}[]\\\\"
text = lambda most: "".join(chance.choice(odd) for _ in range(chance.randrange(1, most)))
for n in range(150):
    job = jobs.start_job(text(20), text(20), "")
    edit_job.write(job.number, "/bench/notes", text(60), who)
    edit_job.write(job.number, "/survey/numbers/" + text(8).replace("/", "x"), text(20), who)
    logged("job", str(job.number), text(40), {"words": text(30)}, None)
    shelf.put("AP-45", text(20), "good", text(20), who)
"""


def test_every_text_that_was_taken_comes_back_out_of_its_open_files(tmp_path: Path) -> None:
    """Line separators, carriage returns and other characters that break lines elsewhere (U+2028, U+0085, …)."""
    here, there = tmp_path / "here", tmp_path / "there"
    assert ran(here, "migrate").returncode == 0
    world.copy_to(here)
    django(here, TEXTS)
    out = tmp_path / "out.zip"
    for verb, var in (("export", here), ("import", there)):
        made = ran(var, verb, str(out))
        assert made.returncode == 0, made.stderr
    no_passwords = ("auth_user.password",)
    assert objects(there, no_passwords) == objects(here, no_passwords)
