"""Label decoders against labels worked by hand from the standards, right ones and wrong ones."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from insertum.core.decode import decode
from insertum.core.errors import InputError
from insertum.core.standards import m2
from insertum.core.standards.module_label import read_label

# label, capacity, ranks, width, generation, grade, type, CL, density (capacity × 8 × width ÷ (ranks × 64))
GOOD = [
    ("16GB 2Rx8 PC4-3200AA-SE1-11", 16, 2, 8, 4, 3200, "S", 22, 8),
    ("8GB 1Rx8 PC4-3200AA-SA2-11", 8, 1, 8, 4, 3200, "S", 22, 8),
    ("8GB 1Rx16 PC4-3200AA-SC0-11", 8, 1, 16, 4, 3200, "S", 22, 16),
    ("4GB 1Rx16 PC4-2666V-SC0-11", 4, 1, 16, 4, 2666, "S", 19, 8),
    ("32GB 2Rx8 PC4-3200AA-SE3-11", 32, 2, 8, 4, 3200, "S", 22, 16),
    ("4GB 1Rx8 PC4-2133P-SA0-10", 4, 1, 8, 4, 2133, "S", 15, 4),
    ("8GB 2Rx8 PC4-2400T-SE1-11", 8, 2, 8, 4, 2400, "S", 17, 4),
    ("16GB 2Rx8 PC4-2933Y-SE1-11", 16, 2, 8, 4, 2933, "S", 21, 8),
    ("16GB 2Rx8 PC4-3200W-SE1-11", 16, 2, 8, 4, 3200, "S", 20, 8),
    ("16GB 2Rx8 PC4-3200AC-SE1-11", 16, 2, 8, 4, 3200, "S", 24, 8),
    ("16GB 2Rx8 PC4-2667V-SE1-11", 16, 2, 8, 4, 2666, "S", 19, 8),  # 2667 is the grade 2666
    ("16GB 2Rx8 PC4-21300", 16, 2, 8, 4, 2666, None, None, 8),  # from 12800 up the number is MB/s
    ("8GB 1Rx8 PC4-25600", 8, 1, 8, 4, 3200, None, None, 8),  # 3200 × 8
    ("8GB 1Rx8 PC4-23400", 8, 1, 8, 4, 2933, None, None, 8),  # 2933⅓ × 8 = 23466, sold as 23400
    ("16GB 2Rx8 PC4-3200AA-TG1-11", 16, 2, 8, 4, 3200, "T", 22, 8),
    ("16GB 2Rx8 PC4-3200AA-UB1-11", 16, 2, 8, 4, 3200, "U", 22, 8),
    ("16GB 2Rx8 PC4-2666V-ED1-11", 16, 2, 8, 4, 2666, "E", 19, 8),
    ("16GB 1Rx4 PC4-2400T-RC1-11", 16, 1, 4, 4, 2400, "R", 17, 8),
    ("64GB 4Rx4 PC4-2666V-LD1-11", 64, 4, 4, 4, 2666, "L", 19, 8),
    ("16GB 1Rx8 PC5-4800B-SA0-1010-XT", 16, 1, 8, 5, 4800, "S", 40, 16),
    ("32GB 2Rx8 PC5-5600B-SB0-1010-XT", 32, 2, 8, 5, 5600, "S", 46, 16),
    ("8GB 1Rx16 PC5-4800B-SC0-1010-XT", 8, 1, 16, 5, 4800, "S", 40, 16),
    ("24GB 1Rx8 PC5-5600B-SA0-1110-XT", 24, 1, 8, 5, 5600, "S", 46, 24),
    ("48GB 2Rx8 PC5-5600B-SB0-1110-XT", 48, 2, 8, 5, 5600, "S", 46, 24),
    ("64GB 2Rx8 PC5-6400B-SB0", 64, 2, 8, 5, 6400, "S", 52, 32),
    ("12GB 1Rx16 PC5-4800B-SC0", 12, 1, 16, 5, 4800, "S", 40, 24),
    ("16GB 1Rx8 PC5-44800", 16, 1, 8, 5, 5600, None, None, 16),  # 5600 × 8
    ("16GB 1Rx8 PC5-38400", 16, 1, 8, 5, 4800, None, None, 16),
    ("4GB 1Rx8 PC3L-12800S-11-11-B2", 4, 1, 8, 3, 1600, "S", 11, 4),
    ("8GB 2Rx8 PC3L-12800S-11-13-F3", 8, 2, 8, 3, 1600, "S", 11, 4),
    ("8GB 1Rx8 PC3L-12800S-11-12-B4", 8, 1, 8, 3, 1600, "S", 11, 8),
    ("2GB 1Rx8 PC3-10600S-9-10-B1", 2, 1, 8, 3, 1333, "S", 9, 2),
    ("4GB 2Rx8 PC3-8500S-7-10-F2", 4, 2, 8, 3, 1066, "S", 7, 2),
    ("8GB 2Rx8 PC3L-14900S-13-13-F3", 8, 2, 8, 3, 1866, "S", 13, 4),
    # as they really are: case, spacing, pieces missing, codes behind
    ("16gb 2rx8 pc4-3200aa-se1-11", 16, 2, 8, 4, 3200, "S", 22, 8),
    ("  16 GB  2R x 8  PC4 - 3200AA - SE1 - 11 ", 16, 2, 8, 4, 3200, "S", 22, 8),
    ("16GB 2Rx8 PC4-3200AA", 16, 2, 8, 4, 3200, None, 22, 8),
    ("PC4-3200AA-SE1-11", None, None, None, 4, 3200, "S", 22, None),
    ("16GB PC4-2400T", 16, None, None, 4, 2400, None, 17, None),
    ("16GB 2Rx8 PC4-3200AA-SE1-11 KQ7 2231", 16, 2, 8, 4, 3200, "S", 22, 8),
    ("16GB 2R×8 PC4-3200AA-SE1-11", 16, 2, 8, 4, 3200, "S", 22, 8),
    # what stands apart behind the speed is a bin, a type, or a word
    ("16GB PC4-3200 AA-SE1-11", 16, None, None, 4, 3200, "S", 22, None),
    ("16GB PC4-3200 SO-DIMM", 16, None, None, 4, 3200, "S", None, None),
    ("8GB PC4-2400T T", 8, None, None, 4, 2400, "T", 17, None),
    ("PC3-12800 4GB", 4, None, None, 3, 1600, None, None, None),  # 4 GB are no latency of 4
    ("PC3-12800S - 4 GB", 4, None, None, 3, 1600, "S", None, None),
    ("PC3-12800 SO-DIMM 4GB", 4, None, None, 3, 1600, "S", None, None),
    # ECC in words: a plain socket may not run it
    ("16GB 2Rx8 PC4-2400 ECC SODIMM", 16, 2, 8, 4, 2400, "T", None, 8),
    ("16GB 2Rx8 PC4-2400T-SE1 ECC", 16, 2, 8, 4, 2400, "T", 17, 8),
    ("16GB PC4-2400T-UA1 ECC", 16, None, None, 4, 2400, "E", 17, None),
    ("16GB PC4-2400T non-ECC SODIMM", 16, None, None, 4, 2400, "S", 17, None),
    ("16GB DDR5-4800 on-die ECC SODIMM", 16, None, None, 5, 4800, "S", None, None),
    # a seller's sticker
    ("16GB DDR4-3200 SO-DIMM CL22", 16, None, None, 4, 3200, "S", 22, None),
    ("DDR4 3200MHz 1.2V 260pin 8GBx2", 8, None, None, 4, 3200, "S", None, None),
    ("32GB (2x16GB) DDR5-5600 SODIMM CL46", 16, None, None, 5, 5600, "S", 46, None),
    ("DDR4 SODIMM 16 GB 2667 MT/s", 16, None, None, 4, 2666, "S", None, None),
    ("8GB 1Rx8 DDR4-25600 288-pin", 8, 1, 8, 4, 3200, "U", None, 8),
    ("16GB 1Rx8 DDR5-4800B-SA0-1010-XT", 16, 1, 8, 5, 4800, "S", 40, 16),
    ("8GB DDR4 SO-DIMM", 8, None, None, 4, None, "S", None, None),
]  # fmt: skip


@pytest.mark.parametrize("case", GOOD, ids=lambda c: c[0])
def test_label_reads_as_the_standard_says(case) -> None:
    label, *wanted = case
    got = read_label(label)
    assert [
        got.capacity_gb,
        got.ranks,
        got.chip_width,
        got.generation,
        got.grade_mts,
        got.module_type,
        got.cl,
        got.density_gbit,
    ] == wanted


# PC3 numbers are MB/s, eight bytes at each rate, rounded as the standard prints them (JESD21-C, annex L)
@pytest.mark.parametrize(
    ("number", "grade"),
    [
        (6400, 800),
        (8500, 1066),
        (8533, 1066),
        (10600, 1333),
        (10667, 1333),
        (12800, 1600),
        (14900, 1866),
        (17000, 2133),
    ],
)
def test_a_ddr3_number_is_its_rate(number, grade) -> None:
    label = read_label(f"4GB 1Rx8 PC3L-{number}S-11-11-B2")
    assert (label.generation, label.grade_mts, label.low_voltage) == (3, grade, True)


@pytest.mark.parametrize(
    ("label", "low"),
    [
        ("4GB PC3L-12800S", True), ("4GB PC3-12800S", False), ("4GB PC3-12800S 1.35V", True), ("4GB PC3L-12800S 1.5V", True),
        ("4GB DDR3L-1600", True), ("4GB DDR3-1600", None), ("4GB DDR3-1600 1.35 V", True), ("4GB DDR3-1600 1.5V", False),
        ("4GB DDR3-1600 1.55V", None), ("16GB DDR4-3200 1.35V", None),
    ],
)  # fmt: skip
def test_low_voltage_is_what_code_or_volts_say(label: str, low: bool | None) -> None:
    assert read_label(label).low_voltage is low


# label, what the refusal names
BAD = [
    ("16GB 3Rx5 PC4-3200AA-SE1-11", "3Rx5"),
    ("16GB 0Rx8 PC4-3200AA", "0Rx8"),
    ("16GB 2Rx32 PC4-3200AA", "2Rx32"),
    ("64GB 1Rx16 PC4-3200AA-SE1-11", "128 Gbit"),  # 64 × 8 × 16 ÷ 64
    ("12GB 1Rx8 PC4-3200AA", "12 Gbit"),  # no DDR4 chip of 12
    ("24GB 2Rx8 PC4-3200AA", "12 Gbit"),
    ("16GB 1Rx8 PC3L-12800S", "16 Gbit"),
    ("8GB 1Rx8 PC5-4800B", "8 Gbit"),
    ("16GB 2Rx8 PC4-3333AA", "3333"),
    ("16GB 2Rx8 PC4-9999", "9999"),
    ("16GB 2Rx8 PC4-3200AA-XE1-11", "module type X"),
    ("16GB 2Rx8 PC9-3200AA", "PC9"),
    ("2GB 2Rx8 PC2-6400S", "DDR2"),
    ("4GB 1Rx8 PC3-12345S", "12345"),
    ("16GB PC4-25600 DDR5", "PC4 and DDR5"),
    ("16GB DDR4-3200 DDR5-4800", "DDR4 and DDR5"),
    ("8GB PC3-12800 PC4-19200", "PC3 and PC4"),
    ("16GB PC4-25600 DDR4-2666", "PC4-25600 and DDR4-2666"),
    ("8GB DDR4-3600", "3600"),
    ("8GB DDR2-800", "DDR2"),
    ("8GB LPDDR4X-4266", "PC code"),  # soldered, never a module
    ("8GB GDDR5 7000", "PC code"),
    ("16GB 2Rx8", "PC code"),
    ("hello", "PC code"),
    ("", "PC code"),
]


@pytest.mark.parametrize(("label", "names"), BAD)
def test_nonsense_is_refused_by_name(label: str, names: str) -> None:
    with pytest.raises(InputError, match=names.replace("(", r"\(")) as refused:
        read_label(label)
    assert refused.value.where and refused.value.mend


@pytest.mark.parametrize(
    ("label", "unread"),
    [
        ("PC4-3200AA 2231 KQ", ("2231", "KQ")),
        ("M12A 16GB 2Rx8 PC4-3200AA-SE1-11", ("M12A",)),  # what stands before the code was not read either
        ("PC4-21300 SODIMM 8GB CL19 1.2V", ()),  # and what was read is not said to be unread
        ("32GB (2x16GB) DDR5-5600 SO-DIMM", ()),
        ("16GB PC4-2400 ECC SODIMM", ()),
        ("16GB DDR5-4800 CSODIMM 2400MHz", ("CSODIMM", "2400MHZ")),
        ("DDR4 SODIMM 16 GB 2667", ("2667",)),  # a bare number may be anything
    ],
)
def test_what_could_not_be_read_is_said(label: str, unread: tuple[str, ...]) -> None:
    assert read_label(label).unread == unread


def test_what_is_missing_is_said() -> None:
    assert set(read_label("PC4-3200AA 2231 KQ").missing) == {
        "capacity_gb", "ranks", "chip_width", "module_type", "raw_card", "spd_revision",
    }  # fmt: skip
    assert "grade_mts" in read_label("8GB DDR4 SO-DIMM").missing


@given(
    st.sampled_from([(4, "3200AA"), (4, "2666V"), (5, "4800B"), (5, "5600B")]), st.sampled_from("STUERL"), st.sampled_from("ABCEF"),
    st.sampled_from([8, 16, 32]), st.sampled_from(["", " "]), st.sampled_from(["PC{}-", "PC{} - ", "DDR{}-", "DDR{} "]), st.booleans(),
)  # fmt: skip
def test_a_label_is_read_as_it_was_printed(speed, letter, card, gb, gap, head, swapped) -> None:
    """However it is spaced, and whether the size stands before or behind."""
    generation, grade = speed
    code, size = f"{head.format(generation)}{grade}{gap}-{gap}{letter}{card}1", f"{gb}{gap}GB"
    got = read_label(f"{code} {size}" if swapped else f"{size} {code}")
    assert (got.generation, got.capacity_gb, got.grade_mts) == (generation, gb, int(grade[:4]))
    assert (got.module_type, got.raw_card, got.raw_card_revision, got.bin) == (letter, card, "1", grade[4:])
    assert got.unread == ()


# code, width, length, above, below (µm), keys
CODES = [
    ("2280-D2-B-M", 22, 80, 1350, 1350, ("B", "M")),
    ("2280-S3-M", 22, 80, 1500, 0, ("M",)),
    ("2242-S1-M", 22, 42, 1200, 0, ("M",)),
    ("2230-S1-A-E", 22, 30, 1200, 0, ("A", "E")),
    ("3042-S3-B", 30, 42, 1500, 0, ("B",)),
    ("3052-D1-B", 30, 52, 1200, 1350, ("B",)),
    ("22110-D3-M", 22, 110, 1500, 1350, ("M",)),
    ("1630-D4-E", 16, 30, 1500, 700, ("E",)),
    ("2280-D5-M", 22, 80, 1500, 1500, ("M",)),
    ("1216-S2-E", 12, 16, 1350, 0, ("E",)),
    ("2280", 22, 80, None, None, ()),
    ("m.2 2280 d2 m", 22, 80, 1350, 1350, ("M",)),
    ("NGFF 2242-S2-B-M", 22, 42, 1350, 0, ("B", "M")),
    ("2280-D2-B+M", 22, 80, 1350, 1350, ("B", "M")),
]


@pytest.mark.parametrize("case", CODES, ids=lambda c: c[0])
def test_module_code(case) -> None:
    code, *wanted = case
    got = m2.read_code(code)
    assert [got.width_mm, got.length_mm, got.above_um, got.below_um, got.keys] == wanted


@pytest.mark.parametrize("code", ["2280-X2-M", "2280-D9-M", "2280-S3-Z", "80", "ABCD-S3-M", "", "2280-S3-M-extra"])
def test_no_module_code(code: str) -> None:
    with pytest.raises(InputError):
        m2.read_code(code)


def test_a_size_outside_the_standard_is_unknown_not_nonsense() -> None:
    got = m2.read_code("2281-S3-C")
    assert got.length_mm == 81
    assert got.remarks == ("length 81 mm is not one of the standard's", "key C is reserved")


@given(st.sampled_from(m2.WIDTHS), st.sampled_from(m2.LENGTHS), st.sampled_from([None, *m2.HEIGHTS_UM]), st.lists(st.sampled_from("ABEM"), unique=True, max_size=2))  # fmt: skip
def test_codes_print_back_to_themselves(width, length, height, keys) -> None:
    text = "-".join([f"{width}{length}", *([height] if height else []), *keys])
    assert str(m2.read_code(text)) == text


@given(st.text(max_size=60) | st.text(alphabet="0123456789GBRxPC45-ALSEM ", max_size=50))
def test_no_text_does_anything_but_decode_or_refuse(text: str) -> None:
    try:
        assert decode(text)["kind"] in ("memory_label", "drive_label", "m2_code")
    except InputError as refused:
        assert refused.what


@pytest.mark.parametrize(
    ("text", "kind"),
    [
        ("16GB DDR4-3200 SO-DIMM", "memory_label"),
        ("1TB NVMe M.2 2280, 1GB DDR4 cache", "drive_label"),
        ("256GB NGFF SATA 6Gb/s 2280-D2-B-M", "drive_label"),
        ("2280-D2-B-M", "m2_code"),
    ],
)
def test_a_label_is_taken_for_what_it_is(text: str, kind: str) -> None:
    assert decode(text)["kind"] == kind
