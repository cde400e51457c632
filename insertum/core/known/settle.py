"""One attribute settled by rank: measured and read; runs; proven; documented (rules.md section 2)."""

from collections.abc import Mapping
from typing import Any

from ..machine.attribute import attributes_of, shown
from ..machine.claim import Fact, Source
from ..machine.memory_system import MemorySlot
from .bound import Bound
from .claim_domain import anything_of, as_domain
from .domain import Domain, Lot, Some, join, meet, single
from .follow import Asked, Found, counts_here, follows
from .why_text import bound_words, claim_sentence

_FACT_RANKS = (Source.PROVEN, Source.DOCUMENTED)

#: What returnable unknowns are taken to be on the owner's word (rules.md section 2).
USUAL: Mapping[str, Any] = {"card_policy": "any", "starts_nvme": True, "usb": True, "clock_drivers": True}


class _Settling:
    """The domain of one attribute as rank after rank is heard, with each step in words."""

    def __init__(self, known: Asked, place: str, name: str, shape: Any) -> None:
        self.known, self.place, self.name, self.shape = known, place, name, shape
        self.words = attributes_of(type(shape))[name]
        self.fact: Fact[Any] = getattr(shape, name)
        self.everything = anything_of(shape, name, self.words)
        self.domain = self.everything
        #: What has been said so far; None while nobody has: what a lower rank says is open then, and need not be one
        #: of the usual values.
        self.claimed: Domain | None = None
        self.bounds = _bounds_of(known, shape, place, name)
        self.steps: list[str] = []
        self.conflict = False

    def looked_at(self) -> None:
        """Measured and read: a later look replaces an earlier one by the same means."""
        here = {c.source: c for c in self.fact.claims if c.source in (Source.MEASURED, Source.READ)}
        if not here:
            return
        self.steps += [claim_sentence(c, self.words) for c in here.values()]
        both = [as_domain(c, self.everything, self.words) for c in here.values()]
        self.domain = both[0]
        if len(both) > 1:
            agreed = meet(both[0], both[1])
            self.conflict = agreed is None
            self.domain = agreed if agreed is not None else join(both[0], both[1])
            if self.conflict:
                self.steps.append("measured and read disagree: either may be so")
        self.claimed = self.domain

    def what_runs(self) -> None:
        """What follows from what runs, was seen or was delivered."""
        here = self.claimed is not None
        for bound in self.bounds:
            self.steps.append(f"{bound.why}: {bound_words(bound, self.words)} ({bound.deduction})")
            narrowed = bound.narrow(self.domain)
            if narrowed is not None:
                self.domain = narrowed
                continue
            self.conflict = True
            if here and bound.works:
                other = bound.narrow(self.everything)
                self.claimed = self.domain = join(self.domain, other) if other is not None else self.domain
                self.steps.append("what works today and what was measured disagree: either may be so")
            else:
                self.steps.append("which is not so: what ranks higher stands")

    def said_by(self, source: Source) -> None:
        """What one source says, as far as what ranks higher leaves it."""
        said = [c for c in self.fact.claims if c.source is source and counts_here(self.known, c)]
        if not said:
            return
        self.steps += [claim_sentence(c, self.words) for c in said]
        wanted = as_domain(said[0], self.everything, self.words)
        for c in said[1:]:
            one = as_domain(c, self.everything, self.words)
            both = meet(wanted, one)
            if both is None:
                self.conflict = True
                self.steps.append(f"{source} claims disagree: either may be so")
            wanted = both if both is not None else join(wanted, one)
        narrowed = wanted if self.claimed is None else meet(self.claimed, wanted)
        for bound in self.bounds:
            narrowed = bound.narrow(narrowed) if narrowed is not None else None
        if narrowed is None:
            self.conflict = True
            self.steps.append("which is not so: what ranks higher stands")
        else:
            self.domain = self.claimed = narrowed

    def others(self) -> None:
        """A processor's data sheet narrows what is left; a report settles no fact."""
        for c in self.fact.claims:
            if c.source is Source.CONTROLLER:
                self.steps.append(claim_sentence(c, self.words))
                one = as_domain(c, self.everything, self.words)
                narrowed = one if self.claimed is None and not self.bounds else meet(self.domain, one)
                self.conflict = self.conflict or narrowed is None
                self.domain = narrowed if narrowed is not None else join(self.domain, one)
            elif c.source is Source.REPORTED:
                self.steps.append(f"{claim_sentence(c, self.words)}: a report alone settles no fact")

    def neighbours(self) -> None:
        """What the attributes beside it leave."""
        for narrowed, why in follows(self.known, self.place, self.name, self.shape, self.domain):
            self.domain = narrowed
            self.steps.append(why)

    def owners_word(self) -> None:
        """A returnable unknown the owner takes as usual."""
        at_radio = self.name != "usb" or getattr(self.shape, "kind", "") == "radio"
        usual = USUAL.get(self.name)
        if not (self.words.returnable and at_radio and usual is not None and self.known.usual(self.place, self.name)):
            return
        assumed = meet(self.domain, Some((usual,))) if not isinstance(self.domain, Lot) else None
        if assumed is not None and single(self.domain) is None:
            self.domain = assumed
            self.steps.append(f"taken as usual, on the owner's word: {shown(usual)}")

    def found(self) -> Found:
        """All ranks in turn."""
        self.looked_at()
        self.what_runs()
        for source in _FACT_RANKS:
            self.said_by(source)
        self.others()
        self.neighbours()
        self.owners_word()
        told = self.fact.claims or self.known.bounds.get((self.place, self.name))
        if single(self.domain) is None and not told:
            self.steps.append("nobody has said or looked")
        return Found(self.domain, tuple(self.steps), self.conflict)


def settled(known: Asked, place: str, name: str, shape: Any) -> Found:
    """One attribute of ``shape``, with how it came about."""
    return _Settling(known, place, name, shape).found()


def _bounds_of(known: Asked, shape: Any, place: str, name: str) -> list[Bound]:
    """What follows for an attribute; like sockets take like modules unless a claim tells them apart."""
    own = known.bounds.get((place, name), [])
    if not isinstance(shape, MemorySlot) or name != "generation" or own:
        return own
    if any(s.generation.claims for s in known.sockets):
        return own
    return [b for s in known.sockets for b in known.bounds.get((s.id, name), ())]
