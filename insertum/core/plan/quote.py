"""The quote: what the customer asked for and what comes of it, what goes in, what it costs with tax, what is unproven, what
is not included, and how long it holds.

Made from the snapshot alone: what was planned is offered, nothing is said to be done.
"""

from collections.abc import Collection, Mapping
from datetime import date, timedelta

from ..frozen import Frozen
from .need import NeedKind
from .plain_summary import Answered, answers, brings, done, unproven
from .request import Terms
from .result import PlanPoint


class Taxed(Frozen):
    """How the workshop's prices stand to tax: ``percent`` of it, and whether its prices hold it already."""

    percent: int = 0
    included: bool = True


class QuoteLine(Frozen):
    """One thing that is offered; ``note`` says what is to be known of it."""

    what: str
    number: str = ""
    note: str = ""
    amount_minor: int


class Quote(Frozen):
    """``answers`` are the complaints with what the plan does about each, ``besides`` what it brings that nobody complained
    of; ``net`` + ``tax`` = ``total``; ``holds_until`` is a date, '' where the workshop sets no time."""

    answers: tuple[Answered, ...]
    besides: tuple[str, ...]
    does: tuple[str, ...]
    unproven: tuple[str, ...]
    lines: tuple[QuoteLine, ...]
    currency: str
    net_minor: int
    tax_percent: int
    tax_minor: int
    total_minor: int
    not_included: tuple[str, ...]
    made_on: str
    holds_until: str


def quote(
    plan: PlanPoint, terms: Terms, chosen_at: str, tax: Taxed, days: int,
    complaints: Mapping[str, Collection[NeedKind]] | None = None,
) -> Quote:  # fmt: skip
    """A chosen plan as a quote, for who came with these ``complaints`` (by name, with the needs each bears on). Tax is
    rounded half up once, on the sum."""
    lines = [
        QuoteLine(
            what=f"{c.part_name}, into {c.slot_name}" if c.part else f"{c.slot_name}: taken out",
            number=c.part,
            note=_note(c.short, c.shelf),
            amount_minor=c.price_minor,
        )
        for c in plan.changes
    ]
    lines += [
        QuoteLine(what=f"For {c.slot_name}: {', '.join(c.accessories)}", amount_minor=c.accessories_minor)
        for c in plan.changes
        if c.accessories
    ]
    lines += [
        QuoteLine(
            what=f"{t.name}: {t.part_name}" if t.part_name else t.name,
            note="with consumables" if t.part else "consumables" if t.consumables_minor else "work alone",
            amount_minor=t.consumables_minor,
        )
        for t in plan.tasks
    ]
    if plan.bench_seconds:
        lines.append(
            QuoteLine(
                what=f"Bench work, about {round(plan.bench_seconds / 60)} minutes", amount_minor=plan.labour_minor
            )
        )
    lines += [
        QuoteLine(what=f"Credit for {c.takes_out}", amount_minor=-c.credit_minor)
        for c in plan.changes
        if c.credit_minor
    ]
    net, taxed, total = _tax(plan.cost_minor, tax)
    made = chosen_at[:10]
    return Quote(
        answers=tuple(answers(plan, complaints or {})),
        besides=tuple(brings(plan, frozenset(k for kinds in (complaints or {}).values() for k in kinds))),
        does=(*done(plan), *plan.falls) or ("Nothing is bought and nothing is opened.",),
        unproven=tuple(unproven(plan)),
        lines=tuple(lines),
        currency=terms.currency,
        net_minor=net,
        tax_percent=tax.percent,
        tax_minor=taxed,
        total_minor=total,
        not_included=_not_included(plan),
        made_on=made,
        holds_until=(date.fromisoformat(made) + timedelta(days=days)).isoformat() if days else "",
    )


def _note(short: str, shelf: bool) -> str:
    return "; ".join(x for x in ("from our shelf, used" if shelf else "", short) if x)


def _tax(cost: int, tax: Taxed) -> tuple[int, int, int]:
    if tax.included:
        part = (2 * cost * tax.percent + 100 + tax.percent) // (2 * (100 + tax.percent))
        return cost - part, part, cost
    part = (cost * tax.percent + 50) // 100
    return cost, part, cost + part


def _not_included(plan: PlanPoint) -> tuple[str, ...]:
    found = ["Work found necessary once it is open: it is asked about before it is done."]
    if plan.copy_path is not None:
        found += [f"To be bought besides: {b}." for b in plan.copy_path.buys]
        found.append("Data is not part of the offer: a backup is the owner's, and is asked for before the work begins.")
    if sum(c.credit_to_come_minor for c in plan.changes):
        found.append("Credit for what comes out where its successor is still to prove itself.")
    return tuple(found)
