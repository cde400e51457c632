"""Soundness: on complete machines made at random, with attributes hidden at random, nothing is said that is not so.

The truth lies in every deduced domain; *seats* on part of the facts is *seats* on all of them, *refused* is *refused* or
*harm*, *held back* is *seats* or *held back* (rules.md section 2). ``make soundness`` goes through 20,000 pairs of a
slot and a part; the suite through 500.
"""

import os
import random
from pathlib import Path

from insertum.core.known.axioms import AXIOMS
from insertum.core.known.deduce import DEDUCTIONS
from insertum.core.verdict import Verdict
from tests import draws
from tests.draws import SEED

from . import random_machines as made_at_random

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
