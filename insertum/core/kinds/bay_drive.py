"""2.5-inch drives."""

from ..machine.drive_parts import BayDrive
from .base import Moves, Size
from .drives import DriveKind


class BayDrives(DriveKind[BayDrive]):
    id = "bay_drive"
    word, plural = "bay drive", "bay drives"
    slots = ("bay",)
    rules = ("bay.", "drive.", "boot.")
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
