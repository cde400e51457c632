"""The whole matrix, 5,000 parts by 12 slots, no two parts of one number: seconds, and how many times faster than
asking every rule about every pair."""

import random
import time
from pathlib import Path

from insertum.core.fit.judge import judge_equipped, kind_fits, matrix
from insertum.core.machine import Machine
from insertum.core.part import Accessory, Fittable
from insertum.core.survey.bench import build_today
from insertum.formats.parts import read_csv

DEMO = Path(__file__).resolve().parents[1] / "insertum" / "demo" / "data"
SEED, COUNT = 20261125, 5000


def many_parts(count: int = COUNT) -> list[Fittable]:
    """Demo parts varied in number, name, size and rating (in steps of 50 MB/s, as data sheets give them)."""
    chance = random.Random(SEED)
    plain = [p for p in read_csv((DEMO / "parts.csv").read_text()) if not isinstance(p, Accessory)]
    made: list[Fittable] = []
    while len(made) < count:
        part = chance.choice(plain)
        changes: dict[str, object] = {
            "number": f"{part.number}-{len(made):05d}",
            "name": f"{part.name} no. {len(made)}",
        }
        if hasattr(part, "read_mb_s") and part.read_mb_s:
            changes["read_mb_s"] = part.read_mb_s + chance.randrange(-6, 7) * 50
        if hasattr(part, "above_um") and part.above_um:
            changes["above_um"] = chance.choice((1200, 1350, 1500))
        if hasattr(part, "capacity_gb") and part.kind != "memory":
            changes["capacity_gb"] = chance.choice((240, 256, 480, 500, 512, 960, 1000, 1024, 2000, 2048, 4000))
        made.append(part.model_copy(update=changes))
    return made


def twelve_slots() -> Machine:
    """The demo's largest machine with a bay, a cellular slot and another drive slot."""
    data = Machine.model_validate_json((DEMO / "machines" / "brannock-fell-17.json").read_text()).model_dump(
        mode="json"
    )
    for name, slot in (
        ("brannock-harrow-16", "bay"),
        ("halden-tern-13", "cellular"),
        ("brannock-harrow-16", "drive-2"),
    ):
        other = Machine.model_validate_json((DEMO / "machines" / f"{name}.json").read_text()).model_dump(mode="json")
        found = next(s for s in other["slots"] if s["id"] == slot)
        data["slots"].append({**found, "id": f"more-{slot}", "reached_by": ["cover"]})
    return Machine.model_validate(data)


def main() -> None:
    parts = many_parts()
    shelf = [p for p in read_csv((DEMO / "parts.csv").read_text()) if isinstance(p, Accessory)]
    build = build_today(twelve_slots().configured("beck-540"))
    best = min(_timed(lambda: matrix(build, parts, shelf)) for _ in range(3))
    few = parts[:200]
    slow = _timed(
        lambda: [judge_equipped(build, s.id, p, shelf) for p in few for s in build.machine.slots if kind_fits(s, p)]
    )
    fast = _timed(lambda: matrix(build, few, shelf))
    print(f"matrix: {len(parts)} parts x {len(build.machine.slots)} slots in {best:.2f} s (asked: 0.5)")
    print(f"matrix: {slow / fast:.1f} times faster than asking every rule, on {len(few)} parts")


def _timed(work) -> float:  # type: ignore[no-untyped-def]
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


if __name__ == "__main__":
    main()
