"""Gauges, rules and words: what works without a job."""

from ...core import gauges
from ...core.fit.rulebook import RULES
from ...core.frozen import Frozen
from ...core.glossary import glossary as glossary
from ...core.vocabulary import vocabulary as vocabulary

Gauge, Shown = gauges.Gauge, gauges.Shown


class RuleView(Frozen):
    id: str
    sentence: str
    source: str
    slots: tuple[str, ...]
    parts: tuple[str, ...]


def every_gauge() -> list[Gauge]:
    """The gauges with the fields each asks for."""
    return gauges.gauges()


def show(id: str, values: dict[str, str]) -> Shown:
    """What a gauge says to what was typed. Raises :class:`InputError`."""
    return gauges.show(id, values)


def every_rule() -> list[RuleView]:
    """The rules in the order of their ids."""
    return [
        RuleView(
            id=r.id,
            sentence=r.sentence,
            source=r.source,
            slots=tuple(t.__name__ for t in r.slots),
            parts=tuple(t.__name__ for t in r.parts),
        )
        for r in sorted(RULES.values(), key=lambda r: r.id)
    ]
