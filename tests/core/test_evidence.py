"""What a piece of evidence tells, and what it does not: exclusions that today disproves, speeds of a population, outcomes
that were looked at, accessories of another machine. Verdicts worked by hand from rules.md sections 1 and 2."""

import pytest

from insertum.core.errors import InputError
from insertum.core.fit.judge import judge, judged
from insertum.core.known.evidence import Grade, Signs
from insertum.core.sighting import Sighting
from insertum.core.standards.pcie import Link
from insertum.core.survey.attributes import typed_value
from insertum.core.survey.current_build import build_today, laid_out

from . import made

WORKS, SEEN = frozenset({Grade.WORKS}), frozenset({Grade.SEEN})
SATA = made.drive("S", interface="sata", generation=3, lanes=None, read_mb_s=540)


def sharing(effect, on: str = "bay", holds: str = "sata"):
    return made.machine(
        {"drive-1": {"sata": 3}}, exclusions=[{"when": "drive-1", "holds": holds, "on": on, "effect": effect}]
    )


# -- an exclusion that today's working parts contradict does not hold for them ------------------------
@pytest.mark.parametrize(
    ("effect", "grades", "bay", "verdict"),
    [
        ("off", {"drive-1": WORKS, "bay": WORKS}, made.bay_drive(), "seats"),  # both work today: it is not so
        ("off", {"drive-1": WORKS, "bay": SEEN}, made.bay_drive(), "refused"),  # nobody saw the bay's drive work
        ("off", {"drive-1": SEEN, "bay": WORKS}, made.bay_drive(), "refused"),
        ("off", {"drive-1": WORKS, "bay": WORKS}, made.bay_drive("B2"), "refused"),  # holds for any other drive
        ("filled", {"drive-1": WORKS, "bay": WORKS}, made.bay_drive(), "seats"),
        (None, {"drive-1": WORKS, "bay": WORKS}, made.bay_drive(), "seats"),  # nobody told what it does
        (None, {"drive-1": WORKS, "bay": SEEN}, made.bay_drive(), "measure_first"),
    ],
)
def test_an_exclusion_that_today_disproves(effect, grades, bay, verdict) -> None:
    build = build_today(sharing(effect), {"drive-1": SATA, "bay": made.bay_drive()}, grades=grades)
    assert judge(build, "bay", bay).verdict == verdict


@pytest.mark.parametrize(("lanes", "verdict"), [(4, "seats"), (2, "held_back")])
def test_lanes_that_were_read_disprove_that_they_fall(lanes: int, verdict: str) -> None:
    laid = made.machine(exclusions=[{"when": "bay", "holds": "anything", "on": "drive-1", "effect": "x2"}])
    signs = {"drive-1": Signs(running=Link(generation=3, lanes=lanes))}
    both = {"drive-1": WORKS, "bay": WORKS}
    build = build_today(laid, {"drive-1": made.drive(), "bay": made.bay_drive()}, grades=both, signs=signs)
    assert judge(build, "drive-1", made.drive()).verdict == verdict  # 3400 on ×2: 1969


# -- a speed that was read counts for its own population ----------------------------------------------
@pytest.mark.parametrize(
    ("channels", "today", "slot", "new", "verdict"),
    [
        (("A", "B"), [2, None], "memory-a", 2, "seats"),  # in its place
        (("A", "B"), [2, None], "memory-b", 2, "seats"),  # one on each channel, as today
        (("A", "A"), [2, None], "memory-b", 2, "held_back"),  # two on one channel: nobody read that
        (("A", "A"), [2, 2], "memory-b", 2, "seats"),
        (("A", "B"), [1, None], "memory-a", 2, "held_back"),  # of two ranks nobody read it
        (("A", "B"), [2, None], "memory-a", 1, "seats"),
        (("A", "B"), [2, None], "memory-a", None, "held_back"),
        ((None, None), [2, None], "memory-b", 2, "held_back"),  # channels not known: by their number
        ((None, None), [2, 2], "memory-b", 2, "seats"),
    ],
)
def test_a_speed_that_was_read_counts_for_its_own_population_and_ranks(channels, today, slot, new, verdict) -> None:
    slots = {s: {"channel": c} for s, c in zip(("memory-a", "memory-b"), channels, strict=True)}
    laid = laid_out(made.machine(slots, memory_speed_mts=2666), (), {"memory.speed_mts": 3200})
    held = {s: None if r is None else made.module(ranks=r, capacity_gb=8) for s, r in zip(slots, today, strict=True)}
    put = made.module("M2", ranks=new, capacity_gb=8)
    found = judge(build_today(laid, held), slot, put)
    assert (found.verdict, found.short) == (verdict, "runs at 3200" if verdict == "seats" else "runs at 2666")


