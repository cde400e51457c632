"""A system drive nobody has looked at: its two ends say what going through every drive it could be says."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.fit.drive import drive_rate_mb_s
from insertum.core.fit.figures import system_rate
from insertum.core.fit.possibilities import joined, possibilities
from insertum.core.fit.views import BuildView
from insertum.core.plan.effect import effect
from insertum.core.plan.measure import Raw, Today, figures_of, measure
from insertum.core.plan.need import Need, NeedKind
from insertum.core.plan.request import Use
from insertum.core.survey.current_build import build_today

from . import made

SPEED = NeedKind.DRIVE_SPEED
FAST = made.drive("FAST", capacity_gb=1000, read_mb_s=3400, lanes=4, generation=3)
NARROW = made.drive("NARROW", capacity_gb=1000, read_mb_s=5000, lanes=2, generation=4)
SATA = made.drive("SATA", capacity_gb=1000, read_mb_s=540, interface="sata", lanes=None)


def every_drive(view: BuildView) -> dict[NeedKind, Any]:
    """Interface by interface, lanes by lanes, generation by generation, as fast and as slow as may be."""
    part = view.content(view.boots)
    if part is None or getattr(part, "_part", None) is not None:
        return {SPEED: (part is not None and system_rate(view.boots, view)) or 0}
    return {SPEED: drive_rate_mb_s(view.drive_place_at(view.boots), part, 4) or 0}


@settings(max_examples=80, deadline=None)
@given(
    st.sampled_from([None, {"generation": 3, "lanes": 4}, {"generation": 4, "lanes": 2}, "none"]), st.sampled_from([None, 0, 3]),
    st.sampled_from([None, FAST, NARROW, SATA]), st.sampled_from([(100, 500, 3000), (400, 1500, 3500), (2000, 6000, 9000)]),
)  # fmt: skip
def test_two_ends_are_every_drive_it_could_be(pcie, sata, new, figures) -> None:
    laid = made.machine({"drive-1": {"pcie": pcie, "sata": sata}})
    today = build_today(laid, {"memory-a": None}, unknown=("drive-1",), boot_slot="drive-1")
    build = today if new is None else today.with_part("drive-1", new)
    need = Need(kind=SPEED, floor=figures[0], comfort=figures[1], ceiling=figures[2])
    outcomes = possibilities((today, build), lambda a, b: (every_drive(a), every_drive(b)))
    wanted = effect(Raw(tuple(o.answer for o in outcomes)), [need], Use())
    got = effect(measure((SPEED,), Today(today, Use()), build), [need], Use())
    assert (got.gains, got.most, any(got.falls), got.enough) == (wanted.gains, wanted.most, any(wanted.falls), wanted.enough)  # fmt: skip
    assert len(got.raw.cases) <= len(outcomes)


def test_by_hand() -> None:
    """PCIe 3.0 x4 carries 3938 MB/s: what is there reads that, less, or is not there."""
    laid = made.machine({"drive-1": {"pcie": {"generation": 3, "lanes": 4}, "sata": 0}})
    today = build_today(laid, {"memory-a": None}, unknown=("drive-1",), boot_slot="drive-1")
    cases = measure((SPEED,), Today(today, Use()), today.with_part("drive-1", FAST)).cases
    assert {(a[SPEED], b[SPEED]) for a, b in cases} == {(0, 3400), (3938, 3400)}


@pytest.mark.parametrize("put", [None, ("drive-1", FAST)])
@pytest.mark.parametrize("kind", ["drive_speed", "radio_throughput", "runtime"])
def test_today_and_a_build_answer_together_what_they_answer_alone(kind, put) -> None:
    """What is unknown is the same in both: gone through at once, or each by itself and joined, the cases are the same and
    in the same order."""
    laid = made.machine({"drive-1": {"pcie_generation": None, "pcie_lanes": None}})
    today = build_today(laid, {}, boot_slot="drive-1", unknown=("drive-1", "radio", "battery"))
    then = today.with_part(*put) if put else today
    figures = figures_of((kind,), Use(average_mw=9000), today)
    alone = [possibilities((b,), figures) for b in (today, then)]
    assert joined(*alone) == possibilities((today, then), lambda a, b: (figures(a), figures(b)))
