"""What a page says of the places for drives: M.2 slots, bays, mSATA, soldered storage.

A drive that is fitted or sold says nothing of its place. Slots are numbered as the text numbers or lists them; one that
is named again is the same one.
"""

import re
from dataclasses import dataclass, field

from .collector import Heard
from .sockets import size_and_key, wiring
from .terms import DEPENDS, FITTED, FREE, GB, NUMBER, ON_SALE, SLOT, SOLDERED, TB, number

_ANCHOR = re.compile(
    r"\bM\.2(?![.,]?\d)|\bmSATA\b|\bmini(?:[- ]?PCIe)?[- ]card\b|\beMMC\b|"
    r"\b2[.,]5\s*-?\s*(?:inch(?:es)?|in\b|\"|zoll|pouces?)(?:[- ]+(?:drive\s+|hard\s+disk\s+)?(?:bay|schacht|laufwerksschacht|baie))?|"
    r"\b(?:drive|disk)?\s?bay\b(?!\s+(?:door|cover|screw))|\b\w*schacht\b|\bbaie\b",
    re.I,
)
_BAY = re.compile(r"\bbay\b(?!\s+(?:door|cover|screw))|schacht\b|\bbaie\b", re.I)
_AERIAL = re.compile(
    r"\bWLAN\b|\bWi-?Fi\b|\bwireless\b|\bradio\b|\bfunk\b|\bsans\s+fil\b|\bréseau\b|\bWWAN\b|\bLTE\b|\b[45]G\b|\bcellular\b|\bmodem\b|\bkey[- ]?[AE]\b|\b[AE][- ]key\b|\bclé\s+[AE]\b|\b802\.11",
    re.I,
)
_DRIVE_NOUN = re.compile(
    r"\bSSDs?\b|\bdrives?\b|\bdis[kc]s?\b|\bdisques?\b|\blaufwerk\w*|\bfestplatte\w*|\bHDDs?\b", re.I
)
_CAPACITY = re.compile(rf"(?<![\d.,])\d+(?:[.,]\d+)?\s*(?:{GB}|{TB})", re.I)
_SLOTTISH = re.compile(r"slots?\b|sockets?\b|steckpl|emplacement|^M\.2$|\bbay\b|schacht|baie|msata", re.I)
_STORAGE = re.compile(r"storage|solid[- ]state|massenspeicher|stockage|^SSD$|^drives?$|^laufwerk\w*$|^disques?$", re.I)
_SECOND = re.compile(
    r"\b(?:second|2nd|another|additional|further|secondary|zweite\w*|weitere\w*|zusätzliche\w*|deuxième|seconde?|autre|supplémentaire)\b|\b(?:slot|steckplatz|emplacement)\s+2\b|#2",
    re.I,
)
_FIRST = re.compile(
    r"\b(?:first|1st|primary|erste\w*|premi(?:er|ère))\b|\b(?:slot|steckplatz|emplacement)\s+1\b|#1", re.I
)
_THIRD = re.compile(r"\b(?:third|3rd|dritte\w*|troisième)\b|\b(?:slot|steckplatz|emplacement)\s+3\b|#3", re.I)
_COUNT = (
    re.compile(rf"(?<![\d./-])\b({NUMBER})\s*(?:x\s*)?(?:\w+\s+)?(?:emplacements?\s+)?M\.2", re.I),
    re.compile(r"\bM\.2[^,;]*\)\s*x\s?([2-4])\b(?!\s?\d)"),
    re.compile(rf"\bM\.2(?:\s+\w+)?[- ](?:slots?|steckpl\w+|sockets?)\s*:\s*({NUMBER})\b(?!\d|x)", re.I),
)
#: What stands right before a slot's name and belongs to it.
_COUNTED = re.compile(
    rf"\b(?:(?:the|a|an|der|ein\w*|le|un)\s+)?(?:second|first|third|another|additional|further|zweite\w*|erste\w*|weitere\w*|deuxième|premier|{NUMBER}\s*x?)\s+(?:emplacement\s+)?$",
    re.I,
)
#: Words that deal out what was counted: "one 2280, the other 2242".
_DEALT = re.compile(
    r"\bthe\s+(?:first|second|third|other|one)\b|\bone\b(?!\s+with)|\b(?:der|die|das)\s+(?:erste|zweite|dritte|andere|eine)\b|\beiner\b|\b(?:le|la)\s+(?:premi(?:er|ère)|seconde?|deuxième|troisième)\b|\bl'(?:un|autre)\b|\bslot\s+[12]\b",
    re.I,
)
_NONE = re.compile(r"^(?:[^:]*:)?\s*(?:no|none|keine?r?|aucune?|nein|non|without)\b", re.I)
_HEIGHT = re.compile(r"(?<![\d.,])(5|7|9[.,]5|12[.,]5|15)\s*-?\s*mm\b(?!\s*(?:long|wide|screw|lang|breit))")
_LIMIT = re.compile(
    rf"\b(?:drives?|SSDs?|cards?|disks?|laufwerke|festplatten|disques)\s+(?:of\s+|with\s+|mit\s+|de\s+)?(?:up\s+to|bis(?:\s+zu)?|max\w*\.?|jusqu'à)\s+(\d{{1,4}}(?:[.,]\d)?)\s*({GB}|{TB})",
    re.I,
)
_THE_SLOT = re.compile(
    r"\b(?:the|this|der|dieser|le|cet?)\s+(?:drive\s+)?(?:M\.2[- ])?(?:slot|socket|steckplatz|emplacement)\b|\b(?:it|er|il)\s+(?:is\s+)?wired\b",
    re.I,
)
_SIDE = re.compile(
    r"\b(?:left|right|upper|lower|top|bottom|front|rear|linker?|rechter?|oberer?|unterer?|gauche|droite?|supérieur|inférieur)\b",
    re.I,
)
#: "The drive slot, M.2 2280, is wired …"
_LED_IN = re.compile(r"\b(?:drive|SSD)[- ](?:slot|socket)\s*[,(]\s*$", re.I)


