"""What to do next at Survey: acts, not questions (rules.md section 7).

An act is one thing somebody does that answers several questions at once. Which acts can answer an attribute follows from
where one looks for it; each question is left to the first act in its list that can be done here. The acts come in the order
in which doing them decides most for their minutes.
"""

from collections.abc import Collection, Iterable, Mapping, Sequence
from fractions import Fraction
from typing import Literal, NamedTuple

from ..access.way import access_seconds
from ..fit.build import Build
from ..fit.judge import Cell, Worth
from ..frozen import Frozen
from ..machine.claim import Source
from ..machine.part import Fittable

ActId = Literal["trial", "reading", "firmware", "labels", "papers", "processor", "cover", "customer", "seller"]


class Act(NamedTuple):
    """An act by name, its minutes once, and for each question; ``opens`` whether the machine is opened for it."""

    name: str
    once: int
    each: int
    opens: bool = False


#: In the order of rules.md's table, which is the last word between equals. Of the cover the way comes on top.
ACTS: dict[ActId, Act] = {
    "trial": Act("A trial under the customer's own work", 10, 0),
    "reading": Act("Take a reading", 5, 0),
    "firmware": Act("Look through the firmware's screens", 3, 1),
    "labels": Act("Read the labels outside", 2, 0),
    "papers": Act("Read the machine's papers", 5, 1),
    "processor": Act("Read the processor's data sheet", 5, 1),
    "cover": Act("Open the cover and look", 0, 1, opens=True),
    "customer": Act("Ask the customer", 3, 1),
    "seller": Act("Ask the seller, or read the part's data sheet", 5, 0),
}
#: A caliper or clay takes longer than a look.
MEASURED_MINUTES = 3
#: In and out of a machine whose way nobody has written down.
UNKNOWN_WAY_MINUTES = 15
#: What can answer a question, cheapest first, by where its attribute is looked for.
_BY_WHERE: dict[str, tuple[ActId, ...]] = {
    "software": ("reading", "cover"), "firmware": ("firmware",), "label": ("reading", "cover"), "manual": ("papers",),
    "cover": ("cover",), "board": ("cover",), "seller": ("seller",),
}  # fmt: skip
#: And of what is no attribute of a shape: the content of a slot, the firmware's version, the processor, shared lanes.
_BY_PLACE: dict[str, tuple[ActId, ...]] = {
    "fitted": ("reading", "cover"), "firmware": ("reading", "firmware"), "configuration": ("reading", "labels"), "exclusion": ("papers",),
}  # fmt: skip
#: What is asked of nobody's machine: what a trial alone tells, how much is stored, and the customer's word.
_BESIDES: dict[str, tuple[ActId, ...]] = {
    "trial.reach": ("trial",), "intake.used_gb": ("reading", "customer"), "job.as_usual": ("customer",),
}  # fmt: skip
#: Bounds of the controller stand in its data sheet where the machine's papers are silent.
_OF_THE_PROCESSOR = frozenset(("total_limit_gb", "speed_mts", "density_gbit", "host_generation", "cnvi"))


class NextAct(Frozen):
    """An act with its questions. ``parts`` it decides beyond what the acts before it do, at prices from … to; ``answers`` so
    many of all ``of`` questions; ``measures`` the needs that have no figure without it; ``closed`` why it is not done: its
    ``asks`` are then the questions that nothing else answers."""

    id: ActId
    name: str
    minutes: int
    asks: tuple[Worth, ...] = ()
    answers: int = 0
    of: int = 0
    parts: int = 0
    from_minor: int | None = None
    to_minor: int | None = None
    measures: tuple[str, ...] = ()
    closed: str = ""


def acts_of(build: Build, place: str) -> tuple[ActId, ...]:
    """The acts that can answer a question (``slot.attribute``), cheapest first."""
    if place in _BESIDES:
        return _BESIDES[place]
    where, _, name = place.partition(".")
    if where == "part":
        return ("seller",)
    if where in _BY_PLACE:
        return _BY_PLACE[where]
    if where.startswith(("in ", "new ")):
        return ("reading", "cover") if where.startswith("in ") else ("seller",)
    found = _BY_WHERE[build.known.words(where, name).where]
    if name in _OF_THE_PROCESSOR or name.startswith("speed_by_modules"):
        return (*found, "processor")
    return found


#: Whose word an act brings: where that stands already, doing it once more says nothing new.
_BRINGS: dict[ActId, Source] = {"papers": Source.DOCUMENTED, "processor": Source.CONTROLLER, "reading": Source.READ}


def open_acts(build: Build, place: str) -> tuple[ActId, ...]:
    """Of the acts that can answer a question those that have not told already: where papers and processor are in conflict,
    reading them again settles nothing. A look taken anew counts."""
    where, _, name = place.partition(".")
    if where not in (*build.known.slots, "memory", "boot"):
        return acts_of(build, place)
    told = build.known.told_by(where, name)
    return tuple(a for a in acts_of(build, place) if _BRINGS.get(a) not in told)


def by_act(build: Build, places: Iterable[str], acts: Collection[ActId] = tuple(ACTS)) -> dict[ActId, list[str]]:
    """Questions by the first of these acts that can answer them, in the table's order."""
    found: dict[ActId, list[str]] = {}
    for place in places:
        can = (*open_acts(build, place), *acts_of(build, place))
        found.setdefault(next(a for a in can if a in acts), []).append(place)
    return {a: found[a] for a in ACTS if a in found}


