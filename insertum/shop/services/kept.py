"""Keep what a table was read into until the table changes: machines and parts are read at every
click and changed now and then."""

import gc
from collections.abc import Callable
from typing import Any, Generic, TypeVar

from django.db.models import Count, Max, Model

T = TypeVar("T")


class Kept(Generic[T]):
    """The outcome of ``load`` for as long as no row is added, changed or removed.

    Rows carry ``updated``; the count tells removals. Every process keeps its own and asks the
    database first, so that none answers with what another has changed since.
    """

    def __init__(self, model: type[Model], load: Callable[[], T]) -> None:
        self.model, self.load = model, load
        self._stamp: tuple[Any, ...] = ()
        self._value: T | None = None

    def get(self) -> T:
        found = self.model._default_manager.aggregate(count=Count("pk"), last=Max("updated"), top=Max("pk"))
        stamp = (found["count"], found["last"], found["top"])
        if self._value is None or stamp != self._stamp:
            self._value, self._stamp = self.load(), stamp
            # Thousands of values that stay: the collector need not walk through them at every turn.
            gc.collect()
            gc.freeze()
        return self._value
