"""Memory rules (rules.md section 3)."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction

from ..claim import Limit, Limits, Source, limit, settle
from ..machine import MemorySlot, MemorySystem
from ..part import MemoryModule
from ..standards import ddr
from ..verdict import Finding, held, measure, note, refused
from .build import Build
from .rulebook import rule

_NEVER_FORCE = "Never force a module: the notch sits elsewhere and the socket breaks."


def total_gb(build: Build) -> int:
    """Memory in the build, soldered included."""
    return sum(s.capacity_gb for s in build.machine.memory.soldered) + sum(
        m.capacity_gb for m in build.modules().values()
    )


def rated_mts(module: MemoryModule, memory: MemorySystem) -> int:
    """The rate that counts: the base grade, or the profile's where the machine applies profiles."""
    if module.profile_mts and settle(memory.applies_profiles).value:
        return module.profile_mts
    return module.grade_mts


@dataclass(frozen=True)
class Speed:
    """The rate the memory runs at. ``mts`` None is unknown. ``cap`` is the machine's limit."""

    mts: int | None
    cap: Limit
    bound_by: str


def running_speed(build: Build) -> Speed:
    """min(rated speed of every module incl. soldered, the machine's limit for that population)."""
    memory = build.machine.memory
    modules = build.modules()
    fact = memory.speed_by_modules.get(len(modules), memory.speed_mts)
    cap = limit(fact, build.stance, build.firmware)
    rates = [(s.rated_mts, "soldered memory") for s in memory.soldered]
    rates += [
        (rated_mts(modules[s.id], memory), f"the module in {s.name}") for s in build.memory_slots if s.id in modules
    ]
    if cap.value is None:
        # What runs now is known to run: slower modules settle at their own rate.
        slowest, who = min(rates, key=lambda r: ddr.exact_mts(r[0]), default=(0, ""))
        if not rates or cap.at_least is None or ddr.exact_mts(slowest) > ddr.exact_mts(cap.at_least):
            return Speed(None, cap, "the machine's limit is unknown")
        return Speed(slowest, cap, who)
    rates.append((cap.value, f"this machine ({cap.source})"))
    slowest, who = min(rates, key=lambda r: ddr.exact_mts(r[0]))
    return Speed(slowest, cap, who)


def channel_split(build: Build) -> ddr.Split | None:
    """Capacity over the channels; None when a socket's channel is unknown."""
    totals: dict[str, int] = {}
    for s in build.machine.memory.soldered:
        totals[s.channel] = totals.get(s.channel, 0) + s.capacity_gb
    modules = build.modules()
    for slot in build.memory_slots:
        channel = settle(slot.channel).value
        if slot.id in modules:
            if channel is None:
                return None
            totals[channel] = totals.get(channel, 0) + modules[slot.id].capacity_gb
    return ddr.split(sorted(totals.values(), reverse=True)[:2]) if totals else None


