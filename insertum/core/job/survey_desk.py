"""The machine of a job as Survey finds it: what was read, seen and entered, laid over the library's."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from typing import Any

from ..catalogue import Catalogue
from ..errors import Code, InputError
from ..fit.build import Build
from ..fit.judge import kind_fits, kit_for
from ..intake.triage import Complaint
from ..known.evidence import Grade, Signs
from ..known.known import Usual
from ..machine.part import Accessory, AnyPart, Fittable
from ..machine.shape import Configured, Machine
from ..plan.request import ShelfOffer
from ..sighting import Sighting
from ..survey.contradict import Contradiction, contradictions, read_facts
from ..survey.current_build import build_today, laid_out
from ..survey.match_devices import Matched
from ..survey.reading_summary import ReadingSummary, summarise
from ..tasks.catalogue import OwnTask
from .shape import Job, Looked


class SurveyDesk:
    """One job laid out with its machine and catalogue, as far as Survey."""

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

    def usual_things(self) -> tuple[Usual, ...]:
        """Returnable unknowns of this machine, that the owner may take as usual in one act."""
        return self.today.known.usual_things()
