"""Limits that several sources state: what the school of limits picks of them (rules.md section 2)."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Self

from ..machine.attribute import attributes_of
from ..machine.claim import Fact, Source
from ..machine.memory_system import MemorySlot
from ..machine.part import MemoryModule
from ..standards import ddr, sata
from .axioms import share
from .densities import Densities, densities_of
from .domain import Domain, Some
from .evidence import Grade
from .facts import Facts
from .school import NO_END, NOT_NOTED, Cap, Limit, pick

#: Limits that several sources state and a school picks from; density is a set and stands apart.
CAPS = frozenset(("limit_gb", "drive_limit_gb", "total_limit_gb", "speed_mts"))
#: A version of firmware that no proof here names.
ANOTHER = "another version"


def _without_reads(fact: Fact[int]) -> Fact[int]:
    """A speed that was read counts for its own population alone."""
    return type(fact)(tuple(c for c in fact.claims if c.source not in (Source.READ, Source.MEASURED)))


def _told_here(fact: Fact[int]) -> bool:
    """Does a claim speak of this machine? A processor's data sheet holds for all its sockets alike, and others' reports
    for none: neither takes away what follows from the maker's total."""
    return any(c.source not in (Source.CONTROLLER, Source.REPORTED) and c.exact for c in fact.claims)


@dataclass(frozen=True, eq=False)
class KnownLimits(Facts):
    """Facts, and the limits of memory and drives under a school."""

    _limits: dict[tuple[str, str], Limit] = field(default_factory=dict, init=False, compare=False, repr=False)
    _on: dict[str, Self] = field(default_factory=dict, init=False, compare=False, repr=False)
    _differs: dict[tuple[str, str], bool] = field(default_factory=dict, init=False, compare=False, repr=False)

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

    def on_firmware(self, version: str) -> Self:
        """The same machine, were its firmware this version."""
        if version not in self._on:
            self._on[version] = replace(self, firmware=version)
        return self._on[version]

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
        return densities_of(self, self.school)


def _members(domain: Domain) -> tuple[Any, ...]:
    return domain.values if isinstance(domain, Some) else ()
