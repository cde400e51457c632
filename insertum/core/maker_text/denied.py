"""What a page denies, and what it says under a condition only.

A denial is a claim of absence ("the bay is not fitted"); it stands before the thing or after it, in three languages. What is
denied of more than there is ("no second slot") or holds under a condition nobody can keep with it claims nothing.
"""

import re
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from typing import NamedTuple

_SLOT = r"(?:slots?|sockets?|connectors?|sockel|steckpl(?:atz|ätze)n?|emplacements?)"
#: Places that may be denied, as what is claimed of them then, and the words that name one.
_PLACES: tuple[tuple[str, str, str], ...] = (
    ("cellular", "count", r"WWAN(?:[- ](?:\w+[- ])?" + _SLOT + r")?|cellular(?:\s+(?:card\s+)?" + _SLOT + r")?|mobile\s+broadband|mobilfunk\w*|LTE(?:[- ]modem)?|(?:modem|carte)\s+LTE|réseau\s+mobile"),
    ("bay", "count", r"(?:drive\s+)?bay|\w*schacht|baie"),
    ("memory", "sockets", rf"(?:memory|RAM|SO-DIMM|DIMM|speicher|arbeitsspeicher)[- ]?(?:module[- ])?{_SLOT}|SO-DIMMs?|emplacements?\s+(?:SO-DIMM|(?:de\s+)?mémoire)|\w*speichersteckpl\w+"),
    ("m2_drive", "count", rf"M\.2[- ](?:\w+[- ])?{_SLOT}|emplacements?\s+M\.2|(?:SSD|drive)[- ]{_SLOT}"),
    ("msata", "count", r"mSATA"),
    ("emmc", "count", r"eMMC"),
)  # fmt: skip
_NAMED = [(place, name, re.compile(rf"(?<![\w-])(?:2[.,]5\S*[\s-]*(?:inch|zoll|pouces)?[\s-]*)?(?:{words})(?![\w])", re.I)) for place, name, words in _PLACES]  # fmt: skip
_BEFORE = re.compile(
    r"\b(?:no|without(?!\s+\w+ing\b)|neither|nor|never\s+had|kein(?:e[rnms]?)?|ohne|weder|noch|pas\s+d[e']|sans|aucune?|ni|dépourvue?\s+d[e'])"
    r"(?:\s+(?:a|an|any|the|ein\w*|der|die|das|une?|le|la|de|d'))?\s+(?:(?!in\b|of\b|on\b|im\b|dans\b|are\b|is\b)[\w\"-]+(?:[.,]\d\S*)?\s+){0,2}$|"
    r"\b(?:pas\s+d'|dépourvue?\s+d'|aucune?\s+)$",
    re.I,
)
_FITTED = (
    r"(?:fitted|present|available|provided|offered|built\s+in|there|vorhanden|verfügbar|vorgesehen|verbaut|eingebaut|bestückt|disponible|présente?|prévue?|"
    r"montée?|proposée?)"
)
_AFTER = re.compile(
    rf"^[^.;:]{{0,40}}?\b(?:not|never|no\s+longer|nicht(?:\s+mehr)?|n'est\s+(?:pas|plus)|non)\s+(?:\w+\s+)?{_FITTED}\b|"
    r"^\s*[-–(]?\s*(?:dropped|deleted|omitted|discontinued|gestrichen|supprimée?)\b|"
    r"^[^.;:,]{0,30}?\b(?:entfällt|entfallen|fehlt|fehlen|(?:was|were|is|are|been)\s+(?:dropped|deleted|omitted|removed)|absent|missing|supprimée?|weggefallen)\b",
    re.I,
)
#: A cell that says there is none.
_CELL = re.compile(
    rf"\s*(?:-|–|—|none|no|n/?a|nein|non|kein\w*|aucune?|néant|keins|entfällt|entfallen|dropped|deleted|omitted|removed|discontinued|gestrichen|supprimée?|absent|assente|nicht|{_FITTED}?\s*:?\s*no|(?:not|nicht|non)\s+{_FITTED}|without|ohne|sans)\s*\.?\s*",
    re.I,
)
#: More than there is, or not of this kind: there may be another.
_MORE = re.compile(
    r"\b(?:second|third|2nd|other|another|further|additional|extra|more|free|spare|empty|separate|zweite\w*|dritte\w*|weitere\w*|zusätzliche\w*|freie\w*|"
    r"deuxième|autre|second|supplémentaire|libre)s?\b",
    re.I,
)
_WHOSE_IS_IT = re.compile(
    r"\b(?:drive|SSD|card|module|cover|door|cable|caddy|screws?|disque|laufwerk|karte|modul)\b(?!\s+bay)(?=.*\bnot\b)",
    re.I,
)

