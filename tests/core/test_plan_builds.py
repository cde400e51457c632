"""Builds a plan must not miss and must not make, worked by hand: copies that do not fit, two packs, exact growth."""

from dataclasses import replace
from fractions import Fraction

import pytest

from insertum.core.machine.drive_parts import BayDrive, M2Drive
from insertum.core.plan.answer import own, plan
from insertum.core.plan.detail import detail
from insertum.core.plan.effect import effect
from insertum.core.plan.measure import Raw
from insertum.core.plan.need import Need, growth_factor
from insertum.core.plan.planner import Planner
from insertum.core.plan.request import Use

from . import made
from .test_plan_values import SPEED, request

OLD_500 = made.drive("OD", None, capacity_gb=500, read_mb_s=1000)


def sized(gb: int, in_bay: bool) -> BayDrive | M2Drive:
    return made.bay_drive("NEW", 5000, capacity_gb=gb) if in_bay else made.drive("NEW", 5000, capacity_gb=gb, read_mb_s=3000)  # fmt: skip


@pytest.mark.parametrize(
    ("old", "in_bay", "use", "more", "least"),
    [
        # 190 GB in use and a tenth: 209. The old drive comes out, the new one takes its place.
        ("drive-1", False, {"used_gb": 190}, {}, 209),
        # A bay drive beside it: the old one stays. All 190 where nobody read what is the system's, else 60 and a tenth.
        ("bay", False, {"used_gb": 190}, {}, 209),
        ("bay", False, {"used_gb": 190, "system_gb": 60}, {}, 66),
        ("drive-1", False, {"used_gb": 190, "system_gb": 60}, {}, 209),
        ("bay", False, {"used_gb": None, "system_gb": 60}, {}, 66),  # nobody knows the rest, and it stays where it is
        # Nobody knows how much is used: the whole old drive and a tenth.
        ("drive-1", False, {"used_gb": None}, {}, 550),
        # More in use than it holds lies elsewhere.
        ("drive-1", False, {"used_gb": 900}, {}, 550),
        # Nothing is copied.
        ("drive-1", False, {"used_gb": 190}, {"terms": {"clean_install": True}}, 1),
        ("drive-1", False, {"used_gb": 190}, {"dead": ["drive-1"]}, 1),
    ],
)  # fmt: skip
def test_a_system_drive_that_holds_no_copy_is_no_plan(old, in_bay, use, more, least) -> None:
    """Worked by hand from what is copied with a tenth of room: at the least that holds it a plan, one GB below none."""
    held = OLD_500 if old == "drive-1" else made.bay_drive("OB", None, capacity_gb=500)
    for gb, planned in ((least, True), (least - 1, False)):
        if not gb:
            continue
        part = sized(gb, in_bay)
        asked = request([part], [SPEED], use={"average_mw": 10000, **use}, fitted={old: held}, more={"boot_slot": old, "dead": more.get("dead", [])},
                        terms={"rate_minor_per_hour": 0, "allow_loss": True, **more.get("terms", {})})  # fmt: skip
        bought = [
            c
            for p in Planner(asked).front()
            for x in p.option.meaning
            for _, c in x.changes
            if c and x.boot == "drive-1"
        ]
        assert bool(bought) is planned, (gb, least)


@pytest.mark.parametrize(
    ("used", "growth", "own", "years", "met"),
    [
        (300, 10, None, 2, 1863),  # 300 GB grow to 363: 1500 free of 1863 is the ceiling exactly
        (300, 10, 0, 2, 1800),  # the need's own growth is none: 300 stay
        (300, 0, 10, 2, 1863),
        (0.3, 0, None, 2, 1501),  # 1500.3: one GB less than 1501 is short
    ],
)
def test_growth_is_exact(used, growth, own, years, met) -> None:
    need = Need(kind="drive_space", floor=50, comfort=300, ceiling=1500, growth_percent=own)
    use = Use(used_gb=used, growth_percent=growth, years=years)
    for gb, full in ((met, True), (met - 1, False)):
        raw = Raw((({need.kind: 0}, {need.kind: gb}),))
        (after,) = effect(raw, [need.grown(growth, years)], use, True).enough
        assert (after == 1) is full, gb


