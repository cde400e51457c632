"""The rules, case by case: each rule on both sides of its boundary and for unknown.

A row changes one thing of a build in which the part seats, and names the verdict and the rule that
gives it. Figures are worked by hand from the standards, not from the code.
"""

import pytest

from insertum.core.claim import Limits
from insertum.core.fit.judge import judge, judge_build, judge_equipped
from insertum.core.fit.rulebook import RULES
from insertum.core.part import Fittable

from . import made

SEATS, HELD, MEASURE, REFUSED, HARM = "seats", "held_back", "measure_first", "refused", "harm"
M, D, R, B, P = "memory-a", "drive-1", "radio", "bay", "battery"
KINDS = {M: made.module, D: made.drive, R: made.radio, B: made.bay_drive, P: lambda **c: made.pack("AP-45", **c)}

# slot, changes to the part, changes to the slot, changes to the machine, verdict, rule
TABLE = [
    # memory.generation: the notch differs
    (M, {}, {}, {}, SEATS, None),
    (M, {"generation": 5, "grade_mts": 4800}, {}, {}, REFUSED, "memory.generation"),
    (M, {"generation": 3, "voltage_mv": 1350}, {}, {}, REFUSED, "memory.generation"),
    (M, {}, {"generation": None}, {}, MEASURE, "memory.generation"),
    # memory.module_type
    (M, {"module_type": "U"}, {}, {}, REFUSED, "memory.module_type"),
    (M, {"module_type": "R"}, {}, {}, REFUSED, "memory.module_type"),
    (M, {"module_type": "T"}, {}, {}, REFUSED, "memory.module_type"),  # documented: S only
    (M, {"module_type": "T"}, {}, {"memory_module_types": ["S", "T"]}, SEATS, None),
    (M, {"module_type": "T"}, {}, {"memory_module_types": None}, MEASURE, "memory.module_type"),
    (M, {"module_type": "T", "generation": 3, "voltage_mv": 1350}, {"generation": 3}, {"memory_module_types": ["S", "T"]}, REFUSED, "memory.module_type"),
    (M, {"module_type": None}, {}, {}, MEASURE, "memory.module_type"),
    # memory.voltage: DDR3 1.5 V in a 1.35 V machine; DDR3L runs in both
    (M, {"generation": 3, "grade_mts": 1600, "voltage_mv": 1500, "capacity_gb": 8}, {"generation": 3}, {"memory_voltage_mv": 1350}, REFUSED, "memory.voltage"),
    (M, {"generation": 3, "grade_mts": 1600, "voltage_mv": 1500, "capacity_gb": 8}, {"generation": 3}, {"memory_voltage_mv": 1500}, SEATS, None),
    (M, {"generation": 3, "grade_mts": 1600, "voltage_mv": 1350, "capacity_gb": 8}, {"generation": 3}, {"memory_voltage_mv": 1500}, SEATS, None),
    (M, {"generation": 3, "grade_mts": 1600, "voltage_mv": 1350, "capacity_gb": 8}, {"generation": 3}, {"memory_voltage_mv": 1350}, SEATS, None),
    (M, {"generation": 3, "grade_mts": 1600, "voltage_mv": 1500, "capacity_gb": 8}, {"generation": 3}, {"memory_voltage_mv": None}, MEASURE, "memory.voltage"),
    (M, {"generation": 3, "grade_mts": 1600, "voltage_mv": None, "capacity_gb": 8}, {"generation": 3}, {}, MEASURE, "memory.voltage"),
    # memory.socket_capacity: 16 GB module, limit 16 and 15
    (M, {}, {"limit_gb": 16}, {}, SEATS, None),
    (M, {}, {"limit_gb": 15}, {}, REFUSED, "memory.socket_capacity"),
    (M, {}, {"limit_gb": None}, {}, MEASURE, "memory.socket_capacity"),
    # memory.total
    (M, {}, {}, {"memory_total_limit_gb": 16}, SEATS, None),
    (M, {}, {}, {"memory_total_limit_gb": 8}, REFUSED, "memory.total"),
    (M, {}, {}, {"memory_total_limit_gb": None}, MEASURE, "memory.total"),
    (M, {}, {}, {"memory_total_limit_gb": 24, "memory_soldered": [{"capacity_gb": 8, "rated_mts": 3200, "channel": "B"}]}, SEATS, None),  # 8 + 16
    (M, {}, {}, {"memory_total_limit_gb": 23, "memory_soldered": [{"capacity_gb": 8, "rated_mts": 3200, "channel": "B"}]}, REFUSED, "memory.total"),
    # memory.density: 16 GB as 1Rx8 has 16 Gbit chips, as 2Rx8 8 Gbit; the limit of 16 GB alone proves 8 Gbit (2Rx8)
    (M, {"ranks": 1}, {"limit_gb": 16}, {"memory_density_gbit": 16}, SEATS, None),
    (M, {"ranks": 1}, {"limit_gb": 16}, {"memory_density_gbit": 8}, MEASURE, "memory.density"),
    (M, {"ranks": 2}, {"limit_gb": 16}, {"memory_density_gbit": 8}, SEATS, None),
    (M, {"ranks": 2}, {"limit_gb": 16}, {"memory_density_gbit": None}, SEATS, None),
    (M, {"ranks": 1}, {"limit_gb": 16}, {"memory_density_gbit": None}, MEASURE, "memory.density"),
    (M, {"ranks": 1}, {"limit_gb": 16}, {"memory_density_gbit": {"value": 8, "source": "controller"}}, REFUSED, "memory.density"),
    (M, {"ranks": None}, {}, {}, MEASURE, "memory.density"),
    (M, {"chip_width": None}, {}, {}, MEASURE, "memory.density"),
    # memory.room: a bare module needs no check
    (M, {"spreader_um": 2000}, {"room_above_um": 2000}, {}, SEATS, None),
    (M, {"spreader_um": 2001}, {"room_above_um": 2000}, {}, REFUSED, "memory.room"),
    (M, {"spreader_um": 1000}, {"room_above_um": None}, {}, MEASURE, "memory.room"),
    (M, {"spreader_um": 0}, {"room_above_um": None}, {}, SEATS, None),
    (M, {"spreader_um": None}, {}, {}, MEASURE, "memory.room"),
    # memory.speed
    (M, {"grade_mts": 2933}, {}, {"memory_speed_mts": 2933}, SEATS, None),
    (M, {"grade_mts": 3200}, {}, {"memory_speed_mts": 2933}, HELD, "memory.speed"),
    (M, {"grade_mts": 2667}, {}, {"memory_speed_mts": 2666}, SEATS, None),  # one grade
    (M, {"grade_mts": 3200}, {}, {"memory_speed_mts": None}, MEASURE, "memory.speed"),
    (M, {}, {}, {"memory_speed_by_modules": {1: 2933}}, HELD, "memory.speed"),  # this population
    (M, {}, {}, {"memory_speed_by_modules": {2: 2933}}, SEATS, None),  # another population
    (M, {}, {}, {"memory_soldered": [{"capacity_gb": 8, "rated_mts": 2933, "channel": "B"}]}, HELD, "memory.speed"),
    (M, {"grade_mts": 2666, "profile_mts": 3200}, {}, {}, SEATS, None),  # the rating is the base grade
    (M, {"grade_mts": 2666, "profile_mts": 3600}, {}, {"memory_applies_profiles": True}, HELD, "memory.speed"),  # 3200 machine
    (M, {"grade_mts": 2666, "profile_mts": 3200}, {}, {"memory_applies_profiles": True}, SEATS, None),
    # memory.slows_others
    (M, {"grade_mts": 2666}, {}, {"memory_soldered": [{"capacity_gb": 8, "rated_mts": 3200, "channel": "B"}]}, HELD, "memory.slows_others"),
    (M, {"grade_mts": 2666}, {}, {"memory_soldered": [{"capacity_gb": 8, "rated_mts": 2666, "channel": "B"}]}, SEATS, None),
    (M, {}, {"channel": None}, {}, SEATS, None),  # the split is measured first, the fit is not affected
    # m2.key
    (D, {}, {}, {}, SEATS, None),
    (D, {"keys": ("B", "M"), "lanes": 2, "read_mb_s": 1700}, {}, {}, SEATS, None),
    (D, {"keys": ("B",)}, {}, {}, REFUSED, "m2.key"),
    (D, {"keys": None}, {}, {}, MEASURE, "m2.key"),
    (D, {}, {"key": None}, {}, MEASURE, "m2.key"),
    (D, {"keys": ("B", "M"), "lanes": 2, "read_mb_s": 1700}, {"key": "B"}, {}, SEATS, None),
    # m2.width
    (D, {"width_mm": 30}, {}, {}, REFUSED, "m2.width"),
    (D, {"width_mm": None}, {}, {}, MEASURE, "m2.width"),
    (D, {}, {"width_mm": None}, {}, MEASURE, "m2.width"),
    (D, {"width_mm": 30}, {"width_mm": 30}, {}, SEATS, None),
    # m2.length: standoffs at 42 and 80
    (D, {"length_mm": 42}, {}, {}, SEATS, None),
    (D, {"length_mm": 60}, {}, {}, REFUSED, "m2.length"),  # needs a bracket to 80
    (D, {"length_mm": 110}, {}, {}, REFUSED, "m2.length"),  # longer than the longest
    (D, {"length_mm": 60}, {"bracket_mm": [60]}, {}, SEATS, None),  # the bracket is there
    (D, {"length_mm": 60}, {"bracket_mm": None}, {}, MEASURE, "m2.length"),
    (D, {}, {"standoffs_mm": None}, {}, MEASURE, "m2.length"),
    (D, {"length_mm": None}, {}, {}, MEASURE, "m2.length"),
    # m2.below: socket H3.2 leaves 1.35, H2.8 0.70, H4.2 1.50, H2.3 nothing
    (D, {"below_um": 1350}, {"clearance_below_um": None}, {}, SEATS, None),
    (D, {"below_um": 1500}, {"clearance_below_um": None}, {}, HARM, "m2.below"),
    (D, {"below_um": 1500}, {"clearance_below_um": None, "socket_height": "H4.2"}, {}, SEATS, None),
    (D, {"below_um": 700}, {"clearance_below_um": None, "socket_height": "H2.8"}, {}, SEATS, None),
    (D, {"below_um": 1350}, {"clearance_below_um": None, "socket_height": "H2.8"}, {}, HARM, "m2.below"),
    (D, {"below_um": 700}, {"clearance_below_um": None, "socket_height": "H2.3"}, {}, HARM, "m2.below"),
    (D, {"below_um": 700}, {"clearance_below_um": None, "socket_height": "H2.5"}, {}, HARM, "m2.below"),
    (D, {"below_um": 700}, {"clearance_below_um": None, "socket_height": None}, {}, MEASURE, "m2.below"),
    (D, {"below_um": 0}, {"clearance_below_um": None, "socket_height": None}, {}, SEATS, None),
    (D, {"below_um": 1350}, {"clearance_below_um": 1349}, {}, HARM, "m2.below"),  # measured beats the socket
    (D, {"below_um": 1500}, {"clearance_below_um": 1500}, {}, SEATS, None),
    (D, {"below_um": None}, {}, {}, MEASURE, "m2.below"),
    (D, {"below_um": 1350}, {"pad_below": "stays"}, {}, HARM, "m2.below"),
    (D, {"below_um": 1350}, {"pad_below": "removable"}, {}, SEATS, None),
    (D, {"below_um": 1350}, {"pad_below": None}, {}, MEASURE, "m2.below"),
    (D, {"below_um": 0}, {"pad_below": "stays"}, {}, SEATS, None),
    # m2.above
    (D, {"above_um": 1500}, {"clearance_above_um": 1500}, {}, SEATS, None),
    (D, {"above_um": 1500}, {"clearance_above_um": 1499}, {}, REFUSED, "m2.above"),
    (D, {}, {"clearance_above_um": None}, {}, MEASURE, "m2.above"),
    (D, {"above_um": None}, {}, {}, MEASURE, "m2.above"),
    # m2.wiring: notches say nothing
    (D, {"interface": "sata", "read_mb_s": 560, "lanes": None}, {}, {}, SEATS, None),
    (D, {"interface": "sata", "read_mb_s": 560, "lanes": None}, {"sata": "none"}, {}, REFUSED, "m2.wiring"),
    (D, {"interface": "sata", "read_mb_s": 560, "lanes": None}, {"sata": None}, {}, MEASURE, "m2.wiring"),
    (D, {}, {"pcie": "none"}, {}, REFUSED, "m2.wiring"),
    (D, {}, {"pcie": None}, {}, MEASURE, "m2.wiring"),
    (D, {"interface": None}, {}, {}, MEASURE, "m2.wiring"),
    # drive.rate: PCIe 3 ×4 carries 3938; held back only where the link is below the rating
    (D, {"generation": 4, "read_mb_s": 3938}, {}, {}, SEATS, None),
    (D, {"generation": 4, "read_mb_s": 3939}, {}, {}, HELD, "drive.rate"),
    (D, {"generation": 4, "read_mb_s": 3400}, {}, {}, SEATS, None),  # generations differ, nothing is lost
    (D, {"keys": ("B", "M"), "lanes": 4, "read_mb_s": 1969}, {}, {}, SEATS, None),  # B+M has two lanes: 1969
    (D, {"keys": ("B", "M"), "lanes": 4, "read_mb_s": 1970}, {}, {}, HELD, "drive.rate"),
    (D, {"interface": "sata", "generation": 3, "read_mb_s": 560}, {"sata": 2}, {}, HELD, "drive.rate"),  # 300 MB/s
    (D, {"read_mb_s": None}, {}, {}, MEASURE, "drive.rate"),
    (D, {"lanes": None}, {}, {}, MEASURE, "drive.rate"),
    # drive.capacity
    (D, {"capacity_gb": 2000}, {}, {}, SEATS, None),
    (D, {"capacity_gb": 2001}, {}, {}, REFUSED, "drive.capacity"),
    (D, {}, {"drive_limit_gb": None}, {}, MEASURE, "drive.capacity"),
    # m2.cooling
    (D, {"needs_cooling": True}, {}, {}, SEATS, None),
    (D, {"needs_cooling": True}, {"cooled": False}, {}, HELD, "m2.cooling"),
    (D, {"needs_cooling": True}, {"cooled": None}, {}, MEASURE, "m2.cooling"),
    (D, {"needs_cooling": None}, {"cooled": False}, {}, MEASURE, "m2.cooling"),
    (D, {"needs_cooling": False}, {"cooled": None}, {}, SEATS, None),
    # boot.nvme, in the role of boot drive and as data drive
    (D, {}, {}, {"boot": {"starts_nvme": False}}, REFUSED, "boot.nvme"),
    (D, {}, {}, {"boot": {"starts_nvme": False}, "boot_slot": "bay"}, SEATS, None),
    (D, {"interface": "sata", "read_mb_s": 560}, {}, {"boot": {"starts_nvme": False}}, SEATS, None),
    (D, {}, {}, {"boot": {"starts_nvme": None}}, MEASURE, "boot.nvme"),
    (D, {}, {}, {"boot": {"storage_mode": "raid"}}, HELD, "boot.nvme"),
    (D, {}, {}, {"boot": {"storage_mode": None}}, MEASURE, "boot.nvme"),
    # boot.reach: 2199.02 GB
    (D, {"capacity_gb": 2199}, {"drive_limit_gb": 8000}, {"boot": {"style": "legacy"}}, SEATS, None),
    (D, {"capacity_gb": 2200}, {"drive_limit_gb": 8000}, {"boot": {"style": "legacy"}}, HELD, "boot.reach"),
    (D, {"capacity_gb": 2200}, {"drive_limit_gb": 8000}, {"boot": {"style": None}}, MEASURE, "boot.reach"),
    (D, {"capacity_gb": 2200}, {"drive_limit_gb": 8000}, {"boot": {"style": "legacy"}, "boot_slot": "bay"}, SEATS, None),
    # radio
    (R, {}, {}, {}, SEATS, None),
    (R, {"keys": ("M",)}, {}, {}, REFUSED, "m2.key"),
    (R, {"length_mm": 42}, {}, {}, REFUSED, "m2.length"),
    (R, {"bus": "cnvi"}, {}, {}, REFUSED, "radio.wiring"),  # no host radio
    (R, {"bus": "cnvi"}, {"cnvi": ["F-1"]}, {}, SEATS, None),
    (R, {"bus": "cnvi"}, {"cnvi": ["F-9"]}, {}, MEASURE, "radio.wiring"),
    (R, {"bus": "cnvi"}, {"cnvi": None}, {}, MEASURE, "radio.wiring"),
    (R, {}, {"pcie": "none"}, {}, REFUSED, "radio.wiring"),  # CNVi-only slot
    (R, {}, {"pcie": None}, {}, MEASURE, "radio.wiring"),
    (R, {"bus": None}, {}, {}, MEASURE, "radio.wiring"),
    (R, {}, {"usb": False}, {}, HELD, "radio.bluetooth"),
    (R, {"bluetooth": ""}, {"usb": False}, {}, SEATS, None),
    (R, {}, {"usb": None}, {}, MEASURE, "radio.bluetooth"),
    (R, {"bus": "cnvi"}, {"cnvi": ["F-1"], "usb": False}, {}, SEATS, None),  # for a PCIe card only
    (R, {}, {"card_policy": "listed", "listed_cards": ["F-1"]}, {}, SEATS, None),
    (R, {"fru": "F-2"}, {"card_policy": "listed", "listed_cards": ["F-1"]}, {}, REFUSED, "radio.allowlist"),
    (R, {"fru": None}, {"card_policy": "listed", "listed_cards": ["F-1"]}, {}, MEASURE, "radio.allowlist"),
    (R, {}, {"card_policy": "listed", "listed_cards": None}, {}, MEASURE, "radio.allowlist"),
    (R, {}, {"card_policy": None}, {}, MEASURE, "radio.allowlist"),
    (R, {"streams": 2}, {"leads": 1}, {}, HELD, "radio.leads"),
    (R, {"streams": 2}, {"leads": 3}, {}, SEATS, None),  # a spare lead is insulated
    (R, {}, {"leads": 0}, {}, REFUSED, "radio.leads"),
    (R, {}, {"leads": None}, {}, MEASURE, "radio.leads"),
    (R, {"streams": None}, {}, {}, MEASURE, "radio.leads"),
    (R, {"plug": "MHF1"}, {}, {}, REFUSED, "radio.plug"),
    (R, {"plug": None}, {}, {}, MEASURE, "radio.plug"),
    (R, {}, {"plug": None}, {}, MEASURE, "radio.plug"),
    (R, {"bands": ("2.4", "5", "6")}, {}, {}, HELD, "radio.bands"),
    (R, {"bands": ("2.4", "5", "6")}, {"antenna_bands": ["2.4", "5", "6"]}, {}, SEATS, None),
    (R, {}, {"antenna_bands": None}, {}, MEASURE, "radio.bands"),
    (R, {"below_um": 700}, {"clearance_below_um": None}, {}, SEATS, None),  # H2.8 leaves 0.70
    (R, {"below_um": 701}, {"clearance_below_um": None}, {}, HARM, "m2.below"),
    # bay
    (B, {}, {}, {}, SEATS, None),
    (B, {"height_um": 12500}, {}, {}, REFUSED, "bay.height"),
    (B, {"height_um": None}, {}, {}, MEASURE, "bay.height"),
    (B, {}, {"height_um": None}, {}, MEASURE, "bay.height"),
    (B, {"height_um": 7000}, {}, {}, SEATS, None),  # the spacer is there
    (B, {"height_um": 7000}, {"spacer": "missing"}, {}, REFUSED, "bay.height"),
    (B, {"height_um": 7000}, {"spacer": None}, {}, MEASURE, "bay.height"),
    (B, {"height_um": 5000, "edge_connector": None}, {}, {}, MEASURE, "bay.edge"),
    (B, {"height_um": 5000, "edge_connector": False}, {}, {}, SEATS, None),
    (B, {"height_um": 7000, "edge_connector": None}, {}, {}, SEATS, None),
    (B, {}, {"ribbon": "missing"}, {}, REFUSED, "bay.accessories"),
    (B, {}, {"ribbon": None}, {}, MEASURE, "bay.accessories"),
    (B, {}, {"caddy": "missing"}, {}, REFUSED, "bay.accessories"),
    (B, {}, {"screws": None}, {}, MEASURE, "bay.accessories"),
    (B, {}, {"sata": 2}, {}, HELD, "drive.rate"),  # 300 below 550
    (B, {}, {"sata": None}, {}, MEASURE, "drive.rate"),
    (B, {"read_mb_s": 130, "spinning": True}, {"sata": 1}, {}, SEATS, None),  # 150 carries 130
    (B, {"capacity_gb": 4000}, {}, {}, REFUSED, "drive.capacity"),
    # battery
    (P, {}, {}, {}, SEATS, None),
    (P, {}, {"accepts": ["AP-57"]}, {}, REFUSED, "pack.number"),
    (P, {}, {"accepts": None}, {}, MEASURE, "pack.number"),
    (P, {"voltage_mv": 15200}, {}, {}, HARM, "pack.voltage"),
    (P, {"voltage_mv": None}, {}, {}, MEASURE, "pack.voltage"),
    (P, {}, {"voltage_mv": None}, {}, MEASURE, "pack.voltage"),
    (P, {"connector": "8-way"}, {}, {}, REFUSED, "pack.connector"),
    (P, {"connector": None}, {}, {}, MEASURE, "pack.connector"),
    (P, {}, {"connector": None}, {}, MEASURE, "pack.connector"),
    (P, {"safety_mark": False}, {}, {}, REFUSED, "pack.safety_mark"),
    (P, {"safety_mark": None}, {}, {}, MEASURE, "pack.safety_mark"),
    (P, {}, {"held_by": "glue"}, {}, SEATS, None),  # a caution, for someone trained
]  # fmt: skip


