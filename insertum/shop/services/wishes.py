"""Wished parts: looked at anew whenever prices change, and shown on Jobs when one has come into its price."""

from collections.abc import Iterator

from ...core.errors import InputError
from ...core.plan.detail import wish_is_in
from .. import models
from .jobs import desk_of
from .parts import Progress


def look_at_wishes() -> int:
    """Plan every open job that wishes for something, and note which wishes came true. Returns how many jobs have one.

    Planning is done outside any transaction; only the note is written.
    """
    come = 0
    for number in models.Job.objects.filter(wishes=True, closed=False).values_list("number", flat=True):
        desk = desk_of(number)
        try:
            request = desk.request()
            names = [
                desk.by_number[w].name for w in desk.job.plan.wishes if w in desk.by_number and wish_is_in(request, w)
            ]
        except InputError:
            continue  # the machine is not identified, or not in the library any more
        models.Job.objects.filter(number=number).update(wish_come=", ".join(names)[:300])
        come += bool(names)
    return come


def then_look(steps: Iterator[Progress]) -> Iterator[Progress]:
    """An import step by step, and a look at the wishes once it is kept."""
    yield from steps
    look_at_wishes()
