"""An edit alone, and while the largest machine is planned again and again, 20,000 rows come in and a supplier drips.

Eight people, each on a job of their own. Prints the 95th percentile of an edit in both, their ratio, and what the server
answered besides 200. ``--edits`` says how many each makes.
"""

import argparse
import http.server
import statistics
import sys
import tempfile
import threading
import time
import urllib.error
import uuid
from collections.abc import Callable
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(HERE)]

from tests.bulk import many  # noqa: E402
from tests.served import Browser, Server, free_port  # noqa: E402

PEOPLE = 8


class Dripping(http.server.BaseHTTPRequestHandler):
    """A supplier that sends a byte now and then."""

    def do_GET(self) -> None:
        self.send_response(200)
        self.end_headers()
        for _ in range(40):
            self.wfile.write(b" ")
            self.wfile.flush()
            time.sleep(0.25)

    def log_message(self, *args: object) -> None:
        return


def edits(person: Browser, job: int, count: int, times: list[float], wrong: list[int]) -> None:
    stands = person.call(f"/api/jobs/{job}")["job"]["bench"]["notes"]
    for n in range(count):
        text = f"{uuid.uuid4().hex} {n}"
        body = [{"uid": uuid.uuid4().hex, "path": "/bench/notes", "op": "set", "base": stands, "value": text}]
        began = time.perf_counter()
        try:
            person.call(f"/api/jobs/{job}/edits", body)
            stands = text
        except urllib.error.HTTPError as error:
            wrong.append(error.code)
        times.append(time.perf_counter() - began)


def measured(people: list[Browser], count: int) -> tuple[float, list[int], float]:
    times: list[float] = []
    wrong: list[int] = []
    jobs = (147, 148, 149, 150, 154, 158, 160, 162)
    workers = [
        threading.Thread(target=edits, args=(p, j, count, times, wrong)) for p, j in zip(people, jobs, strict=True)
    ]
    began = time.perf_counter()
    for w in workers:
        w.start()
    for w in workers:
        w.join()
    return statistics.quantiles(times, n=20)[-1], wrong, time.perf_counter() - began


def plans(person: Browser) -> None:
    """The largest machine, planned anew: another need each time."""
    path = "/intake/needs/memory_capacity"
    base = person.call("/api/jobs/163")["job"]["intake"]["needs"].get("memory_capacity")
    need = {"floor": 8 + time.time() % 4}
    edit = {"uid": uuid.uuid4().hex, "path": path, "op": "set", "base": base, "value": need}
    person.call("/api/jobs/163/edits", [edit])
    person.call("/api/jobs/163/plan")


def imports(person: Browser) -> None:
    mark = uuid.uuid4().hex
    head = f'--{mark}\r\nContent-Disposition: form-data; name="file"; filename="p.csv"\r\n\r\n'
    body = f"{head}{many(20_000).decode()}\r\n--{mark}--\r\n"
    began = time.perf_counter()
    report = person.upload("/api/parts/import", body.encode(), f"multipart/form-data; boundary={mark}")
    print(f"20,000 rows: {report['added']} added in {time.perf_counter() - began:.1f} s beside all else")


def until(over: threading.Event, person: Browser, act: Callable[[Browser], object]) -> None:
    while not over.is_set():
        try:
            act(person)
        except (OSError, ValueError):
            continue


def main() -> None:
    ask = argparse.ArgumentParser()
    ask.add_argument("--edits", type=int, default=250)
    count = ask.parse_args().edits
    drip = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Dripping)
    threading.Thread(target=drip.serve_forever, daemon=True).start()
    with tempfile.TemporaryDirectory() as var:
        server = Server(Path(var), free_port(), workers=2)
        server.env["INSERTUM_SUPPLIER"] = f"http://127.0.0.1:{drip.server_port}/"
        server.start()
        try:
            people = [Browser(server) for _ in range(PEOPLE + 3)]
            for p in people:
                p.sign_in("owner")
            alone, _, took = measured(people[:PEOPLE], count)
            print(
                f"an edit alone, {PEOPLE} people: p95 {alone * 1000:.0f} ms, {PEOPLE * count / took:.0f} a second",
                flush=True,
            )
            over = threading.Event()
            behind = [
                threading.Thread(target=until, args=(over, people[-1], plans), daemon=True),
                threading.Thread(target=imports, args=(people[-2],), daemon=True),
                threading.Thread(
                    target=until, args=(over, people[-3], lambda p: p.call("/api/parts/refresh", {})), daemon=True
                ),
            ]
            for b in behind:
                b.start()
            busy, wrong, took = measured(people[:PEOPLE], count)
            over.set()
            print(
                f"with plans, an import and a dripping supplier: p95 {busy * 1000:.0f} ms, {busy / alone:.1f} ×, "
                f"{PEOPLE * count / took:.0f} a second"
            )
            print(f"answers besides 200: {sorted(set(wrong)) or 'none'}")
        finally:
            server.kill()


if __name__ == "__main__":
    main()
