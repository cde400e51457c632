"""Claims: what is said of a machine, by whom, and which of it counts.

A machine attribute is a :class:`Fact`: a set of claims. No claims means *unknown*, which is a
value here, not a gap. Facts are settled one way (:func:`settle`); limits are picked by the job's
stance (:func:`limit`), rules.md section 2.
"""

from dataclasses import dataclass
from enum import StrEnum
from typing import Any, Generic, TypeVar

from pydantic import GetJsonSchemaHandler, RootModel, model_validator
from pydantic_core import CoreSchema, PydanticUndefined

from .base import Frozen

T = TypeVar("T")


class Source(StrEnum):
    """Who says so. Measured and read are facts about the very machine on the bench."""

    DOCUMENTED = "documented"
    CONTROLLER = "controller"
    PROVEN = "proven"
    REPORTED = "reported"
    MEASURED = "measured"
    READ = "read"


class Limits(StrEnum):
    """Whose limit counts: the four schools."""

    DOCUMENTED = "documented"
    CONTROLLER = "controller"
    PROVEN = "proven"
    OPEN = "open"


class Claim(Frozen, Generic[T]):
    """One statement. ``date`` is ISO 8601. ``count``/``failures`` belong to proven claims:
    how often it worked and failed, with ``firmware`` and ``configuration`` naming where."""

    value: T
    source: Source
    note: str = ""
    date: str = ""
    who: str = ""
    firmware: str = ""
    configuration: str = ""
    count: int = 0
    failures: int = 0


class Fact(RootModel[tuple[Claim[T], ...]], Generic[T]):
    """All claims about one attribute. In a file a bare value is short for one documented claim,
    one claim may stand without its list, and ``null`` or ``[]`` is unknown. A list that is known to
    be empty is written as a claim: ``{"value": [], "source": "documented"}``."""

    root: tuple[Claim[T], ...] = ()

    @model_validator(mode="before")
    @classmethod
    def _shorthand(cls, value: Any) -> Any:
        if value is None or value is PydanticUndefined:
            return ()
        if isinstance(value, Fact):
            return value.root
        if isinstance(value, dict) and {"value", "source"} <= value.keys():
            return (value,)
        if isinstance(value, list | tuple) and all(isinstance(v, Claim | dict) for v in value):
            return tuple(value)
        return ({"value": value, "source": Source.DOCUMENTED},)

    @classmethod
    def __get_pydantic_json_schema__(cls, schema: CoreSchema, handler: GetJsonSchemaHandler) -> Any:
        claims = handler(schema)
        if handler.mode != "validation":
            return claims
        value = handler.resolve_ref_schema(claims)
        item = handler.resolve_ref_schema(value["items"])["properties"]["value"]
        return {"anyOf": [{**value, "title": "claims"}, {**item, "title": "short for one documented claim"}]}

    @property
    def claims(self) -> tuple[Claim[T], ...]:
        return self.root

    def __bool__(self) -> bool:
        return bool(self.root)

    def plus(self, claim: Claim[T]) -> "Fact[T]":
        """The same fact with one more claim."""
        return type(self)((*self.root, claim))


@dataclass(frozen=True)
class Settled(Generic[T]):
    """The outcome for one fact. ``value`` is None when unknown; ``why`` says how it is known, or
    why it is not."""

    value: T | None
    source: Source | None
    why: str
    conflict: bool = False


