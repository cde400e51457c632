"""The whole answer to a plan request: what the planner found, in words and figures."""

from collections.abc import Iterable, Sequence
from fractions import Fraction

from ..access.way import access_seconds
from ..fit.build import Build
from ..fit.engine import AS_USUAL
from ..fit.judge import judge, judge_build, kind_fits, kit_for
from ..machine.attribute import listed, lowered
from ..machine.part import Fittable
from ..money import money
from ..survey.acts import ACTS, ActId, by_act, minutes_of
from ..version import RULES_VERSION
from . import conditional_plans
from .candidates import Candidate, question
from .choices import TooOpen
from .conditional_plans import parts_asked
from .frontier import Point, hull
from .headlines import most_points, possible, said_first
from .need import COMFORT_MET, NeedKind
from .planner import Planner, Walk
from .report import another, frontier_point, need_states, plan_point, priced, treads, unmet
from .request import PlanRequest
from .result import NeedState, Plan, PlanPoint, StancePlan, ToSettle, Waiting, WaitingAct
from .unmeasured import unmeasured
from .value_of_information import visit


def plan(request: PlanRequest) -> Plan:
    """Plan a request: whole, or where too much of the machine is open what rests on no question. Raises
    :class:`InputError` when machine, configuration or a slot is unknown."""
    try:
        return answer(Planner(request))
    except TooOpen:
        return answer(Planner(request, certain=True))


def answer(planner: Planner) -> Plan:
    """The whole answer of a planner: ladder, stances, frontier, what waits, and what must be said first; of a certain one
    what rests on no question. Raises :class:`TooOpen` where too much is open to go through all that waits."""
    stage = planner.stage
    front = planner.front()
    walk = planner.best_value(front)
    picked = stances(planner, walk)
    best = picked[1].plan
    now = need_states(stage, (), planner.build.boot_slot)[0]
    other = another(stage, best)
    beyond = hull([p for p in front if p.cost > walk[-1].cost], walk[-1])[1:]
    points = tuple(frontier_point(stage, p, planner.points(p.worth)) for p in front)
    return Plan(
        rules_version=RULES_VERSION,
        today=now,
        first=()
        if planner.certain
        else said_first(planner, now, best, possible(planner, walk.chosen), most_points(planner), other),
        frontier=points,
        stances=picked,
        ladder=treads(stage, [*walk, *beyond], walk.taken, picked, planner.points),
        waiting=() if planner.certain else waiting(planner, walk.chosen),
        unmeasured=unmeasured(planner),
        another=other,
        complete=not planner.certain,
    )


def today(request: PlanRequest) -> tuple[NeedState, ...]:
    """How far each stated need is met today, before anything is planned."""
    planner = Planner(request)
    return need_states(planner.stage, (), planner.build.boot_slot)[0]


# -- stances ------------------------------------------------------------------------------------------
def stances(planner: Planner, walk: Walk) -> tuple[StancePlan, ...]:
    """The named plans in their order, equal ones too: each says what it is chosen by."""
    stage = planner.stage
    enough, met, over = planner.just_enough()
    room, room_met, room_over = planner.just_enough(grown=True)
    budget, currency = planner.terms.budget_minor, planner.terms.currency
    fill = planner.fill(budget)
    uncapped = fill if budget is None else planner.fill(None)
    more = max(0, uncapped.cost - budget) if budget is not None else 0
    threshold = f"{planner.terms.threshold:g} points for {money(100, currency)}"
    years = f"Just enough for {planner.use.years} years at {_growth(planner)}."
    # Why a plan goes no further hangs on what waits, which a certain planner does not know.
    reach, grown = (None, None) if planner.certain else (planner.reach(), planner.reach(grown=True))
    now, then = plan_point(stage, enough), plan_point(stage, room, grown=True)
    return (
        StancePlan(
            stance="just_enough", plan=now, unmet=unmet(stage, reach, enough) if reach else (), over_budget_minor=over,
            says=_enough_says(planner, now, met, over, "Least spend that brings every stated need to comfort."),
        ),
        StancePlan(
            stance="best_value", plan=plan_point(stage, walk.chosen), unmet=unmet(stage, reach, walk.chosen) if reach else (),
            says=f"Every step gains at least {threshold}." if walk.taken > 1 else f"No step{' within the budget' if budget is not None else ''} gains {threshold}.",
        ),
        StancePlan(
            stance="room_for_years", plan=then, points_today=plan_point(stage, room).benefit, unmet=unmet(stage, grown, room, grown=True) if grown else (),
            says=_enough_says(planner, then, room_met, room_over, years), over_budget_minor=room_over,
        ),
        StancePlan(
            stance="fill_it", plan=plan_point(stage, fill), unmet=unmet(stage, reach, fill) if reach else (), over_budget_minor=more,
            says="Every measure as high as the budget allows, in the job's order."
            + (f" Filling it wholly would take {money(uncapped.cost, currency)}." if more else ""),
        ),
    )  # fmt: skip


def _growth(planner: Planner) -> str:
    """'12 % a year', and each need that grows otherwise by its name."""
    job = planner.use.growth_percent
    grows = [n for n in planner.needs if n.kind is not NeedKind.FAULT]
    own = [n for n in grows if n.growth_percent is not None and n.growth_percent != job]
    named = [f"{lowered(n.label)} {n.growth_percent:g} %" for n in own]
    if len(own) == len(grows) and own:
        return f"{listed(named)} a year"
    return f"{job:g} % a year{f' ({listed(named)})' if named else ''}"


