"""Processors, another workshop's library, parts by hand, the editor's map and differences: by mouse and keyboard."""

import json
import re

from playwright.sync_api import Page, expect

from .conftest import BASE

ROLE = "library"


def test_a_processor_is_changed_for_all_its_machines(desk: Page) -> None:
    desk.goto("/processors")
    desk.get_by_role("link", name="Corvane Rill 110", exact=True).click()
    field = desk.get_by_label("Largest module")
    expect(field).to_have_value("8")
    field.fill("4O")
    desk.get_by_role("button", name="Save it for all its machines").click()
    expect(desk.get_by_role("alert")).to_contain_text("Largest module")
    field.fill("4")
    desk.keyboard.press("Enter")
    expect(desk.get_by_text("library: edited")).to_be_visible()
    desk.get_by_role("link", name="Halden Almanac 12").click()
    expect(desk.get_by_text("Corvane Rill 110: Rill 100 data sheet").first).to_be_visible()
    expect(desk.get_by_text("4 GB").first).to_be_visible()


def test_a_processor_machines_name_and_nobody_knows_is_a_page_away(desk: Page) -> None:
    desk.goto("/processors/new?name=Corvane%20Rill%20777")
    expect(desk.get_by_label(re.compile("^Name"))).to_have_value("Corvane Rill 777")
    expect(desk.get_by_label("Maker")).to_have_value("Corvane")
    desk.get_by_label("Runs at most").fill("3200")
    desk.get_by_role("button", name="Add it").click()
    expect(desk.get_by_role("heading", name="Corvane Rill 777")).to_be_visible()
    expect(desk.get_by_text("None.")).to_be_visible()


def test_another_workshop_s_library_is_looked_through_before_it_is_taken(desk: Page) -> None:
    library = desk.request.get(f"{BASE}/api/machines/library/file").json()
    tern = next(m for m in library["machines"] if m["id"] == "halden-tern-13")
    tern["boot"]["style"] = [{"value": "legacy", "source": "documented"}]
    desk.goto("/machines")
    section = desk.get_by_role("region", name="Another workshop’s library")
    file = {"name": "theirs.json", "mimeType": "application/json", "buffer": json.dumps(library).encode()}
    section.locator("input[type=file]").set_input_files(file)
    expect(section.get_by_role("alert")).to_contain_text("Whose library")
    section.get_by_label("Whose library it is").fill("Tern Lane")
    section.locator("input[type=file]").set_input_files(file)
    expect(section.get_by_role("status")).to_contain_text("Would come in")
    expect(section).to_contain_text("boot style")
    section.get_by_role("button", name="Take it in").click()
    expect(section.get_by_role("status")).to_contain_text("Taken in")
    desk.goto("/machines/halden-tern-13/rill-560")
    expect(desk.get_by_text("reported").first).to_be_visible()


def test_a_radio_is_typed_by_hand_and_corrected(desk: Page) -> None:
    desk.goto("/parts")
    desk.get_by_role("button", name="New part by hand").click()
    form = desk.get_by_role("form", name="A new part")
    form.get_by_label("Part number").fill("LR-HAND-1")
    form.get_by_label("Name").fill("Larkfield by hand")
    form.get_by_label("Wi-Fi standard").select_option("ax")
    form.get_by_label("Streams").fill("two")
    form.get_by_role("button", name="Take it in").click()
    expect(form.get_by_role("alert")).to_contain_text("Streams")
    form.get_by_label("Streams").fill("2")
    form.get_by_role("button", name="Take it in").click()
    expect(form).to_have_count(0)
    desk.goto("/parts/LR-HAND-1")
    known = desk.locator("section").filter(has_text="What is known of it")
    expect(known).to_contain_text("Card width")
    expect(known).to_contain_text("unknown")
    known.get_by_role("button", name="correct").click()
    desk.get_by_role("form", name="Correct LR-HAND-1").get_by_label("Streams").fill("1")
    desk.get_by_role("button", name="Keep it").click()
    expect(known).to_contain_text("Streams1")


def test_a_slot_is_dragged_undone_and_one_configuration_edited(desk: Page) -> None:
    desk.goto("/machines/edit?machine=veyra-strand-15")
    left = desk.get_by_label("From left").last  # the slot's, after those of what is only drawn
    drive = desk.get_by_role("button", name=re.compile("^Drive 1: ")).first
    drive.click()
    before = float(left.input_value())
    box = drive.bounding_box()
    assert box is not None
    desk.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    desk.mouse.down()
    desk.mouse.move(box["x"] + box["width"] / 2 - 60, box["y"] + box["height"] / 2 + 4, steps=6)
    desk.mouse.up()
    expect(left).not_to_have_value(f"{before:g}")
    assert float(left.input_value()) == round(float(left.input_value()), 1) < before
    desk.get_by_role("button", name="Undo").click()
    expect(left).to_have_value(f"{before:g}")
    differs = desk.get_by_role("region", name="Differences between configurations")
    expect(differs).to_contain_text("Strand 15 mk I")
    differs.get_by_label("Facts below are those of").select_option("mk1-rill-310")
    expect(desk.get_by_text("Sound as it stands.")).to_be_visible()


def test_why_opens_beside_every_machine_a_part_goes_in(desk: Page) -> None:
    desk.goto("/parts/QB5-2T0-80BMS")
    row = desk.get_by_role("row").filter(has_text="Strand 15 mk II").filter(has_text="Drive 1")
    row.get_by_role("button", name=re.compile("^Why in")).click()
    expect(row.get_by_role("link", name=re.compile(r"^(m2|card|drive)\.")).first).to_be_visible()
    row.get_by_role("button", name=re.compile("^Why in")).click()
    expect(row.get_by_role("link", name=re.compile(r"^(m2|card|drive)\."))).to_have_count(0)
