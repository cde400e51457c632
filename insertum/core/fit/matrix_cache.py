"""Judging thousands of parts against one build without asking any rule the same thing twice.

A rule is a function of what it asks of the part. The first part is put before a rule with a view that takes every
question down (:class:`~insertum.core.fit.read_trace.Trace`): a field's value, or only whether it is over a figure or one
of several names. What the rule says is kept at the end of that path; the next part follows the path by its own
answers, and where it leads to a known leaf that is the rule's answer, because the rule would have asked the same and
nothing else. Parts alike in all the values any rule read form a class; what all rules together say of a class is
kept behind the comparisons alone. Nothing is declared and nothing sampled: the answer is the one the rules give
(``tests/core/test_fit_matrix.py`` compares every pair).
"""

from collections.abc import Sequence
from operator import attrgetter
from typing import Any

from ..machine.part import Accessory, Fittable
from ..machine.shape import Slot
from ..verdict import AccessoryNeed, Verdict
from .build import Build
from .engine import Asker, Joint, join, on_the_owners_word
from .leaf import REFUSED, USABLE, Leaf
from .questions import place_of
from .read_trace import Step, Trace, answer_of
from .required_accessories import cheapest
from .rulebook import Rule, rules_for

#: Verdict, its few words and what to look at; the kit's numbers; and its price.
Judged = tuple[tuple[Verdict, str, tuple[str, ...]], tuple[str, ...], int]


class _Node:
    """A question, and where each answer leads: another question, or what is kept at the end."""

    __slots__ = ("field", "figure", "leads", "op", "step")

    def __init__(self, step: Step) -> None:
        self.step = step
        self.op, self.field = step[0], step[1]
        self.figure = step[2] if len(step) > 2 else None
        self.leads: dict[Any, Any] = {}

    def next(self, part: Fittable) -> Any:
        value = getattr(part, self.field)
        op = self.op
        if op == ">":
            return self.leads.get(value > self.figure)
        if op == "=":
            return self.leads.get(value)
        return self.leads.get(answer_of(part, self.step))


def _followed(here: Any, part: Fittable, compared: dict[Step, Any]) -> Any:
    """What a part's answers lead to, None where nobody has come by yet; its comparisons are taken down."""
    while type(here) is _Node:
        if here.op == "=":
            here = here.leads.get(getattr(part, here.field))
        else:
            answer = answer_of(part, here.step)
            compared.setdefault(here.step, answer)
            here = here.leads.get(answer)
    return here


def _keep(top: Any, steps: Sequence[tuple[Step, Any]], end: Any) -> Any:
    """Keep something at the end of a path of questions and answers; returns the path's beginning."""
    if not steps:
        return end
    here = top = top if isinstance(top, _Node) else _Node(steps[0][0])
    for i, (step, answer) in enumerate(steps):
        assert here.step == step, "a rule asks in the same order for the same answers"
        if i + 1 == len(steps):
            here.leads[answer] = end
        else:
            here = here.leads.setdefault(answer, _Node(steps[i + 1][0]))
    return top


class _Asked:
    """A rule for one kind of part in one slot, and the paths known so far: ``free`` ones on which it looked neither at
    the kit nor at where the system starts from, and those by both."""

    __slots__ = ("bound", "free", "rule", "speaks_of")

    def __init__(self, rule: Rule, build: Build) -> None:
        self.rule = rule
        self.speaks_of = rule.about(build) if rule.about else None
        self.free: Any = None
        self.bound: dict[tuple[tuple[str, ...], str], Any] = {}


class _Kind:
    """Parts of one kind in classes: alike in every field whose value any rule read so far."""

    __slots__ = ("classes", "fields", "getter", "known", "turn")

    def __init__(self) -> None:
        self.fields: dict[str, None] = {}
        self.turn = 0
        self._sort()

    def _sort(self) -> None:
        self.getter = attrgetter(*self.fields) if self.fields else None
        self.classes: dict[Any, int] = {}
        #: By identity, with the part itself so that its identity stays its own.
        self.known: dict[int, tuple[Fittable, int]] = {}
        self.turn += 1

    def of(self, part: Fittable) -> int:
        """The part's class. A part comes slot after slot: it is looked through once."""
        known = self.known.get(id(part))
        if known is not None:
            return known[1]
        key = self.getter(part) if self.getter else None
        classes = self.classes
        found = classes.setdefault(key, len(classes))
        self.known[id(part)] = (part, found)
        return found

    def note(self, steps: dict[Step, Any]) -> bool:
        """Take down what was read; True when the classes have to be made anew."""
        new = [s[1] for s in steps if s[0] == "=" and s[1] not in self.fields]
        if new:
            self.fields.update(dict.fromkeys(new))
            self._sort()
        return bool(new)


