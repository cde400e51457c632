"""Readers of raw tool outputs, as real tools write them: complete, odd, truncated."""

import json
from pathlib import Path

import pytest

from insertum.core.machine.shape import Machine
from insertum.core.reading import ReadAdapter, Reading
from insertum.core.standards.pcie import Link
from insertum.core.survey.current_build import build_today
from insertum.core.survey.draft import from_reading
from insertum.demo import laptop
from insertum.formats.readings import read_bundle
from insertum.formats.readings.bus import read_lspci
from insertum.formats.readings.memory import read_dmidecode

from ..core import made

DEVICE = "Handle 0x0011, DMI type 17, 40 bytes\nMemory Device\n{}\n\n"


def module(*lines: str):
    found = read_dmidecode(DEVICE.format("\n".join("\t" + x for x in lines)))
    return found["modules"][0]


# lines of a memory device → present, size in MB, rated, running, part number
MEMORY = [
    (["Size: 8192 MB", "Speed: 2667 MT/s", "Configured Memory Speed: 2667 MT/s", "Part Number: A1"], (True, 8192, 2667, 2667, "A1")),
    (["Size: 8 GB", "Speed: 3200 MT/s", "Configured Memory Speed: 2933 MT/s", "Part Number: A1   "], (True, 8192, 3200, 2933, "A1")),
    (["Size: 4096 MB", "Speed: 1600 MHz", "Configured Clock Speed: 1333 MHz", "Part Number: A1"], (True, 4096, 1600, 1333, "A1")),
    (["Size: No Module Installed", "Speed: Unknown", "Part Number: Not Specified"], (False, None, None, None, "")),
    # an unknown size is no empty socket; a part that is named is there
    (["Size: Unknown", "Part Number: A1"], (True, None, None, None, "A1")),
    (["Size: Unknown"], (None, None, None, None, "")),
    (["Size: None", "Part Number: None"], (None, None, None, None, "")),
    (["Size: 512 MB", "Part Number: Unknown"], (True, 512, None, None, "")),
    (["Size: 1536 MB"], (True, 1536, None, None, "")),
    (["Size: 32 GB", "Speed: 4800 MT/s", "Configured Memory Speed: Unknown"], (True, 32768, 4800, None, "")),
    (["Size: eight", "Speed: fast"], (None, None, None, None, "")),
    ([f"Size: {'9' * 5000} GB", f"Speed: {'9' * 5000} MT/s"], (None, None, None, None, "")),
]  # fmt: skip


@pytest.mark.parametrize(("lines", "wanted"), MEMORY)
def test_memory_device(lines, wanted) -> None:
    got = module(*lines)
    assert (got.present, got.size_mb, got.rated_mts, got.running_mts, got.part_number) == wanted


@pytest.mark.parametrize(
    ("form", "type_", "soldered"),
    [
        ("SODIMM", "DDR4", False), ("DIMM", "DDR4", False), ("Row Of Chips", "DDR4", True), ("Chip", "DDR4", True),
        ("Die", "DDR4", True), ("Unknown", "DDR4", None), ("Other", "DDR4", None),
        # low-power chips are soldered, unless the form says otherwise: then it is a question
        ("Unknown", "LPDDR5", True), ("Row Of Chips", "LPDDR5", True), ("SODIMM", "LPDDR5", None), ("CAMM", "LPDDR5", False),
    ],
)  # fmt: skip
def test_form_factor_tells_what_is_soldered(form, type_, soldered) -> None:
    assert module("Size: 8 GB", f"Form Factor: {form}", f"Type: {type_}").soldered is soldered


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


def table(*blocks: tuple[int, int, str]) -> str:
    rows = (f"Handle 0x{handle:04X}, DMI type {kind}, 40 bytes\nTitle\n\t{text}\n\n" for handle, kind, text in blocks)
    return "".join(rows).replace("; ", "\n\t")


ARRAY = (4, 16, "Use: System Memory; Number Of Devices: 2; Maximum Capacity: 32 GB")
FIRST = (5, 17, "Array Handle: 0x0004; Size: 8 GB; Locator: A; Type: DDR4")
SECOND = (6, 17, "Array Handle: 0x0004; Size: No Module Installed; Locator: B")


# the table's blocks → memory in MB (None: not known), sockets' locators, places counted
TABLES = [
    ([ARRAY, FIRST, SECOND], 8192, ["A", "B"], 2),
    ([ARRAY, FIRST], None, ["A"], 2),  # cut: the second place is not listed
    ([FIRST, SECOND], None, ["A", "B"], None),  # nothing counts the places
    ([ARRAY, FIRST, FIRST, SECOND, ARRAY], 8192, ["A", "B"], 2),  # printed twice
    ([ARRAY, FIRST, (6, 17, "Array Handle: 0x0004; Size: Unknown; Locator: B")], None, ["A", "B"], 2),
    # the firmware's own chip is no memory: by its type, or by its array
    ([ARRAY, FIRST, SECOND, (7, 17, "Size: 32 MB; Locator: ROM; Type: Flash")], 8192, ["A", "B"], 2),
    ([ARRAY, (9, 16, "Use: Flash Memory; Number Of Devices: 1"), FIRST, SECOND,
      (7, 17, "Array Handle: 0x0009; Size: 32 MB; Locator: ROM; Type: Unknown")], 8192, ["A", "B"], 2),
    ([(4, 16, "Use: System Memory; Number Of Devices: 3000"), FIRST], None, ["A"], None),
]  # fmt: skip


