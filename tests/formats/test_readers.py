"""Readers of raw tool outputs, as real tools write them: complete, odd, truncated."""

import json

import pytest

from insertum.core.standards.pcie import Link
from insertum.formats.tools import read_bundle, read_dmidecode, read_lspci, read_upower

DEVICE = "Handle 0x0011, DMI type 17, 40 bytes\nMemory Device\n{}\n\n"


def module(*lines: str):
    found = read_dmidecode(DEVICE.format("\n".join("\t" + x for x in lines)))
    return found["modules"][0]


# lines of a memory device → size in GB, rated, running, part number
MEMORY = [
    (
        ["Size: 8192 MB", "Speed: 2667 MT/s", "Configured Memory Speed: 2667 MT/s", "Part Number: A1"],
        (8, 2667, 2667, "A1"),
    ),
    (
        ["Size: 8 GB", "Speed: 3200 MT/s", "Configured Memory Speed: 2933 MT/s", "Part Number: A1   "],
        (8, 3200, 2933, "A1"),
    ),
    (
        ["Size: 4096 MB", "Speed: 1600 MHz", "Configured Clock Speed: 1333 MHz", "Part Number: A1"],
        (4, 1600, 1333, "A1"),
    ),
    (["Size: No Module Installed", "Speed: Unknown", "Part Number: Not Specified"], (0, None, None, "")),
    (["Size: None", "Part Number: None"], (0, None, None, "")),
    (["Size: 512 MB", "Part Number: Unknown"], (0, None, None, "")),  # less than a whole GB counts as none
    (["Size: 32 GB", "Speed: 4800 MT/s", "Configured Memory Speed: Unknown"], (32, 4800, None, "")),
    (["Size: eight", "Speed: fast"], (0, None, None, "")),
]


@pytest.mark.parametrize(("lines", "wanted"), MEMORY)
def test_memory_device(lines, wanted) -> None:
    got = module(*lines)
    assert (got.size_gb, got.rated_mts, got.running_mts, got.part_number) == wanted


@pytest.mark.parametrize(
    ("form", "soldered"),
    [("SODIMM", False), ("Row Of Chips", True), ("Chip", True), ("DIMM", False), ("Unknown", False)],
)
def test_form_factor_tells_what_is_soldered(form, soldered) -> None:
    assert module("Size: 8 GB", f"Form Factor: {form}").soldered is soldered


def test_system_board_and_firmware() -> None:
    text = (
        "Handle 0x0000, DMI type 0, 26 bytes\nBIOS Information\n\tVendor: Veyra\n\tVersion: 1.14\n\n"
        "Handle 0x0001, DMI type 1, 27 bytes\nSystem Information\n\tManufacturer: Veyra\n\tProduct Name: Strand 15 mk II\n"
        "\tSerial Number: To Be Filled By O.E.M.\n\n"
        "Handle 0x0002, DMI type 2, 15 bytes\nBase Board Information\n\tProduct Name: VB-S15 rev 3\n\n"
        "Handle 0x0004, DMI type 4, 48 bytes\nProcessor Information\n\tVersion: Corvane  Rill 430   \n\n"
    )
    got = read_bundle({"dmidecode.txt": text})
    assert (got.maker, got.system, got.board, got.firmware, got.processor) == (
        "Veyra", "Strand 15 mk II", "VB-S15 rev 3", "1.14", "Corvane Rill 430",
    )  # fmt: skip
    assert got.texts == ("Veyra Strand 15 mk II", "VB-S15 rev 3", "Corvane Rill 430")


LSPCI = """00:00.0 Host bridge [0600]: Corvane Host [1d00:0001] (rev 08)
\tSubsystem: Veyra Device [1d01:0001]

01:00.0 Non-Volatile memory controller [0108]: Quern QK2-1T0-80M [1d0f:0001] (rev 01) (prog-if 02 [NVM Express])
\tCapabilities: [70] Express (v2) Endpoint
\t\tLnkCap:\tPort #0, Speed 8GT/s, Width x4, ASPM L1, Exit Latency L1 <64us
\t\t\tClockPM+ Surprise- LLActRep- BwNot- ASPMOptComp+
\t\tLnkSta:\tSpeed 2.5GT/s (downgraded), Width x2 (downgraded)

02:00.0 Network controller [0280]: Larkfield LR-AX2-E30 [1d1f:0202] (rev 1a)
\tSubsystem: Larkfield LF-0202 [1d1f:0001]
"""


