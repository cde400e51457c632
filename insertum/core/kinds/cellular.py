"""Cellular cards."""

from collections.abc import Iterator

from ..fit.build import Build
from ..machine.radio_parts import Cellular
from ..machine.shape import Slot
from .base import CARD_COLUMNS, Does, Expectation, Moves, expect, figure_words
from .cards import ANTENNA_CAUTION, CardKind


class CellularCards(CardKind[Cellular]):
    id = "cellular"
    word, plural = "cellular card", "cellular cards"
    slots = ("cellular",)
    rules = ("card.", "mini.", "m2.", "cellular.")
    needs = ()
    columns = (*CARD_COLUMNS, "bus", "antennas", "plug", "generation")
    form = ("code", "fru", "bus", "antennas", "plug")

    def detail(self, part: Cellular) -> str:
        return f"{part.generation or 'cellular'}, {part.bus or 'bus unknown'}"

    def moves(self) -> Moves:
        return Moves(
            "Lift the antenna plugs straight up, note which is main by the print on the card. Undo the screw.",
            "Slide in, screw down, press each plug straight on. The SIM goes in last.",
            ANTENNA_CAUTION,
        )

    def expects(self, build: Build, slot: Slot, part: Cellular) -> Iterator[Expectation]:
        yield expect(f"{slot.id}.modem", "cellular", slot.name, part.name, number=part.number)

    def does(self, build: Build, slot_id: str, part: Cellular) -> Does:
        return Does("cellular")

    def adds(self, build: Build, slot_id: str, part: Cellular) -> tuple[float, str]:
        return 0.0, ""

    def figures(self, build: Build, slot_id: str, part: Cellular) -> dict[str, str]:
        return {
            "Generation": figure_words(part.generation),
            "Antennas": figure_words(part.antennas),
            "Card id": figure_words(part.fru),
        }
