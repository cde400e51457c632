"""Verdicts and findings: what the rules say, and how several findings make one verdict.

The order is rules.md section 1: *seats* is best, *harm* worst. A rule says :class:`Said` of one possibility; the
engine (:mod:`insertum.core.fit.engine`) makes a :class:`Finding` of what it says over all of them.
"""

from collections.abc import Iterable
from enum import StrEnum
from typing import Any, NamedTuple

from .frozen import Frozen


class Verdict(StrEnum):
    SEATS = "seats"
    HELD_BACK = "held_back"
    MEASURE_FIRST = "measure_first"
    REFUSED = "refused"
    HARM = "harm"

    @property
    def rank(self) -> int:
        """0 for seats … 4 for harm."""
        return _ORDER[self]

    @property
    def usable(self) -> bool:
        """May a plan rest on it?"""
        return self.rank <= 1


_ORDER = {v: i for i, v in enumerate(Verdict)}


class Impossible(Exception):
    """Raised in a rule for figures that no real part has together: that possibility is none."""


class AccessoryNeed(Frozen):
    """Something a part needs beside itself to sit in a slot, with the sizes it has to have.

    ``from_mm``/``to_mm``: of a bracket card length and the standoffs it could be drawn out to, of a spacer drive
    and bay height; ``from_plug``/``to_plug``: of adapter leads, from the plugs there to the card's receptacles;
    ``thickness_um``: of a pad.
    """

    supplies: str
    from_mm: float | None = None
    to_mm: tuple[float, ...] = ()
    from_plug: str = ""
    to_plug: str = ""
    thickness_um: int | None = None

    @property
    def sizes(self) -> dict[str, Any]:
        """What an accessory has to state to serve it."""
        said = {"from_mm": self.from_mm, "to_mm": self.to_mm or None, "from_plug": self.from_plug or None,
                "to_plug": self.to_plug or None, "thickness_um": self.thickness_um}  # fmt: skip
        return {name: value for name, value in said.items() if value is not None}


class Lazy:
    """A sentence and its figures, written out only when somebody reads it."""

    __slots__ = ("figures", "sentence")

    def __init__(self, sentence: str, *figures: Any) -> None:
        self.sentence, self.figures = sentence, figures

    def __str__(self) -> str:
        return self.sentence.format(*self.figures)

    def __eq__(self, other: object) -> bool:
        return str(self) == str(other)

    def __hash__(self) -> int:
        return hash(str(self))


class Said(NamedTuple):
    """What a rule says of one possibility. ``figure`` in ``unit`` is what is lost or reached, where it is a number:
    over several possibilities it makes a range. ``keeps_out``: the part does not enter, so that nothing further in
    can come to harm."""

    verdict: Verdict
    says: str | Lazy
    evidence: tuple[str | Lazy, ...] = ()
    short: str = ""
    remedy: str = ""
    caution: str = ""
    needs: AccessoryNeed | None = None
    figure: float | None = None
    unit: str = ""
    keeps_out: bool = False


class Finding(Frozen):
    """What one rule says of one part in one slot of one build, over all that could be.

    ``rule`` is the stable id (``m2.key``), ``says`` one plain sentence, ``short`` the same in two or three words,
    ``evidence`` the sums and sources it used. On *measure first* ``attribute`` is the fact to settle
    (``slot-id.attribute`` or ``part.attribute``), ``how`` the way to settle it, ``settles`` the figure that would.
    """

    rule: str
    verdict: Verdict
    says: str
    short: str = ""
    evidence: tuple[str, ...] = ()
    remedy: str = ""
    caution: str = ""
    attribute: str = ""
    label: str = ""
    how: str = ""
    settles: str = ""
    needs: AccessoryNeed | None = None


def worst(findings: Iterable[Finding]) -> Verdict:
    """The worst verdict among findings; *seats* when no rule objects."""
    return max((f.verdict for f in findings), key=lambda v: v.rank, default=Verdict.SEATS)


# What the rule modules say. ``more`` takes the optional fields of Said: short, remedy, caution, needs, figure, unit.
def note(says: str | Lazy, *evidence: str | Lazy, **more: Any) -> Said:
    """A fact worth showing that costs nothing."""
    return Said(Verdict.SEATS, says, evidence, **more)


def held(says: str | Lazy, *evidence: str | Lazy, **more: Any) -> Said:
    """A finding that holds the part back: it works, with less than it could."""
    return Said(Verdict.HELD_BACK, says, evidence, **more)


def refused(says: str | Lazy, *evidence: str | Lazy, **more: Any) -> Said:
    """A finding that keeps the part out."""
    return Said(Verdict.REFUSED, says, evidence, **more)


def harm(says: str | Lazy, *evidence: str | Lazy, **more: Any) -> Said:
    """A finding that the part would do harm; it stands above every other."""
    return Said(Verdict.HARM, says, evidence, **more)
