"""*Why*, in two lists: the premises that carry a verdict, and the claims that were made and did not count (rules.md
section 2).

A premise is one claim, what one part in its slot shows, what was delivered there, the firmware that was read, or one
outcome. They are found by taking them away: what the verdict is the same without carries nothing. So the first list
alone gives the verdict, and no part of it does; the second changes nothing.
"""

from collections.abc import Callable, Collection, Iterable, Iterator
from dataclasses import replace
from itertools import combinations
from typing import Any, NamedTuple

from ..frozen import Frozen
from ..known.claim_domain import anything_of, as_domain
from ..known.domain import meet
from ..known.known import Explained
from ..known.limits import CAPS
from ..known.school import counts
from ..known.why_text import claim_sentence
from ..machine.attribute import attributes_of, lowered
from ..machine.claim import Claim, Fact, Limits, Source
from ..machine.part import Accessory, Fittable
from ..machine.shape import Configured
from .build import Build
from .judge import Judgement, because, judged, verdict_of
from .questions import place_of

#: So many premises at most are tried in twos as well: two that only together carry nothing.
_PAIRS = 14
#: What is kept where either of two would do: what is on this very machine, then what is said of it outright; what only
#: follows from what runs or was delivered goes before.
_WEAKEST_FIRST = (Source.REPORTED, Source.ASSUMED, Source.CONTROLLER, Source.PROVEN, Source.DOCUMENTED, Source.RUNS, Source.READ, Source.MEASURED)  # fmt: skip


class Premise(NamedTuple):
    """``what`` is claim, seen (a part in its slot today), delivered, firmware or outcome; ``place`` and ``name`` its
    attribute, ``which`` of several."""

    what: str
    place: str = ""
    name: str = ""
    which: int = 0


class Aside(Frozen):
    """A claim that changes nothing of the verdict; ``why`` where it does not count at all, "" where the verdict is merely the
    same without it."""

    place: str
    label: str
    says: str
    why: str


def _facts(shape: Any) -> Iterator[tuple[str, Fact[Any]]]:
    """The claims of a slot, the memory system or the boot facts, by attribute."""
    for name in attributes_of(type(shape)):
        if isinstance(fact := getattr(shape, name), Fact):
            yield name, fact
    for modules, fact in getattr(shape, "speed_by_modules", {}).items():
        yield f"speed_by_modules.{modules}", fact


def _shapes(machine: Configured) -> dict[str, Any]:
    # What is said of the whole machine goes before what is said of the slot itself.
    return {"memory": machine.memory, "boot": machine.boot, **{s.id: s for s in machine.slots}}


def every_premise(build: Build) -> list[Premise]:
    """All that is said or seen of the machine, the weakest first."""
    machine, contents = build.machine, build.known.contents
    claims = [
        (claim.source, Premise("claim", place, name, i))
        for place, shape in _shapes(machine).items()
        for name, fact in _facts(shape)
        for i, claim in enumerate(fact.claims)
    ]
    found = [Premise("delivered", s.id) for s in machine.slots if s.fitted is not None and s.looked]
    found += [Premise("seen", s) for s in contents.fitted if contents.grades.get(s) or s in contents.signs]
    found += [Premise("outcome", which=i) for i in range(len(build.sightings))]
    found += [p for _, p in sorted(claims, key=lambda c: _WEAKEST_FIRST.index(c[0]))]
    found += [Premise("firmware")] if build.firmware else []
    return found


def resting_on(build: Build, premises: Iterable[Premise]) -> Build:
    """The same build where nothing is said or seen of the machine but the premises. What stands in the other slots is the
    context of every verdict, and stays."""
    kept = set(premises)

    def thinned(place: str, shape: Any) -> Any:
        facts = {
            name: type(fact)(tuple(c for i, c in enumerate(fact.claims) if Premise("claim", place, name, i) in kept))
            for name, fact in _facts(shape)
        }
        by_modules = {int(n.partition(".")[2]): f for n, f in facts.items() if n.startswith("speed_by_modules.")}
        changed: dict[str, Any] = {n: f for n, f in facts.items() if "." not in n}
        if hasattr(shape, "speed_by_modules"):
            changed["speed_by_modules"] = by_modules
        if hasattr(shape, "fitted") and shape.fitted is not None and Premise("delivered", place) not in kept:
            changed["fitted"], changed["looked"] = None, False
        return shape.model_copy(update=changed)

    machine, known = build.machine, build.known
    thin = machine.model_copy(
        update={
            "slots": tuple(thinned(s.id, s) for s in machine.slots),
            "memory": thinned("memory", machine.memory),
            "boot": thinned("boot", machine.boot),
        }
    )
    seen = {s for s in known.contents.fitted if Premise("seen", s) in kept}
    contents = replace(
        known.contents,
        grades={s: g if s in seen else frozenset() for s, g in known.contents.grades.items()},
        signs={s: g for s, g in known.contents.signs.items() if s in seen},
    )
    return replace(
        build,
        known=replace(
            known, machine=thin, contents=contents, firmware=build.firmware if Premise("firmware") in kept else ""
        ),
        sightings=tuple(s for i, s in enumerate(build.sightings) if Premise("outcome", which=i) in kept),
        memo={},
    )


