"""Flows a technician walks that are not the straight one: stops, corrections, faults, files, lost sessions."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from .conftest import BASE, saved


def send(page: Page, path: Path, data: bytes) -> None:
    path.write_bytes(data)
    page.locator("input[type=file]").first.set_input_files(path)


def test_a_wrong_password_says_so(desk: Page) -> None:
    page = desk.context.browser.new_context(base_url=BASE).new_page()
    page.goto("/jobs/147/fit")
    page.get_by_label("Name").fill("bench")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("Name or password is wrong")
    page.get_by_label("Password").fill("saltmarsh")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="What seats in this machine")).to_be_visible()
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_label("Password")).to_be_visible()
    page.context.close()


def test_a_session_that_ended_keeps_what_was_typed(desk: Page) -> None:
    desk.goto("/jobs/154/intake")
    expect(desk.get_by_label("Warranty")).to_be_visible()
    desk.context.clear_cookies()
    desk.get_by_label("Warranty").fill("typed after the session ended")
    expect(desk.get_by_label("Password")).to_be_visible(timeout=15_000)
    desk.get_by_label("Name").fill("bench")
    desk.get_by_label("Password").fill("saltmarsh")
    desk.keyboard.press("Enter")
    expect(desk.get_by_label("Warranty")).to_have_value("typed after the session ended")
    saved(desk)


def test_a_station_before_its_time_says_what_to_do(desk: Page) -> None:
    for station, says in (("fit", "not identified yet"), ("plan", "not identified yet")):
        desk.goto(f"/jobs/156/{station}")
        expect(desk.get_by_role("alert")).to_contain_text(says)
        expect(desk.get_by_role("alert")).to_contain_text("Choose a configuration first")
    desk.goto("/jobs/147/bench")
    expect(desk.get_by_role("alert")).to_contain_text("No plan is chosen yet")
    desk.goto("/jobs/4711/fit")
    expect(desk.get_by_role("alert")).to_contain_text("No job 4711")
    desk.goto("/nowhere")
    expect(desk.get_by_text("Nothing is at this address")).to_be_visible()


def test_a_question_over_the_telephone_is_answered_in_three_actions(desk: Page) -> None:
    desk.goto("/jobs")
    desk.get_by_label("Ask what fits").fill("Drover 14, OM4S-16G26")
    desk.keyboard.press("Enter")
    expect(desk.get_by_text("Yes: Orrin 16 GB DDR4-2666 seats in Memory A and Memory B.")).to_be_visible()
    # What is near is no match: it is asked, and the way out asks what is meant.
    desk.get_by_label("Ask what fits").fill("Drover 15, OM4S-16G26")
    desk.keyboard.press("Enter")
    expect(desk.get_by_text("makers tell models apart by one character")).to_be_visible()
    expect(desk.get_by_text("Yes:")).to_have_count(0)
    desk.get_by_role("link", name="Veyra Drover 14").click()
    expect(desk.get_by_text("Yes: Orrin 16 GB")).to_be_visible()
    # From the field of every page, too, by keys alone, and a job in one act.
    desk.keyboard.press("/")
    desk.keyboard.type("Strand 15 WH4-1T0-80M")
    expect(desk.get_by_role("option", name="Ask what fits")).to_be_visible()
    while desk.get_by_role("option", name="Ask what fits").get_attribute("aria-selected") != "true":
        desk.keyboard.press("ArrowDown")
    desk.keyboard.press("Enter")
    expect(desk.get_by_text("Yes, held back")).to_be_visible()
    desk.go_back()
    desk.get_by_role("link", name="Everything that fits it").click()
    expect(desk.get_by_role("heading", name="What fits the Veyra Drover 14")).to_be_visible()
    expect(desk.get_by_role("grid", name="Parts by slots")).to_be_visible()
    desk.get_by_label("In it is").select_option("empty")
    expect(desk).to_have_url(re.compile("holds=empty"))
    desk.get_by_text("something else, as I was told").click()
    desk.get_by_label("Memory A", exact=True).fill("NOBODY")
    desk.keyboard.press("Enter")
    expect(desk.get_by_role("alert")).to_contain_text("No part 'NOBODY'")
    desk.get_by_role("button", name="Make it a job").click()
    expect(desk).to_have_url(re.compile(r"/jobs/\d+/fit"))


def test_an_answer_that_comes_late_is_not_shown_for_another_question(desk: Page) -> None:
    """Limits changed twice: the first answer comes after the second, and what stands is the second's."""
    held = []
    desk.route(re.compile(r"/fits\?.*limits=documented"), lambda route: held.append(route))
    desk.goto("/machines/veyra-drover-14/rill-320/fits")
    limits, row = desk.get_by_label("Whose limit counts"), desk.get_by_role("row").filter(has_text="PM4S-32G26")
    desk.get_by_label("Part name or number").fill("PM4S-32G26")
    proven = row.get_by_role("gridcell").first.inner_text()
    limits.select_option("documented")
    expect(desk.get_by_text("Looking anew")).to_be_visible()
    limits.select_option("open")
    expect(row.get_by_role("gridcell").first).not_to_contain_text("Refused")
    open_ = row.get_by_role("gridcell").first.inner_text()
    assert open_ != proven
    for route in held:
        route.continue_()
    desk.wait_for_timeout(1_500)
    expect(limits).to_have_value("open")
    assert row.get_by_role("gridcell").first.inner_text() == open_


