"""The words the house speaks in: kinds of part, stations, schools of limits, sources, what is in the way.

Pages take them from here with who is signed in, so that a kind is added in its own module and nowhere else.
"""

from collections.abc import Mapping
from typing import get_args

from .frozen import Frozen
from .job.shape import Station
from .kinds.all import KINDS
from .machine.claim import Limits, Source
from .machine.opening import Mark, Obstacle


class KindWords(Frozen):
    """A kind of part: one of them, several, and the kinds of slot it goes into (none of an accessory)."""

    id: str
    one: str
    many: str
    slots: tuple[str, ...]


class Words(Frozen):
    """A value, and how it is said."""

    id: str
    says: str


class Vocabulary(Frozen):
    """Every list that a page offers and the core decides."""

    kinds: tuple[KindWords, ...]
    #: What triage may send somebody to look at beside the parts that go into slots.
    other_parts: tuple[Words, ...]
    stations: tuple[Words, ...]
    limits: tuple[Words, ...]
    #: Sources of a claim, as one writes them into a machine's file.
    sources: tuple[Words, ...]
    #: Sources of a step's order: who says that this comes off first.
    step_sources: tuple[Words, ...]
    marks: tuple[Words, ...]
    in_the_way: tuple[Words, ...]


#: How a school of limits is named where one is chosen.
LIMITS: Mapping[Limits, str] = {
    Limits.DOCUMENTED: "documented by the maker",
    Limits.CONTROLLER: "what the controller allows",
    Limits.PROVEN: "proven on a bench",
    Limits.OPEN: "open, at the owner’s written risk",
}

#: Sources somebody may write down, as one says them at the bench; the others follow by themselves.
SOURCES: Mapping[Source, str] = {
    Source.MEASURED: "measured here",
    Source.READ: "read here",
    Source.DOCUMENTED: "the maker says",
    Source.CONTROLLER: "the controller's data sheet says",
    Source.PROVEN: "proven on a bench",
    Source.REPORTED: "others report",
}


def _plain(value: str) -> str:
    return value.replace("_", " ")


def vocabulary() -> Vocabulary:
    """All of it; the same as long as the program runs."""
    marks = get_args(Mark.model_fields["kind"].annotation)
    obstacles = get_args(Obstacle.model_fields["what"].annotation)
    return Vocabulary(
        kinds=tuple(KindWords(id=k.id, one=k.word, many=k.plural, slots=k.slots) for k in KINDS.values()),
        other_parts=(Words(id="kit", says="small parts"), Words(id="speaker", says="speaker")),
        stations=tuple(Words(id=s, says=_plain(s).capitalize()) for s in Station),
        limits=tuple(Words(id=limit, says=says) for limit, says in LIMITS.items()),
        sources=tuple(Words(id=source, says=says) for source, says in SOURCES.items()),
        step_sources=tuple(Words(id=s, says=s) for s in ("documented", "observed here", "reported")),
        marks=tuple(Words(id=m, says=_plain(m)) for m in marks),
        in_the_way=tuple(Words(id=o, says=o) for o in obstacles),
    )
