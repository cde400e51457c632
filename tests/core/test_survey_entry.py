"""Quick entry, SPD images, gauges and pads: figures worked by hand from the standards."""

import pytest

from insertum.core.errors import InputError
from insertum.core.gauges import gauges, show
from insertum.core.job.edit import Edit, apply_edit
from insertum.core.job.shape import Job
from insertum.core.standards import clone, pad, spd, spd_image
from insertum.core.survey.recognise import read_drive_label, recognise
from insertum.formats.parts import read_csv

from . import made

PARTS = read_csv((made.DEMO / "parts.csv").read_text())


# -- SPD images: bytes written out by hand from the annexes --------------------------------------
def ddr4(**bytes_: int) -> bytes:
    """8 Gbit, x8, two ranks, SO-DIMM, tCK 0.625 ns, tAA 13.75 ns, tRFC 350 ns; ``b12=…`` changes a byte."""
    data = bytearray(512)
    data[2], data[3], data[4] = 0x0C, 0x03, 0x05  # DDR4, SO-DIMM, 8 Gbit
    data[12], data[13] = 0b001_001, 0b011  # two ranks of x8; 64 bits
    data[18] = 5  # 5 × 125 ps = 625 ps: 3200
    data[24] = 110  # 110 × 125 = 13750 ps: 22 clocks
    data[20], data[21], data[22] = 0xFF, 0xFF, 0x03  # CL 7 to 24, each of them
    data[30], data[31] = 0xF0, 0x0A  # 2800 × 125 ps = 350 ns
    data[329:341] = b"PM4S-16G32A1"
    for name, value in bytes_.items():
        data[int(name[1:])] = value
    crc = spd.crc16(bytes(data[:126]))
    data[126], data[127] = crc & 255, crc >> 8
    return bytes(data)


def ddr3(**bytes_: int) -> bytes:
    """4 Gbit, x8, two ranks, SO-DIMM, 1.35 V, tCK 1.25 ns, tAA 13.125 + 0.625 ns."""
    data = bytearray(256)
    data[2], data[3], data[4], data[6] = 0x0B, 0x03, 0x04, 0x02
    data[7], data[8], data[9], data[10], data[11] = 0b001_001, 0b011, 0x11, 1, 8
    data[12], data[16] = 10, 110  # 1250 ps: 1600; 13750 ps: 11 clocks
    data[14], data[15] = 0xFE, 0x00  # CL 5 to 11
    data[24], data[25] = 0x20, 0x08  # 2080 × 125 ps = 260 ns
    for name, value in bytes_.items():
        data[int(name[1:])] = value
    crc = spd.crc16(bytes(data[:126]))
    data[126], data[127] = crc & 255, crc >> 8
    return bytes(data)


def ddr5(**bytes_: int) -> bytes:
    """JESD400-5: 16 Gbit, x8, one rank, two sub-channels of 32 bits, SO-DIMM, tCK 416 ps, tAA 16 ns, every even CL."""
    data = bytearray(1024)
    data[2], data[3], data[4], data[6] = 0x12, 0x03, 4, 0x20
    data[20], data[21] = 416 & 255, 416 >> 8
    data[24:29] = b"\xff\xff\xff\xff\xff"
    data[30], data[31] = 16000 & 255, 16000 >> 8
    data[42], data[43] = 295 & 255, 295 >> 8
    data[235] = 0b01_00_010
    data[521:531] = b"PM5S-16G48"
    for name, value in bytes_.items():
        data[int(name[1:])] = value
    crc = spd.crc16(bytes(data[:510]))
    data[510], data[511] = crc & 255, crc >> 8
    return bytes(data)


