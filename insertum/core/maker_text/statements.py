"""A pasted page taken apart: rows, bullets, steps and sentences, each with its label and the configuration it is under.

Line breaks mean little in what is pasted: a heading, a label, a bullet, a number or a row begins something new, any
other line goes on with what stands before it.
"""

import re
import unicodedata
from collections.abc import Iterator
from html.parser import HTMLParser
from itertools import product
from typing import Literal, NamedTuple

from .denied import denied_by_answer
from .terms import COMPARED, MACHINE_NAME, NUMBERS, PROCESSOR_NAME, TOPICS, topic_of

#: More text than this is no page: it is cut, and the rest said to be unread.
MOST_CHARACTERS = 100_000
#: No line of a page and no sentence is longer; what is, is no text.
MOST_LINE, MOST_SENTENCE = 4000, 900


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
_CODE_ONE = re.compile(r"(?<=[A-Za-z])0(?=-DIMM)|(?<=[A-Za-z])[01](?=[a-z]{2,})")
_ABBREVIATED = re.compile(
    r"\b(?:max|min|ca|approx|incl|inkl|bzw|typ|no|nr|vs|resp|env|rev|gen|ver|e\.g|i\.e|z\.B|M|u\.a)\.$", re.I
)


def normalised(text: str) -> str:
    """One way to write signs that come in several: spaces, dashes, quotes, the times sign; letters a scan took for
    figures inside words. Figures with letters in them stay as they are, and so mean nothing."""
    text = as_text(text[: 2 * MOST_CHARACTERS])
    # Footnotes count nothing, behind a figure either: "slot 1³" is no thirteenth. Powers stay on their units.
    text = re.sub(r"(?m)(?<=[\w)])(?<!\bc)(?<!\bm)(?<!\b[cdm]m)[¹²³⁰-⁹]+|^\s*[¹²³⁰-⁹]+|\[\d{1,2}\]", "", text)
    text = unicodedata.normalize("NFKC", text.replace("\r\n", "\n").replace("\r", "\n")[:MOST_CHARACTERS])
    text = re.sub(r"\S{80,}", " ", text)  # no word: an address, or nothing
    text = re.sub(r"[®™©]|\(R\)|\(TM\)", "", text)
    text = text.replace("\u00ad", "").replace("×", "x").replace("✕", "x")
    text = re.sub(r"[‐‑‒]", "-", text)
    text = re.sub(r"[’‘´`]", "'", text)
    text = re.sub(r"[“”„″]|''", '"', text)
    text = re.sub(r"(?<=\w)-\n\s*(?=[A-Z])", "-", text)
    text = re.sub(r"(?<=[a-zäöüß])-\n\s*(?=[a-zäöüß])", "", text)
    # A section's number or a date, where something begins: "PCIe" and "4.0." on two lines are one.
    text = re.sub(r"(\A|\n[ \t]*\n|[.;:]\n)[ \t]*\d{1,2}(?:\.\d{1,2})+\.?[ \t]+(?=[A-ZÄÖÜ])", r"\1", text)
    text = re.sub(r"(\A|\n)[ \t]*(?:19|20)\d\d-\d\d-\d\d[ \t]+", r"\1", text)
    text = _scanned(text)
    text = re.sub(r"\bSO[ -]?DIMM(?=s|\b)", "SO-DIMM", text, flags=re.I)
    return _CODE_ONE.sub(
        lambda m: "o" if m[0] == "0" and not text[m.end() :].startswith("-DIMM") else "O" if m[0] == "0" else "i", text
    )


#: What a scan makes of figures and standards' names, and what they are.
_SCANNED = (
    (re.compile(r"\b(22|30)([3468])O\b|\b22l(?:1O|10|lO)\b"), lambda m: f"{m[1]}{m[2]}0" if m[1] else "22110"),
    (re.compile(r"\bPC[1l]e\b|\bPCle\b"), lambda m: "PCIe"),
    (re.compile(r"\b[lI](\d)(?=\s?(?:GB|Go|TB|Wh)\b|[.,]\d{1,2}\s?V\b)"), lambda m: f"1{m[1]}"),
    (re.compile(r"(?<=\d)(\s?)G8\b"), lambda m: f"{m[1]}GB"),
    (re.compile(r"(?<=\d)\s?gigs?\b", re.I), lambda m: " GB"),
    (re.compile(r"\b(\d)O(?=\s?(?:GB|Go|TB|Wh|mm)\b)"), lambda m: f"{m[1]}0"),
    (re.compile(r"\bDDR([345])-(\d)[lI](\d\d)\b"), lambda m: f"DDR{m[1]}-{m[2]}1{m[3]}"),
)


