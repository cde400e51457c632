"""What is asked of a plan beyond it: schools with the price of each choice, what was left out, how firm it is."""

from collections.abc import Sequence
from fractions import Fraction

from ..errors import InputError
from ..machine.attribute import lowered
from ..money import money
from ..phrases import shown_in
from . import sensitivity
from .candidates import question
from .frontier import Point, cheapest, frontier
from .need import LABELS, UNITS, NeedKind
from .planner import Planner
from .report import made_of, plan_point
from .request import PlanRequest
from .result import Firmness, LeftOut, PlanDetail, SchoolPrice, WeightBounds


def detail(request: PlanRequest, approved: Sequence[str] = ()) -> PlanDetail:
    """Schools with the price of each choice, what was left out, how firm the plan of best value is."""
    planner = Planner(request)
    chosen = sensitivity.best(planner)
    point = plan_point(planner.stage, chosen)
    return PlanDetail(
        schools=schools(planner, chosen, approved),
        left_out=(*left_out(planner, chosen), *too_small(planner)),
        firmness=tuple(
            Firmness(
                part=c.part, part_name=c.part_name, slot=c.slot, price_minor=c.price_minor,
                falls_above_minor=sensitivity.falls_above(request, planner.market.by_number[c.part], c.slot),
            )
            for c in point.changes if c.part and not c.shelf
        ),
        weights=tuple(
            WeightBounds(need=n.id, label=n.label, weight=n.weight, below=low, above=high)
            for n in planner.needs for low, high in [sensitivity.weight_bounds(planner, n.id)]
        ),
        wishes=wished(planner, chosen),
    )  # fmt: skip


def schools(planner: Planner, chosen: Point, approved: Sequence[str]) -> tuple[SchoolPrice, ...]:
    """What each other school would have cost or gained, the job's own choice first."""
    mine = planner.points(chosen.worth)
    found = []
    for school, choices in sensitivity.SCHOOLS.items():
        own = sensitivity.choice_of_school(planner.terms, school, approved)
        found.append(
            SchoolPrice(school=school, choice=own, label=choices[own], says="", step_minor=0, gain=0, own=True)
        )
    for school, choice, other, point in sensitivity.schools(planner, approved):
        step, gain = point.cost - chosen.cost, other.points(point.worth) - mine
        found.append(
            SchoolPrice(
                school=school, choice=choice, label=sensitivity.SCHOOLS[school][choice], step_minor=step, gain=gain, own=False,
                says=_step_says(planner, sensitivity.SCHOOLS[school][choice], step, gain),
            )
        )  # fmt: skip
    order = list(sensitivity.SCHOOLS)
    return tuple(
        sorted(found, key=lambda s: (order.index(s.school), list(sensitivity.SCHOOLS[s.school]).index(s.choice)))
    )


def _step_says(planner: Planner, label: str, step: int, gain: float) -> str:
    paid = "the same price" if step == 0 else f"{'+' if step > 0 else '−'} {money(abs(step), planner.terms.currency)}"
    points = "" if abs(gain) < 0.05 else f", {gain:+.1f} points"
    return f"{label}: {paid}{points}"


def left_out(planner: Planner, chosen: Point, most: int = 6) -> tuple[LeftOut, ...]:
    """Parts that gain most by themselves and were not chosen, and the one reason each."""
    picked = {n for _, n in sensitivity.numbers(chosen)}
    found = []
    for s in sensitivity.singles(planner, lambda c: planner.keeps(c)):
        if s.part.number in picked or s.gain <= 0:
            continue
        found.append(_left_out(planner, chosen, s))
        if len(found) == most:
            break
    return tuple(found)


def too_small(planner: Planner, most: int = 2) -> tuple[LeftOut, ...]:
    """Drives that would gain as the system drive and hold no copy of it, with both figures."""
    moved = planner.stage.copied
    if moved is None:
        return ()
    request = planner.request
    anew = Planner(request.model_copy(update={"terms": request.terms.model_copy(update={"clean_install": True})}))
    found = []
    for s in sensitivity.singles(anew, lambda c: anew.keeps(c)):
        wants = moved.wants(leaves=s.slot == planner.build.boot_slot)
        boots = s.choice.boot == s.slot and getattr(s.part, "capacity_gb", wants) < wants
        if s.gain <= 0 or not boots or s.choice.waits:
            continue
        found.append(
            LeftOut(
                part=s.part.number, part_name=s.part.name, slot=s.slot, slot_name=planner.machine.slot(s.slot).name,
                price_minor=s.part.price_minor or 0, alone=anew.points(s.gain),
                reason=f"holds {s.part.capacity_gb} GB, and what is copied wants {float(wants):.4g} GB with a tenth of room: "  # type: ignore[union-attr]
                "only where the system is installed anew",
            )
        )  # fmt: skip
        if len(found) == most:
            break
    return tuple(found)