def _enough_says(planner: Planner, plan: PlanPoint, met: bool, over: int, says: str) -> str:
    """In one sentence: what is not known of the machine counts at its best here, and that is said."""
    if not planner.needs:
        return "No need is stated."
    if planner.unmeasured:
        says = says.replace("every stated need", "every need that is measured")
    if met:
        hoped = [lowered(n.label) for n in plan.needs if n.met_after[0] < COMFORT_MET]
        return f"{says[:-1]}, if what is not known turns out well: {listed(hoped)}." if hoped else says
    if over:
        return f"Not within the budget: {money(over, planner.terms.currency)} short. This comes nearest."
    return "Not every need can be met here for certain. This comes nearest for the least money."


# -- a build made by hand -----------------------------------------------------------------------------
def candidate_of(planner: Planner, slot_id: str, part: Fittable, shelf: bool = False) -> Candidate | None:
    """A part for a slot as it is to be had today, with the accessories it takes; None where it has no price."""
    slot = planner.machine.slot(slot_id)
    offers = [o for o in planner.market.offers(part) if o.shelf == shelf]
    if not offers:
        return None
    kit = kit_for(planner.build, slot, part, planner.market.accessories) if kind_fits(slot, part) else ()
    extra = sum(a.price_minor or 0 for a in kit)
    return Candidate(
        part, kit, offers[0].price_minor, offers[0].price_minor + extra, frozenset(), offers[0].stock, shelf
    )


def own(planner: Planner, build: Build) -> tuple[PlanPoint, tuple[str, ...]]:
    """The plan of a build made by hand, and what stands against choosing it."""
    changes: list[tuple[str, Candidate | None]] = []
    against: list[str] = []
    for s in build.changed():
        part, kit = build.now(s), build.accessories.get(s, ())
        if part is None:
            changes.append((s, None))
            continue
        if part.price_minor is None:
            against.append(f"{part.name} has no price.")
        price = part.price_minor or 0
        money_ = price + sum(a.price_minor or 0 for a in kit)
        changes.append((s, Candidate(part, kit, price, money_, unproven=judge(build, s, part).short == AS_USUAL)))
    against += [f.says for s, j in judge_build(build).items() for f in j.findings if not f.verdict.usable]
    point = priced(planner.stage, changes, build.boot_slot)
    if (copy := point.copy_path) is not None and copy.fits is False:
        boot = planner.machine.slot(build.boot_slot).name
        against.append(
            f"The drive in {boot} does not hold what is copied onto it: {copy.needs_gb:g} GB with a tenth of room. Take a "
            "larger one, or say that the system is installed anew."
        )
    return point, tuple(against)


# -- what waits ---------------------------------------------------------------------------------------
def _acts(
    planner: Planner, questions: Iterable[str], point: Point, acts: frozenset[ActId]
) -> list[tuple[ActId, int, list[str]]]:
    """Those of a set of acts that settle a plan's questions, each with its minutes. Sellers and the customer's word are
    asked beside any set."""
    found = []
    for act, places in by_act(planner.build, sorted(questions), acts | {"seller", "customer"}).items():
        parts = {n for q in places for n in parts_asked(point.option.meaning, q)}
        found.append((act, minutes_of(planner.build, act, places, max(1, len(parts))), places))
    return found


def waiting(planner: Planner, chosen: Point) -> tuple[Waiting, ...]:
    """Plans that would be better than any certain one once something is settled, with what to settle and its minutes;
    ``chosen`` is what stays where it does not turn out well."""
    stage = planner.stage
    certain = plan_point(stage, chosen)
    found = []
    for w in conditional_plans.waiting(planner, lambda qs, p, acts: sum(m for _, m, _ in _acts(planner, qs, p, acts))):
        asked = sorted(
            (q for n in w.questions for q in questions_of(planner, n, w.point)), key=lambda q: (q.minutes, q.attribute)
        )
        found.append(
            Waiting(
                questions=tuple(asked),
                acts=tuple(
                    WaitingAct(
                        id=act,
                        name=ACTS[act].name,
                        minutes=minutes,
                        questions=tuple(q for n in places for q in questions_of(planner, n, w.point)),
                    )
                    for act, minutes, places in _acts(planner, w.questions, w.point, w.acts)
                ),
                minutes=w.minutes,
                gain=float(planner.exact_points(1) * w.gain),
                points=planner.points(w.point.worth - chosen.worth),
                plan=plan_point(stage, w.point),
                certain_minor=certain.cost_minor,
                certain_gain=certain.benefit,
                visit=visit(
                    _to_open(planner, w.questions),
                    planner.terms.rate_minor_per_hour,
                    planner.exact_points(w.point.worth - chosen.worth),
                    w.point.cost - chosen.cost,
                    Fraction(str(planner.terms.threshold)),
                ),
            )
        )
    return tuple(found)


def questions_of(planner: Planner, name: str, point: Point) -> list[ToSettle]:
    """A question in its own words, once for each part it is asked about."""
    about = parts_asked(point.option.meaning, name)
    if not about:
        return [question(planner.build, name, planner.market)]
    asked = [(p, question(planner.build, name, planner.market, p)) for p in about.values()]
    return [q.model_copy(update={"label": f"{p.name}: {q.label[0].lower()}{q.label[1:]}"}) for p, q in asked]


def _to_open(planner: Planner, questions: Sequence[str] | frozenset[str]) -> int:
    """Minutes of opening the machine once only to look, for questions that are under its cover; 0 where none is."""
    known, slots = planner.build.known, set()
    for q in questions:
        place, _, name = q.partition(".")
        place = name if place == "fitted" else place
        if place in known.slots and (name == place or known.words(place, name).where in ("cover", "board")):
            slots.add(place)
    return -(-access_seconds(planner.machine, slots) // 60) if slots else 0
