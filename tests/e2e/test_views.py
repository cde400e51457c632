"""What the views promise: fit and map follow, undo, limits, keys, widths, printing, dark."""

import gzip
import re

import pytest
from playwright.sync_api import Page, expect

from tests.served import ROOT

from .conftest import bench_afresh, saved

OVERLAPS = """() => {
  const boxes = [...document.querySelectorAll('main svg text')].filter(t => t.textContent.trim()).map(t => t.getBoundingClientRect())
  const hit = (a, b) => a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1
  return boxes.flatMap((a, i) => boxes.slice(i + 1).filter(b => hit(a, b))).length
}"""


DRAWN = [
    "/jobs/147/survey",
    "/jobs/147/fit",
    "/jobs/149/survey",
    "/machines/veyra-drover-14/rill-320",
    "/jobs/147/plan",
    "/jobs/158/fit",
    "/jobs/163/survey",
    "/jobs/159/survey",
    "/jobs/160/survey",
    "/jobs/162/survey",
    "/machines/veyra-cairn-14/rill-340",
]  # fmt: skip


def test_labels_never_overlap(desk: Page) -> None:
    hit = []
    for view in DRAWN:
        desk.goto(view)
        desk.locator("main svg text").first.wait_for()
        if desk.evaluate(OVERLAPS):
            hit.append(view)
    assert hit == []


def test_map_outlines_are_to_scale(desk: Page) -> None:
    """A 42 mm card is drawn 42 ÷ 80 as long as the 80 mm place it lies in."""
    desk.goto("/jobs/147/fit")
    desk.get_by_label("Kind of part").select_option("m2_drive")
    desk.locator("[data-row]").first.hover()
    desk.mouse.wheel(0, 2000)
    desk.get_by_role("row").filter(has_text="WS4-0T5-42M").get_by_role("gridcell").first.hover()
    shapes = (
        desk.get_by_role("group", name=re.compile("drawn to scale"))
        .get_by_label(re.compile("^Drive 1:"))
        .locator("rect")
    )
    place, laid = shapes.nth(0).bounding_box(), shapes.nth(1).bounding_box()
    assert place is not None and laid is not None
    assert abs(laid["width"] / place["width"] - 42 / 80) < 0.03


def test_choosing_a_slot_on_the_map_shows_its_parts(desk: Page) -> None:
    desk.goto("/jobs/147/fit")
    desk.get_by_role("button", name=re.compile("^Battery:")).focus()
    desk.keyboard.press("Enter")
    expect(desk.get_by_label("Kind of part")).to_have_value("battery")
    expect(desk.get_by_role("row").filter(has_text="AP-ST52").first).to_be_visible()


def test_a_scanner_at_the_bench_ticks_the_right_part_and_stops_a_wrong_one(desk: Page) -> None:
    bench_afresh(desk, 150)
    desk.goto("/jobs/150/bench")
    scan = desk.get_by_label("Scan a part as it goes in")
    scan.fill("PM3S-04G16L")
    scan.press("Enter")
    expect(desk.get_by_role("alert")).to_contain_text("not a part of this plan")
    step = desk.get_by_role("checkbox", name=re.compile("in Memory B"))
    number = desk.request.get("/api/jobs/150").json()["job"]["plan"]["chosen"]["plan"]["changes"][0]["part"]
    scan.fill(f" {number.lower()} ")
    scan.press("Enter")
    expect(desk.get_by_role("alert")).to_contain_text("is planned here")
    expect(step).to_be_checked()
    saved(desk)


def test_touch_targets_on_the_bench_are_large(desk: Page) -> None:
    desk.goto("/jobs/150/bench")
    box = desk.get_by_role("main").get_by_role("checkbox").first.bounding_box()
    assert box is not None and box["width"] >= 44 and box["height"] >= 44


def test_choosing_by_mouse_changes_map_and_ledger_and_undo_takes_it_back(desk: Page) -> None:
    desk.goto("/jobs/147/fit")
    ledger = desk.get_by_label("Ledger")
    expect(ledger).to_contain_text("8 → 24 GB")
    desk.get_by_label("Kind of part").select_option("battery")
    cell = desk.get_by_role("row").filter(has_text="AP-ST52").first.get_by_role("gridcell").first
    cell.hover()
    expect(desk.get_by_text("Amberly Strand 52 Wh in Battery: seats")).to_be_visible()
    cell.click()
    expect(ledger).to_contain_text("41 → 52 Wh")
    expect(
        desk.get_by_role("group", name=re.compile("drawn to scale")).get_by_label(
            "Battery: 15.2 V. Holds Amberly Strand 52 Wh."
        )
    ).to_be_attached()
    saved(desk)
    desk.keyboard.press("u")
    expect(ledger).not_to_contain_text("41 → 52 Wh")


