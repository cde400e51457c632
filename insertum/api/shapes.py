"""The few shapes that only the API has."""

from ..core.errors import Code
from ..core.frozen import Frozen
from ..core.vocabulary import Vocabulary
from ..shop.services.people import Role


class Problem(Frozen):
    """What is wrong, where, and how to mend it, for people; ``code`` and ``fields`` for whoever goes on from it (of a
    conflict each field with theirs and yours); ``rows`` for imports."""

    what: str
    where: str = ""
    mend: str = ""
    code: Code = Code.INVALID
    fields: dict[str, tuple[str, ...]] = {}
    rows: tuple["ProblemRow", ...] = ()


#: Codes of what has no :class:`InputError` of its own, by status.
CODES = {401: Code.NOT_ALLOWED, 403: Code.NOT_ALLOWED, 404: Code.MISSING, 429: Code.NOT_ALLOWED, 500: Code.BROKEN, 503: Code.UNAVAILABLE,
         507: Code.UNAVAILABLE}  # fmt: skip


class ProblemRow(Frozen):
    row: int
    column: str
    what: str


class Who(Frozen):
    """Who is signed in, what they may do, and whether their password is still the one that was handed over."""

    name: str
    role: Role
    handed_over: bool = False
    letter_keys: bool = True
    decimal: str = "."
    dates: str = "iso"
    workshop: str = ""
    currency: str = "EUR"
    backup_due: str = ""
    vocabulary: Vocabulary


Problem.model_rebuild()
