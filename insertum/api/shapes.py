"""The few shapes that only the API has."""

from ..core.base import Frozen


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


Problem.model_rebuild()
