"""Half-known machines, case by case: the verdict and what is asked, worked by hand from rules.md sections 1 to 4."""

import re
from pathlib import Path

import pytest

from insertum.core.fit.build import Build
from insertum.core.fit.judge import judge, judged
from insertum.core.known.evidence import Grade, Signs
from insertum.core.machine.claim import Limits
from insertum.core.machine.part import Accessory, Fittable

from . import made
from .test_fit_table import KINDS, changes

COLUMNS = ("slot", "facts", "whole", "runs", "how", "part", "kit", "verdict", "asks", "working")
#: What a row may say of the job rather than of the machine.
OF_THE_JOB = ("school", "firmware", "as_usual", "usual_only", "system", "unseen")
SIZES = {
    "bracket": ("from_mm", "to_mm"),
    "spacer": ("from_mm", "to_mm"),
    "adapter_leads": ("from_plug", "to_plug"),
    "pad": ("thickness_um",),
}


def _rows() -> list[dict[str, str]]:
    lines = Path(__file__).with_name("known_cases.txt").read_text().splitlines()
    cells = [[c.strip() for c in line.split("|")] for line in lines if line.strip() and not line.startswith("#")]
    return [dict(zip(COLUMNS, c, strict=True)) for c in cells]


def _build(row: dict[str, str]) -> Build:
    whole = changes(row["whole"])
    job = {k: whole.pop(k) for k in OF_THE_JOB if k in whole}
    both, gone = whole.pop("both", {}), whole.pop("drop", "")
    slots = {"memory-a": dict(both), "memory-b": dict(both)} if both else {}
    slots[row["slot"]] = slots.get(row["slot"], {}) | changes(row["facts"])
    fitted, grades, signs = _found(row)
    for slot, part in fitted.items():
        if part is not None and Grade.DELIVERED in grades[slot]:
            slots[slot]["fitted"] = part.model_dump(mode="json")
    laid = made.machine(slots, **whole)
    if gone:
        slots_left = tuple(s for s in laid.machine.slots if s.id != gone)
        laid = laid.machine.model_copy(update={"slots": slots_left}).configured("only")
    return made.build_today(
        laid,
        fitted,
        Limits(job.get("school", "proven")),
        job.get("firmware", ""),
        unknown=[job["unseen"]] if "unseen" in job else [],
        grades=grades,
        signs=signs,
        as_usual=job.get("as_usual", False),
        usual_only=job.get("usual_only", ()),
        system=job.get("system", ""),
    )


def _found(row: dict[str, str]) -> tuple[dict[str, Fittable | None], dict[str, set[Grade]], dict[str, Signs]]:
    """What is in the machine today, how well that is known, and what a reading tells beside."""
    if not row["how"]:
        return {}, {}, {}
    grade, *told = (word.strip() for word in row["how"].split(","))
    elsewhere = re.fullmatch(r"in ([\w-]+): ?(.*)", row["runs"])
    slot, text = elsewhere.groups() if elsewhere else (row["slot"], row["runs"])
    make = KINDS["memory-a" if slot == "memory-b" else slot]
    chains = next((int(word.split()[1]) for word in told if word.startswith("chains")), 0)
    leads = next((int(word.split()[1]) for word in told if word.startswith("leads")), None)
    signs = {
        slot: Signs(
            bluetooth=True if "bluetooth" in told else None,
            chains_dbm=(-60,) * chains,
            lies_flat=True if "flat" in told else None,
            leads=leads,
        )
    }
    return {slot: make(**changes(text))}, {slot: {Grade(grade)}}, signs


def _kit(text: str) -> tuple[Accessory, ...]:
    if not text:
        return ()
    supplies, *sizes = text.split()
    known = {k: v for k, v in zip(SIZES.get(supplies, ()), sizes, strict=True) if v != "?"}
    return (made.accessory(supplies, supplies, **known),)


@pytest.mark.parametrize("row", _rows(), ids=lambda r: f"{r['slot']}-{r['verdict']}")
def test_row(row: dict[str, str]) -> None:
    build, slot = _build(row), row["slot"]
    part = KINDS[slot](**changes(row["part"]))
    found = judged(build, slot, part, _kit(row["kit"])) if row["kit"] else judge(build, slot, part)
    said = [(f.verdict, f.rule, f.says) for f in found.findings]
    assert (found.verdict, sorted(found.asks)) == (row["verdict"], sorted(row["asks"].split())), said
