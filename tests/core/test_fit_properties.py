"""Properties of the rules: knowledge, restriction, modesty, order."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.machine.claim import Fact, Limits
from insertum.core.fit.build import Build
from insertum.core.fit.judge import build_verdict, judge, judge_build, matrix, worth_of_measuring
from insertum.core.machine.shape import Configured
from insertum.core.verdict import Finding, Verdict, worst

from . import made

#: Facts whose absence must not decide: what each is for.
HARMLESS = {
    ("memory-a", "channel"): "the split only",
    ("memory-a", "room_above_um"): "a bare module needs no room",
    ("drive-1", "mini_sizes"): "an M.2 socket",
    ("drive-1", "listed_cards"): "any drive is accepted",
    ("drive-1", "pad"): "no pad is known to be missing",
    ("drive-1", "pad_gap_um"): "no pad is bought",
    ("drive-1", "socket_height"): "measured clearance is there",
    ("drive-1", "clearance_below_um"): "single-sided",
    ("drive-1", "pad_below"): "single-sided",
    ("drive-1", "cooled"): "the drive needs none",
    ("drive-1", "bracket_mm"): "a standoff is at its length",
    ("drive-1", "sata"): "a PCIe drive",
    ("radio", "mini_sizes"): "an M.2 socket",
    ("radio", "host_generation"): "a PCIe card",
    ("radio", "cnvi"): "a PCIe card",
    ("radio", "listed_cards"): "any card is accepted",
    ("radio", "socket_height"): "single-sided",
    ("radio", "clearance_below_um"): "single-sided",
    ("bay", "spacer"): "the drive is as tall as the bay",
    ("battery", "firmware_switch"): "how it is cut off, not whether it fits",
    ("battery", "held_by"): "how it comes out, not whether it fits",
}


#: The plain machine with the slots that only some have, and a part that seats in each.
EVERY = {"mini": {}, "cellular": {}}
PARTS = made.PARTS | {"mini": made.msata(), "cellular": made.cellular()}
HARMLESS |= {
    ("mini", name): "a mini socket has none"
    for name in ("key", "width_mm", "standoffs_mm", "socket_height", "clearance_below_um", "clearance_above_um", "bracket_mm", "pad_below")
} | {
    ("mini", "pcie"): "a SATA drive",
    ("mini", "listed_cards"): "any drive is accepted",
    ("mini", "cooled"): "the drive needs none",
    ("mini", "pad"): "no pad is known to be missing",
    ("mini", "pad_gap_um"): "no pad is bought",
    ("cellular", "mini_sizes"): "an M.2 socket",
    ("cellular", "pcie"): "a USB card",
    ("cellular", "listed_cards"): "any card is accepted",
    ("cellular", "socket_height"): "single-sided",
    ("cellular", "clearance_below_um"): "single-sided",
}  # fmt: skip


def attributes(laid: Configured) -> list[tuple[str, str]]:
    return [(s.id, n) for s in laid.slots for n in type(s).model_fields if isinstance(getattr(s, n), Fact)]


def without(laid: Configured, slot_id: str, attribute: str) -> Configured:
    slots = [
        s.model_copy(update={attribute: type(getattr(s, attribute))(())}) if s.id == slot_id else s for s in laid.slots
    ]
    return laid.model_copy(update={"slots": tuple(slots)})


@pytest.mark.parametrize(("slot", "attribute"), [a for a in attributes(made.machine(EVERY)) if a[0] in PARTS])
def test_never_seats_while_what_decides_is_unknown(slot: str, attribute: str) -> None:
    build = made.build(without(made.machine(EVERY), slot, attribute))
    verdict = judge(build, slot, PARTS[slot]).verdict
    assert verdict == ("seats" if (slot, attribute) in HARMLESS else "measure_first")


@pytest.mark.parametrize("attribute", ["total_limit_gb", "speed_mts"])
def test_nor_while_the_memory_system_is_unknown(attribute: str) -> None:
    build = made.build(made.machine(**{f"memory_{attribute}": None}))
    assert judge(build, "memory-a", made.PARTS["memory-a"]).verdict == "measure_first"


@pytest.mark.parametrize("slot", list(made.PARTS))
def test_never_seats_while_the_part_is_unknown(slot: str) -> None:
    """Removing an attribute of the part makes it measure first, unless the machine makes it moot."""
    moot = {"tbw", "write_mb_s", "cl", "profile_mts", "full_mwh", "fru", "needs_cooling", "edge_connector", "standard",
            "channel_mhz", "voltage_mv", "bluetooth"}  # fmt: skip
    part = made.PARTS[slot]
    for name in type(part).model_fields:
        if getattr(part, name) is None or name in ("number", "name", "offers", "kind", "maker", "note"):
            continue
        bare = part.model_copy(update={name: None})
        try:
            type(part).model_validate(bare.model_dump())
        except ValueError:
            continue  # the part cannot be said without it
        verdict = judge(made.build(), slot, bare).verdict
        decides = name not in moot or (slot == "battery" and name == "voltage_mv")
        assert verdict == ("measure_first" if decides else "seats"), name


CHANGES: dict[str, list[dict[str, Any]]] = {
    "memory-a": [{}, {"generation": 5}, {"limit_gb": 8}, {"room_above_um": 500}],
    "drive-1": [{}, {"key": "B", "standoffs_mm": [80]}, {"pcie": "none"}, {"clearance_below_um": 600}, {"cooled": "none"}, {"standoffs_mm": [42]}],
    "radio": [{}, {"leads": 1}, {"card_policy": "listed", "listed_cards": ["F-9"]}, {"antenna_bands": ["2.4"]}, {"usb": False}],
    "bay": [{}, {"ribbon": "missing"}, {"height_um": 7000}, {"sata": 1}],
    "battery": [{}, {"voltage_mv": 15200}, {"connector": "8-way"}],
    "mini": [{}, {"mini_sizes": ["half"]}, {"sata": 1}, {"sata": "none"}, {"drive_limit_gb": 100}, {"card_policy": "listed", "listed_cards": ["D-9"]}],
    "cellular": [{}, {"leads": 1}, {"sim_tray": "missing"}, {"usb": False}, {"plug": "MHF1"}, {"key": "M"}, {"card_policy": "listed", "listed_cards": ["C-9"]}],
}  # fmt: skip
CASES = [(slot, change) for slot, changes in CHANGES.items() for change in changes]


@given(st.sampled_from(CASES), st.data(), st.sampled_from(list(Limits)))
@settings(max_examples=600, deadline=None)
def test_removing_knowledge_never_makes_seats_or_held_back(case, data, school) -> None:
    slot, change = case
    laid = made.machine({slot: change})
    full = judge(made.build(laid, school), slot, PARTS[slot]).verdict
    name = data.draw(st.sampled_from([a for s, a in attributes(laid) if s == slot]))
    less = judge(made.build(without(laid, slot, name), school), slot, PARTS[slot]).verdict
    assert full is not None and less is not None
    if not full.usable:
        assert not less.usable


@given(st.sampled_from(CASES), st.data())
@settings(max_examples=200, deadline=None)
def test_a_restriction_never_improves(case, data) -> None:
    slot, change = case
    before = judge(made.build(made.machine({slot: change})), slot, PARTS[slot]).verdict
    further = data.draw(st.sampled_from(CHANGES[slot]))
    if set(further) & set(change):
        return
    after = judge(made.build(made.machine({slot: change | further})), slot, PARTS[slot]).verdict
    assert before is not None and after is not None and after.rank >= before.rank


@given(
    st.integers(0, 4), st.sampled_from([3400, 2000, 500]), st.sampled_from([80, 42]), st.sampled_from([1350, 700, 0])
)
def test_asking_less_never_makes_it_worse(gb, rate, length, below) -> None:
    asking = made.drive(capacity_gb=2000, read_mb_s=3938, above_um=1500, below_um=1350)
    less = made.drive(
        capacity_gb=250 * 2**gb // 2 or 125, read_mb_s=rate, length_mm=length, below_um=below, above_um=1200
    )
    laid = made.machine({"drive-1": {"drive_limit_gb": 2000}})
    a, b = (judge(made.build(laid), "drive-1", p).verdict for p in (asking, less))
    assert a is not None and b is not None and b.rank <= a.rank


@given(st.permutations(list(made.PARTS)))
def test_order_of_slots_and_parts_does_not_matter(order) -> None:
    def built(slots: list[str]) -> Build:
        build = made.build()
        for s in slots:
            build = build.with_part(s, made.PARTS[s])
        return build

    assert judge_build(built(order)) == judge_build(built(list(made.PARTS)))
    assert build_verdict(built(order)) == max(
        (j.verdict for j in judge_build(built(order)).values()), key=lambda v: v.rank
    )


@given(st.lists(st.sampled_from(list(Verdict))))
def test_worst_wins(verdicts) -> None:
    findings = [Finding(rule="x", verdict=v, says="x") for v in verdicts]
    assert worst(findings).rank == max((v.rank for v in verdicts), default=0)
    assert [v.usable for v in Verdict] == [True, True, False, False, False]


def test_worth_of_measuring_counts_only_what_nothing_else_stops() -> None:
    laid = made.machine({"drive-1": {"clearance_below_um": None, "socket_height": None}})
    opens = [made.drive(f"D{i}", price, below_um=1350) for i, price in enumerate((5000, 7000))]
    stopped = made.drive("D9", 1000, below_um=1350, keys=("B",))
    found = worth_of_measuring(matrix(made.build(laid), [*opens, stopped], [], ["drive-1"]), [*opens, stopped])
    assert [(w.attribute, w.parts, w.from_minor, w.to_minor) for w in found] == [
        ("drive-1.clearance_below_um", 2, 5000, 7000)
    ]