@pytest.mark.parametrize("row", TABLE, ids=lambda r: f"{r[0]}-{r[5] or 'seats'}-{r[4]}")
def test_row(row) -> None:
    slot, part, slot_changes, machine_changes, verdict, rule = row
    build = made.build(made.machine({slot: slot_changes}, **machine_changes))
    found = judge(build, slot, KINDS[slot](**part))
    assert found.verdict == verdict, [f.says for f in found.findings]
    worst = {f.rule for f in found.findings if f.verdict == verdict}
    assert rule is None or rule in worst
    for f in found.findings:
        assert f.says and f.rule in RULES
        assert (f.verdict == "measure_first") == bool(f.attribute and f.how)


def test_every_rule_is_in_the_table_on_its_objecting_side() -> None:
    objecting = {r[5] for r in TABLE if r[5]}
    only_notes = {"memory.channels", "memory.chip_width", "pack.glue"}
    elsewhere = {"m2.purpose", "build.shared"}
    assert objecting | only_notes | elsewhere == set(RULES)


# part into a slot of another purpose: verdict and rule, None for another kind altogether
@pytest.mark.parametrize(
    ("slot", "part", "verdict"),
    [
        ("radio", made.drive(keys=("A", "E"), length_mm=30), REFUSED),
        ("drive-1", made.radio(keys=("M",), length_mm=42), REFUSED),
        ("drive-1", made.radio(), REFUSED),
        ("radio", made.drive(), REFUSED),
        ("memory-a", made.drive(), None),
        ("bay", made.drive(), None),
        ("drive-1", made.bay_drive(), None),
        ("battery", made.module(), None),
    ],
)
def test_purpose(slot: str, part: Fittable, verdict) -> None:
    assert judge(made.build(), slot, part).verdict == verdict


