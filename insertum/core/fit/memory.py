"""Memory rules (rules.md section 3)."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from ..known.school import Cap
from ..machine.claim import Source
from ..machine.memory_system import MemorySlot
from ..machine.part import MemoryModule
from ..standards import ddr
from ..verdict import Impossible, Said, held, note, refused
from .rulebook import rule
from .shape_facts import MemoryModuleFacts, MemorySlotFacts
from .views import BuildView

_NEVER_FORCE = "Never force a module: the notch sits elsewhere and the socket breaks."


def total_gb(build: BuildView) -> int:
    """Memory in the build, soldered included."""
    return sum(sizes(build))


def sizes(build: BuildView, today: bool = False) -> list[int]:
    """What adds up to the memory of the build, soldered first."""
    modules = build.modules(today=today)
    return [s.capacity_gb for s in build.soldered] + [m.capacity_gb for m in modules.values()]


def rated_mts(module: MemoryModuleFacts, build: BuildView) -> int:
    """The rate that counts: the base grade, or the profile's where the machine is known to apply profiles."""
    if module.profile_mts and build.memory.stated("applies_profiles"):
        return int(module.profile_mts)
    return int(module.grade_mts)


class Speed(NamedTuple):
    """The rate the memory runs at, in MT/s; ``sure`` without what only a report carries."""

    mts: int
    sure: int
    bound_by: str
    source: Source | None


def running_speed(build: BuildView, without_this: bool = False) -> Speed | None:
    """min(rated speed of every module incl. soldered, the machine's limit for that population); None for a build
    without memory."""
    modules = build.modules(without_this=without_this)
    rates = [(s.rated_mts, "soldered memory") for s in build.soldered]
    rates += [(rated_mts(m, build), f"the module in {build.slot_name(slot)}") for slot, m in modules.items()]
    if not rates:
        return None
    cap: Cap = build.memory.speed(len(modules), build.runs_at_least(modules))
    slowest, who = min(rates, key=lambda r: ddr.exact_mts(r[0]))
    if ddr.exact_mts(cap.most) < ddr.exact_mts(slowest):
        return Speed(cap.most, min(cap.sure, cap.most), f"this machine ({cap.source or 'not known'})", cap.source)
    return Speed(slowest, min(cap.sure, slowest), who, cap.source)


def channel_split(build: BuildView) -> ddr.Split | None:
    """Capacity over the channels; None for a build without memory."""
    totals: dict[str, int] = {}
    for s in build.soldered:
        totals[s.channel] = totals.get(s.channel, 0) + s.capacity_gb
    for slot, module in build.modules().items():
        channel = build.socket_at(slot).channel
        totals[channel] = totals.get(channel, 0) + module.capacity_gb
    return spread(totals.values()) if totals else None


def spread(totals: Iterable[int]) -> ddr.Split:
    """What lies on each channel as two of them carry it."""
    return ddr.split(sorted(totals, reverse=True)[:2])


