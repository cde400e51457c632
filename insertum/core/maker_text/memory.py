"""What a page says of memory: chips on the board, sockets, what they take, how fast they run.

Not claimed: what is fitted or sold, what a platform could do, and any sum. "Up to 16 GB" beside soldered chips is left
open, because it may mean either the socket or all.
"""

import re

from ..standards import ddr
from .collector import Clause, Heard, clauses
from .terms import FITTED, FREE, GB, NO, NUMBER, ON_SALE, SOLDERED, number

_SPEAKS = re.compile(
    r"\bSO-DIMM|\bDIMMs?\b|\bmemory\b|\bRAM\b|arbeitsspeicher|\b(?:LP)?DDR\d|\bmémoire\b|\bmodules?\b|\bbarrettes?\b|\d MT/s",
    re.I,
)
_OTHER = re.compile(
    r"\bSSD\b|\bHDD\b|\bdrives?\b|\bstorage\b|\bdis[kc]s?\b|\bdisques?\b|\beMMC\b|\bM\.2\b|\bbay\b|\blaufwerk|\bfestplatte|\bgraphics?\b|\bWi-?Fi\b|\bWLAN\b|\bradio\b|\bsans\s+fil\b|\bprocessor\b|\bbattery\b|\bflash\b|\bcache\b|\bstockage\b",
    re.I,
)
_SOCKET_WORD = r"(?:sockets?|slots?|connectors?|sockel|steckpl(?:atz|ätze)n?)"
_KIND = r"(?:SO-DIMM|DIMM|memory(?:\s+modules?)?|RAM|speicher|arbeitsspeicher|modul\w*)"
_SOCKETS = (
    re.compile(rf"(?<![\d./-])\b({NUMBER})\s*(?:x\s*)?(?:(?:accessible|DDR\dL?(?:-\d+)?)\s+)?{_KIND}[- ]{{0,1}}(?:DDR\dL?(?:-\d+)?\s+)?{_SOCKET_WORD}\b", re.I),
    re.compile(rf"(?<![\d./-])\b({NUMBER})\s*x\s*SO-DIMM\b", re.I),
    re.compile(rf"\b({NUMBER})\s+emplacements?\s+(?:SO-DIMM|mémoire|de\s+mémoire|pour\s+(?:la\s+)?mémoire)", re.I),
    re.compile(rf"\b(?:memory|RAM|SO-DIMM|speicher|arbeitsspeicher)[- ]{_SOCKET_WORD}\s?:\s*({NUMBER})\b(?!\s*x?\s*\d)", re.I),
    re.compile(rf"\bspeichersteckplätze\s?:\s*({NUMBER})\b", re.I),
    re.compile(rf"\bemplacements?\s+(?:SO-DIMM|mémoire)\s?:\s*({NUMBER})\b", re.I),
)  # fmt: skip
_BARE_SOCKETS = re.compile(rf"(?<![\d./-])\b({NUMBER})\s+(?:{_SOCKET_WORD}|emplacements?)\b(?!\s+M\.2)", re.I)
_NO_SOCKET = re.compile(
    rf"\b(?:no|without\s+(?:a\s+)?)\s*(?:free\s+)?(?:{_KIND}\s*)?{_SOCKET_WORD}\b|\bkein\w*\s+(?:\w+-?)?steckpl|\bohne\s+(?:\w+-?)?steckpl|"
    r"\baucun\s+emplacement|\bsans\s+emplacement|\b(?:not|cannot\s+be|non|nicht)\s+(?:be\s+)?(?:expand|upgrad|extensible|erweiter|aufrüst)\w*",
    re.I,
)
_MORE = re.compile(
    r"\banother\b|\bthe\s+other\b|\bthe\s+second\b|\bzweite\w*\b|\bweitere\w*\b|\bl'autre\b|\bun\s+autre\b|\bdeuxième\b",
    re.I,
)
_GENERATION = re.compile(r"(?<![A-Za-z])DDR([345])L?\b", re.I)
_GRADE = re.compile(r"(?<![A-Za-z])DDR[345]L?-(\d{3,5})\b", re.I)
_CHIP_GRADE = re.compile(r"\b(?:LP)?DDR\d[A-Z]?-(\d{3,5})\b", re.I)
_UP_TO = re.compile(
    rf"(?:\bup\s+to|\bbis(?:\s+zu)?|\bjusqu'à|\bexpandable\s+to|\berweiterbar\s+(?:auf|bis)|\bextensible\s+(?:à|jusqu'à))\s+(\d{{1,3}})\s*{GB}",
    re.I,
)
_MOST = re.compile(
    rf"(?:\bmax(?:imum|imal|imale|\.)?|\bat\s+most|\blimited\s+to|\bbegrenzt\s+auf|\blimitée?\s+à|\bdépasser|\bnot\s+exceed|\bhöchstens)\s*(?:of|von|de|:)?\s*(?:\w+\s*:\s*)?(\d{{1,3}})\s*{GB}|"
    rf"(?<!\w)(\d{{1,3}})\s*{GB}\s*(?:\w+\s+)?(?:max(?:imum|imal|\.)?\b|in\s+all\b|in\s+total\b|insgesamt\b|au\s+total\b|au\s+maximum\b)",
    re.I,
)
_TOTAL = re.compile(
    r"\bin\s+all\b|\btotale?\b|\bin\s+total\b|\baltogether\b|\binsgesamt\b|\bgesamt\w*|\bau\s+total\b", re.I
)
_TAKES = re.compile(rf"\b(?:takes?|holds?|nimmt|fasst|accepte|supports?|unterstützt)\s+(\d{{1,3}})\s*{GB}", re.I)
_LABEL_MOST = re.compile(
    r"\bmax(?:imum|imal\w*|\.)?\b|\b(?:upper\s+)?limit\b|\bceiling\b|\bobergrenze\b|\bplafond\b|\bgrößter\b|\bhöchst",
    re.I,
)
_EACH = re.compile(
    r"\beach\b|\bper\s+(?:socket|slot|module)|\bpro\s+(?:steckplatz|modul|sockel)|\bje\s+(?:steckplatz|modul)|\bpar\s+(?:emplacement|barrette|module)|"
    r"\bchacun\w*|\bmodules?\s+(?:of|with)\s+(?:up\s+to|max)|\bmodulen?\s+(?:mit|von)\s+bis|\bbarrettes?\s+de\s+(?:jusqu'à|\d)|\bmodule\s+of\s+up",
    re.I,
)
_PER_SOCKET = re.compile(
    rf"(?<![\d.,])(\d{{1,3}})\s*{GB}\s+(?:each\b|per\s+(?:socket|slot|module)|(?:pro|je)\s+(?:steckplatz|modul|sockel)|par\s+(?:emplacement|barrette))",
    re.I,
)
_RATE = r"(\d{3,5})\s*(MT/s|MT\b|MHz)"
_RUNS = re.compile(
    rf"(?:\bruns?\b|\brunning\b|\bclock(?:ed)?\b|\bspeed\b|\bspeichertakt\w*|\bfréquence\b|\bläuft\b|\blaufen\b|\bgetaktet\b|\btakt\w*|\bfonctionne\w*|\bcadencée?\b|\bvitesse\b|\bgeschwindigkeit\b)[^\d;.]{{0,30}}{_RATE}",
    re.I,
)
_BY_MODULES = re.compile(
    rf"\b(?:with\s+|mit\s+|avec\s+)?({NUMBER})\s+(?:modules?|modulen?|barrettes?|SO-DIMMs?)\b(?:(?!\b(?:and|und|et|per|pro|par)\b)[^\d;.,]){{0,30}}{_RATE}",
    re.I,
)
_DENSITY = re.compile(r"(?:\bup\s+to|\bbis(?:\s+zu)?|\bjusqu'à|\bmax\w*\.?)\s+(\d{1,2})\s*(?-i:Gb(?:it)?)\b(?!/)", re.I)
_NO_ECC = re.compile(rf"\bnon-?\s?ECC\b|\b{NO}\s+ECC\b|\bECC\s+(?:is\s+)?not\s+supported|\bECC\s+nicht", re.I)
_VOLTAGE = re.compile(r"\b1[.,](1|2|35|5)0?\s*V\b")
_VOLTS = {"1": 1100, "2": 1200, "35": 1350, "5": 1500}
#: "Both slots take up to 32 GB": each, or together?
_ALL_OF_THEM = re.compile(r"\b(?:both|all|beiden?|alle|les\s+deux|tous)\b", re.I)
#: A ceiling of one of these sizes, beside chips on the board, may be a module's.
_MODULES_GB = frozenset((1, 2, 4, 8, 16, 32, 64))
_GRADES = {g for grades in ddr.GRADES.values() for g in grades}


