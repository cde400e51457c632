"""What the workshop's own log says of how long things take: the middle of what was timed, never one slow afternoon."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from statistics import median

from ..frozen import Frozen
from ..machine.shape import Machine
from ..record.shape import Tick

#: Ticked sooner than this after the one before, several were ticked at once; later, somebody was away.
LEAST_S, MOST_S = 5, 1800
#: So many times each way before the log counts.
ENOUGH = 5


class Timed(Frozen):
    """How long an obstacle took once: coming off or going back."""

    obstacle: str
    way: str
    seconds: int


def timed(done: Mapping[str, str], ticks: Mapping[str, Tick]) -> tuple[Timed, ...]:
    """Obstacles timed on one job, from one tick to the next in the order they were made. What was ticked in a bunch,
    after a break or against the clock times nothing."""
    found: list[Timed] = []
    before: datetime | None = None
    for step in done:
        at = _time(ticks[step].at if step in ticks else done[step])
        way, _, what = step.partition(":")
        if before is not None and at is not None and way in ("off", "on"):
            took = (at - before).total_seconds()
            if LEAST_S <= took <= MOST_S:
                found.append(Timed(obstacle=what, way=way, seconds=round(took)))
        before = at
    return tuple(found)


def _time(text: str) -> datetime | None:
    try:
        at = datetime.fromisoformat(text.replace("Z", "+00:00"))
    except ValueError:
        return None
    return at if at.tzinfo is not None else None


def learned(times: Iterable[Timed]) -> dict[str, tuple[int, int]]:
    """Seconds off and on again, with how often it was timed, for obstacles that were timed often enough both ways."""
    by_way: dict[tuple[str, str], list[int]] = {}
    for t in times:
        by_way.setdefault((t.obstacle, t.way), []).append(t.seconds)
    found = {}
    for obstacle in dict.fromkeys(o for o, _ in by_way):
        off, on = (by_way.get((obstacle, way), []) for way in ("off", "on"))
        count = min(len(off), len(on))
        if count >= ENOUGH:
            found[obstacle] = (round(median(off)) + round(median(on)), count)
    return found


def with_learned(machine: Machine, known: Mapping[str, tuple[int, int]]) -> Machine:
    """The machine with the seconds this workshop takes, each said to be so with its count."""
    if not any(o.id in known for o in machine.obstacles):
        return machine
    obstacles = tuple(
        o.model_copy(update={"seconds": known[o.id][0], "source": f"timed here {known[o.id][1]} times"})
        if o.id in known
        else o
        for o in machine.obstacles
    )
    return machine.model_copy(update={"obstacles": obstacles})
