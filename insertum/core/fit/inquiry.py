"""The inquiry: what a rule is given to read, and how every possibility is gone through.

A rule is a pure function of values. It is handed views of slot, part and build; where an attribute has one value
the view gives it, where it could have several the view takes one and notes the choice. :meth:`Inquiry.all` runs a
function once for every combination of the choices it came across, like reading a book of forking paths to its last
page. A rule therefore never sees an unknown (rules.md section 1).
"""

from collections.abc import Callable, Iterator, Mapping
from typing import TYPE_CHECKING, Any, Generic, NamedTuple, TypeVar

from ..known.domain import Anything, Lot, Some, Span
from ..known.known import CAPS, Known
from ..known.school import NO_END, Cap
from ..machine.attribute import Attribute, attributes_of
from ..machine.claim import Source
from ..machine.part import Accessory, Fittable, MemoryModule
from ..machine.shape import BaySlot, CardSocket, MemorySlot, Slot
from ..standards import ddr
from ..verdict import Impossible

if TYPE_CHECKING:
    from .build import Build

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

    __slots__ = ("at", "chosen", "helps", "kit_read", "reads", "script", "trail")

    def __init__(self) -> None:
        self.chosen: dict[Key, Any] = {}
        self.trail: list[tuple[Key, tuple[Any, ...], int]] = []
        self.script: list[int] = []
        #: Attribute to +1 where more helps the rule at hand, −1 where less does.
        self.helps: Mapping[str, int] = {}
        #: Figures to look on both sides of, for a range that helps in no one direction.
        self.at: Mapping[str, Callable[[], tuple[int, ...]]] = {}
        self.reads: dict[tuple[str, str], None] = {}
        self.kit_read = False

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
        if name in CAPS:
            return inquiry.pick((self._place, name), value)
        return inquiry.of(self._place, name, value)

    def _look(self, name: str) -> tuple[bool, Any]:
        """(is it a plain value, the value or its domain)."""
        if name in CAPS:
            caps = self._known.caps(self._place, name)
            return (True, caps[0]) if len(caps) == 1 else (False, caps)
        if name in ("holds_mm", "accepted_cards") or name in attributes_of(type(self._shape)):
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
        known = self._known.densities
        if density in known.sure:
            return "yes"
        if density in known.reported:
            return "report"
        if known.closed:
            return "no"
        if self._known.as_usual:
            return "yes"
        return "yes" if self._inquiry.pick(("memory", "density_gbit", str(density)), (False, True)) else "no"

    def speed(self, modules: int) -> Cap:
        """The machine's own limit with that many socketed modules, in MT/s."""
        name = f"speed_by_modules.{modules}"
        self._inquiry.reads[("memory", name)] = None
        caps = self._known.caps("memory", name)
        cap: Cap = caps[0] if len(caps) == 1 else self._inquiry.pick(("memory", name), caps)
        return cap

    def takes_type(self, letter: str) -> bool:
        if self._known.as_usual and not self._known.machine.memory.module_types.claims:
            return True
        return letter in self.module_types


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
    return member.within(names) if isinstance(member, Name) else member in names


#: Fields that differ from part to part, and are asked about in comparisons. Only speed rests on this list.
_FIGURES, _NAMES = frozenset(("read_mb_s", "capacity_gb", "design_mwh")), frozenset(("number", "fru"))


class PartView:
    """A part, field by field: what it does not state could be anything its words allow."""

    __slots__ = ("_inquiry", "_part", "_place", "_trace", "_words")

    def __init__(self, inquiry: Inquiry, part: Fittable, place: str = "part", trace: Trace | None = None) -> None:
        self._inquiry, self._part, self._place, self._trace = inquiry, part, place, trace
        self._words = attributes_of(type(part))

    def __getattr__(self, name: str) -> Any:
        value = getattr(self._part, name)
        if name == "kind":
            return value  # a memo is for one kind of part
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
                    return value
        if value is not None and (words is None or words.tells(value)):
            return value
        if words is None:
            return None  # a field without which nothing is decided
        if self._trace is not None and (rests_on := _RESTS_ON.get(name)):
            self._trace.note(("=", rests_on), getattr(self._part, rests_on))
        self._inquiry.reads[(self._place, name)] = None
        return self._inquiry.of(self._place, name, part_domain(self._part, name, words), f"part.{name}")


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


