"""Of which configuration a part of a sentence is said: "with the Rill 340 … with the Beck 450 …"."""

import re
from typing import NamedTuple

from .statements import Statement
from .terms import PROCESSOR_NAME

_EITHER = re.compile(
    r"\b(?:with\s+)?(?:either|both|any)\s+processors?\b|\b(?:mit\s+)?(?:beiden|jedem)\s+Prozessor\w*|\b(?:avec\s+)?(?:les\s+deux|chaque)\s+processeurs?",
    re.I,
)
#: Years of one shell, as makers tell them apart.
_MARK = re.compile(r"\bmk\s+[IVX]+\b", re.I)
_BEFORE = re.compile(
    r"^\W*(?:(?:with|on|for|in|mit|beim?|avec|pour)\s+)?(?:(?:the|an?|dem|der|den|le|la|un)\s+)?$", re.I
)


class _Mention(NamedTuple):
    start: int
    name: str


class Scope:
    """One statement's mentions of processors, before ("With the X the limit is …") or after what is said of them."""

    def __init__(self, statement: Statement, speaks_of_processors: bool = False) -> None:
        text = statement.whole
        self._fixed = statement.configuration
        found = [] if speaks_of_processors else [_Mention(m.start(), m[0]) for m in PROCESSOR_NAME.finditer(text)]
        found += [_Mention(m.start(), m[0]) for m in _MARK.finditer(text)]
        found += [_Mention(m.start(), "") for m in _EITHER.finditer(text)]
        self._mentions = sorted(found)
        self._leads = bool(self._mentions) and bool(_BEFORE.match(text[: self._mentions[0].start]))
        self.names = tuple(m.name for m in self._mentions if m.name and not _MARK.fullmatch(m.name))

    def at(self, position: int, start: int = 0, end: int = 10**9, wiring: bool = False) -> str:
        """Whose a figure at ``position`` is, in the part of the statement from ``start`` to ``end``. A part that names
        several gives each the figures of its ``wiring``; its size and key are the place's own."""
        if self._fixed or not self._mentions:
            return self._fixed
        if self._leads:
            return next((m.name for m in reversed(self._mentions) if m.start <= position), "")
        here = [m for m in self._mentions if start <= m.start < end]
        if len(here) == 1:
            return here[0].name
        return next((m.name for m in here if m.start >= position), "") if wiring else ""
