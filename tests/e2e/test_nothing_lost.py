"""Nothing typed is lost: on reload, in a second tab, when the server is away, when two people write."""

import re
from contextlib import suppress
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Error, Page, Route, expect

from tests.served import Server

from .conftest import BASE, bench_afresh, saved, sign_in


def test_reload_at_once_keeps_what_was_typed(desk: Page) -> None:
    desk.goto("/jobs/148/intake")
    words = desk.get_by_label("In the owner’s words")
    words.fill("Typed just before the reload.")
    desk.reload()  # before the pause after which it is sent
    expect(words).to_have_value("Typed just before the reload.")
    saved(desk)
    desk.reload()
    expect(words).to_have_value("Typed just before the reload.")


def test_a_second_tab_sees_it_and_loses_nothing(desk: Page) -> None:
    desk.goto("/jobs/148/intake")
    second = desk.context.new_page()
    second.goto("/jobs/148/intake")
    desk.get_by_label("Warranty").fill("from the first tab")
    second.get_by_label("Recovery key with").fill("from the second tab")
    saved(desk)
    saved(second)
    for page in (desk, second):
        page.reload()
        expect(page.get_by_label("Warranty")).to_have_value("from the first tab")
        expect(page.get_by_label("Recovery key with")).to_have_value("from the second tab")


def test_a_lost_connection_queues_and_says_so(desk: Page, server: Server) -> None:
    desk.goto("/jobs/148/intake")
    title = desk.get_by_label("In a few words")
    expect(title).to_have_value("Three more seasons at the ticket window")
    server.stop()
    title.fill("Typed while the server was away")
    expect(desk.get_by_role("status").first).to_contain_text("waiting for the server")
    server.start()
    saved(desk)
    desk.reload()
    expect(title).to_have_value("Typed while the server was away")


def test_two_people_on_one_field_both_keep_their_words(desk: Page) -> None:
    other = sign_in(desk.context.browser.new_context(base_url=BASE), "library")
    for page in (desk, other):
        page.goto("/jobs/149/intake")
        expect(page.get_by_label("In the owner’s words")).to_have_value(
            "Dies before the tide turns. The logs fill the disk."
        )
    other.get_by_label("In the owner’s words").focus()
    desk.get_by_label("In the owner’s words").fill("mine")
    saved(desk)
    other.get_by_label("In the owner’s words").fill("theirs")
    alert = other.get_by_role("alert")
    expect(alert).to_contain_text("bench changed this too")
    expect(alert).to_contain_text("mine")
    expect(alert).to_contain_text("theirs")
    expect(alert).to_contain_text("In the owner’s words")  # as the field is called, no path
    expect(alert).not_to_contain_text("/")
    other.reload()
    other.get_by_role("button", name="Keep both").click()
    saved(other)
    other.reload()
    expect(other.get_by_label("In the owner’s words")).to_have_value("mine\ntheirs")
    other.context.close()


def test_what_one_person_typed_waits_for_them_while_another_is_signed_in(desk: Page, server: Server) -> None:
    """A shared browser: in a second tab somebody signs out and somebody else in, under the first tab's hands."""
    server.add_person("anna", "saltmarsh")
    desk.goto("/jobs/147/intake")
    title = desk.get_by_label("In a few words")
    expect(title).not_to_have_value("")
    stood = title.input_value()
    second = desk.context.new_page()
    second.goto("/jobs")
    second.get_by_role("button", name="Sign out").click()
    second = sign_in(desk.context, "anna")
    title.fill("typed as bench")
    expect(desk.get_by_title("You, and your password")).to_have_text("anna")  # the first tab has noticed
    expect(title).to_have_value(stood)
    second.goto("/jobs/147/intake")
    expect(second.get_by_label("In a few words")).to_have_value(stood)
    second.get_by_role("button", name="Sign out").click()
    expect(second.get_by_label("Password")).to_be_visible()
    first = sign_in(desk.context)
    first.goto("/jobs/147/intake")
    expect(first.get_by_label("In a few words")).to_have_value("typed as bench")
    expect(first.get_by_role("status").first).to_have_text(re.compile("^(Saved)?$"))  # nothing waits any more
    assert first.request.get("/api/jobs/147").json()["job"]["title"] == "typed as bench"