class UnseenModule:
    """Whatever module runs in a socket nobody has looked into."""

    __slots__ = ("_inquiry", "_known", "_slot")

    def __init__(self, inquiry: Inquiry, known: Known, slot: MemorySlot) -> None:
        self._inquiry, self._known, self._slot = inquiry, known, slot

    @property
    def generation(self) -> int:
        return 0

    @property
    def capacity_gb(self) -> int:
        most = self._known.caps(self._slot.id, "limit_gb")[-1].most
        sizes = tuple(c for c in ddr.CAPACITIES_GB if c <= min(most, 64)) or (1,)
        value: int = self._inquiry.of(self._slot.id, "content.capacity_gb", Some(sizes), "held.capacity_gb")
        return value

    @property
    def grade_mts(self) -> int:
        value: int = self._inquiry.of(self._slot.id, "content.grade_mts", Some(_ALL_GRADES), "held.grade_mts")
        return value

    @property
    def profile_mts(self) -> None:
        return None


_ALL_GRADES = tuple(sorted({g for grades in ddr.GRADES.values() for g in grades}))


class BuildView:
    """The context of a verdict: what else is fitted or planned. Rules read of other slots only what rules.md
    section 1 names: capacity, rated speed, interface, number, and whether the bay is filled."""

    __slots__ = ("_build", "_inquiry", "_kit", "_slot", "_views", "boot", "memory", "part")

    def __init__(
        self, inquiry: Inquiry, build: "Build", slot: Slot | None, part: Any, kit: tuple[Accessory, ...] = ()
    ) -> None:
        known = build.known
        self._inquiry, self._build, self._slot = inquiry, build, slot
        self.memory = MemoryView(inquiry, known, "memory", known.machine.memory)
        self.boot = PlaceView(inquiry, known, "boot", known.machine.boot)
        self.part, self._kit = part, kit
        self._views: dict[str, Any] = {}

    @property
    def kit(self) -> tuple[Accessory, ...]:
        """The accessories bought for the slot at hand."""
        self._inquiry.kit_read = True
        return self._kit

    @property
    def school(self) -> Any:
        return self._build.stance

    @property
    def system(self) -> str:
        """The owner's system where the job names it."""
        return self._build.known.system

    @property
    def boots_here(self) -> bool:
        """Does the system start from the slot at hand?"""
        return self._slot is not None and self._build.boot_slot == self._slot.id

    @property
    def soldered(self) -> tuple[Any, ...]:
        return self._build.machine.memory.soldered

    @property
    def sockets(self) -> tuple[MemorySlot, ...]:
        return self._build.memory_slots

    @property
    def sightings(self) -> tuple[Any, ...]:
        return self._build.sightings

    @property
    def firmware(self) -> str:
        return self._build.firmware

    def serves(self, supplies: str, **sizes: Any) -> bool:
        """Is an accessory of that kind in the build for this slot, of just these sizes? One of unknown size
        serves nothing (rules.md section 1)."""
        return any(accessory_serves(a, supplies, sizes) for a in self.kit)

    def driver(self, part: Any) -> str:
        """How far the card's driver goes on the owner's system: full, an older standard only, or none."""
        for how, systems in (("full", part.drivers_full), ("older", part.drivers_older), ("none", part.drivers_none)):
            if self.system in systems:
                return how
        self._inquiry.reads[("part", "drivers")] = None
        return str(self._inquiry.pick(("part", "drivers"), ("none", "older", "full")))

    def made_by(self, maker: str) -> bool:
        """Is the machine's processor of this maker?"""
        processor = self._build.machine.configuration.processor.strip()
        if processor.lower() in ("", "unknown"):
            self._inquiry.reads[("configuration", "processor")] = None
            return bool(self._inquiry.pick(("configuration", "processor"), (False, True)))
        return f" {maker} ".lower() in f" {processor} ".lower()

    def content(self, slot_id: str, today: bool = False) -> Any:
        """What a slot holds in this build (or holds today): a part's view, or None for empty."""
        build = self._build
        if not today and self._slot is not None and slot_id == self._slot.id:
            return self.part
        held = build.fitted if today else {**build.fitted, **build.changes}
        if slot_id in held:
            part = held[slot_id]
            return None if part is None else PartView(self._inquiry, part, f"in {slot_id}")
        slot = build.known.slots[slot_id]
        self._inquiry.reads[("fitted", slot_id)] = None
        if not self._inquiry.pick(("fitted", slot_id), (False, True)):
            return None
        if isinstance(slot, MemorySlot):
            return UnseenModule(self._inquiry, build.known, slot)
        return UnseenPart(self._inquiry, slot)

    def modules(self, without_this: bool = False, today: bool = False) -> dict[str, Any]:
        """Socketed modules by slot; ``without_this`` leaves the slot at hand empty, ``today`` is what is in now."""
        found = {}
        for s in self.sockets:
            if without_this and self._slot is not None and s.id == self._slot.id:
                continue
            module = self.content(s.id, today)
            if module is not None and (today or isinstance(module, UnseenModule) or _is_module(module)):
                found[s.id] = module
        return found

    @property
    def exclusions(self) -> tuple[Any, ...]:
        return self._build.machine.machine.exclusions

    def effect(self, index: int) -> str:
        """What an exclusion does, of the machine's list."""
        exclusion = self.exclusions[index]
        self._inquiry.reads[("exclusion", str(index))] = None
        values = tuple(dict.fromkeys(c.value for c in exclusion.effect.claims if c.source is not Source.REPORTED))
        if len(values) == 1:
            return str(values[0])
        return str(self._inquiry.pick(("exclusion", str(index)), values or ("none", "x2", "x1", "filled", "off")))

    def slot_name(self, slot_id: str) -> str:
        return self._build.known.place_name(slot_id)

    def slot_kind(self, slot_id: str) -> type:
        return type(self._build.known.slots[slot_id])

    def slot_at(self, slot_id: str) -> PlaceView:
        """Another slot's own attributes."""
        if slot_id not in self._views:
            self._views[slot_id] = PlaceView(
                self._inquiry, self._build.known, slot_id, self._build.known.slots[slot_id]
            )
        view: PlaceView = self._views[slot_id]
        return view


