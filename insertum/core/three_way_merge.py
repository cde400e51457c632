"""Two people change one thing: what only one of them changed is kept of both, and where both did both words are shown."""

from collections.abc import Mapping
from typing import TypeVar

from .errors import Code, InputError

T = TypeVar("T")


def both_kept(
    base: Mapping[str, T], mine: Mapping[str, T], theirs: Mapping[str, T], nothing: T
) -> tuple[dict[str, T], list[str]]:
    """Fields with both changes in them, and those that both changed to something else."""
    names = dict.fromkeys((*theirs, *base, *mine))
    made: dict[str, T] = {}
    torn = []
    for n in names:
        was, my, their = base.get(n, nothing), mine.get(n, nothing), theirs.get(n, nothing)
        made[n] = my if their == was else their
        if their not in (was, my) and my != was:
            torn.append(n)
    return made, torn


def torn(what: str, told: Mapping[str, tuple[str, str]]) -> InputError:
    """Both words on each field that two people changed, as (theirs, yours)."""
    said = "; ".join(
        f"{n.replace('_', ' ')}: theirs {t or 'nothing'}, yours {m or 'nothing'}" for n, (t, m) in told.items()
    )
    return InputError(
        f"somebody else changed {what} meanwhile", said, "Keep yours all the same, or look at theirs first.",
        Code.CONFLICT, told,
    )  # fmt: skip