def test_a_page_that_does_not_come_says_so_and_comes_later(desk: Page) -> None:
    desk.route(re.compile(r"/assets/Plan-[^/]*\.js"), lambda route: route.abort())
    desk.goto("/jobs/148/plan")
    expect(desk.get_by_role("heading", name="This page has not come yet")).to_be_visible()
    desk.unroute(re.compile(r"/assets/Plan-[^/]*\.js"))
    desk.get_by_role("button", name="Load it again").click()
    expect(desk.get_by_role("heading", name="Where the money does most")).to_be_visible()


def test_a_swollen_pack_stops_the_job(desk: Page) -> None:
    desk.goto("/jobs/149/prepare")
    row = desk.locator("div").filter(has=desk.get_by_role("checkbox", name="Battery flat and cool")).last
    row.get_by_role("button", name="not flat or cool").click()
    desk.get_by_label("What was found").fill("swollen")
    expect(desk.get_by_role("button", name="Stop the job", exact=True)).to_be_disabled()  # a finding is words
    desk.get_by_label("What was found").fill("swollen at the left end, cover lifted")
    desk.get_by_role("button", name="Stop the job", exact=True).click()
    saved(desk)
    expect(desk.get_by_text("Stop. swollen at the left end")).to_be_visible()
    expect(desk.locator("[data-main-action]")).to_be_disabled()
    desk.goto("/jobs/149/bench")
    expect(desk.get_by_text("The safety key is shut")).to_be_visible()
    expect(desk.get_by_role("main").get_by_role("checkbox").first).to_be_disabled()
    desk.keyboard.press("u")
    desk.goto("/jobs/149/prepare")
    expect(desk.get_by_text("Safety key shut")).to_be_visible()
    expect(desk.get_by_text("Stop. swollen at the left end")).to_have_count(0)


def test_a_fault_at_the_trial_start_is_found_mended_and_kept(desk: Page) -> None:
    desk.goto("/jobs/157/prove")
    expect(desk.get_by_text("3 worse than expected")).to_be_visible()
    expect(desk.locator("[data-main-action]")).to_be_disabled()
    desk.get_by_label("Fault").select_option("narrow_link")
    desk.get_by_role("button", name="Read it").click()
    expect(desk.get_by_text("1 worse than expected")).to_be_visible()
    expect(desk.get_by_text("a lane has no contact")).to_be_visible()
    desk.get_by_label("Fault").select_option("")
    desk.get_by_role("button", name="Read it").click()
    expect(desk.get_by_text("Everything is as expected or better.")).to_be_visible()
    expect(desk.get_by_text("3 readings are kept")).to_be_visible()
    desk.get_by_role("button", name="works").first.click()
    saved(desk)
    desk.locator("[data-main-action]").click()
    expect(desk.get_by_role("article")).to_contain_text("Proof, reading 1")
    expect(desk.get_by_role("article")).to_contain_text("Proof, reading 3")


def test_a_reading_fills_the_survey_and_a_hand_corrects_it(desk: Page, tmp_path: Path) -> None:
    desk.goto("/jobs/148/survey")
    bundle = desk.request.get("/api/jobs/148/simulated/survey").body()
    send(desk, tmp_path / "bundle.json", bundle)
    expect(desk.get_by_text("read from the running system").first).to_be_visible()
    expect(desk.get_by_text("All of it was understood.")).to_be_visible()
    desk.get_by_label("Fitted in Memory B").select_option("PM4S-08G26")
    expect(desk.get_by_text("entered at this bench")).to_be_visible()
    expect(desk.get_by_label("Ledger")).to_contain_text("12 GB")
    desk.keyboard.press("Escape")
    desk.get_by_role("heading", name="What is inside").click()
    desk.keyboard.press("u")
    expect(desk.get_by_text("entered at this bench")).to_have_count(0)


