"""A new machine, drafted: from nothing, from a template slot, or from what a reading says.

What is not known stays unknown; geometry is laid out so that nothing overlaps, to be measured and
corrected in the editor.
"""

import re
from typing import Any

from ..machine.shape import Machine
from ..reading import Reading
from ..standards import ddr

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
    "msata": ("Mini card slot for mSATA", {"kind": "m2_drive", "form": "mini"}),
    "emmc": ("Soldered storage", {"kind": "m2_drive", "form": "soldered"}),
    "radio": ("Radio slot", {"kind": "radio"}),
    "cellular": ("Cellular slot", {"kind": "cellular"}),
    "bay": ("2.5-inch bay", {"kind": "bay"}),
    "battery": ("Battery", {"kind": "battery"}),
}
_NAMES = {"memory": "Memory", "m2_drive": "Drive", "msata": "Mini slot", "emmc": "eMMC", "radio": "Radio", "cellular": "Cellular", "bay": "2.5-inch bay", "battery": "Battery"}  # fmt: skip


def slug(text: str) -> str:
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
        "configurations": [{"id": "first", "name": name, "year": 2024, "processor": "unknown"}],
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


def from_reading(reading: Reading) -> dict[str, Any]:
    """A machine drafted from what a running system said: its marks, its memory, the slots that hold
    something. Empty slots a system does not report are missing here: look under the cover."""
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
        "year": 2024,
        "processor": processor or "unknown",
        "marks": [],
    }
    if processor:
        configuration["marks"] = [{"kind": "processor", "text": processor}]
    draft["configurations"] = [configuration]
    slots: list[dict[str, Any]] = []
    memory: dict[str, Any] = {"soldered": []}
    for n, device in enumerate(reading.modules):
        if device.soldered:
            memory["soldered"].append(
                {
                    "capacity_gb": device.size_gb,
                    "rated_mts": device.rated_mts or device.running_mts or ddr.GRADES[4][0],
                    "channel": chr(65 + n % 2),
                }
            )
            continue
        slot = slot_from("memory", slots, draft["width_mm"])
        slot["locator"] = device.locator
        if device.generation:
            slot["generation"] = {"value": device.generation, "source": "read"}
        slots.append(slot)
    for _ in range((reading.devices or 0) - len(reading.modules)):
        slots.append(slot_from("memory", slots, draft["width_mm"]))
    for drive in reading.drives:
        template = "emmc" if drive.transport == "mmc" else "m2_drive" if drive.transport == "nvme" else "bay"
        slot = slot_from(template, slots, draft["width_mm"])
        if drive.transport == "nvme":
            if drive.running and drive.running.lanes >= 3:
                slot["key"] = {"value": "M", "source": "read", "note": f"its drive runs at ×{drive.running.lanes}"}
            if drive.port and drive.running == drive.port:  # the port is an upper bound, the link a lower one
                slot["pcie_lanes"] = {"value": drive.port.lanes, "source": "read"}
                slot["pcie_generation"] = {"value": drive.port.generation, "source": "read"}
        slots.append(slot)
        draft.setdefault("boot_slot", slot["id"])
    if reading.radios:
        slots.append(slot_from("radio", slots, draft["width_mm"]))
    if reading.modems:
        slots.append(slot_from("cellular", slots, draft["width_mm"]))
    if reading.battery:
        slots.append(slot_from("battery", slots, draft["width_mm"]))
        if reading.battery.model:
            slots[-1]["accepts"] = {
                "value": [reading.battery.model],
                "source": "read",
                "note": "the fitted pack",
                "among_others": True,
            }
            configuration["marks"].append({"kind": "battery", "text": reading.battery.model})
    draft["slots"], draft["memory"] = slots, memory
    draft["depth_mm"] = max(220.0, max((s["place"]["y_mm"] + s["place"]["h_mm"] for s in slots), default=0) + 15)
    return draft
