"""The rules, case by case: each rule on both sides of its boundary and for unknown.

A row of fit_cases.txt changes one thing of a build in which the part seats, and names the verdict and
the rule that gives it. Figures are worked by hand from the standards, not from the code.
"""

import ast
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from insertum.core.comparison.side_by_side import side_by_side
from insertum.core.fit.judge import because, judge, judge_build, judge_equipped, matrix
from insertum.core.fit.rulebook import RULES
from insertum.core.machine.claim import Limits
from insertum.core.machine.part import Fittable
from insertum.core.survey.current_build import build_today

from . import made

SEATS, HELD, MEASURE, REFUSED, HARM = "seats", "held_back", "measure_first", "refused", "harm"
KINDS = {
    "memory-a": made.module, "drive-1": made.drive, "radio": made.radio, "bay": made.bay_drive, "battery": made.pack,
    "mini": made.msata, "cellular": made.cellular,
}  # fmt: skip
COLUMNS = ("slot", "part", "slot_changes", "machine_changes", "verdict", "rule", "working")


def _row(line: str) -> dict[str, Any]:
    cells = dict(zip(COLUMNS, (c.strip() for c in line.split("|")), strict=True))
    laid = {c: changes(cells[c]) for c in COLUMNS[1:4]}
    return {**cells, **laid}


def changes(text: str) -> dict[str, Any]:
    call = ast.parse(f"dict({text})", mode="eval").body
    assert isinstance(call, ast.Call)
    return {k.arg or "": ast.literal_eval(k.value) for k in call.keywords}


CASES = Path(__file__).with_name("fit_cases.txt")
TABLE = [_row(line) for line in CASES.read_text().splitlines() if line.strip() and not line.startswith("#")]


@pytest.mark.parametrize("row", TABLE, ids=lambda r: f"{r['slot']}-{r['rule'] or 'seats'}-{r['verdict']}")
def test_row(row) -> None:
    slot = row["slot"]
    build = made.build(made.machine({slot: row["slot_changes"]}, **row["machine_changes"]))
    found = judge(build, slot, KINDS[slot](**row["part"]))
    assert found.verdict == row["verdict"], [f.says for f in found.findings]
    worst = {f.rule for f in found.findings if f.verdict == row["verdict"]}
    assert not row["rule"] or row["rule"] in worst
    for f in found.findings:
        assert f.says and f.rule in RULES
        if f.verdict == "held_back" and f.attribute:  # held back by an unknown: it is named, with how it is answered
            assert f.how and ("known" in f.says or "whatever" in f.says)
        else:
            assert (f.verdict == "measure_first") == bool(f.attribute and f.how)


def test_every_rule_is_in_the_table_on_its_objecting_side() -> None:
    objecting = {r["rule"] for r in TABLE if r["rule"]}
    only_notes = {"memory.channels", "memory.chip_width", "pack.glue", "radio.drivers", "cellular.approval"}
    elsewhere = {"m2.purpose", "build.shared", "m2.pad", "bench.outcome", "job.as_usual"}
    assert objecting | only_notes | elsewhere == set(RULES)
    assert len(TABLE) >= 150


