"""A reading as Survey shows it: what it proved of this machine, and what it left open."""

from collections.abc import Iterator

from ..frozen import Frozen
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import DriveSlot, RadioSlot
from ..machine.memory_system import MemorySlot
from ..reading import ReadModule
from .contradict import running_mts
from .match_devices import Matched


class ReadingSummary(Frozen):
    """Sentences, each about one thing. ``left_open`` says what would settle it where somebody can."""

    proved: tuple[str, ...]
    left_open: tuple[str, ...]


#: Firmware cannot tell an empty socket from a module without contact.
_EMPTY = "empty as firmware sees it; a module that is not home looks the same"


def summarise(matched: Matched) -> ReadingSummary:
    """What the reading says of this machine, in words."""
    return ReadingSummary(proved=tuple(_proved(matched)), left_open=tuple(_left_open(matched)))


def _proved(matched: Matched) -> Iterator[str]:
    machine, reading = matched.machine, matched.reading
    if reading.firmware:
        yield f"Firmware {reading.firmware}."
    if reading.processor:
        yield f"Processor {reading.processor}."
    if (whole := reading.memory_mb) is not None:
        yield f"{whole / 1024:g} GB of memory fitted in all."
    if reading.visible_mb:
        yield (
            f"The system sees {reading.visible_mb} MB of it." if whole else f"The system sees {reading.visible_mb} MB."
        )
    if running := running_mts(reading):
        yield f"Memory runs at {running} MT/s."
    for slot_id, part in matched.fitted.items():
        yield f"{machine.slot(slot_id).name}: {part.name if part else _EMPTY}."
    if reading.bluetooth and reading.bluetooth.fixed:
        yield "Bluetooth is there, in the machine itself."
    if reading.adapter and reading.adapter.online and reading.adapter.most_mw:
        yield f"The supply can deliver {reading.adapter.most_mw / 1000:g} W."
    if reading.adapter and reading.adapter.online and any(p.status == "Discharging" for p in reading.packs):
        yield "Plugged in, and the pack still drains: the supply is too weak, or the machine does not take it."
    if reading.own_system is False:
        yield "Read from a live system: its load says nothing of the owner's use."


def _left_open(matched: Matched) -> Iterator[str]:
    reading = matched.reading
    for name in reading.cut_off:
        yield f"{name} is cut off at its end: what it does not name may be there."
    for slot in matched.machine.slots:
        if slot.id in matched.fitted or getattr(slot, "form", "") == "soldered":
            continue
        match slot:
            case MemorySlot():
                device = matched.device(slot)
                yield f"{slot.name}: {_why_open(device) if device else 'no tool lists it'}."
            case DriveSlot() | BaySlot():
                yield f"{slot.name}: no drive is proved to sit there, nor that it is empty."
            case RadioSlot():
                names = ", ".join(r.name for r in reading.radios)
                yield f"{slot.name}: {f'{names}, which names no one card of the catalogue' if names else 'no Wi-Fi card was seen'}."
            case BatterySlot():
                yield f"{slot.name}: {'what was read does not tell which pack sits here' if reading.packs else 'no pack was read'}."
            case _:
                yield f"{slot.name}: nothing was seen of it."
    for module in reading.modules:
        if module.low_power and module.soldered is None:
            yield (
                f"{module.locator or 'Memory'}: firmware calls low-power chips a module. Soldered, or on a board of its "
                "own that can be changed? Look."
            )
    if reading.modules and reading.memory_mb is None:
        yield "How much memory is fitted in all: the list is not whole."
    shown = [m for m in reading.modules if m.present and m.running_mts]
    if shown and running_mts(reading) is None:
        yield "What memory runs at: the figure shown is half of the rating, the clock or really half."
    if reading.own_system is None:
        yield "Whose system ran, the owner's or a stick's: its load counts for nothing. Gather it again with the script."
    if reading.load is not None and reading.own_system and reading.load.drive_used_gb is None:
        yield "How much data is on the drives: not every volume was mounted."
    if reading.bluetooth is None:
        yield "Bluetooth: not seen, which is not missing."
    elif reading.bluetooth.fixed is None:
        yield "Bluetooth: seen by name only; whether it is the machine's or a stick's is not told."
    for radio in reading.radios:
        if not radio.chains_dbm:
            yield f"The signal on {radio.name}'s antennas: its driver told none, or it was not connected."


def _why_open(device: ReadModule) -> str:
    if device.present is None and device.size_mb is None:
        return "filled or empty, the firmware does not say"
    if device.size_mb is None:
        return "filled, with a size the firmware does not know"
    return f"{device.says_size} of {device.part_number or 'no number'}, too little to say which module it is"
