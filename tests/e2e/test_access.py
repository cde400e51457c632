"""Every screen for everybody: no violation axe knows, in both themes, and nothing that needs sideways scrolling."""

from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

from tests.served import ROOT, Server

from .conftest import BASE, sign_in

AXE = (Path(ROOT) / "web/node_modules/axe-core/axe.min.js").read_text()
SCREENS = [
    "/jobs", "/jobs/147/intake", "/jobs/156/identify", "/jobs/147/survey", "/jobs/147/survey/walk", "/jobs/147/fit", "/jobs/148/plan",
    "/jobs/149/quote", "/jobs/149/prepare", "/jobs/150/bench", "/jobs/150/sheet", "/jobs/157/prove", "/jobs/155/hand-over", "/machines",
    "/machines/veyra-drover-14/rill-320", "/machines/edit?machine=veyra-drover-14&configuration=rill-320", "/processors", "/parts",
    "/parts/shelf", "/parts/PM4S-16G29", "/sightings", "/triage", "/rules", "/gauges", "/workshop", "/workshop/people",
    "/workshop/history", "/workshop/removed", "/workshop/me", "/nowhere", "/ask?text=Strand%2015,%20WH4-1T0-80M", "/ask?text=Drover%2015",
    "/machines/veyra-drover-14/rill-320/fits", "/machines/veyra-drover-14/rill-320/fits/paper",
]  # fmt: skip
#: The same screens with more in them: looked at for their width alone.
FULLER = [
    "/jobs/158/fit", "/jobs/163/fit", "/jobs/147/plan", "/machines/veyra-strand-15/mk2-rill-430", "/machines/edit?copy=halden-tern-13",
    "/parts/QK2-1T0-80M", "/ask?text=Drover%2014", "/ask?text=WH4-1T0-80M",
]  # fmt: skip
#: 1280 × 800, a tablet, and 200 % zoom of the first.
SIZES = ((1280, 800), (768, 1024), (640, 400))
SIDEWAYS = "() => [document.documentElement, ...document.querySelectorAll('main')].some(e => e.scrollWidth > e.clientWidth + 1)"
#: What axe asks of colours unless it is told to ask for more.
COLOURS = {"type": "rule", "values": ["color-contrast", "link-in-text-block"]}


def violations(page: Page) -> list[str]:
    """In the light theme every rule; the dark one has other colours and nothing else, so the rules about colour."""
    page.evaluate(AXE)
    found: list[str] = []
    for theme, options in (("light", {}), ("dark", {"runOnly": COLOURS})):
        page.emulate_media(color_scheme=theme)  # type: ignore[arg-type]
        found += page.evaluate(
            "options => axe.run(document, {resultTypes: ['violations'], ...options}).then(r => r.violations.map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ') + ' | ' + n.html.slice(0, 120)).join(' ;; ')))",
            options,
        )
    return found


@pytest.mark.parametrize("half", [0, 1])
def test_no_screen_has_a_violation_axe_knows_or_scrolls_sideways(server: Server, browser: Browser, half: int) -> None:
    context = browser.new_context(base_url=BASE, viewport={"width": 1280, "height": 800}, bypass_csp=True)
    wrong: dict[str, list[str]] = {}
    out = context.new_page()
    out.goto("/")
    out.get_by_label("Name").wait_for()
    wrong["sign-in"] = violations(out)
    out.close()
    page = sign_in(context, "owner")
    for screen in [*SCREENS, *FULLER][half::2]:
        page.goto(screen)
        page.locator("h1").first.wait_for()
        page.wait_for_timeout(150)  # what stands below the heading
        wrong[screen] = violations(page) if screen in SCREENS else []
        for width, height in SIZES:
            page.set_viewport_size({"width": width, "height": height})
            page.wait_for_timeout(30)
            if page.evaluate(SIDEWAYS):
                wrong[screen].append(f"scrolls sideways at {width}")
        page.set_viewport_size({"width": 1280, "height": 800})
    context.close()
    told = [f"{s} {one}" for s, v in wrong.items() for one in v]
    assert not told, "\n".join(told)