#: Words a page is read by, that a scan may have written with figures, or with an l for an I.
_WORDS = frozenset(
    [
        "memory",
        "slot",
        "slots",
        "socket",
        "sockets",
        "module",
        "modules",
        "drive",
        "drives",
        "storage",
        "battery",
        "soldered",
        "wireless",
        "radio",
        "wlan",
        "wwan",
        "total",
        "limit",
        "single",
        "dual",
        "maximum",
        "type",
        "installed",
        "solid",
        "cellular",
        "speicher",
        "steckplatz",
        "steckplätze",
        "laufwerk",
        "akku",
        "schacht",
        "mémoire",
        "emplacement",
        "emplacements",
        "disque",
        "batterie",
    ]
)
_MISREAD = re.compile(r"\b(?=\w*[01l])[A-Za-zÀ-ÿ01]{4,14}\b")


def _word(m: re.Match[str]) -> str:
    """The word a scan's figures and letters stand for, where it is one a page is read by; else as it is."""
    if m[0].lower() in _WORDS:
        return m[0]
    spots = [i for i, c in enumerate(m[0]) if c in "01l"]
    if len(spots) > 4:
        return m[0]
    for letters in product(*("o" if m[0][i] == "0" else "li" for i in spots)):
        word = list(m[0])
        capital = all(c.isupper() for i, c in enumerate(m[0]) if i not in spots)
        for i, letter in zip(spots, letters, strict=True):
            word[i] = letter.upper() if capital else letter
        if (found := "".join(word)).lower() in _WORDS:
            return found
    return m[0]


def _scanned(text: str) -> str:
    """A scan's letters in figures, and figures in words, read as what they are, where nothing else is called so."""
    for words, figure in _SCANNED:
        text = words.sub(figure, text)
    return _MISREAD.sub(_word, text)


_BLOCKS = frozenset(
    [
        "p",
        "div",
        "tr",
        "li",
        "ul",
        "ol",
        "table",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "br",
        "section",
        "article",
        "dt",
        "dd",
        "thead",
        "tbody",
    ]
)


class _Tags(HTMLParser):
    """HTML to the text a reader sees: a line a block, cells of a row between bars."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.parts: list[str] = []
        self._silent = 0

    def handle_starttag(self, tag: str, attrs: object) -> None:
        self._silent += tag in ("script", "style")
        if tag in _BLOCKS:
            self.parts.append("\n")
        elif tag in ("td", "th"):
            self.parts.append(" | ")

    def handle_endtag(self, tag: str) -> None:
        self._silent -= tag in ("script", "style")
        if tag in _BLOCKS:
            self.parts.append(" |\n" if tag == "tr" else "\n")

    def handle_data(self, data: str) -> None:
        if not self._silent:
            self.parts.append(data)


def as_text(text: str) -> str:
    """A page's source as text: HTML without its tags, markdown without its signs; any other text as it is."""
    if re.search(r"<(?:html|body|table|tr|td|ul|li|p|div|h[1-6])\b[^>]*>", text, re.I):
        tags = _Tags()
        tags.feed(text)
        text = "".join(tags.parts)
    text = re.sub(r"(?m)^#{1,6}\s+", "", text)
    # Struck out: the thing is there no more; of more than a thing's name nobody can tell what is.
    text = re.sub(r"~~([^~\n]+)~~", lambda m: "" if re.search(r"[,;:]", m[1]) else f"{m[1]} (dropped)", text)
    return re.sub(
        r"\*\*([^*\n]+)\*\*|`([^`\n]+)`|(?<![\w*])\*([^\s*][^*\n]*?)\*(?![\w*])", lambda m: m[1] or m[2] or m[3], text
    )


def page_of(text: str, name: str = "") -> Page:
    """The statements of a page. ``name`` is the machine's, where it is known: what is said of another is left out."""
    lines = [part.rstrip() for line in normalised(text).split("\n") for part in _cut(line, MOST_LINE)]
    titles = _titles(lines)
    found = [s for s in _statements(lines, titles) if s.text.strip()]
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