@pytest.mark.parametrize(("blocks", "memory_mb", "locators", "devices"), TABLES)
def test_the_memory_table(blocks, memory_mb, locators, devices) -> None:
    got = read_bundle({"dmidecode.txt": table(*blocks)})
    assert (got.memory_mb, [m.locator for m in got.modules], got.devices) == (memory_mb, locators, devices)


def test_two_machines_in_one_bundle_are_told_apart_and_none_is_taken() -> None:
    def system(name: str) -> str:
        return table((1, 1, f"Manufacturer: Veyra; Product Name: {name}"))

    both = read_bundle({"a/dmidecode.txt": system("Strand 15"), "b/dmidecode.txt": system("Cairn 14")})
    assert not both.understood and not both.system
    assert "a/dmidecode.txt and b/dmidecode.txt are of two machines" in both.not_understood[0]
    same = read_bundle({"a/dmidecode.txt": system("Strand 15"), "b/dmidecode.txt": system("STRAND-15")})
    assert same.system == "Strand 15"
    one_file = read_bundle({"dmidecode.txt": system("Strand 15") + system("Cairn 14")})
    assert not one_file.system and "two machines" in one_file.not_understood[0]
    other = table(ARRAY, (5, 17, "Array Handle: 0x0004; Size: 16 GB; Locator: A"), SECOND)
    disagree = read_bundle({"a/dmidecode.txt": table(ARRAY, FIRST, SECOND), "b/dmidecode.txt": other})
    assert not disagree.modules and "disagree on the memory" in disagree.not_understood[0]


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
    cut = read_bundle({"dmidecode.txt": text.rstrip("\n")[:-2]})  # "Corvane Rill 4": the last line is not whole
    assert cut.processor == "" and cut.cut_off == ("dmidecode.txt",)


LSPCI = """00:00.0 Host bridge [0600]: Corvane Host [1d00:0001] (rev 08)
\tSubsystem: Veyra Device [1d01:0001]

00:1d.0 PCI bridge [0604]: Corvane Root Port [1d00:0101] (rev 01) (prog-if 00 [Normal decode])
\tBus: primary=00, secondary=01, subordinate=01, sec-latency=0
\t\tLnkCap:\tPort #9, Speed 8GT/s, Width x4, ASPM L1, Exit Latency L1 <16us
\t\tLnkSta:\tSpeed 2.5GT/s (downgraded), Width x2 (downgraded)

00:1d.4 PCI bridge [0604]: Corvane Root Port [1d00:0102] (rev 01) (prog-if 00 [Normal decode])
\tBus: primary=00, secondary=03, subordinate=03, sec-latency=0
\t\tLnkCap:\tPort #13, Speed 16GT/s, Width x4, ASPM L1, Exit Latency L1 <16us
\t\tLnkSta:\tSpeed 2.5GT/s (downgraded), Width x0 (downgraded)

01:00.0 Non-Volatile memory controller [0108]: Quern NVMe Controller [1d0f:0001] (rev 01) (prog-if 02 [NVM Express])
\tCapabilities: [70] Express (v2) Endpoint
\t\tLnkCap:\tPort #0, Speed 8GT/s, Width x4, ASPM L1, Exit Latency L1 <64us
\t\t\tClockPM+ Surprise- LLActRep- BwNot- ASPMOptComp+
\t\tLnkSta:\tSpeed 2.5GT/s (downgraded), Width x2 (downgraded)

02:00.0 Network controller [0280]: Larkfield LR-AX2-E30 [1d1f:0202] (rev 1a)
\tSubsystem: Larkfield LF-0202 [1d1f:0001]
"""


def test_verbose_lspci() -> None:
    got = read_bundle({"lspci.txt": LSPCI, "places.txt": PLACES, "lsblk.json": LSBLK})
    (radio,) = got.radios
    assert (radio.name, radio.id) == ("Larkfield LR-AX2-E30", "1d1f:0202 Larkfield LF-0202")
    assert (radio.bus, radio.pci) == ("pcie", "0000:02:00.0")
    # a port without a card is kept, and shows no link
    assert [(p.pci, str(p.capable), p.holds) for p in got.ports] == [
        ("0000:00:1d.0", "PCIe 3 ×4", "0000:01:00.0"),
        ("0000:00:1d.4", "PCIe 4 ×4", ""),
    ]
    twice = read_bundle({"lspci.txt": LSPCI + LSPCI})
    assert len(twice.radios) == 1 and len(twice.ports) == 2
    mixed = LSPCI + "01:00.0 Network controller [0280]: Tolland TR-1 [1d2f:0001]\n"
    assert not read_bundle({"lspci.txt": mixed}).radios and "two machines" in read_lspci(mixed)["problems"][0]


