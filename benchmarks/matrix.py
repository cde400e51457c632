"""The whole matrix, 5,000 parts by 12 slots, no two parts of one number.

Alone it prints seconds of processor time on the complete catalogue and on one with 40 % of the parts' attributes
hidden. ``--against TREE`` runs another checkout of this project in turn, in processes of their own, and prints the
ratios: a machine that is busy slows both.
"""

import argparse
import os
import random
import statistics
import subprocess
import sys
import time
from pathlib import Path

HERE = Path(__file__).resolve().parents[1]
SEED, COUNT, RUNS = 20261125, 5000, 7
#: What is hidden: attributes that a supplier's list may leave out, by every tree's name for them.
HIDDEN = (
    "ranks", "chip_width", "module_type", "voltage_mv", "spreader_um", "width_mm", "length_mm", "above_um", "below_um", "keys",
    "fru", "read_mb_s", "interface", "generation", "lanes", "needs_cooling", "height_um", "edge_connector", "bus", "streams",
    "bands", "bluetooth", "plug", "antennas", "connector", "safety_mark", "tied_to",
)  # fmt: skip


def _core():  # type: ignore[no-untyped-def]
    """The names the work needs, where this tree keeps them."""
    from insertum.core.fit.judge import matrix
    from insertum.core.survey.current_build import build_today
    from insertum.formats.parts import read_csv

    try:
        from insertum.core.machine.part import Accessory
        from insertum.core.machine.shape import Machine
    except ImportError:  # before the shapes had a package of their own
        from insertum.core.part import Accessory

        from insertum.core.machine import Machine
    return matrix, build_today, read_csv, Accessory, Machine


def many_parts(demo: Path, count: int = COUNT, hidden: float = 0.0):  # type: ignore[no-untyped-def]
    """Demo parts varied in number, name, size and rating (in steps of 50 MB/s, as data sheets give them)."""
    _, _, read_csv, Accessory, _ = _core()
    chance = random.Random(SEED)
    plain = [p for p in read_csv((demo / "parts.csv").read_text()) if not isinstance(p, Accessory)]
    plain.sort(key=lambda p: p.number)
    made = []
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
        for name in HIDDEN:
            if name in type(part).model_fields and (part.kind, name) != ("memory", "generation"):
                changes |= {name: None} if chance.random() < hidden else {}
        made.append(part.model_copy(update=changes))
    return made


def twelve_slots(demo: Path):  # type: ignore[no-untyped-def]
    """The demo's largest machine with a bay, a cellular slot and another drive slot."""
    *_, Machine = _core()

    def read(name: str):  # type: ignore[no-untyped-def]
        return Machine.model_validate_json((demo / "machines" / f"{name}.json").read_text()).model_dump(mode="json")

    data = read("brannock-fell-17")
    for name, slot in (
        ("brannock-harrow-16", "bay"),
        ("halden-tern-13", "cellular"),
        ("brannock-harrow-16", "drive-2"),
    ):
        found = next(s for s in read(name)["slots"] if s["id"] == slot)
        data["slots"].append({**found, "id": f"more-{slot}", "reached_by": ["cover"]})
    return Machine.model_validate(data)


def work(hidden: float) -> float:
    """Seconds of processor time for one matrix, the best of three."""
    matrix, build_today, read_csv, Accessory, _ = _core()
    demo = Path.cwd() / "insertum" / "demo" / "data"
    parts = many_parts(demo, hidden=hidden)
    shelf = [p for p in read_csv((demo / "parts.csv").read_text()) if isinstance(p, Accessory)]
    build = build_today(twelve_slots(demo).configured("beck-540"))
    best = 1e9
    for _ in range(3):
        start = time.process_time()
        matrix(build, parts, shelf)
        best = min(best, time.process_time() - start)
    return best


def in_tree(tree: Path, hidden: float) -> float:
    """The same in another process, on another tree's code."""
    found = subprocess.run(
        [sys.executable, str(HERE / "benchmarks" / "matrix.py"), "--work", str(hidden)],
        cwd=tree, env={**os.environ, "PYTHONPATH": str(tree)}, capture_output=True, text=True, check=True,
    )  # fmt: skip
    return float(found.stdout)


def main() -> None:
    arguments = argparse.ArgumentParser(description=__doc__)
    arguments.add_argument("--against", type=Path, help="another checkout to run in turn")
    arguments.add_argument("--work", type=float, help=argparse.SUPPRESS)
    args = arguments.parse_args()
    if args.work is not None:
        print(work(args.work))
        return
    for name, hidden in (("complete", 0.0), ("40 % hidden", 0.4)):
        if args.against is None:
            print(f"matrix, {name}: {COUNT} parts x 12 slots in {in_tree(HERE, hidden):.2f} s of processor time")
            continue
        pairs = [(in_tree(HERE, hidden), in_tree(args.against.resolve(), hidden)) for _ in range(RUNS)]
        ratios = sorted(a / b for a, b in pairs)
        print(
            f"matrix, {name}: {statistics.median(a for a, _ in pairs):.2f} s here, "
            f"{statistics.median(b for _, b in pairs):.2f} s there: {statistics.median(ratios):.2f} x "
            f"({ratios[0]:.2f} to {ratios[-1]:.2f})"
        )


if __name__ == "__main__":
    main()
