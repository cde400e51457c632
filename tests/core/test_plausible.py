"""What a part, a machine or an entry cannot be: refused in the shapes, and so at every door (rules.md section 3)."""

from typing import Any

import pytest
from pydantic import TypeAdapter, ValidationError

from insertum.core.errors import InputError
from insertum.core.job import validation
from insertum.core.job.shape import Job
from insertum.core.machine.claim import Source
from insertum.core.machine.part import Part
from insertum.core.machine.shape import Machine
from insertum.core.prepare.gates import AsUsual
from insertum.core.standards import wlan
from insertum.core.survey.current_build import with_claims

from . import made

PART: TypeAdapter[Any] = TypeAdapter(Part)
PLAIN = {
    "memory": made.module(), "drive": made.drive(), "bay": made.bay_drive(), "radio": made.radio(), "pack": made.pack(),
    "pad": made.accessory("P", "pad", thickness_um=1000), "bracket": made.accessory("B", "bracket", from_mm=42, to_mm=80),
}  # fmt: skip

# part, changes, what the refusal says ("" where it is a part)
PARTS = [
    ("memory", {"number": " PM-1 "}, ""),  # typed with blanks around it
    ("memory", {"number": "   "}, "all of them to be seen"),
    ("memory", {"number": "P\r1"}, "all of them to be seen"),
    ("memory", {"number": "P" * 100}, ""),
    ("memory", {"number": "P" * 101}, "all of them to be seen"),
    ("memory", {"capacity_gb": 7}, "no module has 7 GB"),
    ("memory", {"generation": 6}, "no DDR6"),
    ("memory", {"grade_mts": 3100}, "DDR4-3100 is no grade"),
    ("memory", {"grade_mts": 2667}, ""),  # one name of 2666
    ("memory", {"ranks": 3}, "1, 2, 4 or 8"),
    ("memory", {"ranks": 0}, "1, 2, 4 or 8"),
    ("memory", {"chip_width": 5}, "x5 chips"),
    ("memory", {"generation": 5, "grade_mts": 5600, "voltage_mv": 1100, "capacity_gb": 24}, "12 Gbit"),  # 24 × 8 × 8 ÷ 128
    ("memory", {"generation": 5, "grade_mts": 5600, "voltage_mv": 1100, "capacity_gb": 24, "ranks": 1}, ""),  # 24 Gbit
    ("memory", {"profile_mts": 3199}, "none above the base grade"),
    ("memory", {"profile_mts": 3200}, ""),
    ("memory", {"voltage_mv": 899}, "no memory voltage"),
    ("memory", {"voltage_mv": 1801}, "no memory voltage"),
    ("drive", {"below_um": -1500}, "greater than or equal to 0"),
    ("drive", {"generation": 0}, "greater than or equal to 1"),
    ("drive", {"generation": 9}, "less than or equal to 5"),
    ("drive", {"lanes": 3}, "1, 2 or 4 lanes"),
    ("drive", {"keys": ("Q",)}, "no key Q"),
    ("drive", {"keys": ("B",)}, "key B carries no ×4"),  # ×2 at most
    ("drive", {"keys": ("B",), "lanes": 2}, ""),
    ("drive", {"width_mm": float("nan")}, "finite"),
    ("drive", {"read_mb_s": 0}, "greater than or equal to 1"),  # unknown is left out, never 0
    ("drive", {"read_mb_s": None}, ""),
    ("bay", {"height_um": 999}, "greater than or equal to 1000"),
    ("radio", {"bands": ()}, "name one"),
    ("radio", {"bands": ("2.4", "60")}, "not 60"),
    ("radio", {"channel_mhz": 90}, "not 90"),
    ("radio", {"channel_mhz": 160}, ""),
    ("radio", {"channel_mhz": 320}, "ax has no channel of 320"),  # be's alone
    ("radio", {"standard": "be", "channel_mhz": 320}, "at 2.4, 5 GHz"),  # at 6 GHz alone
    ("radio", {"standard": "be", "channel_mhz": 320, "bands": ("2.4", "5", "6")}, ""),
    ("radio", {"standard": "n", "channel_mhz": 80}, "n has no channel of 80"),
    ("radio", {"standard": None, "channel_mhz": 320}, ""),  # of which standard is not known
    ("pack", {"full_mwh": 90000}, ""),
    ("pack", {"full_mwh": 90001}, "of a design of 45 Wh"),  # more than twice: mAh for mWh
    ("pack", {"voltage_mv": 0}, "greater than or equal to 1000"),
    ("pad", {"thickness_um": 99}, "greater than or equal to 100"),
    ("pad", {"thickness_um": None}, ""),
    ("bracket", {"from_mm": 80, "to_mm": 42}, "the smaller first"),
    ("bracket", {"from_mm": None}, ""),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "changes", "says"), PARTS)
def test_a_part_that_cannot_be(kind, changes, says) -> None:
    told = PLAIN[kind].model_dump() | changes
    if not says:
        PART.validate_python(told)
        return
    with pytest.raises(ValidationError, match=says):
        PART.validate_python(told)


def test_a_part_nobody_named_goes_by_its_number_and_what_is_left_out_is_unknown() -> None:
    assert made.module("PM-1", name="  ").name == "PM-1"
    assert PART.validate_python({"kind": "memory", **made.module(" PM-1 ").model_dump()}).number == "PM-1"
    bare = PART.validate_python({"kind": "bay_drive", "number": "B", "name": "B", "capacity_gb": 500})
    assert bare.generation is None and bare.height_um is None