@pytest.mark.parametrize("text", ["", "lspci: command not found", "pcilib: Cannot open /proc/bus/pci\n", "\n\n"])
def test_no_lspci(text) -> None:
    assert read_lspci(text) == {}


def disk(name: str, **more) -> dict:
    return {
        "name": name,
        "type": "disk",
        "size": 10**12,
        "model": "QK2-1T0-80M",
        "tran": None,
        "serial": f"S-{name}",
    } | more


def blocks(*disks: dict) -> str:
    return json.dumps({"blockdevices": disks})


LSBLK = blocks(disk("nvme0n1", tran="nvme"), disk("sda", tran="sata", size="500107862016"))
PLACES = (
    "nvme0n1 - /sys/devices/pci0000:00/0000:00:1d.0/0000:01:00.0/nvme/nvme0/nvme0n1\n"
    "sda - /sys/devices/pci0000:00/0000:00:17.0/ata1/host0/target0:0:0/0:0:0:0/block/sda\n"
)


def test_a_link_is_given_to_the_drive_at_its_address_and_to_no_other() -> None:
    def drives(**files: str):
        return {
            d.name: d
            for d in read_bundle({"lspci.txt": LSPCI} | {k.replace("_", "."): v for k, v in files.items()}).drives
        }

    got = drives(lsblk_json=LSBLK, places_txt=PLACES)
    assert (got["nvme0n1"].running, got["nvme0n1"].port) == (Link(generation=1, lanes=2), Link(generation=3, lanes=4))
    assert (got["nvme0n1"].pci, got["nvme0n1"].port_pci) == ("0000:01:00.0", "0000:00:1d.0")
    assert got["sda"].running is None and got["sda"].pci == "0000:00:17.0" and got["sda"].size_bytes == 500107862016
    assert drives(lsblk_json=LSBLK)["nvme0n1"].running is None  # a name is no address
    elsewhere = PLACES.replace("0000:01:00.0", "0000:05:00.0")
    assert drives(lsblk_json=LSBLK, places_txt=elsewhere)["nvme0n1"].running is None
    told = json.dumps({"Devices": [{"Subsystems": [{"Controllers": [
        {"Controller": "nvme0", "SerialNumber": "S-nvme0n1", "ModelNumber": "QK2-1T0-80M", "Firmware": "V7", "Transport": "pcie",
         "Address": "0000:01:00.0", "Namespaces": [{"NameSpace": "nvme0n1", "PhysicalSize": 10**12}]}]}]}]})  # fmt: skip
    by_list = drives(lsblk_json=LSBLK, nvme_json=told)["nvme0n1"]
    assert by_list.running == Link(generation=1, lanes=2) and by_list.firmware == "V7"  # what lsblk left open is filled


def test_two_tools_on_one_drive_fill_each_other_and_never_mix_two() -> None:
    nvme = {"Devices": [
        {"DevicePath": "/dev/nvme0n1", "ModelNumber": "QK2", "SerialNumber": "S-nvme0n1", "Firmware": "V7", "PhysicalSize": 10**12},
        {"DevicePath": "/dev/nvme1n1", "ModelNumber": "QK4"},
    ]}  # fmt: skip
    lsblk = blocks(disk("nvme0n1", tran="nvme", model="Quern QK2"))
    got = read_bundle({"lsblk.json": lsblk, "nvme.json": json.dumps(nvme)})
    assert [(d.name, d.model, d.firmware) for d in got.drives] == [
        ("nvme0n1", "Quern QK2", "V7"),
        ("nvme1n1", "QK4", ""),
    ]
    other = json.dumps(nvme).replace("S-nvme0n1", "ANOTHER")
    mixed = read_bundle({"lsblk.json": lsblk, "nvme.json": other})
    assert [d.name for d in mixed.drives] == ["nvme1n1"] and "disagree on drive nvme0n1" in mixed.not_understood[0]


