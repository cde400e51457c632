"""A label scanned at the bench: is it the planned part, another one, or nobody knows."""

import re
from collections.abc import Iterable
from typing import Literal

from ..frozen import Frozen
from ..machine.part import AnyPart
from ..spelling import folded


class Scanned(Frozen):
    """``number`` is the part the label names, "" where it names none; ``serial`` the piece, where the label says which."""

    number: str
    serial: str = ""
    outcome: Literal["planned", "other", "unknown"]
    says: str


#: A number this short may stand inside another by chance.
_LEAST = 5


#: A serial number as labels mark it: S/N, SN, Ser. No., Serial.
_SERIAL = re.compile(
    r"(?:^|[\s,;|])(?:S/?N|SER(?:IAL)?\.?(?:\s*(?:NO|NUMBER)\.?)?)(?:\s*[:#=]\s*|\s+)([A-Z0-9][A-Z0-9-]{3,39})(?=$|[\s,;|])",
    re.I,
)


def serial_of(text: str) -> str:
    """The serial number a label's text marks as one, "" where it marks none."""
    found = _SERIAL.search(text)
    return found.group(1).upper() if found and any(c.isdigit() for c in found.group(1)) else ""


def scanned(text: str, planned: Iterable[str], parts: Iterable[AnyPart]) -> Scanned:
    """What a scanned text names: a number by the whole of the text or one of its words, else the longest number of the
    catalogue that stands in it. A label of a longer number never counts as the shorter one."""
    wanted = dict.fromkeys(planned)
    known = {folded(n): n for p in parts for n in (p.number, getattr(p, "fru", None) or "") if n}
    owner = {folded(getattr(p, "fru", None) or p.number): p.number for p in parts} | {folded(n): n for n in wanted}
    known |= {folded(n): n for n in wanted}
    words = [folded(text), *(folded(w.strip(".,;:()")) for w in text.split())]
    named = next((w for w in words if w in known), "")
    if not named:
        inside = [n for n in known if len(n) >= _LEAST and n in words[0]]
        named = max(inside, key=len, default="")
    number = owner.get(named, known.get(named, ""))
    serial = serial_of(text)
    if number in wanted:
        return Scanned(number=number, serial=serial, outcome="planned", says=f"{number} is planned here")
    if number:
        return Scanned(
            number=number, serial=serial, outcome="other",
            says=f"{number} is not a part of this plan. Read its label against the plan before it goes in.",
        )  # fmt: skip
    return Scanned(
        number="", serial=serial, outcome="unknown",
        says=f"{text.strip()[:80]} is not a part of this plan. Read its label against the plan before it goes in.",
    )  # fmt: skip
