"""Identify: from any mixture of label texts to ranked configurations (rules.md section 9)."""

import math
import re
from collections.abc import Iterable, Mapping, Sequence
from itertools import takewhile

from ..base import Frozen, plural
from ..machine.shape import Machine, Mark
from .match import LEAST_CUT, Finder, folded, one_off, tokens
from .matters import Difference, differences

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
#: Answers that are no text: it cannot be read, or it says something the library does not have.
UNREADABLE, NONE_OF_THESE = "", "none of these"
#: More remaining than this are not laid side by side.
COMPARED = 8
SHOWN = 40


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


class Identification(Frozen):
    """``candidates`` are all that remain and the likeliest others. ``relatives`` are the nearest
    machines where the one on the bench is not in the library; ``doubts`` say why it may not be."""

    candidates: tuple[Candidate, ...]
    remaining: tuple[str, ...]
    unread: tuple[str, ...]
    differences: tuple[Difference, ...]
    question: Question | None
    settled: bool
    in_library: bool
    doubts: tuple[str, ...]
    relatives: tuple[Candidate, ...]
    says: str


class Library:
    """The machines, with their marks indexed once for any number of questions."""

    def __init__(self, machines: Sequence[Machine]) -> None:
        self.machines = machines
        self.every = [(m, c) for m in machines for c in m.configurations]
        self.names = [f"{m.id}/{c.id}" for m, c in self.every]
        self.makers = {folded(m.maker) for m in machines}
        self.own_marks = [(*m.marks, *c.marks) for m, c in self.every]
        self.says: list[dict[str, tuple[str, ...]]] = [_by_kind(marks) for marks in self.own_marks]
        self.carriers: dict[str, dict[str, set[int]]] = {}
        for i, marks in enumerate(self.own_marks):
            for mark in marks:
                self.carriers.setdefault(folded(mark.text), {}).setdefault(mark.kind, set()).add(i)
        self.finder = Finder(self.carriers)
        self.trigrams = self._trigrams()

    def _trigrams(self) -> dict[str, set[int]]:
        """Which configurations' marks hold three characters in a row: for nearest relatives."""
        found: dict[str, set[int]] = {}
        for mark, kinds in self.carriers.items():
            if kinds.keys() & {"family", "model", "system", "type_code", "processor", "product"}:
                for gram in _grams(mark):
                    found.setdefault(gram, set()).update(*kinds.values())
        return found

    def relatives(self, texts: Sequence[str], most: int = 3) -> list[int]:
        """The configurations whose marks share most with the texts, best first."""
        shared: dict[int, float] = {}
        for gram in {g for t in texts for g in _grams(folded(t))}:
            carriers = self.trigrams.get(gram, set())
            for i in carriers:
                shared[i] = shared.get(i, 0.0) + 1 / len(carriers)  # a rare run of letters says more
        return sorted(shared, key=lambda i: (-shared[i], self.names[i]))[:most]


