"""A page as text: markup taken off, what a scanner misread put right, characters of one form."""

import re
import unicodedata
from html.parser import HTMLParser
from itertools import product

#: More text than this is no page: it is cut, and the rest said to be unread.
MOST_CHARACTERS = 100_000
MOST_SENTENCE = 900


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
    return [part.strip() for s in found for part in cut(s, MOST_SENTENCE) if part.strip()]


def cut(text: str, most: int) -> list[str]:
    """A text in parts no longer than any that a person writes: what is read grows with its length and no faster."""
    return [text[i : i + most] for i in range(0, len(text), most)] or [text]
