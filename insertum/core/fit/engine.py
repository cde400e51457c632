"""The engine: what a rule says over everything that could be (rules.md section 1).

A rule is asked about every possibility of what it reads (:mod:`.inquiry`). All usable: usable, at the worst of them.
None usable: refused, or harm if all are. Some and some: *measure first*, naming the attributes that, alone set to
their best, improve the worst. So an unknown never becomes *seats* and never hides a *refused*, by construction.
"""

from collections.abc import Iterable, Mapping, Sequence
from functools import partial
from itertools import product
from typing import Any, NamedTuple

from ..known.domain import Some, Span
from ..known.known import ANOTHER, CAPS, Known
from ..machine.attribute import attributes_of, listed, lowered, shown
from ..machine.part import CARDS, Accessory, BayDrive, Fittable, MemoryModule, Pack
from ..machine.shape import Slot
from ..verdict import AccessoryNeed, Finding, Said, Verdict
from .build import Build
from .enumeration import Inquiry, Key, Outcome, TooMany
from .part_view import PartView
from .place_view import PlaceView
from .read_trace import Trace, is_one_of
from .rulebook import Rule
from .views import BuildView

USABLE, MEASURE, REFUSED, HARM = 1, 2, 3, 4
#: Possibilities that rules share are gone through together up to here; beyond, the answer is to measure.
JOINT = 64
#: Places that are no part of the machine's description: what is asked of them stands by itself.
NO_PLACE = ("fitted", "configuration", "exclusion", "firmware")
#: What varies between two machines of one configuration: another machine's outcome does not settle it.
VARIES = frozenset(("leads", "sim_tray", "bracket_mm", "holds_mm", "pad", "caddy", "ribbon", "screws", "spacer"))

Attribute = tuple[str, str]


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
            self.worst = self.best = _rank(said) if said else 0
            self.out = self.may_stay_out = any(s.keeps_out for s in said)
        else:
            ranks = [_rank(o.answer) for o in outcomes]
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
            ranks = [_rank(o.answer) for o in self.outcomes]
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
            self._short = "" if self.mixed else self._words([_rank(o.answer) for o in self.outcomes])
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


def _rank(said: tuple[Said, ...]) -> int:
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
    attributes = list(dict.fromkeys(attribute_of(k) for o in outcomes for k in o.chosen))
    named = [a for a in attributes if _best_worst(outcomes, ranks, a) < worst]
    return tuple(named or attributes)


def _best_worst(outcomes: Sequence[Outcome[Any]], ranks: Sequence[int], attribute: Attribute) -> int:
    """The worst that is left with one attribute set to the value that serves best."""
    settings = {tuple([(k, v) for k, v in o.chosen.items() if attribute_of(k) == attribute]) for o in outcomes}
    lefts = []
    for setting in settings:
        left = list(zip(outcomes, ranks, strict=True))
        for k, v in setting:
            left = [(o, r) for o, r in left if o.chosen.get(k, v) == v]
        lefts.append(max([r for _, r in left]))
    return min(lefts)


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
    return [min(alike, key=lambda o: _rank(o.answer)) for alike in by.values()]


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
        return Joint(_VERDICTS[worst], short, ())
    if best > USABLE:
        verdict = best
        if best == HARM and any(leaf.may_stay_out for leaf in leaves):
            # Harm needs entering: where its key, width or plug may keep it out, it is refused at least.
            verdict = REFUSED
        return Joint(
            _VERDICTS[verdict], next((leaf.short for leaf in leaves if leaf.best == verdict and leaf.short), ""), ()
        )
    mixed = [leaf for leaf in leaves if leaf.mixed]
    if len(mixed) > 1 and (never := _never_together(mixed)):
        return Joint(Verdict.REFUSED, never, ())
    asks = asked(dict.fromkeys(a for leaf in mixed for a in leaf.asks), known, part)
    label = words_of(known, part, asks[0])[0] if asks else ""
    return Joint(Verdict.MEASURE_FIRST, f"{lowered(label)} unknown" if label else "", asks)


