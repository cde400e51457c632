"""Battery packs."""

from collections.abc import Iterator

from ..fit.build import Build
from ..machine.part import Pack
from ..machine.shape import Slot
from .base import Does, Expectation, Kind, Moves, Size, expect, figure_words


def energy(part: Pack) -> int:
    """What it holds today where that is known, else what it was made for, in mWh."""
    return part.design_mwh if part.full_mwh is None else part.full_mwh


class Batteries(Kind[Pack]):
    id = "battery"
    word, plural = "battery", "batteries"
    slots = ("battery",)
    rules = ("pack.",)
    needs = ("runtime",)
    columns = ("design_wh", "full_wh", "voltage_v", "charge_v", "connector", "safety_mark", "fills_bay", "swollen")
    form = ("design_wh", "voltage_v", "charge_v", "connector", "safety_mark", "fills_bay")

    def size(self, part: Pack) -> Size | None:
        return None

    def detail(self, part: Pack) -> str:
        full = f", {part.full_mwh / 1000:g} Wh today" if part.full_mwh is not None else ""
        return f"{part.design_mwh / 1000:g} Wh{full}"

    def moves(self) -> Moves:
        return Moves(
            "Undo the pack's screws, lift it by its frame.",
            "Lay the new pack in flat, screws first, plug last.",
            "Lithium pack: never pierce, bend, heat or pry. Swollen, hot or leaking: stop, and follow local rules.",
        )

    def expects(self, build: Build, slot: Slot, part: Pack) -> Iterator[Expectation]:
        wh = energy(part) / 1000
        yield expect(
            f"{slot.id}.full", "battery", slot.name, f"{wh:g} Wh full charge", figure=wh, unit="Wh", number=part.number
        )
        yield expect(f"{slot.id}.supply", "supply", "On the adapter", "the pack charges or rests")

    def does(self, build: Build, slot_id: str, part: Pack) -> Does:
        return Does("pack", energy(part) / 1000, "Wh")

    def adds(self, build: Build, slot_id: str, part: Pack) -> tuple[float, str]:
        now = build.now(slot_id)
        return (energy(part) - (energy(now) if isinstance(now, Pack) else 0)) / 1000, "Wh"

    def figures(self, build: Build, slot_id: str, part: Pack) -> dict[str, str]:
        volts = None if part.voltage_mv is None else part.voltage_mv / 1000
        return {"Energy": f"{part.design_mwh / 1000:g} Wh", "Voltage": figure_words(volts, "V")}
