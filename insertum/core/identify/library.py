"""The library of machines as marks are looked up in it: what names whom, how often, and what asks first."""

import heapq
import math
from collections.abc import Mapping, Sequence

from ..frozen import Frozen
from ..machine.opening import Mark
from ..machine.shape import Machine
from ..spelling import folded
from .match import Finder
from .matters import Difference

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


#: So many of those that remain are named, asked about and doubted: of more the likeliest.
REMAIN = 400


#: So many configurations are looked at for nearest relatives (those with the rarest runs of letters) and for a first
#: question.
MOST_RELATED = 5_000


#: Answers that are no text: it cannot be read, or it says something the library does not have.
UNREADABLE, NONE_OF_THESE = "", "none of these"


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
        #: Configurations by the names they and their machines have, folded.
        self._called: dict[str, set[int]] = {}
        for i, (m, c) in enumerate(self.every):
            for name in (m.name, f"{m.maker} {m.name}", c.name, f"{m.maker} {c.name}", m.id):
                self._called.setdefault(folded(name), set()).add(i)

    def named(self, wanted: str) -> frozenset[int]:
        """Configurations that carry the whole of a folded text as a mark or a name."""
        marked = (i for of in self.carriers.get(wanted, {}).values() for i in of)
        return frozenset(marked) | self._called.get(wanted, set())

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