class _Panel:
    """The rules for one kind of part in one slot, and what came out by class of part."""

    __slots__ = ("asked", "askers", "by_class", "slot", "turn")

    def __init__(self, slot: Slot, asked: list[_Asked]) -> None:
        self.slot, self.asked = slot, asked
        self.askers: dict[tuple[str, ...], Asker] = {}
        self.by_class: dict[int, Any] = {}
        self.turn = -1


class Bench:
    """One build, ready to judge any number of parts for its slots, with what they need from a shelf.

    ``beside`` is the bench of a build that differs in where its system starts from alone: what was said there without a
    look at that is not asked again. ``plain`` is the bench of the same build without the owner's word. Where ``settled``
    is set only what surely goes in is told apart: of a part that waits or is refused the rest is not asked, and what is
    said of it says no more than that it is not usable now.
    """

    def __init__(
        self, build: Build, shelf: Sequence[Accessory] = (), beside: "Bench | None" = None,
        plain: "Bench | None" = None, settled: bool = False,
    ) -> None:  # fmt: skip
        self.settled: bool = settled
        assert beside is None or (beside.build.known is build.known and beside.settled == settled)
        self.build: Build = build
        self.shelf = shelf
        if build.known.as_usual and plain is None:
            plain = Bench(build.taken_as_usual(False), beside=beside._plain if beside else None)
        self._plain: Bench | None = plain
        #: One sorting of the parts for all: what one bench knows of a rule was noted in it.
        self._kinds: dict[type, _Kind] = beside._kinds if beside else plain._kinds if plain else {}
        self._asked: dict[tuple[str, str], list[_Asked]] = beside._asked if beside else {}
        self._panels: dict[tuple[str, str], _Panel] = {}
        self._joined: dict[tuple[Leaf, ...], Joint] = {}
        self._kits: dict[tuple[AccessoryNeed, ...], tuple[Accessory, ...]] = {}
        self._serving: dict[AccessoryNeed, Accessory | None] = {}
        # Judged by their number: what outcomes speak of, and what the build has a kit for.
        self._seen = build.seen_parts | {p.number for s in build.accessories if (p := build.now(s)) is not None}

    def judged(self, slot: Slot, part: Fittable) -> Judged:
        """Verdict, its few words and what to look at, with the kit that makes it best."""
        panel = self._panels.get((slot.id, part.kind)) or self._open(slot, part)
        kind = self._kinds.get(type(part))
        if kind is None:
            kind = self._kinds[type(part)] = _Kind()
        if part.number in self._seen:
            return self._judge(panel, kind, part, {})
        if panel.turn == kind.turn:
            here = panel.by_class.get(kind.of(part))
            while type(here) is _Node:
                here = here.leads.get(getattr(part, here.field) > here.figure) if here.op == ">" else here.next(part)
            if here is not None:
                known: Judged = here
                return known
        while True:
            compared: dict[Step, Any] = {}
            found = self._judge(panel, kind, part, compared)
            if panel.turn == kind.turn:
                break
            panel.by_class, panel.turn = {}, kind.turn
        own = kind.of(part)
        panel.by_class[own] = _keep(panel.by_class.get(own), list(compared.items()), found)
        return found

    def _open(self, slot: Slot, part: Fittable) -> _Panel:
        key = slot.id, part.kind
        if key not in self._asked:
            both = (r for whole in (False, True) for r in rules_for(type(slot), type(part), whole))
            self._asked[key] = [_Asked(r, self.build) for r in both]
        panel = self._panels[key] = _Panel(slot, self._asked[key])
        # A pair that could meet and that no rule judges is an error, never seats (rules.md section 1).
        assert panel.asked, f"no rule speaks of a {part.kind} in a {slot.kind} slot"
        return panel

    def _judge(self, panel: _Panel, kind: _Kind, part: Fittable, compared: dict[Step, Any]) -> Judged:
        """Everything said of a part, and the comparisons it rests on beside the part's class."""
        leaves, joint = self._with(panel, kind, part, (), compared)
        kit: tuple[Accessory, ...] = ()
        if joint.verdict is not Verdict.SEATS and any(leaf.wants for leaf in leaves):
            kit, joint = self._dressed(panel, kind, part, compared, leaves, joint)
        if not kit and (own := self.build.kit_of(panel.slot.id, part)):
            kit, joint = own, self._with(panel, kind, part, own, compared)[1]
        short = (joint.verdict, joint.short, tuple([place_of(a) for a in joint.asks]))
        return short, tuple([a.number for a in kit]), sum([a.price_minor or 0 for a in kit])

    def _dressed(
        self, panel: _Panel, kind: _Kind, part: Fittable, compared: dict[Step, Any], leaves: list[Leaf], alone: Joint
    ) -> tuple[tuple[Accessory, ...], Joint]:
        """The cheapest kit that improves the verdict, and nothing in it that makes no difference."""
        needs = tuple(dict.fromkeys([n for leaf in leaves for n in leaf.wants]))
        bought = self._kits.get(needs)
        if bought is None:
            bought = self._kits[needs] = self._serve(needs)
        if not bought:
            return (), alone
        dressed = self._with(panel, kind, part, bought, compared, leaves)[1]
        if dressed.verdict.rank >= alone.verdict.rank:
            return (), alone  # nothing to sell where it does not help
        if len(bought) > 1:
            for spare in sorted(bought, key=lambda a: (-(a.price_minor or 0), a.number)):
                fewer = tuple(a for a in bought if a is not spare)
                without = self._with(panel, kind, part, fewer, compared, leaves)[1]
                if without.verdict.rank <= dressed.verdict.rank:
                    bought, dressed = fewer, without
        return bought, dressed

    def _serve(self, needs: tuple[AccessoryNeed, ...]) -> tuple[Accessory, ...]:
        for need in needs:
            if need not in self._serving:
                self._serving[need] = cheapest(need, self.shelf, self.build.machine.machine.id)
        return tuple({a.number: a for n in needs if (a := self._serving[n])}.values())

    def _with(
        self, panel: _Panel, kind: _Kind, part: Fittable, kit: tuple[Accessory, ...], compared: dict[Step, Any],
        bare: Sequence[Leaf] = (),
    ) -> tuple[list[Leaf], Joint]:  # fmt: skip
        """The leaves and what they say together, with a kit, on the owner's word where it is given."""
        leaves = self._leaves(panel, kind, part, kit, compared, bare)
        joint = self._join(leaves, part)
        if self._plain is None:
            return leaves, joint
        plain = self._plain
        there = plain._panels.get((panel.slot.id, part.kind)) or plain._open(panel.slot, part)
        return leaves, on_the_owners_word(joint, plain._join(plain._leaves(there, kind, part, kit, compared, ()), part))

    def _join(self, leaves: list[Leaf], part: Fittable) -> Joint:
        # Where anything is not usable, the leaves that are not decide alone.
        key = tuple([leaf for leaf in leaves if leaf.worst > USABLE])
        if not key:
            return join(leaves, self.build.known, part)
        found = self._joined.get(key)
        if found is None:
            found = self._joined[key] = join(key, self.build.known, part)
        return found

    def _leaves(
        self, panel: _Panel, kind: _Kind, part: Fittable, kit: tuple[Accessory, ...], compared: dict[Step, Any],
        bare: Sequence[Leaf],
    ) -> list[Leaf]:  # fmt: skip
        """What each rule says, up to one that settles it. ``bare`` are the leaves without the kit: those that never
        looked at one stand."""
        leaves: list[Leaf] = []
        numbers = tuple([a.number for a in kit]) if kit else ()
        harm = False
        turn = 0
        for asked in panel.asked:
            if asked.speaks_of is not None and part.number not in asked.speaks_of:
                continue
            if bare and turn < len(bare) and bare[turn].kit_free:
                here: Any = bare[turn]
            else:
                here = asked.free
                while type(here) is _Node and here.op == "=":  # most questions, asked here for speed
                    here = here.leads.get(getattr(part, here.field))
                if type(here) is _Node:
                    here = _followed(here, part, compared)
                if here is None and asked.bound:
                    here = _followed(asked.bound.get((numbers, self.build.boot_slot)), part, compared)
                if here is None:
                    here = self._ask(panel, asked, kind, part, kit, numbers, compared)
            turn += 1
            leaves.append(here)
            # What surely does not enter is refused, whatever else is said of it. Rules that may harm come first: after
            # them a refusal that nothing to buy lifts is the last word too.
            if self.settled and here.worst > USABLE and not here.wants:
                break  # not usable in every possibility, and nothing to buy makes it so
            if here.best > USABLE:
                harm = harm or here.best > REFUSED
                if here.out or not (harm or asked.rule.harms or here.wants):
                    break
        return leaves

    def _ask(
        self, panel: _Panel, asked: _Asked, kind: _Kind, part: Fittable, kit: tuple[Accessory, ...],
        numbers: tuple[str, ...], compared: dict[Step, Any],
    ) -> Leaf:  # fmt: skip
        asker = panel.askers.get(numbers)
        if asker is None:
            asker = panel.askers[numbers] = Asker(self.build, panel.slot, kit)
        trace = Trace()
        leaf = asker.ask(asked.rule, part, trace)
        steps = list(trace.steps.items())
        if leaf.kit_free and leaf.boot_free:
            asked.free = _keep(asked.free, steps, leaf)
        else:
            key = numbers, self.build.boot_slot
            asked.bound[key] = _keep(asked.bound.get(key), steps, leaf)
        if asked.speaks_of is None:
            kind.note(trace.steps)
            for step, answer in steps:
                if step[0] != "=":
                    compared.setdefault(step, answer)
        return leaf


__all__ = ["Bench"]
