"""One job through all nine stations, by keyboard alone."""

import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from .conftest import saved


def focus(page: Page, label: str) -> None:
    """Reach a field as a keyboard user does: by tabbing to it."""
    for _ in range(120):
        page.keyboard.press("Tab")
        here = page.evaluate(
            "() => { const e = document.activeElement; return e.labels?.[0]?.innerText || e.getAttribute('aria-label') || e.innerText || '' }"
        )
        if here.startswith(label):
            return
    raise AssertionError(f"{label} cannot be reached by keyboard")


def leave(page: Page) -> None:
    page.keyboard.press("Escape")


def heading(page: Page, text: str) -> None:
    expect(page.get_by_role("heading", level=1, name=text)).to_be_visible()


def main_action(page: Page) -> None:
    expect(page.locator("[data-main-action]")).to_be_enabled()
    page.keyboard.press("g")


@pytest.mark.parametrize("width", [1280, 640])
def test_a_job_from_complaint_to_record_by_keyboard(desk: Page, tmp_path: Path, width: int) -> None:
    """On a desk, and at 200 % zoom of it."""
    page, keys = desk, desk.keyboard
    page.set_viewport_size({"width": width, "height": 400 if width == 640 else 800})

    # jobs: start a new one
    focus(page, "For whom")
    keys.type("Tidewater choir school")
    keys.press("Tab")
    keys.type("Scores open slowly")
    keys.press("Enter")

    # intake
    heading(page, "What is the trouble")
    focus(page, "In the owner’s words")
    keys.type("Slow with many scores open.")
    focus(page, "Slow with many pages open")
    keys.press("Space")
    expect(page.get_by_text("Programs that start by themselves")).to_be_visible()
    focus(page, "Encryption")
    keys.type("off")
    focus(page, "Budget")
    keys.type("160")
    focus(page, "Data used")
    keys.type("120")
    focus(page, "Peak memory")
    keys.type("7")
    leave(page)
    saved(page)
    expect(page.get_by_text("observed peak use")).to_be_visible()
    main_action(page)

    # identify: the family name leaves two, the question settles it
    heading(page, "Which machine is it")
    focus(page, "What the labels say")
    keys.type("Veyra Strand 15")
    expect(page.get_by_text("2 configurations remain")).to_be_visible()
    expect(page.get_by_role("cell", name="Memory ceiling")).to_be_visible()
    keys.press("Enter")
    keys.type("VS15-R4B")
    expect(page.get_by_text("One configuration remains")).to_be_visible()
    leave(page)
    keys.press("j")
    keys.press("Enter")
    expect(page.get_by_role("button", name="Veyra Strand 15 mk II", pressed=True)).to_be_visible()
    saved(page)
    main_action(page)

    # survey: correct what is fitted, measure what is unknown
    heading(page, "What is inside")
    focus(page, "Drive 2: key M")  # the map's slots are reached too
    keys.press("Enter")
    expect(page.get_by_role("heading", name="Drive 2")).to_be_visible()
    focus(page, "Measure Room below")
    keys.press("Enter")
    keys.type("1.4")
    keys.press("Enter")
    expect(page.get_by_text("1.4 mm").first).to_be_visible()
    main_action(page)

    # fit: the first memory module that seats, by j; what adds most stands first
    heading(page, "What seats")
    page.locator("[data-row]").first.wait_for()
    focus(page, "Kind of part")
    keys.type("memory")
    leave(page)
    keys.press("j")
    expect(page.get_by_text("in Memory B:")).to_be_visible()
    for _ in range(45):
        if page.get_by_text("in Memory B: seats").is_visible():
            break
        keys.press("j")
        page.wait_for_timeout(60)
    keys.press("Enter")
    expect(page.get_by_role("button", name="Take it out again")).to_be_visible()
    expect(page.get_by_label("Ledger")).to_contain_text("8 → 24 GB")
    keys.press("u")
    expect(page.get_by_label("Ledger")).not_to_contain_text("8 → 24 GB")
    main_action(page)

    # plan: choose best value
    heading(page, "Where the money")
    expect(page.get_by_role("group", name="Ladder of upgrades")).to_be_visible()
    for name in ("Just enough", "Best value", "Room for 3 years", "Fill it"):
        expect(page.get_by_role("button", name=name).first).to_be_visible()
    keys.press("j")
    keys.press("j")
    keys.press("Enter")
    expect(page.get_by_text("Chosen: Best value")).to_be_visible()
    main_action(page)

    # prepare: the key is shut until every gate is done or waived in words
    heading(page, "Is everything ready")
    action = page.locator("[data-main-action]")
    expect(action).to_be_disabled()
    gates = page.get_by_role("main").get_by_role("checkbox", disabled=False)
    count = gates.count()
    assert count >= 4
    focus(page, "owner waives")
    keys.press("Enter")
    keys.type("owner wrote: nothing on it is worth keeping")
    keys.press("Enter")
    expect(page.get_by_text("Waived: owner wrote")).to_be_visible()
    for i in range(count):
        keys.press("j")
        if i:  # the first is waived
            keys.press("Space")
    saved(page)
    focus(page, "The owner’s word from")  # of the price: taken down, not ticked
    keys.type("the reading room")
    keys.press("Enter")
    expect(page.get_by_text("the reading room agreed")).to_be_visible()
    expect(page.get_by_text("The safety key is in.")).to_be_visible()
    main_action(page)

    # bench: tick every step
    heading(page, "The next step at the bench")
    steps = page.get_by_role("main").get_by_role("list").get_by_role("checkbox")
    for _ in range(steps.count()):
        keys.press("j")
        keys.press("Space")
    saved(page)
    heading(page, "Every step is done")
    expect(page.get_by_text("The tray is empty")).to_be_visible()
    main_action(page)

    # prove: paste the reading of the simulated laptop
    heading(page, "Does it show what it should")
    number = page.url.split("/")[4]
    bundle = page.request.get(f"/api/jobs/{number}/simulated/prove").text()
    focus(page, "Or paste it")
    page.evaluate("text => navigator.clipboard?.writeText(text).catch(() => {})", bundle)
    page.keyboard.insert_text(bundle)
    keys.press("Tab")
    keys.press("Enter")
    expect(page.get_by_text("Everything is as expected or better.")).to_be_visible()
    main_action(page)

    # hand over: the record and the job's file
    heading(page, "What was done so far")
    focus(page, "Outcome")
    keys.type("done")
    leave(page)
    saved(page)
    main_action(page)
    expect(page.get_by_text("closed ", exact=False).first).to_be_visible()
    saved(page)
    expect(page.get_by_role("article")).to_contain_text("Everything is as expected or better.")
    expect(page.get_by_role("img", name=f"Code to job {number}")).to_be_visible()
    job = json.loads(page.request.get(f"/api/jobs/{number}/file").text())
    assert job["hand_over"]["outcome"] == "done" and job["plan"]["chosen"]["stance"] == "best_value"
    expect(page.get_by_role("navigation", name="Stations").get_by_text("done", exact=True)).to_have_count(9)