#: It holds under a condition: of a firmware, of what else is in the machine, of how it was tested.
CONDITION = re.compile(
    r"\b(?:from|since|with|as\s+of|after|ab|seit|mit|à\s+partir\s+d[eu]|avec)\s+(?:the\s+)?(?:firmware|BIOS|UEFI\s+version)\b|\b(?:firmware|BIOS)\s+(?:version\s+)?v?\d|"
    r"\bbatter(?:y|ie)\b.{0,60}\b(?:fills?|takes?\s+(?:the\s+)?(?:room|place|space)|in\s+place\s+of|instead\s+of|replaces?)\b|\bakku\b.{0,60}\b(?:füllt|anstelle|statt)\b|"
    r"\bbatterie\b.{0,60}\b(?:occupe|à\s+la\s+place|remplace)\b|\bwith\s+the\s+\d+(?:[.,]\d+)?\s*Wh\b|\bmit\s+(?:dem\s+)?\d+(?:[.,]\d+)?\s*-?Wh\b|"
    r"\b(?:when|if|while|once|wenn|sobald|falls|lorsque|si|quand)\b.{0,80}\b(?:slot|bay|drive|card|socket|schacht|steckplatz|baie|emplacement|sockets|slots)s?\b.{0,40}"
    r"\b(?:used|occupied|filled|populated|fitted|in\s+use|belegt|bestückt|genutzt|occupée?s?|utilisée?s?|équipée?s?)\b|"
    r"\b(?:serial|S/N|Seriennumm\w+|numéros?\s+de\s+série)\b|\b(?:from|up\s+to|before|ab|bis|vor)\s+(?=[A-Z0-9]*\d)(?=[A-Z0-9]*[A-Z])[A-Z0-9]{4,}\s+(?:on|onwards|upwards|an|aufwärts)\b|"
    r"\b(?:built|made|produced|sold|shipped|gebaut|produziert|fabriquée?s?)\s+(?:\w+\s+)?(?:from|since|until|before|after|in|ab|seit|bis|vor|depuis|avant|après)\b|"
    r"\b(?:since|until|seit|depuis|jusqu'en)\s+(?:\w+\s+)?(?:19|20)\d\d\b|"
    r"\bonly\s+(?:\w+\s+)?(?:with|when|if|while|together|alongside)\b|\bnur\s+(?:mit|bei|wenn|zusammen)\b|\b(?:seulement|uniquement|que)\s+(?:avec|si|lorsque)\b|"
    r"\b(?:tested|measured|benchmarked)\s+(?:with|on|in|using)\b|\bgetestet\s+mit\b|\bgemessen\s+mit\b|\btestée?\s+avec\b",
    re.I,
)
#: What somebody did with a machine of his own, and not what the machine is.
ANECDOTE = re.compile(
    r"\bI(?:'ve|\s+have)?\s+(?:\w+\s+)?(?:upgraded|put|installed|swapped|replaced|added|got|bought|run|use[ds]?|tried|took|ordered)\b|\b(?:on|in|with)?\s*mine\b|"
    r"\b(?:somebody|someone|others)\s+(?:else\s+)?(?:got|put|has|had|says?|said|reports?|claims?)\b|"
    r"\bich\s+(?:habe|hatte|hab)\b|\bbei\s+mir\b|\bj'ai\b|\bchez\s+moi\b",
    re.I,
)
#: A question on the page, or the number of a lot: nothing is said.
NO_STATEMENT = re.compile(
    r"\?\s*$|\?\s|\b(?:S/N|serial\s+(?:no|number)|lot|batch|charge\s+nr|los\s+nr|n°\s+de\s+série)\b[\s.:#]*\w*\d", re.I
)


class Denied(NamedTuple):
    """A place a statement denies: what is claimed of it ("" where only more than there is is denied), and where the words
    stand."""

    place: str
    name: str
    start: int
    end: int


