"""Identify: from any mixture of label texts to ranked configurations (rules.md section 9)."""

import heapq
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import islice
from typing import NamedTuple

from ..machine.shape import Machine
from ..phrases import plural
from ..spelling import folded
from .doubts import doubts_of
from .library import ASK, NONE_OF_THESE, REMAIN, STRAY, Candidate, Identification, Library, next_question
from .matters import Difference, differences

#: More remaining than this are not laid side by side.
COMPARED = 8
SHOWN = 40


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
    doubts = tuple(doubts_of(lib, remaining, unread, contradicted, answers, texts))
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
