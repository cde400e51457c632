"""Whole tables of the standards, worked by hand: densities, keys, lengths, heights, rates, MB/s names."""

import pytest

from insertum.core.errors import InputError
from insertum.core.fit.judge import judge
from insertum.core.standards import m2, wlan
from insertum.core.standards.module_label import read_label

from . import made

# DDR generation, GB, organisation, chip density in Gbit (GB × 8 × width ÷ (ranks × 64)); None where no such chip exists
DENSITIES = [
    (3, 1, "1Rx8", 1),
    (3, 1, "1Rx16", 2),
    (3, 2, "2Rx8", 1),
    (3, 2, "1Rx8", 2),
    (3, 2, "1Rx16", 4),
    (3, 4, "2Rx8", 2),
    (3, 4, "1Rx8", 4),
    (3, 4, "1Rx16", 8),
    (3, 8, "2Rx8", 4),
    (3, 8, "1Rx8", 8),
    (3, 8, "1Rx16", None),
    (3, 16, "2Rx8", 8),
    (3, 16, "1Rx8", None),
    (4, 2, "1Rx16", 4),
    (4, 2, "1Rx8", None),
    (4, 4, "1Rx8", 4),
    (4, 4, "1Rx16", 8),
    (4, 4, "2Rx8", None),
    (4, 8, "2Rx8", 4),
    (4, 8, "1Rx8", 8),
    (4, 8, "1Rx16", 16),
    (4, 16, "2Rx8", 8),
    (4, 16, "1Rx8", 16),
    (4, 16, "2Rx16", 16),
    (4, 16, "1Rx16", None),
    (4, 32, "2Rx8", 16),
    (4, 32, "1Rx8", None),
    (4, 64, "2Rx8", None),
    (4, 24, "1Rx8", None),
    (5, 8, "1Rx16", 16),
    (5, 8, "1Rx8", None),
    (5, 12, "1Rx16", 24),
    (5, 16, "1Rx8", 16),
    (5, 16, "1Rx16", 32),
    (5, 24, "1Rx8", 24),
    (5, 32, "2Rx8", 16),
    (5, 32, "1Rx8", 32),
    (5, 48, "2Rx8", 24),
    (5, 64, "2Rx8", 32),
    (5, 64, "1Rx8", None),
    (5, 128, "2Rx8", None),
]
NAMES = {3: "PC3L-12800S", 4: "PC4-3200AA", 5: "PC5-4800B"}


@pytest.mark.parametrize(("generation", "gb", "chips", "gbit"), DENSITIES)
def test_density(generation: int, gb: int, chips: str, gbit: int | None) -> None:
    label = f"{gb}GB {chips} {NAMES[generation]}"
    if gbit is None:
        with pytest.raises(InputError, match="does not have"):
            read_label(label)
    else:
        assert read_label(label).density_gbit == gbit


# PC number on the label, generation, grade
BANDWIDTHS = [
    ("PC3-8500S", 1066),
    ("PC3-10600S", 1333),
    ("PC3L-12800S", 1600),
    ("PC3L-14900S", 1866),
    ("PC3-17000S", 2133),
    ("PC4-12800", 1600),
    ("PC4-14900", 1866),
    ("PC4-17000", 2133),
    ("PC4-19200", 2400),
    ("PC4-21300", 2666),
    ("PC4-21333", 2666),
    ("PC4-23400", 2933),
    ("PC4-25600", 3200),
    ("PC4-2133P", 2133),
    ("PC4-2134P", 2133),
    ("PC4-2934Y", 2933),
    ("PC5-38400", 4800),
    ("PC5-41600", 5200),
    ("PC5-44800", 5600),
    ("PC5-48000", 6000),
    ("PC5-51200", 6400),
    ("PC5-5600B", 5600),
]


@pytest.mark.parametrize(("code", "grade"), BANDWIDTHS)
def test_pc_number(code: str, grade: int) -> None:
    assert read_label(code).grade_mts == grade


# card's notches, socket key, does it enter?
KEYS = [
    (("M",), "M", True),
    (("M",), "B", False),
    (("M",), "E", False),
    (("M",), "A", False),
    (("B",), "B", True),
    (("B",), "M", False),
    (("B",), "E", False),
    (("B", "M"), "B", True),
    (("B", "M"), "M", True),
    (("B", "M"), "E", False),
    (("B", "M"), "A", False),
    (("A",), "A", True),
    (("A",), "E", False),
    (("E",), "E", True),
    (("E",), "A", False),
    (("E",), "M", False),
    (("A", "E"), "A", True),
    (("A", "E"), "E", True),
    (("A", "E"), "M", False),
    (("A", "E"), "B", False),
]


