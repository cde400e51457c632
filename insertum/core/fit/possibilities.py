"""A function of a build's values, over everything that could be."""

from collections.abc import Callable, Sequence
from typing import TypeVar

from .build import Build
from .enumeration import MOST, Inquiry, Outcome, TooMany
from .views import BuildView

S = TypeVar("S")
T = TypeVar("T")

#: Which end of a range makes more of what is measured: both ends are then all there is to know.
_MEASURED = {"part.read_mb_s": 1, "part.spreader_um": 1}
#: The same where two builds are compared. What a module nobody has seen is rated moves what is gained one way up to
#: the rate of the others, and the other way beyond: the least is at an end.
_COMPARED = {**_MEASURED, "held.grade_mts": 1}


def possible(build: Build, function: Callable[[BuildView], T], ends: Sequence[str] = ()) -> list[T]:
    """Every answer a function of a build's values could have, the same one once. Of the attributes named in ``ends`` only
    the least and the most are looked at: where more of them makes more of the answer, its ends are all among those.
    Raises :class:`TooMany`."""
    inquiry = Inquiry()
    inquiry.helps = _MEASURED | dict.fromkeys(ends, 1)
    view = BuildView(inquiry, build, None, None)
    found: list[T] = []
    for outcome in inquiry.all(lambda: function(view)):
        if outcome.answer not in found:
            found.append(outcome.answer)
    return found


def possibilities(builds: Sequence[Build], function: Callable[..., T]) -> list[Outcome[T]]:
    """A function of several builds of one machine over everything that could be: what is unknown is the same in all of
    them at once. Raises :class:`TooMany`."""
    inquiry = Inquiry()
    inquiry.helps = _COMPARED
    views = [BuildView(inquiry, b, None, None) for b in builds]
    return inquiry.all(lambda: function(*views))


def joined(first: Sequence[Outcome[S]], second: Sequence[Outcome[T]]) -> list[Outcome[tuple[S, T]]]:
    """What two functions answer together, from what each answers alone: what is unknown is the same in both. Gone through
    together they would answer just this, in this order, for no choice of one hangs on what the other reads. Raises
    :class:`TooMany`."""
    other = {k for o in second for k in o.chosen}
    shared = [k for k in dict.fromkeys(k for o in first for k in o.chosen) if k in other]
    found: list[Outcome[tuple[S, T]]] = []
    for a in first:
        fixed = [(k, a.chosen[k]) for k in shared if k in a.chosen]
        for b in second:
            if all(b.chosen.get(k, v) == v for k, v in fixed):
                found.append(Outcome((a.answer, b.answer), {**a.chosen, **b.chosen}))
                if len(found) > MOST:
                    raise TooMany
    return found


def certain(build: Build, function: Callable[[BuildView], T]) -> T | None:
    """The answer where there is only one; None while it could be several, or too many to go through."""
    try:
        found = possible(build, function)
    except TooMany:
        return None
    return found[0] if len(found) == 1 else None