def test_an_act_that_told_nothing_leaves_its_place_to_the_next(desk: Page) -> None:
    desk.goto("/jobs/152/survey")
    acts = desk.get_by_label("What to do next")
    lead = acts.get_by_role("listitem").first
    expect(lead).to_contain_text("Read the machine's papers")
    expect(lead).to_contain_text("answers 1 of 2 · decides 10 parts")
    lead.get_by_role("button", name="told nothing").press("Enter")
    expect(acts.get_by_role("listitem").first).to_contain_text("Open the cover and look")
    expect(acts.get_by_text("Read the machine's papers: looked, and not told.")).to_be_visible()
    acts.get_by_role("button", name="Take back: Read the machine's papers").click()
    expect(acts.get_by_role("listitem").first).to_contain_text("Read the machine's papers")


def test_a_measurement_is_checked_and_opens_what_waited(desk: Page) -> None:
    desk.goto("/jobs/152/survey")
    desk.get_by_role("button", name=re.compile("^Drive 2:")).click()
    desk.get_by_role("button", name="Measure Room below").last.click()  # the slot's own; it stands under its act too
    field = desk.get_by_label("Room below mm")
    field.fill("a lot")
    desk.get_by_role("button", name="Keep").click()
    expect(desk.get_by_role("alert")).to_contain_text("no value for this")
    field.fill("1.35")
    desk.get_by_role("button", name="Keep").click()
    expect(desk.get_by_text("measured", exact=True)).to_be_visible()
    desk.goto("/jobs/152/fit")
    desk.get_by_label("Kind of part").select_option("m2_drive")
    cell = desk.get_by_role("row").filter(has_text="QB5-1T0-80BM").get_by_role("gridcell").nth(1)
    expect(cell).to_contain_text("Seats")


def test_another_plan_is_chosen_and_terms_change_it(desk: Page) -> None:
    desk.goto("/jobs/148/plan")
    desk.get_by_role("row", name="Just enough").get_by_role("button", name="Choose").click()
    expect(desk.get_by_text("Chosen: Just enough")).to_be_visible()
    budget = desk.get_by_label("Budget")
    budget.fill("many")
    expect(desk.get_by_text("A number is written here, as 160 or 12.50.")).to_be_visible()
    budget.fill("20")
    saved(desk)
    expect(desk.get_by_text("budget € 20.00", exact=True)).to_be_visible()
    expect(desk.get_by_role("row", name="Just enough")).to_contain_text("Nothing")
    budget.fill("160")
    saved(desk)
    desk.get_by_text("The whole frontier").click()
    desk.get_by_role("button", name="choose", exact=True).nth(2).click()
    expect(desk.get_by_text("Chosen: A point of the frontier")).to_be_visible()
    desk.get_by_role("button", name="Buy nothing").click()
    expect(desk.get_by_text("Chosen: Buy nothing")).to_be_visible()


@pytest.mark.role("library")
def test_files_go_out_and_come_in(desk: Page, tmp_path: Path) -> None:
    job = json.loads(desk.request.get("/api/jobs/155/file").text())
    desk.goto("/jobs")
    send(desk, tmp_path / "job.json", json.dumps(job).encode())
    expect(desk.get_by_role("alert")).to_contain_text("here already")
    send(desk, tmp_path / "job.json", json.dumps(job | {"number": 955, "customer": "Another museum"}).encode())
    expect(desk).to_have_url(re.compile("/jobs/955/hand-over"))
    expect(desk.get_by_role("article")).to_contain_text("Another museum")
    desk.goto("/machines")
    send(desk, tmp_path / "machine.json", b'{"format": "insertum-machine/1"}')
    expect(desk.get_by_role("alert")).to_contain_text("id: missing")
    send(desk, tmp_path / "machine.json", desk.request.get("/api/machines/veyra-drover-14/file").body())
    expect(desk.get_by_text("0 new, 0 changed, 1 as they were")).to_be_visible()
    desk.goto("/parts")
    changed = desk.request.get("/api/parts.csv").text().replace("Quay Supply 31.50", "Quay Supply 30.50")
    send(desk, tmp_path / "parts.csv", changed.encode())
    preview = desk.get_by_label("What would change")
    expect(preview).to_contain_text("1 changed")
    expect(preview).to_contain_text("31.50")
    preview.get_by_role("button", name="Import them").click()
    expect(desk.get_by_text("Imported: 0 new, 1 changed")).to_be_visible()


def test_gauges_read_labels_without_a_job(desk: Page) -> None:
    desk.goto("/gauges")
    field = desk.get_by_label("Label", exact=True)
    field.fill("16GB 3Rx5 PC4-3200AA")
    expect(desk.get_by_text("3Rx5 does not exist")).to_be_visible()
    desk.get_by_role("button", name="M.2 module code").click()
    desk.get_by_label("Code").fill("2280-D4-M")
    expect(desk.get_by_role("row").filter(has_text="Below the board")).to_contain_text("0.70 mm")
    desk.get_by_role("button", name="PCIe link").click()
    expect(desk.get_by_text("8 × 1000 × 128 ÷ 130 ÷ 8 × 4 = 3938 MB/s")).to_be_visible()
    desk.goto("/gauges?gauge=memory_label&text=8GB 1Rx8 PC4-2666V-SA2-11")
    expect(desk.get_by_label("Label", exact=True)).to_have_value("8GB 1Rx8 PC4-2666V-SA2-11")


