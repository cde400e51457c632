"""The planner on a large catalogue: 2 memory, 3 M.2, 1 bay, 1 radio, 1 cellular and 1 battery slot.

Prints seconds for the frontier and the four stances at 300 to 5,000 parts, how they grow, and, with ``--milp``, the same
frontier's best point by an integer program (HiGHS), in points and seconds, side by side.
"""

import argparse
import sys
import time
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(HERE), str(HERE / "benchmarks")]

from matrix import many_parts  # noqa: E402

from insertum.core.machine.part import Accessory  # noqa: E402
from insertum.core.machine.shape import Machine  # noqa: E402
from insertum.core.plan.need import Need  # noqa: E402
from insertum.core.plan.planner import Planner  # noqa: E402
from insertum.core.plan.request import PlanRequest, Terms, Use  # noqa: E402
from insertum.formats.parts import read_csv  # noqa: E402
from insertum.site.collector import calm  # noqa: E402

DATA = HERE / "insertum/demo/data"
NEEDS = (
    Need(kind="memory_capacity", floor=8, comfort=16, ceiling=32, weight=3),
    Need(kind="memory_throughput", floor=12000, comfort=24000, ceiling=45000, weight=0.5),
    Need(kind="drive_space", floor=150, comfort=1000, ceiling=4000, weight=2),
    Need(kind="drive_speed", floor=400, comfort=1500, ceiling=3500, weight=1),
    Need(kind="radio_throughput", floor=40, comfort=150, ceiling=500, weight=1),
    Need(kind="runtime", floor=3, comfort=5, ceiling=8, weight=1),
)


def nine_slots() -> Machine:
    """The easy demo machine with two more M.2 slots and a cellular one."""

    def read(name: str) -> dict:
        return Machine.model_validate_json((DATA / "machines" / f"{name}.json").read_text()).model_dump(mode="json")

    data = read("veyra-drover-14")
    kinds = [s["kind"] for s in data["slots"]]
    drive = next(s for s in data["slots"] if s["kind"] == "m2_drive")
    reached = drive["reached_by"]
    for n in range(2, 5 - kinds.count("m2_drive")):
        data["slots"].append({**drive, "id": f"more-{n}", "name": f"More {n}", "fitted": None, "looked": True})
    cellular = next(s for s in read("halden-tern-13")["slots"] if s["kind"] == "cellular")
    data["slots"].append({**cellular, "id": "cell", "reached_by": reached, "fitted": None})
    return Machine.model_validate(data)


def request(count: int) -> PlanRequest:
    shelf = [p for p in read_csv((DATA / "parts.csv").read_text()) if isinstance(p, Accessory)]
    machine = nine_slots()
    return PlanRequest(
        machine=machine, configuration=machine.configurations[0].id, parts=(*many_parts(DATA.parent / "data", count), *shelf),
        needs=NEEDS, use=Use(used_gb=150, average_mw=9000), terms=Terms(budget_minor=40000),
    )  # fmt: skip


def frontier_and_stances(r: PlanRequest) -> tuple[float, Planner]:
    began = time.process_time()
    planner = Planner(r)
    planner.best_value(planner.front())
    planner.just_enough()
    planner.just_enough(grown=True)
    planner.fill(r.terms.budget_minor)
    return time.process_time() - began, planner


def main() -> None:
    calm()  # as the server has it
    ask = argparse.ArgumentParser()
    ask.add_argument("--milp", type=int, default=0, help="compare with an integer program at so many parts")
    found = ask.parse_args()
    times = {}
    for count in (300, 1000, 5000):
        r = request(count)
        times[count] = min(frontier_and_stances(r)[0] for _ in range(5))
        print(f"{count} parts: {times[count] * 1000:.0f} ms", len(r.machine.slots), "slots")
    print(f"growth 300 to 5,000: {times[5000] / times[300] / (5000 / 300):.2f} of linear")
    if found.milp:
        sys.path.insert(0, str(HERE))
        from tests.core.plan_milp import best_by_milp

        r = request(found.milp)
        seconds, planner = frontier_and_stances(r)
        front = planner.affordable(planner.front())
        began = time.process_time()
        best = best_by_milp(planner, r.terms.budget_minor)
        took = time.process_time() - began
        print(f"{found.milp} parts: the planner's best {planner.points(front[-1].worth):.6f} points in {seconds:.2f} s, "
              f"the integer program's {best:.6f} in {took:.2f} s ({took / seconds:.0f}×)")  # fmt: skip


if __name__ == "__main__":
    main()
