"""A plan in plain words for the owner, made from its figures and nothing else: first what it brings, then what goes in
and out, then what it costs; what is not certain is said wherever it is so."""

from collections.abc import Collection, Mapping

from ..frozen import Frozen
from ..machine.attribute import listed, lowered
from ..money import money
from ..phrases import ends
from .need import NeedKind
from .result import NeedState, PlanPoint


class Answered(Frozen):
    """What a plan does about one complaint, in a sentence or two."""

    complaint: str
    says: str


def for_owner(plan: PlanPoint, currency: str) -> str:
    """What it brings, what goes in, what it costs, and what is not certain: each only where it is so."""
    if not plan.changes and not plan.tasks:
        return "Nothing is bought and nothing is opened."
    return " ".join([*brings(plan), *done(plan), *plan.falls, *unproven(plan), *costs(plan, currency)])


def brings(plan: PlanPoint, besides: frozenset[str] = frozenset()) -> list[str]:
    """What the owner gets, but of the needs in ``besides``."""
    better = [n for n in plan.needs if n.points > 0 and n.need not in besides]
    gets = [_brought(n, plan.years) for n in better if not _fault(n)]
    said = [f"You get {listed(gets)}."] if gets else []
    return [*said, *(f"{n.label} is mended." for n in better if _fault(n))]


def done(plan: PlanPoint) -> list[str]:
    """What goes in, what comes out and what is done beside it."""
    said = []
    into = [f"{c.part_name} into {c.slot_name}" for c in plan.changes if c.part]
    if into:
        said.append(f"We fit {listed(into)}.")
    out = [f"{c.takes_out} ({c.slot_name})" for c in plan.changes if c.takes_out]
    if out:
        said.append(f"Out {'come' if len(out) > 1 else 'comes'} {listed(out)}.")
    inside = [t.name for t in plan.tasks if not t.outside]
    if inside:
        said.append(f"{'While it is open' if plan.changes else 'We do this'}: {listed(inside)}.")
    outside = [t.name for t in plan.tasks if t.outside]
    if outside:
        said.append(f"With the case shut: {listed(outside)}.")
    return said


def unproven(plan: PlanPoint) -> list[str]:
    """What is not certain, and what that means for the owner."""
    said = []
    unsure = [n.label for n in plan.needs if _hopes(n)]
    if unsure:
        said.append(
            f"Not everything is known of {listed([lowered(u) for u in unsure])}: it may gain more than this says."
        )
    usual = [c for c in plan.changes if c.short == "taken as usual"]
    if usual:
        said.append(f"Unproven until it is tried: {listed([c.slot_name for c in usual])}.")
        said.append("What goes in there is bought with the right to return it.")
    if any(c.takes_out for c in usual):
        said.append("What comes out there is kept until then.")
    return said


def costs(plan: PlanPoint, currency: str) -> list[str]:
    """The price and what it is made of."""
    sums = [f"parts {money(plan.parts_minor + plan.accessories_minor, currency)}"]
    if plan.consumables_minor:
        sums.append(f"consumables {money(plan.consumables_minor, currency)}")
    sums.append(f"bench work of about {round(plan.bench_seconds / 60)} minutes {money(plan.labour_minor, currency)}")
    if plan.credit_minor:
        sums.append(f"less {money(plan.credit_minor, currency)} for what comes out")
    said = [f"In all {money(plan.cost_minor, currency)}: {', '.join(sums)}."]
    to_come = sum(c.credit_to_come_minor for c in plan.changes)
    if to_come:
        said.append(f"A credit of {money(to_come, currency)} follows once it has proved itself.")
    return said


def answers(plan: PlanPoint, complaints: Mapping[str, Collection[NeedKind]]) -> list[Answered]:
    """Each complaint, by name with the needs it bears on, and what the plan does about it. A need that several bear on is
    answered under the first."""
    found, told = [], set[str]()
    for name, kinds in complaints.items():
        own = [n for n in plan.needs if n.need in set(kinds) and n.need not in told]
        told |= {n.need for n in own}
        better = [n for n in own if n.points > 0]
        open_ = [n for n in own if _hopes(n) and n not in better]
        said = []
        if better:
            text = listed([_brought(n, plan.years) for n in better])
            said.append(f"{text[0].upper()}{text[1:]}.")
        if open_:
            said.append(f"{listed([n.label for n in open_])}: not known yet, it may gain.")
        if not said and not own and set(kinds) & told:
            said.append("Answered above.")
        elif not said and not own and kinds:
            said.append("What bears on it was not measured: nothing is sold for it.")
        elif not said and (own or not (plan.tasks or any(_fault(n) and n.points > 0 for n in plan.needs))):
            said.append("This plan does nothing for it.")
        if said:
            found.append(Answered(complaint=name, says=" ".join(said)))
    return found


def _hopes(n: NeedState) -> bool:
    return n.hoped - n.points > 0.05


def _fault(n: NeedState) -> bool:
    return n.need.startswith("fault:")


def _brought(n: NeedState, years: int) -> str:
    """'16 GB of memory instead of 8', '250 GB more room', 'in 3 years 316 GB of room instead of 66'."""
    after, today = ends(n.after, n.unit), ends(n.today, n.unit)
    if n.today[0] == 0 < n.today[1]:
        today = f"up to {ends((n.today[1], n.today[1]), n.unit)}"
    ahead = f"in {years} years " if years and n.grows else ""
    match n.need:
        case NeedKind.MEMORY_CAPACITY:
            return f"{after} {n.unit} of memory instead of {today}"
        case NeedKind.MEMORY_THROUGHPUT:
            return f"memory that is read at {after} {n.unit} instead of {today}"
        case NeedKind.DRIVE_SPACE if not ahead and n.after[0] == n.after[1] and n.today[0] == n.today[1] >= 0:
            more = n.after[0] - n.today[0]
            return f"{ends((more, more), n.unit)} {n.unit} more room"
        case NeedKind.DRIVE_SPACE:
            return f"{ahead}{after} {n.unit} of room instead of {today}"
        case NeedKind.DRIVE_SPEED:
            return f"a system drive that reads {after} {n.unit} instead of {today}"
        case NeedKind.RADIO_THROUGHPUT:
            return f"Wi-Fi that carries {after} {n.unit} instead of {today}"
        case NeedKind.RADIO_REACH:
            return f"{after} {n.unit} far from the router instead of {today}"
        case NeedKind.RUNTIME:
            return f"{after} hours off mains instead of {today}"
        case _:
            return f"{lowered(n.label)}: {after} {n.unit} instead of {today}"
