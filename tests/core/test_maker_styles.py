"""The maker's words in styles the grammar was not written for: none is made to say what it does not, most is heard, each phrase is
the page's own, and what could be read otherwise says so."""

import re
from pathlib import Path

import pytest

from insertum.core.maker_text.memory import speeds_by_population
from insertum.core.maker_text.page_text import as_text
from insertum.core.maker_text.read import read_spec

from .test_maker_words import _truth, claims

TEXTS = re.split(r"^#### (.+)$", (Path(__file__).parent / "maker_styles.txt").read_text(), flags=re.M)
PAGES = dict(zip(TEXTS[1::2], TEXTS[2::2], strict=True))


def test_no_style_is_made_to_say_what_it_does_not_and_most_is_heard() -> None:
    heard = said = 0
    for name, body in PAGES.items():
        text, _, says = body.partition("---- says")
        truth, open_ = _truth(says)
        spec = read_spec(text.strip("\n"))
        assert not claims(spec) - truth, name
        assert open_ <= {q.about for q in spec.questions}, name
        heard, said = heard + len(claims(spec) & truth), said + len(truth)
    assert heard >= 0.85 * said, (heard, said)


def test_every_phrase_is_the_pages_own() -> None:
    for name, body in PAGES.items():
        text = body.partition("---- says")[0].strip("\n")
        page = " ".join(as_text(text).replace("|", " ").split())
        for s in read_spec(text).stated:
            for part in s.phrase.split(": ") if s.phrase not in page else [s.phrase]:
                assert part.strip("…") in page or any(h in part for h in ("MEMORY ", "STORAGE ", "POWER ", "bay")), (
                    name,
                    s.phrase,
                )


@pytest.mark.parametrize(
    ("text", "about", "phrase", "doubt"),
    [
        ("DRlVE: M.2 228O slot", "drive-1.standoffs_mm", "DRlVE: M.2 228O slot", "other letters or figures"),
        ("DRIVE: M.2 2280 slot", "drive-1.standoffs_mm", "DRIVE: M.2 2280 slot", ""),
        ("Drive: M.2 2280 slot, PCIe 4.0 ×4", "drive-1.pcie_lanes", "Drive: M.2 2280 slot, PCIe 4.0 ×4", ""),
        # A label is no count: numbered alone it may have others beside it.
        ("SSD 1: 2280, PCIe Gen 4 x4", "m2_drive.count", "SSD 1: 2280, PCIe Gen 4 x4", "never says how many"),
        ("Slot A: M.2 2280 PCIe 4.0 x4", "m2_drive.count", "Slot A: M.2 2280 PCIe 4.0 x4", "never says how many"),
        ("Slot 2: M.2 2242 SATA", "m2_drive.count", "Slot 2: M.2 2242 SATA", "never says how many"),
        ("The drive slot is M.2 2280, SATA.", "m2_drive.count", "The drive slot is M.2 2280, SATA.", ""),
        ("Two M.2 slots, 2280, PCIe 4.0 x4", "m2_drive.count", "Two M.2 slots, 2280, PCIe 4.0 x4", ""),
        ("Memory: l6 GB soldered", "memory.soldered_gb", "Memory: l6 GB soldered", "other letters or figures"),
        ("Memory: 2 SO-DIMM sockets, DDR4-2666", "memory.speed_mts", "Memory: 2 SO-DIMM sockets, DDR4-2666", "its grade"),
        ("Memory: 2 SO-DIMM sockets, runs at 2666 MT/s", "memory.speed_mts", "Memory: 2 SO-DIMM sockets, runs at 2666 MT/s", ""),
        ("Memory: 2 sockets, up to 32 GB", "memory.total_limit_gb", "Memory: 2 sockets, up to 32 GB", "each socket"),
        ("Memory: 2 sockets, up to 32 GB in all", "memory.total_limit_gb", "Memory: 2 sockets, up to 32 GB in all", ""),
    ],
)  # fmt: skip
def test_what_could_be_read_otherwise_says_so(text: str, about: str, phrase: str, doubt: str) -> None:
    claim = next(s for s in read_spec(text).stated if s.about == about)
    assert claim.phrase == phrase
    assert (doubt in claim.doubt) if doubt else claim.doubt == ""


