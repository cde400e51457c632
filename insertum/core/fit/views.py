"""The views: what a rule is given to read of a place, a part and a build, one value at a time."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, TypeVar

from ..known.deduce import NO_ID
from ..known.domain import Anything, Lot, Some, Span
from ..known.known import CAPS, DERIVED, Known
from ..known.school import Cap
from ..machine.attribute import Attribute, attributes_of
from ..machine.claim import Source
from ..machine.part import Accessory, Fittable, MemoryModule
from ..machine.shape import Exclusion, MemorySlot, Slot, Soldered
from ..standards import ddr
from .build import Build
from .enumeration import Complete, Inquiry, Outcome, Unread
from .read_trace import Figure, Name, Trace, is_one_of
from .shape_facts import (
    AnyPartFacts,
    AnySlotFacts,
    BootFacts,
    DrivePlaceFacts,
    MemoryModuleFacts,
    MemorySlotFacts,
    MemorySystemFacts,
    RadioFacts,
    RadioSlotFacts,
)  # fmt: skip

T = TypeVar("T")


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
        sizes = Some(unseen_sizes(self._known, self._slot.id))
        value: int = self._inquiry.of(self._slot.id, "content.capacity_gb", sizes, "held.capacity_gb")
        return value

    @property
    def grade_mts(self) -> int:
        value: int = self._inquiry.of(self._slot.id, "content.grade_mts", Some(ALL_GRADES), "held.grade_mts")
        return value

    @property
    def profile_mts(self) -> None:
        return None


def unseen_sizes(known: Known, slot: str) -> tuple[int, ...]:
    """What a module in a socket nobody has looked into may hold, in GB."""
    most = known.caps(slot, "limit_gb")[-1].most
    return tuple(c for c in ddr.CAPACITIES_GB if c <= min(most, 64)) or (1,)


class SolderedView:
    """Chips on the board of which the rating or the channel is not known."""

    __slots__ = ("_inquiry", "_of", "_place")

    def __init__(self, inquiry: Inquiry, number: int, of: Soldered) -> None:
        self._inquiry, self._of, self._place = inquiry, of, f"soldered.{number}"

    @property
    def capacity_gb(self) -> int:
        return self._of.capacity_gb

    @property
    def rated_mts(self) -> int:
        if self._of.rated_mts is not None:
            return self._of.rated_mts
        value: int = self._inquiry.of("memory", f"{self._place}.rated_mts", Some(ALL_GRADES), "held.grade_mts")
        return value

    @property
    def channel(self) -> str:
        if self._of.channel is not None:
            return self._of.channel
        value: str = self._inquiry.of("memory", f"{self._place}.channel", Some(ddr.CHANNELS))
        return value


ALL_GRADES = tuple(sorted({g for grades in ddr.GRADES.values() for g in grades}))


class BuildView:
    """The context of a verdict: what else is fitted or planned. Rules read of other slots only what rules.md
    section 1 names: capacity, rated speed, interface, number, and whether the bay is filled."""

    __slots__ = ("_boot", "_build", "_inquiry", "_kit", "_memory", "_slot", "_views", "part")

    def __init__(
        self, inquiry: Inquiry, build: Build, slot: Slot | None, part: Any, kit: tuple[Accessory, ...] = ()
    ) -> None:
        self._inquiry, self._build, self._slot = inquiry, build, slot
        self._memory: Any = None
        self._boot: Any = None
        self.part, self._kit = part, kit
        self._views: dict[str, Any] = {}

    @property
    def memory(self) -> MemorySystemFacts:
        if self._memory is None:
            known = self._build.known
            self._memory = MemoryView(self._inquiry, known, "memory", known.machine.memory)
        memory: MemorySystemFacts = self._memory
        return memory

    @property
    def boot(self) -> BootFacts:
        if self._boot is None:
            known = self._build.known
            self._boot = PlaceView(self._inquiry, known, "boot", known.machine.boot)
        boot: BootFacts = self._boot
        return boot

    @property
    def slots(self) -> tuple[Slot, ...]:
        """The machine's slots."""
        return self._build.machine.slots

    @property
    def boots(self) -> str:
        """The slot the system starts from, '' for none."""
        self._inquiry.boot_read = True
        return self._build.boot_slot

    def either(self, key: tuple[Any, ...], options: tuple[Any, ...]) -> Any:
        """One of several possibilities of something no attribute speaks of: the same for the same key."""
        return self._inquiry.pick(key, options)

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
        self._inquiry.boot_read = True
        return self._slot is not None and self._build.boot_slot == self._slot.id

    @property
    def soldered(self) -> tuple[Any, ...]:
        """What is on the board; a rating or channel nobody has told is each it could be."""
        return tuple(
            s if s.rated_mts is not None and s.channel is not None else SolderedView(self._inquiry, n, s)
            for n, s in enumerate(self._build.machine.memory.soldered)
        )

    @property
    def sockets(self) -> tuple[MemorySlot, ...]:
        return self._build.memory_slots

    @property
    def sightings(self) -> tuple[Any, ...]:
        return self._build.sightings

    @property
    def firmware(self) -> str:
        """The machine's firmware: each version proofs name, and "" for any other, where it was not read."""
        return firmware_of(self._inquiry, self._build.known).firmware

    def serves(self, supplies: str, **sizes: Any) -> bool:
        """Is an accessory of that kind in the build for this slot, of just these sizes? One of unknown size
        serves nothing (rules.md section 1)."""
        machine = self._build.machine.machine.id
        return any(accessory_serves(a, supplies, sizes) and (not a.families or machine in a.families) for a in self.kit)

    def driver(self, part: RadioFacts) -> str:
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

    def content(self, slot_id: str, today: bool = False) -> AnyPartFacts | None:
        """What a slot holds in this build (or holds today), None for empty."""
        held: AnyPartFacts | None = self._content(slot_id, today)
        return held

    def _content(self, slot_id: str, today: bool) -> Any:
        build = self._build
        if not today and self._slot is not None and slot_id == self._slot.id:
            return self.part
        held = build.fitted if today else {**build.fitted, **build.changes}
        if slot_id in held:
            part = held[slot_id]
            # What is bought is not what is there: what is unknown of one tells nothing of the other.
            where = "in" if today or slot_id not in build.changes else "new"
            return None if part is None else PartView(self._inquiry, part, f"{where} {slot_id}")
        slot = build.known.slots[slot_id]
        self._inquiry.reads[("fitted", slot_id)] = None
        if not self._inquiry.pick(("fitted", slot_id), (False, True)):
            return None
        if isinstance(slot, MemorySlot):
            return UnseenModule(self._inquiry, build.known, slot)
        return UnseenPart(self._inquiry, slot)

    def modules(self, without_this: bool = False, today: bool = False) -> dict[str, MemoryModuleFacts]:
        """Socketed modules by slot; ``without_this`` leaves the slot at hand empty, ``today`` is what is in now."""
        found = {}
        for s in self.sockets:
            if without_this and self._slot is not None and s.id == self._slot.id:
                continue
            module = self._content(s.id, today)
            if module is not None and (today or isinstance(module, UnseenModule) or _is_module(module)):
                found[s.id] = module
        return found

    @property
    def exclusions(self) -> tuple[Exclusion, ...]:
        return self._build.machine.machine.exclusions

    def effect(self, index: int) -> str:
        """What an exclusion does, of the machine's list. One that today's working parts contradict does not hold for
        them."""
        exclusion = self.exclusions[index]
        self._inquiry.reads[("exclusion", str(index))] = None
        values = tuple(dict.fromkeys(c.value for c in exclusion.effect.claims if c.source is not Source.REPORTED))
        values = values or ("none", "x2", "x1", "filled", "off")
        if index in self._build.known.contradicted and self._as_today(exclusion.when) and self._as_today(exclusion.on):
            values = tuple(v for v in values if not self._disproved(exclusion.on, v)) or ("none",)
        if len(values) == 1:
            return str(values[0])
        return str(self._inquiry.pick(("exclusion", str(index)), values))

    def _as_today(self, slot_id: str) -> bool:
        """Does the slot hold in this build what it holds today?"""
        today = self._build.fitted.get(slot_id)
        if self._slot is not None and slot_id == self._slot.id and self.part is not None:
            return today is not None and is_one_of(self.part.number, frozenset((today.number,)))
        return today is not None and self._build.now(slot_id) == today

    def _disproved(self, slot_id: str, effect: str) -> bool:
        """Could the part not work there as it was read to, were this the effect?"""
        if effect in ("off", "filled"):
            return True
        signs = self._build.known.contents.signs.get(slot_id)
        lanes = {"x1": 1, "x2": 2}.get(effect)
        return lanes is not None and signs is not None and signs.running is not None and signs.running.lanes > lanes

    def runs_at_least(self, modules: Mapping[str, Any]) -> int:
        """What such modules in such sockets were read to run at, 0 where nobody read it."""
        known = self._build.known
        if not known.read_mts:
            return 0
        return known.runs_at_least(
            {s: m.stated("ranks") if isinstance(m, PartView) else None for s, m in modules.items()}
        )

    def slot_name(self, slot_id: str) -> str:
        return self._build.known.place_name(slot_id)

    def slot_kind(self, slot_id: str) -> type:
        return type(self._build.known.slots[slot_id])

    def slot_at(self, slot_id: str) -> AnySlotFacts:
        """Another slot's own attributes."""
        at: AnySlotFacts = self._slot_at(slot_id)
        return at

    def socket_at(self, slot_id: str) -> MemorySlotFacts:
        """Those of a memory socket."""
        at: MemorySlotFacts = self._slot_at(slot_id)
        return at

    def drive_place_at(self, slot_id: str) -> DrivePlaceFacts:
        """Those of a place for a drive."""
        at: DrivePlaceFacts = self._slot_at(slot_id)
        return at

    def radio_place_at(self, slot_id: str) -> RadioSlotFacts:
        """Those of a place for a radio."""
        at: RadioSlotFacts = self._slot_at(slot_id)
        return at

    def _slot_at(self, slot_id: str) -> Any:
        if slot_id not in self._views:
            self._views[slot_id] = PlaceView(
                self._inquiry, self._build.known, slot_id, self._build.known.slots[slot_id]
            )
        return self._views[slot_id]


