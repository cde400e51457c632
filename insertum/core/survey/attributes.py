"""Every attribute of a machine that can be measured: its name on screen, its unit, how to settle it.

One table serves the survey, the machine editor and the sums behind a finding. ``scale`` leads from
the stored integer to the unit shown (1000 µm are 1 mm); ``most``, in the stored unit, is the largest
value a laptop can have.
"""

import re
from typing import Any, Literal

from pydantic import BaseModel

from ..base import Frozen, InputError
from ..claim import Fact, settle
from ..machine import (
    MOST_ABOVE_UM,
    MOST_BAY_UM,
    MOST_BELOW_UM,
    BatterySlot,
    BaySlot,
    Boot,
    CardSocket,
    CellularSlot,
    DriveSlot,
    MemorySlot,
    MemorySystem,
    RadioSlot,
)
from ..standards.pcie import Link

Kind = Literal["number", "choice", "flag", "list", "numbers", "link", "text"]


class Attribute(Frozen):
    """What one attribute is called and how it is settled. ``tool`` is what to take in the hand."""

    name: str
    label: str
    kind: Kind
    unit: str = ""
    scale: int = 1
    most: int | None = None
    options: tuple[str, ...] = ()
    tool: str = ""
    how: str = ""
    is_limit: bool = False


_MANUAL = "Service manual for this exact processor."
_BOX = "Look in the machine and in the box the owner kept."
_THERE = ("present", "missing")
_CLAY = "modelling clay and a calliper"

