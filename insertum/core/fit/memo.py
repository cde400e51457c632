"""Judging thousands of parts against one build without asking any rule the same thing twice.

A rule is a function of what it asks of the part. The first part is put before a rule with a view that takes every
question down (:class:`~insertum.core.fit.inquiry.Trace`): a field's value, or only whether it is over a figure or one
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
from ..verdict import Verdict
from .build import Build
from .engine import Asker, Joint, Leaf, join, place_of
from .inquiry import Step, Trace, answer_of
from .rulebook import Rule, rules_for

#: The joint verdict; verdict, few words and what to look at; whether it wants a kit; and its leaves.
Together = tuple[Joint, tuple[Verdict, str, tuple[str, ...]], bool, tuple[Leaf, ...]]
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
    """A rule for one kind of part in one slot with one kit, and the paths known so far."""

    __slots__ = ("rule", "speaks_of", "top")

    def __init__(self, rule: Rule, build: Build) -> None:
        self.rule = rule
        self.speaks_of = rule.about(build) if rule.about else None
        self.top: Any = None


class _Kind:
    """Parts of one kind in classes: alike in every field whose value any rule read so far."""

    __slots__ = ("classes", "fields", "getter", "last", "turn")

    def __init__(self) -> None:
        self.fields: dict[str, None] = {}
        self.turn = 0
        self._sort()

    def _sort(self) -> None:
        self.getter = attrgetter(*self.fields) if self.fields else None
        self.classes: dict[Any, int] = {}
        self.last: tuple[Fittable | None, int] = (None, 0)
        self.turn += 1

    def of(self, part: Fittable) -> int:
        """The part's class. A part comes slot after slot: the last one is remembered."""
        last, found = self.last
        if last is part:
            return found
        key = self.getter(part) if self.getter else None
        classes = self.classes
        found = classes.setdefault(key, len(classes))
        self.last = (part, found)
        return found

    def note(self, steps: dict[Step, Any]) -> bool:
        """Take down what was read; True when the classes have to be made anew."""
        new = [s[1] for s in steps if s[0] == "=" and s[1] not in self.fields]
        if new:
            self.fields.update(dict.fromkeys(new))
            self._sort()
        return bool(new)


class _Panel:
    """The rules for one kind of part in one slot with one kit, and what they say together by class."""

    __slots__ = ("asked", "asker", "by_class", "turn")

    def __init__(self, asked: list[_Asked], asker: Asker) -> None:
        self.asked, self.asker = asked, asker
        self.by_class: dict[int, Any] = {}
        self.turn = -1


