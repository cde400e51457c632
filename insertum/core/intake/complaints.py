"""Triage: complaint → free causes → the test that tells → only then a part."""

from ..base import Frozen
from ..plan.need import NeedKind as K


class FreeCause(Frozen):
    """A cause that costs nothing to mend, and the test that tells."""

    id: str
    cause: str
    test: str


class Complaint(Frozen):
    id: str
    name: str
    causes: tuple[FreeCause, ...]
    then: tuple[str, ...]
    weights: dict[K, float]


def _complaint(id: str, name: str, causes: list[tuple[str, str]], then: str, weights: dict[K, float]) -> Complaint:
    return Complaint(
        id=id,
        name=name,
        causes=tuple(FreeCause(id=f"{id}.{i}", cause=c, test=t) for i, (c, t) in enumerate(causes, 1)),
        then=tuple(then.split(", ")),
        weights=weights,
    )


COMPLAINTS: dict[str, Complaint] = {
    c.id: c
    for c in (
        _complaint(
            "slow",
            "Slow with many pages open",
            [
                ("Programs that start by themselves", "Switch them off, start again, watch memory in use for a day."),
                ("The drive is nearly full", "Free a tenth of it and time the same start again."),
                ("The processor is at its limit", "Watch it under the owner's own load: at its limit no part helps."),
            ],
            "memory, drive",
            {K.MEMORY_CAPACITY: 2, K.DRIVE_SPEED: 0.5},
        ),
        _complaint(
            "full",
            "Disk full",
            [
                ("Old updates and restore points", "Run the system's own clean-up and look again."),
                ("Files that live elsewhere too", "Ask the owner what is kept on a server; let it keep only links."),
            ],
            "drive",
            {K.DRIVE_SPACE: 2},
        ),
        _complaint(
            "radio",
            "Radio drops out",
            [
                ("A driver or an update", "Try the driver before the last one; try another machine beside it."),
                ("Power saving of the radio", "Switch it off and measure for a day at the same place."),
                ("The router or its channel", "Measure beside the router and over the wired line."),
                ("No networks at all: the switch", "Look for a key, a switch or flight mode."),
            ],
            "radio",
            {K.RADIO_THROUGHPUT: 2},
        ),
        _complaint(
            "runtime",
            "Dies after two hours",
            [
                ("Brightness and power mode", "Set both down and time the same work again."),
                ("A program that never rests", "Look at what uses the processor when nothing is done."),
            ],
            "battery",
            {K.RUNTIME: 3},
        ),
        _complaint(
            "no_drive",
            "Will not boot, no drive found",
            [
                ("Boot order or storage mode was reset", "Look in firmware setup: is the drive listed at all?"),
                ("Drive not home in its socket", "Seat it again; if the firmware then lists it, no part is needed."),
            ],
            "drive",
            {K.DRIVE_SPEED: 1, K.DRIVE_SPACE: 1},
        ),
        _complaint(
            "dead",
            "Looks dead",
            [
                ("The battery is switched off in firmware", "Plug in the adapter and wait a minute."),
                ("Left-over charge", "Unplug, hold power for thirty seconds, plug in, start."),
                ("Firmware settings", "Clear them as the manual says; this rarely clears a firmware password."),
            ],
            "battery",
            {},
        ),
        _complaint(
            "stutter",
            "Games stutter",
            [
                ("Dust: it slows itself down", "Watch temperature and rate under load, clean the fan, compare."),
                ("Graphics driver", "Update it and run the same scene."),
            ],
            "memory",
            {K.MEMORY_THROUGHPUT: 2, K.MEMORY_CAPACITY: 1},
        ),
        _complaint(
            "sound",
            "Poor sound",
            [("Driver or sound effects", "Switch effects off, take the maker's driver, listen with headphones.")],
            "speaker",
            {},
        ),
    )
}
