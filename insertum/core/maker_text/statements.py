"""A pasted page taken apart: rows, bullets, steps and sentences, each with its label and the configuration it is under.

Line breaks mean little in what is pasted: a heading, a label, a bullet, a number or a row begins something new, any
other line goes on with what stands before it.
"""

import re
from collections.abc import Iterator
from typing import Literal, NamedTuple

from .denied import denied_by_answer
from .page_text import MOST_SENTENCE, cut, normalised, sentences
from .terms import COMPARED, MACHINE_NAME, NUMBERS, PROCESSOR_NAME, TOPICS, topic_of

#: No line of a page and no sentence is longer; what is, is no text.
MOST_LINE = 4000


class Statement(NamedTuple):
    """A sentence, row or step. ``label`` is what it stands under, ``configuration`` whose column or section it is in."""

    text: str
    line: int
    label: str = ""
    kind: Literal["row", "sentence", "step"] = "sentence"
    configuration: str = ""

    @property
    def whole(self) -> str:
        return f"{self.label}: {self.text}" if self.label else self.text


#: In a table, but nobody can tell in whose column.
UNSURE = "?"


class Page(NamedTuple):
    statements: tuple[Statement, ...]
    #: Whose columns and sections there are, in order.
    configurations: tuple[str, ...]
    #: Are several machines named on it?
    of_several: bool = False


_BULLET = re.compile(r"^\s*[•·▪‣*–—-]\s+")
_STEP = re.compile(r"^\s*(?:step\s+|schritt\s+|étape\s+)?\d{1,2}\s?[.):]\s+(?=\S)", re.I)
_LABEL = re.compile(r"^\s*([^:|\t]{2,45}?)\s?:\s+(\S.*)$")
#: "Memory 2 x SO-DIMM …": a label that a lost column has left without its colon.
_BARE_LABEL = re.compile(
    r"^\s*((?:Memory|RAM|Storage|Drives?|SSD|Battery|Processor|CPU|WLAN|Wireless|WWAN|Arbeitsspeicher|Hauptspeicher|Massenspeicher|Laufwerke?|Akku|Prozessor|"
    r"Funk|Mémoire(?: vive)?|Stockage|Batterie|Processeur))\s+((?:\d|DDR|LPDDR|M\.2|SO-DIMM|Up to|Bis|Max|Wi-?Fi \d|Jusqu|Corvane).*)$"
)
_NUMBERED = re.compile(r"\s*(?:slot|steckplatz|emplacement|bay|drive|laufwerk)\s*#?\d\s*", re.I)
#: A line that begins by naming a place.
_OPENS = re.compile(
    r"(?:\S+\s+){0,2}?(?:\S*[- ])?(?:bay|M\.2|SO-DIMM|eMMC|mSATA|WLAN|Wi-?Fi|WWAN|battery|akku|batterie|\w*schacht|baie|memory|RAM|arbeitsspeicher|mémoire)\b",
    re.I,
)
#: A line that begins so denies something: it heads nothing.
_DENIES = re.compile(r"(?:no|without|kein\w*|ohne|sans|aucune?|pas\s+d[e'])\b", re.I)
#: "bay=none"
_KEY_VALUE = re.compile(r"^\s*(\w[\w.\" -]{1,40}?)\s?=\s?([^=\s].*)$")
_QUESTION = re.compile(r"^\s*(?:Q|Question|F|Frage)\s?\d*\s?[:.)]\s*(.+\?)\s*$", re.I)
_ANSWER = re.compile(r"^\s*(?:A|Answer|Antwort|R|Réponse)\s?\d*\s?[:.)]\s*(.*)$", re.I)
_LEADERS = re.compile(r"\s*\.{3,}\s*|\s*…+\s*|\s*_{3,}\s*")
_RULE = re.compile(r"^[\s|+:=-]*$")


