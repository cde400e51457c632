"""The few shapes that only the API has."""

from ..core.base import Frozen
from ..core.plan.need import Need


class Problem(Frozen):
    """What is wrong, where, and how to mend it; ``rows`` for imports."""

    what: str
    where: str = ""
    mend: str = ""
    rows: tuple["ProblemRow", ...] = ()


class ProblemRow(Frozen):
    row: int
    column: str
    what: str


class Who(Frozen):
    name: str


class NeedView(Frozen):
    need: Need
    label: str
    unit: str


class Choice(Frozen):
    """A part that could be named as fitted in a slot."""

    number: str
    name: str


Problem.model_rebuild()
