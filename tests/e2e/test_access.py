"""Every screen for everybody: no violation axe knows, in both themes, and nothing that needs sideways scrolling."""

from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

from tests.served import ROOT, Server

from .conftest import BASE, sign_in

AXE = (Path(ROOT) / "web/node_modules/axe-core/axe.min.js").read_text()
SCREENS = [
    "/jobs", "/jobs/147/intake", "/jobs/147/identify", "/jobs/147/survey", "/jobs/147/survey/walk", "/jobs/147/fit", "/jobs/148/plan",
    "/jobs/149/quote", "/jobs/149/prepare", "/jobs/150/bench", "/jobs/150/sheet", "/jobs/157/prove", "/jobs/155/hand-over", "/machines",
    "/machines/veyra-drover-14/rill-320", "/machines/edit?machine=veyra-drover-14&configuration=rill-320", "/processors", "/parts",
    "/parts/shelf", "/parts/PM4S-16G29", "/sightings", "/triage", "/rules", "/gauges", "/workshop", "/workshop/people",
    "/workshop/history", "/workshop/removed", "/workshop/me", "/nowhere",
]  # fmt: skip


def violations(page: Page) -> list[str]:
    page.evaluate(AXE)
    found = page.evaluate(
        "axe.run(document, {resultTypes: ['violations']}).then(r => r.violations.map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ') + ' | ' + n.html.slice(0, 120)).join(' ;; ')))"
    )
    return list(found)


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_no_screen_has_a_violation_axe_knows(server: Server, browser: Browser, theme: str) -> None:
    context = browser.new_context(
        base_url=BASE, viewport={"width": 1280, "height": 800}, color_scheme=theme, bypass_csp=True
    )
    wrong: dict[str, list[str]] = {}
    out = context.new_page()
    out.goto("/")
    out.get_by_label("Name").wait_for()
    wrong["sign-in"] = violations(out)
    out.close()
    page = sign_in(context, "owner")
    for screen in SCREENS:
        page.goto(screen)
        page.locator("h1").first.wait_for()
        page.wait_for_timeout(150)  # what stands below the heading
        wrong[screen] = violations(page)
    context.close()
    told = [f"{s} {one}" for s, v in wrong.items() for one in v]
    assert not told, "\n".join(told)
