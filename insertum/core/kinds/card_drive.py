"""Drives on a card: M.2, mSATA, and storage soldered to the board."""

from ..fit.build import Build
from ..machine.drive_parts import M2Drive
from .base import CARD_COLUMNS, Moves
from .cards import CardKind
from .drives import DriveKind


class CardDrive(CardKind[M2Drive], DriveKind[M2Drive]):
    id = "m2_drive"
    word, plural = "card drive", "card drives"
    slots = ("m2_drive",)
    rules = ("card.", "mini.", "m2.", "drive.", "boot.")
    columns = (
        *CARD_COLUMNS, "capacity_gb", "interface", "generation", "lanes", "read_mb_s", "write_mb_s", "tbw", "needs_cooling", "spinning",
    )  # fmt: skip
    form = ("code", "capacity_gb", "interface", "generation", "lanes", "read_mb_s", "needs_cooling")

    def detail(self, part: M2Drive) -> str:
        bus = part.link or {"emmc": "eMMC", "sata": "mSATA" if part.form == "mini" else "SATA"}.get(
            part.interface or "", "interface unknown"
        )
        return f"{part.capacity_gb} GB {bus}"

    def moves(self) -> Moves:
        return Moves(
            "Undo the standoff screw, let the drive rise, draw it out.",
            "Slide in at an angle, press down, one screw. Pad and shield go back on.",
        )

    def figures(self, build: Build, slot_id: str, part: M2Drive) -> dict[str, str]:
        sides = "unknown" if part.below_um is None else "double" if part.below_um else "single"
        return super().figures(build, slot_id, part) | {"Sides": sides}
