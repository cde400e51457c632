"""What is known of a slot's content, and how well: the grades of rules.md section 2."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from ..machine.part import Fittable
from ..machine.shape import Configured, Slot
from ..standards.pcie import Link


class Grade(StrEnum):
    """``WORKS``: read or seen working in this very machine today. ``SEEN``: looked at with the cover off.
    ``DELIVERED``: the maker's own fit in this exact configuration."""

    WORKS = "works"
    SEEN = "seen"
    DELIVERED = "delivered"


@dataclass(frozen=True, slots=True)
class Evidence:
    """One part in one slot, by one grade. ``running`` and ``port`` are the link as it was read and what its slot's
    end could do; ``bluetooth`` whether the card's Bluetooth showed up on USB; ``chains_dbm`` the signal on each
    antenna at a few metres; ``boots`` that the system started from it. ``lies_flat`` and ``leads`` are what somebody saw
    with the cover off: the card lies flat with nothing beneath and the cover closes over it without touching; so many
    antenna leads end here."""

    slot: Slot
    part: Fittable
    grade: Grade
    running: Link | None = None
    port: Link | None = None
    bluetooth: bool | None = None
    chains_dbm: tuple[int, ...] = ()
    boots: bool = False
    lies_flat: bool | None = None
    leads: int | None = None


@dataclass(frozen=True)
class Signs:
    """What a reading or a look tells of a slot beside its part."""

    running: Link | None = None
    port: Link | None = None
    bluetooth: bool | None = None
    chains_dbm: tuple[int, ...] = ()
    lies_flat: bool | None = None
    leads: int | None = None


@dataclass(frozen=True)
class Contents:
    """What is in each slot today: a part, None for empty; a slot that is not named is one nobody has looked into.
    ``grades`` say how well each is known; without a word it is the maker's delivery, taken to be there still."""

    fitted: Mapping[str, Fittable | None]
    grades: Mapping[str, frozenset[Grade]] = field(default_factory=dict)
    signs: Mapping[str, Signs] = field(default_factory=dict)
    boot_slot: str = ""


def evidence(machine: Configured, contents: Contents) -> Iterator[Evidence]:
    """Everything that runs, was seen or was delivered in this machine."""
    for slot in machine.slots:
        part, grades = contents.fitted.get(slot.id), contents.grades.get(slot.id, frozenset())
        signs = contents.signs.get(slot.id, Signs())
        if part is not None:
            for grade in sorted(grades - {Grade.DELIVERED}):
                yield Evidence(
                    slot, part, grade, signs.running, signs.port, signs.bluetooth, signs.chains_dbm,
                    boots=grade is Grade.WORKS and slot.id == contents.boot_slot,
                    lies_flat=signs.lies_flat, leads=signs.leads,
                )  # fmt: skip
        if slot.fitted is not None and slot.looked:
            yield Evidence(slot, slot.fitted, Grade.DELIVERED, boots=slot.id == machine.machine.boot_slot)