def _left_out(planner: Planner, chosen: Point, s: sensitivity.Single) -> LeftOut:
    price = s.part.price_minor or 0
    enters = None if s.choice.waits else sensitivity.enters_at(planner.request, s.part)
    return LeftOut(
        part=s.part.number, part_name=s.part.name, slot=s.slot, slot_name=planner.machine.slot(s.slot).name, price_minor=price,
        alone=planner.points(s.gain), reason=_reason(planner, chosen, s), enters_minor=enters,
    )  # fmt: skip


def _reason(planner: Planner, chosen: Point, s: sensitivity.Single) -> str:
    """The one reason: what it waits for, the budget, a part that does the same, or that it gains too little beside."""
    currency, budget = planner.terms.currency, planner.terms.budget_minor
    if s.choice.waits:
        asked = [question(planner.build, q, planner.market, s.part).label for q in sorted(s.choice.waits)]
        return f"waits for {'; '.join(asked)}"
    if budget is not None and s.cost > budget:
        return f"{money(s.cost - budget, currency)} over the budget, by itself"
    made = made_of(planner.stage, chosen)
    instead = next((c for slot, c in made.changes if slot == s.slot and c), None)
    with_it = _best_with(planner, s)
    if with_it is None:
        return "not within the budget together with the rest"
    more, cost = planner.points(with_it.worth - chosen.worth), with_it.cost - chosen.cost
    than = f"{instead.part.name} stands there: " if instead is not None else ""
    if more <= 0 and cost >= 0:
        does = "gains nothing" if abs(more) < 0.05 else f"loses {-more:.1f} points"
        return f"{than}with it the plan {does} for {money(cost, currency)} more"
    if cost <= 0:
        does = "gains nothing" if abs(more) < 0.05 else f"{'gains' if more > 0 else 'loses'} {abs(more):.1f} points"
        return f"{than}with it the plan {does} and is {money(-cost, currency)} cheaper"
    return f"{than}{more:+.1f} points for {money(cost, currency)} more, below the stop at {planner.terms.threshold:g} a unit"


def _best_with(planner: Planner, s: sensitivity.Single) -> Point | None:
    """The best plan within the budget that has the part in its slot: the one that scores highest at the job's stop."""
    groups = [
        [
            c
            for c in own
            if s.slot not in g.slots or any(slot == s.slot and x and x.name == s.part.number for slot, x in c.changes)
        ]
        for g, own in zip(planner.groups, planner.settled(), strict=True)
    ]
    front = (
        planner.affordable(frontier(planner.options(groups, planner.benefit()), planner.tariff)) if all(groups) else []
    )
    stop = Fraction(str(planner.terms.threshold))

    def score(p: Point) -> Fraction:
        return planner.slope(p.worth, 1) - stop * p.cost

    return max(front, key=score, default=None)


def wished(planner: Planner, chosen: Point) -> tuple[LeftOut, ...]:
    """The job's wishes: whether each is in the plan, and the price at which it would be."""
    picked = {n for _, n in sensitivity.numbers(chosen)}
    found = []
    for number in planner.request.wishes:
        part = planner.market.by_number.get(number)
        if part is None or part.price_minor is None:
            continue
        enters = part.price_minor if number in picked else sensitivity.enters_at(planner.request, part)
        reason = (
            "it is in the plan of best value"
            if number in picked
            else "at no price"
            if enters is None
            else f"enters at {money(enters, planner.terms.currency)}"
        )
        found.append(
            LeftOut(
                part=number, part_name=part.name, slot="", slot_name="", price_minor=part.price_minor, alone=0.0,
                reason=reason, enters_minor=enters,
            )
        )  # fmt: skip
    return tuple(found)


def wish_is_in(request: PlanRequest, number: str) -> bool:
    """Is a wished part in the plan of best value at today's price?"""
    return any(n == number for _, n in sensitivity.numbers(sensitivity.best(Planner(request))))


def factory(planner: Planner, kind: NeedKind, figure: float, price_minor: int) -> str:
    """A factory option against the same capacity bought as parts, in one sentence."""
    if kind is NeedKind.FAULT:
        raise InputError("a fault is no option of a factory", "kind", "Name memory, space, speed, radio or runtime.")
    groups = planner.settled(planner.full_groups)
    i = next((i for i, g in enumerate(groups) if any(kind in c.physical for c in g)), None)
    unit, currency = UNITS[kind].split()[0], planner.terms.currency
    wanted = f"{lowered(LABELS[kind])} of {shown_in(figure, unit)} {unit}"
    enough = [c for c in groups[i] if c.physical[kind] >= figure] if i is not None else []
    if i is None or not enough:
        return f"Nothing in the catalogue gives {wanted} here: it is the factory's or none."
    found = cheapest(planner.options([*groups[:i], enough, *groups[i + 1 :]], lambda c: 0), planner.tariff)
    assert found is not None
    step = found.cost - price_minor
    return (
        f"The same {wanted} as parts, bench time included: {money(found.cost, currency)}, {money(abs(step), currency)} "
        + (
            "more than the factory asks."
            if step > 0
            else "less than the factory asks."
            if step < 0
            else "just what the factory asks."
        )
    )
