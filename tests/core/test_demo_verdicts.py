"""Every demo part in every slot of every demo machine: a guard against change.

The rows were printed by the code and then reviewed one by one against the machines' data; they were not
worked out beforehand. The hand-worked cases are in test_fit_table.py and test_standards_tables.py.

S seats, H held back, M measure first, R refused, X harm; + with accessories from the catalogue. Slots of
another kind are not named. The data is as delivered, limits as proven.
"""

import pytest

from insertum.core.fit.judge import judge_equipped
from insertum.core.part import Accessory
from insertum.core.survey.bench import build_today
from insertum.formats.parts import read_csv

from . import made

LETTER = {"seats": "S", "held_back": "H", "measure_first": "M", "refused": "R", "harm": "X"}
MACHINES = {
    "mk2-rill-430": ("veyra-strand-15", "1.14"),
    "mk1-rill-310": ("veyra-strand-15", ""),
    "rill-320": ("veyra-drover-14", ""),
}
PARTS = read_csv((made.DEMO / "parts.csv").read_text())
SHELF = [p for p in PARTS if isinstance(p, Accessory)]
BY_NUMBER = {p.number: p for p in PARTS}
TABLE = [
    # Strand 15 mk II, firmware 1.14: 8 GB soldered, one socket (32 GB and 16 Gbit chips proven under 1.14), runs 2933;
    # drive 1 PCIe 3 ×4 (3938 MB/s) with standoffs at 42 and 80, up to 2 TB proven; drive 2 SATA, room below unknown;
    # card policy unknown; 15.2 V pack.
    ("mk2-rill-430", "PM4S-04G26", "memory-b=H"),  # slows the soldered 2933
    ("mk2-rill-430", "PM4S-08G26", "memory-b=H"),
    ("mk2-rill-430", "PM4S-08G29", "memory-b=S"),
    ("mk2-rill-430", "PM4S-08G32A1", "memory-b=H"),  # 3200 settles at 2933
    ("mk2-rill-430", "PM4S-08G32X", "memory-b=H"),  # 8 × 8 × 16 ÷ 64 = 16 Gbit, proven
    ("mk2-rill-430", "PM4S-16G29", "memory-b=S"),
    ("mk2-rill-430", "PM4S-16G32A1", "memory-b=H"),
    ("mk2-rill-430", "OM4S-16G32S", "memory-b=H"),
    ("mk2-rill-430", "PM4S-32G32A1", "memory-b=H"),
    ("mk2-rill-430", "OM4S-16G36P", "memory-b=H"),
    ("mk2-rill-430", "OM4T-16G32E", "memory-b=R"),  # ECC, SO-DIMM without it documented
    ("mk2-rill-430", "PM5S-16G48", "memory-b=R"),
    ("mk2-rill-430", "PM3S-04G16L", "memory-b=R"),
    ("mk2-rill-430", "OM4S-04G26", "memory-b=H"),
    ("mk2-rill-430", "QV1-256-80M", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "QV1-256-42BM", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "QK2-0T5-80M", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "QK2-1T0-80M", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "QK2-2T0-80M", "drive-1=S drive-2=R radio=R"),  # D2: 1.35 below, room for 1.35
    ("mk2-rill-430", "QK4-1T0-80M", "drive-1=H drive-2=R radio=R"),  # 7000 over 3938
    ("mk2-rill-430", "WH1-1T0-80M", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "WH1-2T0-80M", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "QB5-0T5-80BM", "drive-1=R drive-2=S radio=R"),
    ("mk2-rill-430", "QB5-1T0-80BM", "drive-1=R drive-2=M radio=R"),  # chips below, height unknown
    ("mk2-rill-430", "QB5-2T0-80BM", "drive-1=R drive-2=M radio=R"),
    ("mk2-rill-430", "WN2-1T0-80BM", "drive-1=S drive-2=R radio=R"),  # two notches, yet PCIe: two lanes carry 1969
    ("mk2-rill-430", "WS4-0T5-42M", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "WS4-1T0-42M", "drive-1=S drive-2=R radio=R"),
    ("mk2-rill-430", "WS3-0T5-30M", "drive-1=S+ drive-2=R radio=R"),  # bracket 30 to 42
    ("mk2-rill-430", "QT7-1T0", ""),
    ("mk2-rill-430", "QT7-2T0", ""),
    ("mk2-rill-430", "WR9-2T0", ""),
    ("mk2-rill-430", "WR15-4T0", ""),
    ("mk2-rill-430", "LR-AC1-E30", "drive-1=R drive-2=R radio=M"),
    ("mk2-rill-430", "LR-AX2-E30", "drive-1=R drive-2=R radio=M"),
    ("mk2-rill-430", "LR-AX2T-E30", "drive-1=R drive-2=R radio=M"),
    ("mk2-rill-430", "TL-BE2-E30", "drive-1=R drive-2=R radio=M"),
    ("mk2-rill-430", "TL-CX2-E30", "drive-1=R drive-2=R radio=R"),  # no host radio
    ("mk2-rill-430", "AP-ST52", "battery=S"),
    ("mk2-rill-430", "AP-ST52L", "battery=X"),  # 11.4 V into 15.2 V
    ("mk2-rill-430", "AP-DR45", "battery=X"),
    ("mk2-rill-430", "AP-DR57", "battery=X"),
    # Strand 15 mk I: socket documented for 8 GB, 8 Gbit chips (controller 16); standoff at 80 only; drive 1 up to 1 TB.
    ("mk1-rill-310", "PM4S-04G26", "memory-b=H"),
    ("mk1-rill-310", "PM4S-08G26", "memory-b=H"),
    ("mk1-rill-310", "PM4S-08G29", "memory-b=S"),
    ("mk1-rill-310", "PM4S-08G32A1", "memory-b=H"),
    ("mk1-rill-310", "PM4S-08G32X", "memory-b=M"),  # 16 Gbit over the documented 8
    ("mk1-rill-310", "PM4S-16G29", "memory-b=R"),  # over 8 GB in the socket
    ("mk1-rill-310", "PM4S-16G32A1", "memory-b=R"),
    ("mk1-rill-310", "OM4S-16G32S", "memory-b=R"),
    ("mk1-rill-310", "PM4S-32G32A1", "memory-b=R"),
    ("mk1-rill-310", "OM4S-16G36P", "memory-b=R"),
    ("mk1-rill-310", "OM4T-16G32E", "memory-b=R"),
    ("mk1-rill-310", "PM5S-16G48", "memory-b=R"),
    ("mk1-rill-310", "PM3S-04G16L", "memory-b=R"),
    ("mk1-rill-310", "OM4S-04G26", "memory-b=H"),
    ("mk1-rill-310", "QV1-256-80M", "drive-1=S drive-2=R radio=R"),
    ("mk1-rill-310", "QV1-256-42BM", "drive-1=S+ drive-2=R radio=R"),  # bracket 42 to 80
    ("mk1-rill-310", "QK2-0T5-80M", "drive-1=S drive-2=R radio=R"),
    ("mk1-rill-310", "QK2-1T0-80M", "drive-1=S drive-2=R radio=R"),
    ("mk1-rill-310", "QK2-2T0-80M", "drive-1=R drive-2=R radio=R"),  # over 1 TB
    ("mk1-rill-310", "QK4-1T0-80M", "drive-1=H drive-2=R radio=R"),
    ("mk1-rill-310", "WH1-1T0-80M", "drive-1=S drive-2=R radio=R"),
    ("mk1-rill-310", "WH1-2T0-80M", "drive-1=R drive-2=R radio=R"),
    ("mk1-rill-310", "QB5-0T5-80BM", "drive-1=R drive-2=S radio=R"),
    ("mk1-rill-310", "QB5-1T0-80BM", "drive-1=R drive-2=M radio=R"),
    ("mk1-rill-310", "QB5-2T0-80BM", "drive-1=R drive-2=M radio=R"),
    ("mk1-rill-310", "WN2-1T0-80BM", "drive-1=S drive-2=R radio=R"),
    ("mk1-rill-310", "WS4-0T5-42M", "drive-1=S+ drive-2=R radio=R"),
    ("mk1-rill-310", "WS4-1T0-42M", "drive-1=S+ drive-2=R radio=R"),
    ("mk1-rill-310", "WS3-0T5-30M", "drive-1=R drive-2=R radio=R"),  # no bracket 30 to 80 on sale
    ("mk1-rill-310", "QT7-1T0", ""),
    ("mk1-rill-310", "QT7-2T0", ""),
    ("mk1-rill-310", "WR9-2T0", ""),
    ("mk1-rill-310", "WR15-4T0", ""),
    ("mk1-rill-310", "LR-AC1-E30", "drive-1=R drive-2=R radio=M"),
    ("mk1-rill-310", "LR-AX2-E30", "drive-1=R drive-2=R radio=M"),
    ("mk1-rill-310", "LR-AX2T-E30", "drive-1=R drive-2=R radio=M"),
    ("mk1-rill-310", "TL-BE2-E30", "drive-1=R drive-2=R radio=M"),
    ("mk1-rill-310", "TL-CX2-E30", "drive-1=R drive-2=R radio=R"),
    ("mk1-rill-310", "AP-ST52", "battery=S"),
    ("mk1-rill-310", "AP-ST52L", "battery=X"),
    ("mk1-rill-310", "AP-DR45", "battery=X"),
    ("mk1-rill-310", "AP-DR57", "battery=X"),
    # Drover 14: two sockets of 16 GB with 2666 modules in both, 8 Gbit documented (controller 16), ceiling 32 GB;
    # standoffs at 42 and 60; 9.5 mm bay without its ribbon and spacer; any card, two leads for 2.4 and 5 GHz; 11.4 V pack.
    ("rill-320", "PM4S-04G26", "memory-a=S memory-b=S"),
    ("rill-320", "PM4S-08G26", "memory-a=S memory-b=S"),
    ("rill-320", "PM4S-08G29", "memory-a=H memory-b=H"),  # the other module holds it to 2666
    ("rill-320", "PM4S-08G32A1", "memory-a=H memory-b=H"),
    ("rill-320", "PM4S-08G32X", "memory-a=M memory-b=M"),
    ("rill-320", "PM4S-16G29", "memory-a=H memory-b=H"),
    ("rill-320", "PM4S-16G32A1", "memory-a=H memory-b=H"),
    ("rill-320", "OM4S-16G32S", "memory-a=M memory-b=M"),  # 16 Gbit, measured first
    ("rill-320", "PM4S-32G32A1", "memory-a=R memory-b=R"),  # 32 + 4 over 32
    ("rill-320", "OM4S-16G36P", "memory-a=H memory-b=H"),
    ("rill-320", "OM4T-16G32E", "memory-a=R memory-b=R"),
    ("rill-320", "PM5S-16G48", "memory-a=R memory-b=R"),
    ("rill-320", "PM3S-04G16L", "memory-a=R memory-b=R"),
    ("rill-320", "OM4S-04G26", "memory-a=S memory-b=S"),
    ("rill-320", "QV1-256-80M", "drive-1=R radio=R"),
    ("rill-320", "QV1-256-42BM", "drive-1=S radio=R"),
    ("rill-320", "QK2-0T5-80M", "drive-1=R radio=R"),
    ("rill-320", "QK2-1T0-80M", "drive-1=R radio=R"),  # 80 mm into 60 mm
    ("rill-320", "QK2-2T0-80M", "drive-1=R radio=R"),
    ("rill-320", "QK4-1T0-80M", "drive-1=R radio=R"),
    ("rill-320", "WH1-1T0-80M", "drive-1=R radio=R"),
    ("rill-320", "WH1-2T0-80M", "drive-1=R radio=R"),
    ("rill-320", "QB5-0T5-80BM", "drive-1=R radio=R"),
    ("rill-320", "QB5-1T0-80BM", "drive-1=R radio=R"),
    ("rill-320", "QB5-2T0-80BM", "drive-1=R radio=R"),
    ("rill-320", "WN2-1T0-80BM", "drive-1=R radio=R"),
    ("rill-320", "WS4-0T5-42M", "drive-1=S radio=R"),
    ("rill-320", "WS4-1T0-42M", "drive-1=S radio=R"),
    ("rill-320", "WS3-0T5-30M", "drive-1=S+ radio=R"),  # bracket 30 to 42
    ("rill-320", "QT7-1T0", "bay=S+"),  # with ribbon and spacer
    ("rill-320", "QT7-2T0", "bay=S+"),
    ("rill-320", "WR9-2T0", "bay=S+"),  # with ribbon
    ("rill-320", "WR15-4T0", "bay=R"),  # 15 mm
    ("rill-320", "LR-AC1-E30", "drive-1=R radio=S"),
    ("rill-320", "LR-AX2-E30", "drive-1=R radio=S"),
    ("rill-320", "LR-AX2T-E30", "drive-1=R radio=H"),  # 6 GHz not assured
    ("rill-320", "TL-BE2-E30", "drive-1=R radio=H"),
    ("rill-320", "TL-CX2-E30", "drive-1=R radio=R"),
    ("rill-320", "AP-ST52", "battery=X"),  # 15.2 V into 11.4 V
    ("rill-320", "AP-ST52L", "battery=R"),  # voltage right, number and plug wrong
    ("rill-320", "AP-DR45", "battery=S"),
    ("rill-320", "AP-DR57", "battery=S"),
]


@pytest.mark.parametrize(("configuration", "number", "wanted"), TABLE)
def test_verdict(configuration: str, number: str, wanted: str) -> None:
    slug, firmware = MACHINES[configuration]
    build = build_today(made.demo_machine(slug).configured(configuration), firmware=firmware)
    judged = [judge_equipped(build, s.id, BY_NUMBER[number], SHELF) for s in build.machine.slots]
    found = [f"{j.slot}={LETTER[j.verdict]}{'+' * bool(j.accessories)}" for j in judged if j.verdict]
    assert " ".join(found) == wanted


def test_no_part_is_left_out() -> None:
    fitting = {p.number for p in PARTS if not isinstance(p, Accessory)}
    for configuration in MACHINES:
        assert {n for c, n, _ in TABLE if c == configuration} == fitting