def page_of(text: str, name: str = "") -> Page:
    """The statements of a page. ``name`` is the machine's, where it is known: what is said of another is left out."""
    lines = [part.rstrip() for line in normalised(text).split("\n") for part in cut(line, MOST_LINE)]
    titles = _titles(lines)
    found = [s for s in _Lines(lines, titles).statements() if s.text.strip()]
    spoken = [s._replace(text=kept) for s in found if (kept := _of_this_machine(s.text))]
    own = name or next((m[1] for s in spoken for m in [MACHINE_NAME.search(s.whole)] if m), "")
    names = {m[1] for m in (MACHINE_NAME.search(t) for t in titles.values()) if m}
    about_it: list[Statement] = []
    for s in spoken:
        others = {m[1] for m in MACHINE_NAME.finditer(s.whole)} - names
        if own and any(not own.endswith(o) and not o.endswith(own) for o in others):
            continue  # about another machine
        about_it.append(s)
    machines = {m[1] for line in lines for m in MACHINE_NAME.finditer(line)}
    return Page(tuple(about_it), tuple(dict.fromkeys([*titles.values(), *_columns(lines)])), len(machines) > 1)


def _of_this_machine(text: str) -> str:
    """A comparison without the machine it compares with: what follows its last comma, where that is a clause."""
    if not COMPARED.match(text):
        return text
    last = text.rfind(", ")
    rest = text[last + 2 :] if last > 0 else ""
    return rest if re.match(r"(?:the|it|this|das|die|der|es|dieses|le|la|ce|il|elle)\b", rest, re.I) else ""


def _titles(lines: list[str]) -> dict[int, str]:
    """Lines that are headings of sections by configuration: two titles at least that differ."""
    found = {}
    for n, line in enumerate(lines):
        bare = line.strip().strip(":#*= ")
        alone = MACHINE_NAME.search(bare)
        is_title = (
            alone
            and len(bare.split()) <= 6
            and re.fullmatch(r"[\w .-]*?1[0-9](?: (?:mk|Mk|MK) [IVX0-9]+| G\d)?(?: \(.{3,30}\))?", bare)
        )
        if is_title or (PROCESSOR_NAME.fullmatch(bare)):
            inner = PROCESSOR_NAME.search(bare)
            found[n] = inner[0] if inner else bare
    return found if len(set(found.values())) > 1 else {}


def _cells(line: str) -> list[str]:
    """A table row's cells; one cell where the line is no row."""
    begins_empty = line.startswith("\t") and line.strip().count("\t") > 0
    line = line.strip()
    if line.count("|") >= 2:
        return [c.strip() for c in line.strip("|").split("|")]
    if "\t" in line:  # an empty corner is a cell
        return [""] * begins_empty + [c.strip() for c in re.split(r"\t+", line)]
    cells = re.split(r"\s{3,}", line)
    return [c.strip() for c in cells] if len(cells) > 1 and ":" not in cells[0] else [line]


def _heading(cells: list[str]) -> list[str]:
    """Whose columns a table's first row names; none where it is no such row."""
    if len(cells) < 3:
        return []
    found = []
    for cell in cells[1:]:
        inner = PROCESSOR_NAME.search(cell)
        title = MACHINE_NAME.search(cell) or re.search(r"\bmk [IVX]+\b", cell, re.I)
        if not inner and not title:
            return []
        found.append(inner[0] if inner else cell)
    return found if len(set(found)) == len(found) else []


def _is_across(cells: list[str]) -> bool:
    """Does a table's first row name what is told, so that each row below is a machine?"""
    named = [c for c in cells[1:] if topic_of(c) and not re.search(r"\d", c.replace("M.2", "").replace('2.5"', ""))]
    return len(cells) >= 3 and len(named) >= 2 and len(named) == len([c for c in cells[1:] if c])


def _columns(lines: list[str]) -> Iterator[str]:
    for line in lines:
        yield from _heading(_cells(line))


