"""The inquiry: how every possibility of what a rule reads is gone through.

A rule is a pure function of values. It is handed views of slot, part and build (:mod:`.views`); where an attribute has one value
the view gives it, where it could have several the view takes one and notes the choice. :meth:`Inquiry.all` runs a
function once for every combination of the choices it came across, like reading a book of forking paths to its last
page. A rule therefore never sees an unknown (rules.md section 1).
"""

from collections.abc import Callable, Iterator, Mapping
from typing import Any, Generic, NamedTuple, TypeVar

from ..known.domain import Anything, Lot, Some, Span
from ..verdict import Impossible
from .read_trace import Name, is_one_of

T = TypeVar("T")
#: What one choice was about: a place ("drive-1", "memory", "part", …), an attribute, and, for a list or a word, what
#: was asked of it.
Key = tuple[Any, ...]
#: More possibilities than this are not gone through: the answer is then to measure, which errs on the safe side.
MOST = 4096


class TooMany(Exception):
    """More possibilities than an inquiry goes through."""


class Outcome(NamedTuple, Generic[T]):
    """What a function answered, and the choices it rests on."""

    answer: T
    chosen: Mapping[Key, Any]


class Inquiry:
    """Choices made so far, and those still to be made otherwise."""

    __slots__ = ("at", "boot_read", "chosen", "helps", "kit_read", "reads", "script", "trail")

    def __init__(self) -> None:
        self.chosen: dict[Key, Any] = {}
        self.trail: list[tuple[Key, tuple[Any, ...], int]] = []
        self.script: list[int] = []
        #: Attribute to +1 where more helps the rule at hand, −1 where less does.
        self.helps: Mapping[str, int] = {}
        #: Figures to look on both sides of, for a range that helps in no one direction.
        self.at: Mapping[str, Callable[[], tuple[int, ...]]] = {}
        self.reads: dict[tuple[str, str], None] = {}
        self.kit_read = self.boot_read = False

    def pick(self, key: Key, options: tuple[Any, ...]) -> Any:
        """One of several possibilities: the same for the same key as long as the run lasts."""
        if key in self.chosen:
            return self.chosen[key]
        turn = len(self.trail)
        index = self.script[turn] if turn < len(self.script) else 0
        self.trail.append((key, options, index))
        self.chosen[key] = options[index]
        return options[index]

    def all(self, function: Callable[[], T]) -> list[Outcome[T]]:
        """The answers for every combination of possibilities; those that cannot be are left out.

        Raises :class:`TooMany` where there are more than :data:`MOST`.
        """
        found: list[Outcome[T]] = []
        self.script = []
        while True:
            self.trail, self.chosen = [], {}
            try:
                answer = function()
                found.append(Outcome(answer, self.chosen))
            except Impossible:
                pass
            if not self._turn():
                return found
            if len(found) >= MOST:
                raise TooMany

    def _turn(self) -> bool:
        while self.trail:
            _, options, index = self.trail.pop()
            if index + 1 < len(options):
                self.script = [*(i for _, _, i in self.trail), index + 1]
                return True
        return False

    # -- how an open attribute is taken apart -------------------------------------------------------
    def of(self, place: str, name: str, domain: Any, direction: str = "") -> Any:
        """A value of a domain: each in turn, or only the worst and the best where the rule said which helps."""
        helps = self.helps.get(direction or name)
        match domain:
            case Some(values):
                if helps and len(values) > 2:
                    ordered = sorted(values)
                    values = (ordered[0], ordered[-1])
                return self.pick((place, name), _worst_first(values, helps))
            case Span(low, high):
                if helps:
                    return self.pick((place, name), _worst_first((low, high), helps))
                figures = self.at.get(direction or name)
                assert figures is not None, f"a rule reads the range {place}.{name} and does not say how it helps"
                sides = {low, high, *(f + d for f in figures() for d in (-1, 0, 1) if low <= f + d <= high)}
                return self.pick((place, name), tuple(sorted(sides)))
            case Lot():
                return Membership(self, place, name, domain)
            case Anything():
                return Unread(self, place, name)
        raise TypeError(f"no domain: {domain!r}")


