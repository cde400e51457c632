"""The plan: exact frontier, four stances, the ladder, and what waits for a measurement."""

from collections.abc import Callable, Sequence
from dataclasses import replace

from ..base import RULES_VERSION, money
from ..fit.build import Build
from ..fit.engine import words_of
from ..fit.judge import judge_build
from ..machine.part import Accessory
from ..survey.bench import build_today, laid_out
from ..verdict import Verdict
from . import report
from .frontier import Option, Point, Tariff, combine, frontier, hull
from .need import COMFORT_MET, MET_UNIT, Need, NeedKind
from .options import Candidate, Choice, Group, Shop, as_option, choice_of, depends_on, groups, tariff
from .request import Plan, PlanPoint, PlanRequest, StancePlan, Terms, Use, Waiting

Worth = Callable[[Choice], int]


class Planner:
    """One request, opened up: the judged choices are made once and scored for every aim."""

    def __init__(self, request: PlanRequest) -> None:
        machine = request.machine.configured(request.configuration)
        machine = laid_out(machine, request.sightings, request.read, request.measured)
        self.request = request
        self.terms: Terms = request.terms
        self.use: Use = request.use
        self.build: Build = build_today(
            machine,
            request.fitted,
            request.terms.limits,
            request.firmware,
            request.boot_slot,
            request.sightings,
            request.unknown,
            request.grades,
            request.signs,
            request.as_usual,
            request.system,
        )
        self.needs = tuple(n for n in request.needs if n.weight_units > 0)
        accessories = tuple(p for p in request.parts if isinstance(p, Accessory))
        parts = tuple(p for p in request.parts if not isinstance(p, Accessory))
        self.shop = Shop(parts, accessories)
        self.tariff: Tariff = tariff(self.build, self.terms)
        self.all_groups = groups(self.build, self.shop, self.needs, self.use, self.terms)
        self.groups = _settled(self.all_groups)
        self.weight = sum(n.weight_units for n in self.needs)

    # -- scores -------------------------------------------------------------------------------
    def points(self, worth: int) -> float:
        """Benefit in points of 100 from the exact integer worth."""
        return 100 * worth / (self.weight * MET_UNIT) if self.weight else 0.0

    def slope(self, worth: int, minor: int) -> float:
        """Points per major unit of money."""
        return self.points(worth) / (minor / 100)

    def benefit(self, group: Group) -> Worth:
        return lambda c: sum(n.weight_units * (c.met[n.id] - group.today.met[n.id]) for n in group.needs)

    def options(self, groups: Sequence[Group], worth: Callable[[Group], Worth]) -> list[list[Option]]:
        return [
            [as_option(c, self.build, self.terms, score(c)) for c in g.choices] for g in groups for score in [worth(g)]
        ]

    def front(self, groups: Sequence[Group] | None = None) -> list[Point]:
        """The exact Pareto points (cost, benefit) over all allowed builds."""
        return frontier(self.options(self.groups if groups is None else groups, self.benefit), self.tariff)

    def affordable(self, points: Sequence[Point]) -> list[Point]:
        """Points within the budget; the budget is hard."""
        budget = self.terms.budget_minor
        return [p for p in points if budget is None or p.cost <= budget]

    # -- stances ------------------------------------------------------------------------------
    def best_value(self, front: Sequence[Point]) -> tuple[list[Point], int]:
        """The hull within the budget from the best point that costs nothing, and how many of its
        vertices the walk takes while a step gains at least the threshold."""
        within = self.affordable(front)
        free = [p for p in within if p.cost <= 0]
        start = max(free, key=lambda p: p.worth) if free else within[0]
        steps = hull(within, start)
        taken = 1
        while taken < len(steps):
            a, b = steps[taken - 1], steps[taken]
            if self.slope(b.worth - a.worth, b.cost - a.cost) < self.terms.threshold:
                break
            taken += 1
        return steps, taken

    def just_enough(self, groups: Sequence[Group]) -> tuple[Point, bool, int]:
        """Least cost with every stated need at comfort, then benefit. When that is impossible
        within the budget: least Σ w·max(0, 0.9 − met), then cost. Returns the point, whether all
        needs are met, and what the comfortable plan would cost above the budget (0 if none)."""
        comfortable = [
            replace(g, choices=tuple(c for c in g.choices if all(m >= COMFORT_MET for m in c.met.values())))
            for g in groups
        ]
        homeless = self._homeless(groups)
        over = 0
        if all(g.choices for g in comfortable) and all(n.met(0) >= COMFORT_MET for n in homeless):
            full = frontier(self.options(comfortable, self.benefit), self.tariff)
            if within := self.affordable(full):
                return within[0], True, 0
            over = full[0].cost - (self.terms.budget_minor or 0)

        def shortfall(group: Group) -> Worth:
            return lambda c: -sum(n.weight_units * max(0, COMFORT_MET - c.met[n.id]) for n in group.needs)

        least = self.affordable(frontier(self.options(groups, shortfall), self.tariff))[-1]
        return least, False, over

    def grown_groups(self) -> list[Group]:
        """The groups with needs and used data grown over the owner's horizon."""
        use, factor = self.use.grown()
        more_used = use.used_gb - self.use.used_gb
        result = []
        for g in self.groups:
            needs = tuple(n.grown(factor) for n in g.needs)
            choices = [_restated(c, needs, more_used) for c in g.choices]
            today = _restated(g.today, needs, more_used)
            floor = {} if self.terms.allow_loss else today.met
            kept = tuple(c for c in choices if all(c.met[n] >= met for n, met in floor.items()))
            result.append(replace(g, needs=needs, today=today, choices=kept))
        return result

    def fill(self, budget: int | None) -> Point:
        """Uncapped physical measures in the job's order, each as high as the budget allows once
        those before it are as high as they go; then least cost."""
        groups = list(self.groups)

        def cheapest(candidates: Sequence[Group]) -> Point | None:
            front = frontier(self.options(candidates, lambda g: lambda c: 0), self.tariff)
            return front[0] if front and (budget is None or front[0].cost <= budget) else None

        for kind in self.terms.fill_order:
            for i, g in enumerate(groups):
                if not depends_on(kind, g.slots):
                    continue
                values = sorted({c.physical[kind] for c in g.choices})
                low, high = 0, len(values) - 1
                while low < high:  # the highest value some build within the budget still reaches
                    middle = (low + high + 1) // 2
                    if cheapest(_raised(groups, i, kind, values[middle])):
                        low = middle
                    else:
                        high = middle - 1
                groups = _raised(groups, i, kind, values[low])
        found = cheapest(groups)
        assert found is not None, "doing nothing is always within a budget"
        return found

    def _homeless(self, groups: Sequence[Group]) -> list[Need]:
        """Stated needs that no slot of this machine decides."""
        housed = {n.id for g in groups for n in g.needs}
        return [n for n in self.needs if n.id not in housed]

    # -- the answer ---------------------------------------------------------------------------
    def point(self, p: Point) -> PlanPoint:
        return report.plan_point(self, p)

    def own(self, build: Build) -> tuple[PlanPoint, tuple[str, ...]]:
        """The plan of a build made by hand, and what stands against choosing it."""
        changes = {
            s: Candidate(p, kit, (p.price_minor or 0) + sum(a.price_minor or 0 for a in kit)) if p else None
            for s in build.changed()
            for p, kit in [(build.now(s), build.accessories.get(s, ()))]
        }
        choices = []
        for g in self.groups:
            mine = {s.id: changes[s.id] for s in g.slots if s.id in changes}
            choices.append(choice_of(self.build, g.slots, g.needs, self.use, self.terms, mine, build.boot_slot))
        option = combine(
            [
                [as_option(c, self.build, self.terms, self.benefit(g)(c))]
                for g, c in zip(self.groups, choices, strict=True)
            ]
        )[0]
        against = [
            f.says
            for s, j in judge_build(build).items()
            if any(s in c.changes for c in choices) or j.verdict is not Verdict.SEATS
            for f in j.findings
            if not f.verdict.usable
        ]
        return self.point(Point(self.tariff.cost(option), option.worth, option)), tuple(against)

    def plan(self) -> Plan:
        front = self.front()
        steps, taken = self.best_value(front)
        ladder = report.ladder(self, front, steps, taken)
        return Plan(
            rules_version=RULES_VERSION,
            today=self.point(_nothing(self)).needs,
            binds=report.binds(self),
            frontier=tuple(self.point(p) for p in front),
            stances=self.stances(steps[:taken]),
            ladder=ladder,
            waiting=self.waiting(steps[taken - 1]),
        )

    def stances(self, value_walk: Sequence[Point]) -> tuple[StancePlan, ...]:
        enough, met, over = self.just_enough(self.groups)
        grown = self.grown_groups()
        room, room_met, room_over = self.just_enough(grown)
        best = value_walk[-1]
        fill = self.fill(self.terms.budget_minor)
        uncapped = self.fill(None)
        more = max(0, uncapped.cost - (self.terms.budget_minor or 0)) if self.terms.budget_minor else 0
        currency, years = self.terms.currency, self.use.years
        threshold = f"{self.terms.threshold:g} points for {money(100, currency)}"
        return (
            StancePlan(
                stance="just_enough",
                plan=self.point(enough),
                says=_enough_says(met, over, currency, "Least spend that brings every stated need to comfort."),
                unmet=report.unmet(self, enough, self.needs, 0),
                over_budget_minor=over,
            ),
            StancePlan(
                stance="best_value",
                plan=self.point(best),
                says=f"Every step gains at least {threshold}."
                if len(value_walk) > 1
                else f"No step gains {threshold}: buy nothing.",
                unmet=report.unmet(self, best, self.needs, 0),
            ),
            StancePlan(
                stance="room_for_years",
                plan=self.point(room),
                says=_enough_says(
                    room_met,
                    room_over,
                    currency,
                    f"Just enough for {years} years at {self.use.growth_percent:g}% a year.",
                ),
                unmet=report.unmet(
                    self, room, [n for g in grown for n in g.needs], self.use.grown()[0].used_gb - self.use.used_gb
                ),
                over_budget_minor=room_over,
            ),
            StancePlan(
                stance="fill_it",
                plan=self.point(fill),
                says="Every measure as high as the budget allows, in the job's order."
                + (f" Filling it wholly would take {money(uncapped.cost, currency)}." if more else ""),
                unmet=report.unmet(self, fill, self.needs, 0),
                over_budget_minor=more,
            ),
        )

    def waiting(self, chosen: Point) -> tuple[Waiting, ...]:
        """For each single unknown: the best-value plan if it turns out well, where that is better."""
        attributes = {a for g in self.all_groups for c in g.choices for a in c.waits}
        found = []
        for attribute in sorted(a for a in attributes if not a.startswith("part.")):
            steps, taken = self.best_value(self.front(_settled(self.all_groups, attribute)))
            better = steps[taken - 1]
            choices: tuple[Choice, ...] = better.option.choice
            if any(attribute in c.waits for c in choices):
                place, _, name = attribute.partition(".")
                some = next(c.part for choice in choices for c in choice.changes.values() if c)
                label, how, minutes = words_of(self.build.known, some, (place, name))
                gain = self.points(better.worth - chosen.worth)
                found.append(
                    Waiting(
                        attribute=attribute, label=label, how=how, minutes=minutes, gain=gain, plan=self.point(better)
                    )
                )
        return tuple(sorted(found, key=lambda w: -w.gain))


