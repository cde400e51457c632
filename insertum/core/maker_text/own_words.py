"""The page's own characters for a phrase that was read: signs as they stand there, and a scan's misread ones too."""

import unicodedata
from difflib import SequenceMatcher
from typing import NamedTuple

from .page_text import MOST_CHARACTERS, as_text, normalised

#: A phrase may go over so many lines.
_LINES = 8
#: More words in a line that was changed are not laid beside each other: the phrase stays as it was read.
_MOST_WORDS = 300
_ENDS = ":;,.|•·▪‣*-–— "


class Own(NamedTuple):
    """``misread`` tells that letters or figures were read as others than the page has."""

    phrase: str
    misread: bool


class OwnWords:
    """A page beside what was made of it, line by line and word by word."""

    def __init__(self, text: str) -> None:
        page = as_text(text[: 2 * MOST_CHARACTERS]).replace("\r\n", "\n").replace("\r", "\n")
        self._page = page[:MOST_CHARACTERS].split("\n")
        self._read = normalised(text).split("\n")
        self._beside = len(self._page) == len(self._read)

    def of(self, phrase: str, line: int) -> Own:
        """A phrase as the page has it, from a line on. As it was read where nothing tells which words it came from."""
        if not self._beside:
            return Own(phrase, False)
        page: list[str] = []
        read: list[str] = []
        at: list[tuple[int, int]] = []
        for own, as_read in list(zip(self._page, self._read, strict=True))[max(0, line - 2) : line + _LINES]:
            laid = _laid(own.split(), as_read.split())
            if laid is None:
                return Own(phrase, False)
            at += [(a + len(page), b + len(page)) for a, b in laid]
            page += own.split()
            read += as_read.split()
        label, colon, text = phrase.partition(": ")
        parts = [phrase] if not colon else [label, text]
        whole = _found(phrase.split(), read)
        spans = [whole] if whole else [_found(part.split(), read) for part in parts]
        if not all(spans):  # "bay=none" is its line
            line_of = next(
                (own for own in self._page[max(0, line - 1) : line] if _signs(own) == _signs(phrase)), phrase
            )
            return Own(line_of.strip(), False)
        words = [page[at[s.start][0] : at[s.stop - 1][1]] for s in spans if s]
        *labels, last = (" ".join(w).strip("|•* ") for w in words)
        own = ": ".join([*(w.rstrip(":") for w in labels), last])
        return Own(own, _signs(own) != _signs(phrase))


def _laid(page: list[str], read: list[str]) -> list[tuple[int, int]] | None:
    """For each word that was read, from where to where it stands on the page; None where nobody can tell."""
    if len(page) == len(read):
        return [(i, i + 1) for i in range(len(read))]
    if max(len(page), len(read)) > _MOST_WORDS:
        return None
    found: list[tuple[int, int]] = []
    for what, a, b, c, d in SequenceMatcher(None, page, read, autojunk=False).get_opcodes():
        found += [(a + i, a + i + 1) for i in range(d - c)] if what == "equal" else [(a, max(b, a + 1))] * (d - c)
    return [(a, min(b, len(page))) for a, b in found] if page else None


def _found(wanted: list[str], read: list[str]) -> slice | None:
    bare = [w.strip(_ENDS) for w in wanted]
    there = [w.strip(_ENDS) for w in read]
    for i in range(len(there) - len(bare) + 1):
        if there[i : i + len(bare)] == bare:
            return slice(i, i + len(bare))
    return None


def _signs(text: str) -> str:
    """What matters of a phrase: letters and figures, by one way to write them."""
    plain = unicodedata.normalize("NFKC", text).replace("×", "x").replace("✕", "x").replace("\u00ad", "")
    return "".join(c for c in plain if c.isalnum()).casefold()