#: Which end of a range makes more of what is measured: both ends are then all there is to know.
_MEASURED = {"part.read_mb_s": 1, "part.spreader_um": 1}
#: The same where two builds are compared. What a module nobody has seen is rated moves what is gained one way up to
#: the rate of the others, and the other way beyond: the least is at an end.
_COMPARED = {**_MEASURED, "held.grade_mts": 1}


def possible(build: Build, function: Callable[[BuildView], T]) -> list[T]:
    """Every answer a function of a build's values could have, the same one once."""
    inquiry = Inquiry()
    inquiry.helps = _MEASURED
    view = BuildView(inquiry, build, None, None)
    found: list[T] = []
    for outcome in inquiry.all(lambda: function(view)):
        if outcome.answer not in found:
            found.append(outcome.answer)
    return found


def possibilities(builds: "Sequence[Build]", function: Callable[..., T]) -> list[Outcome[T]]:
    """A function of several builds of one machine over everything that could be: what is unknown is the same in all of
    them at once. Raises :class:`TooMany`."""
    inquiry = Inquiry()
    inquiry.helps = _COMPARED
    views = [BuildView(inquiry, b, None, None) for b in builds]
    return inquiry.all(lambda: function(*views))


def certain(build: Build, function: Callable[[BuildView], T]) -> T | None:
    """The answer where there is only one; None while it could be several."""
    found = possible(build, function)
    return found[0] if len(found) == 1 else None


#: Sizes drives are sold in: what sits where nobody has looked is one of these.
DRIVE_SIZES_GB = (
    16,
    32,
    64,
    120,
    128,
    240,
    250,
    256,
    480,
    500,
    512,
    960,
    1000,
    1024,
    1920,
    2000,
    2048,
    4000,
    8000,
    16000,
)


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
    def capacity_gb(self) -> int:
        return int(self._inquiry.pick((self._slot.id, "content.capacity_gb"), DRIVE_SIZES_GB))

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