# fmt: off
_TABLE: tuple[Attribute, ...] = (
    # memory
    Attribute(name="generation", label="Generation", kind="number", tool="eyes", how="Read PC3, PC4 or PC5 off the fitted module, or count contacts: 204, 260, 262."),
    Attribute(name="channel", label="Channel", kind="text", tool="manual", how="The board's print or the block diagram in the manual."),
    Attribute(name="limit_gb", label="Takes at most", kind="number", unit="GB", tool="manual", how=_MANUAL, is_limit=True),
    Attribute(name="room_above_um", label="Room above", kind="number", unit="mm", scale=1000, most=MOST_ABOVE_UM, tool=_CLAY, how="Clay on the module, close the cover, measure what is left."),
    Attribute(name="total_limit_gb", label="Memory ceiling", kind="number", unit="GB", tool="manual", how=_MANUAL, is_limit=True),
    Attribute(name="speed_mts", label="Memory runs at", kind="number", unit="MT/s", tool="running system", how="Firmware screen, or the running system's memory table.", is_limit=True),
    Attribute(name="density_gbit", label="Densest chips", kind="number", unit="Gbit", tool="manual", how="Listed modules, or sightings.", is_limit=True),
    Attribute(name="module_types", label="Module types", kind="list", tool="manual", how="S is a SO-DIMM, T one with ECC."),
    Attribute(name="voltage_mv", label="Voltage", kind="number", unit="V", scale=1000, tool="eyes", how="The label of what is fitted."),
    Attribute(name="applies_profiles", label="Applies profiles", kind="flag", tool="firmware setup", how="Look for a memory profile setting."),
    Attribute(name="clock_drivers", label="Clock-driver modules", kind="flag", tool="manual", how=_MANUAL),
    Attribute(name="graphics_share_mb", label="Graphics share", kind="number", unit="MB", tool="firmware setup", how="Under graphics memory."),
    Attribute(name="firmware_reserve_mb", label="Firmware reserve", kind="number", unit="MB", tool="running system", how="Fitted less visible less graphics share."),
    Attribute(name="graphics_shares", label="Graphics share memory", kind="flag", tool="manual", how="Whether graphics have memory of their own."),
    # card sockets
    Attribute(name="mini_sizes", label="Mini cards held", kind="list", options=("half", "full"), tool="rule", how="Posts 27 mm (half) and 51 mm (full) from the contacts."),
    Attribute(name="key", label="Key", kind="choice", options=("A", "B", "E", "M"), tool="eyes", how="The socket's bar sits at pins 8-15 A, 12-19 B, 24-31 E, 59-66 M."),
    Attribute(name="width_mm", label="Width", kind="number", unit="mm", tool="rule", how="Across the place, between what stands beside it."),
    Attribute(name="standoffs_mm", label="Standoffs at", kind="numbers", unit="mm", tool="rule", how="Threaded posts behind the socket, measured from its contacts: 30, 42, 60, 80."),
    Attribute(name="socket_height", label="Socket height", kind="choice", options=("H2.3", "H2.5", "H2.8", "H3.2", "H4.2"), tool="calliper", how="From the board to the top of the socket."),
    Attribute(name="clearance_below_um", label="Room below", kind="number", unit="mm", scale=1000, most=MOST_BELOW_UM, tool="feeler gauges", how="Between the board and the underside of a card in the socket."),
    Attribute(name="clearance_above_um", label="Room above", kind="number", unit="mm", scale=1000, most=MOST_ABOVE_UM, tool=_CLAY, how="Clay on the card, close shield or cover, measure what is left."),
    Attribute(name="pcie", label="PCIe", kind="link", tool="running system", how="The link of the fitted card read under load, or the manual: 3 x4, or none."),
    Attribute(name="sata", label="SATA", kind="choice", options=("none", "1", "2", "3"), tool="running system", how="The rate of the fitted drive (1.5, 3, 6 Gb/s are 1, 2, 3), or the manual."),
    Attribute(name="bracket_mm", label="Brackets there for", kind="numbers", unit="mm", tool="eyes", how="Look at the fitted card and in the owner's box."),
    Attribute(name="pad_below", label="Pad below", kind="choice", options=("none", "removable", "stays"), tool="torch", how="Lift the fitted card, or look under the shield."),
    Attribute(name="cooled", label="Cooled from", kind="choice", options=("none", "above", "below", "both"), tool="eyes", how="A pad or shield that touches the drive, and on which side."),
    Attribute(name="pad", label="Pad to the shield", kind="choice", options=_THERE, tool="eyes", how="Lift the shield: is a pad on it, and is it whole?"),
    Attribute(name="pad_gap_um", label="Gap for a pad", kind="number", unit="mm", scale=1000, most=MOST_ABOVE_UM, tool=_CLAY, how="Clay on the chips, close the shield, measure it."),
    Attribute(name="drive_limit_gb", label="Largest drive", kind="number", unit="GB", tool="manual", how="Service manual; the interface itself sets no limit you will meet.", is_limit=True),
    Attribute(name="card_policy", label="Card policy", kind="choice", options=("any", "listed"), tool="manual", how="Manual or sightings: does the firmware refuse cards it does not list?"),
    Attribute(name="listed_cards", label="Listed cards", kind="list", tool="manual", how="The maker's list of card ids (FRU)."),
    # radio and cellular
    Attribute(name="usb", label="USB", kind="flag", tool="running system", how="See if the fitted card's Bluetooth or modem shows up."),
    Attribute(name="cnvi", label="Companion radios", kind="list", tool="manual", how="The processor's radio list; none where the host has no radio."),
    Attribute(name="host_generation", label="Host radio generation", kind="number", tool="manual", how="The processor's radio list."),
    Attribute(name="leads", label="Antenna leads", kind="number", tool="eyes", how="Count them at the fitted card, and look for taped-down spares."),
    Attribute(name="plug", label="Lead plugs", kind="choice", options=("MHF1", "MHF4"), tool="calliper", how="About 3 mm across is MHF1, about 2 mm MHF4."),
    Attribute(name="antenna_bands", label="Antennas made for", kind="list", options=("2.4", "5", "6"), unit="GHz", tool="eyes", how="The print on the antenna."),
    Attribute(name="sim_tray", label="SIM tray", kind="choice", options=_THERE, tool="eyes", how="Along the edges and under the battery: a tray, or its blank?"),
    # bay
    Attribute(name="height_um", label="Bay height", kind="number", unit="mm", scale=1000, most=MOST_BAY_UM, tool="calliper", how="From the bay floor to the cover's ribs: 7 or 9.5."),
    Attribute(name="caddy", label="Caddy", kind="choice", options=_THERE, tool="eyes", how=_BOX),
    Attribute(name="ribbon", label="Ribbon", kind="choice", options=_THERE, tool="eyes", how=_BOX),
    Attribute(name="screws", label="Screws", kind="choice", options=_THERE, tool="eyes", how=_BOX),
    Attribute(name="spacer", label="Spacer", kind="choice", options=_THERE, tool="eyes", how=_BOX),
    # battery
    Attribute(name="accepts", label="Packs", kind="list", tool="eyes", how="The number on the fitted pack."),
    Attribute(name="connector", label="Plug", kind="text", tool="eyes", how="Look at the fitted pack's plug."),
    Attribute(name="held_by", label="Held by", kind="choice", options=("screws", "glue"), tool="eyes", how="Screws or glue: look, never pry."),
    Attribute(name="firmware_switch", label="Firmware switches it off", kind="flag", tool="firmware setup", how="Under power."),
    # boot
    Attribute(name="starts_nvme", label="Starts from NVMe", kind="flag", tool="firmware setup", how="Look for NVMe in the boot list, or in the notes to the last update."),
    Attribute(name="storage_mode", label="Storage mode", kind="choice", options=("plain", "raid"), tool="firmware setup", how="Under storage."),
    Attribute(name="style", label="Boot style", kind="choice", options=("uefi", "legacy"), tool="firmware setup", how="Under boot."),
)
# fmt: on
ATTRIBUTES = {a.name: a for a in _TABLE}
_PLACES: dict[str, type] = {
    "memory": MemorySlot,
    "m2_drive": DriveSlot,
    "radio": RadioSlot,
    "cellular": CellularSlot,
    "bay": BaySlot,
    "battery": BatterySlot,
    "memory_system": MemorySystem,
    "boot": Boot,
}


