"""Keep what a table was read into until the table changes: machines and parts are read at every
click and changed now and then."""

import gc
from collections.abc import Callable, Sequence
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
            # Thousands of values that stay: the collector need not walk through them at every turn.
            gc.collect()
            gc.freeze()
        return self._value


def stamps(tables: Sequence[type[Model]]) -> tuple[str, ...]:
    """The mark of each table."""
    names = [t._meta.model_name for t in tables]
    marks = dict(Revision.objects.filter(name__in=names).values_list("name", "mark"))
    return tuple(marks.get(n, "") for n in names)
