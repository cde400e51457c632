"""What a piece of evidence tells, and what it does not: exclusions that today disproves, speeds of a population, outcomes
that were looked at, accessories of another machine. Verdicts worked by hand from rules.md sections 1 and 2."""

import pytest

from insertum.core.fit.judge import judge, judged
from insertum.core.known.evidence import Grade, Signs
from insertum.core.sighting import Sighting
from insertum.core.standards.pcie import Link
from insertum.core.survey.bench import build_today, laid_out

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
def test_a_speed_read_of_one_module_tells_nothing_of_two() -> None:
    laid = laid_out(made.machine(memory_speed_mts=2666), (), {"memory.speed_mts": 3200})
    one = build_today(laid, {"memory-a": made.module(), "memory-b": None})
    assert judge(one, "memory-a", made.module("M2")).verdict == "seats"  # in its place: 3200 as read
    two = judge(one, "memory-b", made.module("M2"))
    assert (two.verdict, two.short) == ("held_back", "runs at 2666")
    both = build_today(laid, {"memory-a": made.module(), "memory-b": made.module()})
    assert judge(both, "memory-b", made.module("M2")).verdict == "seats"


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
