"""What each demo machine is there for: verdicts worked out from its data before the code was asked.

Four rows of the Fell and one of the Drover were mended after: the reading of the data had missed the
storage mode, drive 3's room above, and that a part may be sold with its ribbon and still be measured.

S seats, H held back, M measure first, R refused, X harm; + with accessories from the catalogue. Slots of
another kind are not named. The data is as delivered, limits as proven.
"""

import pytest

from insertum.core.fit.judge import judge, judge_equipped
from insertum.core.machine.claim import Limits
from insertum.core.machine.part import Accessory
from insertum.core.survey.current_build import build_today
from insertum.formats.parts import read_csv

from . import made

LETTER = {"seats": "S", "held_back": "H", "measure_first": "M", "refused": "R", "harm": "X"}
PARTS = read_csv((made.DEMO / "parts.csv").read_text())
SHELF = [p for p in PARTS if isinstance(p, Accessory)]
BY_NUMBER = {p.number: p for p in PARTS}
MK2, MK1 = ("veyra-strand-15", "mk2-rill-430", "1.14"), ("veyra-strand-15", "mk1-rill-310", "")
DROVER, CAIRN = ("veyra-drover-14", "rill-320", ""), ("veyra-cairn-14", "rill-340", "1.20")
CAIRN_OLD = ("veyra-cairn-14", "rill-340", "1.08")
FELL, FELL2 = ("brannock-fell-17", "beck-540", ""), ("brannock-fell-17", "beck-680", "")
HARROW, TERN = ("brannock-harrow-16", "beck-450", "2.03"), ("halden-tern-13", "rill-520", "")
WICK, ALMANAC = ("halden-wick-11", "fen-210", ""), ("halden-almanac-12", "rill-110", "")
TABLE = [
    # Strand 15: 8 GB soldered, one socket, runs 2933; drive 1 PCIe 3 ×4, posts 42 and 80; drive 2 SATA, room below unknown
    (MK2, "PM4S-08G29", "memory-b=S"),
    (MK2, "PM4S-08G26", "memory-b=H"),  # slows the soldered 2933
    (MK2, "PM4S-32G32A1", "memory-b=H"),  # 16 Gbit and 32 GB proven under 1.14; settles at 2933
    (MK1, "PM4S-32G32A1", "memory-b=R"),  # mk I documents 8 GB
    (MK2, "PM4S-08G32X", "memory-b=H"),  # 8 × 8 × 16 ÷ 64 = 16 Gbit, proven
    (MK1, "PM4S-08G32X", "memory-b=M"),  # 16 Gbit over the documented 8
    (MK2, "OM4T-16G32E", "memory-b=R"),  # ECC
    (MK2, "PM4U-16G32", "memory-b=R"),  # a desktop module
    (MK2, "QK2-1T0-80M", "drive-1=S drive-2=R radio=R"),  # PCIe into SATA
    (MK2, "QB5-1T0-80BM", "drive-1=R drive-2=M radio=R"),  # double-sided
    (MK2, "QB5-1T0-80BMS", "drive-1=R drive-2=S radio=R"),  # its single-sided twin
    (MK2, "WN2-1T0-80BM", "drive-1=S drive-2=R radio=R"),  # two notches, PCIe ×2 carries 1969
    (MK2, "QK4-1T0-80M", "drive-1=H drive-2=R radio=R"),  # 3938 below 7000
    (MK1, "WS4-0T5-42M", "drive-1=S+ drive-2=R radio=R"),  # mk I has no post at 42: bracket 42 to 80
    (MK2, "KS-1T0-80", "drive-1=M drive-2=M radio=R"),  # nothing stated
    (MK2, "LR-AX2-E30", "drive-1=R drive-2=R radio=M"),  # card policy unknown
    (MK2, "KS-ST52", "battery=R"),  # no safety mark
    (MK2, "AP-ST52L", "battery=X"),  # 11.4 V into 15.2
    # Drover 14: posts at 42 and 60 only, 9.5 mm bay with caddy, ribbon missing
    (DROVER, "QK2-1T0-80M", "drive-1=R radio=R"),  # 80 into 60
    (DROVER, "WN6-1T0-60BM", "drive-1=S radio=R"),
    (DROVER, "WS3-0T5-30M", "drive-1=S+ radio=R"),  # bracket 30 to 42
    (DROVER, "QT7-1T0", "bay=S+"),  # ribbon, spacer 7 to 9.5
    (DROVER, "WR9-1T0", "bay=S+"),  # ribbon
    (DROVER, "WR15-4T0", "bay=R"),  # 15 mm
    (DROVER, "WR5-0T5", "bay=M+"),  # 5 mm: connector not stated; ribbon and spacer bought
    (DROVER, "LR-AX2T-E30", "drive-1=R radio=H"),  # 6 GHz not assured
    (DROVER, "TL-CX2-E30", "drive-1=R radio=R"),  # no host radio
    (DROVER, "KS-DR45", "battery=R"),  # another number, whatever its mark
    # Fell 17: DDR5, two sockets behind the keyboard; Beck 540 4800, Beck 680 5600; three modules run 3600 / 4400
    (FELL, "PM5S-16G48", "memory-a=S memory-b=S memory-c=H memory-d=H"),  # a third module: 3600
    (FELL2, "PM5S-16G56", "memory-a=H memory-b=H memory-c=H memory-d=H"),  # beside the fitted 4800
    (FELL2, "PM5S-24G56", "memory-a=M memory-b=M memory-c=M memory-d=M"),  # 24 Gbit over the documented 16
    (
        FELL,
        "PM5S-24G56",
        "memory-a=M memory-b=M memory-c=M memory-d=M",
    ),  # over the documented 16; the controller is another school
    (FELL2, "OM5S-16G64C", "memory-a=R memory-b=R memory-c=R memory-d=R"),  # clock drivers documented against
    (FELL, "OM5S-32G48E", "memory-a=R memory-b=R memory-c=R memory-d=R"),  # ECC
    (FELL, "QK5-1T0-80M", "drive-1=H drive-2=H drive-3=R radio=R"),  # 7877 below 12000; drive 3 has 1.35 above
    (FELL2, "QK5-1T0-80M", "drive-1=H drive-2=H drive-3=R radio=R"),  # its storage mode hides the boot drive
    (FELL, "QK4-4T0-80M", "drive-1=H drive-2=S+ drive-3=X radio=R"),  # a pad bought; both sides over H2.3
    (FELL, "QK2-2T0-80M", "drive-1=H drive-2=S drive-3=X radio=R"),  # the same; it needs no pad
    (FELL, "TL-BE2C-E30", "drive-1=R drive-2=R drive-3=R radio=R"),  # companion of a newer host
    (FELL, "TL-BE2-E30T", "drive-1=R drive-2=R drive-3=R radio=R"),  # tied to another processor maker
    # Harrow 16: drive 2 SATA or PCIe 3 ×2 in an H2.8 socket, 7 mm bay without caddy, listed cards
    (HARROW, "QB5-1T0-80BMS", "drive-1=R drive-2=S radio=R"),
    (HARROW, "QB5-1T0-80BM", "drive-1=R drive-2=X radio=R"),  # 1.35 below, room for 0.70
    (HARROW, "QK2-1T0-80M", "drive-1=S drive-2=H radio=R"),  # ×2 carries 1969
    (HARROW, "LR-AX2-E30", "drive-1=R drive-2=R radio=R"),  # not listed
    (HARROW, "LR-AX2-E30B", "drive-1=R drive-2=R radio=S"),  # the same card under a listed id
    (HARROW, "QT7-1T0", "bay=S+"),  # caddy bought; screws unknown, so bought too
    (HARROW, "WR9-1T0", "bay=R"),  # 9.5 into 7
    (HARROW, "AP-HA83", "battery=S"),  # the bay is empty
    (HARROW, "PM5S-24G56", "memory-a=R memory-b=R"),  # over 16 GB, and 24 Gbit
    # Tern 13: nothing but the drive, single-sided, 1.35 above
    (TERN, "QS2-1T0-42M", "cellular=R drive-1=S radio=R"),  # S2 is 1.35 above
    (TERN, "WS4-1T0-42M", "cellular=R drive-1=R radio=R"),  # S3 is 1.50 above
    (TERN, "QS2-2T0-42MD", "cellular=R drive-1=X radio=R"),  # chips on a pad that stays
    (TERN, "TL-4G-3042H", "cellular=R drive-1=R radio=R"),  # listed, and still no SIM tray
    (TERN, "LR-AX2-E30", "cellular=R drive-1=R radio=R"),  # soldered
    # Wick 11: key B 2242 wired for SATA
    (WICK, "QB4-0T25-42BM", "drive-1=S emmc=R radio=R"),
    (WICK, "WN4-0T5-42BM", "drive-1=R emmc=R radio=R"),  # its PCIe twin
    (WICK, "WS4-0T5-42M", "drive-1=R emmc=R radio=R"),  # key M
    (WICK, "QB5-0T5-80BM", "drive-1=R emmc=R radio=R"),  # 80 mm
    (WICK, "LR-AX2-E30", "drive-1=R emmc=R radio=H"),  # one lead for two streams
    # Almanac 12: DDR3L, 4 Gbit at most, mSATA at 3 Gb/s, half mini radio with MHF1 leads
    (ALMANAC, "OM3S-04G16L", "memory-a=S"),  # 4 × 8 × 8 ÷ 64 = 4 Gbit
    (ALMANAC, "OM3S-08G16LS", "memory-a=R"),  # 8 Gbit
    (ALMANAC, "PM3S-04G16", "memory-a=R"),  # 1.5 V only
    (ALMANAC, "QM1-128-MS", "mini=H radio=R"),  # 300 below 540
    (ALMANAC, "WM2-256-HM", "mini=H+ radio=R"),  # half card on a bracket
    (ALMANAC, "QM1-512-MS", "mini=R radio=R"),  # 256 GB documented
    (ALMANAC, "LR-AC2-HM", "mini=R radio=S"),
    (ALMANAC, "TL-AC2-HM4", "mini=R radio=S+"),  # adapter leads
    # Cairn 14: what is claimed differs by print and by firmware
    (CAIRN, "PM4S-16G29", "memory-a=S memory-b=S"),  # 16 GB proven under 1.20
    (CAIRN_OLD, "PM4S-16G29", "memory-a=R memory-b=R"),  # documented 8 and 16: the lower counts
    (CAIRN, "LR-AX2-E30", "drive-1=R radio=S"),  # any card, proven under 1.20
    (CAIRN_OLD, "LR-AX2-E30", "drive-1=R radio=M"),  # that outcome does not decide under 1.08
    (CAIRN, "WS3-1T0-30M", "drive-1=S radio=R"),  # the bracket is there
    (CAIRN, "QK2-2T0-80M", "drive-1=X radio=R"),  # 1.35 below an H2.8 socket
]


