"""What rules declare of themselves is held against what they do: attributes they say help are read, and help in the
direction they say; what they read has a type."""

import random
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import pytest
from mypy import api

from insertum.core.fit.build import Build
from insertum.core.fit.engine import Asker
from insertum.core.fit.part_view import PartView
from insertum.core.fit.rulebook import RULES, Rule, rule
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.claim import Claim, Fact, Limits, Source
from insertum.core.machine.memory_system import MemorySlot
from insertum.core.machine.part import MemoryModule
from insertum.core.standards import ddr
from insertum.core.survey.current_build import build_today
from tests.draws import chance

from . import made
from . import random_machines as drawn

DECLARING = [r for r in RULES.values() if r.helps or r.at]
SAMPLES = 40
#: So many pairs of a slot and a part are tried for each attribute a rule declares.
ENOUGH = 15


PAD = made.accessory("PAD", "pad", 300, thickness_um=1000)


def asked(build: Build, slot: Any, rule_: Rule, part: Any) -> int:
    return Asker(build, slot, ()).ask(rule_, part).worst


def bare(build: Build) -> Build:
    """The same machine where nothing ever stood in a slot: nothing is proven against what is varied."""
    slots = tuple(s.model_copy(update={"fitted": None}) for s in build.machine.slots)
    empty = dict.fromkeys([s.id for s in slots])
    return build_today(build.machine.model_copy(update={"slots": slots}), empty, Limits.PROVEN)


def meeting(build: Build, r: random.Random) -> Iterator[tuple[Any, Any, Rule]]:
    """Slots of the machine with a part that could meet them and a rule with declarations that speaks of both."""
    for slot in build.machine.slots:
        part = drawn.part_for(r, slot.kind, build.machine.slots[0].generation.claims[0].value)
        for rule_ in DECLARING:
            if isinstance(slot, rule_.slots) and isinstance(part, rule_.parts) and not rule_.apart:
                yield slot, part, rule_


def test_what_a_rule_says_helps_it_reads(monkeypatch: pytest.MonkeyPatch) -> None:
    read: set[str] = set()
    looked = PartView._look

    def look(self: PartView, name: str) -> tuple[bool, Any]:
        read.add(f"part.{name}" if self._place == "part" else f"held.{name}")
        return looked(self, name)

    monkeypatch.setattr(PartView, "_look", look)
    found: dict[str, set[str]] = {}
    for seed in range(SAMPLES):
        if seed and not unread(found):
            break
        r = chance(seed)
        sample = drawn.sample(r)
        for build in (sample.truth, sample.hidden):
            for slot, part, rule_ in meeting(sample.truth, r):
                read.clear()
                slot = build.machine.slot(slot.id)
                for kit in ((), (PAD,)):
                    leaf = Asker(replace(build, boot_slot=slot.id, memo={}), slot, kit).ask(rule_, part)
                    held = {"held." + n.removeprefix("content.") for _, n in leaf.reads if n.startswith("content.")}
                    found.setdefault(rule_.id, set()).update(read, held, (n for _, n in leaf.reads))
    assert not unread(found)


def unread(found: dict[str, set[str]]) -> dict[str, set[str]]:
    return {r.id: left for r in DECLARING if (left := {*r.helps, *r.at} - found.get(r.id, set()))}


#: Attributes as steps up, where any figure will not do. A slot without the wiring is left out: another rule refuses there,
#: and this one has nothing more to say.
STEPS = {"grade_mts": ddr.GRADES[4], "capacity_gb": ddr.CAPACITIES_GB, "generation": (1, 2, 3, 4, 5), "lanes": (1, 2, 4), "pcie_lanes": (1, 2, 4),
         "pcie_generation": (1, 2, 3, 4, 5), "sata": (1, 2, 3), "leads": (0, 1, 2, 3, 4), "streams": (1, 2, 3, 4), "antennas": (1, 2, 4),
         "width_mm": (22, 30), "voltage_mv": (1350, 1500), "height_um": (5000, 7000, 9500, 12500, 15000), "read_mb_s": (100, 550, 2000, 7000)}  # fmt: skip


