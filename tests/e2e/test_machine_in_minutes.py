"""A machine the library lacks, from complaint to first verdict, counted: a click, a chord, a field, a choice, a drop."""

import json
import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import BASE, token

VERDICT = re.compile("Seats|Held back|Measure first|Refused|Harm")


class Counted:
    """Drives a page and counts what a person does."""

    def __init__(self, page: Page) -> None:
        self.page, self.actions = page, 0

    def _did(self) -> Page:
        self.actions += 1
        return self.page

    def click(self, name: str | re.Pattern[str]) -> None:
        self._did().get_by_role("button", name=name, exact=True).first.click()

    def link(self, name: str) -> None:
        self._did().get_by_role("link", name=name).click()

    def scan(self, label: str, text: str) -> None:
        field = self._did().get_by_label(label)
        field.fill(text)
        field.press("Enter")

    def key(self, chord: str) -> None:
        self._did().keyboard.press(chord)

    def fill(self, label: str, text: str) -> None:
        self._did().get_by_label(label).first.fill(text)

    def drop(self, bundle: bytes) -> None:
        file = {"name": "bundle.json", "mimeType": "application/json", "buffer": bundle}
        self._did().locator("input[type=file]").first.set_input_files(file)


@pytest.mark.role("library")
def test_with_its_reading_and_its_maker_s_words(desk: Page) -> None:
    bundle = desk.request.get(f"{BASE}/api/jobs/165/simulated/survey?busy=true").body()
    desk.goto("/jobs/165/intake")
    desk.get_by_role("heading", level=1).wait_for()
    person = Counted(desk)
    person.key("2")
    desk.get_by_role("button", name="It is none of these").or_(
        desk.get_by_label("What the labels say")
    ).first.wait_for()
    person.drop(bundle)
    expect(desk.get_by_label("Name", exact=True)).to_have_value("Weir 14")
    person.click("Start it and go on")
    expect(desk.get_by_role("heading", name="What is inside")).to_be_visible()
    person.click("Take the page that lies beside this job")
    words = desk.get_by_role("region", name="The maker’s words")
    expect(words).to_contain_text("Maximum memory: 64 GB")
    person.click(re.compile(r"Take \d+ claims in"))
    expect(words.get_by_role("button", name="Nothing to take in")).to_be_visible()
    expect(words.get_by_role("list")).not_to_contain_text("96")  # what the platform could is not this machine's
    expect(desk.get_by_text("32 GB", exact=True).first).to_be_visible()
    desk.keyboard.press("Escape")
    person.key("4")
    expect(desk.get_by_role("gridcell", name=VERDICT).first).to_be_visible()
    assert person.actions <= 15
    # what runs there is known at once: the fitted module's like seats or is refused for a reason, never asked for its socket
    assert "brannock-weir-14" in desk.request.get(f"{BASE}/api/jobs/165").text()


def test_with_labels_and_a_look(desk: Page) -> None:
    made = desk.request.post(
        f"{BASE}/api/jobs", data=json.dumps({"title": "Slow", "customer": "Pilots"}), headers=token(desk)
    )
    number = made.json()["job"]["number"]
    desk.goto(f"/jobs/{number}/identify")
    person = Counted(desk)
    person.fill("What the labels say", "Halden Dunlin 15\nHD15-3321\nCorvane Rill 350")
    desk.get_by_label("What the labels say").blur()
    expect(desk.get_by_label("Maker")).to_have_value("Halden")
    expect(desk.get_by_label("Name", exact=True)).to_have_value("Dunlin 15")
    for seen in ("Memory socket", "Memory socket", "M.2 drive slot", "2.5-inch bay", "Wi-Fi card slot", "Battery"):
        person.click(f"One {seen} more")
    person.click("Start it and go on")
    expect(desk.get_by_role("heading", name="What is inside")).to_be_visible()
    person.link("Walk through it with the cover off")
    expect(desk.get_by_role("heading", name="Memory A: look under the cover")).to_be_visible()
    person.scan("Label of what is in Memory A", "PM4S-08G26")
    expect(desk.get_by_role("region", name="Room above")).to_be_visible()  # the module's label settled the generation
    person.click("Next: Memory B")
    person.click("It is empty")
    person.click("Next: Drive 1")
    person.click("Not seen")
    expect(desk.get_by_role("region", name="Key")).to_be_visible()
    person.click("M")
    expect(desk.get_by_role("region", name="Width")).to_be_visible()
    person.click("22 mm")
    person.click("42 mm")
    person.click("80 mm")
    person.click("Keep 42, 80")
    number_of = desk.request.get(f"{BASE}/api/jobs/{number}").json()["job"]["survey"]
    assert number_of["measured"]["drive-1.key"] == "M" and number_of["fitted"]["memory-b"] is None
    person.key("4")
    expect(desk.get_by_role("gridcell", name=VERDICT).first).to_be_visible()
    assert person.actions <= 45
    found = desk.request.get(f"{BASE}/api/find?text=HD15-3321").json()["found"]
    assert found[0]["sure"] and found[0]["link"].startswith("/machines/halden-dunlin-15/")


@pytest.mark.parametrize(
    ("label", "opens", "delay_ms"),
    [
        ("PM4S-16G32A1", "/parts", 2),
        ("PM4S-16G32A1", "/parts", 10),
        ("PM4S-16G32A1", "/parts", 30),
        ("147", "/jobs/147", 2),
        ("VS15-R4B", "/machines/veyra-strand-15/mk2-rill-430", 2),
        ("2280-D2-B-M", "/gauges", 2),
    ],
)
def test_a_scanner_in_find_opens_what_it_read_and_nothing_else(desk: Page, label, opens, delay_ms) -> None:
    desk.goto("/jobs")
    desk.get_by_label("Find by label").click()
    desk.keyboard.type(label, delay=delay_ms)
    desk.keyboard.press("Enter")
    expect(desk).to_have_url(re.compile(re.escape(opens)))