def test_a_key_that_keeps_a_card_out_is_no_harm() -> None:
    """A double-sided drive cannot press on anything in a socket it does not enter."""
    assert judge(made.build(), "radio", made.drive(below_um=1350)).verdict == REFUSED


# -- schools ----------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("school", "verdict"),
    [(Limits.DOCUMENTED, REFUSED), (Limits.CONTROLLER, SEATS), (Limits.PROVEN, REFUSED), (Limits.OPEN, SEATS)],
)
def test_schools_over_a_controller_limit(school, verdict) -> None:
    laid = made.machine({"memory-a": {"limit_gb": [made.said(8), made.said(32, "controller")]}})
    assert judge(made.build(laid, school), "memory-a", made.module()).verdict == verdict


@pytest.mark.parametrize(("firmware", "verdict"), [("1.14", SEATS), ("1.02", REFUSED)])
def test_an_outcome_decides_only_under_its_firmware(firmware, verdict) -> None:
    laid = made.machine({"memory-a": {"limit_gb": [made.said(8), made.said(16, "proven", count=1, firmware="1.14")]}})
    assert judge(made.build(laid, firmware=firmware), "memory-a", made.module()).verdict == verdict


def test_open_takes_reports_at_the_owners_risk() -> None:
    laid = made.machine({"memory-a": {"limit_gb": [made.said(8), made.said(16, "reported", who="a club")]}})
    found = judge(made.build(laid, Limits.OPEN), "memory-a", made.module())
    assert found.verdict == HELD
    assert "risk" in next(f.remedy for f in found.findings if f.rule == "memory.socket_capacity")
    unknown = made.machine({"radio": {"card_policy": None}})
    assert judge(made.build(unknown, Limits.OPEN), "radio", made.radio()).verdict == HELD
    listing = made.machine({"radio": {"card_policy": None, "listed_cards": ["F-9"]}})
    assert judge(made.build(listing, Limits.OPEN), "radio", made.radio()).verdict == MEASURE


