"""A label scanned at the bench: is it the planned part, another one, or nobody knows."""

from collections.abc import Iterable
from typing import Literal

from ..base import Frozen
from ..identify.match import folded
from ..machine.part import AnyPart


class Scanned(Frozen):
    """``number`` is the part the label names, "" where it names none."""

    number: str
    outcome: Literal["planned", "other", "unknown"]
    says: str


#: A number this short may stand inside another by chance.
_LEAST = 5


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
    if number in wanted:
        return Scanned(number=number, outcome="planned", says=f"{number} is planned here")
    if number:
        return Scanned(
            number=number, outcome="other",
            says=f"{number} is not a part of this plan. Read its label against the plan before it goes in.",
        )  # fmt: skip
    return Scanned(
        number="", outcome="unknown",
        says=f"{text.strip()[:80]} is not a part of this plan. Read its label against the plan before it goes in.",
    )  # fmt: skip
