"""What a build needs beside its parts: worked out from what changes, offered as parts with prices."""

from collections.abc import Iterable, Iterator, Sequence

from ..frozen import Frozen
from ..machine.card_sockets import DriveSlot, RadioSlot
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.part import Accessory
from ..machine.radio_parts import Radio
from ..standards import pad
from ..verdict import AccessoryNeed
from .build import Build
from .views import accessory_serves


class Extra(Frozen):
    """One thing a build wants. ``offers`` are catalogue numbers that serve, cheapest first; ``have``
    says when the workshop's own would do."""

    what: str
    why: str
    offers: tuple[str, ...]
    price_minor: int | None
    have: str = ""


def extras(build: Build, shelf: Sequence[Accessory]) -> tuple[Extra, ...]:
    """Enclosure, sticks, screws and pads the build wants beside what its verdicts already hold."""
    return tuple(_all(build, shelf))


def _all(build: Build, shelf: Sequence[Accessory]) -> Iterator[Extra]:
    changed = build.changed()
    old, new = build.fitted.get(build.boot_slot), build.now(build.boot_slot)
    moved = build.boot_slot in changed or build.boot_slot != build.boots_today
    if moved and isinstance(new, M2Drive | BayDrive):
        source = old if isinstance(old, M2Drive | BayDrive) else build.fitted.get(build.boots_today)
        both = any(build.now(s.id) is source for s in build.machine.slots) if source else False
        if source is not None and not both:
            takes = "pcie" if isinstance(new, M2Drive) and new.interface == "pcie" else "sata"
            bay = isinstance(new, BayDrive)
            fitting = [a for a in shelf if a.supplies == "enclosure" and a.takes == takes and ("2.5" in a.name) == bay]
            yield _extra("An enclosure for the clone", "No slot is free for both drives while the old one is copied.",
                         fitting, "not for a clean install")  # fmt: skip
        sticks = [a for a in shelf if a.supplies == "stick"]
        yield _extra("A boot stick, 8 GB or more", "The system drive changes: a clean install or the clone starts from it.",
                     sticks, "the workshop's own, if it is made")  # fmt: skip
    radio = [s for s in changed if isinstance(build.machine.slot(s), RadioSlot) and isinstance(build.now(s), Radio)]
    if radio:
        sticks = [a for a in shelf if a.supplies == "stick"]
        yield _extra("A driver stick", "A new Wi-Fi card may have no driver, and then no network to fetch one.", sticks,
                     "a wired adapter serves too")  # fmt: skip
    for slot_id in changed:
        slot, part = build.machine.slot(slot_id), build.now(slot_id)
        if (
            isinstance(slot, DriveSlot)
            and isinstance(part, M2Drive)
            and slot.form == "m2"
            and build.fitted.get(slot_id) is None
        ):
            gap = build.known.value(slot_id, "pad_gap_um")
            if (
                build.known.value(slot_id, "cooled") in ("above", "both")
                and gap
                and not build.has_accessory(slot_id, "pad")
            ):
                size = pad.pad_for(gap)
                fitting = [a for a in shelf if a.supplies == "pad" and a.thickness_um == size]
                if size:
                    yield _extra(f"A {size / 1000:g} mm pad for {slot.name}", f"The gap to the shield is {gap / 1000:g} mm and the slot was empty.",
                                 fitting, "if none lies under the shield")  # fmt: skip


def _extra(what: str, why: str, fitting: Sequence[Accessory], have: str) -> Extra:
    offered = sorted((a for a in fitting if a.price_minor is not None), key=lambda a: (a.price_minor or 0, a.number))
    return Extra(
        what=what,
        why=why,
        offers=tuple(a.number for a in offered),
        price_minor=offered[0].price_minor if offered else None,
        have=have,
    )


def cheapest(need: AccessoryNeed, shelf: Iterable[Accessory], family: str) -> Accessory | None:
    """The cheapest offered accessory that meets a need in this machine; None when there is none."""
    fitting = [
        a
        for a in shelf
        if accessory_serves(a, need.supplies, need.sizes)
        and (not a.families or family in a.families)
        and a.price_minor is not None
    ]
    return min(fitting, key=lambda a: (a.price_minor or 0, a.number), default=None)
