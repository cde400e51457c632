"""From builds to needs: what a build measures at each possibility, against today at the same one.

A :class:`Raw` is what one family of needs measures before and after, possibility by possibility, in physical units; an
:class:`Effect` is what that comes to for stated needs. What is unknown is the same before and after, so it never sells
a part by being counted as nothing (rules.md section 7).
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from ..fit.build import Build
from ..fit.enumeration import MOST, Outcome, TooMany
from ..fit.figures import system_rate
from ..fit.leaf import asks_of
from ..fit.memory import channel_split, running_speed
from ..fit.possibilities import joined, possibilities
from ..fit.unseen import ALL_GRADES, DRIVE_SIZES_GB, unseen_sizes
from ..fit.views import BuildView
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import DriveSlot, RadioSlot
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.memory_system import MemorySlot
from ..machine.part import Pack
from ..machine.radio_parts import Radio
from ..machine.shape import Slot
from ..standards import ddr, wlan
from ..standards.pcie import Link
from .memory_table import Cases, Tables, memory_cases
from .need import NeedKind
from .request import Use

#: Measures by kind, in the unit a build is measured in: GB, MB/s, GB stored, MB/s, Mb/s delivered, mWh.
Measure = int | float | Fraction
Figures = Mapping[NeedKind, Measure]
#: What a need measures when it is at stake: the kinds that share one way of measuring.
MEMORY = (NeedKind.MEMORY_CAPACITY, NeedKind.MEMORY_THROUGHPUT)
RADIO = (NeedKind.RADIO_THROUGHPUT, NeedKind.RADIO_REACH)
#: The question only a trial settles: how far away a new radio still carries.
TRIAL = "trial.reach"
#: A pack nobody has seen may hold any amount; a radio nobody knows may be the best there is.
_ANY_MWH = 10**9
_LEAST: dict[str, Any] = {"standard": "n", "streams": 1, "channel_mhz": 20, "bands": ("2.4",)}
_IDEAL: dict[str, Any] = {"standard": "be", "streams": 4, "channel_mhz": 320, "bands": wlan.BANDS}


@dataclass(frozen=True)
class Raw:
    """``cases`` are (today's figures, the build's figures) at each possibility. ``asks`` are the places that would
    settle it, ``new`` tells for each case which of the possibilities are about something bought; ``physical`` is the
    least the build surely measures, for *fill it*."""

    cases: tuple[tuple[Figures, Figures], ...]
    asks: frozenset[str] = frozenset()
    machine: tuple[Any, ...] = ()
    physical: tuple[Measure, ...] = ()
    #: Of measures over the same possibilities the one with more of ``merits`` measures no less in any of them.
    alike: Any = None
    merits: tuple[Measure, ...] = ()


# -- measuring a view ---------------------------------------------------------------------------------
def memory_figures(view: BuildView) -> dict[NeedKind, Measure]:
    """Capacity in GB and throughput in MB/s."""
    run, parts = running_speed(view), channel_split(view)
    return {
        NeedKind.MEMORY_CAPACITY: parts.total_gb if parts else 0,
        NeedKind.MEMORY_THROUGHPUT: ddr.throughput_mb_s(parts, run.mts) if run and parts else 0,
    }


def stored_gb(view: BuildView) -> int:
    """GB over all drives the owner counts."""
    held = [view.content(s.id) for s in view.slots if isinstance(s, DriveSlot | BaySlot)]
    return sum(d.capacity_gb for d in held if d is not None and d.kind in ("m2_drive", "bay_drive"))


def energy_mwh(view: BuildView) -> int:
    """What the packs hold when full. A pack bought holds what it was made for; one in use may hold less."""
    total = 0
    for slot in view.slots:
        if not isinstance(slot, BatterySlot):
            continue
        pack = view.content(slot.id)
        if pack is None:
            continue
        made: Pack | None = getattr(pack, "_part", None)
        place = getattr(pack, "_place", f"fitted {slot.id}")
        if made is None:
            total += view.either(("fitted", slot.id, "energy"), (0, _ANY_MWH))
        elif made.full_mwh is not None:
            total += made.full_mwh
        elif place.startswith("new "):
            total += made.design_mwh
        else:
            total += view.either((place, "full_mwh"), (0, made.design_mwh))
    return total


def mode_of(view: BuildView, router: wlan.RadioSide | None) -> wlan.Mode | None:
    """The best mode card, antennas and router share; with no router told, the card's own best."""
    for slot in view.slots:
        if isinstance(slot, RadioSlot) and (card := view.content(slot.id)) is not None:
            side = _side(view, slot.id, card)
            place = view.radio_place_at(slot.id)
            made = tuple(b for b in side.bands if b in place.antenna_bands)
            return wlan.best_mode(side, router or side, place.leads, made)
    return None