@rule(
    "memory.generation",
    "A module only enters a socket of its own generation.",
    "JEDEC MO-268, MO-310, MO-337: contacts and notch differ",
    MemorySlot,
    MemoryModule,
)
def generation(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    socket = settle(slot.generation)
    if socket.value is None:
        yield measure(
            "The socket's generation is unknown.",
            f"{slot.id}.generation",
            "Read PC3, PC4 or PC5 off the fitted module's label, or count the contacts (204, 260, 262).",
            socket.why,
            short="generation unknown",
        )
    elif socket.value != part.generation:
        yield refused(
            f"A DDR{part.generation} module does not enter a DDR{socket.value} socket.",
            f"socket DDR{socket.value}: {socket.why}",
            short=f"DDR{part.generation} into DDR{socket.value}",
            caution=_NEVER_FORCE,
        )


@rule(
    "memory.module_type",
    "The socket takes SO-DIMMs; ECC only where the maker says so.",
    "JEDEC module label, module type letter",
    MemorySlot,
    MemoryModule,
)
def module_type(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    kind = part.module_type
    if part.mount == "compression":
        yield refused("A compression-mounted module does not enter a socket.", short="compression module")
    if kind is None:
        yield measure(
            "The module's type is unknown.",
            "part.module_type",
            "Read the letter after the speed on its label: S is a SO-DIMM.",
            short="type unknown",
        )
    elif kind not in ("S", "T"):
        yield refused(
            f"A {ddr.MODULE_TYPES.get(kind, kind)} does not enter a SO-DIMM socket.",
            short=ddr.MODULE_TYPES.get(kind, f"type {kind}"),
            caution=_NEVER_FORCE,
        )
    elif kind == "T":
        allowed = settle(build.machine.memory.module_types)
        if part.generation == 3 or (allowed.value is not None and "T" not in allowed.value):
            yield refused("This machine does not run modules with ECC.", allowed.why, short="ECC module")
        elif allowed.value is None:
            yield measure(
                "Whether this machine runs modules with ECC is unknown.",
                "memory.module_types",
                "Look in the service manual, or try one with the right to return it.",
                short="ECC unknown",
            )


@rule(
    "memory.clock_driver",
    "A module with its own clock driver runs only where that is documented.",
    "JEDEC JESD323, clocked SO-DIMM; machine claims",
    MemorySlot,
    MemoryModule,
)
def clock_driver(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    if not part.clock_driver:
        return
    known = settle(build.machine.memory.clock_drivers)
    if known.value is False:
        yield refused("This machine does not run modules with a clock driver.", known.why, short="clock driver")
    elif known.value is None:
        yield measure(
            "Whether this machine runs modules with a clock driver is unknown.",
            "memory.clock_drivers",
            "Look in the service manual for this exact processor.",
            known.why,
            short="clock driver unknown",
        )


@rule(
    "memory.voltage",
    "A 1.5 V DDR3 module does not run in a machine that gives 1.35 V only.",
    "JEDEC JESD79-3-1A: DDR3L runs at 1.35 V and 1.5 V, DDR3 at 1.5 V",
    MemorySlot,
    MemoryModule,
)
def voltage(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    if part.generation != 3 or part.voltage_mv == 1350:
        return
    if part.voltage_mv is None:
        yield measure(
            "The module's voltage is unknown.", "part.voltage_mv", "PC3L on its label is 1.35 V, PC3 is 1.5 V."
        )
        return
    given = settle(build.machine.memory.voltage_mv)
    if given.value is None:
        yield measure(
            "The machine's memory voltage is unknown.",
            "memory.voltage_mv",
            "Read the fitted module's label: PC3L only ever came with 1.35 V machines.",
        )
    elif given.value < part.voltage_mv:
        yield refused("The machine gives 1.35 V; this module needs 1.5 V.", given.why, short="1.5 V module")


@rule(
    "memory.socket_capacity",
    "A socket takes modules up to its limit.",
    "machine claims, picked by the job's school",
    MemorySlot,
    MemoryModule,
)
def socket_capacity(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    today = build.fitted.get(slot.id)
    fitted = today.capacity_gb if isinstance(today, MemoryModule) else None
    most = limit(slot.limit_gb, build.stance, build.firmware, fitted)
    yield from _against(
        most,
        part.capacity_gb,
        "This socket",
        f"{slot.id}.limit_gb",
        f"{slot.name}: {most.why}",
        f"over {most.value} GB",
    )


@rule(
    "memory.total",
    "All memory together, soldered included, stays within the machine's ceiling.",
    "machine claims, picked by the job's school",
    MemorySlot,
    MemoryModule,
    whole=True,
)
def total(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    unknown = [s for s in build.memory_slots if not build.known(s.id)]
    if unknown:
        yield measure(
            f"What sits in {unknown[0].name} is unknown, so the total is too.",
            f"fitted.{unknown[0].id}",
            "Read it from the running system, or look under the cover.",
            short="fitted unknown",
        )
        return
    most = limit(build.machine.memory.total_limit_gb, build.stance, build.firmware, total_gb(_as_fitted(build)))
    whole = total_gb(build)
    yield from _against(
        most,
        whole,
        f"{whole} GB in all: the machine",
        "memory.total_limit_gb",
        f"{' + '.join(map(str, _sizes(build)))} = {whole} GB, ceiling {most.why}",
        f"over {most.value} GB in all",
    )


def _sizes(build: Build) -> list[int]:
    return [s.capacity_gb for s in build.machine.memory.soldered] + [m.capacity_gb for m in build.modules().values()]


def _as_fitted(build: Build) -> Build:
    return replace(build, changes={})


def _against(most: Limit, wanted: int, who: str, attribute: str, evidence: str, short: str) -> Iterator[Finding]:
    if most.at_least is not None and wanted <= most.at_least:
        return
    if most.value is None:
        yield measure(
            f"{who}: the limit is unknown.",
            attribute,
            "Look in the service manual for this exact processor, or try with the right to return the part.",
            short="limit unknown",
        )
    elif wanted > most.value:
        yield refused(
            f"{who} takes at most {most.value} GB ({most.source}).",
            evidence,
            *most.contradictions,
            short=short,
            remedy="Another school of limits may allow it: see what each claims.",
        )
    elif most.unproven and (most.sure is None or wanted > most.sure):
        yield held(
            f"{who} takes {wanted} GB only by a report from others: unproven.",
            evidence,
            short="unproven",
            remedy="At the owner's written risk, with the right to return the part.",
        )


def module_density(part: MemoryModule) -> Fraction | None:
    if part.ranks is None or part.chip_width is None:
        return None
    return ddr.density_gbit(part.capacity_gb, part.ranks, part.chip_width)


@rule(
    "memory.density",
    "The chips are no denser than what is documented or proven here.",
    "JEDEC JESD79-3F/-4D/-5C addressing tables; machine and controller claims",
    MemorySlot,
    MemoryModule,
)
def density(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    chip = module_density(part)
    if chip is None:
        yield measure(
            "The module's ranks or chip width are unknown, so its chip density is too.",
            "part.ranks",
            "Read ranks and width off its label (2Rx8), or ask the seller for them in writing.",
            short="chips unknown",
        )
        return
    fact = build.machine.memory.density_gbit
    today = build.fitted.get(slot.id)
    seen = [s.density_gbit for s in build.machine.memory.soldered if s.density_gbit]
    seen += [int(d) for m in [today] if isinstance(m, MemoryModule) and (d := module_density(m)) is not None]
    # With no claim the largest documented module stands in for one. We take the least dense chips it
    # can be built from (two ranks of x8): the only density that module is sure to have had.
    claimed = any(c.source in (Source.DOCUMENTED, Source.PROVEN) for c in fact.claims)
    documented = [] if claimed else [c.value for c in slot.limit_gb.claims if c.source is Source.DOCUMENTED]
    seen += [int(ddr.density_gbit(gb, 2, 8)) for gb in documented]
    most = limit(fact, build.stance, build.firmware, max(seen, default=None))
    controller = min((c.value for c in fact.claims if c.source is Source.CONTROLLER), default=None)
    over_controller = controller is not None and chip > controller
    reported = max((c.value for c in fact.claims if c.source is Source.REPORTED), default=0)
    says = f"Its chips are {chip} Gbit"
    arithmetic = f"{part.capacity_gb} × 8 × {part.chip_width} ÷ ({part.ranks} × 64) = {chip} Gbit"
    if most.sure is not None and chip <= most.sure and not (over_controller and chip > max(seen, default=0)):
        return
    if build.stance is Limits.OPEN and chip <= reported:
        yield held(f"{says}: only a report says this machine runs them.", arithmetic, short="unproven density")
    elif over_controller:
        yield refused(
            f"{says}; the memory controller addresses {controller} Gbit at most.",
            arithmetic,
            f"controller {controller} Gbit",
            short=f"{chip} Gbit chips",
        )
    else:
        yield measure(
            f"{says}, denser than anything documented or proven here.",
            "memory.density_gbit",
            "Ask the workshop's sightings and the maker, or try one with the right to return it.",
            arithmetic,
            f"highest known {most.why} Gbit",
            short=f"{chip} Gbit chips",
        )


@rule(
    "memory.room",
    "A heat spreader needs room under the cover or shield.",
    "geometry: spreader height against the room above the socket",
    MemorySlot,
    MemoryModule,
)
def room(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    if part.spreader_um == 0:
        return
    if part.spreader_um is None:
        yield measure(
            "Whether it carries a heat spreader is unknown.",
            "part.spreader_um",
            "Look at the part's picture or the part.",
        )
        return
    above = settle(slot.room_above_um)
    if above.value is None:
        yield measure(
            "The room above this socket is unknown and the module has a heat spreader.",
            f"{slot.id}.room_above_um",
            "Lay a piece of modelling clay on the fitted module, close the cover, measure what is left.",
            short="room above unknown",
        )
    elif part.spreader_um > above.value:
        yield refused(
            f"The spreader stands {part.spreader_um / 1000:g} mm; there is room for {above.value / 1000:g} mm.",
            above.why,
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
)
def speed(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    memory = build.machine.memory
    if part.profile_mts and not settle(memory.applies_profiles).value:
        yield note(f"Its profile promises {part.profile_mts}; without it the module is a {part.grade_mts}.")
    run = running_speed(build)
    if run.mts is None:
        yield measure(
            "How fast this machine runs its memory is unknown.",
            "memory.speed_mts",
            "Read the running speed in firmware or with dmidecode, and the processor's data sheet.",
            short="speed unknown",
        )
        return
    rated = rated_mts(part, memory)
    if ddr.exact_mts(run.mts) < ddr.exact_mts(rated):
        yield held(
            f"This {rated} module settles at {run.mts}; a dearer grade adds nothing here.",
            f"bound by {run.bound_by}",
            short=f"runs at {run.mts}",
        )
    elif run.cap.unproven and (run.cap.sure is None or ddr.exact_mts(run.mts) > ddr.exact_mts(run.cap.sure)):
        yield held(f"Only a report says this machine runs {run.mts}: unproven.", short="unproven speed")
    else:
        at = f" at CL {part.cl}, {ddr.latency_ns(part.cl, rated):.2f} ns" if part.cl else ""
        yield note(f"Runs at its own {run.mts}{at}.", f"limit {run.cap.why}", short=f"runs at {run.mts}")


@rule(
    "memory.slows_others",
    "One slow module slows all.",
    "running speed with and without this module",
    MemorySlot,
    MemoryModule,
    whole=True,
)
def slows_others(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    without = replace(build, changes={**build.changes, slot.id: None})
    others = bool(without.modules()) or bool(build.machine.memory.soldered)
    with_it, alone = running_speed(build).mts, running_speed(without).mts
    if others and with_it and alone and ddr.exact_mts(with_it) < ddr.exact_mts(alone):
        yield held(f"It slows the other memory from {alone} to {with_it}.", short=f"slows all to {with_it}")


@rule(
    "memory.channels",
    "Equal capacity on both channels is interleaved; the rest runs in one.",
    "2·min(a, b) interleaved, |a − b| in one channel",
    MemorySlot,
    MemoryModule,
    whole=True,
)
def channels(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    parts = channel_split(build)
    if parts is None:
        yield note("Which channel this socket is on is unknown: the split is measured first, the fit is not affected.")
    elif parts.single_gb and parts.interleaved_gb:
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
def chip_width(slot: MemorySlot, part: MemoryModule, build: Build) -> Iterator[Finding]:
    if part.chip_width == 16 and part.generation in (4, 5):
        yield note("x16 chips, half the bank groups: prefer x8 where graphics share memory.")
