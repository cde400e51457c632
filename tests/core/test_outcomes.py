"""Sightings, claims for limits, waste, extras, comparison: what the workshop knows and what it sells."""

import pytest

from insertum.core.comparison.side_by_side import side_by_side
from insertum.core.comparison.waste import per_gb, waste
from insertum.core.errors import InputError
from insertum.core.fit.judge import judge, judge_equipped, matrix
from insertum.core.fit.required_accessories import extras
from insertum.core.kinds.all import kind_of
from insertum.core.known.known import as_delivered
from insertum.core.machine.claim import Limits
from insertum.core.sighting import Sighting, claims_of, proves, with_sightings
from insertum.core.survey.current_build import build_today, laid_out

from . import made


def seen(**changes) -> Sighting:
    plain = {
        "machine": "test-machine",
        "configuration": "only",
        "slot": "memory-a",
        "part": "M",
        "outcome": "worked",
        "firmware": "1.2",
    }
    return Sighting.model_validate(plain | changes)


# -- sightings feed proven, hearsay feeds reported -----------------------------------------------
@pytest.mark.parametrize(
    ("sightings", "firmware", "school", "verdict"),
    [
        ([], "1.2", Limits.PROVEN, "refused"),  # 16 GB, 8 documented
        ([seen(proves={"memory-a.limit_gb": 16})], "1.2", Limits.PROVEN, "seats"),
        ([seen(proves={"memory-a.limit_gb": 16})], "1.3", Limits.PROVEN, "refused"),  # another firmware never decides
        ([seen(proves={"memory-a.limit_gb": 16})], "1.2", Limits.DOCUMENTED, "refused"),
        ([seen(proves={"memory-a.limit_gb": 16}, firmware="")], "", Limits.PROVEN, "refused"),  # firmware not noted
        ([seen(proves={"memory-a.limit_gb": 16}, part="X"), seen(proves={"memory-a.limit_gb": 16}, outcome="did_not", part="X", cause="machine")], "1.2", Limits.PROVEN, "refused"),  # a failure at that value
        ([seen(proves={"memory-a.limit_gb": 16}, part="X"), seen(proves={"memory-a.limit_gb": 16}, outcome="did_not", part="X", cause="part")], "1.2", Limits.PROVEN, "seats"),  # not home: teaches nothing of the machine
        ([seen(proves={"memory-a.limit_gb": 16}, part="X"), seen(proves={"memory-a.limit_gb": 16}, outcome="did_not", part="X", job=1)], "1.2", Limits.PROVEN, "seats"),  # unknown cause, once
        ([seen(proves={"memory-a.limit_gb": 16}, part="X"), *(seen(proves={"memory-a.limit_gb": 16}, outcome="did_not", part="X", job=j) for j in (1, 2))], "1.2", Limits.PROVEN, "refused"),  # and again
        ([seen(proves={"memory-a.limit_gb": 16}, hearsay=True, who="a club", where="a letter")], "1.2", Limits.OPEN, "held_back"),
        ([seen(proves={"memory-a.limit_gb": 16}, hearsay=True, who="a club", where="a letter")], "1.2", Limits.PROVEN, "refused"),
        ([seen(proves={"memory-a.limit_gb": 16}, configuration="other")], "1.2", Limits.PROVEN, "refused"),
        ([seen(proves={"memory-a.limit_gb": 16}, outcome="worked_after", after="an update")], "1.2", Limits.PROVEN, "seats"),
        ([seen(proves={"gone.limit_gb": 16})], "1.2", Limits.PROVEN, "refused"),  # a place that is no more
    ],
)  # fmt: skip
def test_what_worked_here_counts_where_it_worked(sightings, firmware, school, verdict) -> None:
    plain = made.machine({"memory-a": {"limit_gb": 8}})
    build = build_today(laid_out(plain, sightings), stance=school, firmware=firmware, sightings=sightings)
    assert judge(build, "memory-a", made.module()).verdict == verdict


@pytest.mark.parametrize(
    ("sightings", "verdict"),
    [
        ([seen(outcome="did_not", cause="machine")], "refused"),
        ([seen(outcome="did_not", cause="part")], "seats"),
        ([seen(outcome="did_not", job=1)], "seats"),  # cause unknown: shown, counts the second time
        ([seen(outcome="did_not", job=1), seen(outcome="did_not", job=1)], "seats"),  # the same specimen
        ([seen(outcome="did_not", job=1), seen(outcome="did_not", job=2)], "refused"),
        ([seen(outcome="did_not", firmware="1.1", cause="machine")], "seats"),  # shown, never decides
        ([seen(outcome="did_not", hearsay=True, who="x", where="y")], "seats"),
        ([seen(outcome="did_not"), seen()], "seats"),  # it failed and it worked
        ([seen(outcome="did_not", part="N")], "seats"),
        ([seen(outcome="did_not", slot="memory-b")], "seats"),
    ],
)
def test_a_part_that_only_failed_here_is_not_sold_again(sightings, verdict) -> None:
    build = build_today(made.machine(), firmware="1.2", sightings=sightings)
    found = judge(build, "memory-a", made.module())
    assert found.verdict == verdict
    assert (
        verdict == "refused"
        or sightings[0].part != "M"
        or sightings[0].slot != "memory-a"
        or any(f.rule == "bench.outcome" for f in found.findings)
    )


