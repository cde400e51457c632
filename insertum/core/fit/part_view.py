"""What a rule is given to read of a part, field by field: what it does not state could be anything its words allow."""

from typing import Any

from ..known.domain import Anything, Some, Span
from ..machine.attribute import Attribute, attributes_of
from ..machine.part import Fittable
from .enumeration import Inquiry
from .read_trace import Figure, Name, Trace

#: Fields that differ from part to part, and are asked about in comparisons. Only speed rests on this list.
_FIGURES, _NAMES = frozenset(("read_mb_s", "capacity_gb", "design_mwh")), frozenset(("number", "fru"))


class PartView:
    """A part, field by field: what it does not state could be anything its words allow."""

    __slots__ = ("_inquiry", "_part", "_place", "_trace", "_values", "_words")

    def __init__(self, inquiry: Inquiry, part: Fittable, place: str = "part", trace: Trace | None = None) -> None:
        self._inquiry, self._part, self._place, self._trace = inquiry, part, place, trace
        self._words = attributes_of(type(part))
        self._values: dict[str, Any] = {}

    def __getattr__(self, name: str) -> Any:
        try:
            known, value = self._values[name]
        except KeyError:
            known, value = self._values[name] = self._look(name)
        if known:
            return value
        self._inquiry.reads[(self._place, name)] = None
        return self._inquiry.of(self._place, name, value, f"part.{name}")

    def stated(self, name: str) -> Any:
        """What the part states; None where it does not, which decides nothing."""
        value = getattr(self._part, name)
        return value if self._trace is None else self._trace.note(("=", name), value)

    def _look(self, name: str) -> tuple[bool, Any]:
        """(is it a plain value, the value or its domain); what was asked of the part is taken down."""
        value = getattr(self._part, name)
        if name == "kind":
            return True, value  # a memo is for one kind of part
        words = self._words.get(name)
        if self._trace is not None:
            if name not in _FIGURES and name not in _NAMES:
                self._trace.note(("=", name), value)
            else:
                if words is not None:
                    self._trace.note(("?", name), value is None)
                if value is not None:
                    value = (Figure if name in _FIGURES else Name)(value)
                    value._trace, value._field = self._trace, name
                    return True, value
        if value is not None and (words is None or words.tells(value)):
            return True, value
        if words is None:
            return True, None  # a field without which nothing is decided
        if self._trace is not None and (rests_on := _RESTS_ON.get(name)):
            self._trace.note(("=", rests_on), getattr(self._part, rests_on))
        return False, part_domain(self._part, name, words)


#: Fields whose possible values depend on another field: both are then read.
_RESTS_ON = {"edge_connector": "height_um", "clock_driver": "generation", "read_mb_s": "spinning"}
#: A spinning drive whose rating nobody states reads no faster (rules.md section 7).
SPINNING_MB_S = 250
_CARD_KEYS = {"m2_drive": (("B",), ("M",), ("B", "M")), "radio": (("A",), ("E",), ("A", "E")), "cellular": (("B",),)}


def part_domain(part: Fittable, name: str, words: Attribute) -> Any:
    """What a part's unstated field could be."""
    if name == "keys":
        return Some(_CARD_KEYS[part.kind])
    if name == "edge_connector" and (getattr(part, "height_um", None) or 0) > _EDGE_UM:
        return Some((False,))
    if name == "clock_driver" and getattr(part, "generation", 5) < 5:
        return Some((False,))  # JESD323: clocked SO-DIMMs are DDR5
    if name == "read_mb_s" and getattr(part, "spinning", False):
        return Span(0, SPINNING_MB_S)
    if name == "tied_to":
        return Some(("", ANOTHER_MAKER))
    if words.kind == "flag":
        return Some((False, True))
    if words.values:
        return Some(words.values)
    if words.low is not None and words.high is not None:
        return Span(words.low, words.high)
    return Anything()


#: Only drives this low may have another edge connector (SFF-8784).
_EDGE_UM = 5000
#: A processor maker that is not this machine's.
ANOTHER_MAKER = "another maker"
