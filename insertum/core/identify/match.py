"""Finding marks in a text that a person typed, a scanner sent or a worn label left.

Spacing, case, O/0 and I/1/l never matter. Beyond that a mark may stand inside a longer word, have
one character wrong, or be cut off at an end; each of these counts for less than a whole match.
"""

import re
from bisect import bisect_left
from collections.abc import Iterable, Iterator

#: What a match is worth, as a likelihood beside 1.0 for the whole mark between word ends.
INSIDE, ONE_WRONG, CUT = 0.5, 0.3, 0.2
#: Shorter marks say too little to be believed with a character wrong, inside a word, or cut off.
LEAST_WRONG, LEAST_INSIDE, LEAST_CUT = 6, 5, 4
_FOLD = str.maketrans("OIL", "011")


def folded(text: str) -> str:
    """Letters and digits alone, with O as 0 and I, L as 1: what labels get wrong."""
    return re.sub(r"[^A-Z0-9]", "", text.upper()).translate(_FOLD)


def tokens(text: str) -> list[str]:
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
        self.lengths = sorted({len(m) for m in self.marks if len(m) >= LEAST_INSIDE})
        self.sorted = sorted(self.marks)
        self.backwards = sorted((m[::-1], m) for m in self.marks)
        self.shortened: dict[str, set[str]] = {}
        for m in self.marks:
            if len(m) >= LEAST_WRONG:
                for s in _shortened(m):
                    self.shortened.setdefault(s, set()).add(m)

    def find(self, line: str) -> dict[str, float]:
        """Every mark the line carries, with what the match is worth. A whole mark ends where a word
        ends, so "mk I" is not found in "mk II"."""
        words = tokens(line)[:40]
        found: dict[str, float] = {}

        def keep(mark: str, worth: float) -> None:
            if worth > found.get(mark, 0.0):
                found[mark] = worth

        for run in self._runs(words):
            if run in self.marks:
                keep(run, 1.0)
            if len(run) >= LEAST_WRONG - 1:
                for s in _shortened(run):
                    for m in self.shortened.get(s, ()):
                        if one_off(run, m):
                            keep(m, ONE_WRONG)
        joined = "".join(words)[:200]
        for size in self.lengths:
            for i in range(len(joined) - size + 1):
                if (piece := joined[i : i + size]) in self.marks:
                    keep(piece, INSIDE)
        for start in range(len(words)):
            tail, head = "".join(words[start:]), "".join(words[: start + 1])
            for cut, marks in ((tail, self._starting(tail)), (head, self._ending(head))):
                if LEAST_CUT <= len(cut) <= self.longest:
                    for m in marks:
                        keep(m, CUT + (INSIDE - CUT) * len(cut) / len(m))
        return found

    def _runs(self, words: list[str]) -> Iterator[str]:
        for start in range(len(words)):
            run = ""
            for word in words[start:]:
                run += word
                if len(run) > self.longest + 1:
                    break
                yield run

    def _starting(self, text: str) -> Iterator[str]:
        if len(text) < LEAST_CUT:
            return
        for m in self.sorted[bisect_left(self.sorted, text) :]:
            if not m.startswith(text):
                return
            yield m

    def _ending(self, text: str) -> Iterator[str]:
        if len(text) < LEAST_CUT:
            return
        back = text[::-1]
        for r, m in self.backwards[bisect_left(self.backwards, (back, "")) :]:
            if not r.startswith(back):
                return
            yield m


def _shortened(text: str) -> Iterator[str]:
    """The text, and it with each one character left out."""
    yield text
    for i in range(len(text)):
        yield text[:i] + text[i + 1 :]
