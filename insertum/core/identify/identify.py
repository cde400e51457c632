"""Identify: from any mixture of label texts to ranked configurations (rules.md section 9)."""

import math
import re
from collections.abc import Iterable, Mapping, Sequence

from ..base import Frozen
from ..claim import Fact, Limits, limit, settle
from ..machine import BatterySlot, BaySlot, Configuration, Configured, DriveSlot, Machine, Mark, MemorySlot, RadioSlot
from ..standards.pcie import Link

#: Likelihood of a text on a machine that does not carry that mark: labels get swapped.
STRAY = 0.02
#: Minutes to look: on the label, in the running system, under the cover, on the board.
LOOKING_MINUTES = {
    "family": 1,
    "model": 1,
    "type_code": 1,
    "product": 1,
    "system": 3,
    "processor": 3,
    "battery": 12,
    "board": 20,
}
ASK = {
    "family": "What does the lid say?",
    "model": "What exact model name stands on the base label?",
    "type_code": "What is the regulatory type code on the base label?",
    "product": "What is the product number on the base label?",
    "system": "What does the firmware call the machine?",
    "processor": "Which processor does the running system report?",
    "battery": "What is the number on the battery?",
    "board": "What board number is printed on the board?",
}


class Candidate(Frozen):
    """A configuration with its share of the likelihood, and the texts for and against it."""

    machine: str
    configuration: str
    title: str
    processor: str
    share: float
    matched: tuple[str, ...]
    against: tuple[str, ...]


class Question(Frozen):
    """The next thing to look at: expected information in bits, and minutes to look."""

    kind: str
    ask: str
    minutes: int
    bits: float
    answers: tuple[str, ...]


class Difference(Frozen):
    """One thing that matters for an upgrade and differs: a value for each configuration."""

    what: str
    values: tuple[str, ...]


class Identification(Frozen):
    candidates: tuple[Candidate, ...]
    remaining: tuple[str, ...]
    unread: tuple[str, ...]
    differences: tuple[Difference, ...]
    question: Question | None
    settled: bool
    says: str


def folded(text: str) -> str:
    """Letters and digits alone, with O as 0 and I, L as 1: what labels get wrong."""
    return re.sub(r"[^A-Z0-9]", "", text.upper()).translate(str.maketrans("OIL", "011"))


def _tokens(text: str) -> list[str]:
    return [folded(t) for t in re.split(r"[^A-Za-z0-9]+", text) if t]


def _one_off(a: str, b: str) -> bool:
    """At most one character wrong, missing or extra."""
    if abs(len(a) - len(b)) > 1:
        return False
    short, long = sorted((a, b), key=len)
    i = next((i for i, (x, y) in enumerate(zip(short, long, strict=False)) if x != y), len(short))
    return short[i + (len(short) == len(long)) :] == long[i + 1 :]


def match(mark: str, text: str) -> float:
    """How well a mark stands in a text: 1 whole, less for one wrong character or a truncated text.

    A mark must end where a word ends, so "mk I" is not found in "mk II".
    """
    wanted, tokens = folded(mark), _tokens(text)
    best = 0.0
    for start in range(len(tokens)):
        run = ""
        for token in tokens[start:]:
            run += token
            if run == wanted:
                return 1.0
            if len(wanted) >= 6 and _one_off(run, wanted):
                best = max(best, 0.3)
            if len(run) > len(wanted) + 1:
                break
        else:
            if len(run) >= 4 and wanted.startswith(run):
                best = max(best, 0.2 + 0.3 * len(run) / len(wanted))
    return best


def marks_of(machine: Machine, configuration_id: str) -> tuple[Mark, ...]:
    own = next(c for c in machine.configurations if c.id == configuration_id)
    return (*machine.marks, *own.marks)


def identify(
    texts: Iterable[str], library: Sequence[Machine], worked_on: Mapping[str, int] | None = None
) -> Identification:
    """Rank the library's configurations by the texts.

    ``worked_on`` counts earlier jobs by "machine/configuration": the workshop's own prior, uniform
    at first. Texts nothing in the library carries are neutral and listed as unread.
    """
    lines = [t.strip() for t in texts if t.strip()]
    every = [(m, c) for m in library for c in m.configurations]
    weight = {f"{m.id}/{c.id}": 1.0 + (worked_on or {}).get(f"{m.id}/{c.id}", 0) for m, c in every}
    matched: dict[str, list[str]] = {k: [] for k in weight}
    against: dict[str, list[str]] = {k: [] for k in weight}
    unread = []
    for line in lines:
        scores = _scores(line, every)
        told = {kind: max(s) for kind, s in _by_kind(scores).items() if max(s) > (0.0, 0)}
        exact = any(score == 1 for score, _ in told.values())
        if exact:  # a whole match makes guesses at the rest worthless
            told = {kind: top for kind, top in told.items() if top[0] == 1}
        if not told:
            unread.append(line)
            continue
        for name in weight:
            here = {kind: scores.get((name, kind), (0.0, 0)) for kind in told}
            for kind, (score, length) in here.items():
                # A longer whole match of the same kind says more: "VB-S15 rev 3" against "VB-S15".
                stray = exact and (score < 1 or length < told[kind][1])
                weight[name] *= STRAY if stray else max(score, STRAY)
            (matched if all(h >= told[k] for k, h in here.items()) else against)[name].append(line)
    whole = sum(weight.values()) or 1.0
    ranked = sorted(every, key=lambda mc: (-weight[f"{mc[0].id}/{mc[1].id}"], mc[0].id, mc[1].id))
    candidates = tuple(
        Candidate(
            machine=m.id,
            configuration=c.id,
            title=f"{m.maker} {c.name}",
            processor=c.processor,
            share=weight[f"{m.id}/{c.id}"] / whole,
            matched=tuple(matched[f"{m.id}/{c.id}"]),
            against=tuple(against[f"{m.id}/{c.id}"]),
        )
        for m, c in ranked
    )
    read = len(lines) > len(unread)
    top_share = candidates[0].share if candidates else 0
    remaining = [mc for mc, k in zip(ranked, candidates, strict=True) if read and k.share >= top_share / 10]
    differ = differences([m.configured(c.id) for m, c in remaining])
    question = next_question(remaining, [k.share for k in candidates[: len(remaining)]])
    settled = len(remaining) == 1 or (len(remaining) > 1 and not differ)
    return Identification(
        candidates=candidates,
        remaining=tuple(f"{m.id}/{c.id}" for m, c in remaining),
        unread=tuple(unread),
        differences=differ,
        question=None if settled else question,
        settled=settled,
        says=_says(lines, read, remaining, differ),
    )


