"""The engine: what a rule says over everything that could be (rules.md section 1).

A rule is asked about every possibility of what it reads (:mod:`.enumeration`). All usable: usable, at the worst of them.
None usable: refused, or harm if all are. Some and some: *measure first*, naming the attributes that, alone set to
their best, improve the worst. So an unknown never becomes *seats* and never hides a *refused*, by construction.
"""

from collections.abc import Mapping, Sequence
from functools import partial
from itertools import product
from typing import Any, NamedTuple

from ..known.known import Known
from ..machine.attribute import lowered
from ..machine.part import Accessory, Fittable
from ..machine.shape import Slot
from ..verdict import Said, Verdict
from .build import Build
from .enumeration import Inquiry, Key, Outcome, TooMany
from .leaf import HARM, REFUSED, USABLE, VERDICTS, Attribute, Leaf, rank_of
from .part_view import PartView
from .place_view import PlaceView
from .questions import asked, words_of
from .read_trace import Trace, is_one_of
from .rulebook import Rule
from .views import BuildView

#: Possibilities that rules share are gone through together up to here; beyond, the answer is to measure.
JOINT = 64
#: What varies between two machines of one configuration: another machine's outcome does not settle it.
VARIES = frozenset(("leads", "sim_tray", "bracket_mm", "holds_mm", "pad", "caddy", "ribbon", "screws", "spacer"))


class Asker:
    """One slot of one build, with one kit: puts parts before rules."""

    def __init__(self, build: Build, slot: Slot, kit: tuple[Accessory, ...]) -> None:
        self.build, self.slot, self.kit = build, slot, kit
        self.inquiry = Inquiry()
        kit_numbers = {a.number for a in kit}
        #: Parts that worked in this slot of another machine like it, with no accessory that is not here, and what was
        #: looked at there.
        self.worked: dict[str, set[str]] = {}
        for s in build.sightings:
            own = s.worked and not s.hearsay and s.firmware and s.firmware == build.firmware
            if own and s.slot == slot.id and set(s.accessories) <= kit_numbers:
                self.worked.setdefault(s.part, set()).update(s.showed)
        self.view = PlaceView(self.inquiry, build.known, slot.id, slot)

    def ask(self, rule: Rule, part: Fittable, trace: Trace | None = None) -> Leaf:
        """What a rule says of a part over all that could be. ``trace`` takes down what it asked of the part."""
        inquiry = self.inquiry
        inquiry.helps = rule.helps
        inquiry.reads = {}
        inquiry.kit_read = inquiry.boot_read = False
        view = PartView(inquiry, part, trace=trace)
        build = BuildView(inquiry, self.build, self.slot, view, self.kit)
        inquiry.at = {name: partial(f, build) for name, f in rule.at.items()} if rule.at else _NO_FIGURES
        try:
            outcomes = inquiry.all(lambda: tuple(rule.judge(self.view, view, build)))
        except TooMany:
            outcomes = [
                Outcome((_TOO_MANY,), dict.fromkeys(inquiry.chosen, 0)),
                Outcome((), dict.fromkeys(inquiry.chosen, 1)),
            ]
        if not outcomes:
            outcomes = [Outcome((_IMPOSSIBLE,), {})]
        if len(outcomes) > 1 and self.worked:
            inquiry.kit_read = True  # what worked there may have worked with accessories
            settled = frozenset(n for n, showed in self.worked.items() if not rule.shown or rule.shown in showed)
            if settled and is_one_of(view.number, settled):
                outcomes = settled_by_outcome(outcomes)
        return Leaf(rule, outcomes, tuple(inquiry.reads), not inquiry.kit_read, not inquiry.boot_read)


_NO_FIGURES: Mapping[str, Any] = {}
_TOO_MANY = Said(Verdict.REFUSED, "There is too much unknown here to go through: measure first.")
_IMPOSSIBLE = Said(
    Verdict.REFUSED, "Its figures contradict each other: no such part is made.", short="figures contradict"
)