#: A sentence that names more places than this is none.
_MOST_PLACES = 12


@dataclass
class Drives:
    """The M.2 drive slots named so far, by number; ``counted`` is how many the page says there are."""

    highest: int = 0
    counted: int = 0
    ambiguous: bool = False
    #: A drive on a card is named apart from any slot; a slot is said to be free.
    fitted: bool = False
    free: bool = False
    #: There are more than are described.
    more: bool = False
    #: Told apart by where they lie.
    sides: dict[str, int] = field(default_factory=dict)
    #: A sentence may count slots of its own, by the line it stands in.
    lists: dict[int, int] = field(default_factory=dict)


def read_drives(heard: Heard, topic: str, drives: Drives) -> None:
    """What a statement claims of drive places: how many, their forms, wiring, and what sits in them."""
    text = heard.statement.whole
    anchors = _anchors(text)
    if (numbered := _NUMBERED_DRIVE.fullmatch(heard.statement.label.strip())) and len(anchors) < 2:
        _numbered(heard, drives, int(numbered[1]), text)
        return
    if not anchors:
        if drives.highest == 1 and _THE_SLOT.search(text) and not _AERIAL.search(text) and topic in ("", "storage"):
            _attributes(heard, "drive-1", text, 0, len(text))
        if topic == "storage" and drives.highest and SLOT.search(text) and _SECOND.search(text):
            drives.more = True
        return
    if DEPENDS.search(text) or len(anchors) > _MOST_PLACES:
        return
    for i, anchor in enumerate(anchors):
        start = _beginning(text, anchor.start(), anchors[i - 1].end() if i else 0)
        end = _beginning(text, anchors[i + 1].start(), anchor.end()) if i + 1 < len(anchors) else len(text)
        _one(heard, topic, drives, text, anchor, start, end)


#: "SSD 1: 2280, PCIe Gen 4 ×4": a place for a drive by its number.
_NUMBERED_DRIVE = re.compile(r"(?:SSD|NVMe|drive|storage|laufwerk|disque)\s*(?:slot\s*)?#?([1-4])", re.I)


#: A place by its number, letter or turn: that there is a first says nothing of how many there are.
ORDERED = re.compile(
    rf"{_FIRST.pattern}|{_SECOND.pattern}|{_THIRD.pattern}|\b(?:SSD|NVMe|drive|storage|laufwerk|disque|slot|steckplatz|emplacement)\s*#?(?:[1-4]|[A-D])\b",
    re.I,
)


