"""Sightings: what worked and what did not, kept for the next machine of the same configuration."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.machine.part import Fittable
from ...core.reading import Reading
from ...core.sighting import Cause, Outcome, Sighting, proves
from ...core.survey.contradict import running_mts
from ...core.survey.match_devices import Matched
from .. import models
from .history import can_be_brought_back, entered
from .jobs import desk_of
from .machines import machine_of
from .parts import part_of
from .unreadable import readable


class SightingLine(Frozen):
    id: int
    sighting: Sighting
    says: str
    title: str
    slot_name: str


def lines(machine: str = "", configuration: str = "", part: str = "") -> list[SightingLine]:
    """Sightings of a machine, a configuration, a part: each one that is given narrows; the latest first."""
    rows = models.Sighting.objects.all()
    for name, value in (("machine", machine), ("configuration", configuration), ("part", part)):
        if value:
            rows = rows.filter(**{name: value})
    found = []
    for row in rows.order_by("-id")[:200]:
        seen = next(readable([row.spec], Sighting.model_validate), None)
        if seen is None:
            continue
        known = machine_of(seen.machine)
        slots = {s.id: s.name for s in known.slots} if known else {}
        title = (
            next(
                (f"{known.maker} {c.name}" for c in known.configurations if c.id == seen.configuration),
                seen.configuration,
            )
            if known
            else seen.machine
        )
        found.append(
            SightingLine(
                id=row.pk, sighting=seen, says=seen.says, title=title, slot_name=slots.get(seen.slot, seen.slot)
            )
        )
    return found


@transaction.atomic
def record_sighting(seen: Sighting, who: AbstractBaseUser | None) -> Sighting:
    """Keep a sighting. Raises :class:`InputError` when machine, configuration or slot is not there,
    or hearsay names nobody."""
    machine = machine_of(seen.machine)
    if machine is None:
        raise InputError(f"no machine {seen.machine!r}", "sighting", "Choose one of the library.", code=Code.MISSING)
    laid = machine.configured(seen.configuration)
    laid.slot(seen.slot)
    if seen.hearsay and not (seen.who.strip() and seen.where.strip()):
        raise InputError("hearsay names nobody", "sighting", "Say who reported it, and where.")
    if seen.outcome == "worked_after" and not seen.after.strip():
        raise InputError("what had to be done first is not said", "sighting", "Say what it worked after.")
    if not seen.proves and (part := part_of(seen.part)) is not None and part.kind != "accessory":
        seen = seen.model_copy(update={"proves": proves(seen.slot, part, None, None)})
    if not seen.hearsay and not seen.who and who:
        seen = seen.model_copy(update={"who": who.get_username()})
    seen = seen.model_copy(update={"date": seen.date or timezone.now().date().isoformat()})
    models.Sighting.objects.create(
        machine=seen.machine,
        configuration=seen.configuration,
        slot=seen.slot,
        part=seen.part,
        outcome=seen.outcome,
        spec=seen.model_dump(mode="json"),
        who=who,
    )
    entered(
        "sighting", seen.part, f"an outcome of {seen.part}: {seen.outcome}", None, seen.model_dump(mode="json"), who
    )
    return seen


def sight_job(
    number: int, slot: str, outcome: Outcome, after: str, note: str, who: AbstractBaseUser | None, cause: Cause = ""
) -> Sighting:
    """Record what the part planned for a slot did on this very job, with what its outcome proves. ``cause`` is why
    it failed: the part or its seat, the machine that does not take it, or nobody knows."""
    desk = desk_of(number)
    build = desk.must_plan
    part: Fittable | None = build.now(slot)
    if part is not None and f"in:{slot}" not in desk.job.bench.done:
        raise InputError("it was not fitted at this job", "sighting", "What goes in is ticked at the bench.")
    if part is None:
        raise InputError(f"nothing is planned for {slot!r}", "sighting", "Choose a slot of the plan.")
    after_work = desk.job.prove.readings[-1] if desk.job.prove.readings else None
    reading = after_work or desk.job.survey.reading
    return record_sighting(
        Sighting(
            machine=build.machine.machine.id,
            configuration=build.machine.configuration.id,
            slot=slot,
            part=part.number,
            part_name=part.name,
            outcome=outcome,
            firmware=(reading.firmware if reading else "") or desk.firmware,
            after=after,
            note=note,
            job=number,
            proves=proves(slot, part, *_read_after(after_work)),
            showed=Matched(desk.configured, after_work, desk.parts).shown(slot) if after_work else (),
            cause=cause if outcome == "did_not" else "",
            accessories=tuple(a.number for a in build.accessories.get(slot, ())),
        ),
        who,
    )


def _read_after(reading: Reading | None) -> tuple[int | None, int | None]:
    """Memory in all in GB and the rate it runs at, as they were read after the work: what was planned proves nothing."""
    if reading is None or reading.memory_mb is None or reading.memory_mb % 1024:
        return None, running_mts(reading) if reading else None
    return reading.memory_mb // 1024, running_mts(reading)


def is_anothers(pk: int, who: AbstractBaseUser | None) -> bool:
    """Was it somebody else who recorded it?"""
    return models.Sighting.objects.filter(pk=pk).exclude(who=who).exists()


@transaction.atomic
def forget(pk: int, who: AbstractBaseUser | None) -> int:
    """Take back a sighting that was recorded by mistake; what it said stays in the history. Returns how many there
    were, 0 or 1."""
    rows = models.Sighting.objects.filter(pk=pk)
    for row in rows:
        entered("sighting", row.part, f"an outcome of {row.part} was taken back", row.spec, None, who)
    return rows.delete()[0]


@transaction.atomic
def bring_back(change: int, who: AbstractBaseUser | None) -> None:
    """Record again what was taken back, for as long as that is kept. Raises :class:`InputError` where it stands again
    already, or was taken back too long ago."""
    entry = models.Entry.objects.filter(pk=change, about="sighting").first()
    if entry is None or not can_be_brought_back(entry):
        raise InputError("there is nothing to bring back", f"change {change}", "Record the outcome anew.")
    if models.Sighting.objects.filter(spec=entry.before).exists():
        raise InputError("it stands again already", f"change {change}", "Reload the history.")
    record_sighting(Sighting.model_validate(entry.before), who)