Score = tuple[float, int]


def _scores(line: str, every: Sequence[tuple[Machine, Configuration]]) -> dict[tuple[str, str], Score]:
    """By configuration and kind of mark: the best match and the length of the mark that gave it."""
    best: dict[tuple[str, str], Score] = {}
    for m, c in every:
        for mark in marks_of(m, c.id):
            key = (f"{m.id}/{c.id}", mark.kind)
            best[key] = max(best.get(key, (0.0, 0)), (match(mark.text, line), len(folded(mark.text))))
    return best


def _by_kind(scores: Mapping[tuple[str, str], Score]) -> dict[str, list[Score]]:
    kinds: dict[str, list[Score]] = {}
    for (_, kind), score in scores.items():
        kinds.setdefault(kind, []).append(score if score[0] else (0.0, 0))
    return kinds


def _says(lines: list[str], read: bool, remaining: Sequence[object], differ: Sequence[object]) -> str:
    if not lines:
        return "Type or scan what the labels say: name on the lid, codes on the base, the processor."
    if not read:
        return "Nothing in the library carries these texts. Check the spelling, or add the machine."
    if len(remaining) == 1:
        return "One configuration remains."
    if not differ:
        return f"{len(remaining)} configurations remain and differ in nothing that matters. Go on with any."
    return f"{len(remaining)} configurations remain. They differ in what matters: look before you choose."


def next_question(remaining: Sequence[tuple[Machine, Configuration]], shares: Sequence[float]) -> Question | None:
    """The kind of mark that splits the remaining best: expected bits per minute of looking."""
    whole = sum(shares) or 1.0
    best: Question | None = None
    for kind, minutes in LOOKING_MINUTES.items():
        parts: dict[tuple[str, ...], float] = {}
        for (machine, configuration), share in zip(remaining, shares, strict=True):
            says = tuple(m.text for m in marks_of(machine, configuration.id) if m.kind == kind)
            parts[says] = parts.get(says, 0.0) + share / whole
        bits = -sum(p * math.log2(p) for p in parts.values() if p > 0)
        if bits > 1e-9 and (best is None or bits / minutes > best.bits / best.minutes):
            answers = tuple(says[0] for says in parts if says)
            best = Question(kind=kind, ask=ASK[kind], minutes=minutes, bits=bits, answers=answers)
    return best


def differences(configured: Sequence[Configured]) -> tuple[Difference, ...]:
    """What differs between configurations in what matters for an upgrade."""
    if len(configured) < 2:
        return ()
    tables = [matters(c) for c in configured]
    names = dict.fromkeys(name for t in tables for name in t)
    return tuple(
        Difference(what=name, values=values)
        for name in names
        if len(set(values := tuple(t.get(name, "not there") for t in tables))) > 1
    )


def matters(machine: Configured) -> dict[str, str]:
    """Everything an upgrade depends on, in words: limits as documented and proven, slots, links."""

    def gb(fact: Fact[int]) -> str:
        value = limit(fact, Limits.PROVEN).value
        return "unknown" if value is None else f"{value} GB"

    memory = machine.memory
    table = {
        "Processor": machine.configuration.processor,
        "Memory ceiling": gb(memory.total_limit_gb),
        "Soldered memory": " + ".join(f"{s.capacity_gb} GB" for s in memory.soldered) or "none",
        "Memory runs at": f"{mts} MT/s" if (mts := limit(memory.speed_mts, Limits.PROVEN).value) else "unknown",
    }
    for slot in machine.slots:
        match slot:
            case MemorySlot():
                table[f"{slot.name} takes"] = gb(slot.limit_gb)
            case DriveSlot():
                pcie, sata = settle(slot.pcie).value, settle(slot.sata).value
                wired = [str(pcie)] if isinstance(pcie, Link) else []
                wired += [f"SATA {sata}"] if isinstance(sata, int) else []
                table[f"{slot.name} link"] = ", ".join(wired) or "unknown"
                lengths = settle(slot.standoffs_mm).value
                table[f"{slot.name} lengths"] = ", ".join(map(str, lengths)) if lengths else "unknown"
            case BaySlot():
                table[slot.name] = f"{(settle(slot.height_um).value or 0) / 1000:g} mm"
            case RadioSlot():
                table["Radio cards"] = settle(slot.card_policy).value or "policy unknown"
            case BatterySlot():
                table["Packs"] = ", ".join(settle(slot.accepts).value or ()) or "unknown"
    return table
