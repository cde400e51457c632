"""Accessories: what a part needs beside itself. They go in no slot of their own."""

from collections.abc import Iterator

from ..fit.build import Build
from ..machine.part import Accessory
from ..machine.shape import Slot
from .base import Does, Expectation, Kind, Moves, Size


class Accessories(Kind[Accessory]):
    id = "accessory"
    word, plural = "accessory", "accessories"
    slots = ()
    rules = ()
    needs = ()
    columns = (
        "supplies", "families", "from_mm", "to_mm", "from_plug", "to_plug", "thickness_mm", "usb_gbit_s", "takes",
    )  # fmt: skip
    form = ("supplies", "from_mm", "to_mm", "from_plug", "to_plug", "thickness_mm")

    def size(self, part: Accessory) -> Size | None:
        return None

    def detail(self, part: Accessory) -> str:
        return part.supplies.replace("_", " ")

    def moves(self) -> Moves:
        return Moves("It comes out with its part.", "It goes in with its part.")

    def expects(self, build: Build, slot: Slot, part: Accessory) -> Iterator[Expectation]:
        return iter(())

    def does(self, build: Build, slot_id: str, part: Accessory) -> Does:
        return Does(part.supplies)

    def adds(self, build: Build, slot_id: str, part: Accessory) -> tuple[float, str]:
        return 0.0, ""

    def figures(self, build: Build, slot_id: str, part: Accessory) -> dict[str, str]:
        return {}
