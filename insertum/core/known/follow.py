"""What follows from an attribute's neighbours once its own claims are settled, and attributes that follow alone.

Each function takes what is known, the place, its shape and the domain so far, and gives (domain, why).
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Protocol

from ..machine.card_sockets import CardSocket, RadioSlot
from ..machine.claim import Claim, Source
from ..machine.memory_system import MemorySlot
from ..machine.shape import Configured
from ..standards import m2
from .bound import Bound
from .domain import COMPLETE, Domain, Lot, Some, Span, at_most, meet, single
from .school import counts

#: Attributes that follow from what works or was seen alone, with their word in *why*.
DERIVED = {"accepted_cards": "accepted", "held_um": "held without more"}

Narrowed = Iterator[tuple[Domain, str]]


@dataclass(frozen=True)
class Found:
    """A domain with how it came about. ``asks`` is the attribute one would measure to know it."""

    domain: Domain
    steps: tuple[str, ...] = ()
    conflict: bool = False
    asks: str = ""


class Asked(Protocol):
    """What settling one attribute asks of everything that is known."""

    @property
    def machine(self) -> Configured: ...
    @property
    def firmware(self) -> str: ...
    @property
    def bounds(self) -> Mapping[tuple[str, str], list[Bound]]: ...
    @property
    def sockets(self) -> tuple[MemorySlot, ...]: ...
    def value(self, place: str, name: str) -> Any: ...
    def domain(self, place: str, name: str) -> Domain: ...
    def found(self, place: str, name: str) -> Found: ...
    def usual(self, place: str, name: str) -> bool: ...


def counts_here(known: Asked, claim: Claim[Any]) -> bool:
    """Does a claim count on this machine: not only ever failed, and of its configuration and firmware?"""
    if claim.failures and not claim.count:
        return False
    if claim.source is Source.PROVEN:
        return counts(claim, known.machine.configuration.id, known.firmware)
    return claim.firmware in ("", known.firmware)


def _lanes(known: Asked, place: str, shape: Any, domain: Domain) -> Narrowed:
    """A key bounds the lanes that reach a card (bus carries)."""
    if not isinstance(shape, CardSocket) or shape.form != "m2":
        return
    keys = known.domain(place, "key")
    carries = max((m2.KEY_LANES.get(k, 4) for k in keys.values), default=4) if isinstance(keys, Some) else 4
    if (narrowed := at_most(domain, carries)) is not None and narrowed != domain:
        yield narrowed, f"its key carries ×{carries} at most (bus carries)"


def _key(known: Asked, place: str, shape: Any, domain: Domain) -> Narrowed:
    """Lanes that somebody told of leave the keys that carry them."""
    if not isinstance(shape, CardSocket) or not isinstance(domain, Some):
        return
    wired = shape.pcie_lanes
    told = [c.value for c in wired.claims if c.source is not Source.REPORTED and c.bound != "at_most"]
    most = max(told, default=0)
    kept = tuple(k for k in domain.values if m2.KEY_LANES.get(k, 4) >= most)
    if kept and kept != domain.values:
        yield Some(kept), f"only key {' or '.join(kept)} carries ×{most} (bus carries)"


def _below(known: Asked, place: str, shape: Any, domain: Domain) -> Narrowed:
    """A connector's height over bare board is the room under a card (PCIe M.2, socket heights)."""
    if not isinstance(shape, CardSocket) or not isinstance(domain, Span):
        return
    height = known.value(place, "socket_height")
    looked = any(c.source in (Source.MEASURED, Source.READ) for c in shape.clearance_below_um.claims)
    # A look at this very machine decides; the standard's figure stands in where nobody looked.
    if height not in m2.SOCKET_BELOW_UM or single(domain) is not None or looked:
        return
    room = m2.SOCKET_BELOW_UM[height]
    if single(known.domain(place, "board_below")) == "bare":
        if (narrowed := meet(domain, Span(room, room))) is not None:
            yield narrowed, f"socket {height} over bare board leaves {room / 1000:.2f} mm (bare board)"
    elif (narrowed := at_most(domain, room)) is not None and narrowed != domain:
        yield narrowed, f"socket {height} leaves {room / 1000:.2f} mm at most"


def _companion(known: Asked, place: str, shape: Any, domain: Domain) -> Narrowed:
    """A list that speaks of the slot itself is a list of what it is wired for; a processor's is none."""
    if not isinstance(shape, RadioSlot) or single(domain) is not None:
        return
    own = [
        c for c in shape.cnvi.claims if c.source not in (Source.CONTROLLER, Source.REPORTED) and counts_here(known, c)
    ]
    if own and all(bool(c.value) == bool(own[0].value) for c in own):
        wired_for = bool(own[0].value)
        yield Some((wired_for,)), "its own list names companion radios" if wired_for else "its own list is empty"


def _posts(known: Asked, place: str, shape: Any, domain: Domain) -> Narrowed:
    """A post that cannot be moved is one of the standoffs there."""
    if not isinstance(shape, CardSocket) or not isinstance(domain, Lot):
        return
    posts = known.domain(place, "standoffs_mm")
    if isinstance(posts, Lot) and posts.may is not None:
        there = posts.has | posts.may
        may = (there if domain.may is None else domain.may & there) - domain.has
        if may != domain.may:
            yield Lot(domain.has, may), "a post that stays is one of the standoffs there"


_NEIGHBOURS = {
    "pcie_lanes": _lanes,
    "key": _key,
    "clearance_below_um": _below,
    "cnvi_wired": _companion,
    "fixed_posts_mm": _posts,
}


def follows(known: Asked, place: str, name: str, shape: Any, domain: Domain) -> Narrowed:
    """What an attribute's neighbours leave of its domain, with why."""
    if name in _NEIGHBOURS:
        yield from _NEIGHBOURS[name](known, place, shape, domain)


def derived(known: Asked, place: str, name: str) -> Found | None:
    """Attributes that are consequences of others and have no claims of their own; None for all others."""
    if name == "holds_mm":
        posts, brackets = known.found(place, "standoffs_mm"), known.found(place, "bracket_mm")
        assert isinstance(posts.domain, Lot) and isinstance(brackets.domain, Lot)
        there, drawn = brackets.domain.has, brackets.domain.may
        if posts.domain.may is not None:  # a bracket draws a card out to a standoff farther off
            reach = max(posts.domain.has | posts.domain.may, default=0)
            surely = max(posts.domain.has, default=0)
            lengths = frozenset(m2.LENGTHS) if drawn is None else drawn
            drawn = frozenset(length for length in lengths | there if length < reach)
            there = frozenset(length for length in there if length < surely)
        has = posts.domain.has | there
        works = [b for b in known.bounds.get((place, name), ()) if b.domain is not None]
        has |= frozenset(m for b in works if isinstance(b.domain, Lot) for m in b.domain.has)
        may = _either(posts.domain.may, drawn)
        asks = "standoffs_mm" if posts.domain.may is None or posts.domain.may else "bracket_mm"
        steps = (*posts.steps, *brackets.steps, *(f"{b.why}: held ({b.deduction})" for b in works))
        return Found(Lot(has, None if may is None else may - has), steps, asks=asks)
    if name in DERIVED:
        works = known.bounds.get((place, name), [])
        has = frozenset(m for b in works if isinstance(b.domain, Lot) for m in b.domain.has)
        return Found(Lot(has, COMPLETE), tuple(f"{b.why}: {DERIVED[name]} ({b.deduction})" for b in works))
    return None


def _either(a: frozenset[Any] | None, b: frozenset[Any] | None) -> frozenset[Any] | None:
    return None if a is None or b is None else a | b