@pytest.mark.parametrize(
    ("image", "wanted"),
    [
        # capacity = Gbit ÷ 8 × 64 ÷ width × ranks
        (ddr4(), {"capacity_gb": 16, "ranks": 2, "chip_width": 8, "grade_mts": 3200, "cl": 22, "trfc_ns": 350, "module_type": "S"}),
        (ddr4(b12=0b000_001), {"capacity_gb": 8, "ranks": 1}),  # 8 ÷ 8 × 8 × 1
        (ddr4(b12=0b000_010), {"capacity_gb": 4, "chip_width": 16}),  # 8 ÷ 8 × 4 × 1
        (ddr4(b4=0x06), {"capacity_gb": 32, "density_gbit": 16}),
        (ddr4(b13=0b01_011), {"module_type": "T", "ecc": True}),  # 8 more bits
        (ddr4(b3=0x02), {"module_type": "U"}),
        (ddr4(b18=6), {"grade_mts": 2666, "cl": 19}),  # 750 ps; 13750 ÷ 750 = 18.33
        (ddr4(b18=6, b125=(-68) & 255, b24=115, b123=(-57) & 255), {"grade_mts": 2933, "cl": 21}),  # 682 ps; 14318 ÷ 682 = 20.99
        (ddr4(b18=8, b125=(-62) & 255, b24=113, b123=(-62) & 255), {"grade_mts": 2133, "cl": 15}),  # 938 ps; 14063 ÷ 938 = 14.99
        (ddr4(b21=0x7F, b22=0x00), {"cl": None}),  # its own set ends at 21: none is long enough
        (ddr4(b21=0x7F, b22=0x02), {"cl": 24}),  # 22 and 23 are not in its set
        (ddr4(b20=0, b21=0, b22=0, b23=0x82), {"cl": 48}),  # the high range begins at 23: bit 25 is 48
        (ddr4(b4=0x03), {"capacity_gb": None, "density_gbit": None}),  # 2 Gbit: no DDR4 chip
        (ddr4(b18=3), {"grade_mts": None, "cl": None}),  # 375 ps: no grade
        (ddr3(), {"capacity_gb": 8, "grade_mts": 1600, "cl": 11, "trfc_ns": 260, "voltage_mv": 1350}),
        (ddr3(b6=0x00), {"voltage_mv": 1500}),
        (ddr3(b12=12), {"grade_mts": 1333, "cl": 10}),  # 1500 ps; 13750 ÷ 1500 = 9.17
        # 2 sub-channels × 32 bits ÷ chip width × Gbit ÷ 8 × ranks
        (ddr5(), {"capacity_gb": 16, "ranks": 1, "chip_width": 8, "density_gbit": 16, "grade_mts": 4800, "cl": 40, "voltage_mv": 1100, "module_type": "S", "trfc_ns": 295, "part_number": "PM5S-16G48"}),
        (ddr5(b234=0b001_000), {"capacity_gb": 32, "ranks": 2}),
        (ddr5(b6=0x40), {"capacity_gb": 8, "chip_width": 16}),
        (ddr5(b4=5), {"capacity_gb": 24, "density_gbit": 24}),
        (ddr5(b4=6), {"capacity_gb": 32, "density_gbit": 32}),
        (ddr5(b20=357 & 255, b21=357 >> 8), {"grade_mts": 5600, "cl": 46}),  # 16000 × 0.997 ÷ 357 + 1 = 45.7, even: 46
        (ddr5(b235=0b01_10_010), {"ecc": True, "module_type": "T", "capacity_gb": 16}),
        (ddr5(b3=6), {"module_type": "S", "clock_driver": True}),
        (ddr5(b3=2), {"module_type": "U", "clock_driver": False}),
        (ddr5(b234=0x40), {"capacity_gb": None, "ranks": None}),  # two kinds of chips
        (ddr5(b4=16 | 2 << 5), {"capacity_gb": None}),  # stacked
    ],
)  # fmt: skip
def test_images_by_hand(image, wanted) -> None:
    read = spd.read_spd(image)
    assert read.crc_ok
    assert {k: getattr(read, k) for k in wanted} == wanted
    if None in wanted.values():
        assert read.remarks


def test_a_wrong_checksum_a_short_image_and_other_generations() -> None:
    spoiled = bytearray(ddr4())
    spoiled[4] ^= 1
    assert not spd.read_spd(bytes(spoiled)).crc_ok
    assert spd.crc16(b"123456789") == 0x31C3  # the polynomial's own check value
    for bad, says in (
        (b"\0" * 127, "at least 128"),
        (bytes(128), "memory type"),
        (ddr4(b2=0x12)[:256], "DDR5"),
        (ddr4(b2=0x13), "memory type"),
        (ddr4(b2=8), "DDR2"),
    ):
        with pytest.raises(InputError, match=says):
            spd.read_spd(bad)
    second = bytearray(ddr4())
    second[130] = 1  # the second block has a sum of its own
    assert not spd.read_spd(bytes(second)).crc_ok
    second[254:256] = spd.crc16(bytes(second[128:254])).to_bytes(2, "little")
    assert spd.read_spd(bytes(second)).crc_ok
    five = bytearray(ddr5())
    five[509] ^= 1
    assert not spd.read_spd(bytes(five)).crc_ok
    assert spd.read_spd(spd_image.image(spd.read_spd(ddr5()))) == spd.read_spd(ddr5())
    dump = "".join(f"{i:04x}: {ddr4()[i : i + 16].hex(' ')}  |................|\n" for i in range(0, 512, 16))
    assert spd.from_hex(dump) == ddr4() == spd.from_hex(ddr4().hex(" "))
    assert spd.read_spd(spd_image.image(spd.read_spd(ddr4()))) == spd.read_spd(ddr4())
    # A number longer than its field is cut, and nothing behind it moves.
    for whole, field in ((spd.read_spd(ddr4()), 20), (spd.read_spd(ddr5()), 30)):
        long = spd_image.image(whole.model_copy(update={"part_number": "X" * 40}))
        assert len(long) == len(spd_image.image(whole)) and spd.read_spd(long).part_number == "X" * field
    with pytest.raises(InputError, match="no bytes"):
        spd.from_hex("not a dump")