_VERDICTS = tuple(Verdict)


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
        {tuple((k, v) for k, v in o.chosen.items() if k in shared) for o in leaf.outcomes if _rank(o.answer) <= USABLE}
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


def asked(attributes: Iterable[Attribute], known: Known, part: Fittable) -> tuple[Attribute, ...]:
    """The attributes as one would ask for them: consequences as what is looked at, and none that means nothing
    before another is known."""
    named: dict[Attribute, None] = {}
    for place, name in attributes:
        if name == "holds_mm":
            name = known.found(place, name).asks
        elif name.startswith("content."):
            place, name = "fitted", place
        named[(place, name)] = None
    first = {n for _, n in named}
    return tuple(a for a in named if _after(known, part, a) not in first)


def _after(known: Known, part: Fittable, attribute: Attribute) -> str:
    place, name = attribute
    if place == "part":
        words = attributes_of(type(part)).get(name)
        return words.after if words and words.after else "-"
    if place in NO_PLACE or _of_a_part(place):
        return "-"
    return known.words(place, name).after or "-"


def _of_a_part(place: str) -> str:
    """The slot, where a place is the part in it (today's, or one bought)."""
    where, _, slot = place.partition(" ")
    return slot if where in ("in", "new") else ""


#: The words of what a part may leave unsaid, whichever kind it is of.
_PART_WORDS = {
    name: words for kind in (*CARDS, MemoryModule, BayDrive, Pack) for name, words in attributes_of(kind).items()
}


def words_of(known: Known, part: Fittable, attribute: Attribute) -> tuple[str, str, int]:
    """(label, how to look, minutes of looking) in the attribute's own words."""
    place, name = attribute
    if place == "part":
        if name == "drivers":
            return "Driver for the owner's system", "The maker's driver page for that system, or ask the seller.", 5
        words = attributes_of(type(part))[name]
        return words.label, words.how, words.look_minutes
    if place == "firmware":
        return "Firmware version", "Read it from the running system, or from the firmware's first screen.", 1
    if place == "fitted":
        return f"What sits in {known.place_name(name)}", "Read it from the running system, or look under the cover.", 1
    if place == "configuration":
        return "Processor", "Identify the configuration, or read the machine.", 1
    if slot := _of_a_part(place):
        return _words_of_fitted(known, place, slot, name)
    if place == "exclusion":
        return "What the two slots do to each other", "The manual's note on shared lanes and room, or try both.", 5
    words = known.words(place, name)
    return words.label, words.how, words.look_minutes


def _words_of_fitted(known: Known, place: str, slot: str, name: str) -> tuple[str, str, int]:
    where = known.place_name(slot) if place.startswith("in ") else f"the part for {known.place_name(slot)}"
    if name == "full_mwh":
        return f"{where}: full charge today", "Read it from the running system.", 1
    words = _PART_WORDS.get(name)
    label = lowered(words.label) if words else name.replace("_", " ")
    return f"{where}: {label}", words.how if words else "The part's own label.", words.look_minutes if words else 2


def place_of(attribute: Attribute) -> str:
    """How an attribute is named in the API: ``slot.attribute``, ``part.attribute``, ``fitted.slot``."""
    return f"{attribute[0]}.{attribute[1]}"


