"""Claims: what is said of a machine, by whom, and which of it counts.

A machine attribute is a :class:`Fact`: a set of claims. No claims means *unknown*, which is a
value here, not a gap. What counts, on one machine and one job, is worked out in :mod:`insertum.core.known`
and nowhere else.
"""

from enum import StrEnum
from typing import Any, Generic, Literal, Self, TypeVar

from pydantic import Field, GetJsonSchemaHandler, RootModel, model_validator
from pydantic_core import CoreSchema, PydanticUndefined

from ..frozen import Frozen

T = TypeVar("T")


class Source(StrEnum):
    """Who says so. Measured and read are facts about the very machine on the bench."""

    DOCUMENTED = "documented"
    CONTROLLER = "controller"
    PROVEN = "proven"
    REPORTED = "reported"
    MEASURED = "measured"
    READ = "read"
    #: Follows from what works in this machine today.
    RUNS = "runs"
    #: The owner's word on this job, for what is returnable.
    ASSUMED = "assumed"


class Limits(StrEnum):
    """Whose limit counts: the four schools."""

    DOCUMENTED = "documented"
    CONTROLLER = "controller"
    PROVEN = "proven"
    OPEN = "open"


class Claim(Frozen, Generic[T]):
    """One statement. ``date`` is ISO 8601. ``count``/``failures`` belong to proven claims:
    how often it worked and failed, with ``firmware`` and ``configuration`` naming where. A list is
    complete unless it is marked ``among_others``. A number may be a ``bound`` ("1.35 mm or more"), and a value one of
    several (``alternatives``: "B or M")."""

    value: T
    source: Source
    note: str = ""
    date: str = ""
    who: str = ""
    firmware: str = ""
    configuration: str = ""
    count: int = Field(0, ge=0)
    failures: int = Field(0, ge=0)
    among_others: bool = False
    bound: Literal["", "at_least", "at_most"] = ""
    alternatives: tuple[T, ...] = ()

    @property
    def exact(self) -> bool:
        """Is it one value, and no bound or choice?"""
        return not self.bound and not self.alternatives

    @model_validator(mode="after")
    def _one_kind(self) -> Self:
        number = isinstance(self.value, int) and not isinstance(self.value, bool)
        if self.bound and (self.alternatives or not number):
            raise ValueError("a bound belongs to one number: leave it out, or the alternatives")
        if self.alternatives and isinstance(self.value, tuple):
            raise ValueError("a list has no alternatives: mark it among_others where it is not complete")
        return self


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
