"""The running tally of a build: money, minutes, what the machine becomes, what to read first."""

from collections.abc import Mapping, Sequence

from ..access.way import bench_seconds
from ..fit.build import Build
from ..fit.figures import memory_gb, mts_span, radio_modes, rate_span, span, split
from ..fit.judge import judge_build
from ..fit.possibilities import possible
from ..frozen import Frozen
from ..machine.bay_and_battery import BatterySlot, BaySlot
from ..machine.card_sockets import DriveSlot, RadioSlot
from ..machine.memory_system import MemorySlot
from ..machine.part import Accessory, AnyPart
from ..standards import wlan
from ..verdict import Finding, Verdict
from .frontier import cost_of, effort_of
from .measure import energy_mwh, packs, storage_gb
from .request import TaskOffer, Terms, Use


class Becomes(Frozen):
    """One figure of the machine, today and after the build, as text in its unit."""

    label: str
    today: str
    after: str
    changed: bool


class Advice(Frozen):
    """A finding of the build in hand, to read before buying."""

    slot: str
    verdict: Verdict
    says: str


class Tally(Frozen):
    currency: str
    parts_minor: int
    accessories_minor: int
    consumables_minor: int
    bench_seconds: int
    labour_minor: int
    credit_minor: int
    total_minor: int
    budget_minor: int | None
    earned_minor: int
    verdict: Verdict
    becomes: tuple[Becomes, ...]
    advice: tuple[Advice, ...]
    sum: tuple[str, ...]


def tally(
    build: Build, terms: Terms, use: Use, extras: Sequence[Accessory] = (), tasks: Sequence[TaskOffer] = ()
) -> Tally:
    """The sum of what the build changes, with what is bought and done beside it. Parts without a price count
    as 0 and are said."""
    changed = build.changed()
    parts = [p for s in changed if (p := build.now(s)) is not None]
    accessories = [*(a for s in changed for a in build.accessories.get(s, ())), *extras]
    parts_minor = sum(p.price_minor or 0 for p in parts)
    extra = sum(a.price_minor or 0 for a in accessories)
    judged = judge_build(build)
    # What comes out for something taken as usual is no credit until Prove has settled it.
    waiting = {s for s, j in judged.items() if any(f.rule == "job.as_usual" for f in j.findings)}
    due = {s: terms.credits.get(s, 0) for s in changed if build.fitted.get(s) is not None}
    credit = sum(minor for s, minor in due.items() if s not in waiting)
    to_come = sum(minor for s, minor in due.items() if s in waiting)
    seconds = bench_seconds(build.machine, changed, tasks)
    consumables = sum(t.consumables_minor for t in tasks)
    labour = cost_of(effort_of(0, seconds, terms.rate_minor_per_hour))
    findings = [(s, f) for s, j in judged.items() for f in j.findings if f.verdict is not Verdict.SEATS]
    findings.sort(key=lambda sf: -sf[1].verdict.rank)
    lines = [f"{p.name}: {_price(p.price_minor)}" for p in (*parts, *accessories)]
    lines += [f"{t.name}, consumables: {t.consumables_minor / 100:.2f}" for t in tasks if t.consumables_minor]
    lines.append(f"{seconds / 60:.0f} min at {terms.rate_minor_per_hour / 100:.2f} an hour: {labour / 100:.2f}")
    if credit:
        lines.append(f"credit for parts taken out: −{credit / 100:.2f}")
    if to_come:
        lines.append(f"credit still to come, once it has proved itself: {to_come / 100:.2f}")
    return Tally(
        currency=terms.currency,
        parts_minor=parts_minor,
        accessories_minor=extra,
        bench_seconds=seconds,
        labour_minor=labour,
        credit_minor=credit,
        consumables_minor=consumables,
        total_minor=parts_minor + extra + consumables + labour - credit,
        budget_minor=terms.budget_minor,
        earned_minor=sum(earned(p) for p in (*parts, *accessories)),
        verdict=max((j.verdict or Verdict.SEATS for j in judged.values()), key=lambda v: v.rank, default=Verdict.SEATS),
        becomes=becomes(build, use),
        advice=tuple(_advice(s, f) for s, f in findings),
        sum=tuple(lines),
    )