def _by_kind(marks: Sequence[Mark]) -> dict[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for m in marks:
        found[m.kind] = (*found.get(m.kind, ()), m.text)
    return found


def _grams(text: str) -> set[str]:
    return {text[i : i + 3] for i in range(len(text) - 2)}


def match(mark: str, text: str) -> float:
    """How well one mark stands in a text: 1 whole, less otherwise, 0 not at all."""
    return Finder([folded(mark)]).find(text).get(folded(mark), 0.0)


def identify(
    texts: Iterable[str],
    library: Library | Sequence[Machine],
    worked_on: Mapping[str, int] | None = None,
    answers: Mapping[str, str] | None = None,
) -> Identification:
    """Rank the library's configurations by the texts and the answers to questions.

    ``worked_on`` counts earlier jobs by "machine/configuration": it orders what the evidence leaves equal and nothing
    else. No configuration passes another that carries one more of the texts whole. ``answers`` maps a kind of mark to what was read there; :data:`UNREADABLE` keeps the
    question from being asked again, :data:`NONE_OF_THESE` speaks against all that carry such a mark.
    Texts nothing in the library carries are neutral and listed as unread.
    """
    lib = library if isinstance(library, Library) else Library(library)
    answers = answers or {}
    before = [(worked_on or {}).get(n, 0) for n in lib.names]
    weight = [1.0] * len(lib.names)
    whole = [0] * len(lib.names)
    matched: list[list[str]] = [[] for _ in weight]
    against: list[list[str]] = [[] for _ in weight]
    unread: list[str] = []
    lines = [(t.strip(), "") for t in texts if t.strip()]
    lines += [(a.strip(), kind) for kind, a in answers.items() if a.strip() and a != NONE_OF_THESE]
    read = 0
    for line, only in lines:
        told, met = _told(line, only, lib)
        if not told:
            unread.append(line)
            continue
        read += 1
        for i in range(len(weight)):
            good = True
            for best, scores in told.values():
                worth = scores.get(i, STRAY)
                weight[i] *= worth
                whole[i] += worth == 1.0
                good = good and worth >= best
            if good:
                # What is shown is what the library has, never what was typed.
                matched[i] += _met(lib, i, met, line)
            else:
                against[i].append(line)
    for kind in (k for k, a in answers.items() if a == NONE_OF_THESE):
        read += 1
        for i, marks in enumerate(lib.own_marks):
            if any(m.kind == kind for m in marks):
                weight[i] *= STRAY
                against[i].append(f"{ASK.get(kind, kind)} None of these.")
    ranked = _Ranked(lib, weight, whole, before)
    return _answer(lib, ranked, matched, against, unread, read, [line for line, _ in lines], answers)


class _Ranked:
    """The configurations by what was read: texts carried whole, then likelihood, then the workshop's own counts."""

    def __init__(self, lib: Library, weight: list[float], whole: list[int], before: list[int]) -> None:
        self.weight = weight
        every = range(len(weight))
        self.order = sorted(every, key=lambda i: (-whole[i], -weight[i], -before[i], lib.names[i]))
        top = self.order[0] if self.order else 0
        self.likely = [i for i in self.order if whole[i] == whole[top] and weight[i] >= weight[top] / 10]
        # Counts share out what the evidence leaves equal: within it, and never beyond.
        groups: dict[tuple[int, float], list[int]] = {}
        for i in every:
            groups.setdefault((whole[i], weight[i]), []).append(i)
        total = sum(weight) or 1.0
        self.share = [0.0] * len(weight)
        for group in groups.values():
            jobs = sum(1 + before[i] for i in group)
            for i in group:
                self.share[i] = len(group) * weight[i] / total * (1 + before[i]) / jobs


Told = dict[str, tuple[float, dict[int, float]]]


def _met(lib: Library, i: int, met: Mapping[str, float], line: str) -> list[str]:
    """The longest mark of a configuration that a line met best; the line itself where none of its own was met."""
    own = [m.text for m in lib.own_marks[i] if folded(m.text) in met]
    return [max(own, key=lambda t: (met[folded(t)], len(folded(t))), default=line)]


def _told(line: str, only: str, lib: Library) -> tuple[Told, dict[str, float]]:
    """By kind of mark the line carries: its best worth, and the worth for each configuration; and the marks met."""
    found = lib.finder.find(line)
    exact = any(w == 1.0 and (not only or only in lib.carriers[m]) for m, w in found.items())
    # By kind: worth and length of the longest best mark. A longer whole match of the same kind says
    # more ("VB-S15 rev 3" against "VB-S15"); a whole match makes guesses at the rest worthless.
    scored: dict[str, dict[int, tuple[float, int]]] = {}
    for mark, worth in found.items():
        if exact and worth < 1.0:
            continue
        for kind, carriers in lib.carriers[mark].items():
            if only and kind != only:
                continue
            own = scored.setdefault(kind, {})
            for i in carriers:
                own[i] = max(own.get(i, (0.0, 0)), (worth, len(mark)))
    told: Told = {}
    for kind, own in scored.items():
        best = max(own.values())
        told[kind] = (
            best[0],
            {i: (STRAY if exact and length < best[1] else max(worth, STRAY)) for i, (worth, length) in own.items()},
        )
    return told, found


def _answer(
    lib: Library,
    ranked: "_Ranked",
    matched: list[list[str]],
    against: list[list[str]],
    unread: list[str],
    read: int,
    texts: Sequence[str],
    answers: Mapping[str, str],
) -> Identification:
    order, weight = ranked.order, ranked.weight

    def candidate(i: int) -> Candidate:
        m, c = lib.every[i]
        return Candidate(
            machine=m.id,
            configuration=c.id,
            title=f"{m.maker} {c.name}",
            processor=c.processor,
            share=ranked.share[i],
            matched=tuple(matched[i]),
            against=tuple(against[i]),
        )

    remaining = ranked.likely if read else []
    contradicted = bool(remaining) and all(against[i] for i in remaining)
    doubts = tuple(_doubts(lib, remaining, unread, contradicted, answers, texts))
    in_library = bool(read) and not contradicted and not doubts
    differ: tuple[Difference, ...] = ()
    if 1 < len(remaining) <= COMPARED:
        differ = differences([lib.every[i][0].configured(lib.every[i][1].id) for i in remaining])
    alike = 1 < len(remaining) <= COMPARED and not differ
    settled = in_library and (len(remaining) == 1 or alike)
    asked = remaining if remaining else list(range(len(weight)))
    question = None if settled else next_question([lib.says[i] for i in asked], [weight[i] for i in asked], answers)
    relatives = lib.relatives(texts) if texts and not in_library else []
    return Identification(
        candidates=tuple(candidate(i) for i in order[: max(len(remaining), SHOWN)][:SHOWN]),
        remaining=tuple(lib.names[i] for i in remaining),
        unread=tuple(unread),
        differences=differ,
        question=question,
        settled=settled,
        in_library=in_library or not texts,
        doubts=doubts,
        relatives=tuple(candidate(i) for i in relatives),
        says=_says(len(texts), read, len(remaining), alike, doubts, contradicted),
    )


#: What a family's own label may carry that the library then ought to know.
_TELLING = ("processor", "type_code", "product", "model", "system")


def _doubts(
    lib: Library,
    remaining: Sequence[int],
    unread: Sequence[str],
    contradicted: bool,
    answers: Mapping[str, str],
    texts: Sequence[str],
) -> Iterable[str]:
    """Why the machine may not be in the library although something matched."""
    if contradicted:
        yield "Every machine in the library is contradicted by something that was read."
    for kind, answer in answers.items():
        if answer == NONE_OF_THESE:
            yield f"{ASK.get(kind, kind)} None of those the library knows."
    for line in texts:
        if remaining and _names_another(line, lib):
            yield f"“{line}” begins with a maker the library knows and names a machine it does not have."
        elif other := _another_maker(line, remaining, lib):
            yield f"“{line}” names {other}, and the machine the library has is another maker's."
    for line in texts:
        if nearly := _nearly(line, remaining, lib):
            yield f"“{line}” is not {nearly}: makers tell models apart by one character. The library has {nearly}; read it again."
    for line in texts:
        if words := _unknown_version(line, remaining, lib):
            yield f"“{line}” says {words}, and the library knows none of that version."
    for line in unread:
        shape = _shape(line)
        for kind in _TELLING:
            same = {
                m.text
                for i in remaining
                for m in lib.own_marks[i]
                if m.kind == kind and _shape(m.text) in shape and _leading(m.text) in folded(line)
            }
            if same:
                name = kind.replace("_", " ")
                yield f"“{line}” has the shape of a {name}, and is none the library has ({', '.join(sorted(same)[:3])})."
                break


def _names_another(line: str, lib: Library) -> bool:
    """A known maker's name and behind it a name that stands in no mark, whole, cut or with one character wrong."""
    words = line.split()
    rest, whole = folded("".join(words[1:])), folded(line)
    if len(words) < 2 or len(rest) < LEAST_CUT or folded(words[0]) not in lib.makers:
        return False
    found = lib.finder.find(line)
    return not any(
        worth == 1.0 or rest in mark or (mark in rest and len(mark) >= LEAST_CUT) or one_off(whole, mark)
        for mark, worth in found.items()
    )


def _another_maker(line: str, remaining: Sequence[int], lib: Library) -> str:
    """A known maker that a line begins with, and that made none of what remains; "" for none."""
    first = line.split()[:1]
    if not first or not remaining:
        return ""
    word = folded(first[0])
    theirs = {folded(lib.every[i][0].maker) for i in remaining}
    # A name that is nearly a maker's is another name too.
    nearly = len(word) >= LEAST_CUT and word not in lib.makers and any(one_off(word, m) for m in lib.makers)
    return first[0] if nearly or word in lib.makers - theirs else ""


def _nearly(line: str, remaining: Sequence[int], lib: Library) -> str:
    """A mark of the library that a line names but for one character, or but for more behind or before it; "" where it names
    a mark whole of that kind, or none nearly. What nothing else was read of counts for every machine."""
    found = lib.finder.find(line)
    exact = {k for m, worth in found.items() if worth == 1.0 for k in lib.carriers[m]}
    if found and not exact:
        return ""  # a part of a mark is what stands there
    mine = set(remaining)
    for mark in sorted(lib.finder.near(line)):
        for kind, carriers in lib.carriers[mark].items():
            if kind in exact or (mine and not mine & carriers):
                continue
            i = min(mine & carriers or carriers)
            return next(m.text for m in lib.own_marks[i] if m.kind == kind and folded(m.text) == mark)
    return ""


#: Words that name one version of a family: mk III, rev 4, gen 2; and a year.
_VERSION = re.compile(r"\b(?:mk|mark|gen(?:eration)?|rev(?:ision)?)\.?\s*(?:[ivx]+|\d+[a-z]?|[a-z])\b|\b20\d\d\b", re.I)


def _unknown_version(line: str, remaining: Sequence[int], lib: Library) -> str:
    """A version a line names that stands in no mark, name or year of what remains; "" for none."""
    for found in _VERSION.finditer(line):
        if remaining and not any(_has_version(lib, i, folded(found[0])) for i in remaining):
            return found[0]
    return ""


def _has_version(lib: Library, i: int, said: str) -> bool:
    machine, c = lib.every[i]
    for text in (machine.name, c.name, str(c.year or ""), *(m.text for m in lib.own_marks[i])):
        words = tokens(text)
        if any("".join(words[a:b]) == said for a in range(len(words)) for b in range(a + 1, len(words) + 1)):
            return True
    return False


def _leading(text: str) -> str:
    """The word or letters a mark begins with: 'Rill 430' to 'R111', 'HW11-2104' to 'HW'."""
    return folded("".join(takewhile(str.isalpha, text)))


def _shape(text: str) -> str:
    """'Rill 430' to 'aaaa 999': a text of the same make-up as a known mark is telling."""
    return "".join("9" if ch.isdigit() else "a" if ch.isalpha() else " " for ch in text.strip())


def _says(lines: int, read: int, remaining: int, alike: bool, doubts: Sequence[str], contradicted: bool) -> str:
    if not lines and not read:
        return "Type or scan what the labels say: name on the lid, codes on the base, the processor."
    if not read:
        return "Nothing in the library carries these texts. Check the spelling, or add the machine."
    if contradicted or doubts:
        return "This may be a machine the library does not have. Look again before you trust a relative."
    if remaining == 1:
        return "One configuration remains."
    if alike:
        return f"{remaining} configurations remain and differ in nothing that matters. Go on with any."
    return f"{plural(remaining, 'configuration')} remain. They differ in what matters: look before you choose."


def next_question(
    remaining: Sequence[Mapping[str, tuple[str, ...]]],
    shares: Sequence[float],
    answers: Mapping[str, str] | None = None,
) -> Question | None:
    """The kind of mark that splits the remaining best: expected bits per minute of looking. What was
    asked already is not asked again. ``remaining`` has the texts of each by kind of mark."""
    total = sum(shares) or 1.0
    best: Question | None = None
    for kind, minutes in LOOKING_MINUTES.items():
        if kind in (answers or {}):
            continue
        parts: dict[tuple[str, ...], float] = {}
        for marks, share in zip(remaining, shares, strict=True):
            says = marks.get(kind, ())
            parts[says] = parts.get(says, 0.0) + share / total
        bits = -sum(p * math.log2(p) for p in parts.values() if p > 0)
        if bits > 1e-9 and (best is None or bits / minutes > best.bits / best.minutes):
            likely = sorted(parts, key=lambda says: -parts[says])
            texts = dict.fromkeys(says[0] for says in likely if says)
            best = Question(kind=kind, ask=ASK[kind], minutes=minutes, bits=bits, answers=tuple(texts)[:12])
    return best