class Bench:
    """One build, ready to judge any number of parts for its slots, with what they need from a shelf."""

    def __init__(self, build: Build, shelf: Sequence[Accessory] = ()) -> None:
        self.build, self.shelf = build, shelf
        self._kinds: dict[type, _Kind] = {}
        self._panels: dict[tuple[Any, ...], _Panel] = {}
        self._joined: dict[tuple[Leaf, ...], Together] = {}
        self._kits: dict[Any, tuple[Accessory, ...]] = {}
        self._sums: dict[tuple[str, ...], tuple[tuple[str, ...], int]] = {}
        self._seen = build.seen_parts
        self._plain = Bench(build.taken_as_usual(False)) if build.known.as_usual else None

    def judged(self, slot: Slot, part: Fittable) -> Judged:
        """Verdict, its few words and what to look at, with the kit that makes it best."""
        have = self.build.accessories.get(slot.id, ())
        joint, short, wants, leaves = self._joint(slot, part, have)
        if wants and (kit := self._kit(slot, part, joint, leaves)):
            return (self._joint(slot, part, kit)[1], *self._sum(kit))
        return short, (), 0

    def _sum(self, kit: tuple[Accessory, ...]) -> tuple[tuple[str, ...], int]:
        """A kit's part numbers and its price."""
        key = tuple([a.number for a in kit])
        found = self._sums.get(key)
        if found is None:
            found = self._sums[key] = (key, sum(a.price_minor or 0 for a in kit))
        return found

    def _kit(self, slot: Slot, part: Fittable, alone: Joint, leaves: tuple[Leaf, ...]) -> tuple[Accessory, ...]:
        """The cheapest kit that improves the verdict, and nothing in it that makes no difference."""
        from .judge import cheapest, needs_of

        bought = self._kits.get(leaves)
        if bought is None:
            family = self.build.machine.machine.id
            found = {a.number: a for n in needs_of(leaves) if (a := cheapest(n, self.shelf, family))}
            bought = self._kits[leaves] = tuple(found.values())
        if not bought:
            return ()
        dressed = self._joint(slot, part, bought)[0]
        if dressed.verdict.rank >= alone.verdict.rank:
            return ()  # nothing to sell where it does not help
        if len(bought) == 1:
            return bought
        for spare in sorted(bought, key=lambda a: (-(a.price_minor or 0), a.number)):
            fewer = tuple(a for a in bought if a is not spare)
            if self._joint(slot, part, fewer)[0].verdict.rank <= dressed.verdict.rank:
                bought = fewer
        return bought

    def _joint(self, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> Together:
        found = self._together(slot, part, kit)
        if self._plain is None:
            return found
        from .judge import on_the_owners_word

        joint = on_the_owners_word(found[0], self._plain._together(slot, part, kit)[0])
        return found if joint is found[0] else (joint, (joint.verdict, joint.short, ()), found[2], found[3])

    def _together(self, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> Together:
        panel = self._panels.get((slot.id, part.kind, tuple([a.number for a in kit]) if kit else ()))
        if panel is None:
            panel = self._open(slot, part, kit)
        kind = self._kinds.get(type(part))
        if kind is None:
            kind = self._kinds[type(part)] = _Kind()
        if part.number in self._seen:  # the workshop's own outcomes speak of this very number
            return self._ask_all(panel, kind, part)[0]
        if panel.turn == kind.turn:
            here = panel.by_class.get(kind.of(part))
            while type(here) is _Node:
                here = here.leads.get(getattr(part, here.field) > here.figure) if here.op == ">" else here.next(part)
            if here is not None:
                known: Together = here
                return known
        while True:
            together, steps = self._ask_all(panel, kind, part)
            if panel.turn == kind.turn:
                break
            panel.by_class, panel.turn = {}, kind.turn
        own = kind.of(part)
        panel.by_class[own] = _keep(panel.by_class.get(own), steps, together)
        return together

    def _open(self, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> _Panel:
        both = (r for whole in (False, True) for r in rules_for(type(slot), type(part), whole))
        panel = _Panel([_Asked(r, self.build) for r in both], Asker(self.build, slot, kit))
        # A pair that could meet and that no rule judges is an error, never seats (rules.md section 1).
        assert panel.asked, f"no rule speaks of a {part.kind} in a {slot.kind} slot"
        self._panels[(slot.id, part.kind, self._sum(kit)[0])] = panel
        return panel

    def _ask_all(self, panel: _Panel, kind: _Kind, part: Fittable) -> tuple[Together, list[tuple[Step, Any]]]:
        """What all rules say together, and the comparisons it rests on beside the part's class."""
        leaves: list[Leaf] = []
        compared: dict[Step, Any] = {}
        for asked in panel.asked:
            if asked.speaks_of is not None and part.number not in asked.speaks_of:
                continue
            here = asked.top
            while type(here) is _Node:
                if here.op != "=":
                    compared.setdefault(here.step, answer_of(part, here.step))
                here = here.next(part)
            if here is None:
                trace = Trace()
                here = panel.asker.ask(asked.rule, part, trace)
                asked.top = _keep(asked.top, list(trace.steps.items()), here)
                if asked.speaks_of is None:
                    kind.note(trace.steps)
                    for step, answer in trace.steps.items():
                        if step[0] != "=":
                            compared.setdefault(step, answer)
            leaves.append(here)
        key = tuple(leaves)
        together = self._joined.get(key)
        if together is None:
            joint = join(key, self.build.known, part)
            wants = joint.verdict is not Verdict.SEATS and any(
                s.needs for leaf in key if leaf.worst for o in leaf.outcomes for s in o.answer
            )
            short = (joint.verdict, joint.short, tuple(place_of(a) for a in joint.asks))
            together = self._joined[key] = (joint, short, wants, key)
        return together, list(compared.items())


__all__ = ["Bench"]
