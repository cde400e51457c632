"""Ratios: planning and fitting the demo, against brute force and against a small catalogue."""

import time
from itertools import product
from pathlib import Path

from insertum.core.fit.judge import matrix
from insertum.core.machine.part import Accessory
from insertum.core.machine.shape import Machine
from insertum.core.plan.need import Need
from insertum.core.plan.planner import Planner, plan
from insertum.core.plan.request import PlanRequest, Terms, Use
from insertum.formats.parts import read_csv

DATA = Path(__file__).resolve().parents[1] / "insertum/demo/data"
NEEDS = (
    Need(kind="memory_capacity", floor=8, comfort=16, ceiling=32, weight=3),
    Need(kind="drive_space", floor=40, comfort=150, ceiling=400, weight=2),
    Need(kind="drive_speed", floor=400, comfort=1500, ceiling=3500, weight=1),
)


def timed(work) -> float:
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def main() -> None:
    parts = tuple(read_csv((DATA / "parts.csv").read_text()))
    for name, configuration in (("veyra-strand-15", "mk2-rill-430"), ("veyra-drover-14", "rill-320")):
        machine = Machine.model_validate_json((DATA / f"machines/{name}.json").read_text())
        request = PlanRequest(machine=machine, configuration=configuration, parts=parts, needs=NEEDS,
                              use=Use(used_gb=150), terms=Terms(budget_minor=20000))  # fmt: skip
        planner = Planner(request)
        whole = min(timed(lambda request=request: plan(request)) for _ in range(3))
        builds = 1
        for slot in planner.build.machine.slots:
            builds *= 1 + sum(c.part is not None for c in _all(planner, slot))
        shelf = [p for p in parts if isinstance(p, Accessory)]
        fitting = [p for p in parts if not isinstance(p, Accessory)]
        table = min(timed(lambda p=planner, f=fitting, s=shelf: matrix(p.build, f, s)) for _ in range(3))
        pairs = len(list(product(fitting, planner.build.machine.slots)))
        print(f"{name}: plan {whole * 1000:.0f} ms, against {builds} builds one by one; matrix of {pairs} pairs {table * 1000:.0f} ms, "
              f"plan is {whole / table:.1f} matrices")  # fmt: skip


def _all(planner: Planner, slot):
    from insertum.core.plan.options import candidates

    return candidates(planner.build, planner.shop, slot, [slot], judge_all=True)


if __name__ == "__main__":
    main()
