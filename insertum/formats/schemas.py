"""Generates docs (a JSON Schema and the worked example of each format, the list of rules).

``python -m insertum.formats.schemas`` writes them; CI fails when they drift from the code.
"""

import json
from pathlib import Path

from pydantic import BaseModel

from ..core.fit import judge as _register  # noqa: F401  (fills the rulebook)
from ..core.fit.rulebook import RULES
from ..core.glossary import glossary
from ..core.job.shape import Job
from ..core.machine.processor import Processor
from ..core.machine.shape import Machine
from ..core.plan.request import PlanRequest
from ..core.plan.result import Plan
from ..core.prove.expect import Expected
from ..core.reading import Reading
from .parts import PART

DOCS = Path(__file__).resolve().parents[2] / "docs"
SHAPES: dict[str, type[BaseModel]] = {
    "machine": Machine,
    "processor": Processor,
    "plan-request": PlanRequest,
    "plan": Plan,
    "expected": Expected,
    "reading": Reading,
    "job": Job,
}


def schemas() -> dict[str, str]:
    """File name to text of every JSON Schema."""
    shapes = {name: model.model_json_schema(mode="validation") for name, model in SHAPES.items()}
    shapes["parts"] = {"title": "Parts", "type": "array", "items": PART.json_schema(mode="validation")}
    return {f"{name}.schema.json": json.dumps(s, indent=1, ensure_ascii=False) + "\n" for name, s in shapes.items()}


def rules_page() -> str:
    """The rules as a page: id, sentence, source, where it applies."""
    lines = [
        "# The rules",
        "",
        "Generated from the rulebook by `make schemas`. Each rule is one function in `insertum/core/fit/`.",
        "",
        "| rule | what it says | source | slots | parts |",
        "| --- | --- | --- | --- | --- |",
    ]
    for rule in sorted(RULES.values(), key=lambda r: r.id):
        slots, parts = (", ".join(t.__name__ for t in kinds) for kinds in (rule.slots, rule.parts))
        lines.append(f'| <a id="{rule.id}"></a>`{rule.id}` | {rule.sentence} | {rule.source} | {slots} | {parts} |')
    return "\n".join(lines) + "\n"


def words_page() -> str:
    """Every word of ours in one line."""
    lines = [
        "# Words",
        "",
        "What stands on screens and papers, in one line each. Made from `insertum/core/glossary.py` by `make schemas`.",
        "",
    ]
    return (
        "\n".join([*lines, "| word | means |", "| --- | --- |", *(f"| {w.word} | {w.means} |" for w in glossary())])
        + "\n"
    )


def main() -> None:
    """Write the schemas of every format, the page of rules and the page of words into docs."""
    (DOCS / "formats").mkdir(parents=True, exist_ok=True)
    for name, text in schemas().items():
        (DOCS / "formats" / name).write_text(text)
    (DOCS / "rules.md").write_text(rules_page())
    (DOCS / "words.md").write_text(words_page())


if __name__ == "__main__":
    main()