#: Which end of a range makes more of what is measured: both ends are then all there is to know.
_MEASURED = {"part.read_mb_s": 1, "part.spreader_um": 1}


def possible(build: "Build", function: Callable[[BuildView], T]) -> list[T]:
    """Every answer a function of a build's values could have, the same one once."""
    inquiry = Inquiry()
    inquiry.helps = _MEASURED
    view = BuildView(inquiry, build, None, None)
    found: list[T] = []
    for outcome in inquiry.all(lambda: function(view)):
        if outcome.answer not in found:
            found.append(outcome.answer)
    return found


def certain(build: "Build", function: Callable[[BuildView], T]) -> T | None:
    """The answer where there is only one; None while it could be several."""
    found = possible(build, function)
    return found[0] if len(found) == 1 else None


class UnseenPart:
    """Whatever sits in a slot of another kind that nobody has looked into."""

    __slots__ = ("_inquiry", "_slot")

    def __init__(self, inquiry: Inquiry, slot: Slot) -> None:
        self._inquiry, self._slot = inquiry, slot

    @property
    def kind(self) -> str:
        return {"bay": "bay_drive"}.get(self._slot.kind, self._slot.kind)

    @property
    def interface(self) -> str:
        return str(self._inquiry.pick((self._slot.id, "content.interface"), ("pcie", "sata")))

    form = "m2"
    keys = ("M",)

    @property
    def lanes(self) -> int:
        return int(self._inquiry.pick((self._slot.id, "content.lanes"), (1, 4)))

    @property
    def generation(self) -> int:
        return int(self._inquiry.pick((self._slot.id, "content.generation"), (1, 5)))

    @property
    def read_mb_s(self) -> int:
        return int(self._inquiry.pick((self._slot.id, "content.read_mb_s"), (0, 100_000)))

    @property
    def fills_bay(self) -> bool:
        return bool(self._inquiry.pick((self._slot.id, "content.fills_bay"), (False, True)))


def _is_module(view: Any) -> bool:
    return isinstance(getattr(view, "_part", None), MemoryModule)


def accessory_serves(accessory: Accessory, supplies: str, sizes: Mapping[str, Any]) -> bool:
    """Is an accessory of that kind and of just these sizes? Sizes that are sets name what would do."""
    if accessory.supplies != supplies:
        return False
    for name, wanted in sizes.items():
        has = getattr(accessory, name)
        if has is None or (has not in wanted if isinstance(wanted, tuple) else has != wanted):
            return False
    return True


__all__ = [
    "NO_END",
    "BaySlot",
    "BuildView",
    "CardSocket",
    "Inquiry",
    "MemoryView",
    "Outcome",
    "PartView",
    "PlaceView",
    "TooMany",
    "certain",
    "possible",
]
