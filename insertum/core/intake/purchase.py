"""Before a machine is bought: what is soldered or left out at the factory, and so is chosen now."""

from collections.abc import Iterator

from ..frozen import Frozen
from ..known.known import Known, as_delivered
from ..machine.attribute import listed
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ..machine.claim import Limits
from ..machine.memory_system import MemorySlot
from ..machine.shape import Configured, Slot
from ..machine.slot_base import Presence


class PurchaseAdvice(Frozen):
    """``now`` is True for what can only be chosen at the factory, False for what can wait."""

    what: str
    now: bool
    says: str


def advice(machine: Configured) -> tuple[PurchaseAdvice, ...]:
    """What to choose at the factory and what to leave for later, for one configuration, with whatever was measured on
    this machine laid over it."""
    return tuple(sorted(_all(machine), key=lambda a: not a.now))


def _all(machine: Configured) -> Iterator[PurchaseAdvice]:
    known = as_delivered(machine, Limits.DOCUMENTED)
    yield from _memory(machine, known)
    yield PurchaseAdvice(
        what="Processor", now=True, says="Soldered: it decides memory ceiling and drive links. Choose it now."
    )
    if machine.configuration.graphics.startswith("own"):
        yield PurchaseAdvice(what="Graphics", now=True, says="Soldered: choose it now.")
    for slot in machine.slots:
        yield from _slot(slot, known)


def _memory(machine: Configured, known: Known) -> Iterator[PurchaseAdvice]:
    sockets = [s for s in machine.slots if isinstance(s, MemorySlot)]
    soldered = sum(s.capacity_gb for s in machine.memory.soldered)
    ceiling = known.limit("memory", "total_limit_gb").value
    if soldered and not sockets:
        yield PurchaseAdvice(
            what="Memory", now=True, says=f"All {soldered} GB are soldered and there is no socket: choose it now."
        )
    elif sockets:
        most = f", up to {ceiling} GB in all" if ceiling else "; the ceiling is unknown"
        fixed = f"{soldered} GB are soldered, the rest sits" if soldered else "It sits"
        yield PurchaseAdvice(
            what="Memory",
            now=False,
            says=f"{fixed} in {len(sockets)} socket{'s' if len(sockets) > 1 else ''}{most}: can wait.",
        )
    channels = {s.channel for s in machine.memory.soldered}
    if len(channels) == 1 and None not in channels and len(sockets) == 1:
        yield PurchaseAdvice(
            what="Memory channels",
            now=True,
            says="Soldered memory fills one channel: its size decides how much ever runs in two.",
        )


def _slot(slot: Slot, known: Known) -> Iterator[PurchaseAdvice]:
    match slot:
        case DriveSlot() if slot.form == "soldered":
            size = f", {slot.fitted.capacity_gb} GB" if slot.fitted and slot.fitted.kind == "m2_drive" else ""
            yield PurchaseAdvice(
                what=slot.name, now=True, says=f"Soldered storage{size}: it never grows. Choose it now."
            )
        case DriveSlot():
            yield PurchaseAdvice(what=slot.name, now=False, says="A slot: the drive can wait.")
        case RadioSlot() if slot.form == "soldered":
            yield PurchaseAdvice(what=slot.name, now=True, says="The Wi-Fi card is soldered: choose it now.")
        case RadioSlot():
            yield _wifi(slot, known)
        case CellularSlot():
            yield from _modem(slot, known)
        case BaySlot():
            parts = ("caddy", "ribbon", "screws")
            lacking = [n for n in parts if known.value(slot.id, n) != Presence.PRESENT]
            wants = f" Ask for {', '.join(lacking)} with it." if lacking else ""
            yield PurchaseAdvice(what=slot.name, now=bool(lacking), says=f"A bay: the drive can wait.{wants}")
        case BatterySlot():
            packs = known.value(slot.id, "accepts") or ()
            if known.value(slot.id, "held_by") == "glue":
                yield PurchaseAdvice(what=slot.name, now=True, says="The pack is glued: take the largest now.")
            elif len(packs) > 1:
                yield PurchaseAdvice(what=slot.name, now=False, says=f"{len(packs)} packs fit: can wait.")
        case _:
            pass


def _wifi(slot: RadioSlot, known: Known) -> PurchaseAdvice:
    leads = known.value(slot.id, "leads")
    few = {
        0: "; no antenna reaches it, and antennas come from the factory",
        1: "; with one antenna lead, two streams need the second one from the factory",
        None: "; how many antenna leads reach it is not known: ask, for they come from the factory",
    }.get(leads, "")
    policy = known.value(slot.id, "card_policy")
    picky = " The firmware takes listed cards only." if policy == "listed" else ""
    return PurchaseAdvice(what=slot.name, now=leads in (0, 1), says=f"A slot: the card can wait{few}.{picky}")


def _modem(slot: CellularSlot, known: Known) -> Iterator[PurchaseAdvice]:
    tray, leads = known.value(slot.id, "sim_tray"), known.value(slot.id, "leads")
    if tray == Presence.MISSING or (leads is not None and leads < 4):
        yield PurchaseAdvice(
            what=slot.name, now=True, says="Antennas and SIM tray come from the factory only: order them now or never."
        )
    elif tray is None or leads is None:
        open_ = listed([w for w, v in (("antennas", leads), ("a SIM tray", tray)) if v is None])
        yield PurchaseAdvice(
            what=slot.name,
            now=True,
            says=f"Nobody has said whether it has {open_}: ask first, they come from the factory only.",
        )