def _side(view: BuildView, slot_id: str, card: Any) -> wlan.RadioSide:
    """What the card can do; what is not told of it is the least or the most there is."""
    known = getattr(card, "_part", None)
    place = getattr(card, "_place", f"fitted {slot_id}")
    told = {n: getattr(known, n) for n in _IDEAL} if known is not None else dict.fromkeys(_IDEAL)
    for name, value in told.items():
        if value is None or (name == "bands" and not value):
            key = ("fitted", slot_id) if known is None else (place, name)
            best = view.either((*key, "best"), (False, True))
            told[name] = _IDEAL[name] if best else _LEAST[name]
    return wlan.RadioSide(
        standard=told["standard"], streams=told["streams"], width_mhz=told["channel_mhz"], bands=told["bands"]
    )


def _delivers(use: Use, today: Build) -> Callable[[BuildView], dict[NeedKind, Measure]]:
    def figures(view: BuildView) -> dict[NeedKind, Measure]:
        near = wlan.delivered_mbit_s(mode_of(view, use.router), use.line_mbit_s)
        if use.far_mbit_s is None:
            return {NeedKind.RADIO_THROUGHPUT: near}
        return {NeedKind.RADIO_THROUGHPUT: near, NeedKind.RADIO_REACH: _carries(view, today, use.far_mbit_s, near)}

    return figures


def _carries(view: BuildView, today: Build, far: float, near: int) -> float:
    """What the radio delivers at the owner's far place. Today's was measured there; no data sheet tells what another
    one does, so it is anything up to what it delivers close by, and only a trial tells. A radio that uses no fewer
    chains in no older standard on no fewer bands carries no less."""
    for slot in view.slots:
        if isinstance(slot, RadioSlot) and str(getattr(view.content(slot.id), "_place", "")).startswith("new "):
            was, made = today.now(slot.id), getattr(view.content(slot.id), "_part", None)
            least = far if isinstance(was, Radio) and isinstance(made, Radio) and wlan.no_less(made, was) else 0.0
            return max(least, float(near)) if view.either((TRIAL, "carries"), (False, True)) else least
    return far


def figures_of(kinds: Sequence[NeedKind], use: Use, today: Build) -> Callable[[BuildView], dict[NeedKind, Measure]]:
    """How needs of these kinds are measured."""
    if kinds[0] in MEMORY:
        return memory_figures
    match kinds[0]:
        case NeedKind.DRIVE_SPACE:
            return lambda view: {NeedKind.DRIVE_SPACE: stored_gb(view)}
        case NeedKind.DRIVE_SPEED:
            return lambda view: {NeedKind.DRIVE_SPEED: (view.boots and system_rate(view.boots, view)) or 0}
        case NeedKind.RADIO_THROUGHPUT | NeedKind.RADIO_REACH:
            return _delivers(use, today)
        case NeedKind.RUNTIME:
            return lambda view: {NeedKind.RUNTIME: energy_mwh(view)}
        case _:
            raise ValueError(f"{kinds[0]} is not measured on a build")


def touches(kind: NeedKind, slot: Slot) -> bool:
    """Does what is done to a slot bear on how a need of this kind is measured? What sits in a battery slot may take a
    drive's room."""
    match kind:
        case NeedKind.MEMORY_CAPACITY | NeedKind.MEMORY_THROUGHPUT:
            return isinstance(slot, MemorySlot)
        case NeedKind.RADIO_THROUGHPUT | NeedKind.RADIO_REACH:
            return isinstance(slot, RadioSlot)
        case NeedKind.RUNTIME:
            return isinstance(slot, BatterySlot)
        case NeedKind.DRIVE_SPACE:
            return isinstance(slot, DriveSlot | BaySlot)
        case _:
            return not isinstance(slot, MemorySlot)