def _worst_first(values: tuple[Any, ...], helps: int | None) -> tuple[Any, ...]:
    if not helps or len(values) < 2:
        return values
    return tuple(sorted(values, reverse=helps < 0))


class Membership:
    """A list of which not every member is known: each question to it is a choice of its own."""

    __slots__ = ("_inquiry", "_lot", "_name", "_place")

    def __init__(self, inquiry: Inquiry, place: str, name: str, lot: Lot) -> None:
        self._inquiry, self._place, self._name, self._lot = inquiry, place, name, lot

    def __contains__(self, member: Any) -> bool:
        lot = self._lot
        if isinstance(member, Unread):
            open_ = lot.may is None or bool(lot.may) or bool(lot.has)
        elif is_one_of(member, lot.has):
            return True
        else:
            open_ = lot.may is None or is_one_of(member, lot.may)
        if not open_:
            return False
        asked = str.__str__(member) if isinstance(member, Name) else str(member)
        return bool(self._inquiry.pick((self._place, self._name, asked), (False, True)))

    def __iter__(self) -> Iterator[Any]:
        lot = self._lot
        assert lot.may is not None, f"nobody can go through {self._place}.{self._name}: it may hold anything"
        for member in sorted(lot.has | lot.may):
            if member in self:
                yield member

    def above(self, figure: int) -> tuple[Any, ...]:
        """Members above a figure, lowest first: those that are known, and the first that may be there besides."""
        lot = self._lot
        assert lot.may is not None, f"nobody can go through {self._place}.{self._name}: it may hold anything"
        sure = sorted(m for m in lot.has if m > figure)
        for member in sorted(m for m in lot.may if m > figure and (not sure or m < sure[0])):
            if member in self:
                return (member, *sure)
        return tuple(sure)

    def below(self, figure: int) -> Any:
        """The lowest member below a figure; None where there is none."""
        lot = self._lot
        assert lot.may is not None, f"nobody can go through {self._place}.{self._name}: it may hold anything"
        sure = sorted(m for m in lot.has if m < figure)
        if sure:
            return sure[0]
        return next((m for m in sorted(lot.may) if m < figure and m in self), None)

    def farthest(self) -> int:
        """The highest member, 0 for none."""
        lot = self._lot
        sure = max(lot.has, default=0)
        return next((m for m in sorted(lot.may or (), reverse=True) if m > sure and m in self), sure)

    def __bool__(self) -> bool:
        """Does it hold anything? A list that may hold anything at all is asked as one question."""
        lot = self._lot
        if lot.has:
            return True
        if lot.may is None:
            return bool(self._inquiry.pick((self._place, self._name, "any"), (False, True)))
        return any(True for _ in self)


class Complete(frozenset[Any]):
    """A list of which every member is known. A word nobody has read may be one of them."""

    def __contains__(self, member: object) -> bool:
        if isinstance(member, Unread):
            return bool(self) and member.is_in_the_list()
        if isinstance(member, Name):
            return member.within(frozenset(self))
        return super().__contains__(member)

    def above(self, figure: int) -> tuple[Any, ...]:
        return tuple(sorted(m for m in self if m > figure))

    def below(self, figure: int) -> Any:
        return min((m for m in self if m < figure), default=None)

    def farthest(self) -> int:
        return max(self, default=0)


class Unread:
    """A word nobody has read: it may be equal to anything it is compared with."""

    __slots__ = ("_inquiry", "_name", "_place")

    def __init__(self, inquiry: Inquiry, place: str, name: str) -> None:
        self._inquiry, self._place, self._name = inquiry, place, name

    def __eq__(self, other: object) -> bool:
        if other is self:
            return True
        return bool(self._inquiry.pick((self._place, self._name, str(other)), (False, True)))

    def __ne__(self, other: object) -> bool:
        return not self == other

    def __hash__(self) -> int:
        return hash((self._place, self._name))

    def is_in_the_list(self) -> bool:
        return bool(self._inquiry.pick((self._place, self._name, "listed"), (False, True)))

    def __str__(self) -> str:
        return "an unread one"