def read_memory(heard: Heard, topic: str) -> None:
    """What a statement claims of memory: sockets, soldered chips, limits, generation and speed."""
    text, scope = heard.statement.whole, heard.scope
    if not (topic == "memory" or _SPEAKS.search(text)):
        return
    parts = [c for c in clauses(text) if not (_OTHER.search(c.text) and not _SPEAKS.search(c.text))]
    sold = bool(ON_SALE.search(heard.statement.text))
    soldered = _soldered(heard, parts, topic)
    if sold:
        return
    sockets = _sockets(heard, text, topic)
    most = _ceilings(heard, parts, text, topic, soldered)
    typed = bool(re.search(r"\btype?n?\b|\btyp\b", heard.statement.label, re.I))
    fitted = _module_named(text)
    if (sockets or most or typed or re.search(r"\bsockets?\b", text, re.I)) and not fitted:
        _types(heard, parts, soldered)
    by_modules = speeds_by_population(text)
    for at, modules, rate in by_modules:
        heard.claim("memory", "speed_by_modules", f"{modules}:{rate}", scope.at(at))
    if not by_modules and not _BY_MODULES.search(text):
        _speed(heard, parts, bool(sockets or most or typed) and not fitted)
    if m := _DENSITY.search(text):
        heard.claim("memory", "density_gbit", int(m[1]), scope.at(m.start()))
    if m := _NO_ECC.search(text):
        heard.claim("memory", "module_types", ["S"], scope.at(m.start()))
    if (m := _VOLTAGE.search(text)) and topic == "memory":
        heard.claim("memory", "voltage_mv", _VOLTS[m[1]], scope.at(m.start()))