@pytest.mark.parametrize(("machine", "number", "wanted"), TABLE, ids=[f"{m[1]}-{n}" for m, n, _ in TABLE])
def test_verdict(machine: tuple[str, str, str], number: str, wanted: str) -> None:
    slug, configuration, firmware = machine
    build = build_today(made.demo_machine(slug).configured(configuration), firmware=firmware)
    judged = [judge_equipped(build, s.id, BY_NUMBER[number], SHELF) for s in build.machine.slots]
    found = sorted(f"{j.slot}={LETTER[j.verdict]}{'+' * bool(j.accessories)}" for j in judged if j.verdict)
    assert " ".join(found) == wanted


def test_harrow_battery_against_bay_and_shared_lanes() -> None:
    """The large pack fills the bay; a SATA drive in drive 2 turns it off."""
    laid = made.demo_machine("brannock-harrow-16").configured("beck-450")
    drive, large = BY_NUMBER["QT7-1T0"], BY_NUMBER["AP-HA83"]
    kit = tuple(a for a in SHELF if a.number in ("PL-CD-HA16", "PL-SCB"))
    beside = build_today(laid).with_part("bay", drive, kit)
    assert judge(beside, "bay", drive).verdict == "seats"
    assert judge(beside, "battery", large).verdict == "refused"  # the room is physically taken
    assert judge(beside.with_part("battery", large), "bay", drive).verdict == "refused"
    sata = BY_NUMBER["QB5-1T0-80BMS"]
    assert judge(beside, "drive-2", sata).verdict == "held_back"  # it costs the bay
    assert judge(beside.with_part("drive-2", sata), "bay", drive).verdict == "refused"
    assert judge(beside.with_part("drive-2", BY_NUMBER["WN2-1T0-80BM"]), "bay", drive).verdict == "seats"


@pytest.mark.parametrize(
    ("school", "wanted"),
    [(Limits.DOCUMENTED, "refused"), (Limits.PROVEN, "refused"), (Limits.CONTROLLER, "seats"), (Limits.OPEN, "seats")],
)
def test_cairn_under_the_four_schools_with_its_old_firmware(school, wanted) -> None:
    """16 GB in Memory B under 1.08: documented 8, controller 32; open takes the controller's too."""
    laid = made.demo_machine("veyra-cairn-14").configured("rill-340")
    build = build_today(laid, stance=school, firmware="1.08")
    found = judge(build, "memory-b", BY_NUMBER["PM4S-16G29"])
    density = [f for f in found.findings if f.rule == "memory.density" and f.verdict != "seats"]
    assert not density  # 2Rx8: 8 Gbit, listed
    assert found.verdict == wanted
