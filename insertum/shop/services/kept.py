"""Keep what a table was read into until the table changes: machines and parts are read at every
click and changed now and then."""

import gc
from collections.abc import Callable, Sequence
from typing import Any, Generic, TypeVar

from django.db.models import Count, Max, Model

T = TypeVar("T")


class Kept(Generic[T]):
    """The outcome of ``load`` for as long as no row of the tables it rests on is added, changed or removed.

    Rows carry ``updated``; the count tells removals. Every process keeps its own and asks the
    database first, so that none answers with what another has changed since.
    """

    def __init__(self, tables: Sequence[type[Model]], load: Callable[[], T]) -> None:
        self.tables, self.load = tables, load
        self._stamp: tuple[Any, ...] = ()
        self._value: T | None = None

    def get(self) -> T:
        stamp = tuple(tuple(_stamp(table).values()) for table in self.tables)
        if self._value is None or stamp != self._stamp:
            self._value, self._stamp = self.load(), stamp
            # Thousands of values that stay: the collector need not walk through them at every turn.
            gc.collect()
            gc.freeze()
        return self._value


def _stamp(table: type[Model]) -> dict[str, Any]:
    return table._default_manager.aggregate(count=Count("pk"), last=Max("updated"), top=Max("pk"))