#: "With both sockets filled memory runs at …": two modules, where both are all there are.
_BOTH = re.compile(
    r"\b(?:both|beide\w*|les\s+deux)\s+(?:memory\s+|SO-DIMM\s+)?(?:sockets?|slots?|sockel|steckplätze\w*|emplacements?)\b.{0,20}"
    r"\b(?:filled|populated|fitted|used|belegt|bestückt|occupés?|équipés?)\b",
    re.I,
)


#: "… with one module", behind the rate.
_WITH_MODULES = re.compile(rf"\b(?:with|mit|avec)\s+({NUMBER})\s+(?:modules?|modulen?|barrettes?|SO-DIMMs?)\b", re.I)
_ANY_RATE = re.compile(_RATE)


def speeds_by_population(text: str) -> list[tuple[int, int, int]]:
    """(where, modules, MT/s) of what a sentence says memory runs at with so many modules. Each rate is of the population its
    own part of the sentence names; where one names none, or two, none of them is said."""
    whole = [(m.start(), number(m[1]), int(m[2])) for m in _BY_MODULES.finditer(text) if int(m[2]) in _GRADES]
    rates = [m for m in _ANY_RATE.finditer(text) if int(m[1]) in _GRADES]
    if whole and len(whole) == len(rates):
        return whole
    found = []
    for part in re.finditer(r"(?:(?!,\s|;|\b(?:and|but|und|aber|et|mais)\b).)+", text):
        here = [m for m in rates if part.start() <= m.start() < part.end()]
        populations = {2} if _BOTH.search(part[0]) else set()
        populations |= {number(m[1]) for m in _WITH_MODULES.finditer(part[0])}
        if here and (len(here) > 1 or len(populations) > 1):
            return []
        if here:
            found.append((part.start(), populations, int(here[0][1])))
    if len(found) == 1 and not found[0][1]:  # "memory runs at 2666 MT/s, and both sockets are filled"
        everywhere = ({2} if _BOTH.search(text) else set()) | {number(m[1]) for m in _WITH_MODULES.finditer(text)}
        found = [(found[0][0], everywhere, found[0][2])]
    if any(len(populations) != 1 for _, populations, _ in found):
        return []
    return [(at, populations.pop(), rate) for at, populations, rate in found]


