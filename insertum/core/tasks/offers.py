"""What can be done on one machine besides its slots: the catalogue, with this machine's access, numbers and words."""

from collections.abc import Iterator, Mapping, Sequence

from ..frozen import Frozen
from ..machine.attribute import lowered
from ..machine.opening import Assembly
from ..machine.part import Accessory
from ..machine.shape import Configured
from ..plan.request import TaskOffer
from .catalogue import CATALOGUE, EXCHANGES, PREFIX, OwnTask, TaskKind, in_house

#: Taken off to get in at all, where the machine's data says nothing of the assembly itself.
_COVERS = ("cover", "flap")


class Offered(Frozen):
    """A task on this machine. ``task`` is None while something has to be known first, or it is not done here: ``why``."""

    id: str
    name: str
    mends: str
    task: TaskOffer | None
    why: str = ""


def offers(
    machine: Configured,
    parts: Sequence[Accessory] = (),
    numbers: Mapping[str, str] | None = None,
    own: Mapping[str, OwnTask] | None = None,
) -> tuple[Offered, ...]:
    """Every task that can be thought of on this machine. ``parts`` are assemblies on sale, matched by their exact number;
    ``numbers`` those found on this very machine, by assembly id, before what the machine's data says; ``own``
    is how the workshop does a task, by its id."""
    house = own or {}
    return tuple(
        o
        for kind in CATALOGUE
        for o in (
            _of(in_house(kind, house.get(kind.id)), machine, parts, numbers or {})
            if house.get(kind.id, OwnTask()).done_here
            else (_not(kind, "this workshop does not do it"),)
        )
    )


def _of(
    kind: TaskKind, machine: Configured, parts: Sequence[Accessory], numbers: Mapping[str, str]
) -> Iterator[Offered]:
    known = [a for a in machine.machine.assemblies if a.what in kind.on]
    if kind.id in EXCHANGES:
        for a in known:
            # "The fan" is this one where there is but one.
            found = numbers.get(a.id) or (numbers.get(a.what) if len(known) == 1 else "")
            yield _exchange(kind, machine, a, parts, found or a.number)
        if not known:
            yield _not(kind, "nobody has noted this assembly for this machine: its place and number go into the machine's data first")  # fmt: skip
        return
    if kind.id == "paste" and any(a.interface == "liquid_metal" for a in known):
        yield _not(kind, "liquid metal under the sink is not opened here: someone trained in it")
        return
    if kind.id == "clean" and machine.machine.assemblies and not known:
        yield _not(kind, "no fan is noted for this machine")
        return
    yield Offered(id=kind.id, name=kind.name, mends=kind.mends, task=_task(kind, machine, known))


def _not(kind: TaskKind, why: str) -> Offered:
    return Offered(id=kind.id, name=kind.name, mends=kind.mends, task=None, why=why)


def _exchange(kind: TaskKind, machine: Configured, a: Assembly, parts: Sequence[Accessory], number: str) -> Offered:
    ident = kind.id if kind.id == a.id else f"{kind.id}.{a.id}"
    # "Change the fan", and which where the name says more than that.
    name = kind.name if kind.name.lower().endswith(a.name.lower()) else f"{kind.name}: {lowered(a.name)}"
    if not number:
        return Offered(
            id=ident, name=name, mends=kind.mends, task=None, why=f"read the number on {lowered(a.name)} first"
        )
    part = next((p for p in parts if p.supplies == "assembly" and p.number == number), None)
    if part is None or part.price_minor is None:
        return Offered(id=ident, name=name, mends=kind.mends, task=None, why=f"nobody on the lists has {number}")
    task = _task(kind, machine, [a])
    with_it = (f"{a.comes_with} comes as one piece with it",) if a.comes_with else ()
    return Offered(
        id=ident, name=name, mends=kind.mends,
        task=task.model_copy(
            update={
                "id": ident, "name": name, "mends": PREFIX + ident, "part": part.number, "part_name": part.name,
                "consumables_minor": task.consumables_minor + part.price_minor, "steps": (*with_it, *task.steps),
            }
        ),
    )  # fmt: skip


def _task(kind: TaskKind, machine: Configured, known: Sequence[Assembly]) -> TaskOffer:
    return TaskOffer(
        id=kind.id, name=kind.name, mends=PREFIX + kind.id, reached_by=() if kind.outside else _reached(machine, known),
        outside=kind.outside, seconds=kind.seconds, consumables_minor=kind.consumables_minor,
        consumables=kind.consumables,
        tools=kind.tools, steps=(*kind.steps, *_of_sinks(known)), caution=kind.caution, gates=kind.gates,
        checks=kind.checks, closing=kind.closing,
    )  # fmt: skip


def _reached(machine: Configured, known: Sequence[Assembly]) -> tuple[str, ...]:
    told = dict.fromkeys(o for a in known for o in a.reached_by)
    if told:
        return tuple(told)
    return tuple(o.id for o in machine.machine.obstacles if o.what in _COVERS)


def _of_sinks(known: Sequence[Assembly]) -> Iterator[str]:
    """A sink's printed order, and what lies under it."""
    for a in known:
        if a.order:
            there, back = " ".join(a.order), " ".join(reversed(a.order))
            yield f"{a.name}: screws loosened {back}, tightened {there} in two or three rounds."
        elif a.what == "heat_sink":
            yield f"{a.name}: tightened crosswise in two or three rounds; look for a printed order first."
        if a.interface in ("paste", "sheet"):
            yield f"{a.name}: a {'phase-change sheet' if a.interface == 'sheet' else 'paste'} was there as delivered."
