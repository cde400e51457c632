"""The application as it is served: a process of its own on demo data of its own."""

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

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
            "INSERTUM_SECRET_KEY": "tests-" + "x" * 50,
        }
        for command in ("migrate", "load_demo"):
            subprocess.run([sys.executable, ROOT / "manage.py", command, "-v0"], env=self.env, check=True)
        # The flows are of what is done, not of who may do it.
        self.run(
            "from insertum.shop.models import Person; Person.objects.filter(user__username='bench').update(role='owner')"
        )

    def start(self) -> None:
        self.process = subprocess.Popen(
            [Path(sys.executable).parent / "gunicorn", "insertum.site.wsgi:application", "--bind",
             self.base.removeprefix("http://"), "--workers", str(self.workers), "--threads", "4", "--log-level", "error"],
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
