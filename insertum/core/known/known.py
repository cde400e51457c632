"""Known: what is known of one machine on one job, and why.

Built once from configuration, claims, school, firmware, what was found and what the owner takes as usual; nothing
else reads claims. For each attribute it holds a domain (:mod:`.domain`), for each limit the school's caps.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from ..frozen import Frozen
from ..machine.attribute import Attribute, attributes_of, lowered, shown
from ..machine.claim import Claim, Fact, Limits, Source
from ..machine.part import MemoryModule
from ..machine.shape import BatterySlot, BaySlot, CardSocket, Configured, MemorySlot, RadioSlot, Slot
from ..standards import ddr, m2, sata
from .axioms import brought, share
from .claim_domain import anything_of, as_domain
from .deduce import Bound, deduced
from .domain import COMPLETE, Domain, Lot, Some, Span, at_most, join, meet, single
from .evidence import Contents, Grade, evidence
from .school import NO_END, NOT_NOTED, Cap, Limit, counts, pick
from .why_text import SOLDERED_WORDS, bound_words, claim_sentence, in_words, sized

#: Limits that several sources state and a school picks from; density is a set and stands apart.
CAPS = frozenset(("limit_gb", "drive_limit_gb", "total_limit_gb", "speed_mts"))
#: Attributes that follow from what works or was seen alone, with their word in *why*.
DERIVED = {"accepted_cards": "accepted", "held_um": "held without more"}
#: A version of firmware that no proof here names.
ANOTHER = "another version"
_FACT_RANKS = (Source.PROVEN, Source.DOCUMENTED)


@dataclass(frozen=True)
class Found:
    """A domain with how it came about. ``asks`` is the attribute one would measure to know it."""

    domain: Domain
    steps: tuple[str, ...] = ()
    conflict: bool = False
    asks: str = ""


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


@dataclass(frozen=True)
class Densities:
    """Chip densities the memory runs: ``sure`` ones, ``reported`` ones at the owner's risk, and whether anything
    else is refused (the controller does not address it) or only not known."""

    sure: frozenset[int]
    reported: frozenset[int] = frozenset()
    closed: bool = False
    steps: tuple[str, ...] = ()


def _densest(densities: Iterable[int]) -> list[str]:
    """The densest chips that stand for all, in words: each density brings those below it, 24 Gbit apart."""
    there = set(densities)
    top = max(there - {24}, default=0)
    return [f"{d} Gbit" for d in sorted({top} & there | ({24} & there if top < 24 else set()))]


def _without_reads(fact: Fact[int]) -> Fact[int]:
    """A speed that was read counts for its own population alone."""
    return type(fact)(tuple(c for c in fact.claims if c.source not in (Source.READ, Source.MEASURED)))


def _told_here(fact: Fact[int]) -> bool:
    """Does a claim speak of this machine? A processor's data sheet holds for all its sockets alike, and others' reports
    for none: neither takes away what follows from the maker's total."""
    return any(c.source not in (Source.CONTROLLER, Source.REPORTED) and c.exact for c in fact.claims)