def _module_named(text: str) -> bool:
    """Does a size stand there that is neither a ceiling nor on the board? Then a module is spoken of, and type and grade
    may be its own."""
    rest = text
    for pattern in (_UP_TO, _MOST, _TAKES):
        rest = pattern.sub(" ", rest)
    if _LABEL_MOST.search(text.partition(":")[0]):
        return False
    return any(
        re.search(rf"\d\s*{GB}", c.text) and not SOLDERED.search(c.text) and not _EACH.search(c.text)
        for c in clauses(rest)
    )


def _soldered(heard: Heard, parts: list[Clause], topic: str) -> bool:
    """Claims chips on the board; True where the statement speaks of any."""
    text = heard.statement.whole
    here = [c for c in parts if SOLDERED.search(c.text) and not _OTHER.search(c.text)]
    if not here or not (topic == "memory" or _SPEAKS.search(text)):
        return False
    for clause in here:
        figures = list(re.finditer(rf"(?<![\d.,])(\d{{1,3}})\s*{GB}", clause.text))
        offset = clause.start
        if not figures and len(all_ := list(re.finditer(rf"(?<![\d.,])(\d{{1,3}})\s*{GB}", text))) == 1:
            figures, offset = all_, 0  # "8 GB LPDDR4X, soldered" and "Soldered memory: 4 GB"
            if _LABEL_MOST.search(text):
                continue
        if len(figures) > 1 or (figures and (_UP_TO.search(clause.text) or ON_SALE.search(text))):
            heard.ask("memory.soldered_gb", "Several sizes are on sale: how much is on this board?")
            continue
        for m in figures:
            whose = heard.scope.at(offset + m.start())
            heard.claim("memory", "soldered_gb", int(m[1]), whose)
            near = text[max(0, clause.start - 30) : clause.start + len(clause.text)] if offset == 0 else clause.text
            if grade := _CHIP_GRADE.search(near):
                heard.claim("memory", "soldered_mts", int(grade[1]), whose)
    return True


def _sockets(heard: Heard, text: str, topic: str) -> bool:
    """Claims how many sockets there are; True where it did."""
    if m := _NO_SOCKET.search(text):
        heard.claim("memory", "sockets", 0, heard.scope.at(m.start()))
        return True
    matches = [m for pattern in _SOCKETS for m in pattern.finditer(text)]
    if not matches and topic == "memory" and not re.search(r"M\.2|\bSIM\b|\bcard\b", text):
        matches = list(_BARE_SOCKETS.finditer(text))
    if re.search(rf"\b(?:{_KIND})[- ]{_SOCKET_WORD}$", heard.statement.label, re.I) and re.match(
        r"\s*(?:none|keiner?|aucun)\b", heard.statement.text, re.I
    ):
        heard.claim("memory", "sockets", 0, heard.scope.at(len(heard.statement.label)))
        return True
    # "One free socket" counts the free ones; "2 sockets, one free" counts all.
    matches = [
        m
        for m in matches
        if not FREE.search(m[0])
        and not re.match(
            r"\s*(?:is\s+|are\s+|ist\s+|sind\s+)?(?:free|empty|frei|leer|libres?)\b", text[m.end() :], re.I
        )
    ]
    either = any(re.match(r"\s*(?:/|-|or|oder|ou|bis|to)\s*\d", text[m.end(1) :], re.I) for m in matches)
    if matches and (either or _MORE.search(text) or len({number(m[1]) for m in matches}) > 1):
        heard.ask("memory.sockets", "It names sockets one by one: how many are there?")
        return False
    if matches and FITTED.search(text) and not re.search(rf"{_SOCKET_WORD}|emplacement", matches[0][0], re.I):
        return False  # "2 x SO-DIMM fitted" counts modules
    for m in matches[:1]:
        heard.claim("memory", "sockets", number(m[1]), heard.scope.at(m.start()))
    return bool(matches)


