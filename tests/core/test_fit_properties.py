"""Properties of the rules: knowledge, restriction, modesty, order."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from insertum.core.fit.build import Build
from insertum.core.fit.engine import Asker
from insertum.core.fit.judge import build_verdict, judge, judge_build, judge_equipped, matrix, worth_of_measuring
from insertum.core.fit.rulebook import RULES
from insertum.core.machine.claim import Fact, Limits
from insertum.core.machine.shape import Configured, Machine
from insertum.core.survey.current_build import build_today
from insertum.core.verdict import Finding, Verdict, worst

from . import made

#: The plain machine with the slots that only some have, and a part that seats in each.
EVERY = {"mini": {}, "cellular": {}}
PARTS = made.PARTS | {"mini": made.msata(), "cellular": made.cellular()}

#: What follows when one fact is not known, worked from rules.md section 1: "seats" where no possibility makes a
#: difference, "held_back" where every possibility is usable; everything else is measured first.
WITHOUT: dict[tuple[str, str], tuple[str, str]] = {
    ("memory-a", "channel"): ("seats", "the split only"),
    ("memory-a", "room_above_um"): ("seats", "a bare module needs no room"),
    ("drive-1", "key"): ("seats", "four wired lanes leave key M alone"),
    ("drive-1", "pcie_generation"): ("held_back", "1000 to 3938 MB/s on four lanes, rated 3400"),
    ("drive-1", "cooled"): ("seats", "the drive needs none"),
    ("drive-1", "pad"): ("seats", "the drive needs no cooling"),
    ("drive-1", "sata"): ("seats", "a PCIe drive"),
    ("drive-1", "drive_limit_gb"): ("seats", "the interface sets none"),
    ("radio", "key"): ("seats", "the card has notches for A and E"),
    ("radio", "pcie_generation"): ("seats", "a radio's rate is not bound by it"),
    ("radio", "usb"): ("held_back", "at worst Bluetooth is lost"),
    ("radio", "host_generation"): ("seats", "a PCIe card"),
    ("radio", "cnvi"): ("seats", "a PCIe card"),
    ("radio", "cnvi_wired"): ("seats", "a PCIe card"),
    ("battery", "charge_mv"): ("seats", "the groups of nominal voltages decide where it is not told of both"),
    ("radio", "antenna_bands"): ("held_back", "at worst a band is not assured"),
    ("bay", "sata"): ("held_back", "150 to 600 MB/s, rated 550"),
    ("bay", "drive_limit_gb"): ("seats", "the interface sets none"),
    ("bay", "spacer"): ("seats", "the drive is as tall as the bay"),
    ("battery", "firmware_switch"): ("seats", "how it is cut off, not whether it fits"),
    ("battery", "held_by"): ("seats", "how it comes out, not whether it fits"),
    ("mini", "pcie_lanes"): ("seats", "a SATA drive"),
    ("mini", "pcie_generation"): ("seats", "a SATA drive"),
    ("mini", "cooled"): ("seats", "the drive needs none"),
    ("mini", "pad"): ("seats", "the drive needs no cooling"),
    ("mini", "pad_gap_um"): ("seats", "no pad is bought"),
    ("mini", "drive_limit_gb"): ("seats", "the interface sets none"),
    ("cellular", "key"): ("seats", "a cellular slot has key B"),
    ("cellular", "pcie_lanes"): ("seats", "a USB card"),
    ("cellular", "pcie_generation"): ("seats", "a USB card"),
}
_SINGLE = ("socket_height", "board_below", "clearance_below_um", "pad_below", "fixed_posts_mm")
_CARDS = ("drive-1", "radio", "cellular", "mini")
WITHOUT |= {(slot, name): ("seats", "single-sided") for slot in _CARDS for name in _SINGLE}
WITHOUT |= {(slot, "mini_sizes"): ("seats", "an M.2 socket") for slot in ("drive-1", "radio", "cellular")}
WITHOUT |= {(slot, "listed_cards"): ("seats", "any card is accepted") for slot in _CARDS}
WITHOUT |= {(slot, "bracket_mm"): ("seats", "a standoff is at its length") for slot in ("drive-1", "radio", "cellular")}
WITHOUT |= {("drive-1", "pad_gap_um"): ("seats", "no pad is bought")}
WITHOUT |= {
    ("mini", name): ("seats", "a mini socket has none")
    for name in ("key", "width_mm", "standoffs_mm", "clearance_above_um", "bracket_mm")
}


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
    found = judge(build, slot, PARTS[slot])
    wanted, why = WITHOUT.get((slot, attribute), ("measure_first", "it decides"))
    assert found.verdict == wanted, why
    if wanted == "measure_first":
        assert found.asks == (f"{slot}.{attribute}",)


def test_nor_while_the_memory_system_is_unknown() -> None:
    """Without a total the documented sizes of all sockets bound it from below: 32 + 32 GB."""
    without_total = made.build(made.machine(memory_total_limit_gb=None))
    assert judge(without_total, "memory-a", made.module()).verdict == "seats"
    neither = made.build(made.machine({"memory-b": {"limit_gb": None}}, memory_total_limit_gb=None))
    assert judge(neither, "memory-a", made.module()).verdict == "seats"  # one socket alone takes 32
    both = neither.with_part("memory-b", made.module("B", capacity_gb=32))
    assert judge(both, "memory-a", made.module()).asks == ("memory.total_limit_gb",)  # 48 in all
    # 1600 is DDR4's slowest grade, so it is held back at worst and never asked
    slow = judge(made.build(made.machine(memory_speed_mts=None)), "memory-a", made.module())
    assert (slow.verdict, slow.short, slow.asks) == ("held_back", "1600 to 3200 MT/s", ())


#: What follows when the part does not state one thing, worked from the figures of the plain machine.
UNSTATED = {
    "memory-a": {"ranks": "seats", "chip_width": "seats", "module_type": "measure_first", "spreader_um": "measure_first", "clock_driver": "seats"},
    "drive-1": {"width_mm": "measure_first", "length_mm": "measure_first", "above_um": "seats", "below_um": "measure_first", "keys": "measure_first",
                "read_mb_s": "held_back", "interface": "held_back", "generation": "held_back", "lanes": "held_back"},
    "radio": {"width_mm": "measure_first", "length_mm": "measure_first", "above_um": "seats", "below_um": "measure_first", "keys": "measure_first",
              "bus": "measure_first", "streams": "held_back", "bands": "held_back", "plug": "measure_first", "tied_to": "measure_first"},
    "bay": {"read_mb_s": "held_back", "height_um": "measure_first", "generation": "held_back"},
    "battery": {"voltage_mv": "measure_first", "connector": "measure_first", "safety_mark": "measure_first"},
}  # fmt: skip


@pytest.mark.parametrize("slot", list(made.PARTS))
def test_what_the_part_does_not_state(slot: str) -> None:
    """Removing an attribute of the part asks for it only where some possibility is not usable."""
    part = made.PARTS[slot]
    wanted = UNSTATED[slot]
    laid = made.machine({"drive-1": {"clearance_below_um": 1400}, "radio": {"clearance_below_um": 600}})
    for name in type(part).model_fields:
        if getattr(part, name) is None or name in ("number", "name", "offers", "kind", "maker", "note"):
            continue
        bare = part.model_copy(update={name: None})
        try:
            type(part).model_validate(bare.model_dump())
        except ValueError:
            continue  # the part cannot be said without it
        found = judge(made.build(laid), slot, bare)
        assert found.verdict == wanted.get(name, "seats"), name
        assert all(a == f"part.{name}" for a in found.asks), name


CHANGES: dict[str, list[dict[str, Any]]] = {
    "memory-a": [{}, {"generation": 5}, {"limit_gb": 8}, {"room_above_um": 500}],
    "drive-1": [{}, {"key": "B", "standoffs_mm": [80]}, {"pcie_lanes": 0}, {"clearance_below_um": 600}, {"cooled": "none"}, {"standoffs_mm": [42]}],
    "radio": [{}, {"leads": 1}, {"card_policy": "listed", "listed_cards": ["F-9"]}, {"antenna_bands": ["2.4"]}, {"usb": False}],
    "bay": [{}, {"ribbon": "missing"}, {"height_um": 7000}, {"sata": 1}],
    "battery": [{}, {"voltage_mv": 15200}, {"connector": "8-way"}],
    "mini": [{}, {"mini_sizes": ["half"]}, {"sata": 1}, {"sata": "none"}, {"card_policy": "listed", "listed_cards": ["D-9"]}],
    "cellular": [{}, {"leads": 1}, {"sim_tray": "missing"}, {"usb": False}, {"plug": "MHF1"}, {"card_policy": "listed", "listed_cards": ["C-9"]}],
}  # fmt: skip
CASES = [(slot, change) for slot, changes in CHANGES.items() for change in changes]


@given(st.sampled_from(CASES), st.data(), st.sampled_from(list(Limits)))
@settings(max_examples=600)
def test_removing_knowledge_never_makes_seats_or_held_back(case, data, school) -> None:
    slot, change = case
    laid = made.machine({slot: change})
    full = judge(made.build(laid, school), slot, PARTS[slot]).verdict
    name = data.draw(st.sampled_from([a for s, a in attributes(laid) if s == slot]))
    less = judge(made.build(without(laid, slot, name), school), slot, PARTS[slot]).verdict
    assert full is not None and less is not None
    assert not less.usable or full.usable


@given(st.sampled_from(CASES), st.data())
@settings(max_examples=200)
def test_a_restriction_never_improves(case, data) -> None:
    slot, change = case
    before = judge(made.build(made.machine({slot: change})), slot, PARTS[slot]).verdict
    further = data.draw(st.sampled_from(CHANGES[slot]))
    if set(further) & set(change):
        return
    after = judge(made.build(made.machine({slot: change | further})), slot, PARTS[slot]).verdict
    assert before is not None and after is not None
    # Harm needs entering: what a further restriction keeps out is refused, and its underside or voltage not judged.
    assert after.rank >= before.rank or (before is Verdict.HARM and after is Verdict.REFUSED)


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
    stopped = made.drive("D9", 1000, below_um=1350, keys=("B",), lanes=2)
    found = worth_of_measuring(
        made.build(laid), matrix(made.build(laid), [*opens, stopped], [], ["drive-1"]), [*opens, stopped]
    )
    assert [(w.attribute, w.parts, w.from_minor, w.to_minor) for w in found] == [
        ("drive-1.clearance_below_um", 2, 5000, 7000)
    ]


def test_what_waits_for_several_things_is_asked_for_each() -> None:
    """A machine of which little is known: no single answer decides a part, and each is one of those that do."""
    laid = made.machine({"drive-1": {"clearance_below_um": None, "socket_height": None, "card_policy": None}})
    build = made.build(laid)
    deep, flat = made.drive("D1", 5000, below_um=1350), made.drive("D2", 7000)
    found = worth_of_measuring(build, matrix(build, [deep, flat], [], ["drive-1"]), [deep, flat])
    # The flat one waits for the list alone (1), the deep one for list and room (1/2 each).
    assert [(w.attribute, w.parts, w.among, w.from_minor, w.to_minor) for w in found] == [
        ("drive-1.card_policy", 1, 1, 7000, 7000), ("drive-1.clearance_below_um", 0, 1, 5000, 5000),
    ]  # fmt: skip
    only = worth_of_measuring(build, matrix(build, [deep], [], ["drive-1"]), [deep])
    assert {(w.attribute, w.parts, w.among) for w in only} == {
        ("drive-1.card_policy", 0, 1), ("drive-1.clearance_below_um", 0, 1),
    }  # fmt: skip
    known = made.build()
    assert worth_of_measuring(known, matrix(known, [deep, flat], [], ["drive-1"]), [deep, flat]) == []


def test_no_rule_gives_up_on_a_machine_nobody_has_looked_into() -> None:
    """Four memory sockets, contents unknown: each rule goes over least and most of what each may hold, not all sizes
    times all grades (4,096 possibilities are where an inquiry stops)."""
    data = made.machine().machine.model_dump(mode="json")
    plain = next(x for x in data["slots"] if x["id"] == "memory-a")
    data["slots"] += [plain | {"id": f"more-{n}", "name": f"More {n}", "channel": None} for n in range(2)]
    laid = Machine.model_validate(data).configured("only")
    sockets = tuple(x.id for x in laid.slots if x.kind == "memory")
    build = build_today(laid, unknown=sockets)
    part = made.module("NEW", grade_mts=2400)
    asker = Asker(build, build.machine.slot("memory-a"), ())
    asked = {r.id: len(asker.ask(r, part).outcomes) for r in RULES.values() if r.id.startswith("memory.")}
    assert len(sockets) == 4 and max(asked.values()) < 512, asked
    said = {f.rule: f.verdict for f in judge_equipped(build, "memory-a", part, []).findings}
    assert said["memory.slows_others"] == "held_back"  # at worst: what is in there may be quicker than 2400