# -- an outcome carries only what was looked at -------------------------------------------------------
def outcome(**changes) -> Sighting:
    plain = {
        "machine": "test-machine",
        "configuration": "only",
        "slot": "radio",
        "part": "R",
        "outcome": "worked",
        "firmware": "1.2",
    }
    return Sighting.model_validate(plain | changes)  # fmt: skip


@pytest.mark.parametrize(
    ("slot", "showed", "verdict"),
    [
        ({"usb": None}, (), "held_back"),  # it worked; whether its Bluetooth did nobody tried
        ({"usb": None}, ("bluetooth",), "seats"),
        ({"usb": False}, ("bluetooth",), "held_back"),
        ({"card_policy": None}, (), "seats"),  # that it was accepted shows by its working
        ({"antenna_bands": None}, (), "held_back"),
        ({"antenna_bands": None}, ("bands",), "seats"),
    ],
)
def test_what_nobody_tried_is_not_proven(slot, showed, verdict) -> None:
    seen = [outcome(showed=showed)]
    build = build_today(made.machine({"radio": slot}), firmware="1.2", sightings=seen)
    assert judge(build, "radio", made.radio()).verdict == verdict


@pytest.mark.parametrize(("firmware", "verdict"), [("1.2", "refused"), ("1.3", "seats"), ("", "measure_first")])
def test_what_failed_under_a_firmware_is_a_question_until_it_is_read(firmware: str, verdict: str) -> None:
    seen = [outcome(outcome="did_not", cause="machine")]
    found = judge(build_today(made.machine(), firmware=firmware, sightings=seen), "radio", made.radio())
    assert found.verdict == verdict
    assert found.asks == (("firmware.version",) if not firmware else ())


# -- an accessory made for another machine ------------------------------------------------------------
@pytest.mark.parametrize(
    ("families", "verdict"), [((), "seats"), (("test-machine",), "seats"), (("other",), "refused")]
)
def test_a_caddy_of_another_machine_serves_nothing(families: tuple[str, ...], verdict: str) -> None:
    build = build_today(made.machine({"bay": {"caddy": "missing"}}))
    caddy = made.accessory("K", "caddy", families=families)
    assert judged(build, "bay", made.bay_drive(), (caddy,)).verdict == verdict
    assert judge(build.with_part("bay", made.bay_drive(), (caddy,)), "bay", made.bay_drive()).verdict == verdict


# -- bounds and sets as people type them ------------------------------------------------------------------
@pytest.mark.parametrize(
    ("attribute", "typed", "value"),
    [
        ("drive-1.clearance_above_um", "1.35", 1350), ("drive-1.clearance_above_um", "1,35 mm or more", {"value": 1350, "bound": "at_least"}),
        ("drive-1.clearance_above_um", "≥ 1.35", {"value": 1350, "bound": "at_least"}), ("drive-1.pcie_lanes", "at most 2", {"value": 2, "bound": "at_most"}),
        ("drive-1.pcie_lanes", "≤2", {"value": 2, "bound": "at_most"}), ("drive-1.key", "B or M", {"value": "B", "alternatives": ["M"]}),
        ("drive-1.key", "M or M", "M"), ("radio.leads", "1 or 2", {"value": 1, "alternatives": [2]}), ("memory-a.limit_gb", "mindestens 16", {"value": 16, "bound": "at_least"}),
    ],
)  # fmt: skip
def test_a_bound_or_one_of_several_is_typed_and_counts(attribute: str, typed: str, value: object) -> None:
    assert typed_value(made.machine(), attribute, typed) == value
    laid = laid_out(made.machine(), (), {}, {attribute: value})
    place, _, name = attribute.partition(".")
    claim = getattr(laid.slot(place), name).claims[-1]
    assert (claim.exact, claim.source) == (not isinstance(value, dict), "measured")


@pytest.mark.parametrize(
    ("attribute", "typed"),
    [
        ("drive-1.key", "B or X"),
        ("drive-1.pcie_lanes", "at most three"),
        ("drive-1.clearance_above_um", "900 or more"),
        ("drive-1.key", "at most M"),
    ],
)
def test_what_is_neither_figure_bound_nor_set_is_refused_in_words(attribute: str, typed: str) -> None:
    with pytest.raises(InputError, match="is no value for this"):
        typed_value(made.machine(), attribute, typed)
