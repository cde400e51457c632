"""The maker's words on one job: documented claims of this configuration that the library has not taken in yet."""

from collections.abc import Mapping, Sequence
from typing import Any

from ..machine.attribute import attributes_of
from ..machine.claim import Fact, Source
from ..machine.processor import claims_of
from ..machine.shape import Machine
from .shape import Word


def new_words(before: Machine, after: Machine, configuration: str) -> dict[str, list[Word]]:
    """The claims a page would add to the places a configuration has, by ``slot.attribute``. What a page draws anew (slots,
    parts, steps) is the library's alone."""
    was, now = before.configured(configuration), after.configured(configuration)
    found: dict[str, list[Word]] = {}
    pairs = [("memory", was.memory, now.memory), ("boot", was.boot, now.boot)]
    pairs += [(s.id, s, now.slot(s.id)) for s in was.slots]
    for place, old, new in pairs:
        for name in attributes_of(type(old)):
            told, fact = getattr(old, name), getattr(new, name)
            if not isinstance(fact, Fact):
                continue
            more = [c for c in fact.claims if c not in told.claims and c.source is Source.DOCUMENTED]
            if more:
                found[f"{place}.{name}"] = [
                    Word(
                        value=list(c.value) if isinstance(c.value, tuple) else c.value,
                        note=c.note,
                        among_others=c.among_others,
                    )
                    for c in more
                ]
    return found


def with_words(machine: Machine, configuration: str, words: Mapping[str, Sequence[Word]]) -> Machine:
    """The machine with what the maker's page says of one of its configurations laid beside its own claims. A place that is
    not there any more is left out."""
    if not words:
        return machine
    rows = []
    for c in machine.configurations:
        if c.id == configuration:
            differs: dict[str, dict[str, Any]] = {place: dict(patch) for place, patch in c.differs.items()}
            for key, said in words.items():
                place, _, name = key.partition(".")
                target = {"memory": machine.memory, "boot": machine.boot}.get(place) or next(
                    (s for s in machine.slots if s.id == place), None
                )
                if target is None or not isinstance(getattr(target, name, None), Fact):
                    continue
                there = differs.get(place, {}).get(name, getattr(target, name).model_dump(mode="json"))
                more = [w.model_dump(mode="json") | {"source": Source.DOCUMENTED} for w in said]
                differs.setdefault(place, {})[name] = [*claims_of(there), *more]
            c = c.model_copy(update={"differs": differs})
        rows.append(c)
    return machine.model_copy(update={"configurations": tuple(rows)})
