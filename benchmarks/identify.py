"""Identify: how often it is right over noisy labels, how many questions it asks against a fixed order,
and how long an answer takes with 1,000 configurations."""

import random
import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from insertum.core.identify.identify import identify
from insertum.core.identify.library import LOOKING_MINUTES, Library
from tests.core.library import generated, met  # noqa: E402

FIXED = tuple(LOOKING_MINUTES)


def asked(library: Library, texts: list[str], machine, index: int, best: bool) -> tuple[int, int]:  # type: ignore[no-untyped-def]
    """Questions and minutes until one is left, answering from the machine's own marks."""
    own = machine.configurations[index]
    marks = {m.kind: m.text for m in (*machine.marks, *own.marks)}
    answers: dict[str, str] = {}
    minutes = 0
    for step in range(len(FIXED) + 1):
        found = identify(texts, library, answers=answers)
        if len(found.remaining) == 1 or found.question is None:
            return step, minutes
        kind = found.question.kind if best else next((k for k in FIXED if k not in answers), "")
        if not kind:
            return step, minutes
        answers[kind] = marks.get(kind, "")
        minutes += LOOKING_MINUTES[kind]
    return len(FIXED), minutes


def main() -> None:
    machines = generated(420)
    library, chance = Library(machines), random.Random(11)
    cases = [(m, i, met(m, i, chance)) for m in machines for i in range(len(m.configurations))]
    first = left = 0
    for m, i, texts in cases:
        found = identify(texts, library)
        name = f"{m.id}/{m.configurations[i].id}"
        first += found.remaining[:1] == (name,)
        left += found.remaining[:1] == (name,) or (name in found.remaining and found.question is not None)
    print(
        f"identify: {len(cases)} configurations, first in {first / len(cases):.1%}, first or left with a question {left / len(cases):.1%} (asked: 98 %)"
    )
    family = [(m, i, [m.marks[0].text]) for m in machines for i in range(len(m.configurations))][:300]
    best = [asked(library, t, m, i, True) for m, i, t in family]
    fixed = [asked(library, t, m, i, False) for m, i, t in family]
    mean = [sum(x[k] for x in kind) / len(kind) for kind in (best, fixed) for k in (0, 1)]
    print(f"identify: from the family name {mean[0]:.2f} questions, {mean[1]:.1f} min; in fixed order {mean[2]:.2f}, {mean[3]:.1f} min "
          f"({mean[2] / max(mean[0], 0.01):.1f} times as many)")  # fmt: skip
    large = Library(generated(1000, 8))
    times = []
    for _, _, texts in cases[:100]:
        begin = time.perf_counter()
        identify(texts, large)
        times.append(time.perf_counter() - begin)
    print(
        f"identify: 1,000 configurations, median {sorted(times)[50] * 1000:.1f} ms, slowest {max(times) * 1000:.1f} ms (asked: under 50)"
    )


if __name__ == "__main__":
    main()
