"""Parts side by side for one slot: the figures that decide, each as a line."""

from collections.abc import Sequence

from ..errors import InputError
from ..fit.build import Build
from ..fit.judge import Judgement, judge_equipped
from ..frozen import Frozen
from ..kinds.all import kind_of
from ..machine.part import Fittable
from .waste import per_gb

MOST = 4


class ComparedRow(Frozen):
    """One line of the comparison: a value for each part, and whether they differ."""

    what: str
    values: tuple[str, ...]
    differs: bool


class Comparison(Frozen):
    slot: str
    parts: tuple[str, ...]
    names: tuple[str, ...]
    judged: tuple[Judgement, ...]
    rows: tuple[ComparedRow, ...]


def side_by_side(build: Build, slot_id: str, parts: Sequence[Fittable], shelf: Sequence[object]) -> Comparison:
    """Up to four parts in one slot, side by side. Raises :class:`InputError` for more, or none."""
    if not 1 <= len(parts) <= MOST:
        raise InputError(f"{len(parts)} parts to compare", "compare", f"Choose up to {MOST}.")
    judged = [judge_equipped(build, slot_id, p, shelf) for p in parts]  # type: ignore[arg-type]
    columns = [_figures(build, slot_id, p) for p in parts]
    names = list(dict.fromkeys(name for c in columns for name in c))
    rows = [tuple(c.get(name, "–") for c in columns) for name in names]
    return Comparison(
        slot=slot_id,
        parts=tuple(p.number for p in parts),
        names=tuple(p.name for p in parts),
        judged=tuple(judged),
        rows=tuple(ComparedRow(what=n, values=v, differs=len(set(v)) > 1) for n, v in zip(names, rows, strict=True)),
    )


def _figures(build: Build, slot_id: str, part: Fittable) -> dict[str, str]:
    kind = kind_of(part)
    found = dict(kind.figures(build, slot_id, part))
    more, unit = kind.adds(build, slot_id, part)
    if unit:
        found["Against what is in now"] = f"{more:+g} {unit}"
    price = part.price_minor
    found["Price"] = "none" if price is None else f"{price / 100:.2f}"
    if (each := per_gb(part)) is not None:
        found["Price per GB"] = f"{each / 100:.3f}"
    return found