def attributes_of(model: type) -> tuple[Attribute, ...]:
    """The attributes of a slot, the memory system or the boot facts, in declared order."""
    fields: dict[str, Any] = getattr(model, "model_fields", {})
    return tuple(ATTRIBUTES[n] for n, f in fields.items() if isinstance(f.default, Fact) and n in ATTRIBUTES)


_M2_ONLY = {"key", "width_mm", "standoffs_mm", "socket_height", "clearance_below_um", "clearance_above_um", "bracket_mm", "pad_below"}  # fmt: skip


def relevant(place: BaseModel) -> tuple[Attribute, ...]:
    """The attributes that mean something here: a soldered thing has none to measure, a mini socket no
    key, an M.2 socket no mini sizes, and a slot that nothing cools from above no pad."""
    every = attributes_of(type(place))
    if not isinstance(place, CardSocket):
        return every
    if place.form == "soldered":
        return tuple(a for a in every if getattr(place, a.name))
    left_out = {"mini_sizes"} if place.form == "m2" else set(_M2_ONLY)
    if isinstance(place, DriveSlot) and settle(place.cooled).value not in ("above", "both"):
        left_out |= {"pad", "pad_gap_um"}
    if isinstance(place, RadioSlot) and not any(c.value for c in place.cnvi.claims):
        left_out.add("host_generation")
    if settle(place.card_policy).value == "any":
        left_out.add("listed_cards")
    return tuple(a for a in every if a.name not in left_out or getattr(place, a.name))


def places() -> dict[str, tuple[Attribute, ...]]:
    """Attributes by kind of slot, with ``memory_system`` and ``boot`` beside them."""
    return {kind: attributes_of(model) for kind, model in _PLACES.items()}


def shown(value: Any, scale: float = 1) -> str:
    """A value as a person reads it."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple | list):
        return ", ".join(map(str, value)) or "none"
    if isinstance(value, int | float):
        return f"{value / scale:g}" if scale != 1 else f"{value}"
    return str(value)


_LINK = re.compile(r"(?:PCIE?\s*)?([1-5])\s*[X×]\s*(1|2|4)")


def typed_value(attribute: str, typed: str) -> Any:
    """What was typed for ``place.attribute``, in the stored unit: '1.4' mm is 1400 µm.

    Raises :class:`InputError` for an unknown attribute or a text that is no value of its kind.
    """
    known = ATTRIBUTES.get(attribute.rpartition(".")[2])
    if known is None:
        raise InputError(f"no attribute {attribute!r} to measure", attribute, "Name it as slot.attribute.")
    text = typed.strip()
    try:
        return _value(known, text)
    except (ValueError, KeyError, OverflowError) as error:
        most = f", {known.most / known.scale:g} at most" if known.most else ""
        wanted = " or ".join(known.options) or {"link": "3 x4 or none"}.get(
            known.kind, f"a value in {known.unit}{most}"
        )
        raise InputError(f"{typed!r} is no value for this", attribute, f"Type {wanted}.") from error


def _value(known: Attribute, text: str) -> Any:
    match known.kind:
        case "flag":
            return {"yes": True, "no": False}[text.lower()]
        case "number":
            figure = float(text.removesuffix(known.unit).strip().replace(",", "."))
            value = round(figure * known.scale)
            if figure < 0 or (known.most is not None and value > known.most):
                raise ValueError("below nothing, or more than a laptop has")
            return value
        case "list" | "numbers":
            words = [w for w in text.replace(",", " ").split() if w.lower() != "none"]
            if known.options and any(w not in known.options for w in words):
                raise ValueError(text)
            return [int(w) for w in words] if known.kind == "numbers" else words
        case "link":
            if text.lower() == "none":
                return "none"
            found = _LINK.fullmatch(text.upper())
            if not found:
                raise ValueError(text)
            return Link(generation=int(found[1]), lanes=int(found[2])).model_dump()
        case "choice":
            if text not in known.options:
                raise ValueError(text)
            return int(text) if text.isdigit() else text
        case _:
            if not text:
                raise ValueError(text)
            return text
