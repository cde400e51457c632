"""Finding marks in a text that a person typed, a scanner sent or a worn label left.

Spacing, case, O/0 and I/1/l never matter, and a mark may be cut off at an end. Nothing else is tolerated: makers tell models
apart by one character, so a mark with a character more, less or other is another mark (rules.md section 9).
"""

import re
from bisect import bisect_left
from collections.abc import Iterable, Iterator

from ..spelling import folded

#: What a mark that is cut off is worth, as a likelihood beside 1.0 for the whole of it: more, the more of it is there.
CUT_LEAST, CUT_MOST = 0.2, 0.5
#: Shorter marks say too little to be believed when they are cut off, or to be told from others that are nearly they.
LEAST_CUT, LEAST_NEAR = 4, 4
#: What is a part of more marks than these tells none of them from the others.
MOST_CUT = 2000


def tokens(text: str) -> list[str]:
    """The words of a text, folded: what is neither letter nor figure parts them."""
    return [folded(t) for t in re.split(r"[^A-Za-z0-9]+", text) if t]


def one_off(a: str, b: str) -> bool:
    """At most one character wrong, missing or extra."""
    if abs(len(a) - len(b)) > 1:
        return False
    short, long = sorted((a, b), key=len)
    i = next((i for i, (x, y) in enumerate(zip(short, long, strict=False)) if x != y), len(short))
    return short[i + (len(short) == len(long)) :] == long[i + 1 :]


class Finder:
    """Folded marks, indexed once so that a line is looked up and not compared with each."""

    def __init__(self, marks: Iterable[str]) -> None:
        self.marks = frozenset(m for m in marks if m)
        self.longest = max(map(len, self.marks), default=0)
        self.sorted = sorted(self.marks)
        self.backwards = sorted((m[::-1], m) for m in self.marks)
        self.shortened: dict[str, set[str]] = {}
        for m in self.marks:
            if len(m) >= LEAST_NEAR:
                for s in _shortened(m):
                    self.shortened.setdefault(s, set()).add(m)

    def find(self, line: str) -> dict[str, float]:
        """Every mark the line carries, with what the match is worth. A whole mark begins and ends where a word does, so
        "mk I" is not found in "mk II", nor "Drover 14" in "Drover 140"."""
        words = tokens(line)[:40]
        found = {run: 1.0 for _, run in self._runs(words) if run in self.marks}
        for start in range(len(words)):
            tail, head = "".join(words[start:]), "".join(words[: start + 1])
            for cut, marks in ((tail, self._starting(tail)), (head, self._ending(head))):
                if LEAST_CUT <= len(cut) <= self.longest:
                    for m in marks:
                        worth = CUT_LEAST + (CUT_MOST - CUT_LEAST) * len(cut) / len(m)
                        found[m] = max(found.get(m, 0.0), worth)
        return found

    def near(self, line: str) -> dict[str, str]:
        """Marks the line does not carry, though what stands there is nearly they: by mark, what stands there. One character
        is other, missing or too many, or the mark stands at an end of something longer."""
        words = tokens(line)[:40]
        spans = [(start, run) for start, run in self._runs(words)]
        whole = [(start, run) for start, run in spans if run in self.marks]
        found: dict[str, str] = {}
        for start, run in spans:
            # What a whole mark stands in that is as long but for a character is that mark with its neighbour.
            mine = set(_covered(words, start, run))
            beside = any(len(w) >= len(run) - 1 and mine & set(_covered(words, at, w)) for at, w in whole)
            if run in self.marks or beside:
                continue
            if len(run) >= LEAST_NEAR - 1:
                for m in {m for s in _shortened(run) for m in self.shortened.get(s, ()) if one_off(run, m)}:
                    if not (m.startswith(run) or m.endswith(run)):  # cut off: there is no more of it to be read
                        found.setdefault(m, run)
        for chunk in () if whole else map(folded, line.split()):
            for size in range(LEAST_NEAR, min(len(chunk), self.longest + 1)):
                for piece in (chunk[:size], chunk[-size:]):
                    if piece in self.marks and len(chunk) > size:
                        found.setdefault(piece, chunk)
        return found

    def _runs(self, words: list[str]) -> Iterator[tuple[int, str]]:
        """Words in a row as one, with where they begin."""
        for start in range(len(words)):
            run = ""
            for word in words[start:]:
                run += word
                if len(run) > self.longest + 1:
                    break
                yield start, run

    def _starting(self, text: str) -> Iterator[str]:
        if len(text) < LEAST_CUT:
            return
        at, end = bisect_left(self.sorted, text), bisect_left(self.sorted, text + chr(0x10FFFF))
        if end - at <= MOST_CUT:
            yield from self.sorted[at:end]

    def _ending(self, text: str) -> Iterator[str]:
        if len(text) < LEAST_CUT:
            return
        back = text[::-1]
        at, end = bisect_left(self.backwards, (back, "")), bisect_left(self.backwards, (back + chr(0x10FFFF), ""))
        if end - at <= MOST_CUT:
            yield from (m for _, m in self.backwards[at:end])


def _covered(words: list[str], start: int, run: str) -> Iterator[int]:
    """Which words a run is made of."""
    left = len(run)
    for i in range(start, len(words)):
        if left <= 0:
            return
        left -= len(words[i])
        yield i


def _shortened(text: str) -> Iterator[str]:
    """The text, and it with each one character left out."""
    yield text
    for i in range(len(text)):
        yield text[:i] + text[i + 1 :]
