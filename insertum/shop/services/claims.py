"""Claims for review: what a bench found that the library does not say, until somebody judges it."""

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from ...core.job.shape import Job
from ...core.machine.attribute import Attribute, shown
from ...core.machine.claim import Fact, Source
from ...core.machine.numbered import LONGEST_NUMBER, identifies, library_says, things, with_number
from ...core.machine.shape import Machine
from ...core.spelling import folded
from ...core.survey.attributes import words_at
from ...core.survey.current_build import with_claims
from .. import models
from .jobs import desk_of
from .machines import machine_file, machine_of, save_machine

#: Before the thing a number was found on, where other claims name a place and its attribute.
_NUMBER = "number."
SOURCES = ("measured", "read", "documented", "reported", "controller", "proven")


class Review(Frozen):
    """One claim as it waits. ``library`` is what the library says of the same place."""

    id: int
    machine: str
    configuration: str
    title: str
    attribute: str
    label: str
    value: str
    library: str
    source: str
    note: str
    job: int | None
    who: str
    at: str
    state: str


def record_claim(number: int, attribute: str, value: Any, source: str, note: str, who: AbstractBaseUser | None) -> int:
    """Record against the configuration of a job what the bench found. Raises :class:`InputError` for
    a place that is not there or a value of another kind."""
    if source not in SOURCES:
        raise InputError(f"no source {source!r}", "claim", f"It is one of {', '.join(SOURCES)}.")
    desk = desk_of(number, with_parts=False)
    with_claims(desk.plain, {attribute: value}, Source.MEASURED)
    row = models.ClaimReview.objects.create(
        machine=desk.plain.machine.id,
        configuration=desk.plain.configuration.id,
        attribute=attribute,
        value=value,
        source=source,
        note=note[:300],
        job=number,
        who=who,
    )
    return int(row.pk)


def numbers_found(job: Job, who: AbstractBaseUser | None) -> None:
    """Have every number found on a job's machine that its file does not say wait for review, as the job has it now."""
    machine, configuration = machine_of(job.identify.machine), job.identify.configuration
    found: dict[str, str] = {}
    if machine is not None and any(c.id == configuration for c in machine.configurations):
        for called, number in job.survey.numbers.items():
            thing = "pack" if called == "battery" else called
            known = {folded(n) for n in library_says(machine, configuration, thing)}
            fits = bool(folded(number)) and len(number.strip()) <= LONGEST_NUMBER
            if fits and thing in things(machine) and folded(number) not in known:
                found[_NUMBER + thing] = number.strip()
    here = models.ClaimReview.objects.filter(job=job.number, attribute__startswith=_NUMBER)
    for row in here.filter(state="open"):
        if (row.machine, row.configuration, row.value) != (
            job.identify.machine,
            configuration,
            found.get(row.attribute),
        ):
            row.delete()
    there = {(r.machine, r.configuration, r.attribute, r.value) for r in here}
    models.ClaimReview.objects.bulk_create(
        models.ClaimReview(
            machine=job.identify.machine, configuration=configuration, attribute=attribute, value=number,
            source="read", job=job.number, who=who,
        )
        for attribute, number in found.items()
        if (job.identify.machine, configuration, attribute, number) not in there
    )  # fmt: skip


def reviews(machine: str = "", state: str = "open") -> tuple[Review, ...]:
    """Claims in a state, of one machine or of all."""
    rows = models.ClaimReview.objects.filter(state=state).select_related("who")
    if machine:
        rows = rows.filter(machine=machine)
    return tuple(_shown(r) for r in rows[:200])