# block devices → the drives of the machine
GUESTS = [
    ([disk("sda", tran="usb")], "", []),
    ([disk("sda", tran="sata", rm=True)], "", []),  # a card reader's
    ([disk("sda", tran="sata", size=0)], "", []),  # a reader without a card
    ([disk("loop0", type="loop"), disk("zram0"), disk("sr0", type="rom"), disk("dm-0")], "", []),
    ([disk("sda")], "sda - /sys/devices/pci0000:00/0000:00:14.0/usb1/1-2/block/sda\n", []),
    # soldered storage is told by its boot areas or by the kernel's word; its areas are no drives
    ([disk("mmcblk0"), disk("mmcblk0boot0"), disk("mmcblk0boot1"), disk("mmcblk0rpmb")], "", ["mmcblk0"]),
    ([disk("mmcblk0")], "mmcblk0 MMC /sys/devices/pci0000:00/0000:00:1a.0/mmc_host/mmc0/mmc0:0001/block/mmcblk0\n", ["mmcblk0"]),
    ([disk("mmcblk0")], "mmcblk0 SD /sys/devices/pci0000:00/0000:00:1a.0/mmc_host/mmc0/mmc0:0001/block/mmcblk0\n", []),
    ([disk("mmcblk0")], "", []),  # a card or soldered: nothing tells
]  # fmt: skip


@pytest.mark.parametrize(("disks", "places", "wanted"), GUESTS)
def test_what_is_no_drive_of_the_machine(disks, places, wanted) -> None:
    got = read_bundle(
        {"lsblk.json": blocks(*disks), "places.txt": places} if places else {"lsblk.json": blocks(*disks)}
    )
    assert [d.name for d in got.drives] == wanted


def part(name: str, **more) -> dict:
    return {"name": name, "type": "part", "size": 10**9, "fstype": "ext4"} | more


ESP = {
    "fstype": "vfat",
    "parttype": "c12a7328-f81f-11d2-ba4b-00a0c93ec93b",
    "partuuid": "b70bcc9e-6520-5488-a298-73e0074085fb",
}
OWN = disk("nvme0n1", tran="nvme", children=[
    part("nvme0n1p1", **ESP, fsused="1000000", mountpoint="/boot/efi"),
    part("nvme0n1p2", fstype="crypto", children=[part("vault", type="crypt", fsused="40000000000", fssize="80000000000", mountpoint="/")]),
])  # fmt: skip
STICK = disk("sdb", tran="usb", children=[part("sdb1", mountpoint="/run/live")])
BUSY = "              total  used  free\nMem:  8000  5000  3000\nSwap:  2000  1000  1000\n"


# files → whose system ran, and the owner's peak in MB
SYSTEMS = [
    ({"lsblk.json": blocks(OWN)}, True, 6000),  # through what lies between
    ({"lsblk.json": blocks(STICK), "root.txt": "overlay / overlay rw 0 0\n"}, False, None),
    ({"lsblk.json": blocks(OWN | {"children": [part("nvme0n1p1")]}, STICK), "df.txt": "overlay 400 40 360 10% /\n"}, False, None),
    ({"lsblk.json": blocks(disk("sda", tran="usb")), "df.txt": "/dev/sda2 400 40 360 10% /\n"}, False, None),  # installed on a stick
    ({"lsblk.json": blocks(disk("sda", tran="sata")), "df.txt": "/dev/sda2 400 40 360 10% /\n"}, True, 6000),
    ({"lsblk.json": blocks(disk("sda", tran="sata")), "df.txt": "/dev/sdaa2 400 40 360 10% /\n"}, None, None),
    ({"df.txt": "/dev/sda2 400 40 360 10% /\n"}, None, None),  # no list of drives: whose is sda?
    ({}, None, None),
]  # fmt: skip


@pytest.mark.parametrize(("files", "own", "peak"), SYSTEMS)
def test_the_owners_system_is_told_from_the_stick(files, own, peak) -> None:
    got = read_bundle(files | {"free.txt": BUSY})
    assert got.own_system is own
    assert (got.owners_load and got.owners_load.peak_memory_mb) == peak
    assert got.load is not None and got.load.peak_memory_mb == 6000  # seen, whosever it is


def test_data_used_and_the_loader_are_their_drives() -> None:
    started = (
        "BootCurrent: 0001\nBoot0001* Disk\tHD(1,GPT,B70BCC9E-6520-5488-A298-73E0074085FB,0x800,0x100000)/File(x)\n"
    )
    got = read_bundle({"lsblk.json": blocks(OWN), "efibootmgr.txt": started})
    (drive,) = got.drives
    assert drive.used_bytes == 40_001_000_000 and drive.started
    assert got.load is not None and (got.load.drive_used_gb, got.load.drive_filled_percent) == (40.0, 49)
    other = read_bundle(
        {"lsblk.json": blocks(OWN), "efibootmgr.txt": started.replace("BootCurrent: 0001", "BootCurrent: 0002")}
    )
    assert not other.drives[0].started
    unmounted = disk("sda", tran="sata", children=[part("sda1")])  # how full it is nobody knows
    two = read_bundle({"lsblk.json": blocks(OWN, unmounted)})
    assert two.load is None or two.load.drive_used_gb is None


