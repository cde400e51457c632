"""What a job asks of a plan: needs, use, terms and tasks."""

from collections.abc import Sequence
from functools import cached_property

from ..errors import Code, InputError
from ..intake.intake import derive_needs, faults_found
from ..intake.load import LoadSays, weigh
from ..machine.drive_parts import BayDrive, M2Drive
from ..machine.part import AnyPart
from ..plan.need import Need, NeedKind
from ..plan.request import PlanRequest, TaskOffer, Terms, Use
from ..survey.acts import ACTS, ActId
from ..tasks.catalogue import PREFIX
from ..tasks.offers import Offered, offers
from .survey_desk import SurveyDesk


class PlanDesk(SurveyDesk):
    """The desk with what the owner needs and may spend."""

    @cached_property
    def needs(self) -> tuple[Need, ...]:
        shared = (
            self.today.known.value("memory", "graphics_shares")
            if self.machine and self.job.identify.configuration
            else None
        )
        return derive_needs(self.job.intake, shared, self.complaints, self.load, self.far_mbit_s is not None)

    @property
    def complained(self) -> dict[str, tuple[NeedKind, ...]]:
        """The job's complaints in their order, each with the needs it bears on."""
        said = [self.complaints[c] for c in dict.fromkeys(self.job.intake.complaints) if c in self.complaints]
        return {c.name: tuple(k for k, extra in c.weights.items() if extra) for c in said}

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
    def acts_told(self) -> tuple[ActId, ...]:
        """Acts that were done: what is open now they have not told."""
        return ("reading",) if self.job.survey.reading is not None else ()

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
            closed_acts=tuple(a for a in ACTS if a in self.acts_told or a in self.job.survey.closed_acts),
        )

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