def _numbered(heard: Heard, drives: Drives, number_: int, text: str) -> None:
    start = len(heard.statement.label) + 2
    part = text[start:]
    told = [*size_and_key(part), *wiring(part)]
    if not told or _CAPACITY.search(_LIMIT.sub("", part)) or FITTED.search(part) or ON_SALE.search(part):
        return  # a drive, and not its place
    drives.highest = max(drives.highest, number_)
    heard.claim("m2_drive", "named", number_, heard.scope.at(0))
    _attributes(heard, f"drive-{number_}", part, start, len(text))


def _anchors(text: str) -> list[re.Match[str]]:
    """Where places are named; "bay, 2.5 inch" names one."""
    found: list[re.Match[str]] = []
    for m in _ANCHOR.finditer(text):
        gap = text[found[-1].end() : m.start()] if found else ""
        bays = found and all(_BAY.search(a[0]) or a[0].startswith("2") for a in (found[-1], m))
        if not (bays and (re.fullmatch(r"[\s:(,-]*", gap) or (len(gap) < 25 and not re.search(r"[,;(]|\band\b", gap)))):
            found.append(m)
    return found


def _beginning(text: str, at: int, after: int) -> int:
    """Where the words that belong to an anchor begin: at the last comma, "and" or bracket before it."""
    borders = [
        m.end() for m in re.finditer(r"[,;(]\s*|\s(?:and|und|et|plus|or|oder|ou|sowie|\+)\s+|:\s+", text[after:at])
    ]
    if borders:
        return after + borders[-1]
    counted = _COUNTED.search(text[after:at])
    return 0 if after == 0 else after + counted.start() if counted else at


def _one(heard: Heard, topic: str, drives: Drives, text: str, anchor: re.Match[str], start: int, end: int) -> None:
    part, word = text[start:end], anchor[0].lower()
    whose = heard.scope.at(anchor.start(), start, end)
    label = heard.statement.label
    if word == "emmc":
        if (SOLDERED.search(part) or _CAPACITY.search(part)) and not ON_SALE.search(text):
            heard.claim("emmc", "count", 1, whose)
        return
    if ON_SALE.search(heard.statement.text) and not _BAY.search(part):
        return
    if "2.5" in word or "2,5" in word or _BAY.search(word):
        if _BAY.search(part) or _BAY.search(label):
            _bay(heard, text, part, start, end, whose)
        return
    if word.startswith(("msata", "mini")):
        _mini(heard, topic, part, start, end, whose)
        return
    if _AERIAL.search(part) or topic in ("radio", "cellular"):
        return
    led_in = _LED_IN.search(text[:start]) if start < anchor.start() + 1 else None
    slottish = (
        SLOT.search(part)
        or (led_in and not _ANCHOR.search(text[: led_in.start()]))
        or _SLOTTISH.search(label)
        or re.search(rf"\b{NUMBER}\s?x\s+M\.2", part[: anchor.end() - start], re.I)
    )
    bare = _STORAGE.search(label) and not _DRIVE_NOUN.search(part)
    # A capacity before the slot's own words is a drive's; "drives up to 2 TB" is the slot's.
    if (_CAPACITY.search(_LIMIT.sub("", part)) or FITTED.search(part)) and not SLOT.search(part):
        drives.fitted = True
        return
    if not slottish and not bare:
        return
    drives.free = drives.free or bool(FREE.search(part) or FREE.search(label))
    if ON_SALE.search(part):
        return
    _slot(heard, drives, text, part, anchor, start, end)