def test_verbose_lspci() -> None:
    got = read_lspci(LSPCI)
    ends = {"capable": Link(generation=3, lanes=4), "running": Link(generation=1, lanes=2), "port": None}
    assert got["links"] == {"Quern QK2-1T0-80M": ends}
    (radio,) = got["radios"]
    assert (radio.name, radio.id) == ("Larkfield LR-AX2-E30", "1d1f:0202 Larkfield LF-0202")


@pytest.mark.parametrize("text", ["", "lspci: command not found", "pcilib: Cannot open /proc/bus/pci\n", "\n\n"])
def test_no_lspci(text) -> None:
    assert read_lspci(text) == {}


def test_a_link_is_given_to_its_drive_only() -> None:
    lsblk = {"blockdevices": [
        {"name": "nvme0n1", "type": "disk", "size": 10**12, "model": "QK2-1T0-80M", "tran": "nvme"},
        {"name": "sda", "type": "disk", "size": "500107862016", "model": "QK2-1T0-80M", "tran": "sata"},
        {"name": "loop0", "type": "loop", "size": 4096},
        {"name": "sdb", "type": "disk", "size": None, "model": None},
    ]}  # fmt: skip
    drives = {d.name: d for d in read_bundle({"lspci.txt": LSPCI, "lsblk.json": json.dumps(lsblk)}).drives}
    assert set(drives) == {"nvme0n1", "sda", "sdb"}
    assert drives["nvme0n1"].running == Link(generation=1, lanes=2) and drives["sda"].running is None
    assert drives["sda"].size_bytes == 500107862016 and drives["sdb"].size_bytes is None


def test_nvme_list_adds_only_drives_not_seen_yet() -> None:
    nvme = {
        "Devices": [
            {"DevicePath": "/dev/nvme0n1", "ModelNumber": "QK2", "PhysicalSize": 10**12},
            {"DevicePath": "/dev/nvme1n1", "ModelNumber": "QK4"},
        ]
    }
    lsblk = {
        "blockdevices": [{"name": "nvme0n1", "type": "disk", "size": 10**12, "model": "Quern QK2", "tran": "nvme"}]
    }
    got = read_bundle({"lsblk.json": json.dumps(lsblk), "nvme.json": json.dumps(nvme)})
    assert [(d.name, d.model) for d in got.drives] == [("nvme0n1", "Quern QK2"), ("nvme1n1", "QK4")]


# battery text → model, design and full charge in mWh
PACKS = [
    ("  model: AP-1\n  energy-full: 41.00 Wh\n  energy-full-design: 52.00 Wh\n", ("AP-1", 52000, 41000)),
    ("  model:\n  energy-full: 41 Wh\n", ("", None, 41000)),
    ("  energy-full-design: 52.5 Wh\n", ("", 52500, None)),
    ("  model: Unknown\n  energy-full: 0 Wh\n", ("", None, 0)),
]


@pytest.mark.parametrize(("text", "wanted"), PACKS)
def test_battery(text, wanted) -> None:
    got = read_upower(text)["battery"]
    assert (got.model, got.design_mwh, got.full_mwh) == wanted


@pytest.mark.parametrize(
    ("text", "bits"), [("Linux x 6.1 x86_64", 64), ("Linux x i686 GNU", 32), ("Linux aarch64", 64), ("plan9", None)]
)
def test_word_size(text, bits) -> None:
    assert read_bundle({"uname.txt": text}).word_bits == bits


@pytest.mark.parametrize(
    ("text", "there"),
    [
        ("Bus 1 Device 4: ID 1d1f:0029 Bluetooth interface", True),
        ("Bus 1 Device 1: ID 1d6b:0002 root hub", False),
        ("", None),
    ],
)
def test_bluetooth(text, there) -> None:
    assert read_bundle({"lsusb.txt": text}).bluetooth is there
