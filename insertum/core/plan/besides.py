"""Tasks beside a chosen plan: what each would add to it, and the plan with them, at the prices it was chosen at."""

from collections.abc import Sequence

from ..base import InputError
from .answer import candidate_of
from .planner import Planner
from .report import priced
from .request import PlanRequest, TaskOffer
from .result import PlanPoint
from .stage import Change as Changed


class Besides:
    """A chosen plan that tasks are added to or taken from. ``request`` is its snapshot's: the parts of the plan
    alone; ``grown`` tells that it was chosen on the needs as they grow."""

    def __init__(self, request: PlanRequest, plan: PlanPoint, grown: bool = False) -> None:
        self.plan, self.grown = plan, grown
        self.planner = Planner(request)
        self.changes: list[Changed] = []
        for c in plan.changes:
            part = self.planner.market.by_number.get(c.part)
            found = candidate_of(self.planner, c.slot, part, c.shelf) if part is not None else None
            if c.part and found is None:
                raise InputError(f"{c.part_name} can no longer be had for this plan", "plan", "Choose a plan anew.")
            self.changes.append((c.slot, found))

    def having(self, tasks: Sequence[TaskOffer]) -> PlanPoint:
        """The plan with just these tasks. The cover is opened once: what is open for a part is open for a task."""
        return priced(self.planner.stage, self.changes, self.plan.boot_slot, tuple(tasks), self.grown)

    def adds(self, task: TaskOffer) -> tuple[int, int]:
        """What a task adds to the plan, or has added: minor units of money, and seconds."""
        others = [t for t in self.plan.tasks if t.id != task.id]
        without, with_it = self.having(others), self.having([*others, task])
        return with_it.cost_minor - without.cost_minor, with_it.bench_seconds - without.bench_seconds
