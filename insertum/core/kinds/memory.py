"""Memory modules."""

from collections.abc import Iterator

from ..fit.build import Build
from ..fit.figures import running_mts
from ..machine.density import module_density
from ..machine.part import MemoryModule
from ..machine.shape import Slot
from ..standards import ddr
from .base import Does, Expectation, Kind, Moves, Size, expect, figure_words


class Memory(Kind[MemoryModule]):
    id = "memory"
    word, plural = "memory", "memory"
    slots = ("memory",)
    rules = ("memory.",)
    needs = ("memory_capacity", "memory_throughput")
    columns = (
        "label", "mount", "capacity_gb", "ranks", "chip_width", "generation", "grade_mts", "cl", "module_type", "profile_mts",
        "spreader_mm", "clock_driver", "trfc_ns", "voltage_v",
    )  # fmt: skip
    form = ("label", "capacity_gb", "generation", "grade_mts", "ranks", "chip_width", "spreader_mm")

    def size(self, part: MemoryModule) -> Size | None:
        found = ddr.SODIMM_MM.get(part.generation)
        return Size(w_mm=found[0], h_mm=found[1]) if found else None

    def detail(self, part: MemoryModule) -> str:
        chips = f", {part.ranks}Rx{part.chip_width}" if part.ranks and part.chip_width else ""
        return f"{part.capacity_gb} GB DDR{part.generation}-{part.grade_mts}{chips}"

    def could_sit(self, build: Build, slot: Slot, part: MemoryModule) -> bool:
        """A notch lets in one generation (JESD79)."""
        return build.known.value(slot.id, "generation") in (None, part.generation)

    def moves(self) -> Moves:
        return Moves(
            "Spread both clips; the module rises by itself. Draw it out at the socket's angle.",
            "Match the notch, push in at the angle until no more gold shows, press down until both clips click. "
            "A module not fully home is the commonest fault after an upgrade.",
        )

    def expects(self, build: Build, slot: Slot, part: MemoryModule) -> Iterator[Expectation]:
        gb = part.capacity_gb
        yield expect(
            f"{slot.id}.size", "memory_socket", slot.name, f"{gb} GB", figure=gb, unit="GB", number=part.number
        )

    def does(self, build: Build, slot_id: str, part: MemoryModule) -> Does:
        return Does(f"{part.capacity_gb} GB", float(running_mts(build.with_part(slot_id, part)) or 0), "MT/s")

    def adds(self, build: Build, slot_id: str, part: MemoryModule) -> tuple[float, str]:
        now = build.now(slot_id)
        return float(part.capacity_gb - (now.capacity_gb if isinstance(now, MemoryModule) else 0)), "GB"

    def figures(self, build: Build, slot_id: str, part: MemoryModule) -> dict[str, str]:
        run = running_mts(build.with_part(slot_id, part))
        found = {
            "Capacity": f"{part.capacity_gb} GB",
            "Grade": f"{part.grade_mts} MT/s",
            "Runs here at": figure_words(run, "MT/s"),
            "Ranks and width": f"{part.ranks}Rx{part.chip_width}" if part.ranks and part.chip_width else "unknown",
            "Chip density": figure_words(module_density(part), "Gbit"),
            "Refresh time": figure_words(part.trfc_ns, "ns"),
            "True latency here": "unknown",
        }
        if part.cl and run:
            slower = min(run, part.grade_mts)
            here = ddr.cl_at(part.cl, part.grade_mts, slower, part.generation)
            found["True latency here"] = f"{ddr.latency_ns(here, slower):.2f} ns at CL {here}"
        return found
