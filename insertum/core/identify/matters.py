"""What differs between configurations in what matters for an upgrade."""

from collections.abc import Sequence

from ..frozen import Frozen
from ..known.known import as_delivered
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import CellularSlot, DriveSlot, RadioSlot
from ..machine.memory_system import MemorySlot
from ..machine.shape import Configured
from ..standards.pcie import Link


class Difference(Frozen):
    """One thing that matters for an upgrade and differs: a value for each configuration."""

    what: str
    values: tuple[str, ...]


def differences(configured: Sequence[Configured]) -> tuple[Difference, ...]:
    """What differs between configurations in what matters for an upgrade."""
    if len(configured) < 2:
        return ()
    tables = [matters(c) | {"Processor": _maker(c)} for c in configured]
    names = dict.fromkeys(name for t in tables for name in t)
    return tuple(
        Difference(what=name, values=values)
        for name in names
        if len(set(values := tuple(t.get(name, "not there") for t in tables))) > 1
    )


def _maker(machine: Configured) -> str:
    """Whose the processor is: some radios work with one maker's only. Which of his it is no upgrade touches."""
    return machine.configuration.processor.strip().partition(" ")[0] or "unknown"


def matters(machine: Configured) -> dict[str, str]:
    """Everything an upgrade depends on, in words: limits as documented and proven, slots, links."""

    known = as_delivered(machine)

    def limit(place: str, name: str, unit: str) -> str:
        value = known.limit(place, name).value
        return "unknown" if value is None else f"{value} {unit}"

    memory = machine.memory
    table = {
        "Processor": machine.configuration.processor,
        "Memory ceiling": limit("memory", "total_limit_gb", "GB"),
        "Soldered memory": " + ".join(f"{s.capacity_gb} GB" for s in memory.soldered)
        # Of a draft nobody has gone through, chips that nobody named may be there all the same.
        or ("unknown" if machine.machine.draft else "none"),
        "Memory runs at": limit("memory", "speed_mts", "MT/s"),
    }
    for slot in machine.slots:
        match slot:
            case MemorySlot():
                table[f"{slot.name} takes"] = limit(slot.id, "limit_gb", "GB")
            case DriveSlot() if slot.form != "soldered":
                lanes, generation, sata = (known.value(slot.id, n) for n in ("pcie_lanes", "pcie_generation", "sata"))
                wired = [str(Link(generation=generation, lanes=lanes))] if lanes and generation else []
                wired += [f"SATA {sata}"] if sata else []
                table[f"{slot.name} link"] = ", ".join(wired) or "unknown"
                lengths = known.value(slot.id, "standoffs_mm")
                table[f"{slot.name} lengths"] = ", ".join(map(str, lengths)) if lengths else "unknown"
            case BaySlot():
                height = known.value(slot.id, "height_um")
                table[slot.name] = "height unknown" if height is None else f"{height / 1000:g} mm"
            case DriveSlot() | RadioSlot() | CellularSlot() if slot.form == "soldered":
                table[slot.name] = "soldered"
            case RadioSlot():
                table["Wi-Fi cards"] = known.value(slot.id, "card_policy") or "policy unknown"
            case CellularSlot():
                leads = known.value(slot.id, "leads")
                table["Cellular antennas"] = "unknown" if leads is None else str(leads)
            case BatterySlot():
                table["Packs"] = ", ".join(known.value(slot.id, "accepts") or ()) or "unknown"
    return table
