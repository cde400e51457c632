"""Readers of raw tool outputs, as real tools write them: complete, odd, truncated."""

import json

import pytest

from insertum.core.standards.pcie import Link
from insertum.core.survey.draft import from_reading
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


@pytest.mark.parametrize(
    ("lines", "wanted"),
    [
        (["Locator: ChannelA-DIMM0", "Bank Locator: BANK 0", "Rank: 2", "Configured Voltage: 1.2 V"], ("BANK 0", "A", 2, 1200)),
        (["Locator: DIMM 0", "Bank Locator: P0 CHANNEL B", "Configured Voltage: 1.35 V"], ("P0 CHANNEL B", "B", None, 1350)),
        # what nobody said is unknown, never 0 and never guessed
        (["Locator: DIMM 0", "Bank Locator: Not Specified", "Rank: Unknown", "Configured Voltage: Unknown"], ("", "", None, None)),
        (["Locator: Channel A", "Bank Locator: Channel B"], ("Channel B", "", None, None)),
    ],
)  # fmt: skip
def test_where_a_module_hangs(lines, wanted) -> None:
    read = module("Size: 8 GB", *lines)
    assert (read.bank, read.channel, read.ranks, read.voltage_mv) == wanted


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


# -- the kernel's battery ------------------------------------------------------------------------
# µWh as it is; µAh times the design voltage: 4,000,000 µAh × 11,400,000 µV = 45.6 Wh
SYSFS = [
    ("ENERGY_FULL_DESIGN=52000000 ENERGY_FULL=41000000 MODEL_NAME=AP-1 CYCLE_COUNT=310", ("AP-1", 52000, 41000, 310)),
    ("CHARGE_FULL_DESIGN=4000000 CHARGE_FULL=3000000 VOLTAGE_MIN_DESIGN=11400000", ("", 45600, 34200, None)),
    ("CHARGE_FULL_DESIGN=4000000 CHARGE_FULL=3000000", None),  # charge without a voltage is no energy
    ("ENERGY_FULL_DESIGN=0 ENERGY_FULL=41000000 CYCLE_COUNT=0", ("", None, 41000, None)),
    ("STATUS=Full CAPACITY=97", None),
]


@pytest.mark.parametrize(("values", "wanted"), SYSFS)
def test_sysfs_battery(values, wanted) -> None:
    text = "".join(f"POWER_SUPPLY_{v}\n" for v in values.split())
    b = read_bundle({"battery.txt": text}).battery
    assert (b and (b.model, b.design_mwh, b.full_mwh, b.cycles)) == wanted


# -- the CIM inventory ---------------------------------------------------------------------------
def cim(**classes):
    return read_bundle({"cim.json": json.dumps({f"Win32_{k}": v for k, v in classes.items()})})


# a memory device → size in GB, rated, running, generation, soldered (DSP0134 types 24 26 34, LPDDR 29 30 35)
CIM_MEMORY = [
    ({"Capacity": "8589934592", "Speed": 2667, "ConfiguredClockSpeed": 2400, "SMBIOSMemoryType": 26, "FormFactor": 12},
     (8, 2667, 2400, 4, False)),
    ({"Capacity": 17179869184, "Speed": "5600", "SMBIOSMemoryType": 34, "FormFactor": 12}, (16, 5600, None, 5, False)),
    ({"Capacity": 4294967296, "Speed": 0, "SMBIOSMemoryType": 24, "FormFactor": 12}, (4, None, None, 3, False)),
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 30, "FormFactor": 0}, (8, None, None, 4, True)),
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 35, "FormFactor": 12}, (8, None, None, 5, True)),
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 26, "FormFactor": 11}, (8, None, None, 4, True)),
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 26, "FormFactor": 21}, (8, None, None, 4, True)),
    ({"Capacity": None, "SMBIOSMemoryType": 2, "Speed": -1}, (0, None, None, None, False)),
    ({"Capacity": "many", "SMBIOSMemoryType": "junk"}, (0, None, None, None, False)),
]  # fmt: skip


