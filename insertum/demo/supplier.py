"""A small stand-in for a supplier: ``python -m insertum.demo.supplier [PORT]`` answers ``/offers`` with
its prices and stock. ``?mood=slow``, ``broken``, ``half``, ``wrong`` or ``down`` let it misbehave."""

import json
import random
import sys
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from urllib.parse import parse_qs, urlparse

from ..formats.parts import read_csv

PORT = 8765
SHOP = "Quay Supply"
MOODS = ("", "slow", "broken", "half", "wrong", "down")
PARTS = Path(__file__).parent / "data" / "parts.csv"


def offers(seed: int) -> list[dict[str, object]]:
    """What the shop asks today: its catalogue's prices, moved by up to a tenth."""
    chance = random.Random(seed)
    found = []
    for part in read_csv(PARTS.read_text()):
        for o in part.offers:
            if o.shop == SHOP:
                moved = round(o.price_minor * chance.uniform(0.9, 1.1) / 10) * 10
                found.append({"number": part.number, "price_minor": max(moved, 10), "stock": chance.randrange(0, 12)})
    found.append({"number": "QS-UNLISTED-1", "price_minor": 990, "stock": 3})
    return found


class Handler(BaseHTTPRequestHandler):
    """Answers one path, in the mood asked for."""

    slow_s = 20.0

    def do_GET(self) -> None:
        address = urlparse(self.path)
        query = parse_qs(address.query)
        mood = query.get("mood", [""])[0]
        if address.path != "/offers" or mood == "down":
            self.send_error(503 if mood == "down" else 404)
            return
        if mood == "slow":
            time.sleep(self.slow_s)
        seed = int(query.get("seed", [str(int(time.time()) // 60)])[0])
        body = json.dumps({"format": "insertum-feed/1", "shop": SHOP, "offers": offers(seed)}).encode()
        if mood == "wrong":
            body = body.replace(b'"price_minor": ', b'"price_minor": -', 1)
        if mood == "broken":
            body = body[: len(body) // 2]
        self.send_response(200)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body[: len(body) // 2] if mood == "half" else body)

    def log_message(self, format: str, *args: object) -> None:
        """Quiet: the demo's terminal is for the demo."""


def main() -> None:
    """Serve the simulated supplier on this machine; the port is the first argument."""
    port = int(sys.argv[1]) if len(sys.argv) > 1 else PORT
    ThreadingHTTPServer(("127.0.0.1", port), Handler).serve_forever()


if __name__ == "__main__":
    main()