def _ceilings(heard: Heard, parts: list[Clause], text: str, topic: str, soldered: bool) -> bool:
    """Claims what a socket or all of it takes at most; True where it did."""
    said = False
    if re.search(r"\bsolder\w*|gelötet|\bsoudé", heard.statement.label, re.I):
        return False
    for clause in parts:
        if _OTHER.search(clause.text) or (FITTED.search(clause.text) and not _TOTAL.search(clause.text)):
            continue
        if SOLDERED.search(clause.text) and not _MOST.search(clause.text):
            continue
        total = bool(_TOTAL.search(clause.text))
        m: re.Match[str] | None = _MOST.search(clause.text) or _PER_SOCKET.search(clause.text)
        bare = False
        if m is None:
            m = _UP_TO.search(clause.text)
            bare = m is not None and not total
        if m is None and total:
            m = _TAKES.search(clause.text)
        if m is None and heard.statement.label and _LABEL_MOST.search(heard.statement.label) and topic == "memory":
            m = re.match(rf"\s*(\d{{1,3}})\s*{GB}", clause.text)
        if m is None:
            continue
        value = int(next(g for g in m.groups() if g))
        whose = heard.scope.at(clause.start + m.start(), wiring=True)
        if not 1 <= value <= 512:
            continue
        if _EACH.search(clause.text) and not total:
            heard.claim("memory", "socket_limit_gb", value, whose)
        elif _ALL_OF_THEM.search(clause.text) and not total:
            heard.ask("memory.total_limit_gb", f"Do the sockets take {value} GB each, or all of them together?")
        elif soldered and (bare or (value in _MODULES_GB and not total and _socketed(text))):
            heard.ask(
                "memory.total_limit_gb",
                f"Are the {value} GB all there can be, or what the socket takes beside the board's own?",
            )
        else:
            several = bare and _socketed(text)
            heard.claim(
                "memory", "total_limit_gb", value, whose,
                doubt="Is it all of them together, or each socket?" if several else "",
            )  # fmt: skip
        said = True
    times = re.search(rf"(?<![\d.,])([1-4])\s*x\s*(\d{{1,3}})\s*{GB}", text)
    ceiling = _MOST.search(text)
    if said and times and ceiling and not soldered:
        whole = int(next(g for g in ceiling.groups() if g))
        if int(times[1]) * int(times[2]) == whole:  # "max. 64 GB (2 x 32 GB)"
            heard.claim("memory", "socket_limit_gb", int(times[2]), heard.scope.at(times.start()))
    return said


def _socketed(text: str) -> bool:
    return bool(re.search(rf"{_SOCKET_WORD}|\bSO-DIMM|emplacement", text, re.I)) and not _NO_SOCKET.search(text)


def _types(heard: Heard, parts: list[Clause], soldered: bool) -> None:
    found: dict[int, str] = {}
    for clause in parts:
        if FITTED.search(clause.text) or SOLDERED.search(clause.text):
            continue
        for m in _GENERATION.finditer(clause.text):
            found.setdefault(int(m[1]), heard.scope.at(clause.start + m.start()))
    if len(found) > 1:
        heard.ask("memory.generation", "It names several generations: which is this machine's?")
    for generation, whose in list(found.items())[:1] if len(found) == 1 else []:
        heard.claim("memory", "generation", generation, whose)


def _speed(heard: Heard, parts: list[Clause], of_sockets: bool) -> None:
    found: dict[int, str] = {}
    for m in _RUNS.finditer(heard.statement.whole):
        rate = int(m[1])
        if rate in _GRADES and (m[2].startswith("MT") or rate >= 1866 or "DDR3" in heard.statement.whole):
            found[rate] = heard.scope.at(m.start(), wiring=True)
    runs = bool(found)
    if not found and of_sockets:
        for clause in parts:
            if FITTED.search(clause.text) or SOLDERED.search(clause.text):
                continue
            for m in _GRADE.finditer(clause.text):
                found[int(m[1])] = heard.scope.at(clause.start + m.start())
    if len(found) > 1 and len(set(found.values())) == 1:
        heard.ask("memory.speed_mts", "It names several rates: how fast does this machine run memory?")
        return
    for rate, whose in found.items():
        doubt = "" if runs else "It names the kind of memory by its grade: does memory run at it here?"
        heard.claim("memory", "speed_mts", rate, whose, doubt=doubt)