def test_health_of_a_drive() -> None:
    log = json.dumps({"device_name": "/dev/nvme0n1", "log": {"temperature": 314, "percent_used": 7}})
    sata = json.dumps(
        {
            "device": {"name": "/dev/sda"},
            "serial_number": "S-sda",
            "firmware_version": "F1",
            "temperature": {"current": 33},
        }
    )
    got = {
        d.name: d for d in read_bundle({"lsblk.json": LSBLK, "smart-nvme0n1.json": log, "smart-sda.json": sata}).drives
    }
    assert (got["nvme0n1"].temperature_c, got["nvme0n1"].worn_percent) == (41, 7)  # 314 K
    assert (got["sda"].temperature_c, got["sda"].firmware, got["sda"].worn_percent) == (33, "F1", None)
    stranger = sata.replace("S-sda", "ANOTHER")
    assert read_bundle({"lsblk.json": LSBLK, "smart-sda.json": stranger}).drives[1].temperature_c is None


# -- packs ---------------------------------------------------------------------------------------
# battery text → model, design and full charge in mWh
PACKS = [
    ("  model: AP-1\n  energy-full: 41.00 Wh\n  energy-full-design: 52.00 Wh\n", ("AP-1", 52000, 41000)),
    ("  model: AP-1\n  energy-full: 41,50 Wh\n", ("AP-1", None, 41500)),  # a system that writes commas
    ("  model:\n  energy-full: 41 Wh\n", ("", None, 41000)),
    ("  energy-full-design: 52.5 Wh\n", ("", 52500, None)),
    ("  model: Unknown\n  energy-full: 0 Wh\n", ("", None, 0)),
]


@pytest.mark.parametrize(("text", "wanted"), PACKS)
def test_battery(text, wanted) -> None:
    (got,) = read_bundle({"upower.txt": text}).packs
    assert (got.model, got.design_mwh, got.full_mwh) == wanted


# µWh as it is; µAh times the design voltage: 4,000,000 µAh × 11,400,000 µV = 45.6 Wh
SYSFS = [
    ("ENERGY_FULL_DESIGN=52000000 ENERGY_FULL=41000000 MODEL_NAME=AP-1 CYCLE_COUNT=310", [("AP-1", 52000, 41000, 310)]),
    ("CHARGE_FULL_DESIGN=4000000 CHARGE_FULL=3000000 VOLTAGE_MIN_DESIGN=11400000", [("", 45600, 34200, None)]),
    ("CHARGE_FULL_DESIGN=4000000 CHARGE_FULL=3000000", []),  # charge without a voltage is no energy
    ("ENERGY_FULL_DESIGN=0 ENERGY_FULL=41000000 CYCLE_COUNT=0", [("", None, 41000, None)]),
    ("STATUS=Full CAPACITY=97", []),
    ("PRESENT=0 ENERGY_FULL_DESIGN=0 ENERGY_FULL=0", []),  # a bay without a pack is no pack of 0 mWh
    ("SCOPE=Device ENERGY_FULL_DESIGN=900000 ENERGY_FULL=900000", []),  # a mouse's
    ("NAME=BAT0 ENERGY_FULL=41000000 MODEL_NAME=A NAME=BAT1 ENERGY_FULL=23000000 MODEL_NAME=B",
     [("A", None, 41000, None), ("B", None, 23000, None)]),
]  # fmt: skip


@pytest.mark.parametrize(("values", "wanted"), SYSFS)
def test_sysfs_battery(values, wanted) -> None:
    text = "".join(f"POWER_SUPPLY_{v}\n" for v in values.split())
    got = read_bundle({"battery-BAT0.txt": text}).packs
    assert [(b.model, b.design_mwh, b.full_mwh, b.cycles) for b in got] == wanted


def test_two_tools_on_one_pack_and_the_supply() -> None:
    upower = "Device: /x/battery_BAT0\n  native-path: BAT0\n  vendor: Amberly\n  power supply: yes\n  energy-full: 41.00 Wh\n"
    upower += "Device: /x/mouse\n  power supply: no\n  energy-full: 1 Wh\n"
    power = "POWER_SUPPLY_NAME=BAT0\nPOWER_SUPPLY_ENERGY_FULL=41000000\nPOWER_SUPPLY_STATUS=Discharging\n"
    power += "POWER_SUPPLY_NAME=AC\nPOWER_SUPPLY_TYPE=Mains\nPOWER_SUPPLY_ONLINE=1\n"
    power += "POWER_SUPPLY_NAME=C\nPOWER_SUPPLY_TYPE=USB\nPOWER_SUPPLY_ONLINE=1\nPOWER_SUPPLY_VOLTAGE_MAX=20000000\nPOWER_SUPPLY_CURRENT_MAX=2250000\n"
    got = read_bundle({"upower.txt": upower, "power.txt": power})
    (pack,) = got.packs
    assert (pack.maker, pack.full_mwh, pack.status) == ("Amberly", 41000, "Discharging")
    assert got.adapter == ReadAdapter(online=True, most_mw=45000)  # 20 V × 2.25 A