def carrying(build: Build, near: Collection[str], same: Callable[[Build], bool]) -> list[Premise]:
    """The premises that carry a verdict, found by taking away: first all of the places that are not ``near``, then
    what only shows by what is there, then attribute by attribute, then one by one, until none can go, and none can go with another. ``same`` tells whether a
    build has the verdict still."""
    kept = every_premise(build)

    def without(gone: set[Premise]) -> bool:
        nonlocal kept
        left = [p for p in kept if p not in gone]
        if len(left) == len(kept) or not same(resting_on(build, left)):
            return False
        kept = left
        return True

    places = list(dict.fromkeys(p.place for p in kept))
    if not without({p for p in kept if p.place not in near}):
        for place in places:
            without({p for p in kept if p.place == place and place not in near})
    for premise in [p for p in kept if p.what != "claim"]:
        without({premise})
    for place, name in dict.fromkeys((p.place, p.name) for p in kept if p.what == "claim"):
        without({p for p in kept if (p.what, p.place, p.name) == ("claim", place, name)})
    while any(without({p}) for p in list(kept)) or (
        len(kept) <= _PAIRS and any(without(set(two)) for two in combinations(kept, 2))
    ):
        pass
    return kept


def set_aside(build: Build, places: Iterable[str], kept: Iterable[Premise]) -> tuple[Aside, ...]:
    """Claims about the places that carry nothing, and why each does not."""
    carry, shapes, known = set(kept), _shapes(build.machine), build.known
    found = []
    for at in dict.fromkeys(places):
        place, _, name = at.partition(".")
        if place not in shapes:
            continue
        fact = dict(_facts(shapes[place])).get(name)
        for i, claim in enumerate(fact.claims if fact else ()):
            if Premise("claim", place, name, i) in carry:
                continue
            words = known.words(place, name)
            label = f"{known.place_name(place)}: {lowered(words.label)}"
            found.append(
                Aside(place=at, label=label, says=claim_sentence(claim, words), why=_why_not(build, at, claim))
            )
    return tuple(found)


def _why_not(build: Build, at: str, claim: Claim[Any]) -> str:
    known = build.known
    place, _, name = at.partition(".")
    limit = name in CAPS or name.startswith("speed_by_modules") or name == "density_gbit"
    if claim.failures and not claim.count:
        return "it only ever failed"
    if claim.configuration not in ("", build.machine.configuration.id):
        return "of another configuration"
    if not counts(claim, build.machine.configuration.id, known.firmware):
        return f"of firmware {claim.firmware}; this one's is {known.firmware or 'not read'}"
    if claim.source is Source.REPORTED:
        if not limit:
            return "a report alone settles nothing"
        if known.school is not Limits.OPEN:
            return "a report counts under the school *open* only"
    if claim.source is Source.CONTROLLER and limit and known.school not in (Limits.CONTROLLER, Limits.OPEN):
        return f"the controller's figure is not what counts under the school *{known.school}*"
    if not limit:
        shape = _shapes(build.machine)[place]
        words = known.words(place, name)
        everything = anything_of(shape, name, words)
        if meet(known.domain(place, name), as_domain(claim, everything, words)) is None:
            return "what ranks higher says otherwise"
    return ""


def why(
    build: Build, found: Judgement, part: Fittable, shelf: Iterable[Accessory] = ()
) -> tuple[tuple[Explained, ...], tuple[Aside, ...]]:
    """What a judgement rests on, as the premises alone tell it, with what it asks for; and what was said besides. ``shelf``
    is where the judgement's accessories were taken from."""
    if found.verdict is None:
        return (), ()
    at_hand = (*shelf, *build.accessories.get(found.slot, ()))
    kit = tuple(next(a for a in at_hand if a.number == number) for number in found.accessories)
    wanted = (found.verdict, found.short, found.asks)
    slot = build.machine.slot(found.slot)

    def same(other: Build) -> bool:
        joint = verdict_of(other, other.machine.slot(slot.id), part, kit)
        return (joint.verdict, joint.short, tuple(place_of(a) for a in joint.asks)) == wanted

    near = {place.partition(".")[0] for place in found.rests_on} | {slot.id}
    kept = carrying(build, near, same)
    alone, nothing = resting_on(build, kept), resting_on(build, ())
    judgement = judged(alone, slot.id, part, kit)
    # What is so of every machine, said or not, is no premise.
    always = {e.place: e.value for e in because(nothing, judgement)}
    known = {e.place: e for e in because(alone, judgement) if e.value not in ("unknown", always[e.place])}
    whole = {e.place: e for e in because(build, found)}
    shown = {**known, **{a: whole[a] for a in found.asks if a in whole}}
    order = dict.fromkeys((*whole, *known))
    return tuple(shown[at] for at in order if at in shown), set_aside(build, whole, kept)
