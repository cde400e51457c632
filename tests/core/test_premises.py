"""*Why*, in two lists: the premises alone give the verdict, no part of them does, and what was said besides changes nothing
(rules.md section 2)."""

import random
from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations
from typing import Any

import pytest

from insertum.core.fit.build import Build
from insertum.core.fit.judge import judged, verdict_of
from insertum.core.fit.premises import Premise, carrying, every_premise, resting_on, why
from insertum.core.fit.questions import place_of
from insertum.core.known.evidence import Grade
from insertum.core.known.known import Explained
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.claim import Fact, Source
from insertum.core.machine.part import Fittable
from insertum.core.machine.shape import Configured
from insertum.core.sighting import Sighting
from insertum.core.survey.current_build import build_today
from insertum.core.verdict import Verdict
from tests import draws

from . import random_machines as made_at_random
from .made import build, drive, machine, module, said

#: Of so many premises at most every part is tried; of more those that lack one or two.
ALL_PARTS = 6


def answer(of: Build, slot: str, part: Fittable) -> tuple[object, ...]:
    joint = verdict_of(of, of.machine.slot(slot), part)
    return joint.verdict, joint.short, tuple(place_of(a) for a in joint.asks)


def gossip(chance: random.Random, of: Build) -> Build:
    """The same machine talked about as real ones are: reports, data sheets, outcomes of other firmware and configurations, of this
    one, failures, a second claim that disagrees; its firmware read or not; the owner's word given or not."""

    def more(shape: Any) -> Any:
        told = {}
        for name in attributes_of(type(shape)):
            fact = getattr(shape, name)
            if isinstance(fact, Fact) and fact.claims and chance.random() < 0.4:
                other = shape.model_copy(update={name: fact})
                value = chance.choice([fact.claims[0].value, *VALUES.get(name, ())])
                claim = fact.claims[0].model_copy(update={"value": value, **chance.choice(TALK)})
                told[name] = getattr(other, name).plus(claim)
        return shape.model_copy(update=told)

    known = of.known
    laid = known.machine.model_copy(
        update={"slots": tuple(more(s) for s in known.machine.slots), "memory": more(known.machine.memory)}
    )
    firmware, usual = chance.choice(("", "1.2", "1.2", "1.4")), chance.random() < 0.3
    return replace(of, known=replace(known, machine=laid, firmware=firmware, as_usual=usual), memo={})


def outcomes(chance: random.Random, of: Build, slot: str, part: Fittable) -> Iterator[Sighting]:
    """What the workshop saw of this part here, or of another, or heard say."""
    ids = {"machine": of.machine.machine.id, "configuration": of.machine.configuration.id, "slot": slot}
    for _ in range(chance.choice((0, 0, 1, 2))):
        yield Sighting(
            **ids, part=chance.choice((part.number, "ANOTHER")), outcome=chance.choice(("worked", "did_not")),
            cause=chance.choice(("", "machine", "part")), firmware=chance.choice(("", "1.2", "1.4")), hearsay=chance.random() < 0.3, who="a colleague",
        )  # fmt: skip


TALK: tuple[dict[str, Any], ...] = (
    {"source": Source.REPORTED, "who": "a forum"}, {"source": Source.CONTROLLER}, {"source": Source.DOCUMENTED},
    {"source": Source.MEASURED}, {"source": Source.PROVEN, "count": 1, "firmware": "1.2"}, {"source": Source.PROVEN, "count": 2},
    {"source": Source.PROVEN, "count": 1, "configuration": "another"}, {"source": Source.PROVEN, "failures": 1, "firmware": "1.4"},
)  # fmt: skip
#: Other values people name.
VALUES: dict[str, tuple[Any, ...]] = {
    "limit_gb": (8, 16, 32), "drive_limit_gb": (1000, 2000), "key": ("B", "M"), "pcie_lanes": (2,), "pcie_generation": (3, 4), "sata": (0, 3),
    "clearance_below_um": (0, 700, 1350), "room_above_um": (2000,), "total_limit_gb": (16, 64), "speed_mts": (2400, 3200), "density_gbit": (8, 16),
    "card_policy": ("any", "listed"), "leads": (1, 2), "plug": ("MHF1", "MHF4"), "voltage_mv": (11400, 15400),
}  # fmt: skip