def test_filters_comparison_and_the_price_of_a_dearer_grade(desk: Page) -> None:
    desk.goto("/jobs/147/fit")
    desk.get_by_label("Kind of part").select_option("memory")
    desk.get_by_label("goes in").check()
    desk.get_by_label("Price under").fill("35")
    desk.get_by_label("Sort by").select_option("per_gb")
    rows = desk.get_by_label("Parts by slots").locator("[data-row]")
    expect(rows.first).to_contain_text("16 GB")  # the least per GB under € 35
    expect(desk.get_by_text("DDR5-4800")).to_have_count(0)
    desk.get_by_label("Part name or number").fill("16G")
    row = desk.get_by_role("row").filter(has_text="PM4S-16G32A1")
    row.get_by_role("gridcell").first.hover()
    expect(desk.get_by_text("settles at 2933.")).to_be_visible()
    expect(desk.get_by_role("link", name="memory.speed").first).to_have_attribute("href", "/rules#memory.speed")
    row.get_by_role("checkbox").check()
    desk.get_by_role("row").filter(has_text="PM4S-16G29").get_by_role("checkbox").check()
    beside = desk.get_by_label("Parts side by side")
    expect(beside.get_by_role("row").filter(has_text="Runs here at")).to_contain_text("2933 MT/s")
    expect(beside.get_by_role("button", name="Put it in").first).to_be_visible()


def test_what_is_unknown_is_measured_on_the_spot_and_the_matrix_follows(desk: Page) -> None:
    desk.goto("/jobs/157/fit")
    desk.get_by_label("Kind of part").select_option("m2_drive")
    desk.get_by_label("Part name or number").fill("QB5-2T0-80BM")
    cell = desk.get_by_role("row").filter(has_text="both sides").get_by_role("gridcell").nth(1)
    expect(cell).to_contain_text("Measure first")
    cell.hover()
    desk.get_by_role("button", name="Measure Room below").first.click()
    desk.get_by_label("Room below mm").fill("1.4")
    desk.get_by_role("button", name="Keep").click()
    expect(cell).to_contain_text("Seats")
    desk.get_by_role("heading", name="What seats").click()
    desk.keyboard.press("u")
    expect(cell).to_contain_text("Measure first")


def test_what_is_refused_cannot_be_chosen_but_says_why(desk: Page) -> None:
    desk.goto("/jobs/147/fit")
    desk.get_by_label("Kind of part").select_option("battery")
    expect(desk.get_by_role("row").filter(has_text="AP-ST52L")).to_have_count(0)
    desk.get_by_role("gridcell", name=re.compile(r"\d+ refused: ")).click()
    cell = desk.get_by_role("row").filter(has_text="AP-ST52L").get_by_role("gridcell").first
    cell.click()
    expect(desk.get_by_text("11.4 V pack, 15.2 V machine.")).to_be_visible()
    expect(desk.get_by_role("button", name="Put it in Battery")).to_have_count(0)
    expect(desk.get_by_label("Ledger")).not_to_contain_text("low voltage")


def test_school_of_limits_changes_the_verdicts(desk: Page) -> None:
    desk.goto("/jobs/147/fit")
    row = desk.get_by_role("row").filter(has_text="PM4S-32G32A1")
    desk.get_by_label("Kind of part").select_option("memory")
    desk.get_by_label("Part name or number").fill("PM4S-32G32A1")
    expect(row).to_contain_text("Held back")
    desk.get_by_label("Whose limit counts").select_option("documented")
    expect(row).to_contain_text("Refused")
    saved(desk)
    desk.get_by_label("Whose limit counts").select_option("proven")
    expect(row).to_contain_text("Held back")
    saved(desk)


def test_moving_a_weight_asks_the_server_and_shows_its_answer(desk: Page) -> None:
    desk.goto("/jobs/148/plan")
    before = desk.get_by_role("row", name="Best value").inner_text()
    with desk.expect_response(re.compile("/plan$")):
        for _ in range(6):
            desk.get_by_label("Free space: more weight").click()
    expect(desk.get_by_text("×4", exact=True).first).to_be_visible()
    saved(desk)
    expect(desk.get_by_role("row", name="Best value")).not_to_have_text(before)


