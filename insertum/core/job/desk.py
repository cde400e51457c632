"""The desk: what each station of a job shows, computed from the job, its machine and the catalogue.

Everything the browser draws of the job's substance comes from here.
"""

from bisect import insort
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from typing import Any, NamedTuple

from ..bench.sheet import Sheet, sheet
from ..catalogue import Catalogue
from ..comparison.side_by_side import Comparison, side_by_side
from ..comparison.waste import Waste, waste
from ..errors import Code, InputError
from ..fit.build import Build
from ..fit.judge import (
    Cell,
    Judgement,
    Worth,
    cell_of,
    judge_build,
    judge_equipped,
    kind_fits,
    kit_for,
    matrix,
    worth_of_measuring,
)
from ..fit.matrix_cache import Bench
from ..fit.premises import Aside, why
from ..fit.required_accessories import Extra, extras
from ..frozen import Frozen
from ..intake.intake import derive_needs, faults_found
from ..intake.load import LoadSays, weigh
from ..intake.triage import Complaint
from ..kinds.all import kind_of
from ..known.evidence import Grade, Signs
from ..known.known import Explained, Usual
from ..machine.claim import Limits
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.numbered import things
from ..machine.part import Accessory, AnyPart, Fittable
from ..machine.shape import Configured, Machine
from ..money import money
from ..plan.need import Need
from ..plan.request import PlanRequest, ShelfOffer, TaskOffer, Terms, Use
from ..plan.totals import Tally, tally
from ..prepare.gates import Gate, gates, still_open
from ..prove.compare import ProofReport, compare
from ..prove.expect import Expected, expect
from ..record.record import Record, record
from ..sighting import Sighting
from ..survey.acts import NextAct, next_acts
from ..survey.contradict import Contradiction, contradictions, read_facts
from ..survey.current_build import build_today, laid_out
from ..survey.match_devices import Matched
from ..survey.reading_summary import ReadingSummary, summarise
from ..survey.seller import SellerMessage, seller_message
from ..tasks.catalogue import PREFIX, OwnTask
from ..tasks.offers import Offered, offers
from .shape import STATIONS, Job, Looked, Station


class StationState(Frozen):
    """Where a station stands: ``note`` says what it waits for."""

    station: Station
    state: str
    note: str = ""


def _price(part: Fittable) -> int:
    """For sorting: what nobody sells comes last."""
    return part.price_minor or 10**9


class Row(NamedTuple):
    """A catalogue part for the matrix: its figures, what it adds at its best, and its verdicts as
    (index of slot, verdict, few words, price of accessories)."""

    part: Fittable
    adds: float
    unit: str
    cells: list[Cell]


class Why(NamedTuple):
    """One pair, opened: see :meth:`Desk.why`."""

    judgement: Judgement
    because: tuple[Explained, ...]
    aside: tuple[Aside, ...]
    waste: Waste | None