def test_the_premises_alone_carry_the_verdict_and_no_part_of_them_does() -> None:
    carried, seen = 0, set[str]()
    for seed in (*range(18), 71, 89, 93, 107, 111, 113):  # the last are those where the firmware that was read decides
        chance = draws.chance(seed)
        sample = made_at_random.sample(chance)
        here = sample.hidden if seed % 4 == 0 else gossip(chance, sample.hidden)
        for slot in here.machine.slots[seed % 2 :: 2]:
            part = made_at_random.part_for(chance, slot.kind, 4)
            here = replace(here, sightings=tuple(outcomes(chance, here, slot.id, part)), memo={})
            whole = answer(here, slot.id, part)
            found = judged(here, slot.id, part, ())
            near = {p.partition(".")[0] for p in found.rests_on} | {slot.id}
            kept = carrying(here, near, lambda b, s=slot.id, p=part, w=whole: answer(b, s, p) == w)  # type: ignore[misc]
            assert answer(resting_on(here, kept), slot.id, part) == whole, (seed, slot.id)
            sizes = range(len(kept)) if len(kept) <= ALL_PARTS else range(len(kept) - 2, len(kept))
            for less in (c for n in sizes for c in combinations(kept, n)):
                assert answer(resting_on(here, less), slot.id, part) != whole, (seed, slot.id, kept, less)
            seen |= {p.what for p in kept}
            carried += len(kept)
    assert carried > 60
    assert seen == {"claim", "seen", "delivered", "firmware", "outcome"}


def test_all_premises_together_are_the_machine_itself() -> None:
    for seed in range(10):
        chance = draws.chance(seed)
        sample = made_at_random.sample(chance)
        here = gossip(chance, sample.hidden)
        for slot in here.machine.slots:
            part = made_at_random.part_for(chance, slot.kind, 4)
            same = resting_on(here, every_premise(here))
            assert answer(same, slot.id, part) == answer(here, slot.id, part), (seed, slot.id)


def opened(laid: Configured, part: Fittable, slot: str = "drive-1", **at: Any) -> tuple[dict[str, str], dict[str, str]]:
    """What carries a verdict by attribute, and what was said besides with why it does not count."""
    here = build(laid, **at)
    carries, aside = why(here, judged(here, slot, part, ()), part)
    return {e.place.partition(".")[2]: e.value for e in carries}, {a.says: a.why for a in aside}


#: A claim on the drive's slot, and why it stands aside.
ASIDE = {
    "a report settles no fact": ({"clearance_below_um": [said(1350), said(700, "reported", who="a forum")]}, "reported: 0.7 mm, a forum", "a report alone settles nothing"),
    "another configuration": ({"drive_limit_gb": [said(2000), said(8000, "proven", count=1, configuration="other")]}, "proven: 8000 GB, worked 1×, failed 0×, in other", "of another configuration"),
    "another firmware": ({"drive_limit_gb": [said(2000), said(8000, "proven", count=1, firmware="1.2")]}, "proven: 8000 GB, worked 1×, failed 0×, firmware 1.2", "of firmware 1.2; this one's is not read"),
    "it only failed": ({"drive_limit_gb": [said(2000), said(4000, "proven", failures=1)]}, "proven: 4000 GB, worked 0×, failed 1×", "it only ever failed"),
    "the controller's": ({"drive_limit_gb": [said(2000), said(8000, "controller")]}, "controller: 8000 GB", "the controller's figure is not what counts under the school *proven*"),
    "outranked": ({"clearance_below_um": [said(1350), said(1400, "measured")]}, "documented: 1.35 mm", "what ranks higher says otherwise"),
    "said twice": ({"clearance_below_um": [said(1350), said(1350, "measured")]}, "documented: 1.35 mm", ""),
}  # fmt: skip


