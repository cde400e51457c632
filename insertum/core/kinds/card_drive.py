"""Drives on a card: M.2, mSATA, and storage soldered to the board."""

from collections.abc import Iterator

from ..fit.build import Build
from ..fit.card import MINI_MM
from ..machine.part import M2Drive
from ..machine.shape import Slot
from .base import CARD_COLUMNS, Does, Expectation, Kind, Moves, Size
from .drives import DRIVE_NEEDS, drive_adds, drive_does, drive_expects, drive_figures


def card_size(form: str, mini: str | None, length_mm: int | None, width_mm: int | None) -> Size | None:
    if form == "mini" and mini:
        return Size(w_mm=MINI_MM[mini], h_mm=30.0)
    return Size(w_mm=length_mm, h_mm=width_mm) if length_mm and width_mm else None


class CardDrive(Kind[M2Drive]):
    id = "m2_drive"
    word = "drive"
    slots = ("m2_drive",)
    could_meet = ("m2_drive", "radio", "cellular")
    rules = ("card.", "mini.", "m2.", "drive.", "boot.")
    needs = DRIVE_NEEDS
    columns = (
        *CARD_COLUMNS, "capacity_gb", "interface", "generation", "lanes", "read_mb_s", "write_mb_s", "tbw", "needs_cooling", "spinning",
    )  # fmt: skip
    form = ("code", "capacity_gb", "interface", "generation", "lanes", "read_mb_s", "needs_cooling")

    def size(self, part: M2Drive) -> Size | None:
        return card_size(part.form, part.mini_size, part.length_mm, part.width_mm)

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

    def expects(self, build: Build, slot: Slot, part: M2Drive) -> Iterator[Expectation]:
        return drive_expects(build, slot, part)

    def does(self, build: Build, slot_id: str, part: M2Drive) -> Does:
        return drive_does(build, slot_id, part)

    def adds(self, build: Build, slot_id: str, part: M2Drive) -> tuple[float, str]:
        return drive_adds(build, slot_id, part)

    def figures(self, build: Build, slot_id: str, part: M2Drive) -> dict[str, str]:
        sides = "unknown" if part.below_um is None else "double" if part.below_um else "single"
        return drive_figures(build, slot_id, part) | {"Sides": sides}
