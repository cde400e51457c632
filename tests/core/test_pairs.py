"""What technicians really choose, on machines as they are really known: few questions, none about what runs there."""

import ast
import re
import statistics
from pathlib import Path
from typing import Any

import pytest

from insertum.core.fit.judge import judge
from insertum.core.known.evidence import Grade, Signs
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.claim import Fact
from insertum.core.machine.shape import Configured
from insertum.core.standards.pcie import Link
from insertum.core.survey.current_build import build_today

from . import made

COLUMNS = ("slot", "facts", "whole", "runs", "how", "part", "verdict", "asks", "why")
KINDS = {
    "memory-a": made.module,
    "memory-b": made.module,
    "drive-1": made.drive,
    "radio": made.radio,
    "bay": made.bay_drive,
    "battery": made.pack,
}


def changes(text: str) -> dict[str, Any]:
    call = ast.parse(f"dict({text})", mode="eval").body
    assert isinstance(call, ast.Call)
    return {k.arg or "": ast.literal_eval(k.value) for k in call.keywords}


ROWS = [
    dict(zip(COLUMNS, (c.strip() for c in line.split("|")), strict=True))
    for line in Path(__file__).with_name("pairs.txt").read_text().splitlines()
    if line.strip() and not line.startswith("#")
]


def nothing_known(slots: tuple[str, ...]) -> tuple[dict[str, dict[str, Any]], dict[str, Any]]:
    """Patches that leave every fact of the slots, of memory and of the boot facts unknown."""
    plain = made.machine()
    patch: dict[str, dict[str, Any]] = {s: dict.fromkeys(attributes_of(type(plain.slot(s)))) for s in slots}
    for s in slots:
        if hasattr(plain.slot(s), "pcie_lanes"):
            del patch[s]["pcie_lanes"], patch[s]["pcie_generation"]
            patch[s]["pcie"] = None  # as made.machine writes it
    whole: dict[str, Any] = {f"memory_{n}": None for n in attributes_of(type(plain.memory))}
    whole["boot"] = dict.fromkeys(attributes_of(type(plain.boot)))
    return patch, whole


def laid(row: dict[str, str], delivered: Any) -> Configured:
    slots = ("memory-a", "memory-b") if row["slot"].startswith("memory") else (row["slot"],)
    patch, whole = nothing_known(slots)
    patch[row["slot"]] |= changes(row["facts"])
    if delivered is not None:
        patch[row["slot"]]["fitted"] = delivered.model_dump(mode="json")
    given = changes(row["whole"])
    boot = {**whole["boot"], **given.pop("boot", {})}
    return made.machine(patch, **{**whole, **given, "boot": boot})


def judged(row: dict[str, str]) -> Any:
    slot, how = row["slot"], row["how"]
    runs_in, text = (
        (row["runs"].split(":", 1)[0].removeprefix("in ").strip(), row["runs"].split(":", 1)[1])
        if row["runs"].startswith("in ")
        else (slot, row["runs"])
    )
    part = KINDS[slot](**changes(row["part"]))
    held = None if text == "-" else KINDS[runs_in](**changes(text))
    grades = [g for g in (Grade.WORKS, Grade.SEEN) if g in how]
    signs: dict[str, Signs] = {}
    if link := re.search(r"link (\d)x(\d)", how):
        both = Link(generation=int(link[1]), lanes=int(link[2]))
        signs[runs_in] = Signs(running=both, port=both)
    if "bluetooth" in how or "chains" in how:
        chains = re.search(r"chains (\d)", how)
        signs[runs_in] = Signs(bluetooth="bluetooth" in how, chains_dbm=(-50,) * (int(chains[1]) if chains else 0))
    machine = laid(row, held if "delivered" in how else None)
    build = build_today(machine, {runs_in: held}, grades={runs_in: grades}, signs=signs)
    return judge(build, slot, part)


@pytest.mark.parametrize("row", ROWS, ids=lambda r: f"{r['slot']}: {r['why'][:40]}")
def test_pair(row) -> None:
    found = judged(row)
    asks = tuple(a.strip() for a in row["asks"].split(",") if a.strip())
    assert (str(found.verdict), sorted(found.asks)) == (row["verdict"], sorted(asks)), [f.says for f in found.findings]


def test_few_questions_and_none_about_what_runs_there() -> None:
    assert len(ROWS) >= 30
    counts = [len(judged(r).asks) for r in ROWS]
    assert statistics.median(counts) <= 1
    same = [r for r in ROWS if "the very" in r["why"]]
    assert len(same) >= 3 and all(not judged(r).asks for r in same)


@pytest.mark.parametrize("slot", list(KINDS))
def test_every_fact_is_gone_that_a_row_does_not_name(slot: str) -> None:
    machine = laid({"slot": slot, "facts": "", "whole": ""}, None)
    left = [n for n in attributes_of(type(machine.slot(slot))) if getattr(machine.slot(slot), n).claims]
    assert left == [] and not any(
        isinstance(f, Fact) and f.claims for f in (getattr(machine.boot, n) for n in attributes_of(type(machine.boot)))
    )