# -- findings, written when a cell is opened ----------------------------------------------------------
def findings_of(leaf: Leaf, asker: Asker, part: Fittable, entering: bool = True) -> list[Finding]:
    """What a rule says, in words. ``entering`` false: the part does not get in, so nothing further in is harmed."""
    rule = leaf.rule
    if len(leaf.outcomes) == 1:
        return [_finding(rule, s) for s in leaf.outcomes[0].answer if entering or s.verdict is not Verdict.HARM]
    known = asker.build.known
    if leaf.mixed:
        return [_question(leaf, asker, part, a) for a in asked(leaf.asks, known, part)]
    said = [o.answer for o in leaf.outcomes]
    common = [s for s in said[0] if all(s in other for other in said[1:])]
    found = [_finding(rule, s) for s in common]
    level = Verdict(_VERDICTS[leaf.best if leaf.best > USABLE else leaf.worst])
    if any(f.verdict is level for f in found) or (level is Verdict.SEATS):
        return found
    names = listed(dict.fromkeys(lowered(words_of(known, part, a)[0]) for a in asked(_varying(leaf), known, part)))
    speaking = [s for answer in said for s in answer if s.verdict.rank >= min(level.rank, USABLE)]
    worst = next((s for s in speaking if s.verdict is level), speaking[0])
    if level is Verdict.HELD_BACK:
        figures = [s.figure for answer in said for s in answer if s.figure is not None]
        low, high = (min(figures), max(figures)) if figures else (None, None)
        if low is not None and low != high:
            says = f"{_number(low)} to {_number(high)} {worst.unit} until {names} is known."
            short = f"{_number(low)} to {_number(high)} {worst.unit}"
        elif low is not None and all(answer_figures(a) for a in said):
            says, short = f"{_number(low)} {worst.unit}, whatever {names} is.", worst.short
        else:
            says = f"Not known: {names}. At worst: {_lower(worst.says)}"
            short = worst.short
        found.append(_finding(rule, worst._replace(says=says, short=short, evidence=())))
        return found
    # Nothing that could be is usable: what it says at best, and where harm could follow.
    best = min((a for a in said), key=_rank)
    for s in best:
        if s.verdict.rank > USABLE and s not in common:
            found.append(_finding(rule, s._replace(says=f"{s.says} So it is whatever {names} turns out to be.")))
    hurts = [s for answer in said for s in answer if s.verdict is Verdict.HARM]
    if hurts and level is not Verdict.HARM and found:
        found[0] = found[0].model_copy(update={"caution": found[0].caution or hurts[0].caution or str(hurts[0].says)})
    return found


def answer_figures(said: Iterable[Said]) -> list[float]:
    return [s.figure for s in said if s.figure is not None]


#: What a slot simply is: nothing anybody would doubt or measure.
#: Consequences, and the attribute that says most of them.
_FROM = {"holds_mm": "standoffs_mm", "accepted_cards": "listed_cards", "held_um": "spacer"}
_PLAIN = ("form", "kind", "id", "name")


def _varying(leaf: Leaf) -> Iterable[Attribute]:
    return dict.fromkeys(leaf.asks or (attribute_of(k) for o in leaf.outcomes for k in o.chosen))


def _lower(says: object) -> str:
    text = str(says)
    return text[:1].lower() + text[1:]


def _number(figure: float | None) -> str:
    return f"{figure:g}" if figure is not None else "?"


def _finding(rule: Rule, s: Said) -> Finding:
    return Finding(
        rule=rule.id, verdict=s.verdict, says=str(s.says), short=s.short, evidence=tuple(map(str, s.evidence)), remedy=s.remedy,
        caution=s.caution, needs=s.needs,
    )  # fmt: skip


def _question(leaf: Leaf, asker: Asker, part: Fittable, attribute: Attribute) -> Finding:
    """*Measure first*: what is not known, what follows at worst, the figure that would settle it, how to look."""
    known = asker.build.known
    label, how, _ = words_of(known, part, attribute)
    worst = max((o for o in leaf.outcomes), key=lambda o: _rank(o.answer))
    bad = max(worst.answer, key=lambda s: s.verdict.rank)
    settles = _settles(leaf, asker, part, attribute)
    general = ("part", *NO_PLACE, "memory", "boot")
    where = "" if attribute[0] in general else f" ({known.place_name(attribute[0])})"
    says = f"{label}{where}: not known. At worst: {_lower(bad.says)}"
    needs = bad.needs or next((s.needs for o in leaf.outcomes for s in o.answer if s.needs), None)
    return Finding(
        rule=leaf.rule.id, verdict=Verdict.MEASURE_FIRST, says=f"{says} {settles}".strip(),
        short=f"{lowered(label)} unknown", remedy=bad.remedy, attribute=place_of(attribute), label=label,
        how=how, settles=settles, needs=needs, caution=bad.caution if bad.verdict is Verdict.HARM else "",
    )  # fmt: skip


