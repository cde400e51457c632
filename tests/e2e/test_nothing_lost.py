"""Nothing typed is lost: on reload, in a second tab, when the server is away, when two people write."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.served import Server

from .conftest import BASE, saved, sign_in


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
    other = sign_in(desk.context.browser.new_context(base_url=BASE))
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
    expect(alert).to_contain_text("Somebody else changed this too")
    expect(alert).to_contain_text("mine")
    expect(alert).to_contain_text("theirs")
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
    expect(desk.get_by_title("The workshop, people, your password")).to_have_text("anna")  # the first tab has noticed
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