def test_counts_by_value_and_firmware() -> None:
    many = [seen(proves={"memory-a.limit_gb": 16})] * 2 + [
        seen(proves={"memory-a.limit_gb": 16}, outcome="did_not", cause="machine")
    ]
    ((place, claim),) = claims_of(many)
    assert (place, claim["count"], claim["failures"], claim["firmware"]) == ("memory-a.limit_gb", 2, 1, "1.2")
    laid = with_sightings(
        made.machine(), [*many, seen(proves={"memory.total_limit_gb": 48}, hearsay=True, who="a", where="b")]
    )
    assert [str(c.source) for c in laid.memory.total_limit_gb.claims] == ["documented", "reported"]
    assert proves("memory-a", made.module(), 24, 2933) == {
        "memory-a.limit_gb": 16, "memory.density_gbit": 8, "memory.total_limit_gb": 24, "memory.speed_mts": 2933,
    }  # fmt: skip
    assert proves("bay", made.bay_drive(), None, None) == {"bay.drive_limit_gb": 1000}


def test_a_fact_proven_under_another_firmware_does_not_settle_here() -> None:
    laid = made.machine(
        {
            "radio": {"card_policy": [made.said("any", "proven", count=1, firmware="1.20")]},
            "memory-a": {"limit_gb": [made.said(16), made.said(32, "proven", count=1, firmware="1.20")]},
        }
    )
    seen = [as_delivered(laid, firmware=f) for f in ("1.20", "1.08", "")]
    assert [k.value("radio", "card_policy") for k in seen] == ["any", None, None]
    assert [k.limit("memory-a", "limit_gb").value for k in seen] == [32, 16, 16]


# -- waste, extras, comparison --------------------------------------------------------------------
def the_waste(parts, slot: str, number: str, **machine):
    build = made.build(made.machine(**machine))
    cells = matrix(build, parts, [], [slot])
    return waste(build, slot, next(p for p in parts if p.number == number), cells, {p.number: p for p in parts})


def test_a_dearer_grade_that_settles_lower_is_waste_and_priced() -> None:
    slow, fast = made.module("M29", 2900, grade_mts=2933), made.module("M32", 3150)
    found = the_waste([slow, fast], "memory-a", "M32", memory_speed_mts=2933)
    assert (found.than, found.more_minor, found.adds) == ("M29", 250, 0)
    assert "settles at 2933" in found.says and "€ 2.50" in found.says
    gains = the_waste([slow, fast], "memory-a", "M32", memory_speed_mts=3200)
    assert (gains.adds, gains.unit) == (267, "MT/s") and "buys 267 MT/s" in gains.says
    assert the_waste([slow, fast], "memory-a", "M29", memory_speed_mts=2933) is None  # nothing cheaper serves


def test_a_dearer_part_that_does_the_same_is_named_without_a_wrong_reason() -> None:
    cheap, dear = made.module("A", 3000), made.module("B", 3100)
    says = the_waste([cheap, dear], "memory-a", "B").says
    assert says == "€ 1.00 more than A, which runs as fast here."  # 3200 runs at 3200
    small, same = made.drive("D3", 5000), made.drive("D5", 5500)
    assert the_waste([small, same], "drive-1", "D5").says == "€ 5.00 more than D3, which reads as fast here."


def test_waste_is_told_against_the_cheapest_that_does_as_much() -> None:
    """At 2933 the 3200 of 35.00 runs as fast as the 2933 of 29.00; the 2400 of 20.00 is cheaper still and slower."""
    slow, alike, fast = (
        made.module("M24", 2000, grade_mts=2400), made.module("M29", 2900, grade_mts=2933), made.module("M32", 3500),
    )  # fmt: skip
    found = the_waste([slow, alike, fast], "memory-a", "M32", memory_speed_mts=2933)
    assert (found.than, found.more_minor, found.adds) == ("M29", 600, 0)
    assert found.says == "This 3200 module settles at 2933. € 6.00 more than M29, which runs as fast here."
    gains = the_waste([slow, alike, fast], "memory-a", "M29", memory_speed_mts=2933)
    assert (gains.than, gains.adds) == ("M24", 533)  # nothing cheaper runs as fast: 2933 against 2400


