"""Answers kept until something they follow from changes: identical questions are not worked out twice."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Any, TypeVar

from .revision import revision

T = TypeVar("T")
#: Answers kept in memory, the last asked for.
_KEPT = 512


class _Answers:
    """The last answers, by everything they follow from."""

    def __init__(self) -> None:
        self._by_key: OrderedDict[Any, Any] = OrderedDict()
        self._lock = Lock()

    def get(self, key: Any, make: Callable[[], T]) -> T:
        with self._lock:
            if key in self._by_key:
                self._by_key.move_to_end(key)
                found: T = self._by_key[key]
                return found
        made = make()
        with self._lock:
            self._by_key[key] = made
            while len(self._by_key) > _KEPT:
                self._by_key.popitem(last=False)
        return made


answers = _Answers()


def answered(what: Hashable, number: int, make: Callable[[], T]) -> T:
    """An answer about a job as it stands. Raises what ``make`` raises, and keeps nothing then."""
    found: T = answers.get((what, number, revision(number)), make)
    return found