def minutes_of(build: Build, act: ActId, places: Sequence[str], parts: int = 1) -> int:
    """Minutes of an act with its questions (rules.md section 7). The seller is asked once for each of ``parts``; the cover's
    are the way in and out once for all it looks at, and a look each, three for what is measured."""
    if act == "seller":
        return ACTS[act].once * parts
    if act != "cover":
        return ACTS[act].once + ACTS[act].each * len(places)
    machine = build.machine
    way = UNKNOWN_WAY_MINUTES
    if machine.machine.obstacles:
        slots = [s for p in places if (s := _slot_of(p)) in {x.id for x in machine.slots}]
        # What belongs to no slot is looked for where the first one is.
        way = -(-access_seconds(machine, slots or [s.id for s in machine.slots][:1]) // 60)
    return way + sum(MEASURED_MINUTES if _measured(build, p) else 1 for p in places)


def next_acts(
    build: Build, cells: Sequence[Cell], parts: Sequence[Fittable], worths: Sequence[Worth], *,
    told: Collection[str] = (), closed: Mapping[ActId, str] | None = None, unmeasured: Sequence[str] = (),
) -> tuple[NextAct, ...]:  # fmt: skip
    """The acts in the order in which they are worth doing. ``worths`` are the open questions of the machine, ``told`` acts
    that were done (what is open they have not told), ``closed`` those somebody said cannot be done, with why;
    ``unmeasured`` needs that wait for a trial."""
    closed = closed or {}
    gone = {*told, *closed}
    first_acts: dict[ActId, list[Worth]] = {}
    nobodys: dict[ActId, list[Worth]] = {}
    for w in worths:
        can = acts_of(build, w.attribute)
        first = next((a for a in open_acts(build, w.attribute) if a not in gone), None)
        if first is not None:
            first_acts.setdefault(first, []).append(w)
        else:
            nobodys.setdefault(next((a for a in can if a in closed), can[0]), []).append(w)
    waits = _waits(cells)
    prices = {p.number: p.price_minor for p in parts}
    minutes = {a: minutes_of(build, a, [w.attribute for w in asks]) for a, asks in first_acts.items()}
    done: set[str] = set()
    found: list[NextAct] = []
    if unmeasured and "trial" not in gone:
        found.append(NextAct(id="trial", name=ACTS["trial"].name, minutes=ACTS["trial"].once, measures=tuple(unmeasured)))  # fmt: skip
    left = [a for a in ACTS if a in first_acts]
    while left:
        best = min(left, key=lambda a: _rank(a, minutes[a], _decided(waits, done, first_acts[a]), first_acts[a]))
        left.remove(best)
        asks = first_acts[best]
        decided = _decided(waits, done, asks)
        done |= {w.attribute for w in asks}
        waits = {n: ways for n, ways in waits.items() if n not in decided}
        costs = [p for n in decided if (p := prices.get(n)) is not None]
        found.append(
            NextAct(
                id=best, name=ACTS[best].name, minutes=minutes[best], asks=tuple(asks), answers=len(asks), of=len(worths),
                parts=len(decided), from_minor=min(costs, default=None), to_minor=max(costs, default=None),
            )
        )  # fmt: skip
    if (sellers := {n for n, ways in waits.items() if any(_of_parts(w - done) for w in ways)}) and "seller" not in gone:
        costs = [p for n in sellers if (p := prices.get(n)) is not None]
        found.append(
            NextAct(
                id="seller", name=ACTS["seller"].name, minutes=ACTS["seller"].once, parts=len(sellers),
                from_minor=min(costs, default=None), to_minor=max(costs, default=None),
            )
        )  # fmt: skip
    why = {a: "looked, and not told" if a in told else "has said what it says, and leaves this open" for a in nobodys}
    why |= closed
    found += [NextAct(id=a, name=ACTS[a].name, minutes=0, closed=why[a], asks=tuple(nobodys.get(a, ()))) for a in ACTS if a in why]  # fmt: skip
    return tuple(found)


def _waits(cells: Sequence[Cell]) -> dict[str, list[frozenset[str]]]:
    """By part what it waits for, in each slot where it waits."""
    found: dict[str, list[frozenset[str]]] = {}
    for c in cells:
        if c.asks:
            found.setdefault(c.part, []).append(frozenset(c.asks))
    return found


def _decided(waits: Mapping[str, list[frozenset[str]]], done: set[str], asks: Sequence[Worth]) -> set[str]:
    """Parts that these answers leave no open question, whatever they are, in some slot where they waited."""
    known = done | {w.attribute for w in asks}
    return {n for n, ways in waits.items() if any(w <= known and not w <= done for w in ways)}


def _of_parts(asks: frozenset[str]) -> bool:
    return bool(asks) and all(a.startswith("part.") for a in asks)


def _rank(
    act: ActId, minutes: int, decided: set[str], asks: Sequence[Worth]
) -> tuple[Fraction, Fraction, bool, int, int]:
    """Most decided a minute; where nothing is, most answered; then what opens least, fewer minutes, the table's order."""
    a_minute, order = Fraction(1, max(minutes, 1)), list(ACTS).index(act)
    return -len(decided) * a_minute, -len(asks) * a_minute, ACTS[act].opens, minutes, order


def _slot_of(place: str) -> str:
    where, _, name = place.partition(".")
    return name if where == "fitted" else where.removeprefix("in ")


def _measured(build: Build, place: str) -> bool:
    where, _, name = place.partition(".")
    if where not in (*build.known.slots, "memory", "boot") or name not in build.known.attributes(where):
        return False
    tool = build.known.words(where, name).tool
    return tool in ("calliper", "feeler gauges") or "clay" in tool.lower()
