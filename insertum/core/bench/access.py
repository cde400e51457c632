"""What is in the way: from the slots in a plan to everything that must come off, in order.

Obstacles and their "must be off before" edges are machine data. Minutes come from the union over
all slots, because the cover opens once: a second upgrade costs only its own seconds.
"""

from collections.abc import Collection, Iterable

from ..machine.shape import Configured, Obstacle

#: Shut down, unplug, ground yourself, lay out the grid; and the trial start before the last screws.
SETTING_OUT_SECONDS = 180
TRIAL_SECONDS = 300


def closure(machine: Configured, slots: Iterable[str]) -> frozenset[str]:
    """Ids of every obstacle between the technician and these slots, power isolation included."""
    slots = list(slots)
    reach = [o for s in slots for o in machine.slot(s).reached_by]
    power = [machine.machine.power_off] if slots and machine.machine.power_off else []
    return _with_all_before(machine, reach + power)


def opening_order(machine: Configured, slots: Collection[str]) -> tuple[Obstacle, ...]:
    """The closure in an order that isolates power as early as access allows, then groups by tool.

    Among obstacles that are free to come off, those on the way to the battery come first, then
    those that need the tool in hand, then data order (which follows the machine's edge).
    """
    wanted = closure(machine, slots)
    obstacles = [o for o in machine.machine.obstacles if o.id in wanted]
    to_power = _with_all_before(machine, [machine.machine.power_off] if machine.machine.power_off else [])
    done: list[Obstacle] = []
    off: set[str] = set()
    while len(done) < len(obstacles):
        free = [o for o in obstacles if o.id not in off and set(o.after) <= off]
        tool = done[-1].tool if done else ""
        chosen = min(free, key=lambda o: (o.id not in to_power, o.tool != tool))
        done.append(chosen)
        off.add(chosen.id)
    return tuple(done)


def _with_all_before(machine: Configured, obstacle_ids: Iterable[str]) -> frozenset[str]:
    by_id = {o.id: o for o in machine.machine.obstacles}
    found: set[str] = set()
    reach = list(obstacle_ids)
    while reach:
        name = reach.pop()
        if name not in found:
            found.add(name)
            reach.extend(by_id[name].after)
    return frozenset(found)


def access_seconds(machine: Configured, slots: Collection[str]) -> int:
    """Seconds to get in and out again for these slots, without the exchanges themselves."""
    return access_seconds_of(machine, closure(machine, slots)) if slots else 0


def access_seconds_of(machine: Configured, obstacles: Collection[str]) -> int:
    """Seconds to get in and out again where just these obstacles come off."""
    return SETTING_OUT_SECONDS + TRIAL_SECONDS + sum(o.seconds for o in machine.machine.obstacles if o.id in obstacles)


def task_closure(machine: Configured, reached_by: Iterable[str]) -> frozenset[str]:
    """Ids of every obstacle before work without a slot, power isolation included."""
    power = [machine.machine.power_off] if machine.machine.power_off else []
    return _with_all_before(machine, [*reached_by, *power])


def bench_seconds(machine: Configured, slots: Collection[str]) -> int:
    """All bench time of a plan that touches these slots."""
    return access_seconds(machine, slots) + sum(machine.slot(s).swap_seconds for s in slots)
