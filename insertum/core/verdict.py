"""Verdicts and findings: what the rules say, and how several findings make one verdict.

The order is rules.md section 1: *seats* is best, *harm* worst. An unknown attribute is
*measure first*; it never becomes *seats* and never hides a *refused* found by another rule,
because the worst finding wins.
"""

from collections.abc import Iterable
from enum import StrEnum
from typing import Any

from .base import Frozen


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


class AccessoryNeed(Frozen):
    """Something a part needs beside itself to sit in a slot.

    ``supplies`` is what an accessory must be; ``from_mm``/``to_mm`` only matter for a bracket
    (card length, the standoffs it could be drawn out to) and a spacer (drive height, bay height);
    ``thickness_um`` only for a pad.
    """

    supplies: str
    from_mm: float | None = None
    to_mm: tuple[float, ...] = ()
    thickness_um: int | None = None


class Finding(Frozen):
    """What one rule says of one part in one slot of one build.

    ``rule`` is the stable id (``m2.key``), ``says`` one plain sentence, ``short`` the same in
    two or three words, ``evidence`` the facts and sources it used. ``attribute`` and ``how`` are set on *measure first*: the fact to settle
    (``slot-id.attribute`` or ``part.attribute``) and the way to settle it.
    """

    rule: str
    verdict: Verdict
    says: str
    short: str = ""
    evidence: tuple[str, ...] = ()
    remedy: str = ""
    caution: str = ""
    attribute: str = ""
    how: str = ""
    needs: AccessoryNeed | None = None


def worst(findings: Iterable[Finding]) -> Verdict:
    """The worst verdict among findings; *seats* when no rule objects."""
    return max((f.verdict for f in findings), key=lambda v: v.rank, default=Verdict.SEATS)


# Short constructors for the rule modules; the rule id is filled in by the registry. ``more`` takes
# the optional fields of Finding: short, remedy, caution, needs.
def note(says: str, *evidence: str, **more: Any) -> Finding:
    """A fact worth showing that costs nothing."""
    return Finding(rule="", verdict=Verdict.SEATS, says=says, evidence=evidence, **more)


def held(says: str, *evidence: str, **more: Any) -> Finding:
    return Finding(rule="", verdict=Verdict.HELD_BACK, says=says, evidence=evidence, **more)


def measure(says: str, attribute: str, how: str, *evidence: str, **more: Any) -> Finding:
    return Finding(
        rule="", verdict=Verdict.MEASURE_FIRST, says=says, attribute=attribute, how=how, evidence=evidence, **more
    )


def refused(says: str, *evidence: str, **more: Any) -> Finding:
    return Finding(rule="", verdict=Verdict.REFUSED, says=says, evidence=evidence, **more)


def harm(says: str, *evidence: str, **more: Any) -> Finding:
    return Finding(rule="", verdict=Verdict.HARM, says=says, evidence=evidence, **more)
