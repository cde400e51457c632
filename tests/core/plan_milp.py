"""The most benefit within a budget as an integer program (HiGHS), over every judged part and nothing pruned.

Written for machines without exclusions, on which everything is known: what each slot may hold is asked of the judges,
everything else (access, totals, channels, the system drive, what is met) is stated as rows and columns.
"""

from typing import Any

import highspy

from insertum.core.access.way import SETTING_OUT_SECONDS, TRIAL_SECONDS, closure
from insertum.core.fit.figures import rate_mb_s
from insertum.core.machine.bay_and_battery import BatterySlot, BaySlot
from insertum.core.machine.card_sockets import DriveSlot, RadioSlot
from insertum.core.machine.memory_system import MemorySlot
from insertum.core.machine.part import MemoryModule
from insertum.core.plan.candidates import Judges, rated
from insertum.core.plan.planner import Planner
from insertum.core.standards import ddr, wlan


def best_by_milp(planner: Planner, budget_minor: int) -> float:
    """Points of 100 of the best build within the budget."""
    build, market, machine = planner.build, planner.market, planner.machine
    assert not machine.machine.exclusions and not planner.build.known.as_usual
    h = highspy.Highs()
    h.silent()
    h.setOptionValue("mip_rel_gap", 0.0)
    h.setOptionValue("mip_abs_gap", 1e-9)
    needs = {n.kind: n for n in planner.needs}
    rate, credits = planner.terms.rate_minor_per_hour, planner.terms.credits

    off = {o.id: h.addBinary() for o in machine.machine.obstacles}
    opened = h.addBinary()
    effort: Any = 2 * rate * (SETTING_OUT_SECONDS + TRIAL_SECONDS) * opened
    for o in machine.machine.obstacles:
        effort += 2 * rate * o.seconds * off[o.id]

    held: dict[str, list[tuple[Any, Any]]] = {}  # slot -> [(column, part or None)] of everything it may hold
    boots: list[tuple[Any, float]] = []
    judges = Judges(build, machine.slots, market)

    def offer(slot: Any, boot: str) -> list[tuple[Any, Any]]:
        nonlocal effort
        found = []
        for c in judges.candidates(slot, boot):
            if c.waits:
                continue
            x = h.addBinary()
            minor = c.money - (credits.get(slot.id, 0) if build.now(slot.id) else 0)
            effort += (7200 * minor + 2 * rate * slot.swap_seconds) * x
            h.addConstr(opened >= x)
            for o in closure(machine, [slot.id]):
                h.addConstr(off[o] >= x)
            found.append((x, c.part))
        return found

    for slot in machine.slots:
        keep = h.addBinary()
        plain = offer(slot, "")
        columns = [(keep, build.now(slot.id)), *plain]
        if isinstance(slot, DriveSlot | BaySlot):
            starting = offer(slot, slot.id)
            for x, part in starting:
                boots.append((x, rate_mb_s(build.with_part(slot.id, part), slot.id) or 0))
            columns += starting
            if slot.id == build.boot_slot and build.now(slot.id) is not None:
                own = h.addBinary()
                h.addConstr(own <= keep)
                boots.append((own, rate_mb_s(build, slot.id) or 0))
        total = sum((x for x, _ in columns[1:]), columns[0][0])
        h.addConstr(total == 1)
        held[slot.id] = columns
    h.addConstr(sum((x for x, _ in boots[1:]), boots[0][0]) == 1)
    h.addConstr(effort <= 7200 * budget_minor + 3599)

    gained: Any = 0.0 * opened
    base = 0.0

    def worth(kind: str, x: float) -> float:
        n = needs.get(kind)
        return n.weight_units * float(n.met(x)) if n else 0.0

    # memory: one column for each (size on either channel, slowest rate), which what is held must allow
    sockets = [s for s in machine.slots if isinstance(s, MemorySlot)]
    assert (
        len(sockets) == 2
        and len({build.known.value(s.id, "channel") for s in sockets}) == 2
        and not machine.memory.soldered
    )
    profiles = build.known.value("memory", "applies_profiles") is not False
    caps = [build.known.caps("memory", f"speed_by_modules.{n}")[0].most for n in (1, 2)]
    ceiling = build.known.caps("memory", "total_limit_gb")[0].most

    def gb(part: Any) -> int:
        return part.capacity_gb if isinstance(part, MemoryModule) else 0

    def own_rate(part: Any) -> int:
        return min(rated(part, profiles), max(caps)) if isinstance(part, MemoryModule) else 10**6

    rates = sorted({own_rate(p) for s in sockets for _, p in held[s.id]})
    states = []
    for a in sorted({gb(p) for _, p in held[sockets[0].id]}):
        for b in sorted({gb(p) for _, p in held[sockets[1].id]}):
            changed_over = a + b > ceiling
            for r in rates:
                if changed_over or (a + b == 0) != (r == 10**6):
                    continue
                z = h.addBinary()
                for s, size in zip(sockets, (a, b), strict=True):
                    right = [x for x, p in held[s.id] if gb(p) == size and own_rate(p) >= r]
                    if right:
                        h.addConstr(z <= sum(right[1:], right[0]))
                    else:
                        h.addConstr(z <= 0)
                count = (a > 0) + (b > 0)
                mts = min(r, caps[count - 1]) if count else 0
                through = ddr.throughput_mb_s(ddr.split([a, b]), mts) if count else 0
                gained += (worth("memory_capacity", a + b) + worth("memory_throughput", through)) * z
                states.append(z)
    h.addConstr(sum(states[1:], states[0]) == 1)

    # drives: the system drive's rate, and what all of them hold on its three bends
    for x, reads in boots:
        gained += worth("drive_speed", reads) * x
    n = needs.get("drive_space")
    if n is not None:
        stored: Any = None
        for s in machine.slots:
            if isinstance(s, DriveSlot | BaySlot):
                for x, part in held[s.id]:
                    size = getattr(part, "capacity_gb", 0) if part is not None else 0
                    stored = size * x if stored is None else stored + size * x
        used = planner.use.used_gb or 0
        most = 10**6
        bends = [(-used, 0.0), (0, 0.0), (n.floor, 0.4), (n.comfort, 0.9), (n.ceiling, 1.0), (most, 1.0)]
        pieces, shares = [], []
        free: Any = None
        for (low, at), (high, to) in zip(bends, bends[1:], strict=False):
            on, share = h.addBinary(), h.addVariable(lb=0, ub=1)
            h.addConstr(share <= on)
            pieces.append(on)
            shares.append(share)
            term = low * on + (high - low) * share
            free = term if free is None else free + term
            gained += n.weight_units * (at * on + (to - at) * share)
        h.addConstr(sum(pieces[1:], pieces[0]) == 1)
        h.addConstr(free == stored - used)

    # radio and battery: by what is held
    for s in machine.slots:
        for x, part in held[s.id]:
            if isinstance(s, RadioSlot):
                gained += worth("radio_throughput", _delivers(planner, s, part)) * x
            elif isinstance(s, BatterySlot) and part is not None:
                full = part.design_mwh if part.full_mwh is None else part.full_mwh
                gained += worth("runtime", full / planner.use.average_mw) * x
    states_today = {n.id: e for n in planner.needs for e in [planner.today_effect(n)]}
    for need in planner.needs:
        base += need.weight_units * float(states_today[need.id].enough[0])
    h.maximize(gained)
    return 100 * (h.getObjectiveValue() - base) / planner.weight


def _delivers(planner: Planner, slot: Any, part: Any) -> int:
    if part is None or part.side is None:
        return 0
    known = planner.build.known
    bands = tuple(b for b in part.side.bands if b in known.value(slot.id, "antenna_bands"))
    mode = wlan.best_mode(part.side, planner.use.router or part.side, known.value(slot.id, "leads"), bands)
    return wlan.delivered_mbit_s(mode, planner.use.line_mbit_s)