# -- context: the same part in another build ---------------------------------------------------
def test_the_rest_of_the_build_counts() -> None:
    slow = made.module("OLD", grade_mts=2400)
    held = judge(made.build(memory_b=slow), "memory-a", made.module())
    assert (held.verdict, held.short) == (HELD, "runs at 2400")
    full = made.build(made.machine(memory_total_limit_gb=24), memory_b=made.module("B"))
    assert judge(full, "memory-a", made.module()).verdict == REFUSED
    assert judge(full.with_part("memory-b", None), "memory-a", made.module()).verdict == SEATS


@pytest.mark.parametrize(("grade", "verdict"), [(2666, SEATS), (2933, SEATS), (3200, MEASURE)])
def test_what_runs_now_is_known_to_run(grade, verdict) -> None:
    laid = made.machine(memory_speed_mts=made.said(2933, "read"))
    assert judge(made.build(laid), "memory-a", made.module(grade_mts=grade)).verdict == verdict


@pytest.mark.parametrize(("gb", "verdict"), [(8, SEATS), (16, SEATS), (32, MEASURE)])
def test_what_is_fitted_now_is_known_to_fit(gb, verdict) -> None:
    laid = made.machine({"memory-a": {"limit_gb": None}}, memory_total_limit_gb=None)
    assert (
        judge(made.build(laid, memory_a=made.module("OLD")), "memory-a", made.module(capacity_gb=gb)).verdict == verdict
    )


