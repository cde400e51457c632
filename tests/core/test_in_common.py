"""What all parts of a kind wait for is said once; beside each stands what else it waits for."""

import random

from insertum.core.fit.in_common import besides, in_common
from insertum.core.fit.judge import judge, matrix
from insertum.core.verdict import Verdict

from . import made
from . import random_machines as drawn

SIZES = (4, 8, 16)


def test_by_hand() -> None:
    """Nobody knows what either socket or the whole takes, nor of which generation B is; of one module its type."""
    laid = made.machine({"memory-a": {"limit_gb": None}, "memory-b": {"limit_gb": None, "generation": None}}, memory_total_limit_gb=None)  # fmt: skip
    parts = [made.module(f"M{gb}", capacity_gb=gb, ranks=1 if gb < 16 else 2) for gb in SIZES]
    parts.append(made.module("OPEN", capacity_gb=8, module_type=None))
    build, by_number = made.build(laid), {p.number: p for p in parts}
    cells = matrix(build, parts, ())
    in_a, in_b = in_common(build.known, cells, by_number)
    assert (in_a.slot, in_a.labels) == ("memory-a", ("takes at most", "in all at most"))
    assert (in_b.slot, in_b.labels) == ("memory-b", ("generation", "takes at most", "in all at most"))
    said = {(c.part, c.slot): besides(build.known, c, by_number[c.part], in_a if c.slot == "memory-a" else in_b) for c in cells}  # fmt: skip
    assert said["M8", "memory-a"] == said["M8", "memory-b"] == ""
    assert said["OPEN", "memory-a"] == said["OPEN", "memory-b"] == "module type unknown"
    # Two parts have nothing in common worth a line, and what is refused or goes in waits for nothing.
    assert in_common(build.known, [c for c in cells if c.part in ("M4", "M8")], by_number) == ()


def test_nothing_is_said_of_all_that_one_does_not_wait_for() -> None:
    for seed in range(25):
        chance = random.Random(seed)
        build = drawn.sample(chance).hidden
        parts = {
            p.number: p for s in build.machine.slots for _ in range(6) for p in [drawn.part_for(chance, s.kind, 4)]
        }
        cells = [c for c in matrix(build, list(parts.values()), ()) if c.verdict is Verdict.MEASURE_FIRST]
        for shared in in_common(build.known, cells, parts):
            mine = [c for c in cells if (parts[c.part].kind, c.slot) == (shared.kind, shared.slot)]
            assert all(set(shared.asks) <= set(c.asks) for c in mine if c.asks) and shared.labels
            assert all(bool(besides(build.known, c, parts[c.part], shared)) == (set(c.asks) > set(shared.asks)) for c in mine if c.asks)  # fmt: skip


def test_what_is_held_back_by_an_unknown_says_where_it_is_answered() -> None:
    """What memory runs at is not known: from the slowest grade there is to the module's own."""
    open_ = made.build(made.machine(memory_speed_mts=None))
    (found,) = [f for f in judge(open_, "memory-a", made.module(grade_mts=3200)).findings if f.rule == "memory.speed"]
    assert (found.verdict, found.attribute, found.label) == (
        Verdict.HELD_BACK,
        "memory.speed_by_modules.1",
        "Runs at most",
    )
    assert found.how and "until runs at most is known" in found.says
    known = judge(made.build(), "memory-a", made.module(grade_mts=3200))
    assert not any(f.attribute for f in known.findings)