# part into a slot of another purpose: verdict and rule, None for another kind altogether
@pytest.mark.parametrize(
    ("slot", "part", "verdict"),
    [
        ("radio", made.drive(keys=("A", "E"), lanes=1, length_mm=30), REFUSED),
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
    # No school lifts an unknown card policy: only the owner's word for this job does (rules.md section 2).
    unknown = made.machine({"radio": {"card_policy": None}})
    assert judge(made.build(unknown, Limits.OPEN), "radio", made.radio()).asks == ("radio.card_policy",)


# -- context: the same part in another build ---------------------------------------------------
def test_the_rest_of_the_build_counts() -> None:
    slow = made.module("OLD", grade_mts=2400)
    held = judge(made.build(memory_b=slow), "memory-a", made.module())
    assert (held.verdict, held.short) == (HELD, "runs at 2400")
    full = made.build(made.machine(memory_total_limit_gb=24), memory_b=made.module("B"))
    assert judge(full, "memory-a", made.module()).verdict == REFUSED
    assert judge(full.with_part("memory-b", None), "memory-a", made.module()).verdict == SEATS


@pytest.mark.parametrize(("grade", "verdict"), [(2666, SEATS), (2933, SEATS), (3200, HELD)])
def test_what_runs_now_is_known_to_run(grade, verdict) -> None:
    laid = made.machine(memory_speed_mts=made.said(2933, "read"))
    build = made.build(laid, memory_a=made.module("OLD"))
    assert judge(build, "memory-a", made.module(grade_mts=grade)).verdict == verdict


@pytest.mark.parametrize(("gb", "verdict"), [(8, SEATS), (16, SEATS), (32, MEASURE)])
def test_what_is_fitted_now_is_known_to_fit(gb, verdict) -> None:
    laid = made.machine({"memory-a": {"limit_gb": None}}, memory_total_limit_gb=None)
    assert (
        judge(made.build(laid, memory_a=made.module("OLD")), "memory-a", made.module(capacity_gb=gb)).verdict == verdict
    )


def test_what_stays_is_judged_where_the_build_changes_its_role() -> None:
    """A module slowed by its new neighbour, and a data drive the system is to start from."""
    build = made.build(memory_a=made.module("OLD"))
    assert "memory-a" not in {s for s, j in judge_build(build).items() if j.verdict != SEATS}
    slowed = judge_build(build.with_part("memory-b", made.module("NEW", grade_mts=2400)))
    assert (slowed["memory-a"].verdict, slowed["memory-a"].short) == (HELD, "runs at 2400")
    alike = judge_build(build.with_part("memory-b", made.module("NEW")))
    assert alike["memory-a"].verdict == SEATS

    laid = made.machine(boot={"starts_nvme": False}, boot_slot="bay")
    data = made.build(laid, drive_1=made.drive("OLD-D"), bay=made.bay_drive("OLD-B"))
    assert judge_build(data)["drive-1"].verdict == SEATS
    emptied = replace(data.with_part("bay", None), boot_slot="drive-1")
    assert judge_build(emptied)["drive-1"].verdict == REFUSED  # this machine starts from no NVMe drive
    starts = made.build(made.machine(boot_slot="bay"), drive_1=made.drive("OLD-D"), bay=made.bay_drive("OLD-B"))
    assert judge_build(replace(starts.with_part("bay", None), boot_slot="drive-1"))["drive-1"].verdict == SEATS


def test_what_a_verdict_rests_on_is_what_could_have_kept_the_part_out() -> None:
    seats = judge(made.build(), "memory-a", made.module())
    places = {e.place for e in because(made.build(), seats)}
    assert places >= {"memory-a.generation", "memory-a.limit_gb", "memory.total_limit_gb", "memory.density_gbit"}
    refused = judge(
        made.build(), "memory-a", made.module(capacity_gb=64, generation=5, grade_mts=5600, voltage_mv=1100)
    )
    assert "memory-a.generation" in {e.place for e in because(made.build(), refused)}


def test_comparing_takes_cards_of_any_kind() -> None:
    """A SATA card and a modem beside a radio, in the radio's slot: refused, and nothing falls over."""
    cards = [made.radio(), made.drive(interface="sata", lanes=None, read_mb_s=550), made.cellular()]
    found = side_by_side(made.build(), "radio", cards, [])
    assert [j.verdict for j in found.judged] == [SEATS, REFUSED, REFUSED]


def test_unknown_neighbours_are_measured_first() -> None:
    def with_an_unseen_neighbour(total: int) -> Any:
        laid = made.machine(memory_total_limit_gb=total)
        return judge(build_today(laid, unknown=["memory-b"]), "memory-a", made.module())

    # The neighbour holds nothing to 32 GB: 16 + 32 stays within 48, and not within 47.
    assert with_an_unseen_neighbour(48).verdict == HELD  # it may be slower
    found = with_an_unseen_neighbour(47)
    assert (found.verdict, found.asks) == (MEASURE, ("fitted.memory-b",))
    assert with_an_unseen_neighbour(15).verdict == REFUSED  # whatever sits there


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


def test_a_kit_bought_for_one_part_serves_no_other() -> None:
    """Two drives of 60 mm over standoffs at 42 and 80: each wants a bracket of its own, before a choice and after."""
    chosen, other = made.drive("CHOSEN", length_mm=60), made.drive("OTHER", length_mm=60)
    build = made.build().with_part("drive-1", chosen, (RIGHT,))
    for shelf, verdict, extra in (([RIGHT], SEATS, 400), ([], REFUSED, 0)):
        found = judge_equipped(build, "drive-1", other, shelf)
        assert (found.verdict, found.extra_minor) == (verdict, extra)
        own = judge_equipped(build, "drive-1", chosen, shelf)
        assert (own.verdict, own.accessories, own.extra_minor) == (SEATS, ("bracket",), 400)
        cells = {c.part: (c.verdict, c.extra_minor) for c in matrix(build, [chosen, other], shelf, ["drive-1"])}
        assert cells == {"CHOSEN": (SEATS, 400), "OTHER": (verdict, extra)}
    assert judge(build, "drive-1", other).verdict == REFUSED and judge(build, "drive-1", chosen).verdict == SEATS


def test_nothing_is_sold_where_it_does_not_help() -> None:
    dead = made.drive(length_mm=60, keys=("B",), lanes=2)
    found = judge_equipped(made.build(), "drive-1", dead, [RIGHT])
    assert (found.verdict, found.accessories) == (REFUSED, ())