def test_an_inventory_and_the_kernel_speak_of_the_same_pack() -> None:
    power = "POWER_SUPPLY_NAME=BAT0\nPOWER_SUPPLY_ENERGY_FULL=41000000\nPOWER_SUPPLY_MODEL_NAME=AP-1\n"
    inventory = json.dumps({"Win32_Battery": {"Name": "AP-1", "DesignCapacity": "52000"}})
    assert [p.name for p in read_bundle({"power.txt": power, "cim.json": inventory}).packs] == ["BAT0"]
    assert len(read_bundle({"a/cim.json": inventory, "b/cim.json": inventory}).packs) == 1


def test_a_namespace_is_no_partition_of_another() -> None:
    two = blocks(disk("nvme0n1", tran="nvme"), disk("nvme0n12", tran="usb"))
    assert read_bundle({"lsblk.json": two, "df.txt": "/dev/nvme0n12 400 40 360 10% /\n"}).own_system is False
    assert read_bundle({"lsblk.json": two, "df.txt": "/dev/nvme0n1p2 400 40 360 10% /\n"}).own_system is True


# -- Bluetooth and signal ------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("files", "wanted"),
    [
        ({"lsusb.txt": "Bus 001 Device 004: ID 1d1f:0029 Bluetooth interface\n"}, (None, None)),
        ({"lsusb.txt": "Bus 001 Device 001: ID 1d6b:0002 root hub\n"}, None),  # no word is "not seen"
        ({"usb.txt": "1-4:1.0 1d1f:0029 fixed e0/01/01 btusb Some name\n"}, (True, True)),
        ({"usb.txt": "1-4:1.0 1d1f:0029 fixed e0/01/01 -\n"}, (True, False)),  # there, and driven by nothing
        ({"usb.txt": "1-4:1.0 1d1f:0029 removable e0/01/01 btusb Stick\n"}, None),  # somebody's stick
        ({"usb.txt": "1-0:1.0 1d6b:0002 unknown 09/00/00 hub\n"}, None),
        ({"lsusb.txt": ""}, None),
    ],
)
def test_bluetooth(files, wanted) -> None:
    got = read_bundle(files).bluetooth
    assert (got and (got.fixed, got.driver)) == wanted


def test_the_signal_is_the_radios_at_that_address() -> None:
    iw = "Station 02:00:00:00:00:01 (on wlan0)\n\tsignal:  \t-47 [-47, -90] dBm\n\tsignal avg:\t-47 [-47, -49] dBm\n"
    net = "wlan0 /sys/devices/pci0000:00/0000:00:1d.2/0000:02:00.0/net/wlan0\n"
    assert read_bundle({"lspci.txt": LSPCI, "iw-wlan0.txt": iw, "net.txt": net}).radios[0].chains_dbm == (-47, -49)
    stick = net.replace("0000:00:1d.2/0000:02:00.0", "0000:00:14.0/usb1/1-3")
    assert read_bundle({"lspci.txt": LSPCI, "iw-wlan0.txt": iw, "net.txt": stick}).radios[0].chains_dbm == ()
    assert read_bundle({"lspci.txt": LSPCI, "iw-wlan0.txt": iw}).radios[0].chains_dbm == ()


@pytest.mark.parametrize(
    ("text", "bits"), [("Linux x 6.1 x86_64", 64), ("Linux x i686 GNU", 32), ("Linux aarch64", 64), ("plan9", None)]
)
def test_word_size(text, bits) -> None:
    assert read_bundle({"uname.txt": text}).word_bits == bits


# -- the CIM inventory ---------------------------------------------------------------------------
def cim(**classes):
    return read_bundle({"cim.json": json.dumps({f"Win32_{k}": v for k, v in classes.items()})})


# a memory device → size in MB, rated, running, generation, soldered (DSP0134 types 24 26 34, LPDDR 29 30 35)
CIM_MEMORY = [
    ({"Capacity": "8589934592", "Speed": 2667, "ConfiguredClockSpeed": 2400, "SMBIOSMemoryType": 26, "FormFactor": 12},
     (8192, 2667, 2400, 4, False)),
    ({"Capacity": 17179869184, "Speed": "5600", "SMBIOSMemoryType": 34, "FormFactor": 12}, (16384, 5600, None, 5, False)),
    ({"Capacity": 4294967296, "Speed": 0, "SMBIOSMemoryType": 24, "FormFactor": 12}, (4096, None, None, 3, False)),
    ({"Capacity": 536870912, "SMBIOSMemoryType": 24, "FormFactor": 12}, (512, None, None, 3, False)),
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 30, "FormFactor": 0}, (8192, None, None, 4, True)),
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 35, "FormFactor": 12}, (8192, None, None, 5, None)),  # a question
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 26, "FormFactor": 11}, (8192, None, None, 4, True)),
    ({"Capacity": 8589934592, "SMBIOSMemoryType": 26, "FormFactor": 21}, (8192, None, None, 4, True)),
    ({"Capacity": None, "SMBIOSMemoryType": 2, "Speed": -1}, (None, None, None, None, None)),
    ({"Capacity": "many", "SMBIOSMemoryType": "junk"}, (None, None, None, None, None)),
]  # fmt: skip