def test_dumps_as_the_tools_write_them() -> None:
    """Offsets, an ASCII column, repeated lines left out, and the offset of the end, which is no data."""
    data = bytes(range(16)) + bytes(48)
    row, zeros = data[:16].hex(" "), bytes(16).hex(" ")
    assert spd.from_hex(f"00000000  {row}  |...|\n00000010  {zeros}  |...|\n*\n00000040\n") == data
    assert spd.from_hex(f"0000000 {row}\n0000020 {zeros}\n*\n0000100\n") == data  # octal: 16, then 64
    assert spd.from_hex(f"{row}\n{zeros}\n") == data[:32]  # no offsets at all
    assert spd.from_hex(data.hex()) == data
    with pytest.raises(InputError, match="nothing tells how many"):
        spd.from_hex(f"00000000  {row}\n*\n00000018\n")


# -- labels -------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("text", "kind", "known", "proves"),
    [
        ("PM4S-16G32A1", "memory", "PM4S-16G32A1", None),
        ("pm4s 16g32al", "memory", "PM4S-16G32A1", None),  # l for 1
        ("P/N: PM4S-16G32A1 made in", "memory", "PM4S-16G32A1", None),
        ("LF-0202", "radio", "LR-AX2-E30", None),  # by its FRU
        ("16GB 2Rx8 PC4-3200AA-SE1-11", "memory", None, {"capacity_gb": 16, "ranks": 2, "cl": 22, "voltage_mv": 1200}),
        ("4GB 1Rx8 PC3L-12800S-11-11-B2", "memory", None, {"generation": 3, "voltage_mv": 1350, "module_type": "S"}),
        # by position: the word for the module, the latency after the speed, a kit as count × modules
        ("DDR4 SDRAM UDIMM 16GB 2Rx8 PC4-3200AA", "memory", None, {"module_type": "U", "generation": 4}),
        ("16GB 2Rx8 PC4-3200AA SO-DIMM", "memory", None, {"module_type": "S"}),
        ("16GB 2Rx8 PC4-3200 CL20", "memory", None, {"grade_mts": 3200, "cl": 20, "module_type": None}),
        ("32GB (2x16GB) 2Rx8 PC4-3200AA-SE1-11", "memory", None, {"capacity_gb": 16}),
        ("2x8GB 1Rx8 PC4-3200AA-SA2-11", "memory", None, {"capacity_gb": 8}),
        ("1TB NVMe PCIe 4 x4 2280-S3-M", "m2_drive", None, {"capacity_gb": 1000, "interface": "pcie", "generation": 4, "lanes": 4, "below_um": 0, "keys": ("M",)}),
        ("SATA 6Gb/s 480 GB NGFF 2242", "m2_drive", None, {"capacity_gb": 480, "interface": "sata", "length_mm": 42}),
        ("mSATA 128GB", "m2_drive", None, {"form": "mini", "interface": "sata"}),
        ("500GB SATA 7 mm", "bay_drive", None, {"capacity_gb": 500, "height_um": 7000}),
        ("1TB HDD SATA 9.5 mm", "bay_drive", None, {"capacity_gb": 1000, "spinning": True}),
        ("1TB SSD SATA 7 mm", "bay_drive", None, {"capacity_gb": 1000, "spinning": None}),
        # a seller's sticker, and what it leaves open
        ("16GB DDR4-3200 SO-DIMM", "memory", None, {"grade_mts": 3200, "module_type": "S", "ranks": None, "voltage_mv": 1200}),
        ("16GB DDR4-2400 ECC SO-DIMM", "memory", None, {"module_type": "T"}),
        ("4GB DDR3-1600 SO-DIMM", "memory", None, {"voltage_mv": None}),  # 1.5 V or 1.35 V: the sticker does not say
        ("4GB DDR3-1600 SO-DIMM 1.35V", "memory", None, {"voltage_mv": 1350}),
        ("2230-S1-A-E", "radio", None, {"keys": ("A", "E"), "below_um": 0}),
    ],
)  # fmt: skip
def test_a_label_is_a_part_or_proves_something(text, kind, known, proves) -> None:
    found = recognise(text, PARTS, kind)
    assert (known in found.known) if known else not found.known
    if proves:
        assert found.offered is not None and {k: found.offered.get(k) for k in proves} == proves
        assert not found.problem


