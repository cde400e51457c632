"""Details of the words' readers, each where a slip would claim another thing: counts, sides, lines, borders."""

import pytest

from insertum.core.machine.shape import Machine
from insertum.core.maker_text.apply_claims import page
from insertum.core.maker_text.read import read_spec
from insertum.core.part_title import read_title
from insertum.core.survey.new_machine import Started, started


def claims(text: str) -> dict[str, object]:
    return {s.about: s.value for s in read_spec(text).stated}


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("M.2 2280 slot, SATA 1.5 Gb/s", {"drive-1.sata": 1}), ("M.2 2280 slot, SATA 1,5 Gbit/s", {"drive-1.sata": 1}),
        ("M.2 2280 slot, SATA II", {"drive-1.sata": 2}), ("M.2 2280 slot, SATA Rev. 3.0", {"drive-1.sata": 3}),
        ("M.2 2280 slot, PCIe v3.0 x2", {"drive-1.pcie_generation": 3, "drive-1.pcie_lanes": 2}),
        ("M.2 2280 slot, Gen4 x4 NVMe", {"drive-1.pcie_generation": 4, "drive-1.pcie_lanes": 4}),
        ("M.2 2280 slot, PCIe x2", {"drive-1.pcie_lanes": 2}), ("M.2 2280 slot, PCIe 5", {"drive-1.pcie_generation": 5}),
        ("First M.2 slot: 2280. Third M.2 slot: 2230.", {"m2_drive.count": 3, "drive-1.standoffs_mm": [80], "drive-3.standoffs_mm": [30]}),
        ("1x M.2 2280 slot, 1x M.2 2242 slot", {"m2_drive.count": 2, "drive-2.standoffs_mm": [42]}),
        ("The drive slot is M.2 2280. The drive slot is M.2, key M.", {"m2_drive.count": 1, "drive-1.key": "M"}),
        ("The upper M.2 slot is 2280, the lower M.2 slot 2242.", {"m2_drive.count": 2, "drive-1.standoffs_mm": [80], "drive-2.standoffs_mm": [42]}),
        ("Two M.2 slots: the first is 2280 with PCIe 4.0 x4, the second is 2230 with PCIe 3.0 x1.", {"drive-1.pcie_lanes": 4, "drive-2.pcie_lanes": 1}),
        ("WWAN: M.2 3042 slot, no SIM tray", {"cellular.sim_tray": "missing"}), ("Mobilfunk: M.2 3042 Steckplatz, ohne SIM-Schacht", {"cellular.sim_tray": "missing"}),
        ("Battery: 3 cells", {}), ("It weighs 1.2 kg, 11.4 V", {}), ("Battery: 11.4 V", {"battery.voltage_mv": 11400}),
        ("Processor: 8 cores", {"processor.cores": 8}), ("Battery: 100 Wh", {"battery.design_mwh": 100000}),
    ],
)  # fmt: skip
def test_details(text: str, wanted: dict[str, object]) -> None:
    got = claims(text)
    assert {k: got.get(k) for k in wanted} == wanted
    if not wanted:
        assert not got


@pytest.mark.parametrize(
    ("text", "about"),
    [
        ("Two M.2 slots: one is 2280, another is 2242, and one is 2230.", "drive-1.standoffs_mm"), ("Two M.2 slots. The M.2 slot is 2280.", "drive.place"),
        ("An M.2 slot, 2280 PCIe 4.0 x4, 2242 SATA", "drive-1.standoffs_mm"), ("M.2 2280 or 3042 slot for drives", "drive-1.width_mm"),
        ("Maximum memory: 32 GB. Maximum memory: 64 GB.", "memory.total_limit_gb"), ("Battery: 54 Wh (typ.), 51 Wh (min.)", "battery.design_mwh"),
        ("Memory: two sockets, DDR4 or DDR5", "memory.generation"), ("Memory: two sockets, DDR4-2666 or DDR4-3200", "memory.speed_mts"),
    ],
)  # fmt: skip
def test_what_could_be_meant_two_ways_is_asked_and_not_claimed(text: str, about: str) -> None:
    spec = read_spec(text)
    assert about in {q.about for q in spec.questions}
    assert about not in {s.about for s in spec.stated}


def test_every_claim_and_question_says_its_line_and_its_words() -> None:
    text = "Halden Weir 14\n\nMemory: two SO-DIMM sockets\n\nBattery: 54 Wh\nProcessor: Corvane Rill 340\nMaximum memory: 8 GB\nMaximum memory: 16 GB"
    spec = read_spec(text)
    assert {s.about: (s.line, s.phrase) for s in spec.stated} == {
        "memory.sockets": (3, "Memory: two SO-DIMM sockets"), "battery.design_mwh": (5, "Battery: 54 Wh"),
        "processor.name": (6, "Processor: Corvane Rill 340"),
    }  # fmt: skip
    (question,) = spec.questions
    assert (question.about, question.line, question.phrase) == ("memory.total_limit_gb", 8, "Maximum memory: 16 GB")
    assert "8 and 16" in question.says
    long = read_spec("Memory: two SO-DIMM sockets, " + "and so on " * 40).stated[0].phrase
    assert len(long) == 200 and long.endswith("…")


def test_a_processor_known_by_a_column_s_head_is_found_on_its_line() -> None:
    spec = read_spec("Data\n\nx\tRill 340\tBeck 450\nMax. memory\t32 GB\t64 GB")
    assert [(s.value, s.line) for s in spec.stated if s.about == "processor.name"] == [("Rill 340", 3), ("Beck 450", 3)]


def test_what_nobody_can_place_is_asked_by_its_own_words() -> None:
    data, _ = started(Started(maker="Brannock", name="Weir 14", seen={"m2_drive": 2}), None, (), set())
    machine = Machine.model_validate(data)
    shown = page(machine, read_spec("Second M.2 slot: 2242, SATA 6 Gb/s"))
    (asked,) = shown.asked
    assert (asked.place, asked.phrase) == ("drive-2", "Second M.2 slot: 2242, SATA 6 Gb/s")
    assert list(asked.slots.values()) == ["Drive 1", "Drive 2", "a slot the library lacks"]
    assert {r.goes for r in shown.rows if r.label.startswith("Drive slot 2")} == {"which"}
    named = page(machine, read_spec("Second M.2 slot: 2242, SATA 6 Gb/s"), {"drive-2": "drive-1"})
    assert not named.asked and {r.goes for r in named.rows if r.label.startswith("Drive slot 2")} == {"in"}
    wrong = page(machine, read_spec("Second M.2 slot: 2242, SATA 6 Gb/s"), {"drive-2": "nowhere"})
    assert wrong.asked


def test_a_title_is_read_as_far_as_titles_go() -> None:
    assert read_title("16GB DDR4-3200 " + "x" * 380 + " SO-DIMM", "X").asked  # the word that decides stands beyond
    assert read_title("16GB DDR4-3200 SO-DIMM " + "y " * 300, "X").fields["capacity_gb"] == 16


@pytest.mark.parametrize(
    ("text", "asked"),
    [
        ("Storage: a 2.5-inch bay depending on the model", {"bay.count"}),  # a bay asks nothing of a card's place
        ("Storage: an M.2 slot depending on the model", {"m2_drive.count", "drive-1.wiring"}),
        ("Storage: depending on the model", {"drive-1.wiring"}),
    ],
)  # fmt: skip
def test_what_is_true_of_some_asks_for_what_it_names(text: str, asked: set[str]) -> None:
    assert {q.about for q in read_spec(text).questions} == asked
