"""The doors of a reading: what a tool prints beside the data, remembers of what is gone, or cut off is no fact."""

import subprocess
from pathlib import Path

import pytest

from insertum.core.gauges import show
from insertum.core.printed.drive import drive_words
from insertum.core.standards.spd import from_hex, read_spd
from insertum.core.standards.spd_image import image
from insertum.core.survey.recognise import read_drive_label, recognise
from insertum.formats.readings.join import joined
from insertum.formats.readings.power import read_power, read_upower

GATHER = Path(__file__).resolve().parents[2] / "insertum" / "gather" / "gather.sh"
UPOWER = (
    "Device: /org/freedesktop/UPower/devices/battery_BAT0\n  native-path: BAT0\n  power supply: yes\n  battery\n    present: yes\n"
    "    energy-full: 40 Wh\n    energy-full-design: 45 Wh\n    voltage-min-design: 11.4 V\n\n"
)
DISPLAY = UPOWER.replace("battery_BAT0", "DisplayDevice").replace("native-path: BAT0", "native-path: (null)")
ABSENT = "POWER_SUPPLY_NAME=BAT0\nPOWER_SUPPLY_TYPE=Battery\nPOWER_SUPPLY_PRESENT=0\n"


def test_what_a_desktop_shows_of_all_packs_is_no_pack() -> None:
    assert len(read_upower(UPOWER + DISPLAY)["packs"]) == 1


def test_a_pack_the_kernel_says_is_absent_is_none_whatever_else_remembers_it() -> None:
    assert read_power(ABSENT)["absent_packs"] == ("BAT0",) and "packs" not in read_power(ABSENT)
    both = (
        ABSENT
        + "\nPOWER_SUPPLY_NAME=BAT1\nPOWER_SUPPLY_TYPE=Battery\nPOWER_SUPPLY_PRESENT=1\nPOWER_SUPPLY_ENERGY_FULL=40000000\n"
    )
    assert [p.name for p in read_power(both)["packs"]] == ["BAT1"]
    tools = [("upower", read_upower(UPOWER)), ("power", read_power(ABSENT))]
    assert joined(tools, []).packs == ()


@pytest.fixture
def ddr4() -> bytes:
    from insertum.core.standards.spd import Spd

    return image(
        Spd(
            generation=4, capacity_gb=16, ranks=2, chip_width=8, density_gbit=8, module_type="S", ecc=False, grade_mts=3200, cl=22,
            trfc_ns=350, voltage_mv=1200, part_number="OR4S-16G32C", serial="01020304", crc_ok=True, remarks=(),
        )
    )  # fmt: skip


def test_a_cut_image_gives_no_half_of_a_number(ddr4: bytes) -> None:
    assert read_spd(ddr4).part_number == "OR4S-16G32C"
    for length in (128, 256, 330, 335, 348):
        assert read_spd(ddr4[:length]).part_number == "", length
    assert read_spd(ddr4[:349]).part_number == "OR4S-16G32C"


def test_ranks_of_two_kinds_are_said_and_nothing_is_read_of_them(ddr4: bytes) -> None:
    mixed = bytearray(ddr4)
    mixed[12] |= 0x40
    found = read_spd(bytes(mixed))
    assert (found.ranks, found.capacity_gb, found.density_gbit) == (None, None, None) and "two kinds" in found.remarks[
        0
    ]


def test_the_printed_column_of_a_dump_is_no_data() -> None:
    data = bytes(range(0x61, 0x71))  # "abcdefghijklmnop": all of it prints, and its first letters are digits of hex
    plain = " ".join(f"{b:02x}" for b in data)
    assert (
        from_hex(
            f"00000000: {' '.join(plain.split()[i] + plain.split()[i + 1] for i in range(0, 16, 2))}  abcdefghijklmnop\n"
        )
        == data
    )
    assert from_hex(f"00000000  {plain}  |abcdefab........|\n00000010\n") == data
    assert from_hex(f"00: {plain}    ab cd ef ab\n") == data


def test_the_script_keeps_each_drives_health_under_its_own_name(tmp_path: Path) -> None:
    """Functions of sh share their variables: what one calls ``name`` is what its caller called so."""
    keep = GATHER.read_text().partition("keep() {")[2].partition("\n}\n")[0]
    script = f'work={tmp_path}; mkdir -p $work/files\nhave() {{ true; }}\nsay() {{ :; }}\nbounded() {{ "$@"; }}\nkeep() {{{keep}\n}}\n'
    script += 'name=nvme0n1\nkeep "smart-$name.log" echo health\nprintf %s "$name"\n'
    assert subprocess.run(["sh", "-c", script], capture_output=True, text=True, check=True).stdout == "nvme0n1"


DRIVES = [
    ("1TB NVMe M.2 2280, 1GB DRAM cache", {"capacity_gb": 1000}), ('2TB 2.5" SATA HDD 7mm 64MB cache', {"capacity_gb": 2000}),
    ("500GB SATA 6Gb M.2 2280", {"capacity_gb": 500, "interface": "sata", "generation": 3}), ("1 x 1TB NVMe M.2 2280", {"lanes": None}),
    ("1TB M.2 2280 NVMe 2.0", {"generation": None, "interface": "pcie"}), ("1TB M.2 2280 PCIe 3.0 x4 NVMe 1.3", {"generation": 3, "lanes": 4}),
    ("512GB M.2 2280 SATA 6 Gb/s 550/520 MB/s", {"read_mb_s": 550}),
]  # fmt: skip


@pytest.mark.parametrize(("text", "fields"), DRIVES)
def test_a_drives_label_says_what_stands_there(text: str, fields: dict) -> None:
    read = read_drive_label(text)
    assert read is not None and {k: read.get(k) for k in fields} == fields


@pytest.mark.parametrize("text", ['80GB 2.5" IDE 9.5mm', '1.92TB U.2 NVMe 2.5"', '600GB SAS 2.5"'])
def test_no_laptops_drive_is_read_as_one(text: str) -> None:
    assert read_drive_label(text) is None and (drive_words(text).ide or drive_words(text).server)


def test_what_a_label_lacks_is_named_the_interface_first() -> None:
    assert recognise("1TB M.2 2280", []).missing[0] == "interface"
    assert "interface" not in recognise("1TB M.2 2280 NVMe", []).missing


def test_bandwidth_is_of_the_rate_that_was_typed() -> None:
    for typed, shown in (
        ("3200", "51.2"),
        ("2667", "42.7"),
        ("2666", "42.7"),
        ("2000", "32.0"),
        ("2933.3", "46.9"),
        ("2133", "34.1"),
    ):
        assert f"{shown} GB/s" in str(show("bandwidth", {"mts": typed, "channels": "2"})), typed
    assert "3333 × 8 × 1 ÷ 1000 = 26.7" in show("bandwidth", {"mts": "3333", "channels": "1"}).sum