class Today:
    """What is measured of today's build, kept for all the builds that are held against it."""

    def __init__(self, build: Build, use: Use) -> None:
        self.build, self.use = build, use
        self.tables: Tables = {}
        self._found: dict[NeedKind, list[Outcome[Any]] | None] = {}

    def figures(self, kinds: Sequence[NeedKind]) -> list[Outcome[Any]] | None:
        """Its figures at each possibility; None where there are too many to go through."""
        if kinds[0] not in self._found:
            try:
                found = possibilities((self.build,), figures_of(kinds, self.use, self.build))
            except TooMany:
                found = None
            self._found[kinds[0]] = found
        return self._found[kinds[0]]

    def certain(self, kinds: Sequence[NeedKind]) -> Mapping[NeedKind, Measure] | None:
        """Its figures, where nothing unknown bears on them."""
        found = self.figures(kinds)
        return found[0].answer if found and len(found) == 1 and not found[0].chosen else None


def _rates_by_firmware(build: Build) -> bool:
    """Does the rate memory may run at differ by a version of firmware that nobody read?"""
    known = build.known
    return bool(known.versions) and any(
        known.by_firmware("memory", f"speed_by_modules.{n}") for n in range(1, len(known.sockets) + 1)
    )


def measure(kinds: Sequence[NeedKind], today: Today, build: Build) -> Raw:
    """What a build measures for these kinds, which share one way of measuring, against today at the same possibility."""
    use = today.use
    try:
        if kinds[0] in MEMORY and not _rates_by_firmware(build):
            return _memory(memory_cases(today.build, build, today.tables))
        if kinds[0] is NeedKind.DRIVE_SPACE:
            return _space(today.build, build, use)
        before = today.figures(kinds)
        if before is None:
            return _unbounded(kinds, today.build, build)
        outcomes = joined(before, possibilities((build,), figures_of(kinds, use, today.build)))
    except TooMany:
        return _unbounded(kinds, today.build, build)
    return Raw(
        cases=tuple(o.answer for o in outcomes),
        asks=_asks(outcomes, kinds),
        machine=tuple(_of_the_machine(o.chosen) for o in outcomes),
        physical=tuple(min(o.answer[1][k] for o in outcomes) for k in kinds),
    )


def _unbounded(kinds: Sequence[NeedKind], today: Build, build: Build) -> Raw:
    """What is said where there are too many possibilities to go through: it may be anything from nothing to the most there
    can be. A build that leaves everything it is measured by as it is gains nothing; of any other the least is that all is
    lost."""
    most: dict[NeedKind, Measure] = {k: _most(k, today) for k in kinds}
    none: dict[NeedKind, Measure] = dict.fromkeys(kinds, 0)
    moved = {s for s in {*today.changes, *build.changes} if today.changes.get(s, s) != build.changes.get(s, s)}
    same = today.boot_slot == build.boot_slot and not any(
        touches(k, s) for k in kinds for s in build.machine.slots if s.id in moved
    )
    places = [s for s in build.machine.slots if not today.looked_into(s.id) and any(touches(k, s) for k in kinds)]
    asks = frozenset(f"fitted.{s.id}" for s in places)
    return Raw(((none, none), (most, most)) if same else ((most, none),), asks, physical=tuple(none.values()))


def _most(kind: NeedKind, today: Build) -> int:
    """More than any machine like this one measures."""
    match kind:
        case NeedKind.MEMORY_CAPACITY:
            sockets = (max(unseen_sizes(today.known, s.id)) for s in today.memory_slots)
            return sum(sockets) + sum(s.capacity_gb for s in today.machine.memory.soldered)
        case NeedKind.MEMORY_THROUGHPUT:
            return 2 * 8 * ALL_GRADES[-1]  # two channels of eight bytes
        case NeedKind.DRIVE_SPEED:
            return Link(generation=5, lanes=4).mb_s
        case NeedKind.DRIVE_SPACE:
            return DRIVE_SIZES_GB[-1] * sum(isinstance(s, DriveSlot | BaySlot) for s in today.machine.slots)
        case _:
            return _ANY_MWH