def test_unknown_neighbours_are_measured_first() -> None:
    build = made.build()
    lacking = type(build)(build.machine, {k: v for k, v in build.fitted.items() if k != "memory-b"})
    found = judge(lacking, "memory-a", made.module())
    assert (found.verdict, found.findings[0].attribute) == (MEASURE, "fitted.memory-b")


def test_exclusions() -> None:
    off = made.machine(exclusions=[{"when": "drive-1", "holds": "pcie", "off": "bay"}])
    empty = made.build(off)
    assert judge(empty, "drive-1", made.drive()).verdict == SEATS  # nothing is lost
    used = made.build(off, bay=made.bay_drive())
    assert judge(used, "drive-1", made.drive()).verdict == HELD
    both = {s: j.verdict for s, j in judge_build(used.with_part("drive-1", made.drive())).items()}
    assert both == {"drive-1": HELD, "bay": REFUSED}
    sata = made.drive(interface="sata", read_mb_s=560)
    assert judge(used, "drive-1", sata).verdict == SEATS
    fills = made.machine(exclusions=[{"when": "battery", "holds": "fills_bay", "off": "bay", "filled": True}])
    large = made.pack("AP-57", fills_bay=True)
    assert judge(made.build(fills, bay=made.bay_drive()), "battery", large).verdict == REFUSED
    assert judge(made.build(fills, battery=large), "bay", made.bay_drive()).verdict == REFUSED


