"""The matrix asks no rule twice and gives what the rules give: compared pair by pair."""

import pytest

from insertum.core.fit.judge import judge_equipped, kind_fits, matrix
from insertum.core.machine.part import Accessory, Fittable
from insertum.core.machine.shape import Machine
from insertum.core.survey.current_build import build_today
from insertum.formats.parts import read_csv

from . import made

PARTS = read_csv((made.DEMO / "parts.csv").read_text())
SHELF = [p for p in PARTS if isinstance(p, Accessory)]
FITTING: list[Fittable] = [p for p in PARTS if not isinstance(p, Accessory)]
CONFIGURATIONS = [
    (m, c.id)
    for path in sorted((made.DEMO / "machines").glob("*.json"))
    for m in [Machine.model_validate_json(path.read_text())]
    for c in m.configurations
]


@pytest.mark.parametrize(("machine", "configuration"), CONFIGURATIONS, ids=[c for _, c in CONFIGURATIONS])
def test_every_pair_is_judged_as_alone(machine: Machine, configuration: str) -> None:
    build = build_today(machine.configured(configuration))
    first = next(s for s in build.machine.slots if s.kind in ("memory", "m2_drive"))
    usual = build_today(machine.configured(configuration), as_usual=True)
    for context in (build, usual, build.with_part(first.id, next(p for p in FITTING if p.kind == first.kind))):
        found = matrix(context, FITTING, SHELF)
        pairs = [(p, s) for p in FITTING for s in build.machine.slots if kind_fits(s, p)]
        alone = [judge_equipped(context, s.id, p, SHELF) for p, s in pairs]
        assert [(j.slot, j.part, j.verdict, j.asks, j.accessories, j.extra_minor, j.short) for j in found] == [
            (j.slot, j.part, j.verdict, j.asks, j.accessories, j.extra_minor, j.short) for j in alone
        ]