def test_what_the_server_breaks_over_stays_beside_the_job(desk: Page) -> None:
    desk.goto("/jobs/148/intake")
    desk.route(
        "**/edits",
        lambda r: r.fulfill(status=500, body="") if "not taken" in (r.request.post_data or "") else r.continue_(),
    )
    desk.get_by_label("Warranty").fill("not taken")
    desk.get_by_label("Recovery key with").fill("behind it")
    expect(desk.get_by_role("status").first).to_have_text("1 not saved", timeout=20_000)
    desk.reload()
    expect(desk.get_by_role("alert")).to_contain_text("not taken")
    expect(desk.get_by_label("Recovery key with")).to_have_value("behind it")
    desk.unroute("**/edits")
    desk.get_by_role("button", name="Try again").click()
    saved(desk)
    expect(desk.get_by_role("alert")).to_have_count(0)
    expect(desk.get_by_label("Warranty")).to_have_value("not taken")


@pytest.mark.role("library")
def test_bad_files_say_what_is_wrong_and_change_nothing(desk: Page, tmp_path: Path) -> None:
    def upload(name: str, data: bytes) -> None:
        path = tmp_path / name
        path.write_bytes(data)
        desk.locator("input[type=file]").first.set_input_files(path)

    desk.goto("/jobs/157/prove")
    before = desk.request.get("/api/jobs/157/file").text()
    upload("broken.json", b"{")
    expect(desk.get_by_role("alert")).to_contain_text("Not JSON")
    upload("other.json", desk.request.get("/api/jobs/150/simulated/prove").body())
    expect(desk.get_by_role("alert")).to_contain_text("another machine")
    upload("large.json", b"x" * 11 * 2**20)
    expect(desk.get_by_role("alert")).to_contain_text("at most 10 MB")
    upload("larger.json", b"x" * 33 * 2**20)
    expect(desk.get_by_role("alert")).to_contain_text("More than 32 MB")
    assert desk.request.get("/api/jobs/157/file").text() == before
    desk.goto("/parts")
    upload("parts.csv", b"kind,number,name,label\nmemory,A,A,8GB 3Rx5 PC4-3200AA\nwheel,B,B,\nmemory,,C,\n")
    expect(desk.get_by_role("alert")).to_contain_text("nothing was imported")
    for row in ("row 2", "row 3", "row 4"):
        expect(desk.get_by_role("alert")).to_contain_text(row)


def lost(route: Route) -> None:
    """The server has it, and its answer does not arrive."""
    with suppress(Error):  # the page may have given it up by then
        route.fetch()
        route.abort()


def test_a_sentence_typed_on_over_a_lost_answer_is_kept_whole(desk: Page) -> None:
    desk.goto("/jobs/148/intake")
    warranty = desk.get_by_label("Warranty")
    desk.route("**/edits", lost)
    with desk.expect_request("**/edits"):
        warranty.fill("two years")
    warranty.press_sequentially(", from the harbour shop", delay=20)
    expect(desk.get_by_role("status").first).to_contain_text("waiting for the server")
    second = desk.context.new_page()
    second.goto("/jobs/148/intake")
    desk.unroute("**/edits")
    saved(desk)
    for page in (desk, second):
        expect(page.get_by_label("Warranty")).to_have_value("two years, from the harbour shop")
        expect(page.get_by_role("alert")).to_have_count(0)
    assert desk.request.get("/api/jobs/148").json()["job"]["intake"]["warranty"] == "two years, from the harbour shop"


