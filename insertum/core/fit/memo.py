"""Judging thousands of parts against one build without asking any rule the same thing twice.

A rule is a function of what it reads. The first part is judged through a :class:`Traced` stand-in
that writes down every attribute a rule looks at, in order, and the findings are kept at the end of
that path. The next part follows the path by its own values; where it leads to known findings they
are the rule's answer, because the rule would have read the same values and nothing else. Where it
leads nowhere, the rule is asked and the new path is kept. Nothing is declared and nothing sampled:
the answer is the one the rules give (``tests/core/test_fit_matrix.py`` compares every pair). Rules that
read nothing peculiar to one part answer together for all parts alike in what they read.
"""

from collections.abc import Iterable
from operator import attrgetter
from typing import Any, get_args

from ..machine import Slot
from ..part import Accessory, Fittable
from ..verdict import Finding, Verdict, worst
from .build import Build
from .rulebook import Rule, rules_for


class Traced:
    """A part that writes down which of its fields are read. It passes for its own kind of part, in
    ``isinstance`` and in patterns; properties run on the stand-in, so that their reads count too."""

    __slots__ = ("_part", "_reads")

    def __init__(self, part: Fittable) -> None:
        object.__setattr__(self, "_part", part)
        object.__setattr__(self, "_reads", {})

    @property  # type: ignore[misc]
    def __class__(self) -> Any:
        return type(object.__getattribute__(self, "_part"))

    def __getattr__(self, name: str) -> Any:
        part = object.__getattribute__(self, "_part")
        if name in _FIELDS[type(part)]:
            value = getattr(part, name)
            object.__getattribute__(self, "_reads")[name] = value
            return value
        found = getattr(type(part), name)
        if isinstance(found, property) and found.fget is not None:
            return found.fget(self)
        raise AttributeError(f"a rule may read the fields of a part, not {name!r}")


_FIELDS = {kind: frozenset(kind.model_fields) for kind in get_args(Fittable)}


Leaf = tuple[Finding, ...]
_NOTHING: Leaf = ()


class _Path:
    """What is read first, and where each value leads: another path, or the findings."""

    __slots__ = ("field", "leads")

    def __init__(self, field: str) -> None:
        self.field = field
        self.leads: dict[Any, _Path | Leaf] = {}


class _Asked:
    """A rule for one kind of part in one slot with one kit, and the paths known so far. ``wide`` once it
    has read a field that differs from part to part."""

    __slots__ = ("rule", "speaks_of", "top", "wide")

    def __init__(self, rule: Rule, build: Build) -> None:
        self.rule = rule
        self.speaks_of = rule.about(build) if rule.about else None
        self.top: _Path | Leaf | None = None
        self.wide = False


#: Fields that differ from part to part. Only speed rests on this list: rules that read none of them
#: answer together for every part that is alike in all they read.
_WIDE = frozenset(("number", "name", "capacity_gb", "read_mb_s", "design_mwh", "full_mwh"))


class _Panel:
    """The rules for one kind of part in one slot with one kit. Those that read no wide field are kept
    together: ``fields`` is all they were ever seen to read, ``alike`` their answers by those fields."""

    __slots__ = ("alike", "asked", "fields", "getter", "narrow", "order", "wide")

    def __init__(self, asked: list[_Asked]) -> None:
        self.asked = asked
        self.order = {a.rule.id: i for i, a in enumerate(asked)}
        self.fields: dict[str, None] = {}
        self.sort()

    def sort(self) -> None:
        """Sort the rules anew, after one was seen to read something new."""
        self.narrow = [a for a in self.asked if not a.wide]
        self.wide = [a for a in self.asked if a.wide]
        self.getter = attrgetter(*self.fields) if self.fields else None
        self.alike: dict[Any, tuple[Leaf, ...]] = {}

    def note(self, asked: _Asked, read: Iterable[str]) -> bool:
        """Take down what a rule read; True when the panel has to be sorted anew."""
        if asked.wide:
            return False
        if not _WIDE.isdisjoint(read):
            asked.wide = True
            return True
        new = [f for f in read if f not in self.fields]
        self.fields.update(dict.fromkeys(new))
        return bool(new)


class Bench:
    """One build, ready to judge any number of parts for its slots."""

    def __init__(self, build: Build) -> None:
        self.build = build
        self._panels: dict[tuple[Any, ...], _Panel] = {}
        self._joined: dict[tuple[int, ...], tuple[Verdict, Leaf, str]] = {}

    def judged(self, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> tuple[Verdict, Leaf, str]:
        """Verdict, findings (worst first) and the few words of the worst, for a part with a kit."""
        key = (slot.id, type(part), tuple([a.number for a in kit]) if kit else ())
        panel = self._panels.get(key)
        if panel is None:
            both = (r for whole in (False, True) for r in rules_for(type(slot), type(part), whole))
            panel = self._panels[key] = _Panel([_Asked(r, self.build) for r in both])
        alike = panel.alike.get(panel.getter(part)) if panel.getter else None
        if alike is None:
            alike = self._alike(panel, slot, part, kit)
        leaves = list(alike)
        for asked in panel.wide:
            if asked.speaks_of is not None and part.number not in asked.speaks_of:
                continue
            here = asked.top
            while isinstance(here, _Path):
                here = here.leads.get(getattr(part, here.field))
            leaves.append(here if here is not None else self._ask(asked, slot, part, kit)[0])
        joint = tuple(map(id, leaves))  # leaves live as long as the bench does
        known = self._joined.get(joint)
        if known is None:
            order = panel.order
            findings = sorted((f for leaf in leaves for f in leaf), key=lambda f: (-f.verdict.rank, order[f.rule]))
            verdict = worst(findings)
            short = next((f.short or f.says for f in findings if f.verdict is verdict and (f.short or f.says)), "")
            known = self._joined[joint] = (verdict, tuple(findings), short)
        return known

    def _alike(self, panel: _Panel, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> tuple[Leaf, ...]:
        """The answers of the rules that read no wide field, kept for all parts alike in what they read."""
        while True:
            found = [(a, *self._leaf(a, slot, part, kit)) for a in panel.narrow]
            noted = [panel.note(a, read) for a, _, read in found]  # every one is noted
            if not any(noted):
                break
            panel.sort()
        leaves = tuple(leaf for _, leaf, _ in found)
        if panel.getter:
            panel.alike[panel.getter(part)] = leaves
        return leaves

    def _leaf(self, asked: _Asked, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> tuple[Leaf, list[str]]:
        """A rule's findings on a part, and what it read to come to them."""
        read: list[str] = []
        if asked.speaks_of is not None and part.number not in asked.speaks_of:
            return _NOTHING, ["number"]
        here = asked.top
        while isinstance(here, _Path):
            read.append(here.field)
            here = here.leads.get(getattr(part, here.field))
        return (here, read) if here is not None else self._ask(asked, slot, part, kit)

    def _ask(self, asked: _Asked, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> tuple[Leaf, list[str]]:
        traced: Any = Traced(part)
        leaf = tuple(asked.rule.findings(slot, traced, self.build.with_part(slot.id, traced, kit)))
        steps = list(object.__getattribute__(traced, "_reads").items())
        if not steps:
            asked.top = leaf
            return leaf, []
        here = asked.top = asked.top or _Path(steps[0][0])
        for i, (field, value) in enumerate(steps):
            assert isinstance(here, _Path) and here.field == field, "a rule reads in the same order for the same values"
            if i + 1 == len(steps):
                here.leads[value] = leaf
            else:
                here = here.leads.setdefault(value, _Path(steps[i + 1][0]))
        return leaf, [field for field, _ in steps]
