"""2.5-inch drives."""

from collections.abc import Iterator

from ..fit.build import Build
from ..machine.part import BayDrive
from ..machine.shape import Slot
from .base import Does, Expectation, Kind, Moves, Size
from .drives import DRIVE_NEEDS, drive_adds, drive_does, drive_expects, drive_figures


class BayDrives(Kind[BayDrive]):
    id = "bay_drive"
    word = "bay drive"
    slots = could_meet = ("bay",)
    rules = ("bay.", "drive.", "boot.")
    needs = DRIVE_NEEDS
    columns = ("capacity_gb", "generation", "read_mb_s", "write_mb_s", "tbw", "height_mm", "spinning", "edge_connector")
    form = ("capacity_gb", "height_mm", "read_mb_s", "spinning")

    def size(self, part: BayDrive) -> Size | None:
        return Size(w_mm=100.0, h_mm=69.85)

    def detail(self, part: BayDrive) -> str:
        return f"{part.capacity_gb} GB SATA"

    def moves(self) -> Moves:
        return Moves(
            "Open the ribbon latch, slide the caddy out.",
            "Drive into the caddy, four screws, ribbon latch fully home.",
            "A broken ribbon latch is the board.",
        )

    def expects(self, build: Build, slot: Slot, part: BayDrive) -> Iterator[Expectation]:
        return drive_expects(build, slot, part)

    def does(self, build: Build, slot_id: str, part: BayDrive) -> Does:
        return drive_does(build, slot_id, part)

    def adds(self, build: Build, slot_id: str, part: BayDrive) -> tuple[float, str]:
        return drive_adds(build, slot_id, part)

    def figures(self, build: Build, slot_id: str, part: BayDrive) -> dict[str, str]:
        return drive_figures(build, slot_id, part)