def earned(part: AnyPart) -> int:
    """What the workshop's price is over the offer's, 0 where either is not known."""
    price, purchase = part.price_minor, part.purchase_minor
    return 0 if price is None or purchase is None else price - purchase


def _price(minor: int | None) -> str:
    return "no price" if minor is None else f"{minor / 100:.2f}"


def _advice(slot: str, finding: Finding) -> Advice:
    tail = f" {finding.remedy}" if finding.remedy else ""
    return Advice(slot=slot, verdict=finding.verdict, says=finding.says + tail)


def becomes(build: Build, use: Use) -> tuple[Becomes, ...]:
    """What the machine becomes, figure by figure."""
    today = Build(build.known, boot_slot=build.boots_today, sightings=build.sightings)
    before, after = _figures(today, use), _figures(build, use)
    return tuple(Becomes(label=k, today=before[k], after=after[k], changed=before[k] != after[k]) for k in before)


def _figures(build: Build, use: Use) -> Mapping[str, str]:
    """What is not known is said as a range or as unknown, never as 0 or none."""
    parts, unseen = split(build), [s for s in build.machine.slots if not build.looked_into(s.id)]
    least, most = memory_gb(build)
    modes = [m for m in radio_modes(build, use.router) if m is not None]
    mode = max(modes, key=lambda m: wlan.phy_mbit_s(m.standard, m.streams, m.width_mhz), default=None)
    radios = [s for s in build.machine.slots if isinstance(s, RadioSlot)]
    radio = any(build.now(s.id) is not None or s in unseen for s in radios) or _undrawn(build, RadioSlot)
    rate = (
        f"{round(wlan.phy_mbit_s(mode.standard, mode.streams, mode.width_mhz))} Mb/s"
        if mode
        else "unknown"
        if radio
        else "none"
    )
    # Of a draft nobody has gone through, a place that is not drawn may be there all the same.
    drives_unseen = any(isinstance(s, DriveSlot | BaySlot) for s in unseen) or _undrawn(build, DriveSlot, BaySlot)
    stored = storage_gb(build)
    pack_unseen = any(isinstance(s, BatterySlot) for s in unseen) or _undrawn(build, BatterySlot)
    memory_undrawn = not build.machine.memory.soldered and _undrawn(build, MemorySlot)
    return {
        "Memory": "unknown"
        if memory_undrawn
        else f"{least} GB"
        if least == most
        else f"{least} GB or more"
        if least
        else "unknown",
        "In two channels": f"{parts.interleaved_gb} GB" if parts else "unknown" if most or memory_undrawn else "none",
        "Runs at": _range(mts_span(build), "MT/s"),
        "Storage": (f"{stored} GB" + (" or more" if drives_unseen else ""))
        if stored or not drives_unseen
        else "unknown",
        "System drive": _range(rate_span(build, build.boot_slot), "MB/s") if build.boot_slot else "unknown",
        "Wi-Fi link": rate,
        "Battery": _energy(build) if packs(build) else "unknown" if pack_unseen else "none",
    }


def _energy(build: Build) -> str:
    """What the packs hold: of one in use whose charge nobody has read, at most what it was made for."""
    found = span(possible(build, energy_mwh))
    assert found is not None, "there is a pack"
    least, most = found[0] / 1000, found[1] / 1000
    return f"{most:g} Wh" if least == most else f"up to {most:g} Wh, charge not read"


def _undrawn(build: Build, *kinds: type) -> bool:
    return build.machine.machine.draft and not any(isinstance(s, kinds) for s in build.machine.slots)


def _range(found: tuple[int, int] | None, unit: str) -> str:
    if found is None:
        return "unknown"
    return f"{found[0]} {unit}" if found[0] == found[1] else f"{found[0]} to {found[1]} {unit}"
