"""Claims, bounds and domains as a person reads them, for *why*."""

from typing import Any

from ..machine.attribute import Attribute, shown
from ..machine.claim import Claim
from ..standards import ddr
from .bound import Bound
from .domain import Anything, Domain, Lot, Some, Span
from .school import NO_END

#: What nobody told of memory on the board.
SOLDERED_WORDS = {
    "rated_mts": Attribute(
        label="Rate of the soldered memory", unit="MT/s", where="software", tool="running system",
        how="Read it from the running system: the rate firmware lists for the chips on the board.",
    ),
    "channel": Attribute(
        label="Channel of the soldered memory", kind="choice", values=ddr.CHANNELS, how="The manual's or the processor's memory map.",
    ),
}  # fmt: skip


def claim_sentence(claim: Claim[Any], words: Attribute) -> str:
    """A claim as *why* shows it: source, value, times, where, who and note."""
    times = f", worked {claim.count}×, failed {claim.failures}×" if claim.count or claim.failures else ""
    where = "".join(f", {k} {v}" for k, v in (("firmware", claim.firmware), ("in", claim.configuration)) if v)
    who = f", {claim.who}" if claim.who else ""
    note = f" ({claim.note})" if claim.note else ""
    others = " among others" if claim.among_others else ""
    return f"{claim.source}: {claim_words(claim, words)}{others}{times}{where}{who}{note}"


def claim_words(claim: Claim[Any], words: Attribute) -> str:
    """What a claim says: '16 GB', '1.35 mm or more', 'B or M'."""
    if claim.alternatives:
        return f"{' or '.join(shown(v, words.scale) for v in (claim.value, *claim.alternatives))} {words.unit}".strip()
    end = {"": "", "at_least": " or more", "at_most": " or less"}[claim.bound]
    return f"{sized(claim.value, words)}{end}"


def sized(value: Any, words: Attribute) -> str:
    """A value with its unit; an empty list is none, the figure without end is what anything on sale meets."""
    if isinstance(value, int) and value >= NO_END:
        return "none that anything on sale meets"
    if isinstance(value, tuple | list | frozenset) and not value:
        return "none"
    if words.unit == "GB" and isinstance(value, int) and value >= 10**6:
        return f"{value / 10**6:g} PB"
    return f"{shown(value, words.scale)} {words.unit}".strip()


def bound_words(bound: Bound, words: Attribute) -> str:
    """A bound as a person reads it, '' where it bounds nothing."""
    if bound.least is not None:
        return f"{sized(bound.least, words)} or more"
    if bound.most is not None:
        return f"{sized(bound.most, words)} or less"
    return in_words(bound.domain, words) if bound.domain is not None else ""


def in_words(domain: Domain, words: Attribute) -> str:
    """A domain as a person reads it: 'key B or M', '1.35 mm or more', 'unknown'."""
    match domain:
        case Anything():
            return "unknown"
        case Some(values) if len(values) == 1:
            return sized(values[0], words)
        case Some(values):
            if words.kind == "flag" or (len(words.values) > 1 and set(words.values) <= set(values)):
                return "unknown"
            return f"{' or '.join(shown(v, words.scale) for v in values)} {words.unit}".strip()
        case Span(low, high):
            if low == high:
                return sized(low, words)
            if (words.low, words.high) == (low, high):
                return "unknown"
            if high == words.high:
                return f"{sized(low, words)} or more"
            if low == words.low:
                return f"{sized(high, words)} or less"
            return f"{shown(low, words.scale)} to {sized(high, words)}"
        case Lot(has, may):
            members = shown(tuple(sorted(map(str, has)))) if has else ""
            if may is not None and not may:
                return f"{members or 'none'} {words.unit if members else ''}".strip()
            return f"{members}, others not known" if members else "unknown"
