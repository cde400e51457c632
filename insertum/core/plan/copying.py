"""Clone or clean install: how the system gets onto a new system drive (rules.md section 7)."""

from typing import Literal

from ..fit.build import Build
from ..fit.figures import rate_span
from ..machine.part import BayDrive, M2Drive
from ..machine.shape import BaySlot, DriveSlot
from ..standards import clone
from .candidates import Market
from .request import Use
from .result import CopyPath

#: A stick that holds an installer or a live system.
STICK_GB = 8


def copy_path(today: Build, build: Build, use: Use, market: Market) -> CopyPath | None:
    """The path of a copy for a build that moves the system to a new drive; None where it stays where it is, or where
    there is nothing to copy."""
    new = build.now(build.boot_slot) if build.boot_slot else None
    if not isinstance(new, M2Drive | BayDrive) or build.boot_slot not in build.changed():
        return None
    source = today.now(today.boot_slot) if today.boot_slot else None
    if not isinstance(source, M2Drive | BayDrive):
        return CopyPath(
            path="slot", says="A clean install: no system drive that is known is there to copy from.", minutes=None,
            needs_gb=None, fits=None, must=(_stick(),), clean=_clean(),
        )  # fmt: skip
    side_by_side = (
        any(build.now(s.id) is source for s in build.machine.slots if isinstance(s, DriveSlot | BaySlot))
        and today.boot_slot not in build.changed()
    )
    path: Literal["slot", "usb5", "usb10"]
    buys: tuple[str, ...] = ()
    if side_by_side:
        path, says = "slot", "Both drives are in the machine while it is copied: no enclosure."
    else:
        takes = "pcie" if isinstance(new, M2Drive) and new.interface == "pcie" else "sata"
        bay = isinstance(new, BayDrive)
        fitting = [
            a for a in market.accessories
            if a.supplies == "enclosure" and a.takes == takes and ("2.5" in a.name) == bay and a.price_minor is not None
        ]  # fmt: skip
        path = "usb10" if takes == "pcie" else "usb5"
        says = "The new drive takes the old one's place: it is copied over an enclosure first."
        cheapest = min(fitting, key=lambda a: (a.price_minor or 0, a.number), default=None)
        buys = (
            f"enclosure {cheapest.number}" if cheapest else "an enclosure for the new drive, none is in the catalogue",
        )
    return _timed(today, build, use, new, source, path, says, buys)


def _timed(
    today: Build, build: Build, use: Use, new: M2Drive | BayDrive, source: M2Drive | BayDrive,
    path: Literal["slot", "usb5", "usb10"], says: str,
    buys: tuple[str, ...],
) -> CopyPath:  # fmt: skip
    reads = rate_span(today, today.boot_slot)
    writes = new.write_mb_s
    minutes = needs = fits = None
    if use.used_gb is not None:
        used = use.used_gb
        needs = round(used * (100 + clone.ROOM_PERCENT) / 100, 1)
        fits = new.capacity_gb >= needs
        if reads is not None and reads[0] and writes:
            found = clone.clone(used, source.capacity_gb, new.capacity_gb, reads[0], writes, path, "files")
            minutes, needs, fits = found.minutes, found.needs_gb, found.fits
    room = f"{needs:g} GB with a tenth of room" if needs is not None else "what is used, with a tenth of room"
    must = (
        f"The target holds {room}; {new.capacity_gb} GB it has.",
        "Encryption is suspended and the recovery key is at hand.",
        _stick(),
    )
    return CopyPath(
        path=path, says=says, minutes=minutes, needs_gb=needs, fits=fits, buys=buys, must=must, clean=_clean()
    )


def _stick() -> str:
    return f"A boot stick of {STICK_GB} GB or more."


def _clean() -> tuple[str, ...]:
    return (
        f"An installer on a stick of {STICK_GB} GB or more",
        "the owner's files from the backup",
        "licences and accounts at hand",
    )
