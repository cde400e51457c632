"""What differs between configurations in what matters for an upgrade."""

from collections.abc import Sequence

from ..base import Frozen
from ..claim import Fact, Limits, limit, settle
from ..machine import BatterySlot, BaySlot, CellularSlot, Configured, DriveSlot, MemorySlot, RadioSlot
from ..standards.pcie import Link


class Difference(Frozen):
    """One thing that matters for an upgrade and differs: a value for each configuration."""

    what: str
    values: tuple[str, ...]


def differences(configured: Sequence[Configured]) -> tuple[Difference, ...]:
    """What differs between configurations in what matters for an upgrade."""
    if len(configured) < 2:
        return ()
    tables = [matters(c) for c in configured]
    names = dict.fromkeys(name for t in tables for name in t)
    return tuple(
        Difference(what=name, values=values)
        for name in names
        if len(set(values := tuple(t.get(name, "not there") for t in tables))) > 1
    )


def matters(machine: Configured) -> dict[str, str]:
    """Everything an upgrade depends on, in words: limits as documented and proven, slots, links."""

    def gb(fact: Fact[int]) -> str:
        value = limit(fact, Limits.PROVEN).value
        return "unknown" if value is None else f"{value} GB"

    memory = machine.memory
    table = {
        "Processor": machine.configuration.processor,
        "Memory ceiling": gb(memory.total_limit_gb),
        "Soldered memory": " + ".join(f"{s.capacity_gb} GB" for s in memory.soldered) or "none",
        "Memory runs at": f"{mts} MT/s" if (mts := limit(memory.speed_mts, Limits.PROVEN).value) else "unknown",
    }
    for slot in machine.slots:
        match slot:
            case MemorySlot():
                table[f"{slot.name} takes"] = gb(slot.limit_gb)
            case DriveSlot() if slot.form != "soldered":
                pcie, sata = settle(slot.pcie).value, settle(slot.sata).value
                wired = [str(pcie)] if isinstance(pcie, Link) else []
                wired += [f"SATA {sata}"] if isinstance(sata, int) else []
                table[f"{slot.name} link"] = ", ".join(wired) or "unknown"
                lengths = settle(slot.standoffs_mm).value
                table[f"{slot.name} lengths"] = ", ".join(map(str, lengths)) if lengths else "unknown"
            case BaySlot():
                table[slot.name] = f"{(settle(slot.height_um).value or 0) / 1000:g} mm"
            case DriveSlot() | RadioSlot() | CellularSlot() if slot.form == "soldered":
                table[slot.name] = "soldered"
            case RadioSlot():
                table["Radio cards"] = settle(slot.card_policy).value or "policy unknown"
            case CellularSlot():
                leads = settle(slot.leads).value
                table["Cellular antennas"] = "unknown" if leads is None else str(leads)
            case BatterySlot():
                table["Packs"] = ", ".join(settle(slot.accepts).value or ()) or "unknown"
    return table
