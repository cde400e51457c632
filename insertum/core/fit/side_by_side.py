"""Parts side by side for one slot: the figures that decide, each as a line."""

from collections.abc import Sequence

from ..base import Frozen, InputError
from ..machine.part import BayDrive, Cellular, Fittable, M2Drive, MemoryModule, Pack, Radio
from ..standards import ddr
from .build import Build
from .judge import Judgement, judge_equipped
from .measured import rate_mb_s, running_mts
from .memory import module_density
from .waste import adds, per_gb

MOST = 4


class ComparedRow(Frozen):
    """One line of the comparison: a value for each part, and whether they differ."""

    what: str
    values: tuple[str, ...]
    differs: bool


class Comparison(Frozen):
    slot: str
    parts: tuple[str, ...]
    names: tuple[str, ...]
    judged: tuple[Judgement, ...]
    rows: tuple[ComparedRow, ...]


def side_by_side(build: Build, slot_id: str, parts: Sequence[Fittable], shelf: Sequence[object]) -> Comparison:
    """Up to four parts in one slot, side by side. Raises :class:`InputError` for more, or none."""
    if not 1 <= len(parts) <= MOST:
        raise InputError(f"{len(parts)} parts to compare", "compare", f"Choose up to {MOST}.")
    judged = [judge_equipped(build, slot_id, p, shelf) for p in parts]  # type: ignore[arg-type]
    columns = [_figures(build, slot_id, p) for p in parts]
    names = list(dict.fromkeys(name for c in columns for name in c))
    rows = [tuple(c.get(name, "–") for c in columns) for name in names]
    return Comparison(
        slot=slot_id,
        parts=tuple(p.number for p in parts),
        names=tuple(p.name for p in parts),
        judged=tuple(judged),
        rows=tuple(ComparedRow(what=n, values=v, differs=len(set(v)) > 1) for n, v in zip(names, rows, strict=True)),
    )


def _said(value: object, unit: str = "") -> str:
    return "unknown" if value is None else f"{value}{f' {unit}' if unit else ''}"


def _figures(build: Build, slot_id: str, part: Fittable) -> dict[str, str]:
    found: dict[str, str] = {}
    match part:
        case MemoryModule():
            run = running_mts(build.with_part(slot_id, part))
            density = module_density(part)
            found = {
                "Capacity": f"{part.capacity_gb} GB",
                "Grade": f"{part.grade_mts} MT/s",
                "Runs here at": _said(run, "MT/s"),
                "Ranks and width": f"{part.ranks}Rx{part.chip_width}" if part.ranks and part.chip_width else "unknown",
                "Chip density": _said(density, "Gbit"),
                "Refresh time": _said(part.trfc_ns, "ns"),
                "True latency here": "unknown",
            }
            if part.cl and run:
                slower = min(run, part.grade_mts)
                here = ddr.cl_at(part.cl, part.grade_mts, slower, part.generation)
                found["True latency here"] = f"{ddr.latency_ns(here, slower):.2f} ns at CL {here}"
        case M2Drive() | BayDrive():
            rate = rate_mb_s(build.with_part(slot_id, part), slot_id)
            found = {
                "Capacity": f"{part.capacity_gb} GB",
                "Rated read": _said(part.read_mb_s, "MB/s"),
                "Reads here": _said(rate, "MB/s"),
                "Writes": _said(part.write_mb_s, "MB/s"),
                "Endurance": _said(part.tbw, "TB written"),
            }
            if isinstance(part, M2Drive):
                found["Sides"] = {None: "unknown", 0: "single"}.get(part.below_um, "double")
        case Radio():
            found = {
                "Standard": f"802.11{part.standard}" if part.standard else "unknown",
                "Streams": _said(part.streams),
                "Channel": _said(part.channel_mhz, "MHz"),
                "Bands": ", ".join(part.bands) + " GHz" if part.bands else "unknown",
                "Card id": _said(part.fru),
            }
        case Cellular():
            found = {"Generation": _said(part.generation), "Antennas": _said(part.antennas), "Card id": _said(part.fru)}
        case Pack():
            found = {
                "Energy": f"{part.design_mwh / 1000:g} Wh",
                "Voltage": _said(part.voltage_mv and part.voltage_mv / 1000, "V"),
            }
    more, unit = adds(build, slot_id, part)
    if unit:
        found["Against what is in now"] = f"{more:+g} {unit}"
    price = part.price_minor
    found["Price"] = "none" if price is None else f"{price / 100:.2f}"
    if (each := per_gb(part)) is not None:
        found["Price per GB"] = f"{each / 100:.3f}"
    return found
