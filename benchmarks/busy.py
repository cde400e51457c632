"""An edit alone, and while the largest machine is planned, 20,000 rows come in and a supplier drips.

Prints the 95th percentile of an edit in both, their ratio, and what the server answered besides 200.
"""

import http.server
import statistics
import sys
import tempfile
import threading
import time
import urllib.error
import uuid
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(HERE)]

from tests.api.test_library import many  # noqa: E402
from tests.api.test_technicians import Technician  # noqa: E402
from tests.served import Server, free_port  # noqa: E402

PEOPLE, EDITS = 8, 120


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


def edits(person: Technician, job: int, times: list[float], wrong: list[int]) -> None:
    stands = person.call(f"/api/jobs/{job}")["job"]["bench"]["notes"]
    for n in range(EDITS):
        text = f"{uuid.uuid4().hex} {n}"
        body = [{"uid": uuid.uuid4().hex, "path": "/bench/notes", "op": "set", "base": stands, "value": text}]
        began = time.perf_counter()
        try:
            person.call(f"/api/jobs/{job}/edits", body)
            stands = text
        except urllib.error.HTTPError as error:
            wrong.append(error.code)
        times.append(time.perf_counter() - began)


def measured(server: Server, people: list[Technician]) -> tuple[float, list[int]]:
    times: list[float] = []
    wrong: list[int] = []
    jobs = (147, 148, 149, 150, 154, 158, 160, 162)
    workers = [threading.Thread(target=edits, args=(p, j, times, wrong)) for p, j in zip(people, jobs, strict=True)]
    for w in workers:
        w.start()
    for w in workers:
        w.join()
    return statistics.quantiles(times, n=20)[-1], wrong


def main() -> None:
    drip = http.server.ThreadingHTTPServer(("127.0.0.1", 0), Dripping)
    threading.Thread(target=drip.serve_forever, daemon=True).start()
    with tempfile.TemporaryDirectory() as var:
        server = Server(Path(var), free_port(), workers=2)
        server.env["INSERTUM_SUPPLIER"] = f"http://127.0.0.1:{drip.server_port}/"
        server.start()
        try:
            people = [Technician(server) for _ in range(PEOPLE + 3)]
            for p in people:
                p.sign_in()
            alone, _ = measured(server, people[:PEOPLE])
            over = threading.Event()

            def again(person: Technician, act: object) -> None:
                while not over.is_set():
                    try:
                        act(person)  # type: ignore[operator]
                    except (OSError, ValueError):
                        continue

            def plans(p: Technician) -> None:
                need = {"floor": 8 + time.time() % 4}
                path = "/intake/needs/memory_capacity"
                base = p.call("/api/jobs/163")["job"]["intake"]["needs"].get("memory_capacity")
                p.call(
                    "/api/jobs/163/edits",
                    [{"uid": uuid.uuid4().hex, "path": path, "op": "set", "base": base, "value": need}],
                )
                p.call("/api/jobs/163/plan")

            rows = many(20_000).decode()

            def imports(p: Technician) -> None:
                mark = uuid.uuid4().hex
                body = f'--{mark}\r\nContent-Disposition: form-data; name="file"; filename="p.csv"\r\n\r\n{rows}\r\n--{mark}--\r\n'
                p.upload("/api/parts/import", body.encode(), f"multipart/form-data; boundary={mark}")

            loads = [
                (people[-1], plans),
                (people[-2], imports),
                (people[-3], lambda p: p.call("/api/parts/refresh", {})),
            ]
            behind = [threading.Thread(target=again, args=load, daemon=True) for load in loads]
            for b in behind:
                b.start()
            time.sleep(1)
            busy, wrong = measured(server, people[:PEOPLE])
            over.set()
            print(f"an edit alone, {PEOPLE} people: p95 {alone * 1000:.0f} ms")
            print(f"with a plan, an import and a dripping supplier: p95 {busy * 1000:.0f} ms, {busy / alone:.1f} ×")
            print(f"answers besides 200: {sorted(set(wrong)) or 'none'}")
        finally:
            server.kill()


if __name__ == "__main__":
    main()
