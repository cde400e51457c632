"""A server killed at any moment: nothing that was acknowledged is lost, and nothing is there by half. ``make kills`` kills
it two hundred times."""

import http.client
import io
import json
import os
import signal
import sqlite3
import subprocess
import sys
import time
import urllib.error
import uuid
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Event

from PIL import Image

from tests import draws
from tests.served import Browser, Server, free_port

KILLS, ROWS, WIDTHS = int(os.environ.get("INSERTUM_KILLS", "1")), 40, (300.0, 301.0)

ROOT = Path(__file__).resolve().parents[2]
RUN = """
import django; django.setup()
from insertum.shop.services.parts import import_steps
from tests.bulk import many
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


def form(name: str, data: bytes) -> tuple[bytes, str]:
    mark = uuid.uuid4().hex
    head = f'--{mark}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'
    return head.encode() + data + f"\r\n--{mark}--\r\n".encode(), f"multipart/form-data; boundary={mark}"


def picture(n: int) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (60 + n % 40, 40), (n % 256, 80, 160)).save(out, "JPEG")
    return out.getvalue()


class Work:
    """What one person does again and again, and what of it was acknowledged."""

    def __init__(self, server: Server, over: Event, act: Callable[[Browser, int], object]) -> None:
        self.browser, self.over, self.act = Browser(server), over, act
        self.acknowledged, self.refused = list[object](), list[tuple[int, bytes]]()
        self.browser.sign_in("library")  # who may do all of it

    def __call__(self) -> None:
        n = 0
        while not self.over.is_set():
            try:
                self.acknowledged.append(self.act(self.browser, n))
            except urllib.error.HTTPError as error:
                self.refused.append((error.code, error.read()[:300]))
                return
            except (OSError, ValueError, http.client.HTTPException):  # no line, or an answer cut short: once more
                time.sleep(0.02)
                continue
            n += 1


def edits(browser: Browser, n: int) -> object:
    """Each note rests on the one before. The id is made of the note, so that sending it again does it once."""
    before = f"note {n - 1}" if n else ""
    edit = {"uid": f"kills-{n}", "path": "/bench/notes", "op": "set", "base": before, "value": f"note {n}"}
    (result,) = browser.call("/api/jobs/158/edits", [edit])["results"]
    assert result["outcome"] in ("applied", "already"), result
    return n


def machines(browser: Browser, n: int) -> object:
    base = browser.call("/api/machines/halden-almanac-12/data")
    note = {**base, "width_mm": WIDTHS[n % 2], "depth_mm": 200.0 + n % 50}
    browser.call("/api/machines/edited", {"machine": note, "base": base}, "PUT")
    return note["width_mm"], note["depth_mm"]


def lists(browser: Browser, n: int) -> object:
    rows = [
        f"memory,KILL-{n:04d}-{i:02d},Pallas,Module {i},16GB 2Rx8 PC4-3200AA-SE1-11,0,Quay Supply 20.50 x4"
        for i in range(ROWS)
    ]
    body, kind = form(
        "list.csv", ("kind,number,maker,name,label,spreader_mm,offers\n" + "\n".join(rows) + "\n").encode()
    )
    report = browser.upload("/api/parts/import", body, kind)
    assert report["added"] + report["same"] == ROWS
    return n


def photographs(browser: Browser, n: int) -> object:
    body, kind = form(f"{n}.jpg", picture(n))
    made = browser.upload("/api/jobs/157/photographs", body, kind)
    if n % 20 == 19:  # a job holds so many: the first ones make room
        for old in browser.call("/api/jobs/157/photographs")[:15]:
            browser.call(f"/api/jobs/157/photographs/{old['uid']}", {"removed": True}, "PUT")
    return made["uid"], made["width"]


def test_killed_again_and_again_under_everybody(tmp_path: Path) -> None:
    server = Server(tmp_path, free_port(), workers=2)
    server.start()
    over, chance = Event(), draws.chance(7)
    try:
        works = [Work(server, over, act) for act in (edits, machines, lists, photographs)]
        with ThreadPoolExecutor(len(works)) as pool:
            done = [pool.submit(w) for w in works]
            for _ in range(KILLS):
                time.sleep(chance.uniform(0.1, 1.0))
                server.kill()
                server.start()
            time.sleep(0.5)
            over.set()
            for d in done:
                d.result(timeout=120)
    finally:
        over.set()
        server.kill()
    assert [w.refused for w in works] == [[]] * len(works)
    assert all(w.acknowledged for w in works), [len(w.acknowledged) for w in works]
    noted, machined, listed, taken = (w.acknowledged for w in works)
    with sqlite3.connect(tmp_path / "insertum.sqlite3") as db:
        assert db.execute("pragma integrity_check").fetchone() == ("ok",)
        log = db.execute("select before, after from shop_jobedit where uid like 'kills-%' order by id").fetchall()
        assert [json.loads(a) for _, a in log[: len(noted)]] == [f"note {n}" for n in noted]  # each once, in order
        assert len(log) - len(noted) in (0, 1)  # the last one may be kept and not acknowledged
        ((spec,),) = db.execute("select spec from shop_job where number = 158")
        assert json.loads(spec)["bench"]["notes"] == json.loads(log[-1][1])
        ((machine,),) = db.execute("select spec from shop_machine where slug = 'halden-almanac-12'")
        stands = json.loads(machine)
        history = [
            json.loads(b)
            for (b,) in db.execute(
                "select before from shop_machineedit where machine = 'halden-almanac-12' and before is not null"
            )
        ]
        kept = {(m["width_mm"], m["depth_mm"]) for m in (*history, stands)}
        assert set(machined) <= kept
        batches = db.execute(
            "select substr(number, 6, 4), count(*) from shop_part where number like 'KILL-%' group by 1"
        ).fetchall()
        assert {c for _, c in batches} == {ROWS} and set(listed) <= {int(n) for n, _ in batches}
        ((offers,),) = db.execute("select count(*) from shop_pricepoint where part like 'KILL-%'")
        assert offers == ROWS * len(batches)
        rows = dict(db.execute("select uid, width from shop_photograph").fetchall())
    assert dict(taken).items() <= rows.items()  # type: ignore[call-overload]
    for uid, width in rows.items():
        with Image.open(tmp_path / "photographs" / f"{uid}.jpg") as found:
            found.load()
            assert found.width == width
    print(f"{KILLS} kills: " + ", ".join(f"{len(w.acknowledged)} {w.act.__name__}" for w in works))