def _memory(found: Cases) -> Raw:
    """Of what is bought every figure of memory is known: no possibility is about it."""
    cases = tuple((dict(zip(MEMORY, a, strict=True)), dict(zip(MEMORY, b, strict=True))) for a, b in found.cases)
    asks = frozenset(_question(place, name) for place, name in found.asks)
    least = tuple(min(b[i] for _, b in found.cases) for i in range(len(MEMORY)))
    return Raw(cases, asks, physical=least)


def _space(today: Build, build: Build, use: Use) -> Raw:
    """What is stored, over every size of drive that may sit where nobody has looked. What comes out unseen only counts
    before, and more of it is always gained less by: its least and its most are all there is to know. What stays counts
    before and after; where nobody knows how much is used either, its least and its most say it all."""
    places = [s.id for s in build.machine.slots if isinstance(s, DriveSlot | BaySlot)]
    unseen = [s for s in places if not today.looked_into(s)]
    gone, stay = [s for s in unseen if build.looked_into(s)], [s for s in unseen if not build.looked_into(s)]
    was, holds = (sum(d.capacity_gb for d in drives(b).values()) for b in (today, build))
    most = DRIVE_SIZES_GB[-1]
    sums = {0}
    for _ in stay:
        sums = {0, max(sums) + most} if use.used_gb is None else {a + b for a in sums for b in (0, *DRIVE_SIZES_GB)}
        if len(sums) > MOST:
            raise TooMany
    kind = NeedKind.DRIVE_SPACE
    out = (0, most * len(gone)) if gone else (0,)
    cases = tuple(({kind: was + g + s}, {kind: holds + s}) for g in out for s in sorted(sums))
    return Raw(
        cases, frozenset(f"fitted.{s}" for s in gone or stay), physical=(holds,),
        alike=(tuple(gone), tuple(stay)), merits=(holds,),
    )  # fmt: skip


def _of_the_machine(chosen: Mapping[Any, Any]) -> frozenset[Any]:
    return frozenset((k, v) for k, v in chosen.items() if not str(k[0]).startswith("new "))


def _asks(outcomes: Sequence[Outcome[Any]], kinds: Sequence[NeedKind]) -> frozenset[str]:
    """The places that would tell what is gained."""
    if len(outcomes) < 2:
        return frozenset()
    gains = [tuple(o.answer[1][k] - o.answer[0][k] for k in kinds) for o in outcomes]
    if len(set(gains)) < 2 and len({str(o.answer) for o in outcomes}) < 2:
        return frozenset()
    # Ranked as verdicts are: the worst is the least that is gained.
    order = sorted(set(gains), reverse=True)
    named = asks_of(outcomes, [order.index(g) for g in gains])
    return frozenset(_question(place, name) for place, name in named)


def _question(place: str, name: str) -> str:
    """A place as it is asked for: what sits in a slot, rather than each thing about it."""
    if place == TRIAL:
        return TRIAL
    if name.startswith(("content.", "energy", "best")) or place.startswith("fitted "):
        place, name = "fitted", place.removeprefix("fitted ")
    if place.startswith("new "):
        place = "part"  # it is asked of the seller, as what its verdict waits for
    return f"{place}.{name}"


# -- figures people read of a build -------------------------------------------------------------------
def drives(build: Build) -> dict[str, M2Drive | BayDrive]:
    """Drives by slot, as far as it is known what is in them."""
    held = {s.id: build.now(s.id) for s in build.machine.slots}
    return {slot: part for slot, part in held.items() if isinstance(part, M2Drive | BayDrive)}


def storage_gb(build: Build) -> int:
    """GB of every drive in the build."""
    return sum(d.capacity_gb for d in drives(build).values())


def packs(build: Build) -> list[Pack]:
    """The packs in the machine: some have two."""
    return [p for s in build.machine.slots if isinstance(p := build.now(s.id), Pack)]
