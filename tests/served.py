"""The application as it is served: a process of its own on demo data of its own."""

import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

from . import world

ROOT = Path(__file__).resolve().parents[1]


def free_port() -> int:
    """One nobody listens on, so that two runs at once are not in each other's way."""
    with socket.socket() as asked:
        asked.bind(("127.0.0.1", 0))
        port: int = asked.getsockname()[1]
        return port


class Server:
    """Starts and stops like the demo: a lost connection is a stopped server."""

    def __init__(self, var: Path, port: int, workers: int = 1) -> None:
        self.base, self.var, self.workers = f"http://127.0.0.1:{port}", var, workers
        self.env = os.environ | {
            "INSERTUM_VAR": str(var),
            "INSERTUM_DEMO": "1",
            "DJANGO_SETTINGS_MODULE": "tests.settings",
            "INSERTUM_SECRET_KEY": "tests-" + "x" * 50,
        }
        world.copy_to(var)

    def start(self) -> None:
        self.process = subprocess.Popen(
            [Path(sys.executable).parent / "gunicorn", "insertum.site.wsgi:application", "--bind",
             self.base.removeprefix("http://"), "--workers", str(self.workers), "--threads", "4", "--log-level", "error",
             "-k", "insertum.site.serving.Buffered"],
            env=self.env, cwd=ROOT, start_new_session=True,
        )  # fmt: skip
        for _ in range(150):
            try:
                urllib.request.urlopen(self.base, timeout=1)
                return
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def stop(self) -> None:
        self.process.terminate()
        self.process.wait(10)

    def kill(self) -> None:
        """As a power cut ends it: the master and its workers at once."""
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait(10)

    def add_person(self, name: str, password: str) -> None:
        """A second person of the workshop."""
        self.run(
            f"from django.contrib.auth.models import User; User.objects.create_user({name!r}, password={password!r})"
        )

    def run(self, code: str) -> None:
        """A line in the application's own shell."""
        subprocess.run([sys.executable, ROOT / "manage.py", "shell", "-v0", "-c", code], env=self.env, check=True)


class Browser:
    """A browser's part: signs in and sends."""

    def __init__(self, server: Server) -> None:
        self.server = server
        self.cookies = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))

    def sign_in(self, name: str = "bench") -> None:
        try:
            self.call("/api/session")
        except urllib.error.HTTPError as error:
            assert error.code == 401  # it brings the token all the same
        self.call("/api/session", {"name": name, "password": "saltmarsh"})

    def call(self, path: str, body: Any = None, method: str = "") -> Any:
        token = next((c.value for c in self.cookies if c.name == "csrftoken"), "") or ""
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json", "X-CSRFToken": token}
        with self.opener.open(self._request(path, data, headers, method), timeout=15) as answer:
            return json.load(answer)

    def upload(self, path: str, body: bytes, kind: str) -> Any:
        token = next((c.value for c in self.cookies if c.name == "csrftoken"), "") or ""
        headers = {"Content-Type": kind, "X-CSRFToken": token}
        with self.opener.open(urllib.request.Request(self.server.base + path, body, headers), timeout=120) as answer:
            return json.load(answer)

    def _request(self, path: str, data: bytes | None, headers: dict[str, str], method: str) -> urllib.request.Request:
        how = method or ("GET" if data is None else "POST")
        return urllib.request.Request(self.server.base + path, data, headers, method=how)
