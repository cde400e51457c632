"""Answers kept until something they follow from changes: identical questions are not worked out twice."""

import json
from collections import OrderedDict
from collections.abc import Callable, Hashable
from hashlib import sha256
from threading import Lock
from typing import Any, TypeVar

from ...core.job.desk import Desk
from ...core.job.shape import Job
from ...formats.json_errors import shaped
from .cache_key import TABLES, revision
from .jobs import desk_for, row_of
from .table_cache import one_look, stamps

T = TypeVar("T")
#: Answers kept in memory, the last asked for.
_KEPT = 512


class _Answers:
    """The last answers, by everything they follow from."""

    def __init__(self) -> None:
        self._by_key: OrderedDict[Any, Any] = OrderedDict()
        self._lock = Lock()

    def known(self, key: Any) -> Any:
        """What is kept under a key, None for nothing."""
        with self._lock:
            if key in self._by_key:
                self._by_key.move_to_end(key)
            return self._by_key.get(key)

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


class _Read:
    """A job that notes which of its sections were looked at; whatever is no section of it looks at all of them."""

    def __init__(self, job: Job) -> None:
        self.job, self.sections = job, set[str]()

    def __getattr__(self, name: str) -> Any:
        self.sections |= {name} if name in Job.model_fields else set(Job.model_fields)
        return getattr(self.job, name)


#: Which sections of a job an answer was made from the last time, by what it answers.
_sections: dict[Hashable, frozenset[str]] = {}


@one_look()
def answered_from(what: Hashable, number: int, make: Callable[[Desk], T]) -> T:
    """An answer about a job that stands while what it was made from does: the sections of the job that were in fact looked
    at, and the tables. A note typed at the bench makes no matrix anew. Which sections an answer looks at follows from those
    it has looked at, so that the same ones the next time mean the same answer."""
    row = row_of(number)
    tables = stamps(TABLES)

    def key(sections: frozenset[str]) -> Any:
        told = json.dumps({s: row.spec.get(s) for s in sections}, sort_keys=True)
        return what, number, tables, sha256(told.encode()).digest()  # a reading is long, and hundreds are kept

    def made() -> T:
        desk = desk_for(job)
        desk.job = read  # type: ignore[assignment]
        return make(desk)

    known = _sections.get((what, number))
    if known is not None and (found := answers.known(key(known))) is not None:
        return found  # type: ignore[no-any-return]
    job = shaped(Job, row.spec, f"job {number}, as it is stored")
    read = _Read(job)
    answer = made()
    sections = frozenset(read.sections | {"identify"})  # which machine it is laid out with
    _sections[what, number] = sections
    answers.get(key(sections), lambda: answer)
    return answer


def answered(what: Hashable, number: int, make: Callable[[], T]) -> T:
    """An answer about a job as it stands. Raises what ``make`` raises, and keeps nothing then."""
    found: T = answers.get((what, number, revision(number)), make)
    return found