def test_a_faster_drive_on_a_slower_link_is_waste() -> None:
    plain, quick = made.drive("D3", 5000), made.drive("D4", 9000, generation=4, read_mb_s=7000)
    found = the_waste([plain, quick], "drive-1", "D4")
    assert (found.than, found.more_minor, found.adds) == ("D3", 4000, 538)  # 3938 − 3400
    small = made.drive("D1", 2000, capacity_gb=500)
    assert the_waste([small, plain], "drive-1", "D3") is None  # another end: half the size
    unknown = made.drive("D0", 1000, read_mb_s=None)
    assert the_waste([unknown, plain], "drive-1", "D3") is None  # unknown is no ground


def test_what_a_build_wants_beside_its_parts() -> None:
    shelf = [
        made.accessory("ENC-NV", "enclosure", 1800, takes="pcie"), made.accessory("ENC-SA", "enclosure", 900, takes="sata"),
        made.accessory("STICK", "stick", 600), made.accessory("PAD125", "pad", 400, thickness_um=1250),
    ]  # fmt: skip
    old = made.drive("OLD", capacity_gb=256)
    build = made.build(made.machine({"drive-1": {"pad_gap_um": 1000}}), drive_1=old)
    assert extras(build, shelf) == ()
    moved = build.with_part("drive-1", made.drive("NEW"))
    assert [(x.what[:12], x.offers) for x in extras(moved, shelf)] == [
        ("An enclosure", ("ENC-NV",)),
        ("A boot stick", ("STICK",)),
    ]
    beside = made.build(made.machine({"drive-1": {"pad_gap_um": 1000}}))
    padded = beside.with_part("drive-1", made.drive("NEW"))
    assert ("PAD125",) in [x.offers for x in extras(padded, shelf)]  # the slot was empty: 1 mm takes 1.25
    radio = made.build().with_part("radio", made.radio())
    assert [x.what for x in extras(radio, shelf)] == ["A driver stick"]


@pytest.mark.parametrize(
    ("thickness", "gap", "verdict"),
    [(1250, 1000, "seats"), (1000, 901, "held_back"), (1000, 900, "seats"), (1000, 700, "seats"), (1000, 699, "harm"), (1250, None, "measure_first"), (750, 1000, "held_back")],
)  # fmt: skip
def test_m2_pad_in_its_gap(thickness, gap, verdict) -> None:
    """c = 1 − g/t: 1 − 0.901 is 9.9 %, 1 − 0.9 is 10, 1 − 0.7 is 30, 1 − 0.699 is 30.1; 0.75 does not reach 1.0."""
    laid = made.machine({"drive-1": {"pad": "missing", "pad_gap_um": gap}})
    kit = (made.accessory("PAD", "pad", thickness_um=thickness),)
    build = made.build(laid).with_part("drive-1", made.drive(needs_cooling=True), kit)
    found = judge(build, "drive-1", build.now("drive-1"))
    assert found.verdict == verdict
    assert verdict == "seats" or any(f.rule == "m2.pad" for f in found.findings if f.verdict == verdict)


def test_a_missing_pad_is_sold_with_the_drive_that_needs_it() -> None:
    laid = made.machine({"drive-1": {"pad": "missing", "pad_gap_um": 1000}})
    shelf = [
        made.accessory("PAD100", "pad", 300, thickness_um=1000),
        made.accessory("PAD125", "pad", 400, thickness_um=1250),
    ]
    found = judge_equipped(made.build(laid), "drive-1", made.drive(needs_cooling=True), shelf)
    assert (found.verdict, found.accessories, found.extra_minor) == ("seats", ("PAD125",), 400)


def test_side_by_side_shows_what_differs() -> None:
    build = made.build(memory_a=made.module("OLD", capacity_gb=8))
    found = side_by_side(build, "memory-a", [made.module("A", trfc_ns=350), made.module("B", 2000, trfc_ns=550)], [])
    rows = {r.what: (r.values, r.differs) for r in found.rows}
    assert rows["Refresh time"] == (("350 ns", "550 ns"), True) and rows["Capacity"] == (("16 GB", "16 GB"), False)
    assert rows["True latency here"][0][0] == "13.75 ns at CL 22" and rows["Against what is in now"][0][0] == "+8 GB"
    assert rows["Price per GB"][0] == ("1.875", "1.250")  # 30 and 20 for 16 GB
    for many in ([], [made.module(str(i)) for i in range(5)]):
        with pytest.raises(InputError):
            side_by_side(build, "memory-a", many, [])
    assert kind_of(made.module()).adds(build, "memory-a", made.module()) == (8, "GB") and per_gb(made.radio()) is None
