"""What Survey says of a reading: every sentence with a reading that makes it true, and one that does not."""

import pytest

from insertum.core.reading import (
    ReadAdapter,
    ReadBattery,
    ReadBluetooth,
    ReadDrive,
    Reading,
    ReadLoad,
    ReadModule,
    ReadRadio,
)
from insertum.core.survey.match_devices import Matched
from insertum.core.survey.reading_summary import summarise
from insertum.formats.parts import read_csv

from . import made

PARTS = read_csv((made.DEMO / "parts.csv").read_text())
STRAND = made.demo_machine("veyra-strand-15").configured("mk2-rill-430")

CHIPS = ReadModule(
    locator="U1", present=True, size_mb=8192, soldered=True, generation=4, rated_mts=2933, running_mts=2933
)
HELD = ReadModule(
    locator="Memory B",
    present=True,
    size_mb=8192,
    soldered=False,
    part_number="PM4S-08G29",
    rated_mts=2933,
    running_mts=2933,
    generation=4,
)
EMPTY = ReadModule(locator="Memory B", present=False, soldered=False)


def lines(**found) -> tuple[tuple[str, ...], tuple[str, ...]]:
    said = summarise(Matched(STRAND, Reading(**found), PARTS))
    return said.proved, said.left_open


# a word of the sentence, a reading that makes it true, a reading that does not
PROVED = [
    ("Firmware 1.14", {"firmware": "1.14"}, {}),
    ("Processor", {"processor": "Corvane Rill 430"}, {}),
    ("16 GB of memory fitted in all", {"modules": (CHIPS, HELD), "memory_complete": True}, {"modules": (CHIPS, HELD)}),
    ("8.5 GB of memory", {"modules": (CHIPS, HELD.model_copy(update={"size_mb": 512})), "memory_complete": True}, {"modules": (CHIPS,)}),
    ("The system sees 7465 MB", {"visible_mb": 7465}, {}),
    ("Memory runs at 2933", {"modules": (CHIPS,)}, {"modules": (CHIPS.model_copy(update={"running_mts": None}),)}),
    ("Memory runs at", {"modules": (CHIPS.model_copy(update={"running_mts": 1467}),)}, {"modules": (CHIPS.model_copy(update={"rated_mts": 3200, "running_mts": 1600}),)}),
    ("Memory B: empty as firmware sees it", {"modules": (EMPTY,)}, {"modules": (EMPTY.model_copy(update={"present": None}),)}),
    ("Memory B: Pallas 8 GB", {"modules": (HELD,)}, {"modules": (HELD.model_copy(update={"part_number": "X", "rated_mts": None}),)}),
    ("Bluetooth is there, in the machine", {"bluetooth": ReadBluetooth(fixed=True)}, {"bluetooth": ReadBluetooth()}),
    ("The supply can deliver 65 W", {"adapter": ReadAdapter(online=True, most_mw=65000)}, {"adapter": ReadAdapter(online=False, most_mw=65000)}),
    ("the pack still drains", {"adapter": ReadAdapter(online=True), "packs": (ReadBattery(status="Discharging"),)},
     {"adapter": ReadAdapter(online=False), "packs": (ReadBattery(status="Discharging"),)}),
    ("the pack still drains", {"adapter": ReadAdapter(online=True), "packs": (ReadBattery(status="Discharging"),)},
     {"adapter": ReadAdapter(online=True), "packs": (ReadBattery(status="Charging"),)}),
    ("its load says nothing", {"own_system": False}, {"own_system": True}),
    ("its load says nothing", {"own_system": False}, {}),
]  # fmt: skip


@pytest.mark.parametrize(("word", "true", "false"), PROVED)
def test_proved_is_said_where_it_is_so(word, true, false) -> None:
    assert any(word in line for line in lines(**true)[0])
    assert not any(word in line for line in lines(**false)[0])


LEFT_OPEN = [
    ("lspci.txt is cut off", {"cut_off": ("lspci.txt",)}, {}),
    ("Memory B: no tool lists it", {}, {"modules": (EMPTY,)}),
    ("Memory B: filled or empty, the firmware does not say", {"modules": (EMPTY.model_copy(update={"present": None}),)}, {"modules": (EMPTY,)}),
    ("Memory B: filled, with a size the firmware does not know",
     {"modules": (EMPTY.model_copy(update={"present": True}),)}, {"modules": (HELD,)}),
    ("Memory B: 1.5 GB of X", {"modules": (HELD.model_copy(update={"part_number": "X", "size_mb": 1536}),)}, {"modules": (HELD,)}),
    ("Drive 1: no drive is proved", {}, {"drives": (ReadDrive(name="nvme0n1", model="Quern QK2-1T0-80M", transport="nvme"),)}),
    ("Wi-Fi card: no Wi-Fi card was seen", {}, {"radios": (ReadRadio(name="Larkfield LR-AX2-E30"),)}),
    ("Wi-Fi card: Somebody's, which names no one card", {"radios": (ReadRadio(name="Somebody's"),)}, {}),
    ("Battery: no pack was read", {}, {"packs": (ReadBattery(model="AP-ST52", full_mwh=41000),)}),
    ("Battery: what was read does not tell which pack", {"packs": (ReadBattery(model="DELUXE", full_mwh=41000),)}, {}),
    ("firmware calls low-power chips a module", {"modules": (CHIPS.model_copy(update={"low_power": True, "soldered": None}),)}, {"modules": (CHIPS.model_copy(update={"low_power": True}),)}),
    ("the list is not whole", {"modules": (CHIPS,)}, {"modules": (CHIPS, EMPTY), "memory_complete": True}),
    ("the clock or really half", {"modules": (CHIPS.model_copy(update={"rated_mts": 3200, "running_mts": 1600}),)}, {"modules": (CHIPS,)}),
    ("Whose system ran", {}, {"own_system": True}),
    ("Whose system ran", {}, {"own_system": False}),
    ("not every volume was mounted", {"own_system": True, "load": ReadLoad(peak_memory_mb=1)}, {"own_system": True, "load": ReadLoad(drive_used_gb=9)}),
    ("not every volume was mounted", {"own_system": True, "load": ReadLoad(peak_memory_mb=1)}, {"own_system": False, "load": ReadLoad(peak_memory_mb=1)}),
    ("not seen, which is not missing", {}, {"bluetooth": ReadBluetooth()}),
    ("seen by name only", {"bluetooth": ReadBluetooth()}, {"bluetooth": ReadBluetooth(fixed=True)}),
    ("its driver told none", {"radios": (ReadRadio(name="R"),)}, {"radios": (ReadRadio(name="R", chains_dbm=(-50,)),)}),
]  # fmt: skip


@pytest.mark.parametrize(("word", "true", "false"), LEFT_OPEN)
def test_left_open_is_said_where_it_is_open(word, true, false) -> None:
    assert any(word in line for line in lines(**true)[1])
    assert not any(word in line for line in lines(**false)[1])


def test_a_reading_of_nothing_proves_nothing() -> None:
    assert lines()[0] == ()
