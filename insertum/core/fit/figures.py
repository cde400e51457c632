"""Figures of a build that rules and people both go by, over what is not known: a value, or a range."""

from functools import partial
from typing import Any, TypeGuard

from ..machine.bay_and_battery import BaySlot
from ..machine.card_sockets import DriveSlot, RadioSlot
from ..machine.radio_parts import Radio
from ..standards import ddr, sata, wlan
from ..standards.pcie import Link
from .build import Build
from .drive import drive_link, drive_rate_mb_s
from .enumeration import TooMany
from .memory import channel_split, running_speed, total_gb
from .possibilities import certain, possible
from .shape_facts import AnyPartFacts, DriveFacts, DrivePlaceFacts
from .shared_resources import LANES, bites
from .unseen import UnseenPart
from .views import BuildView


def span(figures: list[Any]) -> tuple[Any, Any] | None:
    """Least and most of what it could be; None where it has no figure in any possibility."""
    known = [f for f in figures if f is not None]
    return (min(known), max(known)) if known else None


def memory_gb(build: Build) -> tuple[int, int]:
    """Memory in the build, soldered included: least and most."""
    found = span(possible(build, total_gb, ("held.capacity_gb",)))
    return found or (0, 0)


def running_mts(build: Build) -> int | None:
    """The rate memory runs at; None where it could be several, or where there is none."""
    return certain(build, _mts)


def mts_span(build: Build) -> tuple[int, int] | None:
    """Least and most MT/s memory runs at over everything that is possible; None where it is without bounds."""
    try:
        return span(possible(build, _mts, ("held.grade_mts",)))
    except TooMany:
        return None


def _mts(view: BuildView) -> int | None:
    run = running_speed(view)
    return run.mts if run else None


def split(build: Build) -> ddr.Split | None:
    """How capacity spreads over the channels; None where it could be several ways."""
    return certain(build, channel_split)


def throughput(build: Build) -> tuple[int, int] | None:
    """Memory throughput in MB/s, least and most; None for no memory, or where it is without bounds."""

    def rate(view: BuildView) -> int | None:
        run, parts = running_speed(view), channel_split(view)
        return ddr.throughput_mb_s(parts, run.mts) if run and parts else None

    try:
        return span(possible(build, rate))
    except TooMany:
        return None


def rate_mb_s(build: Build, slot_id: str) -> int | None:
    """What the drive in a slot reads there; None where it is not known."""
    found = rate_span(build, slot_id)
    return found[0] if found and found[0] == found[1] else None


def rate_span(build: Build, slot_id: str) -> tuple[int, int] | None:
    """What the drive in a slot reads there, least and most; None for no drive, or none that works there."""
    if not isinstance(build.known.slots.get(slot_id), DriveSlot | BaySlot) or not build.looked_into(slot_id):
        return None
    return span(possible(build, partial(system_rate, slot_id)))


def system_rate(slot_id: str, view: BuildView) -> int | None:
    """What the drive in a slot reads there with its neighbours as they are, at one possibility: lanes shared with
    another slot are gone. None for no drive, or one without an interface in common with the slot."""
    part = view.content(slot_id)
    if part is None or part.kind not in ("m2_drive", "bay_drive"):
        return None
    lanes = 4
    for i, e in enumerate(view.exclusions):
        if e.on == slot_id and bites(e, view.content(e.when)):
            effect = view.effect(i)
            if effect in ("off", "filled"):
                return None
            lanes = min(lanes, LANES.get(effect, 4))
    place = view.drive_place_at(slot_id)
    if isinstance(part, UnseenPart):
        return _unseen_rate(place, part, lanes)
    return drive_rate_mb_s(place, part, lanes)


def _unseen_rate(place: DrivePlaceFacts, part: UnseenPart, lanes: int) -> int:
    """Of a drive nobody has looked at: nothing, or all that its place carries. How far a need is met never falls as the
    rate rises, so what is gained or lost against anything between lies between."""
    if not part.fast:
        return 0
    if place.kind == "bay":
        return sata.MB_S[min(place.sata, 3)] if place.sata else 0
    pcie = min(lanes, place.pcie_lanes)
    rates = [Link(generation=place.pcie_generation, lanes=pcie).mb_s] if pcie else []
    rates += [sata.MB_S[min(place.sata, 3)]] if place.sata else []
    return max(rates, default=0)


def link(build: Build, slot_id: str) -> Link | None:
    """The PCIe link drive and slot agree on, where it is known."""

    def agreed(view: BuildView) -> Link | None:
        part = view.content(slot_id)
        return drive_link(view.drive_place_at(slot_id), part) if _is_drive(part) else None

    return certain(build, agreed)


def _is_drive(part: AnyPartFacts | None) -> TypeGuard[DriveFacts]:
    return part is not None and getattr(part, "kind", "") in ("m2_drive", "bay_drive") and hasattr(part, "_part")


def radio_modes(build: Build, router: wlan.RadioSide | None) -> list[wlan.Mode | None]:
    """The best modes card, antennas and router could share; with no router told, the card's own best. A radio of
    which standard, streams, width or bands are not told has none that is known: an empty list."""
    for slot in build.machine.slots:
        part = build.now(slot.id)
        if isinstance(slot, RadioSlot) and isinstance(part, Radio):
            return possible(build, partial(_mode, slot.id, part.side, router)) if part.side else []
    return [None]


def _mode(slot_id: str, side: wlan.RadioSide, router: wlan.RadioSide | None, view: BuildView) -> wlan.Mode | None:
    place = view.radio_place_at(slot_id)
    made = tuple(b for b in side.bands if b in place.antenna_bands)
    return wlan.best_mode(side, router or side, place.leads, made)
