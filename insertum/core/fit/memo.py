"""Judging thousands of parts against one build without asking any rule the same thing twice.

A rule is a function of what it reads. The first part is judged through a :class:`Traced` stand-in
that writes down every attribute a rule looks at, in order, and the findings are kept at the end of
that path. The next part follows the path by its own values; where it leads to known findings they
are the rule's answer, because the rule would have read the same values and nothing else. Where it
leads nowhere, the rule is asked and the new path is kept. Nothing is declared and nothing sampled:
the answer is the one the rules give (``tests/core/test_fit_matrix.py`` compares every pair).
"""

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


class _Path:
    """What is read first, and where each value leads: another path, or the findings."""

    __slots__ = ("field", "leads")

    def __init__(self, field: str) -> None:
        self.field = field
        self.leads: dict[Any, _Path | Leaf] = {}


class _Asked:
    """A rule for one kind of part in one slot with one kit, and the paths known so far."""

    __slots__ = ("rule", "top")

    def __init__(self, rule: Rule) -> None:
        self.rule = rule
        self.top: _Path | Leaf | None = None


class Bench:
    """One build, ready to judge any number of parts for its slots."""

    def __init__(self, build: Build) -> None:
        self.build = build
        self._asked: dict[tuple[Any, ...], list[_Asked]] = {}
        self._joined: dict[tuple[int, ...], tuple[Verdict, Leaf, str]] = {}

    def judged(self, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> tuple[Verdict, Leaf, str]:
        """Verdict, findings (worst first) and the few words of the worst, for a part with a kit."""
        key = (slot.id, type(part), tuple([a.number for a in kit]) if kit else ())
        rules = self._asked.get(key)
        if rules is None:
            both = (r for whole in (False, True) for r in rules_for(type(slot), type(part), whole))
            rules = self._asked[key] = [_Asked(r) for r in both]
        leaves = []
        for asked in rules:
            here = asked.top
            while isinstance(here, _Path):
                here = here.leads.get(getattr(part, here.field))
            leaves.append(self._ask(asked, slot, part, kit) if here is None else here)
        joint = tuple(map(id, leaves))  # leaves live as long as the bench does
        known = self._joined.get(joint)
        if known is None:
            findings = sorted((f for leaf in leaves for f in leaf), key=lambda f: -f.verdict.rank)
            verdict = worst(findings)
            short = next((f.short or f.says for f in findings if f.verdict is verdict and (f.short or f.says)), "")
            known = self._joined[joint] = (verdict, tuple(findings), short)
        return known

    def _ask(self, asked: _Asked, slot: Slot, part: Fittable, kit: tuple[Accessory, ...]) -> Leaf:
        traced: Any = Traced(part)
        leaf = tuple(asked.rule.findings(slot, traced, self.build.with_part(slot.id, traced, kit)))
        steps = list(object.__getattribute__(traced, "_reads").items())
        if not steps:
            asked.top = leaf
            return leaf
        here = asked.top = asked.top or _Path(steps[0][0])
        for i, (field, value) in enumerate(steps):
            assert isinstance(here, _Path) and here.field == field, "a rule reads in the same order for the same values"
            if i + 1 == len(steps):
                here.leads[value] = leaf
            else:
                here = here.leads.setdefault(value, _Path(steps[i + 1][0]))
        return leaf
