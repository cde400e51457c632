"""The tour, walked as the bench from its first word to its last: every address opens, and what it says is there."""

import re

from playwright.sync_api import Page, expect

from tests.served import ROOT

#: A place of the tour: its heading with the address, and what is said there.
PLACE = re.compile(r"^## ([^`\n]+), `(/[^`]+)`\n(.*?)(?=^## |\Z)", re.M | re.S)


def test_the_tour_is_so(desk: Page) -> None:
    places = PLACE.findall((ROOT / "docs" / "tour.md").read_text())
    assert len(places) == 10
    for heading, address, said in places:
        desk.goto(address)
        expect(desk.locator("h1").first).to_be_visible()
        phrases = [" ".join(p.split()) for p in re.findall(r"\*\*(.+?)\*\*", said, re.S)]
        assert phrases, heading
        for phrase in phrases:
            expect(desk.locator("main"), f"{heading}: {phrase}").to_contain_text(
                phrase, ignore_case=True, use_inner_text=True
            )