def steps_of(name: str, shape: Any) -> tuple[int, ...]:
    if name in STEPS:
        return STEPS[name]
    words = attributes_of(type(shape)).get(name)
    assert words is not None, f"no steps for {name}"
    return words.values or (words.low, (words.low + words.high) // 2, words.high)


def varied(build: Build, slot: Any, part: Any, name: str) -> Iterator[tuple[Build, Any, Any]]:
    """The same question with one attribute at each of its figures, from less to more."""
    where, _, own = name.rpartition(".")
    machine = build.machine
    if where == "part":
        for figure in steps_of(own, part):
            yield build, slot, part.model_copy(update={own: figure})
    elif where == "held":
        other = next((s for s in machine.slots if isinstance(s, MemorySlot) and s.id != slot.id and build.now(s.id)), None)  # fmt: skip
        for figure in steps_of(own, None) if other else ():
            held = build.now(other.id)
            assert isinstance(held, MemoryModule)
            yield build.with_part(other.id, held.model_copy(update={own: figure, "number": "OTHER"})), slot, part
    else:
        at = slot if own in type(slot).model_fields else machine.memory
        for figure in steps_of(own, at):
            said = at.model_copy(update={own: Fact((Claim(value=figure, source=Source.MEASURED),))})
            slots = tuple(said if s.id == slot.id and at is slot else s for s in machine.slots)
            memory = machine.memory if at is slot else said
            thin = machine.model_copy(update={"slots": slots, "memory": memory})
            yield replace(build, known=replace(build.known, machine=thin), memo={}), thin.slot(slot.id), part


def test_more_helps_as_a_rule_says_it_does() -> None:
    wrong: list[str] = []
    told: set[tuple[str, str]] = set()
    tried: Counter[tuple[str, str]] = Counter()
    for seed in range(SAMPLES):
        r = chance(seed)
        sample = drawn.sample(r).truth
        sockets = {s.id: drawn.module(r, s.generation.claims[0].value) for s in sample.memory_slots}
        truth = replace(bare(sample), changes=sockets)
        for slot, part, rule_ in meeting(truth, r):
            for name, direction in rule_.helps.items():
                if tried[rule_.id, name] == ENOUGH:
                    continue
                tried[rule_.id, name] += 1
                here = replace(truth, boot_slot=slot.id, memo={})
                ranks = [asked(b, at, rule_, p) for b, at, p in varied(here, slot, part, name)]
                if ranks != sorted(ranks, reverse=direction > 0):
                    wrong.append(f"seed {seed}: {rule_.id}, {name} in {slot.id}: {ranks}")
                if len(set(ranks)) > 1:
                    told.add((rule_.id, name))
    assert not wrong, "\n".join(wrong[:5])
    # These only write figures, or make a difference in no machine that is drawn.
    silent = {(r.id, n) for r in DECLARING for n in r.helps} - told
    assert len(silent) < 12, sorted(silent)


def test_a_declaration_of_what_nobody_has_is_no_rule() -> None:
    with pytest.raises(TypeError, match="neither its slots nor its parts have"):
        rule("memory.made_up", "", "", MemorySlot, MemoryModule, more=("voltage_mV",))(lambda slot, part, build: ())
    assert "memory.made_up" not in RULES


RULE = """
from collections.abc import Iterator
from insertum.core.fit.shape_facts import MemoryModuleFacts, MemorySlotFacts
from insertum.core.fit.views import BuildView
from insertum.core.verdict import Said, note

def voltage(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    if part.{attribute} > 1350 and build.memory.{other} < 1500:
        yield note("high")
"""


@pytest.mark.parametrize(
    ("attribute", "other", "fails"),
    [
        ("voltage_mv", "voltage_mv", ""), ("voltage_mV", "voltage_mv", 'has no attribute "voltage_mV"'),
        ("voltage_mv", "voltages_mv", 'has no attribute "voltages_mv"'), ("module_type", "voltage_mv", "Unsupported operand types"),
    ],
)  # fmt: skip
def test_a_misspelt_attribute_is_a_type_error(tmp_path, attribute: str, other: str, fails: str) -> None:
    made = tmp_path / "made.py"
    made.write_text(RULE.format(attribute=attribute, other=other))
    out, err, code = api.run(["--strict", "--python-version", "3.11", str(made)])
    assert (code == 0) is (fails == "") and fails in out, out + err