@dataclass(frozen=True, eq=False)
class Known:
    """What is known of ``machine``. Two are the same only where they are the same object."""

    machine: Configured
    contents: Contents
    school: Limits = Limits.PROVEN
    firmware: str = ""
    as_usual: bool = False
    system: str = ""
    #: The unknowns taken as usual, as slot.attribute; empty is all that are returnable.
    usual_only: frozenset[str] = frozenset()
    #: Versions of firmware that outcomes of this configuration name.
    seen_under: tuple[str, ...] = ()
    _found: dict[tuple[str, str], Found] = field(default_factory=dict, init=False, compare=False, repr=False)
    _limits: dict[tuple[str, str], Limit] = field(default_factory=dict, init=False, compare=False, repr=False)
    #: Where the views of one machine keep what they looked up.
    views: dict[str, dict[str, Any]] = field(default_factory=dict, init=False, compare=False, repr=False)
    _on: dict[str, "Known"] = field(default_factory=dict, init=False, compare=False, repr=False)
    _differs: dict[tuple[str, str], bool] = field(default_factory=dict, init=False, compare=False, repr=False)

    def under(self, school: Limits | None = None, as_usual: bool | None = None) -> "Known":
        """The same machine under another school, or with what the owner takes as usual."""
        return replace(
            self, school=self.school if school is None else school,
            as_usual=self.as_usual if as_usual is None else as_usual,
        )  # fmt: skip

    # -- firmware ------------------------------------------------------------------------------------
    @cached_property
    def versions(self) -> tuple[str, ...]:
        """Versions of firmware that proofs of this configuration name, and :data:`ANOTHER`: what this machine's may be.
        Empty where it was read, or where nothing names one."""
        if self.firmware:
            return ()
        shapes = (*self.machine.slots, self.machine.memory, self.machine.boot)
        facts = [f for s in shapes for n in attributes_of(type(s)) if isinstance(f := getattr(s, n), Fact)]
        facts += self.machine.memory.speed_by_modules.values()
        named = {c.firmware for f in facts for c in f.claims if c.configuration in ("", self.machine.configuration.id)}
        named = (named | set(self.seen_under)) - {"", NOT_NOTED}
        return (*sorted(named), ANOTHER) if named else ()

    def on_firmware(self, version: str) -> "Known":
        """The same machine, were its firmware this version."""
        known = self._on.get(version)
        if known is None:
            known = self._on[version] = replace(self, firmware=version)
        return known

    def by_firmware(self, place: str, name: str) -> bool:
        """Does what is known of an attribute differ by the version of firmware, which was not read?"""
        if not self.versions:
            return False
        key = (place, name)
        if key not in self._differs:
            every = [self.on_firmware(v) for v in self.versions]
            answers: set[Any] = {
                (k.densities.sure, k.densities.reported, k.densities.closed)
                if name == "density_gbit"
                else k.caps(place, name)
                if name in CAPS or name.startswith("speed_by_modules")
                else k.domain(place, name)
                for k in every
            }
            self._differs[key] = len(answers) > 1
        return self._differs[key]

    def usual(self, place: str, name: str) -> bool:
        """Is this unknown taken as usual, on the owner's word?"""
        return self.as_usual and (not self.usual_only or f"{place}.{name}" in self.usual_only)

    # -- what a caller asks -------------------------------------------------------------------------
    def value(self, place: str, name: str) -> Any:
        """The value where it is known: a tuple for a list; None while it could be several."""
        return single(self.found(place, name).domain)

    def domain(self, place: str, name: str) -> Domain:
        return self.found(place, name).domain

    def attributes(self, place: str) -> dict[str, Attribute]:
        """The attributes of a place, with their words."""
        return attributes_of(type(self._shape(place)))

    def words(self, place: str, name: str) -> Attribute:
        """The attribute's own words."""
        if name.startswith("speed_by_modules"):
            name = "speed_mts"
        if name.startswith("soldered."):
            return SOLDERED_WORDS[name.rpartition(".")[2]]
        return attributes_of(type(self._shape(place)))[name]

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
                    assumed = _USUAL_WORDS.get(name, shown(_USUAL.get(name)))
                    label = f"{self.place_name(place)}: {lowered(words.label)}"
                    found.append(Usual(place=f"{place}.{name}", label=label, assumed=assumed))
        return tuple(found)

    def place_name(self, place: str) -> str:
        slot = self.slots.get(place)
        return slot.name if slot else {"memory": "Memory", "boot": "Firmware"}.get(place, place)

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
            value = " and ".join(_densest(d.sure)) or "unknown"
            return Explained(place=f"{place}.{name}", label=label, value=value, steps=d.steps)
        found = self.found(place, name)
        return Explained(
            place=f"{place}.{name}", label=label, value=in_words(found.domain, words), steps=found.steps,
            conflict=found.conflict,
        )  # fmt: skip

    # -- facts --------------------------------------------------------------------------------------
    def found(self, place: str, name: str) -> Found:
        key = (place, name)
        known = self._found.get(key)
        if known is None:
            known = self._found[key] = self._derived(place, name) or self._settled(place, name)
        return known

    def _shape(self, place: str) -> Any:
        if place == "memory":
            return self.machine.memory
        if place == "boot":
            return self.machine.boot
        return self.machine.slot(place) if place not in self.slots else self.slots[place]

    @cached_property
    def slots(self) -> dict[str, Slot]:
        return {s.id: s for s in self.machine.slots}

    @cached_property
    def bounds(self) -> dict[tuple[str, str], list[Bound]]:
        """What follows from what runs, was seen or was delivered, by attribute."""
        by: dict[tuple[str, str], list[Bound]] = {}
        for bound in deduced(evidence(self.machine, self.contents)):
            by.setdefault((bound.place, bound.name), []).append(bound)
        return by

    def _settled(self, place: str, name: str) -> Found:
        """One attribute, settled by rank: measured and read; runs; proven; documented (rules.md section 2)."""
        shape = self._shape(place)
        words = attributes_of(type(shape))[name]
        fact: Fact[Any] = getattr(shape, name)
        everything = anything_of(shape, name, words)
        domain, steps, conflict = everything, list[str](), False
        here = {c.source: c for c in fact.claims if c.source in (Source.MEASURED, Source.READ)}
        if here:  # a later look replaces an earlier one by the same means
            steps += [claim_sentence(c, words) for c in here.values()]
            both = [as_domain(c, everything, words) for c in here.values()]
            domain = both[0]
            if len(both) > 1:
                agreed = meet(both[0], both[1])
                conflict = agreed is None
                domain = agreed if agreed is not None else join(both[0], both[1])
                if conflict:
                    steps.append("measured and read disagree: either may be so")
        bounds = self._bounds_of(shape, place, name)
        claimed: Domain | None = domain if here else None
        for bound in bounds:
            steps.append(f"{bound.why}: {bound_words(bound, words)} ({bound.deduction})")
            narrowed = bound.narrow(domain)
            if narrowed is not None:
                domain = narrowed
                continue
            conflict = True
            if here and bound.works:
                other = bound.narrow(everything)
                claimed = domain = join(domain, other) if other is not None else domain
                steps.append("what works today and what was measured disagree: either may be so")
            else:
                steps.append("which is not so: what ranks higher stands")
        for source in _FACT_RANKS:
            said = [c for c in fact.claims if c.source is source and self._counts(c)]
            if not said:
                continue
            steps += [claim_sentence(c, words) for c in said]
            wanted = as_domain(said[0], everything, words)
            for c in said[1:]:
                both_ = meet(wanted, as_domain(c, everything, words))
                if both_ is None:
                    conflict = True
                    steps.append(f"{source} claims disagree: either may be so")
                wanted = both_ if both_ is not None else join(wanted, as_domain(c, everything, words))
            # What nobody higher has said is open: a claim need not be one of the usual values.
            narrowed = wanted if claimed is None else meet(claimed, wanted)
            for bound in bounds:
                narrowed = bound.narrow(narrowed) if narrowed is not None else None
            if narrowed is None:
                conflict = True
                steps.append("which is not so: what ranks higher stands")
            else:
                domain = claimed = narrowed
        for c in fact.claims:
            if c.source is Source.CONTROLLER:
                steps.append(claim_sentence(c, words))
                one = as_domain(c, everything, words)
                narrowed = one if claimed is None and not bounds else meet(domain, one)
                conflict = conflict or narrowed is None
                domain = narrowed if narrowed is not None else join(domain, one)
            elif c.source is Source.REPORTED:
                steps.append(f"{claim_sentence(c, words)}: a report alone settles no fact")
        for narrowed, why in self._follows(place, name, domain):
            domain = narrowed
            steps.append(why)
        at_radio = name != "usb" or getattr(shape, "kind", "") == "radio"
        if self.usual(place, name) and words.returnable and at_radio and (usual := _USUAL.get(name)) is not None:
            assumed = meet(domain, Some((usual,))) if not isinstance(domain, Lot) else None
            if assumed is not None and single(domain) is None:
                domain = assumed
                steps.append(f"taken as usual, on the owner's word: {shown(usual)}")
        if single(domain) is None and not fact.claims and not self.bounds.get((place, name)):
            steps.append("nobody has said or looked")
        return Found(domain, tuple(steps), conflict)

    def _bounds_of(self, shape: Any, place: str, name: str) -> list[Bound]:
        """What follows for an attribute; like sockets take like modules unless a claim tells them apart."""
        own = self.bounds.get((place, name), [])
        if not isinstance(shape, MemorySlot) or name != "generation" or own:
            return own
        if any(s.generation.claims for s in self.sockets):
            return own
        return [b for s in self.sockets for b in self.bounds.get((s.id, name), ())]

    def _counts(self, claim: Claim[Any]) -> bool:
        """Does a claim count on this machine: not only ever failed, and of its configuration and firmware?"""
        if claim.failures and not claim.count:
            return False
        if claim.source is Source.PROVEN:
            return counts(claim, self.machine.configuration.id, self.firmware)
        return claim.firmware in ("", self.firmware)

    def _follows(self, place: str, name: str, domain: Domain) -> Iterator[tuple[Domain, str]]:
        """What follows besides: keys bound lanes, a connector's height the room over bare board."""
        shape = self._shape(place)
        if name == "pcie_lanes" and isinstance(shape, CardSocket) and shape.form == "m2":
            keys = self.domain(place, "key")
            carries = max((m2.KEY_LANES.get(k, 4) for k in keys.values), default=4) if isinstance(keys, Some) else 4
            if (narrowed := at_most(domain, carries)) is not None and narrowed != domain:
                yield narrowed, f"its key carries ×{carries} at most (bus carries)"
        if name == "key" and isinstance(shape, CardSocket) and isinstance(domain, Some):
            wired = shape.pcie_lanes
            told = [c.value for c in wired.claims if c.source is not Source.REPORTED and c.bound != "at_most"]
            most = max(told, default=0)
            kept = tuple(k for k in domain.values if m2.KEY_LANES.get(k, 4) >= most)
            if kept and kept != domain.values:
                yield Some(kept), f"only key {' or '.join(kept)} carries ×{most} (bus carries)"
        if name == "clearance_below_um" and isinstance(shape, CardSocket) and isinstance(domain, Span):
            height = self.value(place, "socket_height")
            under = self.domain(place, "board_below")
            looked = any(c.source in (Source.MEASURED, Source.READ) for c in shape.clearance_below_um.claims)
            # A look at this very machine decides; the standard's figure stands in where nobody looked.
            if height in m2.SOCKET_BELOW_UM and single(domain) is None and not looked:
                room = m2.SOCKET_BELOW_UM[height]
                if single(under) == "bare":
                    if (narrowed := meet(domain, Span(room, room))) is not None:
                        yield narrowed, f"socket {height} over bare board leaves {room / 1000:.2f} mm (bare board)"
                elif (narrowed := at_most(domain, room)) is not None and narrowed != domain:
                    yield narrowed, f"socket {height} leaves {room / 1000:.2f} mm at most"
        if name == "cnvi_wired" and isinstance(shape, RadioSlot) and single(domain) is None:
            # A list that speaks of the slot itself is a list of what it is wired for; a processor's is none.
            own = [
                c for c in shape.cnvi.claims if c.source not in (Source.CONTROLLER, Source.REPORTED) and self._counts(c)
            ]
            if own and all(bool(c.value) == bool(own[0].value) for c in own):
                wired_for = bool(own[0].value)
                yield (
                    Some((wired_for,)),
                    "its own list names companion radios" if wired_for else "its own list is empty",
                )
        if name == "fixed_posts_mm" and isinstance(shape, CardSocket) and isinstance(domain, Lot):
            posts = self.domain(place, "standoffs_mm")
            if isinstance(posts, Lot) and posts.may is not None:
                there = posts.has | posts.may
                may = (there if domain.may is None else domain.may & there) - domain.has
                if may != domain.may:
                    yield Lot(domain.has, may), "a post that stays is one of the standoffs there"

    def _derived(self, place: str, name: str) -> Found | None:
        """Attributes that are consequences of others and have no claims of their own."""
        if name == "holds_mm":
            posts, brackets = self.found(place, "standoffs_mm"), self.found(place, "bracket_mm")
            assert isinstance(posts.domain, Lot) and isinstance(brackets.domain, Lot)
            there, drawn = brackets.domain.has, brackets.domain.may
            if posts.domain.may is not None:  # a bracket draws a card out to a standoff farther off
                reach = max(posts.domain.has | posts.domain.may, default=0)
                surely = max(posts.domain.has, default=0)
                lengths = frozenset(m2.LENGTHS) if drawn is None else drawn
                drawn = frozenset(length for length in lengths | there if length < reach)
                there = frozenset(length for length in there if length < surely)
            has = posts.domain.has | there
            works = [b for b in self.bounds.get((place, name), ()) if b.domain is not None]
            has |= frozenset(m for b in works if isinstance(b.domain, Lot) for m in b.domain.has)
            may = _either(posts.domain.may, drawn)
            asks = "standoffs_mm" if posts.domain.may is None or posts.domain.may else "bracket_mm"
            steps = (*posts.steps, *brackets.steps, *(f"{b.why}: held ({b.deduction})" for b in works))
            return Found(Lot(has, None if may is None else may - has), steps, asks=asks)
        if name in DERIVED:
            works = self.bounds.get((place, name), [])
            has = frozenset(m for b in works if isinstance(b.domain, Lot) for m in b.domain.has)
            return Found(Lot(has, COMPLETE), tuple(f"{b.why}: {DERIVED[name]} ({b.deduction})" for b in works))
        return None

    # -- limits -------------------------------------------------------------------------------------
    def limit(self, place: str, name: str) -> Limit:
        key = (place, name)
        known = self._limits.get(key)
        if known is None:
            known = self._limits[key] = self._picked(place, name)
        return known

    def caps(self, place: str, name: str) -> tuple[Cap, ...]:
        """A limit as a rule may meet it, worst first."""
        if name == "speed_mts" or name.startswith("speed_by_modules"):
            return self._speed_caps(self.limit(place, name))
        if name in ("limit_gb", "total_limit_gb") and self.usual(place, name) and self.limit(place, name).value is None:
            return (Cap(NO_END, NO_END, Source.ASSUMED),)
        limit = self.limit(place, name)
        if name == "drive_limit_gb" and limit.value is None:
            # In a storage mode that remaps, what is beyond 2.199 TB is not known; up to there it reaches.
            reach = max(limit.at_least, int(sata.MBR_BYTES // 10**9))
            return (Cap(reach, reach), Cap(NO_END, NO_END))
        return limit.caps()

    def _speed_caps(self, limit: Limit) -> tuple[Cap, ...]:
        """While a speed limit is unknown memory runs at its generation's slowest grade at least."""
        if limit.value is not None:
            return limit.caps()
        generations = {self.value(s.id, "generation") for s in self.sockets} - {None}
        slowest = min((ddr.GRADES[g][0] for g in generations if g in ddr.GRADES), default=ddr.GRADES[3][0])
        least = max(limit.at_least, slowest)
        most = limit.at_most or NO_END
        return (Cap(min(least, most), min(least, most)), Cap(most, most))

    def _pick(self, fact: Fact[int], at_least: int = 0, absent: int | None = None) -> Limit:
        return pick(fact, self.school, self.machine.configuration.id, self.firmware, at_least, absent)

    def _picked(self, place: str, name: str) -> Limit:
        runs = max((b.least or 0 for b in self.bounds.get((place, name), ())), default=0)
        if name == "limit_gb":
            return self._socket_limit(place, runs)
        if name == "total_limit_gb":
            return self._total_limit()
        if name == "drive_limit_gb":
            remaps = self.domain("boot", "storage_mode") != Some(("plain",)) and "raid" in _members(
                self.domain("boot", "storage_mode")
            )
            return self._pick(self._shape(place).drive_limit_gb, runs, None if remaps else NO_END)
        if name == "speed_mts":
            return self._pick(_without_reads(self.machine.memory.speed_mts), 0)
        if name.startswith("speed_by_modules."):
            return self._speed_of(int(name.partition(".")[2]))
        raise KeyError(f"no limit {name!r}")

    @property
    def sockets(self) -> tuple[MemorySlot, ...]:
        return tuple(s for s in self.machine.slots if isinstance(s, MemorySlot))

    @property
    def soldered_gb(self) -> int:
        return sum(s.capacity_gb for s in self.machine.memory.soldered)

    def _own_total(self) -> Limit:
        """The total as claims state it, where they state it for this very configuration."""
        return self._pick(self.machine.memory.total_limit_gb)

    @property
    def total_is_its_own(self) -> bool:
        """A family's "up to" proves nothing where soldered sizes differ between its configurations."""
        machine, this = self.machine.machine, self.machine.configuration
        if "total_limit_gb" in this.differs.get("memory", {}):
            return True
        soldered = {
            sum(s.capacity_gb for s in machine.configured(c.id).memory.soldered) for c in machine.configurations
        }
        return len(soldered) == 1

    def _socket_fact(self, place: str) -> Fact[int]:
        """What is said of a socket's limit; like sockets take like modules: what was proven in one counts for all."""
        fact: Fact[int] = self._shape(place).limit_gb
        return self._shared(fact) if self.sockets_alike else fact

    def _socket_limit(self, place: str, runs: int) -> Limit:
        if self.sockets_alike:  # what ran in one runs in all
            runs = max([runs, *(b.least or 0 for s in self.sockets for b in self.bounds.get((s.id, "limit_gb"), ()))])
        fact = self._socket_fact(place)
        stated = self._pick(fact, runs)
        if stated.value is not None:
            return stated
        total, gb = self._total_behind(fact)
        if not gb:
            return stated
        if len(self.sockets) == 1:
            room = gb - self.soldered_gb
            real = max((c for c in ddr.CAPACITIES_GB if c <= room), default=0)
            # At most the rest of the total, at least the largest real module in it: no module lies between.
            return Limit(max(real, runs), total.source, max(real, runs), runs, total.contradictions)
        each = self._share_of(gb)
        return Limit(None, None, None, max(runs, each, stated.at_least)) if self.sockets_alike else stated

    def _total_behind(self, fact: Fact[int]) -> tuple[Limit, int]:
        """The total from which a socket's limit follows, in GB, where nothing is said of the socket itself; else 0."""
        total = self._own_total()
        own = self.total_is_its_own and not _told_here(fact)
        return total, (total.value or 0) if own else 0

    def _from_total(self, place: str) -> tuple[str, ...]:
        """How a socket's limit follows from the total, for *why*."""
        fact = self._socket_fact(place)
        total, gb = self._total_behind(fact)
        if not gb or self._pick(fact).value is not None or len(self.sockets) > 1 and not self.sockets_alike:
            return ()
        board = f" less {self.soldered_gb} GB on the board" if self.soldered_gb else ""
        where = "its only socket" if len(self.sockets) == 1 else f"shares of {len(self.sockets)} like sockets"
        return (f"{gb} GB in all ({total.source}){board}, in {where}",)

    @cached_property
    def contradicted(self) -> frozenset[int]:
        """Exclusions, by their place in the machine's list, that do not hold for what is in their two slots today: both
        work, or a link runs wider than the exclusion would leave it."""
        works = {
            s for s, grades in self.contents.grades.items() if Grade.WORKS in grades and self.contents.fitted.get(s)
        }
        found = set()
        for i, e in enumerate(self.machine.machine.exclusions):
            if {e.when, e.on} <= works:
                found.add(i)
        return frozenset(found)

    @cached_property
    def sockets_alike(self) -> bool:
        """Does no claim tell the sockets apart? What was proven in one of them tells nothing of the others' difference."""

        def own(s: MemorySlot) -> set[tuple[Any, ...]]:
            told = (c for c in s.limit_gb.claims if c.source not in (Source.PROVEN, Source.CONTROLLER, Source.REPORTED))
            return {(c.source, c.value, c.bound, c.alternatives) for c in told}

        return len(self.sockets) > 1 and all(own(s) == own(self.sockets[0]) for s in self.sockets)

    def _share_of(self, total_gb: int) -> int:
        """The largest real module within the share each like socket takes of a total."""
        each = share(total_gb, self.soldered_gb, len(self.sockets))
        return max((c for c in ddr.CAPACITIES_GB if c <= each), default=0)

    def _shared(self, fact: Fact[int]) -> Fact[int]:
        """A socket's claims with what was proven in its likes, and its share of a total that was proven here."""
        others = [
            c for s in self.sockets for c in s.limit_gb.claims if c.source is Source.PROVEN and c not in fact.claims
        ]
        total = [c for c in self.machine.memory.total_limit_gb.claims if c.source is Source.PROVEN]
        shares = [
            c.model_copy(update={"value": each}) for c in total if (each := self._share_of(c.value)) and not c.failures
        ]
        return type(fact)((*fact.claims, *others, *shares))

    def _total_limit(self) -> Limit:
        memory = self.machine.memory
        running = self._running_gb
        stated = self._pick(memory.total_limit_gb, running)
        if stated.value is not None or _told_here(memory.total_limit_gb):
            return stated
        # Where no total is told, what all sockets take bounds it from below.
        sizes = [self.limit(s.id, "limit_gb") for s in self.sockets]
        least = self.soldered_gb + sum(s.at_least if s.value is None else s.value for s in sizes)
        return Limit(None, None, None, max(running, least))

    @cached_property
    def _running_gb(self) -> int:
        """Memory that runs in this machine today, or was delivered in it: a lower bound of its ceiling."""
        today = [self.contents.fitted.get(s.id) for s in self.sockets]
        delivered = [s.fitted for s in self.sockets if s.looked]

        def size(modules: Sequence[Any]) -> int:
            return sum(m.capacity_gb for m in modules if isinstance(m, MemoryModule))

        works = any(Grade.WORKS in self.contents.grades.get(s.id, ()) for s in self.sockets)
        return self.soldered_gb + max(size(delivered), size(today) if works else 0)

    @cached_property
    def read_mts(self) -> int:
        """What memory was read to run at today; 0 where nobody read it."""
        claims = self.machine.memory.speed_mts.claims
        return max((c.value for c in claims if c.source in (Source.READ, Source.MEASURED) and c.exact), default=0)

    def runs_at_least(self, modules: Mapping[str, int | None]) -> int:
        """The rate that modules, by socket with their ranks, surely run at because memory was read to run at it: in its own
        population (modules on the fullest channel, their number where channels are not known) and with as many ranks."""
        if not self.read_mts or not modules:
            return 0
        today = {s.id: m.ranks for s in self.sockets if isinstance(m := self.contents.fitted.get(s.id), MemoryModule)}
        if self._population(modules, today) > self._population(today, modules):
            return 0
        ranks = [r for r in today.values() if r is not None]
        told = bool(today) and len(ranks) == len(today)
        if told and any(r is None or r > max(ranks) for r in modules.values()):
            return 0
        return self.read_mts  # fewer modules never run slower than more of the same

    def _population(self, modules: Mapping[str, int | None], beside: Mapping[str, int | None]) -> int:
        channels = {s: self.value(s, "channel") for s in (*modules, *beside)}
        if None in channels.values():
            return len(modules)
        here = [channels[s] for s in modules]
        return max((here.count(c) for c in here), default=0)

    def _speed_of(self, modules: int) -> Limit:
        """The machine's limit for a number of modules: as told; else at least that of a larger one told, at
        most that of a smaller one and the machine's."""
        by, whole = self.machine.memory.speed_by_modules, self.limit("memory", "speed_mts")
        if modules in by and by[modules].claims:
            return self._pick(by[modules])
        if modules not in by and not any(n < modules for n in by):
            return whole  # nothing slower is told of as few modules
        larger = [self._pick(f).value for n, f in by.items() if n > modules]
        smaller = [self._pick(f).value for n, f in by.items() if n < modules]
        least = max((v for v in larger if v is not None), default=0)
        most = min((v for v in (*smaller, whole.value) if v is not None), default=None)
        if most is not None and least >= most:
            return Limit(most, whole.source or Source.DOCUMENTED, most)
        return Limit(None, None, None, least, at_most=most or 0)

    @cached_property
    def densities(self) -> Densities:
        """Chip densities the school allows (rules.md section 3)."""
        fact = self.machine.memory.density_gbit
        by: dict[Source, set[int]] = {}
        for c in fact.claims:
            if (
                not c.exact
                or c.source is Source.PROVEN
                and (not counts(c, self.machine.configuration.id, self.firmware) or c.failures or not c.count)
            ):
                continue
            by.setdefault(c.source, set()).add(c.value)
        words = self.words("memory", "density_gbit")
        steps = [claim_sentence(c, words) for c in fact.claims]
        soldered = {s.density_gbit for s in self.machine.memory.soldered if s.density_gbit and self.sockets}
        steps += [f"{d} chips on the board run, and so all below" for d in _densest(soldered)]
        running = set(soldered)
        for b in self.bounds.get(("memory", "density_gbit"), ()):
            if isinstance(b.domain, Lot):
                here = {int(m) for m in b.domain.has}
                running |= here
                steps += [f"{b.why}: {d} chips run, and so all below ({b.deduction})" for d in _densest(here)]
        documented = set(by.get(Source.DOCUMENTED, ()))
        if not documented and Source.PROVEN not in by:
            # With no claim the largest documented module stands in: the least dense chips it can be made of.
            for s in self.sockets:
                sizes = [c.value for c in s.limit_gb.claims if c.source is Source.DOCUMENTED and c.exact]
                generation = self.value(s.id, "generation")
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
        if self.school in (Limits.PROVEN, Limits.OPEN):
            sure |= proven
        if controller and self.school is Limits.CONTROLLER:
            sure, closed = controller | documented, True
        elif controller and self.school is Limits.OPEN:
            sure, closed = sure | controller, True
        reported = by.get(Source.REPORTED, set()) if self.school is Limits.OPEN else set()
        return Densities(brought(sure) | brought(running), brought(reported), closed, tuple(dict.fromkeys(steps)))

    def _said(self, place: str, name: str) -> tuple[str, ...]:
        shape = self._shape(place)
        if name.startswith("speed_by_modules."):
            fact = shape.speed_by_modules.get(int(name.partition(".")[2]), shape.speed_mts)
        else:
            fact = getattr(shape, name)
        words = self.words(place, name)
        said = [claim_sentence(c, words) for c in fact.claims]
        follow = (f"{b.why}: {bound_words(b, words)} ({b.deduction})" for b in self.bounds.get((place, name), ()))
        return (*said, *follow)


def as_delivered(machine: Configured, school: Limits = Limits.PROVEN, firmware: str = "") -> Known:
    """What is known of a configuration from the library alone."""
    fitted = {s.id: s.fitted for s in machine.slots if s.looked}
    return Known(machine, Contents(fitted, boot_slot=machine.machine.boot_slot), school, firmware)


#: What returnable unknowns are taken to be on the owner's word (rules.md section 2).
_USUAL: Mapping[str, Any] = {"card_policy": "any", "starts_nvme": True, "usb": True, "clock_drivers": True}


_USUAL_WORDS = {
    "limit_gb": "no limit below the part's size", "total_limit_gb": "no limit below the whole",
    "density_gbit": "denser chips than documented run too", "module_types": "modules with ECC run too",
}  # fmt: skip


def _members(domain: Domain) -> tuple[Any, ...]:
    return domain.values if isinstance(domain, Some) else ()


def _either(a: frozenset[Any] | None, b: frozenset[Any] | None) -> frozenset[Any] | None:
    return None if a is None or b is None else a | b


__all__ = ["BatterySlot", "BaySlot", "Densities", "Explained", "Found", "Known", "in_words"]