class _Lines:
    """A page's lines read in order. What a line stands under is kept from line to line: ``label`` for sentences, ``under``
    for the rows of a table, ``columns`` and ``across`` for cells; ``prose`` is the sentence that is not over yet."""

    def __init__(self, lines: list[str], titles: dict[int, str]) -> None:
        self.lines, self.titles = lines, titles
        self.label = self.section = self.under = ""
        self.columns: list[str] = []
        self.across: list[str] = []
        self.prose: list[str] = []
        self.began = 0
        self.wrapped = False
        #: The last line that a step took in.
        self.passed = -1

    def statements(self) -> Iterator[Statement]:
        """All of them."""
        for n, line in enumerate(self.lines):
            if n > self.passed:
                yield from self._line(n, line)
        yield from self._said()

    def _said(self) -> Iterator[Statement]:
        text = " ".join(self.prose)
        self.prose.clear()
        for sentence in sentences(text):
            own = _LABEL.match(sentence)
            if own and (topic_of(own[1]) or _NUMBERED.fullmatch(own[1])):
                yield Statement(own[2], self.began, own[1].strip(), "sentence", self.section)
            else:
                yield Statement(sentence, self.began, self.label, "sentence", self.section)

    def _line(self, n: int, line: str) -> Iterator[Statement]:
        """The first of the readings below that takes the line; whatever takes it ends the sentence before it."""
        answer = _ANSWER.match(self.lines[n + 1]) if n + 1 < len(self.lines) else None
        cells = list(_cells(line))
        if answer and (asked := _QUESTION.match(line)):
            yield from self._said()
            yield from self._question(n, asked[1], answer[1])
        elif n in self.titles:
            yield from self._said()
            self.label, self.under, self.section, self.columns = "", "", self.titles[n], []
        elif _RULE.match(line):
            yield from self._said()
            if not line.strip():
                self.label = self.under = ""
                self.columns = self.columns if "|" in line else []
        elif len(cells) > 1:
            yield from self._said()
            yield from self._cells(n, cells)
        elif pair := _KEY_VALUE.match(line):
            yield from self._said()
            key = pair[1] if " " in pair[1] else re.sub(r"[._-]+", " ", pair[1])
            yield Statement(pair[2].strip()[:MOST_SENTENCE], n + 1, key, "row", self.section)
        else:
            yield from self._words(n, _LEADERS.sub(": ", line, count=1))

    def _question(self, n: int, asked: str, told: str) -> Iterator[Statement]:
        """A question says nothing itself; an answer that denies it does."""
        self.label = self.under = ""
        first = sentences(told)[0] if told.strip() else ""
        if thing := denied_by_answer(asked, first):
            yield Statement(first.strip(" .!"), n + 2, thing, "row", self.section)

    def _cells(self, n: int, cells: list[str]) -> Iterator[Statement]:
        """A row of a table: its heads, or what stands under them."""
        self.label = ""
        if heading := _heading(cells):
            self.columns, self.across = heading, []
        elif _is_across(cells):
            self.columns, self.across = [], cells
        elif self.across and len(cells) == len(self.across):
            for head, value in zip(self.across[1:], cells[1:], strict=True):
                if value:
                    yield Statement(value[:MOST_SENTENCE], n + 1, head, "row", cells[0])
        else:
            if self.under and cells[0] and not topic_of(cells[0]):
                cells[0] = f"{self.under} {cells[0]}"  # "Sockets" under "Memory"
            yield from _row(cells, self.columns, n + 1, self.section)

    def _words(self, n: int, line: str) -> Iterator[Statement]:
        """A step, a labelled row, a heading, or prose."""
        row = _LABEL.match(_BULLET.sub("", line)) or _BARE_LABEL.match(_BULLET.sub("", line))
        goes_on = bool(self.prose) and _is_small(line.lstrip())
        if _STEP.match(line):
            yield from self._said()
            yield Statement(self._step(n, line)[:MOST_SENTENCE], n + 1, "", "step", self.section)
        elif row and not goes_on and (topic_of(row[1]) or len(row[1].split()) <= 3):
            yield from self._said()
            self.label = row[1].strip()
            self.prose[:], self.began = [row[2]], n + 1
        elif _is_heading(line) and not (self.wrapped and self.prose):
            yield from self._said()
            self.label = self.under = line.strip().strip(":")
        else:
            yield from self._prose(n, line)

    def _step(self, n: int, line: str) -> str:
        """A step with the lines it goes on with."""
        whole = _STEP.sub("", line)
        self.passed = n
        for more in self.lines[n + 1 :]:
            if not more.startswith((" ", "\t")) or not more.strip() or _STEP.match(more) or _BULLET.match(more):
                break
            whole += " " + more.strip()
            self.passed += 1
        return whole

    def _prose(self, n: int, line: str) -> Iterator[Statement]:
        bare = _BULLET.sub("", line)
        if bare != line:
            yield from self._said()
            self.wrapped = False
        elif not self.prose or n > 0 and not _is_plain(self.lines[n - 1]):
            self.wrapped = _is_wrapped(_block(self.lines, n - 1 if self.prose else n, self.titles))
        if self.prose and not self.wrapped and _is_new(self.prose[-1], line, 60 if self.label else 30):
            yield from self._said()
        if not self.prose:
            self.began = n + 1
        self.prose.append(bare.strip())


