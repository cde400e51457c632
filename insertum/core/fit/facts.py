"""What a rule is handed to read, as types: a place, a part, a list; the shapes' own attributes are in :mod:`.shape_facts`.

At run time the views (:mod:`.views`) stand behind these. A rule therefore reads values and nothing else, and a misspelt
attribute is an error before anything runs.
"""

from collections.abc import Iterator
from typing import Any, Protocol, TypeVar

from ..known.school import Cap

T = TypeVar("T", covariant=True)


class Listing(Protocol[T]):
    """A list of which perhaps not every member is known: a rule asks it one question at a time."""

    def __contains__(self, member: Any, /) -> bool: ...

    def __iter__(self) -> Iterator[T]: ...

    def above(self, figure: int) -> tuple[T, ...]:
        """Members above a figure, lowest first."""
        ...

    def below(self, figure: int) -> T | None:
        """The lowest member below a figure."""
        ...

    def farthest(self) -> int:
        """The highest member, 0 for none."""
        ...


class PartFacts(Protocol):
    """What every part states."""

    @property
    def number(self) -> str: ...
    @property
    def maker(self) -> str: ...
    @property
    def name(self) -> str: ...

    def stated(self, name: str) -> Any:
        """What the part states; None where it does not, which decides nothing."""
        ...


class PlaceFacts(Protocol):
    """What is asked of a slot, the memory system or the boot facts beside their attributes."""

    def stated(self, name: str) -> Any:
        """An attribute's value where it is known; None otherwise, which decides nothing."""
        ...

    def makers_own(self, part: PartFacts) -> bool:
        """Is the part, by its number, the one this machine was delivered with?"""
        ...

    def accepts_card(self, part: PartFacts) -> bool:
        """Does a card of this id work here today?"""
        ...

    def companions_take(self, part: PartFacts) -> bool:
        """Does the host's list of companion radios take this one?"""
        ...


class SlotFacts(PlaceFacts, Protocol):
    @property
    def id(self) -> str: ...
    @property
    def name(self) -> str: ...


class WholeMemory(PlaceFacts, Protocol):
    """What is asked of the memory system as a whole."""

    def runs_density(self, density: int) -> str:
        """'yes', 'report' where only a report says so, or 'no'."""
        ...

    def speed(self, modules: int, surely: int = 0) -> Cap:
        """The machine's own limit with that many modules in sockets, in MT/s."""
        ...

    def takes_type(self, letter: str) -> bool:
        """Do modules of this type letter run?"""
        ...
