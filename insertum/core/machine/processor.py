"""Processors: what a memory controller and a host radio allow, said once for all machines that name the processor.

A machine that is read with the library's processors (:func:`dressed`) carries their claims, ``controller``, in every
configuration that names one. They are never stored in the machine: changing a processor changes every machine's.
"""

from collections.abc import Iterable, Mapping
from typing import Any, Literal

from pydantic import Field, model_validator

from ..frozen import Frozen
from ..spelling import folded
from ..standards import ddr
from .card_sockets import CardSocket, RadioSlot
from .claim import Source
from .memory_system import MemorySlot
from .shape import Configuration, Machine


class Processor(Frozen):
    """One processor as the processor JSON format holds it. What its data sheet does not say is null; a list that is
    empty says none. ``module_limit_gb`` is the largest module a socket takes; ``speeds_by_modules`` the rate in MT/s by
    the number of socketed modules, where it falls; ``companion_radios`` the numbers of radios its host radio takes."""

    format: Literal["insertum-processor/1"] = "insertum-processor/1"
    id: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=80)
    maker: str = Field(max_length=60)
    name: str = Field(min_length=1, max_length=80, description="as its maker and the system name it")
    cores: int | None = Field(None, ge=1, le=512)
    memory_generations: tuple[Literal[3, 4, 5], ...] | None = Field(None, description="of modules, DDR3 to DDR5")
    channels: int | None = Field(None, ge=1, le=8)
    total_limit_gb: int | None = Field(None, ge=1, le=512)
    module_limit_gb: int | None = Field(None, ge=1, le=128)
    speed_mts: int | None = Field(None, ge=400, le=20_000)
    speeds_by_modules: dict[int, int] = {}
    densities_gbit: tuple[Literal[1, 2, 4, 8, 16, 24, 32], ...] = Field((), description="chip densities it addresses")
    pcie_generation: int | None = Field(None, ge=1, le=5, description="the fastest of its links; a slot's may be less")
    companion_radios: tuple[str, ...] | None = None
    host_radio_generation: int | None = Field(None, ge=1, le=9)
    note: str = Field("", max_length=300, description="the data sheet it is from")

    @model_validator(mode="after")
    def _real(self) -> "Processor":
        for modules, rate in self.speeds_by_modules.items():
            if not 1 <= modules <= 8 or not 400 <= rate <= 20_000:
                raise ValueError(f"{modules} modules at {rate} MT/s: no such population")
            if self.speed_mts is not None and rate > self.speed_mts:
                raise ValueError(f"{modules} modules run no faster than {self.speed_mts} MT/s, its own rate")
        if self.speed_mts is not None and self.memory_generations:
            fastest = max(max(ddr.GRADES[g]) for g in self.memory_generations)
            if self.speed_mts > fastest:
                raise ValueError(f"DDR{max(self.memory_generations)} ends at {fastest} MT/s")
        if self.companion_radios and self.host_radio_generation is None:
            raise ValueError("companion radios need the host radio's generation")
        return self


def named_by(configuration: Configuration, processors: Iterable[Processor]) -> Processor | None:
    """The processor a configuration names: by its whole name, or by the end of it ("Rill 340"). Of several none."""
    wanted = folded(configuration.processor)
    if not wanted or wanted == "unknown":
        return None
    exact = [p for p in processors if folded(p.name) == wanted]
    found = exact or [p for p in processors if folded(p.name).endswith(wanted) and len(wanted) > 4]
    return found[0] if len(found) == 1 else None


def dressed(machine: Machine, processors: Iterable[Processor]) -> Machine:
    """The machine with its processors' claims laid beside its own. What a processor says takes the place of older
    ``controller`` claims on the same attribute, and of no other claim."""
    known = list(processors)
    found = {c.id: p for c in machine.configurations if (p := named_by(c, known))}
    if not found:
        return machine
    configurations = tuple(_dressed(machine, c, found[c.id]) if c.id in found else c for c in machine.configurations)
    return machine.model_copy(update={"configurations": configurations})


def _dressed(machine: Machine, configuration: Configuration, processor: Processor) -> Configuration:
    differs: dict[str, dict[str, Any]] = {place: dict(patch) for place, patch in configuration.differs.items()}
    memory = machine.memory.model_dump(mode="json") | differs.get("memory", {})
    for name, values in _of_memory(processor).items():
        differs.setdefault("memory", {})[name] = _beside(memory.get(name), values, processor)
    if processor.speeds_by_modules:
        rates: dict[str, Any] = {str(k): v for k, v in memory.get("speed_by_modules", {}).items()}
        for modules, rate in processor.speeds_by_modules.items():
            rates[str(modules)] = _beside(rates.get(str(modules)), [rate], processor)
        differs.setdefault("memory", {})["speed_by_modules"] = rates
    for slot in machine.slots:
        own = slot.model_dump(mode="json") | differs.get(slot.id, {})
        claims = _of_socket(processor) if isinstance(slot, MemorySlot) else {}
        claims |= _of_radio(processor) if isinstance(slot, RadioSlot) else {}
        for name, value in claims.items():
            differs.setdefault(slot.id, {})[name] = _beside(own.get(name), [value], processor)
        if isinstance(slot, CardSocket) and slot.form != "soldered" and processor.pcie_generation is not None:
            links = _beside(own.get("pcie_generation"), [processor.pcie_generation], processor, "at_most")
            differs.setdefault(slot.id, {})["pcie_generation"] = links
    cores = configuration.cores if configuration.cores is not None else processor.cores
    return configuration.model_copy(update={"differs": differs, "cores": cores})


def _of_memory(p: Processor) -> dict[str, list[Any]]:
    said: dict[str, list[Any]] = {}
    if p.total_limit_gb is not None:
        said["total_limit_gb"] = [p.total_limit_gb]
    if p.speed_mts is not None:
        said["speed_mts"] = [p.speed_mts]
    if p.densities_gbit:
        said["density_gbit"] = list(p.densities_gbit)
    return said


def _of_socket(p: Processor) -> dict[str, Any]:
    said: dict[str, Any] = {}
    if p.module_limit_gb is not None:
        said["limit_gb"] = p.module_limit_gb
    if p.memory_generations and len(p.memory_generations) == 1:
        said["generation"] = p.memory_generations[0]  # of two, the board's maker chose one
    return said


def _of_radio(p: Processor) -> dict[str, Any]:
    said: dict[str, Any] = {}
    if p.companion_radios is not None:
        said["cnvi"] = list(p.companion_radios)
    if p.host_radio_generation is not None:
        said["host_generation"] = p.host_radio_generation
    return said


def _beside(claims: Any, values: Iterable[Any], processor: Processor, bound: str = "") -> list[Any]:
    """Other people's claims, and the processor's."""
    kept = [c for c in claims_of(claims) if not (_is_claim(c) and c["source"] == Source.CONTROLLER)]
    note = f"{processor.name}{': ' + processor.note if processor.note else ''}"[:300]
    return [*kept, *({"value": v, "source": Source.CONTROLLER, "note": note, "bound": bound} for v in values)]


def claims_of(claims: Any) -> list[Any]:
    """A file's shorthand as the list of claims it stands for."""
    if claims is None or (isinstance(claims, list) and all(_is_claim(c) for c in claims)):
        return list(claims or [])
    return [claims] if _is_claim(claims) else [{"value": claims, "source": Source.DOCUMENTED}]


def _is_claim(value: Any) -> bool:
    return isinstance(value, Mapping) and {"value", "source"} <= value.keys()
