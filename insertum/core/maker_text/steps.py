"""What a manual says of the way in: its numbered steps, with screws, their drive and length."""

import re

from .collector import Heard
from .terms import DEPENDS, NUMBER, number

_DOES = re.compile(
    r"\b(?:remove|loosen|unscrew|lift|take|pry|open|disconnect|unplug|detach|slide|release|pull|peel|undo)\w*\b|\b(?:entfernen|lösen|nehmen|heben|ziehen|trennen|öffnen|schrauben|drehen|hebeln|lockern)\b|\b(?:retirez|dévissez|déposez|desserrez|soulevez|débranchez|ouvrez|enlevez|tirez|glissez|détachez)\b",
    re.I,
)
_UNPLUGS = re.compile(r"\bdisconnect\w*|\bunplug\w*|\btrennen\b|stecker\s+ab\b|\bdébranch\w*|\bdéconnect\w*", re.I)
_SCREW = r"(?:screws?|\w*schrauben?|vis)\b"
_COUNT = re.compile(rf"\b({NUMBER})\s+(?:[\w#-]+\s+){{0,4}}?(?:[\w-]*\s?){_SCREW}", re.I)
_COUNT_OF = re.compile(rf"\(\s*({NUMBER})\s+{_SCREW}\s*\)", re.I)
_TOOL = re.compile(r"\b(PH\s?[0-3]{1,2}|T\s?[3-9]|T\s?1[05]|PL\s?[0-6]|JIS\s?0{1,3})\b")
_CROSS = re.compile(
    r"\bcross-?head\s+#?(0{1,3}|[012])\b|\bkreuzschlitz\w*\s+(?:gr\w+\s+)?#?(0{1,3}|[012])\b|\bcruciformes?\s+(?:n°\s*)?#?(0{1,3}|[012])\b",
    re.I,
)
_LENGTH = re.compile(
    r"\bM\s?\d(?:[.,]\d)?\s?x\s?(\d{1,2}(?:[.,]\d)?)\s*(?:mm|l\b)?|(?<![\d.,])(\d{1,2}(?:[.,]\d)?)\s?mm\s+(?:long|lang|de\s+long)",
    re.I,
)
_CAPTIVE = re.compile(r"\bcaptive\b|\bunverlierbar\w*|\bimperdables?\b|\bprisonni[eè]re?s?\b", re.I)
_MAINS = re.compile(
    r"\bAC\b|\bpower\s+(?:cord|adapter)|\badapter\b|\bperipherals?\b|\bnetzteil\b|\bnetzkabel|\bsecteur\b", re.I
)
#: What comes off, and the words for it with the verb's other half.
_THINGS = (
    ("shield", re.compile(r"\bshield\w*|\babschirm\w*|\bblindage\b", re.I)),
    ("grille", re.compile(r"\bgrille?\b|\bgitter\b|\bgril\b", re.I)),
    ("strip", re.compile(r"\brubber\s+strips?\b|\bgummileiste\w*|\bbande\s+(?:de\s+)?caoutchouc", re.I)),
    ("feet", re.compile(r"\bfeet\b|\bgummifüße\b|\bfüße\b|\bpieds\b|\bpatins\b", re.I)),
    ("cap", re.compile(r"\bscrew\s+caps?\b|\bplugs\s+over\s+the\s+screws\b|\babdeckkappe\w*|\bcapuchons?\b", re.I)),
    ("sticker", re.compile(r"\bsticker\b|\baufkleber\b|\bautocollant\b", re.I)),
    ("flap", re.compile(r"\bflap\b|\bklappe\b|\btrappe\b", re.I)),
    ("cover", re.compile(r"\b(?:base|bottom|back|rear|lower|service)\s+(?:cover|panel|plate)\b|\bbase\s+cover\b|\bcover\b|\bgehäuseboden\b|\bbodenplatte\b|\bunterschale\b|\bcapot\b|\bcache\s+inférieur\b|\bfond\s+du\s+boîtier\b", re.I)),
    ("battery", re.compile(r"\bbattery\b|\bakkus?\b|\bbatterie\b", re.I)),
    ("tape", re.compile(r"\btape\b|\bklebeband\b|\bruban\b", re.I)),
    ("latch", re.compile(r"\blatch\w*|\bverriegelung\w*|\bloquet\w*", re.I)),
    ("part", re.compile(r"\bdrive\b|\bSSD\b|\bmemory\b|\bmodules?\b|\bradio\b|\bcard\b|\bkeyboard\b|\blaufwerk\b|\bspeicher\w*|\btastatur\b|\bdisque\b|\bmémoire\b|\bcarte\b|\bclavier\b", re.I)),
)  # fmt: skip


def read_step(heard: Heard, turn: int) -> bool:
    """Claims one step of the way in; False where the line is none, or holds of some machines only."""
    text = heard.statement.text
    if DEPENDS.search(text) or not _DOES.search(text) or _MAINS.search(text):
        return False
    what = _what(text)
    if not what:
        return False
    place, whose = f"step-{turn}", heard.scope.at(0)
    heard.claim(place, "what", what, whose)
    if re.search(_SCREW, text, re.I):
        counts = {number(m[1]) for p in (_COUNT, _COUNT_OF) for m in p.finditer(text)}
        if len(counts) == 1:
            heard.claim(place, "screws", counts.pop(), whose)
        tools = {m[1].replace(" ", "") for m in _TOOL.finditer(text)}
        tools |= {"PH" + next(g for g in m.groups() if g) for m in _CROSS.finditer(text)}
        if len(tools) == 1:
            heard.claim(place, "tool", tools.pop(), whose)
        lengths = {float((m[1] or m[2]).replace(",", ".")) for m in _LENGTH.finditer(text)}
        if len(lengths) == 1:
            heard.claim(place, "length_mm", lengths.pop(), whose)
        if _CAPTIVE.search(text):
            heard.claim(place, "captive", True, whose)
    return True


def _what(text: str) -> str:
    """What comes off in this step: the object of its last verb that is no screw."""
    if _UNPLUGS.search(text) and not re.search(_SCREW, text, re.I):
        return "cable"
    verbs = list(_DOES.finditer(text))
    whole = re.search(_SCREW, text, re.I) is not None
    # The last verb's object: before it in German, after it elsewhere; a bracket is no object.
    bare = re.sub(r"\([^)]*\)", " ", text)
    if whole and len(verbs) == 1 and re.search(rf"(?:{_DOES.pattern})[^.]*?{_SCREW}", bare, re.I):
        return "screws"
    tail = bare if len(verbs) == 1 else bare[_last_clause(bare) :]
    return _thing(tail) or _thing(bare)


def _thing(tail: str) -> str:
    for name, words in _THINGS:
        m = words.search(tail)
        if m and not re.search(
            r"\b(?:over|from|under|of|von|über|du|de\s+la|am)\s+(?:the\s+|der\s+|dem\s+|la\s+|le\s+)?$",
            tail[: m.start()],
            re.I,
        ):
            return name
    return ""


def _last_clause(text: str) -> int:
    found = [m.end() for m in re.finditer(r"\s(?:and|und|et)\s|,\s(?:then\s)?", text)]
    return found[-1] if found else 0