@pytest.mark.parametrize(("text", "kind"), [("", "memory"), ("hello", "memory"), ("16GB 3Rx5 PC4-3200AA", "memory"), ("PC4-3200AA", "memory"), ("8GB DDR4 SO-DIMM", "memory"), ("2280-S3-M", "m2_drive"), ("banana", "radio")])  # fmt: skip
def test_what_is_no_label_says_so(text, kind) -> None:
    found = recognise(text, PARTS, kind)
    assert found.offered is None and found.problem


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("7GB 1Rx8 PC4-3200AA", "no module has 7 GB"),
        ("32GB (2x8GB) 1Rx8 PC4-3200AA-SA2-11", "do not agree"),
        ("16GB 2Rx8 PC4-3100", "3100 is no DDR4 grade"),
    ],
)
def test_a_label_that_cannot_be_says_what_is_wrong(text, says) -> None:
    assert says in recognise(text, PARTS, "memory").problem


def test_a_drive_label_says_no_more_than_stands_there() -> None:
    assert read_drive_label("2280-S3-M") is None  # no capacity
    assert read_drive_label("1TB") is None  # no word of what it is
    assert read_drive_label("1TB SATA") is None
    assert read_drive_label("SATA 6Gb/s 2242") is None  # 6 Gb/s is no capacity
    assert read_drive_label("1e5TB NVMe") is None and read_drive_label("QX1TB NVMe") is None  # nor part of a number
    assert recognise("1TB SATA", []).problem.count("SATA may be a card or a bay drive")
    assert (read_drive_label("1TB SATA", "bay_drive") or {})["kind"] == "bay_drive"
    assert (read_drive_label("1TB SATA", "m2_drive") or {})["kind"] == "m2_drive"
    assert (read_drive_label('1TB SATA 2.5"') or {})["kind"] == "bay_drive"
    assert (read_drive_label("1TB SATA 9,5 mm") or {})["height_um"] == 9500
    assert "height_um" not in (read_drive_label("1TB SATA 2.5 inch, 2.5mm screws") or {})  # 5 mm is no part of 2.5
    assert "interface" not in (read_drive_label("1TB M.2 2280") or {})  # notches and size prove no interface
    with pytest.raises(InputError):
        read_drive_label("999999TB NVMe")


# -- pads, clones, gauges -----------------------------------------------------------------------
@pytest.mark.parametrize(
    ("gap", "thickness"),
    [
        (1000, 1250),  # 1 − 1 ÷ 1.25 = 20 %
        (400, 500),  # 20 %
        (450, 500),  # 10 %: 0.50; 0.75 is squeezed by 40 %
        (451, None),  # 9.8 % with 0.50, 39.9 % with 0.75
        (525, 750),  # 30 % exactly
        (524, None),  # 30.1 %
        (800, 1000),
        (900, 1000),  # 10 % with 1.00, 28 % with 1.25: 28 is nearer to 20 by 2
        (2700, 3000),  # 10 %
        (2701, None),
    ],
)
def test_pad_for_a_gap(gap, thickness) -> None:
    # 900: |10 − 20| = 10 against |28 − 20| = 8, so 1.25
    assert pad.pad_for(gap) == (1250 if gap == 900 else thickness)


@pytest.mark.parametrize(
    ("used", "path", "method", "minutes", "needs", "fits"),
    [
        (190, "usb10", "files", 4, 209.0, True),  # 190 000 ÷ 1000 × 1.15 = 218.5 s
        (190, "slot", "files", 3, 209.0, True),  # bound by the source's 1600: 136.6 s
        (190, "usb5", "files", 9, 209.0, True),  # 190 000 ÷ 450 × 1.15 = 485.6 s
        (190, "usb10", "sectors", 5, 256.0, True),  # 256 000 ÷ 1000 × 1.15 = 294.4 s
        (910, "slot", "files", 11, 1001.0, False),  # 910 × 1.1 is over 1000; 654.1 s
    ],
)
def test_clone_time_and_room(used, path, method, minutes, needs, fits) -> None:
    made_ = clone.clone(used, 256, 1000, 1600, 3000, path, method)
    assert (made_.minutes, made_.needs_gb, made_.fits) == (minutes, needs, fits)