def settled_by_outcome(outcomes: Sequence[Outcome[Any]]) -> list[Outcome[Any]]:
    """An outcome settles what it showed for that very part: of what does not vary between machines of one
    configuration only the possibilities in which it works are left."""
    by: dict[frozenset[tuple[Key, Any]], list[Outcome[Any]]] = {}
    for o in outcomes:
        varying = frozenset((k, v) for k, v in o.chosen.items() if k[1] in VARIES)
        by.setdefault(varying, []).append(o)
    return [min(alike, key=lambda o: rank_of(o.answer)) for alike in by.values()]


class Joint(NamedTuple):
    """What all rules together say: the verdict, its few words, and what to look at."""

    verdict: Verdict
    short: str
    asks: tuple[Attribute, ...]


def join(leaves: Sequence[Leaf], known: Known, part: Fittable) -> Joint:
    """The verdict over all leaves: the worst taken rule by rule, the best only jointly where they share an unknown."""
    worst = best = 0
    for leaf in leaves:
        if leaf.worst > worst:
            worst = leaf.worst
        if leaf.best > best:
            best = leaf.best
    if worst <= USABLE:
        short = next((leaf.short for leaf in leaves if leaf.worst == worst and leaf.short), "")
        return Joint(VERDICTS[worst], short, ())
    if best > USABLE:
        verdict = best
        if best == HARM and any(leaf.may_stay_out for leaf in leaves):
            # Harm needs entering: where its key, width or plug may keep it out, it is refused at least.
            verdict = REFUSED
        return Joint(
            VERDICTS[verdict], next((leaf.short for leaf in leaves if leaf.best == verdict and leaf.short), ""), ()
        )
    mixed = [leaf for leaf in leaves if leaf.mixed]
    if len(mixed) > 1 and (never := _never_together(mixed)):
        return Joint(Verdict.REFUSED, never, ())
    asks = asked(dict.fromkeys(a for leaf in mixed for a in leaf.asks), known, part)
    label = words_of(known, part, asks[0])[0] if asks else ""
    return Joint(Verdict.MEASURE_FIRST, f"{lowered(label)} unknown" if label else "", asks)


def _never_together(mixed: Sequence[Leaf]) -> str:
    """Where rules share an unknown: is there no possibility that is usable to all of them? Then its words."""
    keys = [frozenset(k for o in leaf.outcomes for k in o.chosen) for leaf in mixed]
    # Where a rule said which direction helps, only the two ends were gone through: nothing is concluded from them.
    ends = {k for leaf, ks in zip(mixed, keys, strict=True) for k in ks if leaf.only_ends(k)}
    shared = {k for i, a in enumerate(keys) for b in keys[i + 1 :] for k in a & b} - ends
    if not shared:
        return ""
    involved = [leaf for leaf, k in zip(mixed, keys, strict=True) if k & shared]
    options = [
        {
            tuple((k, v) for k, v in o.chosen.items() if k in shared)
            for o in leaf.outcomes
            if rank_of(o.answer) <= USABLE
        }
        for leaf in involved
    ]
    combinations = 1
    for o in options:
        combinations *= len(o)
        if combinations > JOINT:
            return ""  # errs towards asking
    for choice in product(*options):
        together: dict[Key, Any] = {}
        if all(together.setdefault(k, v) == v for setting in choice for k, v in setting):
            return ""
    return next((leaf.short for leaf in involved if leaf.short), "") or "no possibility fits"


#: The few words of a verdict that rests on what the owner takes as usual.
AS_USUAL = "taken as usual"


def on_the_owners_word(found: Joint, plain: Joint) -> Joint:
    """Where the assumption makes a difference the verdict is not better than held back, unproven."""
    if found.verdict is plain.verdict or found.verdict.rank > USABLE:
        return found
    return Joint(Verdict.HELD_BACK, AS_USUAL, ())
