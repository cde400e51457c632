"""A new machine, drafted: from nothing, from a template slot, or from what a reading says.

What is not known stays unknown; geometry is laid out so that nothing overlaps, to be measured and
corrected in the editor.
"""

import re
from collections.abc import Iterable
from typing import Any

from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.part import AnyPart, Fittable
from ..machine.shape import Machine
from ..reading import ReadDrive, Reading, ReadModule
from ..spelling import folded
from .match_devices import part_of

#: Width and height of a slot's place by template, in mm.
_SIZES = {
    "memory": (69.6, 30.0),
    "m2_drive": (80.0, 22.0),
    "msata": (50.95, 30.0),
    "emmc": (14.0, 12.0),
    "radio": (30.0, 22.0),
    "cellular": (42.0, 30.0),
    "bay": (100.0, 69.85),
    "battery": (180.0, 60.0),
}
TEMPLATES: dict[str, tuple[str, dict[str, Any]]] = {
    "memory": ("Memory socket", {"kind": "memory"}),
    "m2_drive": ("M.2 drive slot", {"kind": "m2_drive"}),
    "bay": ("2.5-inch bay", {"kind": "bay"}),
    "radio": ("Wi-Fi card slot", {"kind": "radio"}),
    "cellular": ("Cellular slot", {"kind": "cellular"}),
    "battery": ("Battery", {"kind": "battery"}),
    "msata": ("Mini card slot for mSATA", {"kind": "m2_drive", "form": "mini"}),
    "emmc": ("Soldered storage", {"kind": "m2_drive", "form": "soldered"}),
}
_NAMES = {"memory": "Memory", "m2_drive": "Drive", "msata": "Mini slot", "emmc": "eMMC", "radio": "Wi-Fi card", "cellular": "Cellular", "bay": "2.5-inch bay", "battery": "Battery"}  # fmt: skip


def slug(text: str) -> str:
    """An id made of a text: small letters, figures and single hyphens; never empty."""
    return re.sub(r"-+", "-", re.sub(r"[^a-z0-9]+", "-", text.lower())).strip("-") or "machine"


def slot_from(template: str, taken: list[dict[str, Any]], width_mm: float = 320, name: str = "") -> dict[str, Any]:
    """A slot of a template with every fact unknown, placed where it overlaps none that is there."""
    count = sum(1 for s in taken if s.get("name", "").startswith(_NAMES[template]))
    label = name or f"{_NAMES[template]} {chr(65 + count) if template == 'memory' else count + 1}"
    if not name and template not in ("memory", "m2_drive") and count == 0:
        label = _NAMES[template]
    w, h = _SIZES[template]
    ids = {s["id"] for s in taken}
    base, n = slug(label), 2
    unique = base
    while unique in ids:
        unique, n = f"{base}-{n}", n + 1
    x, y = _free_place(w, h, [s["place"] for s in taken], width_mm)
    return {
        "id": unique,
        "name": label,
        "place": {"x_mm": x, "y_mm": y, "w_mm": w, "h_mm": h, "contacts": "bottom" if template == "memory" else "left"},
        "looked": False,
        **TEMPLATES[template][1],
    }


def _free_place(w: float, h: float, taken: list[dict[str, Any]], width_mm: float) -> tuple[float, float]:
    """The first place, row by row, that keeps a label's distance from all others."""
    gap = 16
    y = 20.0
    while True:
        x = 15.0
        while x + w <= max(width_mm - 10, w + 15):
            clear = all(
                x + w + gap <= t["x_mm"]
                or t["x_mm"] + t["w_mm"] + gap <= x
                or y + h + gap <= t["y_mm"]
                or t["y_mm"] + t["h_mm"] + gap <= y
                for t in taken
            )
            if clear:
                return x, y
            x += 10
        y += 10


def blank_machine(maker: str = "", name: str = "") -> dict[str, Any]:
    """A machine of which nothing is known but its name: the editor's start from nothing."""
    maker, name = maker or "Maker", name or "New machine"
    return {
        "format": "insertum-machine/2",
        "id": slug(f"{maker} {name}"),
        "maker": maker,
        "name": name,
        "width_mm": 320,
        "depth_mm": 220,
        "marks": [{"kind": "family", "text": f"{maker} {name}"}],
        "slots": [],
        "configurations": [{"id": "first", "name": name, "processor": "unknown"}],
    }


def copied(machine: Machine, configuration_id: str = "") -> dict[str, Any]:
    """A copy under a new id: the editor's start from a relative. Of one configuration, what it says
    differently becomes the copy's own. Marks are left out, because they identify the other machine."""
    data = machine.model_dump(mode="json")
    data |= {"id": f"{machine.id}-copy", "name": f"{machine.name} copy", "marks": []}
    if configuration_id:
        laid = machine.configured(configuration_id)
        data["memory"], data["boot"] = laid.memory.model_dump(mode="json"), laid.boot.model_dump(mode="json")
        data["slots"] = [s.model_dump(mode="json") for s in laid.slots]
        data["configurations"] = [laid.configuration.model_dump(mode="json") | {"differs": {}}]
    data["configurations"] = [{**c, "marks": []} for c in data["configurations"]]
    return data