@pytest.mark.parametrize(
    ("gauge", "values", "line", "value"),
    [
        ("memory_label", {"label": "8GB 1Rx16 PC4-3200AA-SC0-11"}, "Chip density", "16 Gbit"),
        ("m2_code", {"code": "2280-D4-M"}, "Below the board", "0.70 mm"),
        ("pcie", {"generation": "3", "card_generation": "4", "rating": "7000"}, "What you get", "3938 MB/s"),
        ("pcie", {"generation": "2", "lanes": "2", "rating": "100"}, "What binds", "the drive"),
        ("sata", {"slot": "3", "drive": "6"}, "Carries", "300 MB/s"),
        ("bandwidth", {"mts": "6400", "channels": "2"}, "Peak", "102.4 GB/s"),
        ("latency", {"cl": "22", "rated": "3200", "running": "2666"}, "At the running rate", "14.25 ns"),
        ("latency", {"generation": "5", "cl": "46", "rated": "5600", "running": "5600"}, "At its rating", "16.43 ns"),
        ("radio", {"standard": "ac", "streams": "1", "width": "20", "band": "5"}, "PHY rate", "86.7 Mb/s"),
        ("radio", {"standard": "be", "streams": "1", "width": "320", "band": "6"}, "PHY rate", "2882.4 Mb/s"),
        ("radio", {"line": "250"}, "Reaches the owner", "250 Mb/s"),  # the line binds at both ends: no range
        ("runtime", {"wh": "45", "watts": "10"}, "Runs", "4 h 30 min"),
        ("endurance", {"tbw": "300", "daily": "40"}, "Lasts", "20.5 years"),
        ("pad", {"gap": "1"}, "Pad", "1.25 mm"),
        ("spd", {"image": ddr4().hex(" ")}, "Capacity", "16 GB"),
        ("drive_label", {"label": "2TB NVMe 2280-D2-M"}, "Below the board", "1.35 mm"),
        ("memory_label", {"label": "32GB (2x16GB) DDR4-3200"}, "Modules", "a kit of 2"),
        ("drive_label", {"label": "1TB HDD 9.5 mm SATA"}, "Height", "9.5 mm"),
        ("clone", {}, "Takes", "4 min, unattended"),
    ],
)
def test_gauges_by_hand(gauge, values, line, value) -> None:
    assert {x.label: x.value for x in show(gauge, values).lines}[line] == value


@pytest.mark.parametrize(
    ("gauge", "values"),
    [("pcie", {"generation": "9"}), ("radio", {"standard": "ac", "band": "2.4"}), ("radio", {"standard": "n", "width": "80"}), ("bandwidth", {"mts": "fast"}),
     ("endurance", {"daily": "0"}), ("clone", {"read": "0"}), ("spd", {"image": "zz"}), ("m2_code", {"code": ""}), ("nothing", {}), ("runtime", {"wh": "-1"})],
)  # fmt: skip
def test_gauges_refuse_with_a_reason(gauge, values) -> None:
    with pytest.raises(InputError) as refused:
        show(gauge, values)
    assert refused.value.what and refused.value.where


def test_every_gauge_names_its_formula_and_its_standard() -> None:
    assert len(gauges()) >= 12 and all(g.formula and g.standard and g.fields for g in gauges())


def test_a_cards_code_is_nobodys_part_number() -> None:
    for code, kind in (("2230-S3-A-E", "radio"), ("3042-S3-B", "cellular")):
        found = recognise(code, PARTS, kind)
        assert (
            not found.known
            and found.offered is not None
            and "number" not in found.offered
            and "number" in found.missing
        )


def test_a_slot_set_to_empty_is_kept_apart_from_one_nobody_has_looked_into() -> None:
    job = Job(number=1)
    edit = Edit(uid="1", path="/survey/fitted/memory-b", base=None, value=None)
    found, result = apply_edit(job, edit)
    assert (result.outcome, found.survey.fitted) == ("applied", {"memory-b": None})
    assert apply_edit(found, edit)[1].outcome == "already"
    assert apply_edit(job, Edit(uid="2", path="/survey/as_usual", base=None, value=None))[1].outcome == "already"
