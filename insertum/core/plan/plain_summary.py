"""A plan in plain words for the owner, made from its figures and nothing else."""

from ..money import money
from ..phrases import ends
from .result import NeedState, PlanPoint


def for_owner(plan: PlanPoint, currency: str) -> str:
    """What goes in, what it changes, what it costs, and what is not certain: each only where it is so."""
    if not plan.changes and not plan.tasks:
        return "Nothing is bought and nothing is opened."
    said = []
    into = [f"{c.part_name} into {c.slot_name}" for c in plan.changes if c.part]
    if into:
        said.append(f"We fit {_and(into)}.")
    out = [f"{c.takes_out} ({c.slot_name})" for c in plan.changes if c.takes_out]
    if out:
        said.append(f"Out {'come' if len(out) > 1 else 'comes'} {_and(out)}.")
    inside = [t.name for t in plan.tasks if not t.outside]
    if inside:
        said.append(f"{'While it is open' if plan.changes else 'We do this'}: {_and(inside)}.")
    outside = [t.name for t in plan.tasks if t.outside]
    if outside:
        said.append(f"With the case shut: {_and(outside)}.")
    better = [_change(n, plan.years) for n in plan.needs if n.points > 0]
    if better:
        told = _and(better)
        said.append(f"{told[0].upper()}{told[1:]}.")
    said += plan.falls
    unsure = [n.label for n in plan.needs if n.hoped - n.points > 0.05]
    if unsure:
        said.append(
            f"Not everything is known of {_and([u[0].lower() + u[1:] for u in unsure])}: it may gain more than this says."
        )
    usual = [c for c in plan.changes if c.short == "taken as usual"]
    if usual:
        said.append(f"Unproven until it is tried: {_and([c.slot_name for c in usual])}.")
        said.append("What goes in there is bought with the right to return it.")
    if any(c.takes_out for c in usual):
        said.append("What comes out there is kept until then.")
    sums = [f"parts {money(plan.parts_minor + plan.accessories_minor, currency)}"]
    if plan.consumables_minor:
        sums.append(f"consumables {money(plan.consumables_minor, currency)}")
    sums.append(f"bench work of about {round(plan.bench_seconds / 60)} minutes {money(plan.labour_minor, currency)}")
    if plan.credit_minor:
        sums.append(f"less {money(plan.credit_minor, currency)} for what comes out")
    said.append(f"In all {money(plan.cost_minor, currency)}: {', '.join(sums)}.")
    to_come = sum(c.credit_to_come_minor for c in plan.changes)
    if to_come:
        said.append(f"A credit of {money(to_come, currency)} follows once it has proved itself.")
    return " ".join(said)


def _change(n: NeedState, years: int) -> str:
    if n.need.startswith("fault:"):
        return f"{n.label} is mended"
    if years and n.grows:
        name = n.label[0].lower() + n.label[1:]
        return f"in {years} years {name} is {ends(n.after)} {n.unit} and not {ends(n.today)}"
    return f"{n.label} goes from {ends(n.today)} to {ends(n.after)} {n.unit}".strip()


def _and(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