def settle(fact: Fact[T], firmware: str = "") -> Settled[T]:
    """Settle a fact about the machine (not a limit).

    Measured and read beat all others; measured against read is a conflict and so unknown. Then a
    proven outcome, then the maker, then the standard. A report alone never settles a fact. Two
    claims of one source that disagree leave the fact unknown: there is no safe side to a fact. An
    outcome under another firmware than the bench machine's is shown and never decides.
    """
    if len(fact.root) == 1:  # most facts have one claim, and nothing to weigh
        only = fact.root[0]
        if only.source is Source.DOCUMENTED and not only.firmware:
            return Settled(only.value, only.source, only.note or "documented")
    here = [c for c in fact.claims if c.source in (Source.MEASURED, Source.READ)]
    if here:
        # A later measurement replaces an earlier one by the same means.
        latest = {c.source: c.value for c in here}
        if len(set(map(repr, latest.values()))) > 1:
            return Settled(None, None, "measured and read disagree", conflict=True)
        return Settled(here[-1].value, here[-1].source, f"{here[-1].source} on this machine")
    for source in (Source.PROVEN, Source.DOCUMENTED, Source.CONTROLLER):
        said = [
            c
            for c in fact.claims
            if c.source is source and not (c.failures and not c.count) and c.firmware in ("", firmware)
        ]
        if not said:
            continue
        if len({repr(c.value) for c in said}) > 1:
            return Settled(None, None, f"{source} claims disagree", conflict=True)
        return Settled(said[0].value, source, said[0].note or str(source))
    if fact.claims:
        return Settled(None, None, "only reported by others, never settled here")
    return Settled(None, None, "unknown")


@dataclass(frozen=True)
class Limit:
    """A picked limit. ``at_least`` is what is fitted and running now: known to work even where the
    limit is unknown. ``sure`` is the limit without reports. ``unproven`` marks a value that only a report carries: what needs it is
    held back, at the owner's written risk."""

    value: int | None
    source: Source | None
    unproven: bool = False
    at_least: int | None = None
    sure: int | None = None
    contradictions: tuple[str, ...] = ()

    @property
    def why(self) -> str:
        return "unknown" if self.value is None else f"{self.value} {self.source}"


def limit(fact: Fact[int], stance: Limits, firmware: str = "", fitted: int | None = None) -> Limit:
    """Pick a limit by stance (rules.md section 2).

    ``firmware`` is the version on the bench machine: outcomes under another firmware are shown and
    never decide. ``fitted`` is what is fitted and running now: a lower bound under every stance.
    """

    def said(source: Source) -> list[int]:
        return [c.value for c in fact.claims if c.source is source]

    def least(source: Source) -> int | None:
        return min(said(source), default=None)

    odd = [
        f"{source} claims {' and '.join(map(str, sorted(set(said(source)))))}; the lower counts"
        for source in (Source.DOCUMENTED, Source.CONTROLLER)
        if len(set(said(source))) > 1
    ]
    documented, controller = least(Source.DOCUMENTED), least(Source.CONTROLLER)
    if documented is not None and controller is not None and controller < documented:
        odd.append(f"controller says {controller}, below the documented {documented}")

    here = [c for c in fact.claims if c.source is Source.PROVEN and c.firmware in ("", firmware)]
    failed = {c.value for c in here if c.failures}
    proven = max((c.value for c in here if c.value not in failed and c.count > 0), default=None)
    reported = max(said(Source.REPORTED), default=None)

    running = [*said(Source.READ), *said(Source.MEASURED), *([fitted] if fitted is not None else [])]

    def top(*options: tuple[int | None, Source]) -> tuple[int | None, Source | None]:
        known = [(v, s) for v, s in options if v is not None]
        return max(known, key=lambda o: o[0], default=(None, None))

    value: int | None
    source: Source | None
    match stance:
        case Limits.DOCUMENTED:
            value, source = documented, Source.DOCUMENTED
        case Limits.CONTROLLER:
            value, source = (
                (controller, Source.CONTROLLER) if controller is not None else (documented, Source.DOCUMENTED)
            )
        case Limits.PROVEN | Limits.OPEN:
            value, source = top((documented, Source.DOCUMENTED), (proven, Source.PROVEN))
            if stance is Limits.OPEN:
                value, source = top((value, source or Source.DOCUMENTED), (controller, Source.CONTROLLER))
    at_least = max(running, default=None)
    if value is not None:  # an unknown limit stays unknown above what runs now
        value, source = top((value, source or Source.DOCUMENTED), (at_least, Source.READ))
    sure = value if value is not None else at_least
    unproven = stance is Limits.OPEN and reported is not None and (sure is None or reported > sure)
    if unproven:
        value, source = reported, Source.REPORTED
    return Limit(value, source if value is not None else None, unproven, at_least, sure, tuple(odd))
