"""The real application on fresh demo data, in headless Chromium, driven as a person would."""

import os
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

ROOT = Path(__file__).resolve().parents[2]
PORT = 8078
BASE = f"http://127.0.0.1:{PORT}"
expect.set_options(timeout=10_000)


class Server:
    """Starts and stops like the demo: a lost connection is a stopped server."""

    def __init__(self, var: Path) -> None:
        self.env = os.environ | {"INSERTUM_VAR": str(var)}
        for command in ("migrate", "load_demo"):
            subprocess.run([sys.executable, ROOT / "manage.py", command, "-v0"], env=self.env, check=True)

    def start(self) -> None:
        self.process = subprocess.Popen(
            [Path(sys.executable).parent / "gunicorn", "insertum.site.wsgi:application", "--bind", f"127.0.0.1:{PORT}",
             "--threads", "4", "--log-level", "error"],
            env=self.env, cwd=ROOT,
        )  # fmt: skip
        for _ in range(150):
            try:
                urllib.request.urlopen(BASE, timeout=1)
                return
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def stop(self) -> None:
        self.process.terminate()
        self.process.wait(10)


@pytest.fixture(scope="session")
def server(tmp_path_factory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("var"))
    running.start()
    yield running
    running.stop()


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
    return {"executable_path": "/usr/bin/chromium", "args": flags}


@pytest.fixture(scope="session")
def base_url() -> str:
    return BASE


def sign_in(context: BrowserContext) -> Page:
    page = context.new_page()
    page.goto("/")
    page.get_by_label("Name").fill("bench")
    page.get_by_label("Password").fill("saltmarsh")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="What is on the benches")).to_be_visible()
    return page


@pytest.fixture
def desk(server: Server, browser: Browser) -> Iterator[Page]:
    """A signed-in page; a violated policy or a script error fails the test."""
    context = browser.new_context(base_url=BASE, viewport={"width": 1280, "height": 800})
    page = sign_in(context)
    wrong: list[str] = []
    page.on("pageerror", lambda e: wrong.append(str(e)))
    page.on("console", lambda m: wrong.append(m.text) if "Content Security Policy" in m.text else None)
    yield page
    context.close()
    assert wrong == []


def saved(page: Page) -> None:
    """Wait until everything typed has arrived."""
    expect(page.get_by_role("status").first).to_have_text("Saved")