def test_a_figure_the_job_does_not_take_stays_in_its_field_with_why(desk: Page) -> None:
    desk.goto("/jobs/148/intake")
    years = desk.get_by_label(re.compile("^Keeps it"))
    for typed, why in (
        ("40", "More than 15 years is not planned for."),
        ("-5", "It is not below 0."),
        ("abc", "A number is written here"),
    ):
        years.fill(typed)
        expect(desk.get_by_text(why)).to_have_count(1) if typed != "40" else expect(
            desk.get_by_text(why).first
        ).to_be_visible()
        desk.get_by_label("Warranty").focus()
        expect(years).to_have_value(typed)
    years.fill("4")
    saved(desk)
    assert desk.request.get("/api/jobs/148").json()["job"]["intake"]["years"] == 4
    expect(desk.get_by_role("alert")).to_have_count(0)


DROP = """([name, type]) => {
  const data = new DataTransfer()
  data.items.add(new File([new Uint8Array([1, 2, 3])], name, { type }))
  document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
}"""


def test_a_file_dropped_beside_every_field_is_asked_where_it_goes(desk: Page) -> None:
    desk.goto("/jobs/148/intake")
    desk.get_by_label("Warranty").wait_for()
    desk.evaluate(DROP, ["bundle.json", "application/json"])
    asked = desk.get_by_role("dialog", name="Where does it go?")
    asked.get_by_role("button", name="A reading of job 148, before the work").click()
    expect(asked.get_by_role("alert")).to_contain_text("Not")  # it is no bundle, and that is said
    asked.get_by_role("button", name="Nowhere, leave it").click()
    expect(asked).to_have_count(0)
    assert desk.url.endswith("/jobs/148/intake")


def test_thirty_photographs_over_a_link_that_comes_and_goes(desk: Page, tmp_path: Path) -> None:
    files = []
    for n in range(30):
        files.append(tmp_path / f"{n:02d}.png")
        Image.new("RGB", (40 + n, 30), (n * 8, 80, 160)).save(files[-1])
    desk.goto("/jobs/150/bench")
    desk.get_by_text("Note, number or photograph of this step").click()
    turn = {"n": 0}

    def shaky(route: Route) -> None:
        turn["n"] += 1
        if turn["n"] % 5 == 0:
            route.abort()
        elif turn["n"] % 7 == 0:
            lost(route)
        else:
            route.continue_()

    desk.route("**/photographs", shaky)
    desk.locator("input[type=file]").first.set_input_files(files)
    expect(desk.get_by_text(re.compile("^Sending|wait in this browser")).first).to_be_visible()
    desk.reload()  # in the middle of it
    hand = desk.get_by_role("region", name="The step at hand").locator("details")
    hand.wait_for()
    desk.wait_for_load_state("networkidle")  # what its summary says is not on its way any more
    if hand.get_attribute("open") is None:
        hand.locator("summary").click()
    expect(hand).to_have_attribute("open", "")
    expect(desk.locator("img[src*='/pictures/']")).to_have_count(30, timeout=90_000)
    assert len(desk.request.get("/api/jobs/150/photographs").json()) == 30


def test_a_double_press_and_a_held_key_tick_one_step(desk: Page) -> None:
    bench_afresh(desk, 150)
    desk.goto("/jobs/150/bench")
    done = lambda: len(desk.request.get("/api/jobs/150").json()["job"]["bench"]["done"])  # noqa: E731
    before = done()
    button = desk.locator("[data-main-action]").first
    button.dblclick()
    saved(desk)
    assert done() == before + 1
    expect(button).to_be_enabled()
    button.focus()
    desk.keyboard.down("Enter")
    for _ in range(12):
        desk.wait_for_timeout(60)
        desk.keyboard.down("Enter")
    desk.keyboard.up("Enter")
    saved(desk)
    assert done() == before + 2
    desk.get_by_role("button", name="Undo", exact=True).click()
    desk.wait_for_timeout(800)
    assert done() == before + 1