# -- accessories -------------------------------------------------------------------------------
RIBBON = made.accessory("ribbon-any", "ribbon", 900)
MINE = made.accessory("ribbon-mine", "ribbon", 700, families=("test-machine",))
OTHER = made.accessory("ribbon-other", "ribbon", 100, families=("another",))
SPACER = made.accessory("spacer", "spacer", 150, from_mm=7, to_mm=9.5)
WRONG = made.accessory("bracket-wrong", "bracket", 100, from_mm=30, to_mm=42)
RIGHT = made.accessory("bracket", "bracket", 400, from_mm=60, to_mm=80)


def test_a_part_is_judged_with_the_cheapest_accessories_that_suit() -> None:
    bay = made.build(made.machine({"bay": {"ribbon": "missing", "spacer": "missing"}}))
    found = judge_equipped(bay, "bay", made.bay_drive(height_um=7000), [RIBBON, MINE, OTHER, SPACER])
    assert (found.verdict, found.accessories, found.extra_minor) == (SEATS, ("spacer", "ribbon-mine"), 850)
    short = made.drive(length_mm=60)
    assert judge_equipped(made.build(), "drive-1", short, [WRONG, RIGHT]).accessories == ("bracket",)
    assert judge_equipped(made.build(), "drive-1", short, [WRONG]).verdict == REFUSED


def test_nothing_is_sold_where_it_does_not_help() -> None:
    dead = made.drive(length_mm=60, keys=("B",))
    found = judge_equipped(made.build(), "drive-1", dead, [RIGHT])
    assert (found.verdict, found.accessories) == (REFUSED, ())