@pytest.mark.parametrize(("notches", "key", "enters"), KEYS)
def test_which_card_enters_which_key(notches, key, enters) -> None:
    build = made.build(made.machine({"drive-1": {"key": key}}))
    card = made.drive(keys=notches, lanes=1, read_mb_s=900)
    objections = {f.rule for f in judge(build, "drive-1", card).findings if f.verdict == "refused"}
    assert ("m2.key" not in objections) is enters


# card length, standoffs, what it takes: "lies", "bracket" or "too long"
LENGTHS = [
    (30, (30,), "lies"),
    (30, (42,), "bracket"),
    (30, (42, 80), "bracket"),
    (42, (30,), "too long"),
    (42, (42, 60), "lies"),
    (42, (60, 80), "bracket"),
    (60, (42, 80), "bracket"),
    (60, (42,), "too long"),
    (80, (42, 60, 80), "lies"),
    (80, (42, 60), "too long"),
    (80, (110,), "bracket"),
    (110, (80,), "too long"),
    (110, (80, 110), "lies"),
    (38, (42,), "bracket"),
]


@pytest.mark.parametrize(("length", "standoffs", "takes"), LENGTHS)
def test_what_a_length_takes(length, standoffs, takes) -> None:
    build = made.build(made.machine({"drive-1": {"standoffs_mm": list(standoffs)}}))
    found = [f for f in judge(build, "drive-1", made.drive(length_mm=length)).findings if f.rule == "m2.length"]
    if takes == "lies":
        assert found == []
    else:
        need = found[0].needs
        assert found[0].verdict == "refused" and (need is not None) is (takes == "bracket")
        if need:
            assert need.from_mm == length and need.to_mm == tuple(float(s) for s in standoffs if s > length)


# component height code, room the sockets leave below: fits (True), presses (False)
BELOW = [
    ("S1", "H2.3", True),
    ("S3", "H2.3", True),
    ("S3", "H2.5", True),
    ("D4", "H2.3", False),
    ("D4", "H2.5", False),
    ("D4", "H2.8", True),
    ("D1", "H2.8", False),
    ("D2", "H2.8", False),
    ("D4", "H3.2", True),
    ("D1", "H3.2", True),
    ("D2", "H3.2", True),
    ("D3", "H3.2", True),
    ("D5", "H3.2", False),
    ("D5", "H4.2", True),
    ("D3", "H4.2", True),
]


@pytest.mark.parametrize(("code", "socket", "fits"), BELOW)
def test_what_fits_below(code, socket, fits) -> None:
    above, below = m2.HEIGHTS_UM[code]
    build = made.build(made.machine({"drive-1": {"socket_height": socket, "clearance_below_um": None}}))
    verdict = judge(build, "drive-1", made.drive(above_um=above, below_um=below)).verdict
    assert verdict == ("seats" if fits else "harm")


# standard, width in MHz, one stream at its best in Mb/s: tones × bits × code rate ÷ symbol
RATES = [
    ("n", 20, 72.2),  # 52 × 6 × 5/6 ÷ 3.6
    ("n", 40, 150.0),  # 108
    ("ac", 20, 86.7),  # 52 × 8 × 3/4 ÷ 3.6
    ("ac", 40, 200.0),  # 108 × 8 × 5/6 ÷ 3.6
    ("ac", 80, 433.3),
    ("ac", 160, 866.7),
    ("ax", 20, 143.4),  # 234 × 10 × 5/6 ÷ 13.6
    ("ax", 40, 286.8),
    ("ax", 80, 600.5),
    ("ax", 160, 1201.0),
    ("be", 20, 172.1),  # 234 × 12 × 5/6 ÷ 13.6
    ("be", 40, 344.1),
    ("be", 80, 720.6),
    ("be", 160, 1441.2),
    ("be", 320, 2882.4),
]


@pytest.mark.parametrize(("standard", "width", "mbit"), RATES)
@pytest.mark.parametrize("streams", [1, 2, 4])
def test_every_rate_grows_with_its_streams(standard, width, mbit, streams) -> None:
    assert wlan.phy_mbit_s(standard, streams, width) == pytest.approx(mbit * streams, abs=0.06 * streams)


@pytest.mark.parametrize(("standard", "width"), [("n", 80), ("ac", 320), ("ax", 320), ("g", 20)])
def test_no_such_width(standard, width) -> None:
    with pytest.raises(KeyError):
        wlan.phy_mbit_s(standard, 1, width)
