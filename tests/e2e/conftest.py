"""The real application on fresh demo data, in headless Chromium, driven as a person would."""

import json
import shutil
from collections.abc import Iterator
from typing import Any
from uuid import uuid4

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.served import Server, free_port

PORT = free_port()
BASE = f"http://127.0.0.1:{PORT}"
#: The one without windows draws the same for half the work; either of Debian's packages will do.
CHROMIUM = shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
expect.set_options(timeout=10_000)


@pytest.fixture(scope="session")
def server(tmp_path_factory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("var"), PORT)
    running.start()
    yield running
    running.stop()


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
    return {"executable_path": CHROMIUM, "args": flags}


@pytest.fixture(scope="session")
def base_url() -> str:
    return BASE


#: Who is signed in at the browsers of this run, by name: a password is slow to check, on purpose.
_signed_in: dict[str, list[Any]] = {}


def sign_in(context: BrowserContext, name: str = "bench") -> Page:
    page = context.new_page()
    page.goto("/")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill("saltmarsh")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="What is on the benches")).to_be_visible()
    return page


@pytest.fixture
def desk(server: Server, browser: Browser, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A page signed in as the bench, or as the role a test or its module says it is of (``@pytest.mark.role``, ``ROLE``); a violated
    policy or a script error fails the test."""
    asked = request.node.get_closest_marker("role")
    name = asked.args[0] if asked else getattr(request.module, "ROLE", "bench")
    context = browser.new_context(base_url=BASE, viewport={"width": 1280, "height": 800})
    context.add_cookies(_signed_in.get(name, []))
    page = context.new_page()
    page.goto("/")
    jobs, password = page.get_by_role("heading", name="What is on the benches"), page.get_by_label("Password")
    expect(jobs.or_(password)).to_be_visible()
    if password.is_visible():
        page.close()
        page = sign_in(context, name)
        _signed_in[name] = context.cookies()
    wrong: list[str] = []
    page.on("pageerror", lambda e: wrong.append(str(e)))
    page.on("console", lambda m: wrong.append(m.text) if "Content Security Policy" in m.text else None)
    yield page
    context.close()
    assert wrong == []


def saved(page: Page) -> None:
    """Wait until everything typed has arrived."""
    expect(page.get_by_role("status").first).to_have_text("Saved")


def token(page: Page) -> dict[str, str]:
    """What a call of one's own needs beside the session."""
    mark = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
    return {"X-CSRFToken": mark, "Content-Type": "application/json", "Referer": BASE}


def bench_afresh(page: Page, number: int) -> None:
    """A job's bench with nothing ticked: which tests ran before on this server is nobody's business."""
    done = page.request.get(f"/api/jobs/{number}").json()["job"]["bench"]["done"]
    edit = {"uid": uuid4().hex, "path": "/bench/done", "op": "set", "base": done, "value": {}}
    if done:
        answer = page.request.post(f"/api/jobs/{number}/edits", data=json.dumps([edit]), headers=token(page))
        assert answer.ok, answer.text()
