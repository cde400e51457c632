"""Identify: from any mixture of label texts to ranked configurations (rules.md section 9)."""

import heapq
import math
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import islice, takewhile
from typing import NamedTuple

from ..frozen import Frozen
from ..machine.opening import Mark
from ..machine.shape import Machine
from ..phrases import plural
from ..spelling import folded
from .match import LEAST_CUT, Finder, one_off, tokens
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
#: So many of those that remain are named, asked about and doubted: of more the likeliest.
REMAIN = 400
#: So many configurations are looked at for nearest relatives (those with the rarest runs of letters) and for a first
#: question.
MOST_RELATED = 5_000


class Candidate(Frozen):
    """A configuration with its share of the likelihood, and the texts for and against it."""

    machine: str
    configuration: str
    title: str
    name: str
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
        self.index = {name: i for i, name in enumerate(self.names)}
        self.by_id = {m.id: m for m in machines}
        self.kinds = [frozenset(m.kind for m in marks) for marks in self.own_marks]
        #: Configurations by the kinds of marks they carry, each group by name.
        self.groups: dict[frozenset[str], list[int]] = {}
        for i in sorted(range(len(self.names)), key=self.names.__getitem__):
            self.groups.setdefault(self.kinds[i], []).append(i)
        self._first: dict[frozenset[str], Question | None] = {}

    def first_question(self, answers: Mapping[str, str]) -> "Question | None":
        """What to look at where nothing was read yet: worked out once."""
        asked = frozenset(answers)
        if asked not in self._first:
            some = self.says[:: len(self.says) // MOST_RELATED + 1]
            self._first[asked] = next_question(some, [1.0] * len(some), answers)
        return self._first[asked]

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
        grams = {g for t in texts for g in _grams(folded(t))}
        known = sorted((self.trigrams[g] for g in grams if g in self.trigrams), key=len)
        while known and sum(map(len, known)) > MOST_RELATED:
            known.pop()  # what nearly every machine carries tells none apart
        for carriers in known:
            for i in carriers:
                shared[i] = shared.get(i, 0.0) + 1 / len(carriers)  # a rare run of letters says more
        return heapq.nsmallest(most, shared, key=lambda i: (-shared[i], self.names[i]))


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
    unread: list[str] = []
    lines = [(t.strip(), "") for t in texts if t.strip()]
    lines += [(a.strip(), kind) for kind, a in answers.items() if a.strip() and a != NONE_OF_THESE]
    evidence: list[_Line] = []
    for line, only in lines:
        told, met = _told(line, only, lib)
        if told:
            evidence.append(_Line(line, told, met))
        else:
            unread.append(line)
    none = tuple(k for k, a in answers.items() if a == NONE_OF_THESE)
    ranked = _Ranked(lib, evidence, none, worked_on or {})
    read = len(evidence) + len(none)
    return _answer(lib, ranked, unread, read, [line for line, _ in lines], answers)


class _Line(NamedTuple):
    """A text that was read: what it tells by kind of mark, and the marks it met."""

    text: str
    told: "Told"
    met: Mapping[str, float]

    def speaks_for(self, i: int) -> bool:
        return all(scores.get(i, STRAY) >= best for best, scores in self.told.values())


class _Ranked:
    """The configurations by what was read: texts carried whole, then likelihood, then the workshop's own counts.

    Only those that some text met are weighed one by one (:attr:`weight`, relative to one that none met); of all others
    only the kinds of marks they carry matter, by which they lie in groups.
    """

    def __init__(
        self, lib: Library, evidence: Sequence[_Line], none: Sequence[str], worked_on: Mapping[str, int]
    ) -> None:
        self.lib, self.evidence, self.none = lib, evidence, none
        self.before = {i: n for name, n in worked_on.items() if (i := lib.index.get(name)) is not None}
        self._weighed: dict[int, float] = {}
        self._whole: dict[int, int] = {}
        for line in evidence:
            for _, scores in line.told.values():
                for i, worth in scores.items():
                    self._weighed[i] = self._weighed.get(i, 1.0) * (worth / STRAY)
                    self._whole[i] = self._whole.get(i, 0) + (worth == 1.0)
        for i in self._weighed:
            self._weighed[i] *= self._unless(lib.kinds[i])
        met = self._weighed
        top_whole = max(self._whole.values(), default=0)
        top = max((w for i, w in met.items() if self._whole[i] == top_whole), default=0.0)
        #: Likeliest first: as many as are shown, and all that remain.
        likely = [i for i, w in met.items() if self._whole[i] == top_whole and w >= top / 10]
        self.remain = len(likely)
        if not met:  # nothing but what it is not
            open_ = [group for kinds, group in lib.groups.items() if self._unless(kinds) == 1.0]
            self.remain = sum(map(len, open_))
            likely = [i for group in open_ for i in islice(group, REMAIN)]
            likely += [i for i in self.before if self._unless(lib.kinds[i]) == 1.0 and i not in set(likely)]
        self.likely = heapq.nsmallest(REMAIN, likely, key=self._rank)
        self.order = heapq.nsmallest(SHOWN, [*met, *self._others()], key=self._rank)
        self.total, self.groups = self._shared()

    def _unless(self, kinds: frozenset[str]) -> float:
        """What is left of a configuration that carries kinds of marks of which none was the one read."""
        return float(STRAY ** sum(k in kinds for k in self.none))

    def weight(self, i: int) -> float:
        return self._weighed[i] if i in self._weighed else self._unless(self.lib.kinds[i])

    def _rank(self, i: int) -> tuple[float, float, int, str]:
        return -self._whole.get(i, 0), -self.weight(i), -self.before.get(i, 0), self.lib.names[i]

    def _others(self) -> Iterator[int]:
        """Of those no text met as many as could be shown: the workshop's own, then by name."""
        yield from (i for i in self.before if i not in self._weighed)
        for group in self.lib.groups.values():
            yield from islice((i for i in group if i not in self._weighed and i not in self.before), SHOWN)

    def _shared(self) -> tuple[float, dict[tuple[int, float], tuple[int, int]]]:
        """The sum of all weights, and of each group of equals how many there are and the workshop's jobs on them, plus one
        each."""
        groups: dict[tuple[int, float], list[int]] = {}
        for i, w in self._weighed.items():
            own = groups.setdefault((self._whole[i], w), [0, 0])
            own[0] += 1
            own[1] += 1 + self.before.get(i, 0)
        for kinds, members in self.lib.groups.items():
            own = groups.setdefault((0, self._unless(kinds)), [0, 0])
            own[0] += len(members)
            own[1] += len(members)
        for i in self._weighed:  # they were counted with the others of their kinds
            own = groups[0, self._unless(self.lib.kinds[i])]
            own[0] -= 1
            own[1] -= 1
        for i, n in self.before.items():
            if i not in self._weighed:
                groups[0, self.weight(i)][1] += n
        found = {key: (count, jobs) for key, (count, jobs) in groups.items()}
        return sum(w * count for (_, w), (count, _) in found.items()) or 1.0, found

    def share(self, i: int) -> float:
        """Counts share out what the evidence leaves equal: within it, and never beyond."""
        weight = self.weight(i)
        count, jobs = self.groups[self._whole.get(i, 0), weight]
        return count * weight / self.total * (1 + self.before.get(i, 0)) / jobs

    def matched(self, i: int) -> tuple[str, ...]:
        """What the library has of what was read, never what was typed."""
        return tuple(m for e in self.evidence if e.speaks_for(i) for m in _met(self.lib, i, e.met, e.text))

    def against(self, i: int) -> Iterator[str]:
        yield from (e.text for e in self.evidence if not e.speaks_for(i))
        yield from (f"{ASK.get(k, k)} None of these." for k in self.none if k in self.lib.kinds[i])


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
    lib: Library, ranked: "_Ranked", unread: list[str], read: int, texts: Sequence[str], answers: Mapping[str, str]
) -> Identification:
    def candidate(i: int) -> Candidate:
        m, c = lib.every[i]
        return Candidate(
            machine=m.id,
            configuration=c.id,
            title=f"{m.maker} {c.name}",
            name=c.name,
            processor=c.processor,
            share=ranked.share(i),
            matched=ranked.matched(i),
            against=tuple(ranked.against(i)),
        )

    remaining, count = (ranked.likely, ranked.remain) if read else ([], 0)
    contradicted = bool(remaining) and all(next(ranked.against(i), None) is not None for i in remaining)
    doubts = tuple(_doubts(lib, remaining, unread, contradicted, answers, texts))
    in_library = bool(read) and not contradicted and not doubts
    differ: tuple[Difference, ...] = ()
    if 1 < count <= COMPARED:
        differ = differences([lib.every[i][0].configured(lib.every[i][1].id) for i in remaining])
    alike = 1 < count <= COMPARED and not differ
    settled = in_library and (count == 1 or alike)
    question = None
    if not settled and remaining:
        question = next_question([lib.says[i] for i in remaining], [ranked.weight(i) for i in remaining], answers)
    elif not settled:
        question = lib.first_question(answers)
    relatives = lib.relatives(texts) if texts and not in_library else []
    return Identification(
        candidates=tuple(candidate(i) for i in ranked.order),
        remaining=tuple(lib.names[i] for i in remaining),
        unread=tuple(unread),
        differences=differ,
        question=question,
        settled=settled,
        in_library=in_library or not texts,
        doubts=doubts,
        relatives=tuple(candidate(i) for i in relatives),
        says=_says(len(texts), read, count, alike, doubts, contradicted),
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
