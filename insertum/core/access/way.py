"""What is in the way: from slots and tasks to everything that must come off (rules.md section 8).

Obstacles and their "must be off before" edges are machine data. A slot's part that stands in the way of another is an
obstacle too; where that slot is worked on it is the same thing, taken out once. Minutes come from the union over all
work, because the cover opens once: a second upgrade costs only its own seconds.
"""

from collections.abc import Collection, Iterable
from typing import Protocol

from ..errors import InputError
from ..machine.opening import Obstacle
from ..machine.shape import Configured

#: Shut down, unplug, ground yourself, lay out the grid; and the trial start before the last screws.
SETTING_OUT_SECONDS = 180
TRIAL_SECONDS = 300


def part_obstacle(machine: Configured, slot: str) -> Obstacle | None:
    """The obstacle that is the part of this very slot, where it stands in something's way."""
    return next((o for o in machine.machine.obstacles if o.slot == slot), None)


def before(machine: Configured, o: Obstacle) -> tuple[str, ...]:
    """Ids of what must be off before an obstacle: a part in the way needs what its own slot needs."""
    own = machine.slot(o.slot).reached_by if o.slot else ()
    return tuple(dict.fromkeys((*o.after, *(x for x in own if x != o.id))))


def closure(machine: Configured, slots: Iterable[str]) -> frozenset[str]:
    """Ids of every obstacle between the technician and these slots, power isolation included. Raises
    :class:`InputError` where the data runs in a circle."""
    slots = list(slots)
    reach = [o for s in slots for o in machine.slot(s).reached_by]
    reach += [own.id for s in slots if (own := part_obstacle(machine, s))]
    power = [machine.machine.power_off] if slots and machine.machine.power_off else []
    return _with_all_before(machine, reach + power)


def task_closure(machine: Configured, reached_by: Iterable[str]) -> frozenset[str]:
    """Ids of every obstacle before work without a slot, power isolation included."""
    power = [machine.machine.power_off] if machine.machine.power_off else []
    return _with_all_before(machine, [*reached_by, *power])


def _with_all_before(machine: Configured, obstacle_ids: Iterable[str]) -> frozenset[str]:
    by_id = {o.id: o for o in machine.machine.obstacles}
    found: dict[str, None] = {}

    def take(name: str, way: tuple[str, ...]) -> None:
        if name in way:
            circle = " → ".join(by_id[n].name for n in (*way[way.index(name) :], name))
            raise InputError(f"what must be off before what runs in a circle: {circle}", machine.machine.id, "Mend it in the machine's editor.")  # fmt: skip
        if name in found:
            return
        for other in before(machine, by_id[name]):
            take(other, (*way, name))
        found[name] = None

    for name in obstacle_ids:
        take(name, ())
    return frozenset(found)


def access_seconds_of(machine: Configured, obstacles: Collection[str]) -> int:
    """Seconds to get in and out again where just these obstacles come off."""
    return SETTING_OUT_SECONDS + TRIAL_SECONDS + sum(o.seconds for o in machine.machine.obstacles if o.id in obstacles)


def access_seconds(machine: Configured, slots: Collection[str]) -> int:
    """Seconds to get in and out again for these slots, without the exchanges themselves."""
    return access_seconds_of(machine, closure(machine, slots)) if slots else 0


def exchange_seconds(machine: Configured, slot: str) -> int:
    """Seconds of an exchange beside what comes off for it. Where the part is an obstacle itself, taking it out and
    putting one in are counted there already."""
    own = part_obstacle(machine, slot)
    return machine.slot(slot).swap_seconds - (own.seconds if own else 0)


class Task(Protocol):
    """What time a task takes: its own, and what it reaches through unless it is done with the case shut."""

    @property
    def reached_by(self) -> tuple[str, ...]: ...
    @property
    def outside(self) -> bool: ...
    @property
    def seconds(self) -> int: ...


def bench_seconds(machine: Configured, slots: Collection[str], tasks: Collection[Task] = ()) -> int:
    """All bench time of a plan that touches these slots and does these tasks. The cover is opened once."""
    inside = [t for t in tasks if not t.outside]
    opened: set[str] = set(closure(machine, slots))
    for t in inside:
        opened |= task_closure(machine, t.reached_by)
    seconds = access_seconds_of(machine, opened) if slots or inside else 0
    return seconds + sum(exchange_seconds(machine, s) for s in slots) + sum(t.seconds for t in tasks)
