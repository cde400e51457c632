"""What every kind of part answers: one protocol, total over all hooks.

A kind that lacks a hook cannot be made (``TypeError`` at import) and does not type-check. Adding a kind is adding its
module beside these, its rules, and its words on the map.
"""

from abc import ABC, abstractmethod
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, ClassVar, Generic, Literal, TypeVar

from ..fit.build import Build
from ..frozen import Frozen
from ..machine.part_base import PartBase
from ..machine.shape import Slot
from ..standards.pcie import Link

P = TypeVar("P", bound=PartBase)

What = Literal[
    "memory_total", "memory_visible", "memory_socket", "memory_speed", "drive", "drive_link", "radio", "cellular", "bluetooth", "battery", "signal", "supply"
]  # fmt: skip


class Expectation(Frozen):
    """One thing a proved machine will say of itself. ``figure`` in ``unit`` where it is a number; ``number`` is the
    part's."""

    id: str
    what: What
    title: str
    wanted: str
    figure: float | None = None
    unit: str = ""
    number: str = ""
    slot: str = ""
    link: Link | None = None
    changed: bool = False


class Size(Frozen):
    """Length and width of a part in mm."""

    w_mm: float
    h_mm: float


@dataclass(frozen=True)
class Moves:
    """How a part comes out, how it goes in, and what to heed with either."""

    out: str
    into: str
    caution: str = ""


@dataclass(frozen=True)
class Does:
    """What a part does in a slot: a group of parts that serve one end, a figure, and its unit ('' for none)."""

    end: str
    figure: float = 0.0
    unit: str = ""


#: Columns every part has in a CSV.
COMMON_COLUMNS = ("kind", "number", "maker", "name")
CARD_COLUMNS = ("code", "form", "mini_size", "fru", "width_mm", "length_mm", "above_mm", "below_mm", "keys")


class Kind(ABC, Generic[P]):
    """One kind of part. ``id`` is the part's ``kind``; ``slots`` are kinds of slot it belongs in."""

    id: ClassVar[str]
    #: One of them and several, as the bench says it.
    word: ClassVar[str]
    plural: ClassVar[str]
    slots: ClassVar[tuple[str, ...]]
    #: Prefixes of the ids of the rules that judge it.
    rules: ClassVar[tuple[str, ...]]
    #: Needs of an owner that parts of this kind decide.
    needs: ClassVar[tuple[str, ...]]
    #: Its columns in a CSV beside the common ones.
    columns: ClassVar[tuple[str, ...]]
    #: What is asked for first when one is typed in by hand.
    form: ClassVar[tuple[str, ...]]

    @abstractmethod
    def size(self, part: P) -> Size | None:
        """Length and width in mm; None when unknown, or as large as its slot."""

    @abstractmethod
    def detail(self, part: P) -> str:
        """What it is, in a few words."""

    @abstractmethod
    def moves(self) -> Moves:
        """How it comes out and goes in."""

    def could_sit(self, build: Build, slot: Slot, part: P) -> bool:
        """May it lie in this slot today, by what is known of how it gets in? What is found there is never argued with: a
        list to pick from alone is shorter by it."""
        return True

    @abstractmethod
    def expects(self, build: Build, slot: Slot, part: P) -> Iterator[Expectation]:
        """What a machine with it will say of itself."""

    @abstractmethod
    def does(self, build: Build, slot_id: str, part: P) -> Does:
        """What it does in a slot."""

    @abstractmethod
    def adds(self, build: Build, slot_id: str, part: P) -> tuple[float, str]:
        """What it adds to what sits in the slot now, and the unit."""

    @abstractmethod
    def figures(self, build: Build, slot_id: str, part: P) -> dict[str, str]:
        """The figures that decide, for a comparison side by side."""


def figure_words(value: Any, unit: str = "") -> str:
    """A figure with its unit, or that it is unknown."""
    return "unknown" if value is None else f"{value}{f' {unit}' if unit else ''}"


def expect(id: str, what: What, title: str, wanted: str, **more: Any) -> Expectation:
    """An expectation; ``more`` are its other fields."""
    return Expectation(id=id, what=what, title=title, wanted=wanted, **more)