@pytest.mark.parametrize(("row", "wanted"), CIM_MEMORY)
def test_cim_memory(row, wanted) -> None:
    m = cim(PhysicalMemory=row).modules[0]
    assert (m.size_mb, m.rated_mts, m.running_mts, m.generation, m.soldered) == wanted


def test_cim_inventory_whole() -> None:
    """One object or a list a class; the stick it was taken with is no drive of the machine."""
    got = cim(
        ComputerSystem={"Manufacturer": "Veyra", "Model": " Strand 15 ", "TotalPhysicalMemory": "17045651456"},
        BaseBoard={"Product": "Default string"},
        BIOS=[{"SMBIOSBIOSVersion": None}, {"SMBIOSBIOSVersion": "1.14"}],
        Processor={"Name": "Rill 430"},
        DiskDrive=[
            {"DeviceID": r"\\.\PHYSICALDRIVE0", "Model": "Quern QK3-1T0", "SerialNumber": "AA11.", "Size": "1000204886016",
             "InterfaceType": "SCSI", "PNPDeviceID": r"SCSI\DISK&VEN_NVME&PROD_X\5&1"},
            {"DeviceID": r"\\.\PHYSICALDRIVE1", "Model": "Stick", "InterfaceType": "USB"},
            {"DeviceID": r"\\.\PHYSICALDRIVE3", "Model": "Card", "InterfaceType": "SCSI", "MediaType": "Removable Media"},
            {"Model": "Old one", "Size": None, "InterfaceType": "IDE"},
        ],
        NetworkAdapter=[
            {"Name": "Gannet Wi-Fi 6", "PNPDeviceID": r"PCI\VEN_1D1F&DEV_00A1&SUBSYS_00"},
            {"Name": "Wi-Fi Direct Virtual Adapter", "PNPDeviceID": r"{5D624F94}\VWIFIMP_WFD\5&1"},
            {"Name": "Wi-Fi stick", "PNPDeviceID": r"USB\VID_1D1F&PID_00A1"},
            {"Name": "Wired", "NetConnectionID": "Ethernet", "PNPDeviceID": r"PCI\VEN_1D1F&DEV_0001"},
        ],
        Battery=[{"Name": "AP-1", "DesignCapacity": "52000", "FullChargeCapacity": None}, {"Name": "AP-2"}],
    )  # fmt: skip
    assert (got.maker, got.system, got.board, got.firmware) == ("Veyra", "Strand 15", "", "1.14")
    assert got.visible_mb == 16256  # 17,045,651,456 / 2^20
    assert [(d.name, d.serial, d.transport) for d in got.drives] == [
        ("PHYSICALDRIVE0", "AA11", "nvme"),
        ("PHYSICALDRIVE3", "", "sata"),
    ]
    assert [(r.name, r.id) for r in got.radios] == [("Gannet Wi-Fi 6", "1d1f:00a1")]
    assert [(p.model, p.design_mwh, p.full_mwh) for p in got.packs] == [("AP-1", 52000, None), ("AP-2", None, None)]


# how many sockets there are stands with the array; filled places alone do not tell
@pytest.mark.parametrize(
    ("arrays", "devices"),
    [
        ({"MemoryDevices": 2, "Use": 3}, 2),
        ([{"MemoryDevices": 2, "Use": 3}, {"MemoryDevices": 1, "Use": 3}], 3),
        ([{"MemoryDevices": 2, "Use": 3}, {"MemoryDevices": 1, "Use": 5}], 2),  # 5 is flash
        ({"MemoryDevices": None}, None),
        ({"MemoryDevices": 3000, "Use": 3}, None),
        (None, None),
    ],
)
def test_cim_counts_places_only_where_they_are_counted(arrays, devices) -> None:
    got = cim(
        PhysicalMemory={"Capacity": 8589934592, "SMBIOSMemoryType": 26, "FormFactor": 12}, PhysicalMemoryArray=arrays
    )
    assert got.devices == devices
    drafted = from_reading(got.model_copy(update={"system": "Somebody 14"}))
    listed = 0 if arrays and devices is None and arrays["MemoryDevices"] == 3000 else 1
    assert sum(s["kind"] == "memory" for s in drafted["slots"]) == max(devices or 0, listed)