def _slot(heard: Heard, drives: Drives, text: str, part: str, anchor: re.Match[str], start: int, end: int) -> None:
    whose = heard.scope.at(anchor.start(), start, end)
    lead = text[start : anchor.end()]
    count = next((number(m[1]) for p in _COUNT for m in p.finditer(part) if m.start() < anchor.end() - start + 20), 0)
    side = _SIDE.search(text[start : anchor.end() + 12])
    whole = heard.statement.label + " " + lead
    if side:
        numbers = [drives.sides.setdefault(side[0].lower(), len(drives.sides) + 1)]
    elif _THIRD.search(whole):
        numbers = [3]
    elif _SECOND.search(whole):
        numbers = [max(2, drives.highest)] if drives.highest != 1 else [2]
    elif _FIRST.search(whole):
        numbers = [1]
    elif count > 1:
        if drives.highest and drives.counted != count and drives.highest != count:
            drives.ambiguous = True
        numbers, drives.counted = list(range(1, count + 1)), max(drives.counted, count)
    elif count == 1 and drives.highest and drives.lists.get(heard.statement.line) and not heard.statement.configuration:
        numbers = [drives.highest + 1]  # "1× M.2 …; 1× M.2 …"
    elif drives.counted > 1:
        drives.ambiguous = True  # which of them?
        heard.ask("drive.place", "Several slots were counted: of which does this speak?")
        return
    else:
        numbers = [1]
    if count == 1:
        drives.lists[heard.statement.line] = 1
    drives.highest = max(drives.highest, *numbers)
    heard.claim("m2_drive", "named", max(numbers), whose)
    rest = anchor.end() - start
    dealt = [rest + m.start() for m in _DEALT.finditer(part[rest:])]
    if len(dealt) > 1 or (dealt and len(numbers) > 1):
        if len(dealt) != len(numbers):
            heard.ask("drive.place", "It deals out what it counted: which slot is which?")
            return
        for n, a, b in zip(numbers, dealt, [*dealt[1:], len(part)], strict=True):
            _attributes(heard, f"drive-{n}", part[a:b], start + a, start + b)
        return
    for n in numbers:
        _attributes(heard, f"drive-{n}", part, start, end)


def _attributes(heard: Heard, place: str, part: str, start: int, end: int) -> None:
    for said in (*size_and_key(part, start), *wiring(part, start)):
        whose = heard.scope.at(said.at, start, end, said.wiring)
        if said.name.startswith("?"):
            heard.ask(f"{place}.{said.name[1:]}", "The text leaves its list of sizes open: which hold-downs are there?")
        else:
            heard.claim(place, said.name, said.value, whose)
    if m := _LIMIT.search(part):
        heard.claim(place, "drive_limit_gb", _gb(m), heard.scope.at(start + m.start(), start, end))


def _gb(m: re.Match[str]) -> int:
    figure = float(m[1].replace(",", "."))
    return round(figure * 1000) if m[2].upper().startswith("T") else round(figure)


#: The word alone is a heading that has lost what stood under it.
_BARE_BAY = re.compile(r"\W*(?:drive\s+)?(?:bays?|schacht|baie)\W*", re.I)


def _bay(heard: Heard, text: str, part: str, start: int, end: int, whose: str) -> None:
    if _NONE.search(text if heard.statement.label else part):
        heard.claim("bay", "count", 0, whose)
        return
    if re.search(r"\?", part) or ON_SALE.search(part) or _BARE_BAY.fullmatch(heard.statement.whole):
        return
    heard.claim("bay", "count", 1, whose)
    heights = {round(float(m[1].replace(",", ".")) * 1000) for m in _HEIGHT.finditer(part)}
    if len(heights) == 1:
        heard.claim("bay", "height_um", heights.pop(), whose)
    for said in wiring(part, start):
        if said.name == "sata" and said.value:
            heard.claim("bay", "sata", said.value, heard.scope.at(said.at, start, end, True))
    if m := _LIMIT.search(part):
        heard.claim("bay", "drive_limit_gb", _gb(m), whose)


def _mini(heard: Heard, topic: str, part: str, start: int, end: int, whose: str) -> None:
    if topic in ("radio", "cellular") or _AERIAL.search(part):
        return
    if _CAPACITY.search(part) or not (SLOT.search(part) or heard.statement.label.lower().startswith("msata")):
        return
    heard.claim("msata", "count", 1, whose)
    for size in ("full", "half"):
        if re.search(rf"\b{size}[- ](?:size|height|length)", part, re.I):
            heard.claim("msata", "mini_sizes", size, whose)
    for said in wiring(part, start):
        if said.name == "sata":
            heard.claim("msata", "sata", said.value, heard.scope.at(said.at, start, end, True))
