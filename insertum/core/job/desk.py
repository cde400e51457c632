"""The desk: what each station of a job shows, computed from the job, its machine and the catalogue.

Everything the browser draws of the job's substance comes from here.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property

from ..base import Frozen, InputError
from ..bench.sheet import Sheet, sheet
from ..claim import Limits, Source, settle
from ..fit.build import Build
from ..fit.judge import Judgement, Worth, judge_build, judge_equipped, matrix, worth_of_measuring
from ..intake.intake import derive_needs
from ..machine import Configured, Machine
from ..part import Accessory, AnyPart, Fittable
from ..plan.need import Need
from ..plan.request import PlanRequest, Terms, Use
from ..plan.tally import Tally, tally
from ..prepare.gates import Gate, gates, still_open
from ..prove.compare import ProofReport, compare
from ..prove.expect import Expected, expect
from ..survey.bench import build_today, with_claims
from ..survey.fill import filled
from .shape import STATIONS, Job, Station
from .slots import Size, detail, size_of


class StationState(Frozen):
    """Where a station stands: ``note`` says what it waits for."""

    station: Station
    state: str
    note: str = ""


class PartRow(Frozen):
    """A catalogue part with its verdicts, one for each slot it could ever meet."""

    number: str
    name: str
    maker: str
    kind: str
    price_minor: int | None
    stock: int | None
    detail: str
    size: Size | None
    cells: tuple[Judgement, ...]


class FitView(Frozen):
    rows: tuple[PartRow, ...]
    worth: tuple[Worth, ...]


class Desk:
    """One job laid out with its machine and catalogue."""

    def __init__(self, job: Job, machine: Machine | None, parts: Sequence[AnyPart]) -> None:
        self.job = job
        self.machine = machine
        self.parts = parts
        self.by_number: Mapping[str, AnyPart] = {p.number: p for p in parts}
        self.shelf = [p for p in parts if isinstance(p, Accessory)]

    @cached_property
    def configured(self) -> Configured:
        """The machine with what was measured and read on it laid over."""
        if self.machine is None or not self.job.identify.configuration:
            raise InputError("the machine is not identified yet", "identify", "Choose a configuration first.")
        laid = self.machine.configured(self.job.identify.configuration)
        reading = self.job.survey.reading
        if reading:
            running = [m.running_mts for m in reading.modules if m.size_gb and m.running_mts]
            if running:
                laid = with_claims(laid, {"memory.speed_mts": min(running)}, Source.READ, "running now")
        return with_claims(laid, self.job.survey.measured, Source.MEASURED)

    @cached_property
    def today(self) -> Build:
        """The build as it stands, under the job's school of limits."""
        return build_today(self.configured, self.found, self.job.fit.limits, self.firmware)

    @cached_property
    def read(self) -> dict[str, Fittable | None]:
        """What the survey's reading proves to be fitted."""
        reading = self.job.survey.reading
        return filled(self.configured, reading, self.parts) if reading else {}

    @property
    def found(self) -> dict[str, Fittable | None]:
        """What is fitted as far as it differs from as delivered: read, then entered by hand."""
        return {**self.read, **self.job.survey.fitted}

    def how_known(self) -> dict[str, str]:
        """How each slot's content is known, in words."""
        how = dict.fromkeys(self.read, "read from the running system")
        return how | dict.fromkeys(self.job.survey.fitted, "entered at this bench")

    @property
    def firmware(self) -> str:
        reading = self.job.survey.reading
        return self.job.survey.firmware or (reading.firmware if reading else "")

    @cached_property
    def build(self) -> Build:
        """The build in hand at Fit: today's with the chosen parts and the accessories they need."""
        return self.built(self.job.fit.build, self.job.fit.boot_slot)

    def built(self, chosen: Mapping[str, str], boot_slot: str) -> Build:
        """Today's build with parts chosen by number. Raises for a part that is not in the catalogue."""
        build = replace(self.today, boot_slot=boot_slot or self.today.boot_slot)
        for slot_id, number in chosen.items():
            build = build.with_part(slot_id, self.fittable(number) if number else None)
        for slot_id in chosen:
            part = build.now(slot_id)
            if part:
                kit = judge_equipped(build, slot_id, part, self.shelf).accessories
                wanted = tuple(a for a in self.shelf if a.number in kit)
                build = build.with_part(slot_id, part, wanted)
        return build

    def fittable(self, number: str) -> Fittable:
        part = self.by_number.get(number)
        if part is None or isinstance(part, Accessory):
            raise InputError(f"no part {number!r}", "catalogue", "Import it, or choose another.")
        return part

    # -- needs, terms, use ----------------------------------------------------------------------
    @cached_property
    def needs(self) -> tuple[Need, ...]:
        shared = settle(self.configured.memory.graphics_shares).value if self.machine else None
        return derive_needs(self.job.intake, shared)

    @property
    def use(self) -> Use:
        i = self.job.intake
        return Use(
            used_gb=i.used_gb or 0,
            router=i.router,
            line_mbit_s=i.line_mbit_s,
            average_mw=round(i.average_w * 1000) if i.average_w else None,
            growth_percent=i.growth_percent,
            years=i.years,
            processor_at_limit=i.processor_at_limit,
        )

    @property
    def terms(self) -> Terms:
        p = self.job.plan
        return Terms(
            limits=self.job.fit.limits,
            budget_minor=self.job.intake.budget_minor,
            currency=self.job.currency,
            rate_minor_per_hour=p.rate_minor_per_hour,
            threshold=p.threshold,
            credits=p.credits,
            allow_emptying=p.allow_emptying,
            allow_loss=p.allow_loss,
        )

    def request(self, parts: Sequence[AnyPart] | None = None) -> PlanRequest:
        """The plan request of this job, self-contained."""
        if self.machine is None:
            raise InputError("the machine is not identified yet", "identify", "Choose a configuration first.")
        return PlanRequest.model_construct(
            machine=self.machine,
            configuration=self.job.identify.configuration,
            firmware=self.firmware,
            fitted=self.found,
            measured=self.job.survey.measured,
            boot_slot=self.today.boot_slot,
            parts=tuple(self.parts if parts is None else parts),
            needs=self.needs,
            use=self.use,
            terms=self.terms,
        )

    # -- stations -------------------------------------------------------------------------------
    def fit(self) -> FitView:
        """The matrix of parts by slots, in the context of the build in hand."""
        fitting = [p for p in self.parts if not isinstance(p, Accessory)]
        judged = matrix(self.build, fitting, self.shelf)
        cells: dict[str, list[Judgement]] = {}
        for j in judged:
            if j.verdict is not None:
                cells.setdefault(j.part, []).append(j)
        rows = [
            PartRow(
                number=p.number,
                name=p.name,
                maker=p.maker,
                kind=p.kind,
                price_minor=p.price_minor,
                stock=sum(o.stock or 0 for o in p.offers) if p.offers else None,
                detail=detail(p),
                size=size_of(p),
                cells=tuple(cells.get(p.number, ())),
            )
            for p in fitting
        ]
        return FitView(rows=tuple(rows), worth=tuple(worth_of_measuring(judged, fitting)))

    def judged(self) -> dict[str, Judgement]:
        """The verdict on each slot of the build in hand."""
        return judge_build(self.build)

    def schools(self) -> dict[Limits, int]:
        """How many part-slot pairs are usable under each school of limits."""
        fitting = [p for p in self.parts if not isinstance(p, Accessory)]
        counts = {}
        for school in Limits:
            judged = matrix(replace(self.build, stance=school), fitting, self.shelf)
            counts[school] = sum(j.verdict is not None and j.verdict.usable for j in judged)
        return counts

    def tally(self, planned: bool = False) -> Tally:
        """The running tally: of the build in hand, or of the chosen plan where there is one."""
        return tally((self.planned if planned else None) or self.build, self.terms, self.use)

    @cached_property
    def planned(self) -> Build | None:
        """The build of the chosen plan, from its snapshot; None while none is chosen."""
        chosen = self.job.plan.chosen
        if chosen is None:
            return None
        then = Desk(
            self.job.model_copy(
                update={"fit": self.job.fit.model_copy(update={"limits": chosen.request.terms.limits})}
            ),
            chosen.request.machine,
            chosen.request.parts,
        )
        return then.built({c.slot: c.part for c in chosen.plan.changes}, chosen.plan.boot_slot)

    @property
    def must_plan(self) -> Build:
        if self.planned is None:
            raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.")
        return self.planned

    def sheet(self) -> Sheet:
        return sheet(self.must_plan, self.job.bench.trial_before_closing)

    def gates(self) -> tuple[Gate, ...]:
        return gates(self.must_plan, self.job.intake, self.sheet())

    def open_gates(self) -> tuple[Gate, ...]:
        return still_open(self.gates(), self.job.prepare.gates)

    def expected(self) -> Expected:
        return expect(self.must_plan)

    def proof(self) -> ProofReport | None:
        """The last reading against what is expected; None while there is no reading."""
        readings = self.job.prove.readings
        return compare(self.expected(), readings[-1]) if readings else None

    def proofs(self) -> tuple[ProofReport, ...]:
        """Every reading's report in order: a fault found and mended stays in the record."""
        if self.planned is None:
            return ()
        return tuple(compare(self.expected(), r) for r in self.job.prove.readings)

    def stations(self) -> tuple[StationState, ...]:
        """Done before the one the job stands at, under way there, ahead after it."""
        here = STATIONS.index(self.job.station)
        closed = bool(self.job.hand_over.closed_at)
        states = []
        for i, s in enumerate(STATIONS):
            state = "done" if i < here or closed else "under_way" if i == here else "ahead"
            states.append(StationState(station=s, state=state))
        return tuple(states)

    def may_enter(self, station: Station) -> None:
        """Raises :class:`InputError` when the job may not go on to a station yet."""
        if STATIONS.index(station) > STATIONS.index(Station.IDENTIFY):
            _ = self.configured
        if STATIONS.index(station) > STATIONS.index(Station.PLAN):
            _ = self.must_plan
        if STATIONS.index(station) > STATIONS.index(Station.PREPARE) and self.must_plan.changed():
            waiting = self.open_gates()
            if waiting:
                raise InputError(
                    f"the safety key is shut: {len(waiting)} open ({', '.join(g.title.lower() for g in waiting)})",
                    "prepare",
                    "Do them, or write down the owner's waiver.",
                )
