"""Radios."""

from collections.abc import Iterator

from ..fit.build import Build
from ..machine.radio_parts import Radio
from ..machine.shape import Slot
from .base import CARD_COLUMNS, Does, Expectation, Moves, expect, figure_words
from .cards import ANTENNA_CAUTION, CardKind


class Radios(CardKind[Radio]):
    id = "radio"
    word, plural = "Wi-Fi card", "Wi-Fi cards"
    slots = ("radio",)
    rules = ("card.", "mini.", "m2.", "radio.")
    needs = ("radio_throughput",)
    columns = (
        *CARD_COLUMNS, "bus", "host_generation", "tied_to", "system_limits", "drivers_full", "drivers_older", "drivers_none", "standard",
        "streams", "channel_mhz", "bands", "bluetooth", "plug",
    )  # fmt: skip
    form = ("code", "fru", "bus", "standard", "streams", "bands", "bluetooth", "plug", "tied_to")

    def detail(self, part: Radio) -> str:
        standard = f"802.11{part.standard}" if part.standard else "standard unknown"
        return f"{standard} {part.streams}×{part.streams}" if part.streams else standard

    def moves(self) -> Moves:
        return Moves(
            "Lift the antenna plugs straight up, note main and aux by the print on the card. Undo the screw.",
            "Slide in, screw down, press each plug straight on: main and aux by the print, not by colour.",
            ANTENNA_CAUTION,
        )

    def expects(self, build: Build, slot: Slot, part: Radio) -> Iterator[Expectation]:
        yield expect(f"{slot.id}.radio", "radio", slot.name, part.name, number=part.number)
        if (part.streams or 0) > 1 and (build.known.value(slot.id, "leads") or 0) > 1:
            yield expect(f"{slot.id}.signal", "signal", "Antenna chains", "less than 15 dB apart", number=part.number)
        # A CNVi radio's Bluetooth needs no USB; a PCIe one's is expected where USB is known to be wired.
        if part.bluetooth and (part.bus == "cnvi" or build.known.value(slot.id, "usb")):
            yield expect(
                f"{slot.id}.bluetooth", "bluetooth", "Bluetooth", f"Bluetooth {part.bluetooth}", number=part.number
            )

    def does(self, build: Build, slot_id: str, part: Radio) -> Does:
        return Does("radio", float((part.streams or 0) * (part.channel_mhz or 0)), "MHz × streams")

    def adds(self, build: Build, slot_id: str, part: Radio) -> tuple[float, str]:
        now = build.now(slot_id)
        before = (now.streams or 0) * (now.channel_mhz or 0) if isinstance(now, Radio) else 0
        return float((part.streams or 0) * (part.channel_mhz or 0) - before), "MHz × streams"

    def figures(self, build: Build, slot_id: str, part: Radio) -> dict[str, str]:
        return {
            "Standard": f"802.11{part.standard}" if part.standard else "unknown",
            "Streams": figure_words(part.streams),
            "Channel": figure_words(part.channel_mhz, "MHz"),
            "Bands": ", ".join(part.bands) + " GHz" if part.bands else "unknown",
            "Card id": figure_words(part.fru),
        }
