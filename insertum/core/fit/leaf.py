"""A leaf: what one rule says of one part in one slot, over all that could be."""

from collections.abc import Mapping, Sequence
from typing import Any

from ..known.limits import CAPS
from ..verdict import AccessoryNeed, Said, Verdict
from .enumeration import Key, Outcome
from .rulebook import Rule

#: Ranks of verdicts: up to USABLE (*held back*) a part is usable.
USABLE, MEASURE, REFUSED, HARM = 1, 2, 3, 4
VERDICTS = tuple(Verdict)
#: A place ("drive-1", "memory", "part") and what is asked of it.
Attribute = tuple[str, str]
#: Consequences, and the attribute that says most of them.
_FROM = {"holds_mm": "standoffs_mm", "accepted_cards": "listed_cards", "held_um": "spacer"}
#: What a slot simply is: nothing anybody would doubt or measure.
_PLAIN = ("form", "kind", "id", "name")


class Leaf:
    """What one rule says of one part in one slot, over all that could be.

    ``worst`` and ``best`` are ranks of verdicts; ``asks`` the attributes to look at where it is mixed; ``out`` says
    that the part surely does not enter, ``may_stay_out`` that it possibly does not.
    """

    __slots__ = (
        "_asks",
        "_short",
        "best",
        "boot_free",
        "kit_free",
        "may_stay_out",
        "mixed",
        "out",
        "outcomes",
        "reads",
        "rule",
        "wants",
        "worst",
    )

    def __init__(
        self, rule: Rule, outcomes: Sequence[Outcome[tuple[Said, ...]]], reads: tuple[Attribute, ...] = (),
        kit_free: bool = True, boot_free: bool = True,
    ) -> None:  # fmt: skip
        self.rule = rule
        self.outcomes = outcomes
        #: The attributes it looked at.
        self.reads = reads
        #: Did it come about without a look at the accessories, at where the system starts from?
        self.kit_free, self.boot_free = kit_free, boot_free
        self._asks: tuple[Attribute, ...] | None = None
        self._short: str | None = None
        if len(outcomes) == 1:
            said = outcomes[0].answer
            self.worst = self.best = rank_of(said) if said else 0
            self.out = self.may_stay_out = any(s.keeps_out for s in said)
        else:
            ranks = [rank_of(o.answer) for o in outcomes]
            self.worst, self.best = max(ranks), min(ranks)
            keeps = [any(s.keeps_out for s in o.answer) for o in outcomes]
            self.out, self.may_stay_out = all(keeps), any(keeps)
        #: Usable in some possibilities and not in others.
        self.mixed = self.best <= USABLE < self.worst
        #: What it needs beside itself, in any possibility.
        self.wants: tuple[AccessoryNeed, ...] = ()
        if self.worst:
            self.wants = tuple(dict.fromkeys(s.needs for o in outcomes for s in o.answer if s.needs))
        # Only rules that say so may harm: the matrix stops early by it.
        assert self.worst < HARM or rule.harms, f"{rule.id} speaks of harm and does not declare it"

    def only_ends(self, key: Key) -> bool:
        """Was only the worst and the best of this attribute gone through?"""
        place, name = key[0], key[1]
        return (
            name in CAPS
            or name.startswith("speed_by_modules")
            or (f"part.{name}" if place == "part" else name) in self.rule.helps
        )

    @property
    def asks(self) -> tuple[Attribute, ...]:
        """The attributes to look at where it is not the same in every possibility."""
        if self._asks is None:
            ranks = [rank_of(o.answer) for o in self.outcomes]
            self._asks = asks_of(self.outcomes, ranks) if self.worst > self.best else ()
        return self._asks

    @property
    def looked_at(self) -> tuple[str, ...]:
        """The places it looked at, but for what a slot simply is."""
        return tuple(f"{p}.{_FROM.get(n, n)}" for p, n in self.reads if n not in _PLAIN)

    @property
    def short(self) -> str:
        """The few words of the verdict, true of every possibility."""
        if self._short is None:
            self._short = "" if self.mixed else self._words([rank_of(o.answer) for o in self.outcomes])
        return self._short

    def _words(self, ranks: Sequence[int]) -> str:
        """The few words of the verdict, true of every possibility."""
        said = [o.answer for o in self.outcomes]
        level = self.worst if self.worst <= USABLE else self.best
        shorts = [
            next((s.short or str(s.says) for s in answer if s.verdict.rank == rank), "")
            for answer, rank in zip(said, ranks, strict=True)
        ]
        if len(set(shorts)) == 1:
            return shorts[0]
        if level == 0:
            return ""
        if level == USABLE:
            figures = [s.figure for answer in said for s in answer if s.figure is not None]
            unit = next((s.unit for answer in said for s in answer if s.unit), "")
            if len(figures) == len(said) and min(figures) != max(figures):
                return f"{min(figures):g} to {max(figures):g} {unit}"
            worst = next(s for s, r in zip(shorts, ranks, strict=True) if r == level)
            return f"maybe {worst}" if worst else ""
        return next((s for s, r in zip(shorts, ranks, strict=True) if r == level), "")


_RANKS = {v: v.rank for v in Verdict}


def rank_of(said: tuple[Said, ...]) -> int:
    """How bad the worst of what was said is; 0 where nothing was."""
    if not said:
        return 0
    if len(said) == 1:
        return _RANKS[said[0].verdict]
    return max([_RANKS[s.verdict] for s in said])


def attribute_of(key: Key) -> Attribute:
    """The attribute a choice was about."""
    return key[0], key[1]


def asks_of(outcomes: Sequence[Outcome[Any]], ranks: Sequence[int]) -> tuple[Attribute, ...]:
    """The attributes that, alone set to their best, improve the worst; all that were chosen where none does alone."""
    worst = max(ranks)
    #: By attribute what was chosen of it, with the worst that was met so.
    met: dict[Attribute, dict[tuple[tuple[Key, Any], ...], int]] = {}
    for o in outcomes:
        for k in o.chosen:
            met.setdefault((k[0], k[1]), {})
    for o, rank in zip(outcomes, ranks, strict=True):
        settings: dict[Attribute, list[tuple[Key, Any]]] = {a: [] for a in met}
        for pair in o.chosen.items():
            settings[pair[0][0], pair[0][1]].append(pair)
        for a, setting in settings.items():
            key, own = tuple(setting), met[a]
            own[key] = max(rank, own.get(key, rank))
    named = [a for a, own in met.items() if _best_worst(own) < worst]
    return tuple(named or met)


def _best_worst(met: Mapping[tuple[tuple[Key, Any], ...], int]) -> int:
    """The worst that is left with one attribute set to the value that serves best: what was chosen of it otherwise falls
    away."""
    if len(met) == 1:
        return next(iter(met.values()))
    asked = {setting: dict(setting) for setting in met}
    return min(
        max(rank for other, rank in met.items() if all(asked[other].get(k, v) == v for k, v in setting))
        for setting in met
    )