def _shown(row: models.ClaimReview) -> Review:
    machine = machine_of(row.machine)
    known = _words(machine, row)
    scale = known.scale if known else 1
    label, says, note = known.label if known else row.attribute, _library_says(machine, row, scale), row.note
    if row.attribute.startswith(_NUMBER):
        thing = row.attribute.removeprefix(_NUMBER)
        label = f"number on the {things(machine).get(thing, thing)}"
        says = ", ".join(library_says(machine, row.configuration, thing)) if machine else "the machine is gone"
        says = says or "none noted"
        note = "accepted, it tells this configuration from others" if identifies(thing) else note
    return Review(
        id=row.pk,
        machine=row.machine,
        configuration=row.configuration,
        title=_title(machine, row.configuration),
        attribute=row.attribute,
        label=label,
        value=shown(row.value, scale),
        library=says,
        source=row.source,
        note=note,
        job=row.job,
        who=row.who.get_username() if row.who else "",
        at=row.at.isoformat(timespec="minutes"),
        state=row.state,
    )


def _words(machine: Machine | None, row: models.ClaimReview) -> Attribute | None:
    try:
        return words_at(machine.configured(row.configuration), row.attribute) if machine else None
    except InputError:
        return None


def _title(machine: Machine | None, configuration: str) -> str:
    if machine is None:
        return configuration
    return next((f"{machine.maker} {c.name}" for c in machine.configurations if c.id == configuration), machine.name)


def _library_says(machine: Machine | None, row: models.ClaimReview, scale: float) -> str:
    place, _, name = row.attribute.partition(".")
    try:
        laid = machine.configured(row.configuration) if machine else None
        target = None if laid is None else getattr(laid, place) if place in ("memory", "boot") else laid.slot(place)
    except InputError:
        return "the place is gone"
    fact = getattr(target, name, None)
    if not isinstance(fact, Fact) or not fact:
        return "unknown"
    return "; ".join(f"{shown(c.value, scale)} ({c.source})" for c in fact.claims)


@transaction.atomic
def decide(claim: int, accept: bool, who: AbstractBaseUser | None) -> Review:
    """Accept a claim into the library, against its own configuration, or refuse it. Facts about the
    very machine become a report from this bench, because another one may differ."""
    row = models.ClaimReview.objects.select_for_update().filter(pk=claim).first()
    if row is None or row.state != "open":
        raise InputError("this claim is decided already", f"claim {claim}", "Reload the list.")
    if accept:
        machine = machine_file(row.machine)
        if machine is None:
            raise InputError(f"no machine {row.machine!r} any more", f"claim {claim}", "Refuse it.", code=Code.MISSING)
        _add(machine, row, who)
    row.state, row.decided_by = "accepted" if accept else "refused", who
    row.save(update_fields=["state", "decided_by"])
    return _shown(row)


def _add(machine: Machine, row: models.ClaimReview, who: AbstractBaseUser | None) -> None:
    if row.attribute.startswith(_NUMBER):
        data = with_number(machine, row.configuration, row.attribute.removeprefix(_NUMBER), row.value)
        save_machine(data, who, f"number from job {row.job}")
        return
    place, _, name = row.attribute.partition(".")
    laid = machine.configured(row.configuration)
    target = getattr(laid, place) if place in ("memory", "boot") else laid.slot(place)
    fact = getattr(target, name)
    # What was measured or read on one machine is this bench's documentation of the configuration.
    source = "documented" if row.source in ("measured", "read") else row.source
    note = f"this bench, job {row.job}: {row.note}".strip(": ") if row.job else row.note
    claim = {"value": row.value, "source": source, "note": note, "date": row.at.date().isoformat()}
    if source == "proven":
        claim["count"] = 1
    kept = [c.model_dump(mode="json") for c in fact.claims]
    data = machine.model_dump(mode="json")
    for c in data["configurations"]:
        if c["id"] == row.configuration:
            differs = c["differs"].setdefault(place, {})
            # The bench's own look replaces what a manual said of the same fact; limits keep both.
            words = words_at(laid, row.attribute)
            replaced = source == "documented" and not (words and words.is_limit)
            differs[name] = [*(k for k in kept if not (replaced and k["source"] == "documented")), claim]
    save_machine(data, who, f"claim from job {row.job}: {row.attribute}")
