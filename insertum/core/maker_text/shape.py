"""What a maker's text states: claims with the phrase each came from, and what it leaves open."""

from typing import Any

from ..frozen import Frozen

#: The names of places a text can speak of; drives are numbered in the order they are named or counted.
PLACES = (
    "machine",
    "processor",
    "memory",
    "m2_drive",
    "drive",
    "bay",
    "msata",
    "emmc",
    "radio",
    "cellular",
    "battery",
    "step",
)


class Stated(Frozen):
    """One claim of a text. ``place`` is "memory", "drive-1", "bay", "step-2" …, ``name`` the attribute there, in the
    units of the machine's shape (or ``count``, ``options``, ``name`` and the like, which speak of the place itself).
    ``phrase`` is the maker's own wording and ``line`` where it begins, from 1. ``configuration`` names the processor or
    heading it is said of, "" for every one on the page. ``doubt`` is how the phrase could be read otherwise, "" for no other
    way: such a claim is made, and nobody takes it in unseen."""

    place: str
    name: str
    value: Any
    phrase: str
    line: int
    configuration: str = ""
    among_others: bool = False
    doubt: str = ""

    @property
    def about(self) -> str:
        return f"{self.place}.{self.name}"


class OpenQuestion(Frozen):
    """What the text touches and does not say: never claimed."""

    about: str
    says: str
    phrase: str
    line: int


class Unread(Frozen):
    """A sentence about a place that told nothing: nobody is to think that it was understood."""

    phrase: str
    line: int


class Spec(Frozen):
    """All a text states. ``configurations`` in the order the text names them."""

    stated: tuple[Stated, ...]
    questions: tuple[OpenQuestion, ...]
    configurations: tuple[str, ...] = ()
    unread: tuple[Unread, ...] = ()
