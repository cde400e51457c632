"""Known: what is known of one machine on one job, and why.

Built once from configuration, claims, school, firmware, what was found and what the owner takes as usual; nothing
else reads claims. For each attribute it holds a domain (:mod:`.domain`), for each limit the school's caps.
"""

from dataclasses import dataclass
from typing import Any

from ..frozen import Frozen
from ..machine.attribute import attributes_of, lowered, shown
from ..machine.claim import Claim, Limits, Source
from ..machine.shape import Configured
from .densities import densest
from .evidence import Contents
from .limits import CAPS, KnownLimits
from .settle import USUAL
from .why_text import bound_words, claim_sentence, in_words, sized


class Explained(Frozen):
    """One attribute, from claims to what counts: for *why*."""

    place: str
    label: str
    value: str
    steps: tuple[str, ...]
    conflict: bool = False


class Usual(Frozen):
    """One returnable unknown, and what it is taken to be on the owner's word."""

    place: str
    label: str
    assumed: str


@dataclass(frozen=True, eq=False)
class Known(KnownLimits):
    """What is known of ``machine``. Two are the same only where they are the same object."""

    def usual_things(self) -> tuple[Usual, ...]:
        """Returnable unknowns of this machine: what the owner may take as usual, in one act."""
        plain = self.under(as_usual=False)
        found = []
        for place in (*self.slots, "memory", "boot"):
            shape = self._shape(place)
            if getattr(shape, "form", "") == "soldered" or (place == "memory" and not self.sockets):
                continue
            for name, words in attributes_of(type(shape)).items():
                if not words.returnable:
                    continue
                if name in CAPS:
                    open_ = plain.limit(place, name).value is None
                elif name == "density_gbit":
                    open_ = not plain.densities.closed
                elif name == "module_types":
                    open_ = not shape.module_types.claims
                elif name == "clock_drivers":
                    # JESD323: only DDR5 modules carry one.
                    generations = {self.value(s.id, "generation") for s in self.sockets}
                    open_ = bool(generations & {5, None}) and plain.value(place, name) is None
                elif name == "usb" and shape.kind != "radio":
                    open_ = False
                else:
                    open_ = plain.value(place, name) is None
                if open_:
                    assumed = _USUAL_WORDS.get(name, shown(USUAL.get(name)))
                    label = f"{self.place_name(place)}: {lowered(words.label)}"
                    found.append(Usual(place=f"{place}.{name}", label=label, assumed=assumed))
        return tuple(found)

    def explain(self, place: str, name: str) -> Explained:
        """From claims and deductions to what counts."""
        label = f"{self.place_name(place)}: {lowered(self.words(place, name).label)}"
        words = self.words(place, name)
        if name in CAPS or name.startswith("speed_by_modules"):
            limit = self.limit(place, name)
            value = "unknown" if limit.value is None else sized(limit.value, words)
            if limit.value is None and limit.at_least:
                value = f"{sized(limit.at_least, words)} or more"
            steps_: tuple[str, ...] = ()
            if name == "speed_mts" and self.read_mts > (limit.value or limit.at_least):
                value = sized(self.read_mts, words)
                steps_ = ("what was read holds for modules as they are today; for more of them what is told",)
            if name == "limit_gb":
                steps_ = self._from_total(place)
            return Explained(
                place=f"{place}.{name}", label=label, value=value,
                steps=(*self._said(place, name), f"school: {self.school}", *limit.contradictions, *steps_), conflict=bool(limit.contradictions),
            )  # fmt: skip
        if name == "density_gbit":
            d = self.densities
            value = " and ".join(densest(d.sure)) or "unknown"
            return Explained(place=f"{place}.{name}", label=label, value=value, steps=d.steps)
        found = self.found(place, name)
        return Explained(
            place=f"{place}.{name}", label=label, value=in_words(found.domain, words), steps=found.steps,
            conflict=found.conflict,
        )  # fmt: skip

    def told_by(self, place: str, name: str) -> frozenset[Source]:
        """Who has said something of it already."""
        return frozenset(Source(c.source) for c in self._claims(place, name))

    def _claims(self, place: str, name: str) -> tuple[Claim[Any], ...]:
        shape = self._shape(place)
        if name.startswith("speed_by_modules."):
            fact = shape.speed_by_modules.get(int(name.partition(".")[2]), shape.speed_mts)
        else:
            fact = getattr(shape, name, None)
        return getattr(fact, "claims", ())

    def _said(self, place: str, name: str) -> tuple[str, ...]:
        words = self.words(place, name)
        said = [claim_sentence(c, words) for c in self._claims(place, name)]
        follow = (f"{b.why}: {bound_words(b, words)} ({b.deduction})" for b in self.bounds.get((place, name), ()))
        return (*said, *follow)


def as_delivered(machine: Configured, school: Limits = Limits.PROVEN, firmware: str = "") -> Known:
    """What is known of a configuration from the library alone."""
    fitted = {s.id: s.fitted for s in machine.slots if s.looked}
    return Known(machine, Contents(fitted, boot_slot=machine.machine.boot_slot), school, firmware)


_USUAL_WORDS = {
    "limit_gb": "no limit below the part's size", "total_limit_gb": "no limit below the whole",
    "density_gbit": "denser chips than documented run too", "module_types": "modules with ECC run too",
}  # fmt: skip