def _enough_says(met: bool, over: int, currency: str, says: str) -> str:
    if met:
        return says
    if over:
        return f"Not within the budget: {money(over, currency)} short. This comes nearest."
    return "Not every need can be met here. This comes nearest for the least money."


def _settled(groups: Sequence[Group], allowed: str = "") -> list[Group]:
    """The groups with only the choices that rest on no unknown, or on this one alone."""
    return [replace(g, choices=tuple(c for c in g.choices if c.waits <= {allowed})) for g in groups]


def _restated(choice: Choice, needs: Sequence[Need], more_used: float) -> Choice:
    measures = {n.id: choice.measures[n.id] - (more_used if n.kind is NeedKind.DRIVE_SPACE else 0) for n in needs}
    return replace(choice, measures=measures, met={n.id: n.met(measures[n.id]) for n in needs})


def _raised(groups: Sequence[Group], i: int, kind: NeedKind, value: float) -> list[Group]:
    group = groups[i]
    kept = tuple(c for c in group.choices if c.physical[kind] >= value)
    return [*groups[:i], replace(group, choices=kept), *groups[i + 1 :]]


def _nothing(planner: Planner) -> Point:
    choices = tuple(g.today for g in planner.groups)
    option = Option(frozenset(), 0, 0, (), 0, choices)
    return Point(0, 0, option)


def plan(request: PlanRequest) -> Plan:
    """Plan a request. Raises :class:`InputError` when machine, configuration or a slot is unknown."""
    return Planner(request).plan()