def test_the_library_shows_every_claim_behind_a_fact(desk: Page) -> None:
    desk.goto("/machines")
    desk.get_by_label("Filter machines").fill("mk II")
    expect(desk.get_by_role("link").filter(has_text="Rill 430")).to_be_visible()
    desk.keyboard.press("Escape")
    desk.keyboard.press("j")
    desk.keyboard.press("Enter")
    expect(desk.get_by_role("heading", name="Veyra Strand 15 mk II")).to_be_visible()
    desk.get_by_role("button", name=re.compile("^Memory B:")).click()
    row = desk.get_by_role("row").filter(has_text="Takes at most")
    for said in ("16 GB", "documented", "32 GB", "proven", "firmware 1.14"):
        expect(row).to_contain_text(said)


def test_from_a_reading_to_a_surveyed_job_in_three_actions(desk: Page, tmp_path: Path) -> None:
    bundle = desk.request.get("/api/jobs/147/simulated/survey?busy=true").body()
    desk.get_by_role("button", name="Start the job").click()
    expect(desk.get_by_role("heading", name="What is the trouble")).to_be_visible()
    desk.keyboard.press("Escape")
    desk.keyboard.press("2")
    expect(desk.get_by_role("heading", name="Which machine is it")).to_be_visible()
    send(desk, tmp_path / "bundle.json", bundle)  # one: the reading
    expect(desk.get_by_text("One configuration remains")).to_be_visible()
    desk.locator("[data-row]").first.click()  # two: the machine it names
    saved(desk)
    desk.get_by_role("button", name="Go on to Survey").click()  # three
    expect(desk.get_by_text("read from the running system").first).to_be_visible()
    expect(desk.get_by_text("link PCIe 3 ×4", exact=False).first).to_be_visible()
    expect(desk.get_by_text("wear 21 %")).to_be_visible()


@pytest.mark.role("library")
def test_a_label_names_what_is_fitted_and_a_claim_waits_for_review(desk: Page) -> None:
    desk.goto("/jobs/148/survey")
    desk.get_by_role("button", name=re.compile("^Memory B:")).click()
    field = desk.get_by_label(re.compile("Label of what is in Memory B"))
    field.fill("8GB 1Rx8 PC4-2400T-SA2-11")
    expect(desk.get_by_text("Read as a memory label")).to_be_visible()
    desk.get_by_role("button", name="Take it in as a new part").click()
    expect(desk.get_by_text("entered at this bench")).to_be_visible()
    desk.get_by_role("button", name="Room above: the library is wrong").first.click()
    desk.get_by_label("What it is: Room above").fill("1.2")
    desk.get_by_role("button", name="Record", exact=True).click()
    expect(desk.get_by_text("Waits for review: Room above 1.2")).to_be_visible()
    desk.goto("/machines")
    desk.get_by_role("button", name="Accept").first.click()
    expect(desk.get_by_role("button", name="Accept")).to_have_count(0)
    desk.goto("/jobs/148/survey")
    desk.get_by_role("heading", name="What is inside").wait_for()
    desk.keyboard.press("u")


@pytest.mark.role("library")
def test_a_machine_is_made_in_the_editor_and_kept_on_reload(desk: Page) -> None:
    desk.goto("/machines/edit")
    desk.get_by_role("textbox", name="Maker").fill("Halden")
    desk.get_by_label("Id in the library").fill("halden-dunlin-13")
    desk.get_by_label("Add a slot").select_option("m2_drive")
    expect(desk.get_by_role("button", name=re.compile("^Drive 1: key"))).to_be_visible()  # the map follows
    desk.get_by_role("row").filter(has_text=re.compile("^Key")).get_by_role("button").click()
    desk.get_by_label("Key", exact=True).select_option("E")
    desk.get_by_role("row").filter(has_text=re.compile("^PCIe lanes")).get_by_role("button").click()
    desk.get_by_label("PCIe lanes", exact=True).fill("4")
    expect(desk.get_by_role("alert")).to_contain_text("key E carries no PCIe")
    expect(desk.get_by_role("button", name="Save to the library")).to_be_disabled()
    desk.reload()
    desk.get_by_role("button", name="go on with it").click()
    desk.get_by_label("Key", exact=True).select_option("M")
    desk.get_by_role("button", name="Save to the library").click()
    expect(desk).to_have_url(re.compile("/machines/halden-dunlin-13/first"))
    expect(desk.get_by_text("added in the editor")).to_be_visible()