def _statements(lines: list[str], titles: dict[int, str]) -> Iterator[Statement]:
    label = section = under = ""
    columns: list[str] = []
    across: list[str] = []
    prose: list[str] = []
    began = 0
    wrapped = False

    def said() -> Iterator[Statement]:
        text = " ".join(prose)
        prose.clear()
        for sentence in sentences(text):
            own = _LABEL.match(sentence)
            if own and (topic_of(own[1]) or _NUMBERED.fullmatch(own[1])):
                yield Statement(own[2], began, own[1].strip(), "sentence", section)
            else:
                yield Statement(sentence, began, label, "sentence", section)

    passed = -1
    for n, line in enumerate(lines):
        if n <= passed:
            continue
        if (asked := _QUESTION.match(line)) and n + 1 < len(lines) and (told := _ANSWER.match(lines[n + 1])):
            yield from said()
            label = under = ""
            first = sentences(told[1])[0] if told[1].strip() else ""
            if thing := denied_by_answer(asked[1], first):
                yield Statement(first.strip(" .!"), n + 2, thing, "row", section)
            continue  # a question says nothing itself
        cells = list(_cells(line))
        if n in titles:
            yield from said()
            label, under, section, columns = "", "", titles[n], []
            continue
        if _RULE.match(line):
            yield from said()
            if not line.strip():
                label = under = ""
                columns = columns if "|" in line else []
            continue
        if len(cells) > 1:
            yield from said()
            label = ""
            if heading := _heading(cells):
                columns, across = heading, []
            elif _is_across(cells):
                columns, across = [], cells
            elif across and len(cells) == len(across):
                for head, value in zip(across[1:], cells[1:], strict=True):
                    if value:
                        yield Statement(value[:MOST_SENTENCE], n + 1, head, "row", cells[0])
            else:
                if under and cells[0] and not topic_of(cells[0]):
                    cells[0] = f"{under} {cells[0]}"  # "Sockets" under "Memory"
                yield from _row(cells, columns, n + 1, section)
            continue
        if pair := _KEY_VALUE.match(line):
            yield from said()
            key = pair[1] if " " in pair[1] else re.sub(r"[._-]+", " ", pair[1])
            yield Statement(pair[2].strip()[:MOST_SENTENCE], n + 1, key, "row", section)
            continue
        line = _LEADERS.sub(": ", line, count=1) if _LEADERS.search(line) else line
        row = _LABEL.match(_BULLET.sub("", line)) or _BARE_LABEL.match(_BULLET.sub("", line))
        if _STEP.match(line):
            yield from said()
            # What a step's line goes on with belongs to it.
            whole = _STEP.sub("", line)
            for more in lines[n + 1 :]:
                if not more.startswith((" ", "\t")) or not more.strip() or _STEP.match(more) or _BULLET.match(more):
                    break
                whole += " " + more.strip()
                passed = (n if passed < n else passed) + 1
            yield Statement(whole[:MOST_SENTENCE], n + 1, "", "step", section)
            continue
        goes_on = bool(prose) and _is_small(line.lstrip())
        if row and not goes_on and (topic_of(row[1]) or len(row[1].split()) <= 3):
            yield from said()
            label = row[1].strip()
            prose[:], began = [row[2]], n + 1
            continue
        if _is_heading(line) and not (wrapped and prose):
            yield from said()
            label = under = line.strip().strip(":")
            continue
        bare = _BULLET.sub("", line)
        if bare != line:
            yield from said()
            wrapped = False
        elif not prose or n > 0 and not _is_plain(lines[n - 1]):
            wrapped = _is_wrapped(_block(lines, n - 1 if prose else n, titles))
        if prose and not wrapped and _is_new(prose[-1], line, 60 if label else 30):
            yield from said()
        if not prose:
            began = n + 1
        prose.append(bare.strip())
    yield from said()


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


def sentences(text: str) -> list[str]:
    """Sentences and parts between semicolons; "max. 64" and "M.2" end none."""
    found, start = [], 0
    for m in re.finditer(r"[.!?]\s+(?=[A-ZÄÖÜÉÈÀ0-9\"(])|;\s*", text):
        upto = text[start : m.start() + 1]
        if text[m.start()] == "." and _ABBREVIATED.search(upto):
            continue
        found.append(text[start : m.start()] if text[m.start()] == ";" else upto)
        start = m.end()
    found.append(text[start:])
    return [part.strip() for s in found for part in _cut(s, MOST_SENTENCE) if part.strip()]


def _cut(text: str, most: int) -> list[str]:
    """A text in parts no longer than any that a person writes: what is read grows with its length and no faster."""
    return [text[i : i + most] for i in range(0, len(text), most)] or [text]
