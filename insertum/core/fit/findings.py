"""Findings: what the rules say, in words, written when a cell is opened."""

from collections.abc import Iterable

from ..known.domain import Some, Span
from ..known.limits import ANOTHER
from ..machine.attribute import listed, lowered, shown
from ..machine.part import Fittable
from ..verdict import Finding, Said, Verdict
from .engine import Asker
from .enumeration import Inquiry
from .leaf import REFUSED, USABLE, VERDICTS, Attribute, Leaf, attribute_of, rank_of
from .part_view import PartView
from .place_view import PlaceView
from .questions import NO_PLACE, asked, place_of, slot_of_part, words_of
from .rulebook import Rule
from .views import BuildView


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
    level = Verdict(VERDICTS[leaf.best if leaf.best > USABLE else leaf.worst])
    if any(f.verdict is level for f in found) or (level is Verdict.SEATS):
        return found
    open_ = asked(_varying(leaf), known, part)
    names = listed(dict.fromkeys(lowered(words_of(known, part, a)[0]) for a in open_))
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
        held = _finding(rule, worst._replace(says=says, short=short, evidence=()))
        if open_:  # where it is answered
            label, how, _ = words_of(known, part, open_[0])
            held = held.model_copy(update={"attribute": place_of(open_[0]), "label": label, "how": how})
        found.append(held)
        return found
    # Nothing that could be is usable: what it says at best, and where harm could follow.
    best = min((a for a in said), key=rank_of)
    for s in best:
        if s.verdict.rank > USABLE and s not in common:
            found.append(_finding(rule, s._replace(says=f"{s.says} So it is whatever {names} turns out to be.")))
    hurts = [s for answer in said for s in answer if s.verdict is Verdict.HARM]
    if hurts and level is not Verdict.HARM and found:
        found[0] = found[0].model_copy(update={"caution": found[0].caution or hurts[0].caution or str(hurts[0].says)})
    return found


def answer_figures(said: Iterable[Said]) -> list[float]:
    """The figures among what was said."""
    return [s.figure for s in said if s.figure is not None]


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
    worst = max((o for o in leaf.outcomes), key=lambda o: rank_of(o.answer))
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
    usable = [o for o in leaf.outcomes if rank_of(o.answer) <= USABLE]
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
    if place == "part" or slot_of_part(place) or name in _CAPPED or name.startswith(("speed_by_modules", "soldered.")):
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
        return max((rank_of(o.answer) for o in outcomes), default=REFUSED) <= USABLE

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