def from_reading(reading: Reading, parts: Iterable[AnyPart] = ()) -> dict[str, Any]:
    """A machine drafted from what a running system said: its marks, its memory, the slots that hold
    something. Empty slots a system does not report are missing here: look under the cover. What the reading leaves
    open (is a drive on SATA a card or a bay's? chips or a module?) is put on the map as a question and is no slot."""
    by_number: dict[str, Fittable] = {folded(p.number): p for p in parts if p.kind != "accessory"}
    system = reading.system or reading.board or "unnamed"
    draft = blank_machine(reading.maker or "Maker", system)
    marks = [
        ("family", f"{reading.maker} {system}".strip()),
        ("system", f"{reading.maker} {system}".strip()),
        ("board", reading.board),
    ]
    draft["marks"] = [{"kind": k, "text": t} for k, t in marks if t and t != "unnamed"]
    processor = re.sub(r"\s*@.*$", "", reading.processor).strip()
    configuration: dict[str, Any] = {
        "id": slug(processor or "first"),
        "name": system,
        "processor": processor or "unknown",
        "marks": [{"kind": "processor", "text": processor}] if processor else [],
    }
    draft["configurations"] = [configuration]
    drawn = _Drawn(draft["width_mm"])
    draft["memory"] = {"soldered": _memory(reading, drawn)}
    for drive in reading.drives:
        slot = _drive_slot(drive, part_of(drive, by_number), drawn)
        if slot is None:
            drawn.ask(f"{drive.model or drive.name}: a card or a drive in a bay?")
        elif drive.started:
            draft["boot_slot"] = slot["id"]
    if reading.radios:
        drawn.slot("radio")
    if reading.modems:
        drawn.slot("cellular")
    for pack in reading.packs:
        slot = drawn.slot("battery")
        if pack.model:
            slot["accepts"] = _read([pack.model], "the fitted pack") | {"among_others": True}
            configuration["marks"].append({"kind": "battery", "text": pack.model})
    draft["slots"], draft["features"] = drawn.slots, drawn.questions
    ends = [t["place"]["y_mm"] + t["place"]["h_mm"] for t in (*drawn.slots, *drawn.questions)]
    draft["depth_mm"] = max(220.0, max(ends, default=0) + 15)
    return draft


class _Drawn:
    """Slots and questions laid out so far."""

    def __init__(self, width_mm: float) -> None:
        self.width_mm = width_mm
        self.slots: list[dict[str, Any]] = []
        self.questions: list[dict[str, Any]] = []

    def slot(self, template: str) -> dict[str, Any]:
        slot = slot_from(template, self.slots, self.width_mm)
        x, y = _free_place(slot["place"]["w_mm"], slot["place"]["h_mm"], self._taken, self.width_mm)
        slot["place"] |= {"x_mm": x, "y_mm": y}
        self.slots.append(slot)
        return slot

    def ask(self, says: str) -> None:
        x, y = _free_place(60, 16, self._taken, self.width_mm)
        self.questions.append(
            {"name": says, "place": {"x_mm": x, "y_mm": y, "w_mm": 60, "h_mm": 16}, "note": "left open by the reading"}
        )

    @property
    def _taken(self) -> list[dict[str, Any]]:
        return [t["place"] for t in (*self.slots, *self.questions)]


def _read(value: Any, note: str = "") -> dict[str, Any]:
    return {"value": value, "source": "read", "note": note}


def soldered_of(devices: Iterable[ReadModule]) -> list[dict[str, Any]]:
    """Chips on the board as a machine's file holds them."""
    return [{"capacity_gb": d.size_gb, "rated_mts": d.rated_mts, "channel": d.channel or None} for d in devices]


def _memory(reading: Reading, drawn: _Drawn) -> list[dict[str, Any]]:
    """Chips on the board; sockets are drawn."""
    soldered: list[dict[str, Any]] = []
    sockets = [m for m in reading.modules if m.soldered is False]
    running = {m.generation for m in sockets if m.present and m.generation}
    for device in reading.modules:
        name = device.locator or "Memory"
        if device.soldered is None:
            drawn.ask(f"{name}: soldered, or a module?")
        elif not device.soldered:
            slot = drawn.slot("memory")
            slot["locator"] = device.locator
            if device.generation and device.present:
                slot["generation"] = _read(device.generation)
            elif len(running) == 1:  # like sockets of one memory system take like modules (known/axioms.py)
                slot["generation"] = _read(next(iter(running)), "a like socket of it holds such a module")
            if device.channel:
                slot["channel"] = _read(device.channel, "as firmware names it")
        elif device.present and device.size_gb:
            soldered += soldered_of([device])
        elif device.present is not False:
            drawn.ask(f"{name}: soldered, {device.says_size}")
    more = (reading.devices or 0) - len(reading.modules)
    for _ in range(max(more, 0)):
        # A place firmware counts beside soldered chips may be a bare pad of the board.
        if any(m.soldered is not False for m in reading.modules):
            drawn.ask("One more place for memory: a socket, or a pad without chips?")
        else:
            drawn.slot("memory")
    return soldered


def _drive_slot(drive: ReadDrive, part: Fittable | None, drawn: _Drawn) -> dict[str, Any] | None:
    """The place of a drive that runs, as far as bus and number prove it; None where card and bay are both open."""
    if drive.transport == "mmc":
        return drawn.slot("emmc")
    if isinstance(part, BayDrive) or (drive.spinning and drive.transport == "sata"):
        return drawn.slot("bay")
    if drive.transport == "nvme" or isinstance(part, M2Drive):
        slot = drawn.slot("msata" if isinstance(part, M2Drive) and part.form == "mini" else "m2_drive")
        if drive.pci:
            slot["pci"] = drive.port_pci or drive.pci
        if drive.transport == "nvme":
            if drive.running and drive.running.lanes >= 3:
                slot["key"] = _read("M", f"its drive runs at ×{drive.running.lanes}")
            if drive.port and drive.running == drive.port:  # the port is an upper bound, the link a lower one
                slot["pcie_lanes"] = _read(drive.port.lanes)
                slot["pcie_generation"] = _read(drive.port.generation)
        return slot
    return None