#: A question whether there is something, and nothing else about it.
_ASKS_FOR = re.compile(
    r"\b(?:does|has|is|are|can|hat|gibt|verfügt|besitzt|a-t-(?:il|elle|on)|y\s+a-t-il|dispose)\b.*?\b(?:have|has|there|get|es|es\s+über|über|hat|il|elle|d')\s*"
    r"(?:an?|any|einen?|eine?|une?|des)\s+(?P<thing>[^?]+?)\s*\?\s*$",
    re.I,
)
_NO_ANSWER = re.compile(
    r"\s*(?:no|nein|non)\s*[.!,]?\s*(?:it\s+does\s+not|there\s+is(?:n't|\s+not|\s+none))?\s*\.?\s*", re.I
)


def denied_by_answer(question: str, answer: str) -> str:
    """What "Does it have a …?" asks for, where the whole answer is no; "" for any other question or answer."""
    asked = _ASKS_FOR.search(question) if _NO_ANSWER.fullmatch(answer) else None
    return asked["thing"] if asked and len(asked["thing"].split()) <= 4 else ""


_AND = re.compile(
    r"\s*(?:,|,?\s*(?:and|or|nor|und|oder|noch|sowie|et|ou|ni))\s*(?:the|an?|der|die|das|ein\w*|le|la|les|une?)?\s*",
    re.I,
)


def places_in(text: str) -> list[tuple[str, str]]:
    """What is counted of the places a text names."""
    return [(place, name) for place, name, words in _NAMED if words.search(text)]


def _reach(text: str, end: int, starts: Sequence[tuple[int, int]]) -> int:
    """How far what is said of a place goes: up to the next place that is not of the same list ("one bay The socket is not
    fitted" denies no bay). ``starts`` are the places of the text, in order."""
    for at, until in starts[bisect_left(starts, (end, 0)) :]:
        if at < end:
            continue
        if not _AND.fullmatch(text, end, at):
            return at
        end = until
    return len(text)


def denied_in(label: str, text: str) -> Iterator[Denied]:
    """Places denied in a row (label and cell) or a sentence."""
    whole = f"{label}: {text}" if label else text
    if label and _CELL.fullmatch(text):
        for place, name, words in _NAMED:
            if m := words.search(label):
                yield Denied(place, "" if _MORE.search(label) else name, m.start(), len(whole))
                return
        return
    named = [(place, name, list(words.finditer(whole))) for place, name, words in _NAMED]
    starts = sorted(m.span() for _, _, found in named for m in found)
    reach = -1
    for place, name, found in named:
        for m in found:
            before, after = whole[: m.start()], whole[m.end() : _reach(whole, m.end(), starts)]
            close = re.search(r"[^.;:]*$", before)
            near = close[0] if close else ""
            told = bool(_BEFORE.search(before)) or (bool(_AFTER.search(after)) and not _WHOSE_IS_IT.search(near))
            listed = reach >= 0 and re.fullmatch(
                r"\s*(?:,|or|nor|and|und|oder|noch|ni|et)\s*(?:an?\s+|ein\w*\s+|une?\s+)?",
                whole[reach : m.start()] if reach <= m.start() else "x",
                re.I,
            )
            if told or listed:
                more = _MORE.search(near[-60:]) or _MORE.search(m[0])
                yield Denied(place, "" if more else name, m.start(), m.end())
                reach = m.end()


def without(text: str, denied: list[Denied], offset: int) -> str:
    """The text without the clauses in which something is denied; ``offset`` is where it begins in the whole statement."""
    cut = text
    for d in sorted(denied, reverse=True):
        at = max(0, d.start - offset)
        start = max(
            (m.end() for m in re.finditer(r",\s+|[;(]\s*|\s(?:and|but|und|aber|et|mais)\s", text[:at])), default=0
        )
        end = next(
            (at + m.start() for m in re.finditer(r",\s|[;)]|\s(?:and|but|und|aber|et|mais)\s", text[at:])), len(text)
        )
        if re.search(_AFTER, text[max(0, d.end - offset) :]):
            end = len(text)
        cut = cut[:start] + " " + cut[end:]
    return " ".join(cut.split()).strip(" ,;")