class Desk:
    """One job laid out with its machine and catalogue."""

    def __init__(
        self,
        job: Job,
        machine: Machine | None,
        parts: Sequence[AnyPart],
        complaints: Mapping[str, Complaint] | None = None,
        sightings: Sequence[Sighting] = (),
        stock: Sequence[ShelfOffer] = (),
        own_tasks: Mapping[str, OwnTask] | None = None,
    ) -> None:
        self.job = job
        self.machine = machine
        self.parts = parts if isinstance(parts, Catalogue) else Catalogue(parts)
        self.complaints = complaints or {}
        self.sightings = sightings
        #: Priced parts of the workshop's own shelf.
        self.stock = stock
        self.own_tasks = own_tasks

    @property
    def by_number(self) -> Mapping[str, AnyPart]:
        return self.parts.by_number

    @property
    def shelf(self) -> list[Accessory]:
        return self.parts.accessories

    @cached_property
    def configured(self) -> Configured:
        """The machine with the workshop's outcomes, and what was read and measured on it, laid over."""
        return laid_out(self.plain, self.sightings, self.read_facts, self.job.survey.measured)

    @cached_property
    def plain(self) -> Configured:
        """The configuration as the library describes it."""
        if self.machine is None or not self.job.identify.configuration:
            raise InputError(
                "the machine is not identified yet", "identify", "Choose a configuration first.", code=Code.NOT_YET
            )
        return self.machine.configured(self.job.identify.configuration)

    @cached_property
    def read_facts(self) -> dict[str, Any]:
        """Facts about this very machine that the survey's reading proves."""
        reading = self.job.survey.reading
        return read_facts(reading, self.job.survey.believed) if reading else {}

    @cached_property
    def matched(self) -> Matched | None:
        """The survey's reading, matched to this configuration and the catalogue; None where nothing was read."""
        reading = self.job.survey.reading
        return Matched(self.plain, reading, self.parts) if reading else None

    def contradictions(self) -> tuple[Contradiction, ...]:
        """Where the survey's reading and the library disagree."""
        return contradictions(self.matched) if self.matched else ()

    def reading_summary(self) -> ReadingSummary | None:
        """What the survey's reading proved and what it left open."""
        return summarise(self.matched) if self.matched else None

    def observed(self) -> dict[str, tuple[str, ...]]:
        return self.matched.observed if self.matched else {}

    @cached_property
    def today(self) -> Build:
        """The build as it stands, under the job's school of limits."""
        return build_today(
            self.configured,
            self.found,
            self.job.fit.limits,
            self.firmware,
            sightings=self.sightings,
            unknown=self.unseen,
            grades=self.grades,
            signs=self.signs,
            as_usual=self.job.survey.as_usual is not None,
            usual_only=self.usual_only,
            system=self.job.intake.system,
            boot_slot=self.started,
        )

    @property
    def usual_only(self) -> tuple[str, ...]:
        """Which unknowns the owner takes as usual; none named is all that are returnable."""
        return self.job.survey.as_usual.only if self.job.survey.as_usual else ()

    @cached_property
    def started(self) -> str:
        """The slot firmware started from, where the survey's reading proves it."""
        return self.matched.started if self.matched else ""

    @cached_property
    def grades(self) -> dict[str, tuple[Grade, ...]]:
        """How well each slot's content is known: what software read works; what was entered with the cover off was
        seen, and works unless the bench said it does not."""
        survey = self.job.survey
        found: dict[str, tuple[Grade, ...]] = dict.fromkeys(self.read, (Grade.WORKS,))
        for slot in survey.fitted:
            works = slot not in survey.not_working
            read = self.read.get(slot)
            same = read is not None and survey.fitted[slot] is not None and read.number == survey.fitted[slot].number  # type: ignore[union-attr]
            found[slot] = (Grade.WORKS, Grade.SEEN) if works or same else (Grade.SEEN,)
        for slot in self.looked:  # what was looked at was seen, whoever said what it is
            found[slot] = tuple(dict.fromkeys((*found.get(slot, ()), Grade.SEEN)))
        return found

    @cached_property
    def looked(self) -> dict[str, Looked]:
        """What was seen of the cards that lie there now: what was seen of another one is of that one."""
        found = {}
        for slot, look in self.job.survey.looked.items():
            own = next((s for s in self.plain.slots if s.id == slot), None)
            there = self.found.get(slot, own.fitted if own is not None and own.looked else None)
            if there is not None and there.number == look.part and slot not in self.unseen:
                found[slot] = look
        return found

    @cached_property
    def signs(self) -> dict[str, Signs]:
        """What the reading and a look tell of each slot beside its part."""
        found = self.matched.signs if self.matched else {}
        doubted = {p.partition(".")[0] for p, who in self.job.survey.believed.items() if who == "library" and "." in p}
        found = {slot: replace(s, port=None) if slot in doubted else s for slot, s in found.items()}
        for slot, look in self.looked.items():
            found[slot] = replace(found.get(slot, Signs()), lies_flat=look.lies_flat, leads=look.leads)
        return found

    @cached_property
    def read(self) -> dict[str, Fittable | None]:
        """What the survey's reading proves to be fitted."""
        return self.matched.fitted if self.matched else {}

    @property
    def found(self) -> dict[str, Fittable | None]:
        """What is fitted as far as it differs from as delivered: read, then entered by hand."""
        return {**self.read, **self.job.survey.fitted}

    @property
    def unseen(self) -> tuple[str, ...]:
        """Slots whose content is said to be unknown, and that nothing has told of since."""
        return tuple(s for s in self.job.survey.unknown if s not in self.found)

    def how_known(self) -> dict[str, str]:
        """How each slot's content is known, in words."""
        how = dict.fromkeys(self.read, "read from the running system")
        how |= dict.fromkeys(self.unseen, "nobody has looked")
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
                slot = build.machine.slot(slot_id)
                wanted = kit_for(build, slot, part, self.shelf) if kind_fits(slot, part) else ()
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
        shared = (
            self.today.known.value("memory", "graphics_shares")
            if self.machine and self.job.identify.configuration
            else None
        )
        return derive_needs(self.job.intake, shared, self.complaints, self.load, self.far_mbit_s is not None)

    @cached_property
    def load(self) -> LoadSays:
        """What the load says: typed at Intake, or read."""
        i, reading = self.job.intake, self.job.survey.reading
        return weigh(
            reading.owners_load if reading else None,
            i.peak_memory_gb,
            i.used_gb,
            i.pages,
            i.drive_filled_percent,
            i.processor_at_limit,
        )

    @property
    def far_mbit_s(self) -> float | None:
        """What the radio delivered at the owner's far place before the work; the last measurement counts."""
        told = [m for m in self.job.prove.measured if m.what == "radio_far" and m.when == "before"]
        return told[-1].value if told else None

    @property
    def _filled_gb(self) -> float | None:
        """Data in use where only how full the drive is was said: its share of the one drive there is. None where there
        are several, or one nobody has looked for."""
        filled, places = (
            self.load.filled_percent,
            [s.id for s in self.configured.slots if s.kind in ("m2_drive", "bay")],
        )
        held = [d for s in places if isinstance(d := self.today.now(s), M2Drive | BayDrive)]
        if filled is None or len(held) != 1 or not all(self.today.looked_into(s) for s in places):
            return None
        return round(float(held[0].capacity_gb * filled) / 100, 1)

    @property
    def _system_gb(self) -> float | None:
        """What the system's own volumes hold, where the customer's own system was read."""
        reading = self.job.survey.reading
        if reading is None or not reading.own_system:
            return None
        own = [v for d in reading.drives for v in d.volumes if v.mounted == "/" or v.mounted.startswith("/boot")]
        used = [v.used_bytes for v in own]
        known = [u for u in used if u is not None]
        whole = bool(own) and len(known) == len(used) and any(v.mounted == "/" for v in own)
        return round(sum(known) / 1e9, 1) if whole else None

    @property
    def use(self) -> Use:
        i = self.job.intake
        return Use(
            used_gb=self.load.used_gb if self.load.used_gb is not None else self._filled_gb,
            system_gb=self._system_gb,
            router=i.router,
            line_mbit_s=i.line_mbit_s,
            far_mbit_s=self.far_mbit_s,
            average_mw=round(i.average_w * 1000) if i.average_w else None,
            growth_percent=i.growth_percent,
            years=i.years,
            processor_at_limit=self.load.processor_binds,
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
            may_empty=p.may_empty,
            allow_loss=p.allow_loss,
            clean_install=p.clean_install,
            schools=p.schools.model_copy(update={"makes": self.job.fit.makes}),
        )

    def request(self, parts: Sequence[AnyPart] | None = None) -> PlanRequest:
        """The plan request of this job, self-contained."""
        if self.machine is None:
            raise InputError(
                "the machine is not identified yet", "identify", "Choose a configuration first.", code=Code.NOT_YET
            )
        return PlanRequest.model_construct(
            machine=self.machine,
            configuration=self.job.identify.configuration,
            firmware=self.firmware,
            fitted=self.found,
            unknown=self.unseen,
            measured=self.job.survey.measured,
            read=self.read_facts,
            grades=self.grades,
            signs=self.signs,
            as_usual=self.job.survey.as_usual is not None,
            usual_only=self.usual_only,
            system=self.job.intake.system,
            sightings=self.today.sightings,
            boot_slot=self.today.boot_slot,
            parts=tuple(self.parts if parts is None else parts),
            needs=self.needs,
            use=self.use,
            terms=self.terms,
            shelf=tuple(self.stock),
            tasks=self.cures,
            dead=tuple(s for s in self.job.survey.not_working if self.today.fitted.get(s) is not None),
            another=self.job.plan.another,
            wishes=self.job.plan.wishes,
        )

    # -- tasks ----------------------------------------------------------------------------------
    @cached_property
    def tasks_offered(self) -> tuple[Offered, ...]:
        """Everything that can be done on this machine besides its slots."""
        return offers(self.configured, self.shelf, self.job.survey.numbers, self.own_tasks)

    @property
    def cures(self) -> tuple[TaskOffer, ...]:
        """The tasks that mend what triage found, as far as they can be done here."""
        found = []
        for fault in faults_found(self.job.intake, self.complaints):
            mine = (o.task for o in self.tasks_offered if o.id == fault or o.id.startswith(f"{fault}."))
            task = next((t for t in mine if t is not None), None)
            if task is not None:
                found.append(task.model_copy(update={"mends": PREFIX + fault}))
        return tuple(found)

    @property
    def tasks_planned(self) -> tuple[TaskOffer, ...]:
        chosen = self.job.plan.chosen
        return chosen.plan.tasks if chosen is not None else ()

    # -- stations -------------------------------------------------------------------------------
    @property
    def fitting(self) -> list[Fittable]:
        """What can go in a slot, in the order a bench thinks of it."""
        return self.parts.fitting

    @cached_property
    def cells(self) -> list[Cell]:
        """The matrix of parts by slots, in the context of the build in hand."""
        return matrix(self.build, self.fitting, self.shelf)

    def rows(self) -> list[Row]:
        """The matrix by part, with what each adds in the best slot it goes in."""
        by_part: dict[str, list[Cell]] = {}
        for c in self.cells:
            by_part.setdefault(c.part, []).append(c)
        return [self._row(p, by_part.get(p.number, [])) for p in self.fitting]

    def _row(self, part: Fittable, cells: list[Cell]) -> Row:
        kind = kind_of(part)
        return Row(
            part,
            *max((kind.adds(self.build, c.slot, part) for c in cells if c.verdict.usable), default=(0.0, "")),
            cells,
        )

    def best_rows(self, kind: str, most: int) -> list[Row]:
        """The best rows of a kind, so many at most: what goes in first, then what it adds, then the price; and what the build
        holds. Parts are judged from the one that could add most on, until no other could come before those found: the same
        as judging all of them."""
        parts = self.parts.by_kind.get(kind, [])
        slots = [s for s in self.configured.slots if parts and kind_fits(s, parts[0])]
        if not slots:
            return []
        bench = Bench(self.build, self.shelf)
        rows: dict[str, Row] = {}

        def row(part: Fittable) -> Row:
            if part.number not in rows:
                rows[part.number] = self._row(part, [cell_of(bench, s, part) for s in slots])
            return rows[part.number]

        def order(r: Row) -> tuple[bool, float, int]:
            return not any(c.verdict.usable for c in r.cells), -r.adds, _price(r.part)

        # What a part could add at most, and its place among the others where nothing else tells them apart.
        adds = kind_of(parts[0]).adds
        could = sorted((-max(adds(self.build, s.id, p)[0] for s in slots), _price(p), i) for i, p in enumerate(parts))
        best: list[tuple[tuple[bool, float, int], int]] = []
        for bound, price, i in could:
            if len(best) == most and ((False, bound, price), i) > best[-1]:
                break
            insort(best, (order(row(parts[i])), i))
            del best[most:]
        seen = [rows[parts[i].number] for _, i in best]
        held = set(self.job.fit.build.values()) - {r.part.number for r in seen}
        return seen + [row(p) for p in parts if p.number in held]

    def worth(self) -> tuple[Worth, ...]:
        """What settling each unknown would open, in parts and prices."""
        return tuple(worth_of_measuring(self.build, self.cells, self.fitting))

    def worth_today(self) -> tuple[Worth, ...]:
        """The same for the machine as it stands, before anything is chosen."""
        return tuple(worth_of_measuring(self.today, matrix(self.today, self.fitting, self.shelf), self.fitting))

    def next_acts(self) -> tuple[NextAct, ...]:
        """What to do next, of the machine as it stands."""
        cells = matrix(self.today, self.fitting, self.shelf)
        unmeasured = [n.label for n in self.needs if n.weight_units and self.use.unmeasured(n.kind)]
        return next_acts(
            self.today, cells, self.fitting, worth_of_measuring(self.today, cells, self.fitting),
            told=("reading",) if self.job.survey.reading is not None else (), closed=self.job.survey.closed_acts,
            unmeasured=unmeasured,
        )  # fmt: skip

    def why(self, slot_id: str, number: str) -> Why:
        """Everything said of one pair, what carries it and what was said besides, and what a cheaper part would do in its
        place."""
        part = self.fittable(number)
        judged = judge_equipped(self.build, slot_id, part, self.shelf)
        alike = self.parts.by_kind[part.kind]
        cells = matrix(self.build, alike, self.shelf, [slot_id])
        carries, aside = why(self.build, judged, part, self.shelf)
        return Why(
            judged, carries, aside,
            waste(self.build, slot_id, part, cells, {p.number: p for p in alike}, self.job.currency),
        )  # fmt: skip

    def seller_message(self, number: str) -> SellerMessage | None:
        """What to ask the seller of a part before it can be sold for this machine; None where nothing is open of it."""
        part = self.fittable(number)
        asks = (a for c in matrix(self.build, [part], self.shelf) for a in c.asks)
        return seller_message(part, asks, self.job.intake.system)

    def compared(self, slot_id: str, numbers: Sequence[str]) -> Comparison:
        return side_by_side(self.build, slot_id, [self.fittable(n) for n in numbers], self.shelf)

    def extras(self) -> tuple[Extra, ...]:
        """What the build in hand wants beside its parts."""
        return extras(self.build, self.shelf)

    @cached_property
    def extras_taken(self) -> list[Accessory]:
        return [a for a in self.shelf if self.job.fit.extras.get(a.number)]

    def judged(self) -> dict[str, Judgement]:
        """The verdict on each slot of the build in hand."""
        return judge_build(self.build)

    def usual_things(self) -> tuple[Usual, ...]:
        """Returnable unknowns of this machine, that the owner may take as usual in one act."""
        return self.today.known.usual_things()

    def schools(self) -> dict[Limits, int]:
        """How many part-slot pairs are usable under each school of limits."""
        return {
            school: sum(c.verdict.usable for c in matrix(self.build.under(school), self.fitting, self.shelf))
            for school in Limits
        }

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
            shut = ", ".join(g.title.lower() for g in waiting)
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
            self.differs(), bool(price) and word is not None,
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
                    f"the safety key is shut: {len(waiting)} open ({', '.join(g.title.lower() for g in waiting)})",
                    "prepare",
                    "Do them, or write down the owner's waiver.",
                )
