"""What version 0.2.0 said, held against what is said now: every difference has its sentence of rules.md.

``before/verdicts-0.2.0.json.gz`` was dumped before anything changed: every verdict of the demo library under every
school, the 290 hand-worked rows, and tally and plan of every demo job (those are held against the API's answers in
``tests/api/test_before.py``).
"""

import ast
import gzip
import json
from collections import Counter
from pathlib import Path
from typing import Any

import pytest

from insertum.core.fit.judge import judge, matrix
from insertum.core.machine.claim import Limits
from insertum.core.machine.part import Accessory, Fittable
from insertum.core.machine.shape import Machine
from insertum.core.survey.current_build import build_today
from insertum.formats.parts import read_csv

from . import made

HERE = Path(__file__).with_name("before")
BEFORE: dict[str, Any] = json.loads(gzip.decompress((HERE / "verdicts-0.2.0.json.gz").read_bytes()))
_SECTIONS = (HERE / "allowed.txt").read_text().split("[cells]")[1].split("[rows]")


def _lines(text: str) -> list[list[str]]:
    return [[c.strip() for c in line.split("|")] for line in text.splitlines() if line.strip() and line[0] != "#"]


CELLS = {(rule, was, now): sentence for rule, was, now, sentence in _lines(_SECTIONS[0])}
ROWS = {" | ".join(cells[:4]): (cells[4], cells[5], cells[6]) for cells in _lines(_SECTIONS[1])}
KINDS = {
    "memory-a": made.module, "drive-1": made.drive, "radio": made.radio, "bay": made.bay_drive, "battery": made.pack,
    "mini": made.msata, "cellular": made.cellular,
}  # fmt: skip


def _changes(text: str) -> dict[str, Any]:
    call = ast.parse(f"dict({text})", mode="eval").body
    assert isinstance(call, ast.Call)
    return {k.arg or "": ast.literal_eval(k.value) for k in call.keywords}


def _now(row: str) -> str:
    slot, part, facts, whole = (c.strip() for c in row.split("|"))
    try:
        build = made.build(made.machine({slot: _changes(facts)}, **_changes(whole)))
        return str(judge(build, slot, KINDS[slot](**_changes(part))).verdict)
    except ValueError:
        return "input error"


def test_the_hand_worked_rows_differ_only_where_the_rules_want_it() -> None:
    assert len(BEFORE["rows"]) == 290
    found = {row: (was, now) for row, was in BEFORE["rows"] if (now := _now(row)) != was}
    assert found == {row: (was, now) for row, (was, now, _) in ROWS.items()}
    assert all(sentence for *_, sentence in ROWS.values())


@pytest.mark.parametrize("path", sorted((made.DEMO / "machines").glob("*.json")), ids=lambda p: p.stem)
def test_the_demo_library_differs_only_where_the_rules_want_it(path: Path) -> None:
    parts = read_csv((made.DEMO / "parts.csv").read_text())
    fitting: list[Fittable] = [p for p in parts if not isinstance(p, Accessory)]
    shelf = [p for p in parts if isinstance(p, Accessory)]
    machine = Machine.model_validate_json(path.read_text())
    seen, odd = 0, Counter[tuple[str, ...]]()
    for c in machine.configurations:
        for school in Limits:
            for cell in matrix(build_today(machine.configured(c.id), stance=school), fitting, shelf):
                was = BEFORE["cells"].get(f"{machine.id}/{c.id}/{school}/{cell.slot}/{cell.part}")
                if was is None:
                    continue  # a part that came into the demo since
                seen += 1
                if was[0] != cell.verdict:
                    rules = was[1] or ["-"]
                    allowed = any((rule, was[0], str(cell.verdict)) in CELLS for rule in rules)
                    if not allowed:
                        odd[(cell.slot, cell.part, str(school), was[0], str(cell.verdict), cell.short)] += 1
                elif was[2] != cell.extra_minor and cell.verdict.usable:
                    odd[(cell.slot, cell.part, "price of what it needs", str(was[2]), str(cell.extra_minor))] += 1
    assert seen > 400 and not odd
