"""Tasks beside a chosen plan: what each would add to it, and the plan with them, at the prices it was chosen at."""

from collections.abc import Sequence

from ..errors import InputError
from .difference import as_today
from .planner import Planner
from .report import priced
from .request import PlanRequest, TaskOffer
from .result import PlanPoint


class Besides:
    """A chosen plan that tasks are added to or taken from. ``request`` is its snapshot's: the parts of the plan
    alone; ``grown`` tells that it was chosen on the needs as they grow."""

    def __init__(self, request: PlanRequest, plan: PlanPoint, grown: bool = False) -> None:
        self.plan, self.grown = plan, grown
        self.planner = Planner(request)
        self.changes, gone = as_today(self.planner, plan)
        if gone:
            raise InputError(gone[0], "plan", "Choose a plan anew.")

    def having(self, tasks: Sequence[TaskOffer]) -> PlanPoint:
        """The plan with just these tasks. The cover is opened once: what is open for a part is open for a task."""
        return priced(self.planner.stage, self.changes, self.plan.boot_slot, tuple(tasks), self.grown)

    def adds(self, task: TaskOffer) -> tuple[int, int]:
        """What a task adds to the plan, or has added: minor units of money, and seconds."""
        others = [t for t in self.plan.tasks if t.id != task.id]
        without, with_it = self.having(others), self.having([*others, task])
        return with_it.cost_minor - without.cost_minor, with_it.bench_seconds - without.bench_seconds
