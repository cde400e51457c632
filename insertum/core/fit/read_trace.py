"""What a rule asked of a part, taken down while it asks: all a memo may go by."""

from typing import Any

from ..machine.part import Fittable

#: One thing a rule asked of a part: the field's value ("=", field), whether it is stated ("?", field), whether it is
#: over a figure (">", field, figure) or one of several names ("in", field, names).
Step = tuple[Any, ...]


class Trace:
    """What was asked of a part, in order, with the answers: all a memo may go by."""

    __slots__ = ("steps",)

    def __init__(self) -> None:
        self.steps: dict[Step, Any] = {}

    def note(self, step: Step, answer: Any) -> Any:
        if step not in self.steps:
            self.steps[step] = answer
        return answer


def answer_of(part: Fittable, step: Step) -> Any:
    """What a part answers to a step."""
    value = getattr(part, step[1])
    match step[0]:
        case "=":
            return value
        case "?":
            return value is None
        case ">":
            return value > step[2]
        case _:
            return value in step[2]


class Figure(int):
    """A part's figure that takes down what it is compared with rather than what it is: a drive of 2,000 and one of
    4,000 GB are alike to a rule that only asks whether they are over 2,199. Any other use takes the value down."""

    _trace: Trace
    _field: str

    def _whole(self) -> int:
        return int(self._trace.note(("=", self._field), int.__int__(self)))

    def __gt__(self, other: Any) -> bool:
        return bool(self._trace.note((">", self._field, int(other)), int.__gt__(self, int(other))))

    def __le__(self, other: Any) -> bool:
        return not self > other

    def __ge__(self, other: Any) -> bool:
        return self > int(other) - 1

    def __lt__(self, other: Any) -> bool:
        return not self >= other

    def __eq__(self, other: object) -> bool:
        return self._whole() == other

    def __hash__(self) -> int:
        return hash(self._whole())

    def __format__(self, spec: str) -> str:
        return format(self._whole(), spec)

    def __str__(self) -> str:
        return str(self._whole())

    def __bool__(self) -> bool:
        return self > 0

    def __int__(self) -> int:
        return self._whole()

    def __add__(self, other: Any) -> Any:
        return self._whole() + other

    def __mul__(self, other: Any) -> Any:
        return self._whole() * other

    def __truediv__(self, other: Any) -> Any:
        return self._whole() / other

    __radd__, __rmul__ = __add__, __mul__


class Name(str):
    """A part's number or card id that takes down only whether it is one of several names."""

    _trace: Trace
    _field: str

    def within(self, names: frozenset[Any]) -> bool:
        return bool(self._trace.note(("in", self._field, names), str.__str__(self) in names))

    def __eq__(self, other: object) -> bool:
        return bool(self._trace.note(("=", self._field), str.__str__(self)) == other)

    def __hash__(self) -> int:
        return hash(self._trace.note(("=", self._field), str.__str__(self)))


def is_one_of(member: Any, names: frozenset[Any]) -> bool:
    """Is ``member`` one of ``names``? Where its reads are traced, only that question is written down, not the name."""
    return member.within(names) if isinstance(member, Name) else member in names
