"""Chip densities that run in a machine, under a school of limits (rules.md section 3)."""

from collections.abc import Iterable
from dataclasses import dataclass

from ..machine.claim import Limits, Source
from ..standards import ddr
from .axioms import brought
from .domain import Lot
from .facts import Facts
from .school import counts
from .why_text import claim_sentence


@dataclass(frozen=True)
class Densities:
    """Chip densities the memory runs: ``sure`` ones, ``reported`` ones at the owner's risk, and whether anything
    else is refused (the controller does not address it) or only not known."""

    sure: frozenset[int]
    reported: frozenset[int] = frozenset()
    closed: bool = False
    steps: tuple[str, ...] = ()


def densest(densities: Iterable[int]) -> list[str]:
    """The densest chips that stand for all, in words: each density brings those below it, 24 Gbit apart."""
    there = set(densities)
    top = max(there - {24}, default=0)
    return [f"{d} Gbit" for d in sorted({top} & there | ({24} & there if top < 24 else set()))]


def densities_of(known: Facts, school: Limits) -> Densities:
    """Chip densities the school allows (rules.md section 3)."""
    fact = known.machine.memory.density_gbit
    by: dict[Source, set[int]] = {}
    for c in fact.claims:
        if (
            not c.exact
            or c.source is Source.PROVEN
            and (not counts(c, known.machine.configuration.id, known.firmware) or c.failures or not c.count)
        ):
            continue
        by.setdefault(c.source, set()).add(c.value)
    words = known.words("memory", "density_gbit")
    steps = [claim_sentence(c, words) for c in fact.claims]
    soldered = {s.density_gbit for s in known.machine.memory.soldered if s.density_gbit and known.sockets}
    steps += [f"{d} chips on the board run, and so all below" for d in densest(soldered)]
    running = set(soldered)
    for b in known.bounds.get(("memory", "density_gbit"), ()):
        if isinstance(b.domain, Lot):
            here = {int(m) for m in b.domain.has}
            running |= here
            steps += [f"{b.why}: {d} chips run, and so all below ({b.deduction})" for d in densest(here)]
    documented = set(by.get(Source.DOCUMENTED, ()))
    if not documented and Source.PROVEN not in by:
        # With no claim the largest documented module stands in: the least dense chips it can be made of.
        for s in known.sockets:
            sizes = [c.value for c in s.limit_gb.claims if c.source is Source.DOCUMENTED and c.exact]
            generation = known.value(s.id, "generation")
            for gb in sizes[:1]:
                chips = [
                    d for r in ddr.SODIMM_RANKS for w in ddr.SODIMM_WIDTHS
                    if (d := ddr.density_gbit(gb, r, w)) in ddr.DENSITIES.get(generation or 0, (1, 2, 4, 8, 16, 24, 32))
                ]  # fmt: skip
                if chips:
                    documented.add(int(min(chips)))
                    steps.append(f"a documented {gb} GB module has chips of {min(chips)} Gbit at least")
    controller, proven = by.get(Source.CONTROLLER), by.get(Source.PROVEN, set())
    sure = set(documented)
    closed = False
    if school in (Limits.PROVEN, Limits.OPEN):
        sure |= proven
    if controller and school is Limits.CONTROLLER:
        sure, closed = controller | documented, True
    elif controller and school is Limits.OPEN:
        sure, closed = sure | controller, True
    reported = by.get(Source.REPORTED, set()) if school is Limits.OPEN else set()
    return Densities(brought(sure) | brought(running), brought(reported), closed, tuple(dict.fromkeys(steps)))
