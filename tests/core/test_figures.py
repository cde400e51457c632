"""Formulas against figures worked by hand from rules.md and the standards."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from insertum.core.bench.sheet import sheet
from insertum.core.fit.judge import judge_build, judge_equipped
from insertum.core.known.domain import at_least
from insertum.core.known.evidence import Signs
from insertum.core.known.school import proven_value
from insertum.core.machine.claim import Claim, Fact, Source
from insertum.core.money import money
from insertum.core.phrases import plural
from insertum.core.plan.answer import plan
from insertum.core.plan.need import Need, growth_factor
from insertum.core.plan.request import PlanRequest, Terms, Use
from insertum.core.plan.totals import tally
from insertum.core.standards import ddr, m2, pack, pcie, sata, wlan
from insertum.core.standards.wlan import RadioSide
from insertum.core.survey.current_build import build_today, with_claims

from . import made


@pytest.mark.parametrize(
    ("cl", "rated", "running", "generation", "clocks", "ns"),
    [
        (22, 3200, 3200, 4, 22, 13.75),
        (22, 3200, 2666, 4, 19, 14.25),  # 13.75 ÷ 0.75 = 18.33 → 19; 19 × 0.75
        (22, 3200, 2933, 4, 21, 14.318),  # 13.75 ÷ 0.681818 = 20.17 → 21; 21 × 0.681818
        (46, 5600, 5600, 5, 46, 16.429),  # 46 × 2000 ÷ 5600
        (46, 5600, 4800, 5, 40, 16.667),  # 16.4286 ÷ 0.416667 = 39.43 → 40, even
        (46, 5600, 5200, 5, 44, 16.923),  # 16.4286 ÷ 0.384615 = 42.71 → 43 → 44, even in DDR5
        (11, 1600, 1333, 3, 10, 15.0),  # 13.75 ÷ 1.5 = 9.17 → 10
    ],
)
def test_latency_at_the_running_speed(cl, rated, running, generation, clocks, ns) -> None:
    assert ddr.cl_at(cl, rated, running, generation) == clocks
    assert ddr.latency_ns(clocks, running) == pytest.approx(ns, abs=0.001)


@pytest.mark.parametrize(("a", "b", "same"), [(2666, 2667, True), (2133, 2134, True), (1066, 1067, True), (2933, 2934, True), (2400, 2666, False), (3200, 2933, False)])  # fmt: skip
def test_names_of_one_grade(a, b, same) -> None:
    assert ddr.same_grade(a, b) is same


@pytest.mark.parametrize(
    ("mts", "channels", "gb_s"), [(3200, 1, 25.6), (3200, 2, 51.2), (6400, 2, 102.4), (2666, 1, 21.333)]
)
def test_bandwidth(mts, channels, gb_s) -> None:
    assert ddr.bandwidth_gb_s(mts, channels) == pytest.approx(gb_s, abs=0.001)


@pytest.mark.parametrize(
    ("totals", "interleaved", "single", "mb_s"),
    [
        ([4, 16], 8, 12, 32000),  # at 3200: 20 ÷ (8 ÷ 51200 + 12 ÷ 25600) = 20 ÷ 0.000625
        ([8, 8], 16, 0, 51200),
        ([8], 0, 8, 25600),
        ([8, 0], 0, 8, 25600),
        ([8, 16], 16, 8, 38400),  # 24 ÷ (16 ÷ 51200 + 8 ÷ 25600) = 24 ÷ 0.000625
    ],
)
def test_channel_split_and_throughput(totals, interleaved, single, mb_s) -> None:
    split = ddr.split(totals)
    assert (split.interleaved_gb, split.single_gb) == (interleaved, single)
    assert ddr.throughput_mb_s(split, 3200) == mb_s


@pytest.mark.parametrize(
    ("generation", "lanes", "mb_s"),
    [
        (1, 1, 250),
        (2, 1, 500),
        (3, 1, 985),
        (3, 2, 1969),
        (3, 4, 3938),
        (4, 4, 7877),
        (5, 4, 15754),
        (2, 4, 2000),
        (4, 1, 1969),
    ],
)
def test_link_rates_round_only_at_the_end(generation, lanes, mb_s) -> None:
    assert pcie.Link(generation=generation, lanes=lanes).mb_s == mb_s


@given(*[st.integers(1, 5), st.sampled_from([1, 2, 4])] * 2)
def test_two_ends_agree_on_the_lesser(g1, l1, g2, l2) -> None:
    a, b = pcie.Link(generation=g1, lanes=l1), pcie.Link(generation=g2, lanes=l2)
    agreed = a.with_other(b)
    assert agreed == b.with_other(a) == agreed.with_other(a)
    assert agreed.mb_s <= min(a.mb_s, b.mb_s)


def test_gt_s_tells_the_generation() -> None:
    assert [pcie.generation_of(x) for x in (2.5, 5, 8, 16, 32, 7)] == [1, 2, 3, 4, 5, None]
    assert sata.MB_S == {1: 150, 2: 300, 3: 600}
    assert sata.MBR_BYTES == 2_199_023_255_552
    assert m2.KEY_PINS == {"A": (8, 15), "B": (12, 19), "E": (24, 31), "M": (59, 66)}


@pytest.mark.parametrize(
    ("standard", "streams", "width", "mbit"),
    [
        ("n", 1, 20, 72.2), ("n", 1, 40, 150), ("n", 2, 40, 300), ("ac", 1, 80, 433.3), ("ac", 1, 160, 866.7), ("ac", 2, 80, 866.7),
        ("ac", 1, 20, 86.7), ("ac", 2, 20, 173.3), ("ac", 3, 20, 288.9), ("ax", 1, 80, 600.5), ("ax", 2, 80, 1201.0),
        ("ax", 1, 160, 1201.0), ("be", 1, 160, 1441.2), ("be", 1, 320, 2882.4), ("ax", 1, 20, 143.4), ("ax", 1, 40, 286.8),
    ],
)  # fmt: skip
def test_phy_rates(standard, streams, width, mbit) -> None:
    assert wlan.phy_mbit_s(standard, streams, width) == pytest.approx(mbit, abs=0.06)


CARD = RadioSide(standard="ax", streams=2, width_mhz=160, bands=("2.4", "5"))


@pytest.mark.parametrize(
    ("router", "antennas", "bands", "line", "mode", "delivered"),
    [
        (("ax", 2, 80, ("2.4", "5")), 2, ("2.4", "5"), None, ("ax", 2, 80, "5"), 781),  # 1201 × 0.65
        (("ax", 2, 80, ("2.4", "5")), 2, ("2.4", "5"), 250, ("ax", 2, 80, "5"), 250),  # the line caps
        (("ac", 2, 80, ("2.4", "5")), 2, ("2.4", "5"), None, ("ac", 2, 80, "5"), 563),  # 866.7 × 0.65
        (("ac", 2, 80, ("2.4", "5")), 1, ("2.4", "5"), None, ("ac", 1, 80, "5"), 282),  # one lead
        (("ax", 4, 160, ("2.4", "5")), 2, ("2.4",), None, ("ax", 2, 40, "2.4"), 373),  # 573.5 × 0.65
        (("ac", 2, 80, ("2.4", "5")), 2, ("2.4",), None, ("n", 2, 40, "2.4"), 195),  # ac is not at 2.4 GHz
        (("ax", 2, 80, ("6",)), 2, ("2.4", "5"), None, None, 0),
    ],
)  # fmt: skip
def test_what_the_customer_gets(router, antennas, bands, line, mode, delivered) -> None:
    side = RadioSide(standard=router[0], streams=router[1], width_mhz=router[2], bands=router[3])
    best = wlan.best_mode(CARD, side, antennas, bands)
    assert (best and (best.standard, best.streams, best.width_mhz, best.band)) == mode
    assert wlan.delivered_mbit_s(best, line) == delivered


def test_packs() -> None:
    assert pack.energy_mwh(11400, 4000) == 45600
    assert pack.health(41000, 52000) == pytest.approx(0.788, abs=0.001)
    assert pack.runtime_minutes(41000, 11000) == 223  # 41 ÷ 11 h


def test_words() -> None:
    assert [money(12160), money(-900), money(5, "GBP"), money(100, "CHF")] == [
        "€ 121.60",
        "− € 9.00",
        "£ 0.05",
        "CHF 1.00",
    ]
    assert [plural(1, "lead"), plural(2, "lead"), plural(3, "antenna", "antennae")] == [
        "1 lead",
        "2 leads",
        "3 antennae",
    ]


# -- figures that stand in a sentence or a sum, each by hand ----------------------------------------
@pytest.mark.parametrize(
    ("generation", "gb", "gbit"),
    [
        # one or two ranks of x8 or x16: the least dense chips the largest documented module can be made of
        (4, 16, 8), (4, 32, 16), (4, 8, 4), (5, 8, 16), (5, 16, 16), (5, 48, 24), (5, 32, 16), (3, 8, 4), (3, 2, 1),
        (None, 2, 1), (None, 4, 2), (None, 8, 4), (None, 16, 8), (None, 32, 16), (None, 48, 24), (None, 64, 32),
    ],
)  # fmt: skip
def test_the_largest_documented_module_tells_a_density(generation, gb, gbit) -> None:
    sockets = {s: {"limit_gb": gb, "generation": generation} for s in ("memory-a", "memory-b")}
    known = build_today(made.machine(sockets, memory_density_gbit=None)).known
    assert max(known.densities.sure) == gbit  # with those it brings
    assert f"a documented {gb} GB module has chips of {gbit} Gbit at least" in known.densities.steps


@pytest.mark.parametrize(
    ("claims", "value"),
    [
        ([(16, 1, 0), (32, 1, 0)], 32),
        ([(32, 1, 0), (16, 2, 0)], 32),
        ([(16, 1, 0), (32, 1, 1)], 16),  # a failure at that value
        ([(16, 1, 0), (32, 0, 0)], 16),  # nobody has seen it work
        ([], None),
    ],
)
def test_the_highest_value_proven_counts(claims, value) -> None:
    told = [Claim[int](value=v, source="proven", count=c, failures=f) for v, c, f in claims]
    assert proven_value(told, "only", "") == value


@pytest.mark.parametrize(
    ("percent", "years", "factor", "used"),
    [(12, 3, 1.404928, 140.4928), (25, 2, 1.5625, 156.25), (0, 5, 1, 100), (50, 0, 1, 100)],
)
def test_growth_compounds_over_the_years(percent, years, factor, used) -> None:
    by = growth_factor(percent, years)
    assert by == Fraction(str(factor)) and 100 * by == Fraction(str(used))


def test_a_credit_stands_in_the_sum() -> None:
    build = made.build(memory_a=made.module("OLD")).with_part("memory-a", made.module("NEW", 3000))
    told = tally(build, Terms(credits={"memory-a": 1234}, rate_minor_per_hour=0), Use())
    assert "credit for parts taken out: −12.34" in told.sum and told.total_minor == 3000 - 1234


def test_the_exchange_is_shared_out_only_where_there_are_two_halves() -> None:
    """Memory A takes 120 s: half and half for an exchange, all of it for taking out or putting in alone."""

    def seconds(before, after) -> list[int]:
        build = made.build(memory_a=before).with_part("memory-a", after)
        return [s.seconds for s in sheet(build).steps if s.id in ("out:memory-a", "in:memory-a")]

    old, new = made.module("OLD"), made.module("NEW")
    assert seconds(old, new) == [60, 60]
    assert seconds(old, None) == [120] and seconds(None, new) == [120]


def test_an_unmet_need_is_called_by_its_own_name() -> None:
    need = Need(kind="memory_capacity", floor=4, comfort=64, ceiling=128, weight=1, note="the scans")
    asked = PlanRequest(
        machine=made.machine().machine, configuration="only", parts=(), needs=(need,), use=Use(), terms=Terms(),
        fitted={"memory-a": made.module("OLD")},
    )  # fmt: skip
    assert [u.partition(":")[0] for s in plan(asked).stances for u in s.unmet][:1] == ["the scans"]


def test_what_was_so_before_is_not_what_a_build_does() -> None:
    """A module that a slower neighbour holds back today is no finding of a build that changes the drive."""
    quick, slow = made.module("QUICK"), made.module("SLOW", grade_mts=2400)
    drive = made.drive("NEW")
    held = made.build(memory_a=quick, memory_b=slow).with_part("drive-1", drive)
    assert judge_build(held)["memory-a"].findings == ()
    slows = made.build(memory_a=quick).with_part("memory-b", slow)
    assert [f.verdict for f in judge_build(slows)["memory-a"].findings] == ["held_back"]


@pytest.mark.parametrize(
    ("chains", "leads"),
    [
        ((-47, -62), 2), ((-47, -63), 1),  # 15 dB apart is a lead still, 16 is not
        ((-60, -64), 2), ((-60, -65), 1),  # stronger than −65 dBm
        ((-65, -66), None), ((), None), ((-40, -41, -42), 3),
    ],
)  # fmt: skip
def test_the_leads_that_hear(chains, leads) -> None:
    laid = made.machine({"radio": {"leads": None}})
    card = made.radio()
    build = build_today(laid, {"radio": card}, signs={"radio": Signs(chains_dbm=chains)})
    found = build.known.domain("radio", "leads")
    assert at_least(found, leads or 0) == found and (leads is None or at_least(found, leads + 1) != found)


@pytest.mark.parametrize(("population", "surely"), [(1, 2933), (2, 2933), (3, 0)])
def test_what_runs_today_runs_with_fewer_modules_too(population, surely) -> None:
    """2933 was read with two modules in: one runs so too; of three only the 2400 told for four is known."""
    laid = with_claims(
        made.machine(memory_speed_mts=None, memory_speed_by_modules={4: 2400}), {"memory.speed_mts": 2933}, Source.READ
    )
    laid = laid.model_copy(
        update={
            "memory": laid.memory.model_copy(
                update={
                    "speed_by_modules": {**laid.memory.speed_by_modules, 1: Fact[int](), 2: Fact[int](), 3: Fact[int]()}
                }
            )
        }
    )
    known = build_today(laid, {"memory-a": made.module("A"), "memory-b": made.module("B")}).known
    assert known.limit("memory", f"speed_by_modules.{population}").at_least == 2400  # as told for four
    modules = {"memory-a": 2, "memory-b": 2, "memory-c": 2}
    known.slots["memory-c"] = known.slots["memory-a"].model_copy(update={"id": "memory-c"})  # a second one on channel A
    assert known.runs_at_least(dict(list(modules.items())[:population])) == surely


@pytest.mark.parametrize(
    ("underside", "settles"),
    [
        (1350, "1.35 mm or more seats."),
        (None, "1.5 mm or more seats."),  # the highest underside there is: less might not do
    ],
)
def test_the_figure_that_settles_a_range_does_so_whatever_else_is_open(underside, settles) -> None:
    laid = made.machine({"drive-1": {"clearance_below_um": None, "socket_height": None, "board_below": None}})
    found = judge_equipped(build_today(laid), "drive-1", made.drive("D", below_um=underside), []).findings
    assert [f.settles for f in found if f.attribute == "drive-1.clearance_below_um"] == [settles]


def test_a_key_bounds_the_lanes_nobody_has_told() -> None:
    known = build_today(made.machine({"drive-1": {"key": "B", "pcie": None}})).known
    found = known.found("drive-1", "pcie_lanes")
    assert at_least(found.domain, 2) is not None and at_least(found.domain, 3) is None
    assert any("its key carries ×2 at most" in step for step in found.steps)
    four = build_today(made.machine({"drive-1": {"key": "M", "pcie": None}})).known.found("drive-1", "pcie_lanes")
    assert at_least(four.domain, 4) is not None and not any("its key carries" in step for step in four.steps)


@pytest.mark.parametrize(("read", "runs"), [(None, 0), (2666, 2666)])
def test_fewer_told_slower_than_more_is_as_slow_as_the_fewer_and_as_fast_as_what_runs(read, runs) -> None:
    """2400 told for one module and 2933 for four cannot both bound two: the lower stands, or what runs today."""
    laid = made.machine(memory_speed_mts=None, memory_speed_by_modules={1: 2400, 2: None, 4: 2933})
    laid = with_claims(laid, {"memory.speed_mts": read}, Source.READ) if read else laid
    known = build_today(laid, {"memory-a": made.module("A"), "memory-b": made.module("B")}).known
    limit = known.limit("memory", "speed_by_modules.2")
    assert (limit.value, limit.sure) == (2400, 2400)
    assert known.runs_at_least({"memory-a": 2, "memory-b": 2}) == runs