@pytest.mark.parametrize(("row", "wanted"), CIM_MEMORY)
def test_cim_memory(row, wanted) -> None:
    m = cim(PhysicalMemory=row).modules[0]
    assert (m.size_gb, m.rated_mts, m.running_mts, m.generation, m.soldered) == wanted


def test_cim_inventory_whole() -> None:
    """One object or a list a class; the stick it was taken with is no drive of the machine."""
    got = cim(
        ComputerSystem={"Manufacturer": "Veyra", "Model": " Strand 15 ", "TotalPhysicalMemory": "17045651456"},
        BaseBoard={"Product": "Default string"},
        BIOS=[{"SMBIOSBIOSVersion": None}, {"SMBIOSBIOSVersion": "1.14"}],
        Processor={"Name": "Rill 430"},
        DiskDrive=[
            {"DeviceID": r"\\.\PHYSICALDRIVE0", "Model": "Quern QK3-1T0", "SerialNumber": "AA11.", "Size": "1000204886016",
             "InterfaceType": "SCSI"},
            {"DeviceID": r"\\.\PHYSICALDRIVE1", "Model": "Stick", "InterfaceType": "USB"},
            {"Model": "Old one", "Size": None, "InterfaceType": "IDE"},
        ],
        NetworkAdapter=[
            {"Name": "Gannet Wi-Fi 6", "PNPDeviceID": r"PCI\VEN_1D1F&DEV_00A1&SUBSYS_00"},
            {"Name": "Wired", "NetConnectionID": "Ethernet", "PNPDeviceID": r"PCI\VEN_1D1F&DEV_0001"},
        ],
        Battery={"Name": "AP-1", "DesignCapacity": "52000", "FullChargeCapacity": None},
    )  # fmt: skip
    assert (got.maker, got.system, got.board, got.firmware) == ("Veyra", "Strand 15", "", "1.14")
    assert got.visible_mb == 16256  # 17,045,651,456 / 2^20
    assert [(d.name, d.serial, d.transport) for d in got.drives] == [
        ("PHYSICALDRIVE0", "AA11", ""),
        ("disk2", "", "sata"),
    ]
    assert [(r.name, r.id) for r in got.radios] == [("Gannet Wi-Fi 6", "1d1f:00a1")]
    assert got.battery and (got.battery.design_mwh, got.battery.full_mwh) == (52000, None)


# how many sockets there are stands with the array; filled places alone do not tell
@pytest.mark.parametrize(
    ("arrays", "devices"),
    [
        ({"MemoryDevices": 2, "Use": 3}, 2),
        ([{"MemoryDevices": 2, "Use": 3}, {"MemoryDevices": 1, "Use": 3}], 3),
        ([{"MemoryDevices": 2, "Use": 3}, {"MemoryDevices": 1, "Use": 5}], 2),  # 5 is flash
        ({"MemoryDevices": None}, None),
        (None, None),
    ],
)
def test_cim_counts_places_only_where_they_are_counted(arrays, devices) -> None:
    got = cim(
        PhysicalMemory={"Capacity": 8589934592, "SMBIOSMemoryType": 26, "FormFactor": 12}, PhysicalMemoryArray=arrays
    )
    assert got.devices == devices
    drafted = from_reading(got.model_copy(update={"system": "Somebody 14"}))
    assert sum(s["kind"] == "memory" for s in drafted["slots"]) == max(devices or 0, 1)


@pytest.mark.parametrize("text", ["[]", "3", '{"Win32_DiskDrive": 7}', '{"Win32_DiskDrive": [null, "x"]}', '{"Win32_'])
def test_odd_cim_gives_what_it_holds(text) -> None:
    got = read_bundle({"cim.json": text})
    assert not got.drives and not got.understood and len(got.not_understood) == 1
