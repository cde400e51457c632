"""Planners kept for a while: where only a weight has moved, what can be done is not worked out again."""

from collections import deque
from threading import Lock

from ...core.plan.planner import Planner
from ...core.plan.request import PlanRequest

#: So many planners are kept in memory, the last asked for.
_KEPT = 8


class _Planners:
    def __init__(self) -> None:
        self._last: deque[Planner] = deque(maxlen=_KEPT)
        self._lock = Lock()

    def of(self, request: PlanRequest) -> Planner:
        """A planner of this request. What kept planners share is only ever added to, so they may work side by side."""
        with self._lock:
            kept = list(self._last)
        for planner in reversed(kept):
            found = planner.weighing(request)
            if found is not None:
                return found
        made = Planner(request)
        with self._lock:
            self._last.append(made)
        return made


planners = _Planners()