@pytest.mark.parametrize("case", ASIDE)
def test_what_does_not_count_is_said_beside_with_why(case: str) -> None:
    patch, says, reason = ASIDE[case]
    carries, aside = opened(machine({"drive-1": patch}), drive(capacity_gb=1000, below_um=1300))
    assert aside[says] == reason
    assert says not in str(carries)


def test_only_what_decides_is_on_the_chain() -> None:
    # A key that keeps the card out needs nothing else; what every such slot is like needs no claim.
    carries, _ = opened(machine({"drive-1": {"key": "B"}}), drive(keys=["M"]))
    assert carries == {"key": "B", "pcie_lanes": "0 or 1 or 2"}  # the lanes follow from the key
    carries, _ = opened(machine(), drive(keys=["M"]), slot="radio")
    assert carries == {}
    # Of an unknown that is asked for, what two say stands in full.
    room = [said(1350), said(700)]
    carries, aside = opened(machine({"drive-1": {"clearance_below_um": room, "socket_height": None}}), drive(below_um=1300))  # fmt: skip
    assert carries["clearance_below_um"] == "0.7 to 1.35 mm"


def test_the_firmware_that_was_read_carries_where_a_proof_needs_it() -> None:
    laid = machine({"memory-a": {"limit_gb": [said(16), said(32, "proven", count=1, firmware="1.4")]}})
    here = build(laid, firmware="1.4")
    big = module(capacity_gb=32)
    found = judged(here, "memory-a", big, ())
    assert found.verdict is Verdict.SEATS
    kept = carrying(here, {"memory-a", "memory-b", "memory"}, lambda b: answer(b, "memory-a", big) == answer(here, "memory-a", big))  # fmt: skip
    assert Premise("firmware") in kept and Premise("claim", "memory-a", "limit_gb", 1) in kept


@pytest.mark.parametrize(("gb", "ranks", "width", "says"), [
    (16, 1, 8, "16 Gbit"), (16, 2, 8, "8 Gbit"), (4, 1, 8, "4 Gbit"),
    (16, 2, None, "8 Gbit"),  # x8 or x16: 8 or 16 Gbit
    (32, 2, None, "16 Gbit"),  # x16 would be 32 Gbit, which DDR4 has not
    (16, None, 8, "8 Gbit"),  # 16 of one rank, 8 of two
    (8, None, None, "4 Gbit"),  # two ranks of x8; one rank of x8, two of x16: 8; one of x16: 16
    (32, None, None, "16 Gbit"),  # only two ranks of x8 make it
])  # fmt: skip
def test_what_runs_by_density_is_said_once_by_the_densest(
    gb: int, ranks: int | None, width: int | None, says: str
) -> None:
    held = {"memory-a": module(capacity_gb=gb, ranks=ranks, chip_width=width)}
    here = build_today(machine(memory_density_gbit=None), held, grades={"memory-a": [Grade.WORKS]})
    steps = here.known.explain("memory", "density_gbit").steps
    assert [s for s in steps if "run" in s] == [
        f"M works in Memory A: {says} chips run, and so all below (runs.density)"
    ]
    assert len(set(steps)) == len(steps)


def test_a_socket_whose_limit_follows_from_the_total_says_so() -> None:
    def limit(**changes: Any) -> Explained:
        return build(machine(changes.pop("slots", None), **changes)).known.explain("memory-a", "limit_gb")

    nothing = {"memory-a": {"limit_gb": None}, "memory-b": {"limit_gb": None}}
    shared = limit(slots=nothing)
    assert (shared.value, shared.steps[-1]) == (
        "32 GB or more",
        "64 GB in all (documented), in shares of 2 like sockets",
    )
    assert "in all" not in str(limit().steps)  # the manual speaks of the socket itself
    assert "in all" not in str(limit(slots=nothing, memory_total_limit_gb=None).steps)