def _is_plain(line: str) -> bool:
    """A line that is neither row, rule, bullet, step nor blank."""
    return not (_RULE.match(line) or len(_cells(line)) > 1 or _BULLET.match(line) or _STEP.match(line))


def _block(lines: list[str], start: int, titles: dict[int, str]) -> list[str]:
    """The plain lines that stand together from ``start`` on."""
    found = [lines[start]]
    for n in range(start + 1, len(lines)):
        if n in titles or not _is_plain(lines[n]):
            break
        found.append(lines[n])
    return found


def _is_wrapped(block: list[str]) -> bool:
    """Is it running text in lines, rather than a list of short ones? Running text ends a sentence inside a line, goes on
    with small letters, or ends its last sentence where no line before it did."""
    if len(block) < 2:
        return False
    inside = any(re.search(r"[a-zà-ÿ)\d][.;]\s+\S", b) and not _LABEL.match(b) for b in block)
    small = sum(_is_small(b.strip()) for b in block[1:])
    ends = (
        block[-1].rstrip().endswith(".")
        and sum(b.rstrip().endswith((".", ":")) for b in block[:-1]) * 2 < len(block) - 1
    )
    labelled = any(_LABEL.match(b) for b in block[1:])
    return (small > 0 and small * 4 >= len(block) - 1) or ((inside or ends) and not labelled)


def _row(cells: list[str], columns: list[str], line: int, section: str) -> Iterator[Statement]:
    label, values = cells[0][:100], cells[1:]
    if not label:
        return
    filled = [v for v in values if v]
    if not columns or (len(values) == len(columns) and len(set(values)) == 1):
        for value in dict.fromkeys(v[:MOST_SENTENCE] for v in filled):
            yield Statement(value, line, label, "row", section)
    else:
        # Cells that are fewer than the columns are nobody's: nothing tells which are merged and which are missing.
        whose = columns if len(values) == len(columns) else [UNSURE] * len(values)
        for value, column in zip(values, whose, strict=True):
            if value:
                yield Statement(value[:MOST_SENTENCE], line, label, "row", column)


def _is_heading(line: str) -> bool:
    """A line that is nothing but the name of what follows."""
    bare = line.strip().strip(":").strip()
    words = bare.split()
    if (
        not words
        or _DENIES.match(bare)
        or len(words) > 4
        or words[0].lower() in NUMBERS
        or re.search(r"\d|[.,;]", bare)
        and not re.fullmatch(r"M\.2(?: slots?)?", bare)
    ):
        return False
    known = any(w.search(bare) for _, w in TOPICS)
    return known and (line.strip().endswith(":") or bare.isupper() or bare[0].isupper() and len(words) <= 3)


def _is_new(before: str, line: str, short: int) -> bool:
    """Does a plain line begin something new after another? ``short`` lines are items of a list, longer ones wrapped."""
    text = line.strip()
    if re.search(
        r"[,(/-]$|\b(?:and|or|of|to|with|the|a|in|und|oder|mit|der|die|das|bis|et|ou|de|du|la|le|à|up|PCIe|SATA|M\.2|key|type|DDR|Wi-?Fi)$|\d$",
        before,
    ) and not re.match(r"\d+ ?x |\w+: ", text):
        return False
    if _is_small(text) or re.match(r"(?:GB|Go|TB|mm|Wh|V|MT/s|MHz)\b", text):
        return False
    if _OPENS.match(text):
        return True  # "2.5-inch bay, 7 mm" after a row of the drive slot is the bay's own
    return len(before) < short or before.endswith((".", ";", "!", "?", ":")) and len(before) < 60


def _is_small(text: str) -> bool:
    """Does it begin with a small letter that a sentence or name would not?"""
    return text[:1].islower() and not text.startswith(("mSATA", "eMMC", "microSD", "nano-SIM"))