@pytest.mark.parametrize(
    "text",
    [
        "[]",
        "3",
        '{"Win32_DiskDrive": 7}',
        '{"Win32_DiskDrive": [null, "x"]}',
        '{"Win32_',
        '{"Win32_Battery": NaN}',
        '{"Win32_Battery": {"DesignCapacity": ' + "9" * 5000 + "}}",
        '{"Win32_Battery": "\\ud800"}',
    ],  # fmt: skip
)
def test_odd_cim_gives_what_it_holds_and_says_the_rest_in_words(text) -> None:
    got = read_bundle({"cim.json": text})
    assert not got.drives and not got.understood and len(got.not_understood) == 1
    assert "Error:" not in got.not_understood[0]


# -- drafts --------------------------------------------------------------------------------------
def drafted(**found) -> Machine:
    return Machine.model_validate(from_reading(Reading(maker="Brannock", system="Weir 14", **found)))


def test_a_draft_holds_what_the_reading_proves_and_asks_the_rest() -> None:
    lsblk = blocks(
        disk("nvme0n1", tran="nvme"), disk("sda", tran="sata", rota=False), disk("sdb", tran="sata", rota=True)
    )
    memory = table(
        (4, 16, "Use: System Memory; Number Of Devices: 4"),
        (5, 17, "Array Handle: 0x0004; Size: 8 GB; Form Factor: Row Of Chips; Type: LPDDR5; Locator: U1"),
        (6, 17, "Array Handle: 0x0004; Size: 8 GB; Form Factor: SODIMM; Type: LPDDR5; Locator: U2"),
        (
            7,
            17,
            "Array Handle: 0x0004; Size: 8 GB; Form Factor: SODIMM; Type: DDR5; Locator: DIMM 0; Bank Locator: P0 CHANNEL B",
        ),
    )
    read = read_bundle({"lsblk.json": lsblk, "places.txt": PLACES, "lspci.txt": LSPCI, "dmidecode.txt": memory})
    machine = drafted(drives=read.drives, modules=read.modules, devices=read.devices, packs=read.packs)
    assert [s.kind for s in machine.slots] == ["memory", "m2_drive", "bay"]
    (chips,) = machine.memory.soldered
    assert (chips.capacity_gb, chips.rated_mts, chips.channel) == (8, None, None)  # nothing is made up
    asked = [f.name for f in machine.features]
    assert asked == [
        "U2: soldered, or a module?",
        "One more place for memory: a socket, or a pad without chips?",
        "QK2-1T0-80M: a card or a drive in a bay?",
    ]
    assert machine.configurations[0].year is None
    card = from_reading(
        Reading(drives=read.drives[1:2]), [made.drive("QK2-1T0-80M", interface="sata", keys=("B", "M"))]
    )
    assert [s["kind"] for s in card["slots"]] == ["m2_drive"]  # the catalogue knows the number


# -- the real tools' own words -------------------------------------------------------------------
CAPTURES = sorted(p for p in (Path(__file__).parent / "captures").iterdir() if p.is_dir())


@pytest.mark.parametrize("folder", CAPTURES, ids=lambda p: p.name)
def test_the_laptop_prints_what_the_real_tools_print(folder) -> None:
    """dmidecode, lspci and lsblk over the same device tree (tests/formats/make_captures.py): the readers find the same in both."""
    machine, _, configuration = folder.name.partition(".")
    own = folder.name.startswith(("veyra-strand", "halden-almanac"))
    build = build_today(made.demo_machine(machine).configured(configuration))
    printed = laptop.bundle(build, load=laptop.SimulatedLoad() if own else None)
    only = {name: printed[name] for name in ("places.txt",)}
    real = read_bundle({p.name: p.read_text() for p in folder.iterdir()} | only)
    ours = read_bundle({name: printed[name] for name in ("dmidecode.txt", "lspci.txt", "lsblk.json", "places.txt")})
    assert not real.not_understood and not ours.not_understood
    for key in ("maker", "system", "board", "processor", "memory_mb", "devices", "maximum_gb", "own_system", "ports"):
        assert getattr(real, key) == getattr(ours, key), key
    driver = {"driver"}  # lspci looks for drivers in the running system only
    assert [r.model_dump(exclude=driver) for r in real.radios] == [r.model_dump(exclude=driver) for r in ours.radios]
    same = {"bank", "voltage_mv"}
    assert [m.model_dump(exclude=same) for m in real.modules] == [m.model_dump(exclude=same) for m in ours.modules]
    full = {"volumes"}
    assert [d.model_dump(exclude=full) for d in real.drives] == [
        d.model_dump(exclude=full) | ({"firmware": r.firmware}) for d, r in zip(ours.drives, real.drives, strict=True)
    ]
    for mine, theirs in zip(ours.drives, real.drives, strict=True):
        assert [(v.name, v.kind, v.loader, v.mounted) for v in mine.volumes] == [
            (v.name, v.kind, v.loader, v.mounted) for v in theirs.volumes
        ]
    assert [(s.name, s.in_use, s.pci) for s in real.slots] == [(s.name, s.in_use, s.pci) for s in ours.slots]
