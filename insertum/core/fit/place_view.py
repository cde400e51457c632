"""What a rule is given to read of a slot, the memory system or the boot facts, one value at a time."""

from typing import Any

from ..known.deduce import NO_ID
from ..known.domain import Lot, Some, Span
from ..known.follow import DERIVED
from ..known.known import Known
from ..known.limits import CAPS
from ..known.school import Cap
from ..machine.attribute import attributes_of
from ..machine.claim import Source
from .enumeration import Complete, Inquiry, Unread
from .read_trace import is_one_of

#: The attribute that tells which proofs count.
FIRMWARE = ("firmware", "version")
#: Marks an attribute of which something else is known under another version of firmware.
_BY_FIRMWARE = object()


def firmware_of(inquiry: Inquiry, known: Known) -> Known:
    """What is known of the machine under its firmware; under each version proofs name, and any other, where it was not
    read."""
    if not known.versions:
        return known
    inquiry.reads[FIRMWARE] = None
    return known.on_firmware(inquiry.pick(FIRMWARE, known.versions))


class PlaceView:
    """A slot, the memory system or the boot facts, attribute by attribute."""

    __slots__ = ("_inquiry", "_known", "_place", "_shape", "_values")

    def __init__(self, inquiry: Inquiry, known: Known, place: str, shape: Any) -> None:
        self._inquiry, self._known, self._place, self._shape = inquiry, known, place, shape
        self._values: dict[str, Any] = known.views.setdefault(place, {})

    def __getattr__(self, name: str) -> Any:
        try:
            known, value = self._values[name]
        except KeyError:
            known, value = self._values[name] = self._look(name)
        inquiry: Inquiry = self._inquiry
        inquiry.reads[(self._place, name)] = None
        if known:
            return value
        if value is _BY_FIRMWARE:
            return getattr(type(self)(inquiry, firmware_of(inquiry, self._known), self._place, self._shape), name)
        if name in CAPS:
            return inquiry.pick((self._place, name), value)
        return inquiry.of(self._place, name, value)

    def _look(self, name: str) -> tuple[bool, Any]:
        """(is it a plain value, the value or its domain)."""
        attribute = name in CAPS or name in attributes_of(type(self._shape))
        if self._known.versions and attribute and self._known.by_firmware(self._place, name):
            return False, _BY_FIRMWARE
        if name in CAPS:
            caps = self._known.caps(self._place, name)
            return (True, caps[0]) if len(caps) == 1 else (False, caps)
        if name == "holds_mm" or name in DERIVED or name in attributes_of(type(self._shape)):
            domain = self._known.domain(self._place, name)
            match domain:
                case Some(values) if len(values) == 1:
                    return True, values[0]
                case Span(low, high) if low == high:
                    return True, low
                case Lot(has, may) if may is not None and not may:
                    return True, Complete(has)
            return False, domain
        return True, getattr(self._shape, name)

    def stated(self, name: str) -> Any:
        """An attribute's value where it is known; None otherwise, which decides nothing."""
        self._inquiry.reads[(self._place, name)] = None
        return self._known.value(self._place, name)

    def makers_own(self, part: Any) -> bool:
        """Is the part, by its number, the one this machine was delivered with?"""
        fitted = self._shape.fitted if self._shape.looked else None
        return fitted is not None and is_one_of(part.number, frozenset((fitted.number,)))

    def accepts_card(self, part: Any) -> bool:
        """Does a card of this id work here today? One whose id nobody read is told by its number from those alike."""
        self._inquiry.reads[(self._place, "accepted_cards")] = None
        lot = self._known.domain(self._place, "accepted_cards")
        assert isinstance(lot, Lot)
        fru = part.fru
        if isinstance(fru, Unread):
            names = frozenset(n for n in lot.has if str(n).endswith(NO_ID))
            return is_one_of(part.number, frozenset(n.removesuffix(NO_ID) for n in names)) or bool(
                lot.has - names and fru in Complete(lot.has - names)
            )
        return is_one_of(fru, lot.has)

    def companions_take(self, part: Any) -> bool:
        """Does the host's list of companion radios take this one? The list is open downwards (an older card may
        work) and complete upwards (rules.md section 1)."""
        lot = self._known.domain(self._place, "cnvi")
        assert isinstance(lot, Lot)
        self._inquiry.reads[(self._place, "cnvi")] = None
        if is_one_of(part.number, lot.has) or (not isinstance(part.fru, Unread) and is_one_of(part.fru, lot.has)):
            return True
        if lot.may is not None and not lot.may and not lot.has:
            return False  # a host without a radio
        if part.host_generation > self.host_generation:
            return False
        return bool(self._inquiry.pick((self._place, "cnvi", str.__str__(part.number)), (False, True)))


class MemoryView(PlaceView):
    """The memory system: its densities and its speed by population are consequences of several claims."""

    __slots__ = ()

    def runs_density(self, density: int) -> str:
        """'yes', 'report' where only a report says so, or 'no'."""
        self._inquiry.reads[("memory", "density_gbit")] = None
        known = self._under("density_gbit").densities
        if density in known.sure:
            return "yes"
        if density in known.reported:
            return "report"
        if known.closed:
            return "no"
        if self._known.usual("memory", "density_gbit"):
            return "yes"
        return "yes" if self._inquiry.pick(("memory", "density_gbit", str(density)), (False, True)) else "no"

    def speed(self, modules: int, surely: int = 0) -> Cap:
        """The machine's own limit with that many socketed modules, in MT/s; ``surely`` is what such modules were read to
        run at."""
        name = f"speed_by_modules.{modules}"
        self._inquiry.reads[("memory", name)] = None
        caps = self._under(name).caps("memory", name)
        cap: Cap = caps[0] if len(caps) == 1 else self._inquiry.pick(("memory", name), caps)
        return cap if cap.most >= surely else Cap(surely, surely, Source.RUNS)

    def _under(self, name: str) -> Known:
        """What is known under this machine's firmware, where that makes a difference."""
        return firmware_of(self._inquiry, self._known) if self._known.by_firmware("memory", name) else self._known

    def takes_type(self, letter: str) -> bool:
        if self._known.usual("memory", "module_types") and not self._known.machine.memory.module_types.claims:
            return True
        return letter in self.module_types
