"""Why what was typed may not be the machine it looks like: another maker's, another version's, a near name."""

import re
from collections.abc import Iterable, Mapping, Sequence
from itertools import takewhile

from ..spelling import folded
from .library import ASK, NONE_OF_THESE, Library
from .match import LEAST_CUT, one_off, tokens

#: What a family's own label may carry that the library then ought to know.
_TELLING = ("processor", "type_code", "product", "model", "system")


def doubts_of(
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