def test_find_by_label_and_keys(desk: Page) -> None:
    desk.keyboard.press("/")
    desk.keyboard.type("VS15-R4B")
    expect(desk.get_by_role("option", name="Veyra Strand 15 mk II")).to_be_visible()
    desk.keyboard.press("Enter")  # as a scanner does
    expect(desk.get_by_role("heading", level=1, name="Veyra Strand 15 mk II")).to_be_visible()
    desk.keyboard.press("?")
    expect(desk.get_by_role("dialog")).to_contain_text("take back your last change")
    desk.keyboard.press("Escape")
    desk.goto("/jobs/147/fit")
    desk.locator("h1").wait_for()
    desk.keyboard.press("5")
    expect(desk).to_have_url(re.compile("/jobs/147/plan$"))


def test_the_record_prints_without_the_shell(desk: Page) -> None:
    desk.goto("/jobs/155/hand-over")
    desk.locator("article").wait_for()
    desk.emulate_media(media="print")
    expect(desk.get_by_role("navigation", name="Stations")).to_be_hidden()
    expect(desk.get_by_label("Ledger")).to_be_hidden()
    expect(desk.locator("article")).to_be_visible()
    assert len(desk.pdf(format="A4")) > 10_000


LUMINANCE = """() => {
  const lum = c => { const v = c.map(x => x / 255).map(x => x <= 0.03928 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4)
    return 0.2126 * v[0] + 0.7152 * v[1] + 0.0722 * v[2] }
  const rgb = name => { const e = document.createElement('i'); e.style.color = `var(--${name})`; document.body.append(e)
    const c = getComputedStyle(e).color.match(/[\\d.]+/g).slice(0, 3).map(Number); e.remove(); return c }
  const ratio = (a, b) => { const [x, y] = [lum(rgb(a)), lum(rgb(b))].sort((p, q) => q - p); return (x + 0.05) / (y + 0.05) }
  const pairs = [['ink', 'mat'], ['ink', 'card'], ['ink-2', 'mat'], ['ink-2', 'card'], ['ink-2', 'panel'], ['seats', 'card'],
    ['held', 'card'], ['measure', 'card'], ['refused', 'card'], ['on-mask', 'mask'], ['on-mask-2', 'mask'], ['on-copper', 'copper'],
    ['copper', 'card'], ['ink', 'gold-soft'], ['ink-2', 'gold-soft']]
  return pairs.map(([a, b]) => [a, b, ratio(a, b)]).filter(p => p[2] < 4.5)
}"""


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_text_contrast_in_both_sets(desk: Page, scheme) -> None:
    desk.emulate_media(color_scheme=scheme)
    desk.goto("/jobs")
    assert desk.evaluate(LUMINANCE) == []


def test_first_load_is_small() -> None:
    """Under 150 kB of gzipped JavaScript before the first page stands: the others are loaded when they are opened."""
    built = ROOT / "web/dist/static"
    first = set(re.findall(r"assets/[\w.-]+\.js", (built / "index.html").read_text()))
    assert first and sum(len(gzip.compress((built / s).read_bytes())) for s in first) < 150_000


def test_a_scan_with_the_focus_nowhere_goes_where_codes_go_and_walks_no_stations(desk: Page) -> None:
    """A code of digits first, as a scanner sends it: at Survey into the slot's field, on the board into Find; one digit by
    hand is a station."""
    desk.goto("/jobs/147/survey")
    field = desk.locator("main [data-scan]")
    expect(field).to_be_visible()
    desk.keyboard.type("4WH-1T0-80M")
    expect(field).to_have_value("4WH-1T0-80M")
    assert desk.url.endswith("/survey")
    field.fill("")
    desk.keyboard.press("Escape")
    desk.keyboard.press("5")
    expect(desk.get_by_role("heading", name="Where the money does most")).to_be_focused()
    expect(desk).to_have_title(re.compile("job 147"))
    desk.goto("/jobs")
    expect(desk.get_by_role("heading", name="What is on the benches")).to_be_visible()
    desk.keyboard.type("4WH-1T0-80M")
    expect(desk.get_by_label("Find by label")).to_have_value("4WH-1T0-80M")