def test_nothing_is_opened_by_guess_and_the_arrows_choose(desk: Page) -> None:
    desk.goto("/jobs")
    field = desk.get_by_label("Find by label")
    field.click()
    desk.keyboard.type("Strand", delay=2)
    desk.keyboard.press("Enter")
    expect(desk.get_by_text("Nothing is opened by guess")).to_be_visible()
    expect(desk).to_have_url(re.compile("/jobs$"))
    desk.keyboard.press("ArrowDown")
    expect(desk.get_by_role("option").first).to_have_attribute("aria-selected", "true")
    desk.keyboard.press("Enter")
    expect(desk).not_to_have_url(re.compile("/jobs$"))


def test_a_second_configuration_of_a_known_shell(desk: Page) -> None:
    made = desk.request.post(
        f"{BASE}/api/jobs", data=json.dumps({"title": "Slow", "customer": "Pilots"}), headers=token(desk)
    )
    desk.goto(f"/jobs/{made.json()['job']['number']}/identify")
    person = Counted(desk)
    person.fill("What the labels say", "Halden Almanac 12\nCorvane Rill 130")
    desk.get_by_label("What the labels say").blur()
    expect(desk.get_by_text("makers tell models apart by one character")).to_be_visible()
    expect(desk.get_by_label("Processor", exact=True)).to_have_value("Corvane Rill 130")
    person._did().get_by_label("Is it a shell the library has").select_option("halden-almanac-12")
    person.fill("Name of this configuration", "Almanac 12, second")
    person.click("Start it and go on")
    expect(desk.get_by_role("heading", name="What is inside")).to_be_visible()
    person.key("4")
    expect(desk.get_by_role("gridcell", name=VERDICT).first).to_be_visible()
    assert person.actions <= 10
    page = desk.request.get(f"{BASE}/api/machines/halden-almanac-12/corvane-rill-130").json()
    assert page["matters"]["Processor"] == "Corvane Rill 130" and page["matters"]["Memory ceiling"] == "unknown"


@pytest.mark.role("library")
def test_a_price_list_is_dropped_looked_at_and_taken(desk: Page) -> None:
    desk.goto("/parts")
    text = "Artikel-Nr.;Nettopreis;Bestand\nPL-AD14;4,90;7\nNEVER-SEEN;1,00;1\n"
    file = {"name": "Seagrass.csv", "mimeType": "text/csv", "buffer": text.encode("latin-1")}
    desk.locator("input[type=file]").first.set_input_files(file)
    # In which currency the list does not say: it is asked once, and nothing is taken for euros.
    expect(desk.get_by_text("in which currency are its prices? the list does not say")).to_be_visible()
    desk.get_by_label("Prices without a sign are in").fill("EUR")
    desk.keyboard.press("Enter")
    expect(desk.get_by_text("0 new, 1 changed, 0 as they are")).to_be_visible()
    expect(desk.get_by_text("the shop is called Seagrass")).to_be_visible()
    expect(desk.get_by_text("rows: 1 taken, 1 asked")).to_be_visible()
    expect(desk.get_by_text("no part of the catalogue has this number")).to_be_visible()
    desk.get_by_label("stock").select_option("")  # columns are corrected by choice
    desk.get_by_label("stock").select_option("Bestand")
    desk.get_by_role("button", name="Import them").click()
    expect(desk.get_by_text("Imported: 0 new, 1 changed")).to_be_visible()
    offers = next(p for p in desk.request.get(f"{BASE}/api/parts").json() if p["number"] == "PL-AD14")["offers"]
    told = {"shop": "Seagrass", "price_minor": 490, "stock": 7, "currency": "", "pieces": 1, "tax": "net"}
    assert told in offers


def test_either_side_of_a_contradiction_is_believed_with_one_act(desk: Page) -> None:
    bundle = json.loads(desk.request.get(f"{BASE}/api/jobs/163/simulated/survey").text())
    table = bundle["files"]["dmidecode.txt"]
    bundle["files"]["dmidecode.txt"] = re.sub(r"Configured Memory Speed: \d+", "Configured Memory Speed: 6400", table)
    desk.goto("/jobs/163/survey")
    file = {"name": "b.json", "mimeType": "application/json", "buffer": json.dumps(bundle).encode()}
    desk.locator("input[type=file]").first.set_input_files(file)
    expect(desk.get_by_text("Memory runs faster than the library says it can.")).to_be_visible()
    desk.get_by_role("button", name="Believe the library").first.click()
    expect(desk.get_by_text("The library’s description stands on this job.")).to_be_visible()
    desk.get_by_role("button", name="Believe the reading").first.click()
    expect(desk.get_by_text("goes to the library for review")).to_be_visible()
    expect(desk.get_by_text("Waits for review")).to_be_visible()


@pytest.mark.parametrize("delay_ms", [2, 10, 30])
def test_a_scanner_in_survey_and_at_the_bench(desk: Page, delay_ms) -> None:
    desk.goto("/jobs/148/survey")
    desk.get_by_label("Label of what is in Memory A").click()
    desk.keyboard.type("OM4S-08G24", delay=delay_ms)
    desk.keyboard.press("Enter")
    expect(desk.get_by_label("Fitted in Memory A")).to_have_value("OM4S-08G24")
    desk.goto("/jobs/150/bench")
    desk.get_by_label("Scan a part as it goes in").click()
    desk.keyboard.type("NOT-OF-THIS-PLAN", delay=delay_ms)
    desk.keyboard.press("Enter")
    expect(desk.get_by_role("alert")).to_contain_text("not a part of this plan")
