"""One graph of removals and insertions, and the order they are done in (rules.md section 8).

Nodes are an obstacle coming off and going back, a part coming out and one going in, a task being done. A part that
stands in the way is one node with its exchange: it comes out once, what lies under it is done, and only then the next
one goes in. Power is isolated before anything on the board is touched, whatever a slot's own list forgets.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

from ..access.way import before, closure, part_obstacle, task_closure
from ..errors import InputError
from ..machine.opening import Obstacle
from ..machine.shape import Configured

Do = Literal["off", "on", "out", "in", "task", "power"]


@dataclass(frozen=True)
class Node:
    """One thing done: to an obstacle ("off", "on"), a slot ("out", "in"), a task, or the power where no plug is known."""

    do: Do
    what: str

    @property
    def id(self) -> str:
        return f"{self.do}:{self.what}"


@dataclass(frozen=True)
class Job:
    """What is to be done: slots with whether something comes out and whether something goes in, tasks with what they
    reach through, and tasks that are done with the case shut."""

    slots: tuple[tuple[str, bool, bool], ...]
    tasks: tuple[tuple[str, tuple[str, ...]], ...] = ()
    outside: tuple[str, ...] = ()


#: Lying loose on or around the case, before the board is reached.
OUTSIDE = ("feet", "strip", "cap", "sticker", "flap", "screws", "grille", "cover")
UNKNOWN_PLUG, PLUG_BACK = Node("power", "find"), Node("power", "back")


def order(machine: Configured, job: Job, by: Literal["manual", "tool"] = "tool") -> tuple[Node, ...]:
    """Everything that is done, in an order that keeps every edge: power as early as access allows, exchanges as soon as
    nothing lies in their way, tools in hand first (or the machine's own order), reassembly the reverse of taking apart.

    Raises :class:`InputError` where the data runs in a circle.
    """
    graph = _Graph(machine, job)
    done: list[Node] = []
    while len(done) < len(graph.nodes):
        ready = [n for n in graph.nodes if n not in done and graph.before[n] <= set(done)]
        if not ready:
            left = ", ".join(n.id for n in graph.nodes if n not in done)
            raise InputError(f"the work runs in a circle: {left}", machine.machine.id, "Mend its access in the editor.")
        done.append(min(ready, key=lambda n: graph.rank(n, done, by)))
    return tuple(done)


class _Graph:
    """Nodes and what each waits for."""

    def __init__(self, machine: Configured, job: Job) -> None:
        self.machine = machine
        self.by_id = {o.id: o for o in machine.machine.obstacles}
        slots = [s for s, _, _ in job.slots]
        names = set(closure(machine, slots)) if slots else set()
        for _, reached in job.tasks:
            names |= task_closure(machine, reached)
        self.off = [o for o in machine.machine.obstacles if o.id in names]
        #: An obstacle that is a slot's part: its exchange stands for it where the slot is worked on.
        self.same = {own.id: s for s in slots if (own := part_obstacle(machine, s))}
        self.power = machine.machine.power_off
        self.nodes: list[Node] = []
        self.before: dict[Node, set[Node]] = {}
        self._obstacles()
        self._exchanges(job)
        self._tasks(job)
        self._isolate()
        # With the case shut: when all else is done.
        for task in job.outside:
            self._add(Node("task", task), *self.nodes)

    def _add(self, node: Node, *after: Node | None) -> None:
        if node not in self.before:
            self.nodes.append(node)
            self.before[node] = set()
        self.before[node] |= {a for a in after if a is not None}

    def taken(self, obstacle: str) -> Node | None:
        """The node that takes an obstacle off; None where it is a slot's part and there is none."""
        slot = self.same.get(obstacle)
        return (
            Node("out", slot) if slot and Node("out", slot) in self.wanted else None if slot else Node("off", obstacle)
        )

    def put(self, obstacle: str) -> Node | None:
        slot = self.same.get(obstacle)
        return Node("in", slot) if slot and Node("in", slot) in self.wanted else None if slot else Node("on", obstacle)

    @property
    def wanted(self) -> set[Node]:
        return self._wanted

    def _obstacles(self) -> None:
        self._wanted: set[Node] = set()
        for o in self.off:
            if o.id in self.same:
                continue
            self._add(Node("off", o.id))
            self._add(Node("on", o.id), Node("off", o.id))

    def _exchanges(self, job: Job) -> None:
        for slot, old, new in job.slots:
            if old:
                self._wanted.add(Node("out", slot))
            if new:
                self._wanted.add(Node("in", slot))
        for slot, old, new in job.slots:
            reached = [o for o in self.machine.slot(slot).reached_by if self.same.get(o) != slot]
            own = part_obstacle(self.machine, slot)
            reached += [o for o in (before(self.machine, own) if own else ()) if o not in reached]
            opened = [self.taken(o) for o in reached]
            if old:
                self._add(Node("out", slot), *opened)
            if new:
                self._add(Node("in", slot), Node("out", slot) if old else None, *opened)
        # What goes back waits for what lies under it.
        for slot, old, new in job.slots:
            last = Node("in", slot) if new else Node("out", slot) if old else None
            for name in self.machine.slot(slot).reached_by:
                back = self.put(name)
                if back is not None and back != last and last is not None:
                    self._add(back, last)
        for o in self.off:
            for other in before(self.machine, o):
                here, there = self.taken(o.id), self.taken(other)
                if here is not None and there is not None:
                    self._add(here, there)
                back, under = self.put(other), self.put(o.id) or self.taken(o.id)
                if back is not None and under is not None:
                    self._add(back, under)

    def _tasks(self, job: Job) -> None:
        for task, reached in job.tasks:
            node = Node("task", task)
            self._add(node, *(self.taken(o) for o in reached))
            for o in reached:
                back = self.put(o)
                if back is not None:
                    self._add(back, node)

    def _isolate(self) -> None:
        """Power off before the first touch of anything on the board; back on before the trial, after all of it."""
        if not self.nodes:
            return
        plug = Node("off", self.power) if self.power else None
        if self.power and self.power in self.same:
            plug = self.taken(self.power)
        covers = [o.id for o in self.off if o.what in ("cover", "flap") and o.id not in self.same]
        unknown = plug is None
        if plug is None:
            plug = UNKNOWN_PLUG
            self._add(plug, *(Node("off", o) for o in covers))
        needs = self._all_before(plug)
        back = Node("on", self.power)
        touches = [n for n in self.nodes if n not in (plug, back) and n not in needs and self._on_board(n)]
        for n in touches:
            self._add(n, plug)
        if unknown:
            # What goes back only after a cover is no part of what lies under it.
            outside = {n for o in covers for n in self._waiting_for(Node("on", o))}
            self._add(PLUG_BACK, plug, *(n for n in touches if n not in outside))
            for o in covers:
                self._add(Node("on", o), PLUG_BACK)
        if back in self.before:
            later = self._waiting_for(back)
            for n in touches:
                if n.do in ("in", "task", "on") and n not in later:
                    self._add(back, n)

    def _on_board(self, n: Node) -> bool:
        if n.do in ("out", "in", "task"):
            return True
        return n.do in ("off", "on") and self.by_id[n.what].what not in OUTSIDE

    def _all_before(self, node: Node) -> set[Node]:
        found: set[Node] = set()
        reach = [node]
        while reach:
            for b in self.before[reach.pop()]:
                if b not in found:
                    found.add(b)
                    reach.append(b)
        return found

    def _waiting_for(self, node: Node) -> set[Node]:
        """Nodes that wait for this one: they may not be put before it."""
        return {n for n in self.nodes if node in self._all_before(n)}

    # -- which of those that are ready ---------------------------------------------------------
    def rank(self, n: Node, done: Sequence[Node], by: str) -> tuple[object, ...]:
        to_power = self.power and n.id in {f"off:{o}" for o in self._toward_power()}
        turn = self.nodes.index(n)
        match n.do:
            case "in":
                return (0, turn)
            case "power":
                return (1, False) if n == UNKNOWN_PLUG else (2, 1, 0)
            case "off" | "out" | "task":
                tool = self._tool(n)
                held = next((self._tool(d) for d in reversed(done) if self._tool(d)), "")
                return (1, not to_power, by == "tool" and bool(held) and tool != held, turn)
            case _:
                offs = [d.what for d in done if d.do == "off"]
                return (2, -offs.index(n.what) if n.what in offs else 0, turn)

    def _toward_power(self) -> Collection[str]:
        return task_closure(self.machine, ()) if self.power else ()

    def _tool(self, n: Node) -> str:
        return self.by_id[n.what].tool if n.do in ("off", "on") else ""


def obstacle_of(machine: Configured, node: Node) -> Obstacle:
    """What a step is about, where it is an obstacle of the way in."""
    return next(o for o in machine.machine.obstacles if o.id == node.what)
