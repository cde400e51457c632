"""Limits: which figure counts under which school (rules.md section 2).

A school's limit is a convention, not a truth. What is fitted and running now is a lower bound under every school;
outcomes under another configuration or firmware are shown and never decide.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from ..machine.claim import Claim, Fact, Limits, Source

#: More than any part has: where nothing sets an end.
NO_END = 2**31
#: The firmware of an outcome of which nobody noted it: it counts under none.
NOT_NOTED = "not noted"


@dataclass(frozen=True, slots=True)
class Cap:
    """A limit in force. ``sure`` is the limit without what only a report carries: above it, up to ``most``, a part
    is held back, unproven. ``source`` is who says so, None while it is one possibility among others."""

    most: int
    sure: int
    source: Source | None = None

    def __str__(self) -> str:
        return f"{self.most} {self.source}" if self.source else str(self.most)


@dataclass(frozen=True)
class Limit:
    """A picked limit. ``value`` None is unknown; then it is at least ``at_least``, and at most ``at_most``
    where that is not 0."""

    value: int | None
    source: Source | None = None
    sure: int | None = None
    at_least: int = 0
    contradictions: tuple[str, ...] = ()
    at_most: int = 0

    def caps(self) -> tuple[Cap, ...]:
        """The limit as a rule may meet it: as it is, or while it is unknown at its worst and at its best."""
        if self.value is None:
            most = self.at_most or NO_END
            return (Cap(self.at_least, self.at_least), Cap(most, most))
        return (Cap(self.value, self.value if self.sure is None else self.sure, self.source),)


def counts(claim: Claim[int], configuration: str, firmware: str) -> bool:
    """Does an outcome count here: its configuration and its firmware are those of the machine on the bench?"""
    return claim.configuration in ("", configuration) and claim.firmware in ("", firmware)


def proven_value(claims: Iterable[Claim[int]], configuration: str, firmware: str) -> int | None:
    """The highest value proven here with no failure at that value."""
    here = [c for c in claims if c.source is Source.PROVEN and counts(c, configuration, firmware)]
    failed = {c.value for c in here if c.failures}
    return max((c.value for c in here if c.count > 0 and c.value not in failed), default=None)


def _said(fact: Fact[int], source: Source, firmware: str) -> list[int]:
    """What a source says exactly; what is told of this firmware outweighs what is told of all."""
    told = [c for c in fact.claims if c.source is source and c.exact]
    if source in (Source.DOCUMENTED, Source.CONTROLLER):
        told = [c for c in told if c.firmware and c.firmware == firmware] or [c for c in told if not c.firmware]
    return [c.value for c in told]


def _bounds(fact: Fact[int], bound: str, school: Limits) -> list[int]:
    """Bounds that count under a school: what the maker, a look or a reading says, and the controller's where it counts."""
    counted = {Source.DOCUMENTED, Source.READ, Source.MEASURED}
    counted |= {Source.CONTROLLER} if school in (Limits.CONTROLLER, Limits.OPEN) else set()
    return [c.value for c in fact.claims if c.bound == bound and c.source in counted]


def _odd(documented: list[int], controller: list[int]) -> Iterator[str]:
    """Where sources contradict themselves or each other, in words."""
    for source, told in ((Source.DOCUMENTED, documented), (Source.CONTROLLER, controller)):
        if len(set(told)) > 1:
            yield f"{source} claims {' and '.join(map(str, sorted(set(told))))}; the lower counts"
    if documented and controller and min(controller) < min(documented):
        yield f"controller says {min(controller)}, below the documented {min(documented)}"


def pick(
    fact: Fact[int],
    school: Limits,
    configuration: str = "",
    firmware: str = "",
    at_least: int = 0,
    absent: int | None = None,
) -> Limit:
    """The limit a school picks.

    ``at_least`` is what runs now or follows from it; ``absent`` the interface standard's own figure, which counts
    under every school where the maker gives none.
    """

    def said(source: Source) -> list[int]:
        return _said(fact, source, firmware)

    odd = tuple(_odd(said(Source.DOCUMENTED), said(Source.CONTROLLER)))
    documented, controller = (min(said(s), default=None) for s in (Source.DOCUMENTED, Source.CONTROLLER))
    if absent is not None and controller is None:
        controller = absent
    running = max([at_least, *said(Source.READ), *said(Source.MEASURED)])
    least, most = (f(_bounds(fact, b, school), default=0) for f, b in ((max, "at_least"), (min, "at_most")))

    candidates: list[tuple[int | None, Source]] = [(documented, Source.DOCUMENTED)]
    if school is Limits.CONTROLLER:
        candidates = [(controller, Source.CONTROLLER)] if controller is not None else candidates
    elif school in (Limits.PROVEN, Limits.OPEN):
        candidates.append((proven_value(fact.claims, configuration, firmware), Source.PROVEN))
    if school is Limits.OPEN or absent is not None and documented is None:
        candidates.append((controller, Source.CONTROLLER))
    known = [(v, s) for v, s in candidates if v is not None]
    if not known and (least or most):
        return Limit(None, None, None, max(running, least), odd, max(most, running) if most else 0)
    sure, source = max(known, key=lambda k: k[0]) if known else (None, None)
    if sure is not None and running > sure:
        sure, source = running, Source.RUNS
    reported = max(said(Source.REPORTED), default=None)
    if school is Limits.OPEN and reported is not None and reported > max(sure or 0, running):
        return Limit(reported, Source.REPORTED, max(sure or 0, running), running, odd)
    return Limit(sure, source if sure is not None else None, sure, running, odd)