def _settles(leaf: Leaf, asker: Asker, part: Fittable, attribute: Attribute) -> str:
    """'1.35 mm or more seats': the figure that settles it whatever else is open, or the answers
    that would, others at their best."""
    place, name = attribute
    known = asker.build.known
    usable = [o for o in leaf.outcomes if _rank(o.answer) <= USABLE]
    keys = [k for o in usable for k in o.chosen if attribute_of(k) == attribute]
    if not keys or place in ("fitted", "configuration", "exclusion") or keys[0][2:] == ("group",):
        return ""
    if place == "firmware":
        versions = sorted({o.chosen[keys[0]] for o in usable if keys[0] in o.chosen} - {ANOTHER})
        return f"Firmware {' or '.join(versions)} settles it." if versions else ""
    if len(keys[0]) > 2:  # a member of a list, or a word
        good = {o.chosen[k] for o in usable for k in keys[:1] if k in o.chosen}
        if good == {True} and name not in ("number", "fru"):
            return f"{keys[0][2]} settles it." if place != "part" else ""
        return ""
    if place == "part" or _of_a_part(place) or name in _CAPPED or name.startswith(("speed_by_modules", "soldered.")):
        return ""
    words = known.words(place, name)
    domain = known.domain(place, name)
    if isinstance(domain, Some) and {o.chosen.get(keys[0]) for o in usable} >= set(domain.values):
        return ""  # alone it settles nothing
    values = [o.chosen[keys[0]] for o in usable if keys[0] in o.chosen]
    if isinstance(domain, Span):
        edge = _edge(leaf, asker, part, attribute, domain)
        return "" if edge is None else f"{shown(edge, words.scale)} {words.unit} or more seats."
    good_values = list(dict.fromkeys(values))
    if not good_values or len(good_values) > 4:
        return ""
    return (
        f"{words.label} {' or '.join(shown(v, words.scale) for v in good_values)} {words.unit}".strip() + " settles it."
    )


_CAPPED = ("limit_gb", "total_limit_gb", "drive_limit_gb", "speed_mts")


def _edge(leaf: Leaf, asker: Asker, part: Fittable, attribute: Attribute, domain: Span) -> int | None:
    """The least figure of a range that is usable whatever else is open, found by halving: more helps."""
    rule, (place, name) = leaf.rule, attribute
    if rule.helps.get(name) != 1:
        return None

    def usable(figure: int) -> bool:
        inquiry = Inquiry()
        inquiry.helps = rule.helps
        view = PlaceView(inquiry, asker.build.known, place, asker.slot)
        view._values = {**view._values, name: (True, figure)}
        reading = PartView(inquiry, part)
        build = BuildView(inquiry, asker.build, asker.slot, reading, asker.kit)
        outcomes = inquiry.all(lambda: tuple(rule.judge(view, reading, build)))
        return max((_rank(o.answer) for o in outcomes), default=REFUSED) <= USABLE

    low, high = domain.low, domain.high
    if not usable(high):
        return None
    while low < high:
        middle = (low + high) // 2
        if usable(middle):
            high = middle
        else:
            low = middle + 1
    return low


#: The few words of a verdict that rests on what the owner takes as usual.
AS_USUAL = "taken as usual"


def on_the_owners_word(found: Joint, plain: Joint) -> Joint:
    """Where the assumption makes a difference the verdict is not better than held back, unproven."""
    if found.verdict is plain.verdict or found.verdict.rank > USABLE:
        return found
    return Joint(Verdict.HELD_BACK, AS_USUAL, ())
