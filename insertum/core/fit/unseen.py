"""What stands in for a part nobody has looked at: whatever runs in a socket, lies on the board, or sits in a slot."""

from ..known.domain import Some
from ..known.known import Known
from ..machine.memory_system import MemorySlot, Soldered
from ..machine.shape import Slot
from ..standards import ddr
from .enumeration import Inquiry


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
    def fast(self) -> bool:
        """Does it read all that its place carries, or next to nothing?"""
        return bool(self._inquiry.pick((self._slot.id, "content.fast"), (False, True)))

    @property
    def capacity_gb(self) -> int:
        return int(self._inquiry.pick((self._slot.id, "content.capacity_gb"), DRIVE_SIZES_GB))

    @property
    def fills_bay(self) -> bool:
        return bool(self._inquiry.pick((self._slot.id, "content.fills_bay"), (False, True)))