@pytest.mark.parametrize(
    ("text", "speeds"),
    [
        ("It runs at 5600 MT/s with one module and at 5200 MT/s when both sockets are filled.", [(1, 5600), (2, 5200)]),
        ("5200 MT/s with both slots populated, 5600 MT/s with one module", [(2, 5200), (1, 5600)]),
        ("With both sockets filled memory runs at 2666 MT/s.", [(2, 2666)]),
        ("Zwei Module laufen mit 5600 MT/s.", [(2, 5600)]),
        ("Mit zwei Modulen 5200 MT/s, mit vier Modulen 3600 MT/s", [(2, 5200), (4, 3600)]),
        ("Memory runs at 5600 MT/s, or 5200 MT/s when both sockets are filled.", []),  # the first is of what?
        ("With one or two modules 5600 MT/s and 5200 MT/s", []),
        ("Memory runs at 5600 MT/s.", []),
    ],
)  # fmt: skip
def test_a_rate_is_of_the_population_its_own_part_of_the_sentence_names(
    text: str, speeds: list[tuple[int, int]]
) -> None:
    assert [(modules, rate) for _, modules, rate in speeds_by_population(text)] == speeds


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("Q: Does it have a 2.5-inch bay?\nA: No.", {"bay.count"}),
        ("Frage: Gibt es einen 2,5-Zoll-Schacht?\nAntwort: Nein.", {"bay.count"}),
        ("Q: Does it have a 2.5-inch bay?\nA: Yes.", set()),
        ("Q: Does it have a 2.5-inch bay?\nA: No, but a second M.2 slot.", {"m2_drive.count"}),
        ("Q: Is there a second M.2 slot?\nA: No.", set()),
        ("Q: Does the bay open without tools?\nA: No.", set()),
        ("Q: Is the memory socket soldered?\nA: No.", set()),
        ("The Fell 13 and the Fell 15 differ. The smaller one has a 2.5-inch bay, 7 mm.", set()),
        ("The smaller one of its two slots is M.2 2230.", {"m2_drive.count", "drive-1.standoffs_mm", "drive-1.width_mm"}),
        ("The 2.5-inch bay is only there with the small battery.", set()),
        ("<table><tr><td><table><tr><td>Bay", set()), ("Bay: 2.5-inch, 7 mm", {"bay.count", "bay.height_um"}),
        ("| Bay | none |\nVersions with a 2.5-inch bay end in H.", set()), ("One 2.5-inch bay The SO-DIMM socket is not fitted.", {"bay.count", "memory.sockets"}),
        ("~~2.5-inch bay~~", {"bay.count"}), ("~~2.5-inch bay, 7 mm~~", set()),
    ],
)  # fmt: skip
def test_answers_and_machines_beside_it(text: str, says: set[str]) -> None:
    found = {s.about for s in read_spec(text).stated}
    assert found <= says and (found == says or len(says) > 1)


@pytest.mark.parametrize(
    ("text", "unread"),
    [
        ("Memory: two SO-DIMM sockets.", []),
        ("The memory bays of this series are generous.", ["The memory bays of this series are generous."]),
        (
            "Memory: two SO-DIMM sockets. Its drives hum softly.",
            ["Its drives hum softly."],
        ),  # told apart from what was read
        ("I put 16 GB in and the memory ran at 2400 MT/s.", ["I put 16 GB in and the memory ran at 2400 MT/s."]),
        ("It weighs 1.4 kg and comes in grey.", []),  # of no place
        ("Some models have a 2.5-inch bay.", []),  # asked
    ],
)
def test_what_was_not_understood_is_shown(text: str, unread: list[str]) -> None:
    assert [u.phrase.removeprefix("Memory: ") for u in read_spec(text).unread] == unread
