"""The desk: what each station of a job shows, computed from the job, its machine and the catalogue.

Everything the browser draws of the job's substance comes from here.
"""

from collections.abc import Sequence
from functools import cached_property

from ..bench.sheet import Sheet, sheet
from ..errors import Code, InputError
from ..fit.build import Build
from ..frozen import Frozen
from ..machine.attribute import lowered
from ..machine.numbered import things
from ..money import money
from ..plan.difference import as_today
from ..plan.planner import Planner
from ..plan.report import effects_of
from ..plan.totals import Tally, tally
from ..prepare.gates import Gate, gates, still_open
from ..prove.compare import ProofReport, compare
from ..prove.expect import Expected, expect
from ..record.record import Record, record
from .fit_desk import FitDesk
from .shape import STATIONS, Station


class StationState(Frozen):
    """Where a station stands: ``note`` says what it waits for."""

    station: Station
    state: str
    note: str = ""


class Desk(FitDesk):
    """One job laid out with its machine and catalogue, at all its stations."""

    def tally(self, planned: bool = False) -> Tally:
        """The running tally: of the build in hand, or of the chosen plan where there is one."""
        chosen = self.planned if planned else None
        tasks = self.tasks_planned if chosen is not None else ()
        return tally(chosen or self.build, self.terms, self.use, self.extras_taken, tasks)

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
            sightings=chosen.request.sightings,
        )
        return then.built({c.slot: c.part for c in chosen.plan.changes}, chosen.plan.boot_slot)

    @cached_property
    def planned_now(self) -> Build | None:
        """The chosen plan's parts in the machine as it is known by now, each as its record says by now."""
        chosen = self.job.plan.chosen
        if chosen is None or self.machine is None:
            return None
        fit = self.job.fit.model_copy(update={"limits": chosen.request.terms.limits})
        parts = [self.by_number.get(p.number, p) for p in chosen.request.parts]
        now = Desk(self.job.model_copy(update={"fit": fit}), self.machine, parts, sightings=self.sightings)
        return now.built({c.slot: c.part for c in chosen.plan.changes}, chosen.plan.boot_slot)

    @property
    def unmeasured_now(self) -> frozenset[str]:
        """Questions that the figures of a plan that waits still rest on, as the machine is known by now."""
        chosen = self.job.plan.chosen
        if chosen is None or not chosen.waits or self.machine is None:
            return frozenset()
        planner = Planner(self.request([self.by_number.get(p.number, p) for p in chosen.request.parts]))
        changes, _ = as_today(planner, chosen.plan)
        return frozenset(q for e in effects_of(planner.stage, changes, chosen.plan.boot_slot) for q in e.asks)

    @property
    def must_plan(self) -> Build:
        if self.planned is None:
            raise InputError("no plan is chosen yet", "plan", "Choose one of the plans first.", code=Code.NOT_YET)
        return self.planned

    def sheet(self) -> Sheet:
        return self._sheet

    @cached_property
    def _sheet(self) -> Sheet:
        return sheet(self.must_plan, self.job.bench.ways, self.tasks_planned)

    @property
    def numbers_planned(self) -> tuple[str, ...]:
        """The numbers on the mat, each as often as it is used: parts, their accessories, and what tasks put in."""
        chosen = self.job.plan.chosen
        if chosen is None:
            return ()
        of_parts = (n for c in chosen.plan.changes for n in (c.part, *c.accessories))
        return tuple(n for n in (*of_parts, *(t.part for t in chosen.plan.tasks)) if n)

    def may_tick(self, steps: Sequence[str]) -> None:
        """Raises :class:`InputError` for a step that is not the sheet's, on a stopped job, or while the safety key is
        shut."""
        if self.job.stopped is not None:
            raise InputError(f"the job is stopped: {self.job.stopped.why}", "bench", "Take the stop back first.")
        ids = {s.id for s in self.sheet().steps}
        if unknown := [s for s in steps if s not in ids]:
            raise InputError(f"no step {unknown[0]!r} on this sheet", "bench", "Reload: the plan may have changed.")
        if waiting := self.open_gates():
            shut = ", ".join(lowered(g.title) for g in waiting)
            raise InputError(
                f"the safety key is shut: {len(waiting)} open ({shut})",
                "prepare",
                "Do them, or write down the owner's waiver.",
            )

    def record(self) -> Record:
        """What happened, from events alone."""
        job, chosen = self.job, self.job.plan.chosen
        return record(
            chosen.plan if chosen else None, job.bench.done, job.bench.ticks, job.hand_over.gone, job.prove.measured,
            job.stopped, bool(job.hand_over.closed_at), job.hand_over.outcome, job.waits_for, job.bench.said,
            things(self.machine),
        )  # fmt: skip

    def differs(self) -> tuple[str, ...]:
        """What is in the machine otherwise than the chosen plan was made for, slot by slot."""
        chosen = self.job.plan.chosen
        if chosen is None:
            return ()
        then = chosen.request
        lines = []
        for s in self.plain.slots:
            was = then.fitted.get(s.id, s.fitted)
            now = self.found.get(s.id, s.fitted)
            before = "nobody knew what" if s.id in then.unknown else was.name if was else "nothing"
            today = "nobody knows what" if s.id in self.unseen else now.name if now else "nothing"
            known = (s.id in then.unknown, was.number if was else "") != (
                s.id in self.unseen,
                now.number if now else "",
            )
            if known:
                lines.append(f"{s.name}: {today} is in it, the plan was made for {before}")
        return tuple(lines)

    def gates(self) -> tuple[Gate, ...]:
        plan = self.job.plan
        chosen, price, word = plan.chosen, "", plan.word
        if chosen is not None and chosen.plan.cost_minor > 0:
            said = (
                f"{word.said_by} agreed {word.how}".strip()
                if word
                else "not taken down yet: write who said it, and how"
            )
            price = f"{money(chosen.plan.cost_minor, self.job.currency)}; {said}"
        copy = chosen.plan.copy_path if chosen is not None else None
        return gates(
            self.must_plan, self.job.intake, self.sheet(), self.job.survey.as_usual, copy, price, self.tasks_planned,
            self.differs(), bool(price) and word is not None, chosen.waits if chosen is not None else (), self.planned_now,
            self.unmeasured_now,
        )  # fmt: skip

    def open_gates(self) -> tuple[Gate, ...]:
        return still_open(self.gates(), self.job.prepare.gates)

    def expected(self) -> Expected:
        return expect(self.must_plan, self.tasks_planned)

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
        stopped = self.job.stopped
        states = []
        for i, s in enumerate(STATIONS):
            if stopped is not None:
                # What a stopped job did not come to does not turn gold.
                at = STATIONS.index(Station(stopped.station))
                state = "done" if i < at else "stopped" if i == at else "ahead"
                states.append(StationState(station=s, state=state, note=stopped.why if i == at else ""))
                continue
            state = "done" if i < here or closed else "under_way" if i == here else "ahead"
            states.append(StationState(station=s, state=state))
        return tuple(states)

    def may_enter(self, station: Station) -> None:
        """Raises :class:`InputError` when the job may not go on to a station yet."""
        if self.job.stopped is not None and station is not Station.HAND_OVER:
            raise InputError(
                f"the job is stopped: {self.job.stopped.why}", self.job.stopped.station, "Take the stop back first."
            )
        if STATIONS.index(station) > STATIONS.index(Station.IDENTIFY):
            _ = self.configured
        if STATIONS.index(station) > STATIONS.index(Station.PLAN):
            _ = self.must_plan
        if STATIONS.index(station) > STATIONS.index(Station.PREPARE) and (
            self.must_plan.changed() or self.tasks_planned
        ):
            waiting = self.open_gates()
            if waiting:
                raise InputError(
                    f"the safety key is shut: {len(waiting)} open ({', '.join(lowered(g.title) for g in waiting)})",
                    "prepare",
                    "Do them, or write down the owner's waiver.",
                )
