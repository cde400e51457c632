"""Where a statement goes in a machine: the templates of places, their names, and the configuration that is meant."""

from ..machine.card_sockets import DriveSlot
from ..machine.shape import Configuration, Machine, Slot
from ..spelling import folded

PLACE_NAMES = {
    "memory": "Memory", "drive": "Drive slot", "m2_drive": "M.2 drive slots", "bay": "2.5-inch bay", "msata": "mSATA slot",
    "emmc": "Soldered storage", "radio": "Wi-Fi card", "cellular": "Cellular", "battery": "Battery", "processor": "Processor",
    "step": "Way in, step",
}  # fmt: skip


def kind_of_place(place: str) -> str:
    """The template of a place without its number: ``drive-2`` is a ``drive``."""
    return place.rpartition("-")[0] if place.startswith(("drive-", "step-")) else place


def of_template(machine: Machine, template: str) -> list[Slot]:
    """The slots of a machine that a template means."""
    forms = {"m2_drive": "m2", "msata": "mini", "emmc": "soldered"}
    if template in forms:
        return [s for s in machine.slots if isinstance(s, DriveSlot) and s.form == forms[template]]
    return [s for s in machine.slots if s.kind == template]


def configuration_of(machine: Machine, named: str) -> Configuration | None:
    """The configuration a page's heading or processor names."""
    wanted = folded(named)
    for c in machine.configurations:
        processor = folded(c.processor)
        if processor and processor != "unknown" and (processor.endswith(wanted) or wanted.endswith(processor)):
            return c
        name = folded(c.name)
        several = len(machine.configurations) > 1 and name
        if name == wanted or (several and (wanted.endswith(name) or name.endswith(wanted))):
            return c
    return None
