"""Soundness: on complete machines made at random, with attributes hidden at random, nothing is said that is not so.

The truth lies in every deduced domain; *seats* on part of the facts is *seats* on all of them, *refused* is *refused* or
*harm*, *held back* is *seats* or *held back* (rules.md section 2). ``make soundness`` goes through 20,000 pairs of a
slot and a part; the suite through 500.
"""

import os
import random
import re
from pathlib import Path

from insertum.core.fit.judge import because, judge_equipped
from insertum.core.known.axioms import AXIOMS
from insertum.core.known.deduce import DEDUCTIONS
from insertum.core.verdict import Verdict
from tests import draws
from tests.draws import SEED

from . import random_machines as made_at_random

#: What belongs to the inside: names of fields, stand-ins for "no end", nothing with a unit.
INNER = re.compile(
    r"(?<![\w.])[a-z]+_[a-z_]+|\b\d{7,} (?:GB|mm|MT/s|V)|\bNone\b|\bnone (?:mm|GB|MT/s|V)\b|speed_by_modules|Some\(|Span\(|Lot\("
)
PAIRS = int(os.environ.get("INSERTUM_SOUNDNESS", "500"))
#: Every machine has seven or eight slots with a part each.
MACHINES = PAIRS // 8 + 1


def test_nothing_is_said_that_is_not_so() -> None:
    problems: list[str] = []
    for seed in range(MACHINES):
        chance = draws.chance(seed)
        sample = made_at_random.sample(chance)
        problems += [f"seed {SEED}, machine {seed}: {p}" for p in made_at_random.outside(sample)]
        problems += [f"seed {SEED}, machine {seed}: {p}" for p in made_at_random.unsound(sample, chance)]
    assert not problems, "\n".join(problems[:5])


def test_every_verdict_can_be_opened() -> None:
    """Whatever is unknown, of the machine and of parts in it: the findings, their questions and *why* have words."""
    for seed in range(MACHINES // 4 + 1):
        chance = draws.chance(seed)
        sample = made_at_random.sample(chance)
        build = sample.hidden
        for slot in sample.machine.slots:
            if (here := build.fitted.get(slot.id)) is not None:
                build = build.with_part(slot.id, made_at_random.bare(chance, here, 0.5))
        for slot in sample.machine.slots:
            part = made_at_random.bare(chance, made_at_random.part_for(chance, slot.kind, 4), 0.3)
            found = judge_equipped(build, slot.id, part, [])
            said = [f"{f.says} {f.settles} {f.remedy} {f.how}" for f in found.findings]
            said += [f"{e.label} {e.value} {' '.join(e.steps)}" for e in because(build, found)]
            wrong = [s for s in said if INNER.search(s)]
            assert not wrong, wrong[:3]


def test_the_samples_say_something() -> None:
    """Hidden machines are not all *measure first*, and true ones come out every way."""
    seen: set[tuple[str, Verdict]] = set()
    for seed in range(40):
        chance = random.Random(seed)
        sample = made_at_random.sample(chance)
        for slot in sample.machine.slots:
            part = sample.truth.now(slot.id) or made_at_random.part_for(chance, slot.kind, 4)
            for name, build in (("hidden", sample.hidden), ("true", sample.truth)):
                verdict = made_at_random.judge(build, slot.id, part).verdict
                assert verdict is not None
                seen.add((name, verdict))
    assert {v for n, v in seen if n == "true"} >= {Verdict.SEATS, Verdict.HELD_BACK, Verdict.REFUSED, Verdict.HARM}
    assert {v for n, v in seen if n == "hidden"} == set(Verdict)


def test_axioms_and_deductions_have_names_and_sentences() -> None:
    assert all(name and sentence.endswith(".") for name, sentence in AXIOMS.items())
    assert all(d.sentence.endswith(".") and d.grades for d in DEDUCTIONS.values())
    source = Path(made_at_random.__file__).read_text()
    assert all(f'axiom("{name}")' in source for name in AXIOMS), "the generator keeps every axiom"