def test_no_float_is_left_where_plans_are_compared() -> None:
    grown = Need(kind="memory_capacity", floor=10.1, comfort=16, ceiling=32).grown(10, 2)
    assert grown.exact_figures == (Fraction("12.221"), Fraction("19.36"), Fraction("38.72"))
    assert all(
        isinstance(x, Fraction) for x in (grown.met(12), grown.met(20), growth_factor(12.5, 3), Use(used_gb=0.1).used)
    )
    assert growth_factor(12.5, 3) == Fraction(729, 512) and Use(used_gb=0.1).used == Fraction(1, 10)


SECOND = {"kind": "battery", "name": "Second battery", "accepts": ["AP-45", "AP-57"], "voltage_mv": 11400, "connector": "6-way",
          "held_by": "screws", "reached_by": ["cover"]}  # fmt: skip


@pytest.mark.parametrize(
    ("shelf", "bought", "hours"),
    [
        (0, [("battery", "AP-57"), ("battery-2", "AP-57")], 11.4),  # 57 and 57 Wh at 10 W
        (1, [("battery-2", "AP-57")], 8.7),  # one lies on the shelf: 30 and 57; it goes into the empty place
        (2, [("battery", "AP-57"), ("battery-2", "AP-57")], 11.4),
    ],
)
def test_of_two_packs_both_count_and_one_of_the_shelf_goes_into_one(shelf, bought, hours) -> None:
    pack = made.pack("AP-57", None if shelf else 4000, design_mwh=57000)
    asked = request([pack], [Need(kind="runtime", floor=2, comfort=10, ceiling=12)], use={"average_mw": 10000}, slots={"battery-2": SECOND},
                    fitted={"battery": made.pack("AP-45", None, full_mwh=30000)},
                    more={"shelf": [{"number": "AP-57", "count": shelf, "price_minor": 500}] if shelf else []},
                    terms={"rate_minor_per_hour": 0, "threshold": 0.0})  # fmt: skip
    planner = Planner(asked)
    for point in (planner.best_value(planner.front()).chosen, planner.fill(None)):
        changes = sorted((s, c.part.number) for x in point.option.meaning for s, c in x.changes if c)
        assert changes == bought
    answer = next(s for s in plan(asked).stances if s.stance == "best_value").plan
    assert [n.after for n in answer.needs] == [(hours, hours)]


def test_fill_it_buys_a_pack_though_hours_are_no_need() -> None:
    asked = request(
        [made.pack("AP-57", 4000, design_mwh=57000)], [], fitted={"battery": made.pack("AP-45", None, full_mwh=30000)}
    )
    found = next(s for s in plan(asked).stances if s.stance == "fill_it").plan
    assert [c.part for c in found.changes] == ["AP-57"]


def test_a_drive_too_small_for_the_copy_is_left_out_with_both_figures() -> None:
    small, large = made.drive("S", 3000, capacity_gb=128, read_mb_s=3400), made.drive("L", 9000, capacity_gb=256, read_mb_s=3400)  # fmt: skip
    asked = request([small, large], [SPEED], use={"used_gb": 190}, fitted={"drive-1": OLD_500}, terms={"rate_minor_per_hour": 0, "allow_loss": True, "threshold": 0.1})  # fmt: skip
    told = {x.part: x.reason for x in detail(asked).left_out}
    assert told["S"] == "holds 128 GB, and what is copied wants 209 GB with a tenth of room: only where the system is installed anew"  # fmt: skip
    anew = asked.model_copy(update={"terms": asked.terms.model_copy(update={"clean_install": True})})
    assert "S" not in {x.part for x in detail(anew).left_out}  # it is chosen there
    assert [c.part for c in next(s for s in plan(anew).stances if s.stance == "best_value").plan.changes] == ["S"]


@pytest.mark.parametrize(("gb", "clean", "stands"), [(209, False, False), (208, False, True), (208, True, False)])
def test_a_build_by_hand_that_holds_no_copy_is_not_chosen(gb, clean, stands) -> None:
    part = made.drive("NEW", 5000, capacity_gb=gb, read_mb_s=3000)
    asked = request([part], [SPEED], use={"used_gb": 190}, fitted={"drive-1": OLD_500}, terms={"rate_minor_per_hour": 0, "clean_install": clean})  # fmt: skip
    planner = Planner(asked)
    point, against = own(planner, replace(planner.build.with_part("drive-1", part), boot_slot="drive-1"))
    says = "The drive in Drive 1 does not hold what is copied onto it: 209 GB with a tenth of room."
    assert any(a.startswith(says) for a in against) is stands
    assert point.copy_path is not None and (point.copy_path.fits is None) is clean