# slot, attribute, value, what the refusal says
FIGURES = [
    ("drive-1", "key", "M", ""),
    ("drive-1", "key", "Q", "none of A, B, E, M"),
    ("drive-1", "pcie_generation", 0, "none of 1, 2, 3, 4, 5"),
    ("drive-1", "pcie_generation", 9, "none of 1, 2, 3, 4, 5"),
    ("drive-1", "pcie_lanes", 0, ""),  # none are wired
    ("drive-1", "pcie_lanes", 3, "none of 0, 1, 2, 4"),
    ("drive-1", "clearance_below_um", 4200, ""),
    ("drive-1", "clearance_below_um", 4201, "4.2"),
    ("drive-1", "clearance_below_um", -1, "nothing a laptop has"),
    ("drive-1", "width_mm", -22, "nothing a laptop has"),
    ("drive-1", "standoffs_mm", [0], "nothing a laptop has"),
    ("bay", "height_um", 15000, ""),
    ("bay", "height_um", 15001, "nothing a laptop has"),
]


@pytest.mark.parametrize(("slot", "name", "value", "says"), FIGURES)
def test_a_figure_no_laptop_has_is_refused_in_the_machine_and_where_it_is_measured(slot, name, value, says) -> None:
    measured = Job(number=1, survey={"measured": {f"{slot}.{name}": value}})  # type: ignore[arg-type]
    told = made.machine().machine.model_dump(mode="json")
    next(s for s in told["slots"] if s["id"] == slot)[name] = [made.said(value)]
    if not says:
        Machine.model_validate(told)
        validation.look_over(made.machine(), None, measured, made.PARTS.__getitem__)
        return
    with pytest.raises(ValidationError, match=name):
        Machine.model_validate(told)
    with pytest.raises(InputError, match=says) as refused:
        validation.look_over(made.machine(), None, measured, made.PARTS.__getitem__)
    assert refused.value.where == f"{slot}.{name}"
    # What stands in an older job is no reason to take it down.
    validation.look_over(made.machine(), measured, measured, made.PARTS.__getitem__)


def test_what_a_tool_says_and_no_laptop_has_is_no_fact() -> None:
    plain = made.machine(memory_speed_mts=None)
    real = with_claims(plain, {"memory.speed_mts": 2933}, Source.READ)
    odd = with_claims(plain, {"memory.speed_mts": 99_999_999}, Source.READ)
    assert [c.value for c in real.memory.speed_mts.claims] == [2933] and odd.memory.speed_mts.claims == ()


# what is new in a job, and what the refusal says
ENTRIES: list[tuple[dict[str, Any], str]] = [
    ({"fit": {"build": {"memory-a": "D"}}}, "nothing Memory A takes"),
    ({"fit": {"build": {"drive-1": "D"}}}, ""),
    ({"fit": {"build": {"drive-1": ""}}}, ""),  # taken out
    ({"fit": {"build": {"nowhere": "D"}}}, "no slot 'nowhere'"),
    ({"fit": {"boot_slot": "battery"}}, "no drive to start from"),
    ({"fit": {"boot_slot": "bay"}}, ""),
    ({"survey": {"fitted": {"radio": made.pack().model_dump()}}}, "nothing Wi-Fi card takes"),
    ({"survey": {"fitted": {"radio": None}}}, ""),
    ({"survey": {"not_working": ["nowhere"]}}, "no slot 'nowhere'"),
    ({"plan": {"credits": {"nowhere": 100}}}, "no slot 'nowhere'"),
    ({"plan": {"credits": {"radio": 100}}}, ""),
]


@pytest.mark.parametrize(("new", "says"), ENTRIES)
def test_what_is_entered_must_be_something_this_machine_could_have(new, says) -> None:
    after = Job.model_validate({"number": 1} | new)
    if not says:
        validation.look_over(made.machine(), None, after, {"D": made.drive("D")}.__getitem__)
        return
    with pytest.raises(InputError, match=says):
        validation.look_over(made.machine(), None, after, {"D": made.drive("D")}.__getitem__)


@pytest.mark.parametrize("minor", [-1, 1_000_000_001])
def test_a_credit_is_money(minor) -> None:
    with pytest.raises(ValidationError):
        Job.model_validate({"number": 1, "plan": {"credits": {"radio": minor}}})


def test_the_owners_word_has_an_owner() -> None:
    assert AsUsual(owner=" Mira Holt ").owner == "Mira Holt"
    with pytest.raises(ValidationError):
        AsUsual(owner="   ")


def test_a_slot_does_not_exclude_itself() -> None:
    said = {"when": "bay", "holds": "anything", "effect": "off"}
    made.machine(exclusions=[said | {"on": "drive-1"}])
    with pytest.raises(ValidationError, match="by itself"):
        made.machine(exclusions=[said | {"on": "bay"}])


# IEEE 802.11: n to 40 MHz, ac at 5 GHz alone, ax to 160 MHz, be to 320 MHz at 6 GHz
@pytest.mark.parametrize(
    ("standard", "widest"), [("n", (40, 40, 0)), ("ac", (0, 160, 0)), ("ax", (40, 160, 160)), ("be", (40, 160, 320))]
)
def test_the_widest_channel_of_each_band(standard, widest) -> None:
    found = tuple(max((w for w in wlan.WIDTHS if wlan.exists(standard, w, b)), default=0) for b in wlan.BANDS)
    assert found == widest
