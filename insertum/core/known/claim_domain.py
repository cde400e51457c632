"""What an attribute could be before anybody has said a word, and what one claim leaves of it."""

from typing import Any

from ..machine.attribute import Attribute
from ..machine.card_sockets import CardSocket, DriveSlot
from ..machine.claim import Claim, Source
from .domain import Anything, Domain, Lot, Some, Span, at_least, at_most, complete

_KEYS: dict[str, tuple[str, ...]] = {"m2_drive": ("B", "M"), "radio": ("A", "E"), "cellular": ("B",)}


def anything_of(shape: Any, name: str, words: Attribute) -> Domain:
    """What the attribute could be before anybody has said a word."""
    if words.kind in ("list", "numbers"):
        return Lot(frozenset(), frozenset(words.values) if words.values else None)
    if name == "key" and isinstance(shape, CardSocket):
        return Some(_KEYS[str(getattr(shape, "kind", ""))])
    if isinstance(shape, DriveSlot) and name == "pcie_generation":
        return Some(words.values)
    if words.kind == "flag":
        return Some((False, True))
    if words.kind == "text":
        return Some(words.values) if words.values else Anything()
    if words.values:
        return Some(words.values)
    assert words.low is not None and words.high is not None, f"{name} has neither values nor a range"
    return Span(words.low, words.high)


def as_domain(claim: Claim[Any], everything: Domain, words: Attribute) -> Domain:
    """What one claim leaves of what an attribute could be."""
    value = claim.value
    if claim.bound and words.samples:
        return everything
    if claim.bound:
        bounded = at_least if claim.bound == "at_least" else at_most
        left = bounded(everything, value)
        return left if left is not None else Some((value,))  # beyond all there is: the figure itself
    if claim.alternatives:
        told = tuple(dict.fromkeys(v for v in (value, *claim.alternatives) if words.tells(v)))
        return Some(told) if len(told) == 1 + len(set(claim.alternatives) - {value}) else everything
    if not words.tells(value):
        return everything
    if isinstance(everything, Lot):
        members = frozenset(value)
        if claim.source is Source.CONTROLLER:
            return Lot(frozenset(), members)  # what a processor could take, not what a board lets it
        if claim.among_others:
            may = everything.may
            return Lot(members, None if may is None else may - members)
        return complete(members)
    if isinstance(everything, Span) and isinstance(value, int):
        return Span(value, value)
    return Some((value,))
