"""Clone or clean install: how the system gets onto a new system drive (rules.md section 7)."""

from fractions import Fraction
from typing import Literal, NamedTuple

from ..fit.build import Build
from ..fit.figures import rate_span
from ..machine.drive_parts import BayDrive, M2Drive
from ..standards import clone
from .candidates import Market
from .need import exact
from .request import Terms, Use
from .result import CopyPath

#: A stick that holds an installer or a live system.
STICK_GB = 8


class Copied(NamedTuple):
    """What a new system drive has to hold of the old one, in GB with the room a copy wants: where the old drive stays in
    the machine its system's volumes, where it leaves all that is on it."""

    stays: Fraction
    leaves: Fraction

    def wants(self, leaves: bool) -> Fraction:
        return self.leaves if leaves else self.stays


def copied(today: Build, counted: Build, use: Use, terms: Terms) -> Copied | None:
    """What is copied when the system moves to a new drive; None where nothing is: a clean install, a dead source, or none
    that is known. What nobody knows to be used counts as the whole drive (rules.md section 7)."""
    source = today.now(today.boot_slot) if today.boot_slot else None
    if terms.clean_install or not isinstance(source, M2Drive | BayDrive) or counted.now(today.boot_slot) is None:
        return None
    held = Fraction(source.capacity_gb)
    every = held if use.used is None else min(use.used, held)
    system = every if use.system_gb is None else min(exact(use.system_gb), every)
    room = Fraction(100 + clone.ROOM_PERCENT, 100)
    return Copied(system * room, every * room)


def copy_path(today: Build, counted: Build, build: Build, use: Use, terms: Terms, market: Market) -> CopyPath | None:
    """The path of a copy for a build that moves the system to a new drive; None where it stays where it is. ``counted`` is
    today's build without what is dead."""
    new = build.now(build.boot_slot) if build.boot_slot else None
    if not isinstance(new, M2Drive | BayDrive) or build.boot_slot not in build.changed():
        return None
    moved = copied(today, counted, use, terms)
    source = today.now(today.boot_slot) if today.boot_slot else None
    if not isinstance(source, M2Drive | BayDrive):
        return _anew("no system drive that is known is there to copy from")
    if moved is None:
        dead = counted.now(today.boot_slot) is None
        return _anew(
            "the old drive does not work, and nothing is copied from a dead one" if dead else "as this job says"
        )
    stays = today.boot_slot not in build.changed()
    if stays:
        path: Literal["slot", "usb5", "usb10"] = "slot"
        return _timed(
            today, use, moved, new, source, path, "Both drives are in the machine while it is copied: no enclosure.", ()
        )
    takes = "pcie" if isinstance(new, M2Drive) and new.interface == "pcie" else "sata"
    bay = isinstance(new, BayDrive)
    fitting = [
        a for a in market.accessories
        if a.supplies == "enclosure" and a.takes == takes and ("2.5" in a.name) == bay and a.price_minor is not None
    ]  # fmt: skip
    path = "usb10" if takes == "pcie" else "usb5"
    says = "The new drive takes the old one's place: it is copied over an enclosure first."
    if build.boot_slot != today.boot_slot:
        says = (
            "The old drive leaves: it is copied before it comes out, over an enclosure where the new one is not in yet."
        )
    cheapest = min(fitting, key=lambda a: (a.price_minor or 0, a.number), default=None)
    buys = (f"enclosure {cheapest.number}" if cheapest else "an enclosure for the new drive, none is in the catalogue",)
    return _timed(today, use, moved, new, source, path, says, buys)


def _anew(why: str) -> CopyPath:
    """Nothing is copied: the system is installed."""
    return CopyPath(
        path="slot", says=f"A clean install: {why}.", minutes=None, needs_gb=None, fits=None, must=(_stick(),), clean=_clean()
    )  # fmt: skip


def _timed(
    today: Build, use: Use, moved: Copied, new: M2Drive | BayDrive, source: M2Drive | BayDrive,
    path: Literal["slot", "usb5", "usb10"], says: str, buys: tuple[str, ...],
) -> CopyPath:  # fmt: skip
    wants = moved.wants(leaves=path != "slot")
    reads, writes, minutes = rate_span(today, today.boot_slot), new.write_mb_s, None
    told = use.used is not None or (path == "slot" and use.system_gb is not None)
    if told and reads is not None and reads[0] and writes:
        amount = float(wants * 100 / (100 + clone.ROOM_PERCENT))
        minutes = clone.clone(amount, source.capacity_gb, new.capacity_gb, reads[0], writes, path, "files").minutes
    room = f"{float(wants):.4g} GB with a tenth of room"
    if not told:
        room = f"{room} (nobody knows how much is used: the whole old drive)"
    must = (
        f"The target holds {room}; {new.capacity_gb} GB it has.",
        "Encryption is suspended and the recovery key is at hand.",
        _stick(),
    )
    return CopyPath(
        path=path, says=says, minutes=minutes, needs_gb=round(float(wants), 1), fits=new.capacity_gb >= wants, buys=buys,
        must=must, clean=_clean(),
    )  # fmt: skip


def _stick() -> str:
    return f"A boot stick of {STICK_GB} GB or more."


def _clean() -> tuple[str, ...]:
    return (
        f"An installer on a stick of {STICK_GB} GB or more",
        "the owner's files from the backup",
        "licences and accounts at hand",
    )