@rule(
    "memory.generation",
    "A module only enters a socket of its own generation.",
    "JEDEC MO-268, MO-310, MO-337: contacts and notch differ",
    MemorySlot,
    MemoryModule,
)
def generation(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    if slot.generation != part.generation:
        yield refused(
            f"A DDR{part.generation} module does not enter a DDR{slot.generation} socket.",
            short=f"DDR{part.generation} into DDR{slot.generation}",
            caution=_NEVER_FORCE,
            keeps_out=True,
        )


@rule(
    "memory.module_type",
    "The socket takes SO-DIMMs; ECC only where the maker says so.",
    "JEDEC module label, module type letter",
    MemorySlot,
    MemoryModule,
)
def module_type(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    if part.mount == "compression":
        yield refused("A compression-mounted module does not enter a socket.", short="compression module")
    kind = part.module_type
    if kind not in ("S", "T"):
        yield refused(
            f"A {ddr.MODULE_TYPES.get(kind, kind)} does not enter a SO-DIMM socket.",
            short=ddr.MODULE_TYPES.get(kind, f"type {kind}"),
            caution=_NEVER_FORCE,
            keeps_out=True,
        )
    elif kind == "T" and (part.generation == 3 or not build.memory.takes_type("T")):
        yield refused("This machine does not run modules with ECC.", short="ECC module")


@rule(
    "memory.clock_driver",
    "A module with its own clock driver runs only where that is documented.",
    "JEDEC JESD323, clocked SO-DIMM (DDR5); machine claims",
    MemorySlot,
    MemoryModule,
)
def clock_driver(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    if part.clock_driver and not build.memory.clock_drivers:
        yield refused("This machine does not run modules with a clock driver.", short="clock driver")


@rule(
    "memory.voltage",
    "A 1.5 V DDR3 module does not run in a machine that gives 1.35 V only.",
    "JEDEC JESD79-3-1A: DDR3L runs at 1.35 V and 1.5 V, DDR3 at 1.5 V",
    MemorySlot,
    MemoryModule,
    more=("voltage_mv",),
    less=("part.voltage_mv",),
)
def voltage(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    # A DDR3L module runs at both: nothing of the machine has to be known for it.
    if part.generation == 3 and part.voltage_mv > 1350 and build.memory.voltage_mv < part.voltage_mv:
        yield refused("The machine gives 1.35 V; this module needs 1.5 V.", short="1.5 V module")


@rule(
    "memory.socket_capacity",
    "A socket takes modules up to its limit.",
    "machine claims, picked by the job's school",
    MemorySlot,
    MemoryModule,
)
def socket_capacity(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    yield from _against(slot.limit_gb, part.capacity_gb, "This socket", f"{part.capacity_gb} GB")


@rule(
    "memory.total",
    "All memory together, soldered included, stays within the machine's ceiling.",
    "machine claims, picked by the job's school",
    MemorySlot,
    MemoryModule,
    whole=True,
    less=("held.capacity_gb",),
)
def total(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    parts = sizes(build)
    whole = sum(parts)
    yield from _against(
        build.memory.total_limit_gb, whole, f"{whole} GB in all: the machine",
        f"{' + '.join(map(str, parts))} = {whole} GB", " in all",
    )  # fmt: skip


def _against(most: Cap, wanted: int, who: str, sum_: str, where: str = "") -> Iterator[Said]:
    if wanted > most.most:
        yield refused(
            f"{who} takes at most {most.most} GB{f' ({most.source})' if most.source else ''}.",
            f"{sum_}, ceiling {most}",
            short=f"over {most.most} GB{where}",
            remedy="Another school of limits may allow it: see what each claims." if most.source else "",
        )
    elif wanted > most.sure:
        yield held(
            f"{who} takes {wanted} GB only by a report from others: unproven.",
            sum_,
            short="unproven",
            remedy="At the owner's written risk, with the right to return the part.",
        )
    elif most.source is Source.ASSUMED:
        yield note(f"{who}: nobody claims a limit; taken as usual, on the owner's word.")


@rule(
    "memory.density",
    "The chips are no denser than what is documented or proven here.",
    "JEDEC JESD79-3F/-4D/-5C addressing tables; machine and controller claims",
    MemorySlot,
    MemoryModule,
)
def density(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    chip = ddr.density_gbit(part.capacity_gb, part.ranks, part.chip_width)
    if chip not in ddr.DENSITIES.get(part.generation, ()):
        raise Impossible  # no such module is made
    runs = build.memory.runs_density(int(chip))
    if runs == "yes":
        return
    arithmetic = f"{part.capacity_gb} × 8 × {part.chip_width} ÷ ({part.ranks} × 64) = {chip} Gbit"
    if runs == "report":
        yield held(
            f"Its chips are {chip} Gbit: only a report says this machine runs them.",
            arithmetic,
            short="unproven density",
            remedy="At the owner's written risk, with the right to return the part.",
        )
    else:
        yield refused(
            f"Its chips are {chip} Gbit; this machine does not run them.", arithmetic, short=f"{chip} Gbit chips"
        )


@rule(
    "memory.room",
    "A heat spreader needs room under the cover or shield.",
    "geometry: spreader height against the room above the socket",
    MemorySlot,
    MemoryModule,
    more=("room_above_um",),
    less=("part.spreader_um",),
)
def room(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    # A bare module needs no check.
    if part.spreader_um and part.spreader_um > slot.room_above_um:
        yield refused(
            f"The spreader stands {part.spreader_um / 1000:g} mm; there is room for {slot.room_above_um / 1000:g} mm.",
            short="spreader too tall",
            caution="Do not close the cover on it.",
        )


@rule(
    "memory.speed",
    "Memory runs at the slowest of all modules and the machine's limit.",
    "JEDEC speed grades; running speed = min(rated, machine's limit for the population)",
    MemorySlot,
    MemoryModule,
    whole=True,
    role=True,
    more=("held.grade_mts",),
    shown="speed",
)
def speed(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    rated = rated_mts(part, build)
    if part.profile_mts and rated != part.profile_mts:
        applied = (
            "which is not applied here"
            if build.memory.stated("applies_profiles") is False
            else "and nobody knows whether it is applied here"
        )
        yield note(
            f"Its profile promises {part.profile_mts}, {applied}: it counts as the {part.grade_mts} it is without."
        )
    run = running_speed(build)
    assert run is not None, "the module itself is memory"
    if ddr.exact_mts(run.mts) < ddr.exact_mts(rated):
        yield held(
            f"This {rated} module settles at {run.mts}; a dearer grade adds nothing here.",
            f"bound by {run.bound_by}",
            short=f"runs at {run.mts}",
            figure=run.mts,
            unit="MT/s",
        )
    elif ddr.exact_mts(run.mts) > ddr.exact_mts(run.sure):
        yield held(f"Only a report says this machine runs {run.mts}: unproven.", short="unproven speed")
    else:
        at = f" at CL {part.cl}, {ddr.latency_ns(part.cl, rated):.2f} ns" if part.cl else ""
        yield note(f"Runs at its own {run.mts}{at}.", short=f"runs at {run.mts}", figure=run.mts, unit="MT/s")


@rule(
    "memory.slows_others",
    "One slow module slows all.",
    "running speed with and without this module",
    MemorySlot,
    MemoryModule,
    whole=True,
    less=("held.grade_mts",),
    shown="speed",
)
def slows_others(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    alone, with_it = running_speed(build, without_this=True), running_speed(build)
    if alone and with_it and ddr.exact_mts(with_it.mts) < ddr.exact_mts(alone.mts):
        yield held(f"It slows the other memory from {alone.mts} to {with_it.mts}.", short=f"slows all to {with_it.mts}")


@rule(
    "memory.channels",
    "Equal capacity on both channels is interleaved; the rest runs in one.",
    "2·min(a, b) interleaved, |a − b| in one channel",
    MemorySlot,
    MemoryModule,
    whole=True,
    # It only notes figures, and another size is another figure: least and most tell whether there is one.
    more=("held.capacity_gb",),
)
def channels(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    parts = channel_split(build)
    if parts is None:
        return
    if parts.single_gb and parts.interleaved_gb:
        yield note(f"{parts.interleaved_gb} GB run in two channels, {parts.single_gb} GB in one.")
    elif parts.single_gb:
        yield note(f"All {parts.single_gb} GB run in one channel.")
    else:
        yield note(f"All {parts.interleaved_gb} GB run in two channels.")


@rule(
    "memory.chip_width",
    "x16 chips have half the bank groups of x8.",
    "JESD79-4: 2 of 4 bank groups; JESD79-5: 4 of 8",
    MemorySlot,
    MemoryModule,
)
def chip_width(slot: MemorySlotFacts, part: MemoryModuleFacts, build: BuildView) -> Iterator[Said]:
    if part.chip_width == 16 and part.generation in (4, 5):
        yield note("x16 chips, half the bank groups: prefer x8 where graphics share memory.")
