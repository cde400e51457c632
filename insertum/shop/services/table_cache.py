"""Keep what a table was read into until the table changes: machines and parts are read at every
click and changed now and then."""

import gc
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Generic, TypeVar

from django.db.models import Model

from ..models import Revision

T = TypeVar("T")


class Kept(Generic[T]):
    """The outcome of ``load`` for as long as no row of the tables it rests on is added, changed or removed.

    Every change of them leaves another mark in the database. Every process keeps its own and asks there first, so that none
    answers with what another has changed since.
    """

    def __init__(self, tables: Sequence[type[Model]], load: Callable[[], T]) -> None:
        self.tables, self.load = tables, load
        self._stamp: tuple[str, ...] = ()
        self._value: T | None = None

    def get(self) -> T:
        stamp = stamps(self.tables)
        if self._value is None or stamp != self._stamp:
            self._value, self._stamp = self.load(), stamp
            # Thousands of values that stay: the collector need not walk through them at every turn (43 ms a full look
            # through a catalogue of 5,000 parts, nothing once they are frozen).
            gc.collect()
            gc.freeze()
        return self._value


#: The marks as one look found them, where one is under way.
_looked: ContextVar[dict[str, str] | None] = ContextVar("marks", default=None)


@contextmanager
def one_look() -> Iterator[None]:
    """What follows asks for the marks once, however many tables it rests on; nothing is written meanwhile. A mark is read
    before its table is: what is kept under it is never older than it says."""
    if _looked.get() is not None:
        yield
        return
    token = _looked.set(dict(Revision.objects.values_list("name", "mark")))
    try:
        yield
    finally:
        _looked.reset(token)


def mark(name: str) -> str:
    """The mark of that name; "" for none."""
    marks = _looked.get()
    if marks is None:
        marks = dict(Revision.objects.filter(name=name).values_list("name", "mark"))
    return marks.get(name, "")


def stamps(tables: Sequence[type[Model]]) -> tuple[str, ...]:
    """The mark of each table."""
    names = [str(t._meta.model_name) for t in tables]
    marks = _looked.get()
    if marks is None:
        marks = dict(Revision.objects.filter(name__in=names).values_list("name", "mark"))
    return tuple(marks.get(n, "") for n in names)
