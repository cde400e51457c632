"""What somebody says at Survey of one slot or attribute: what is in it, what its label says, what was measured."""

from typing import Any, Literal

from django.contrib.auth.base_user import AbstractBaseUser

from ...core.errors import Code, InputError
from ...core.job.shape import Job
from ...core.kinds.all import kind_for
from ...core.survey.attributes import typed_value
from ...core.survey.recognise import Recognised, recognise
from ...formats.parts import part_from
from . import claims, edit_job, jobs, parts, parts_found
from .stand_ins import stand_ins

State = Literal["found", "unknown", "as_delivered"]


def set_fitted(number: int, slot: str, part_number: str, state: State, who: AbstractBaseUser) -> Job:
    """A slot's content as found: a part of the catalogue, "" for empty; or how it stands where nobody has looked."""
    desk = jobs.desk_of(number)
    desk.configured.slot(slot)
    if state != "found":
        fitted = {s: p for s, p in desk.job.model_dump(mode="json")["survey"]["fitted"].items() if s != slot}
        unknown = [s for s in desk.job.survey.unknown if s != slot]
        unknown += [slot] if state == "unknown" else []
        return edit_job.write_all(number, {"/survey/fitted": fitted, "/survey/unknown": unknown}, who)
    part = desk.fittable(part_number).model_dump(mode="json") if part_number else None
    return edit_job.write(number, f"/survey/fitted/{slot}", part, who)


def label_in_slot(number: int, slot: str, text: str) -> Recognised:
    """What a label says of a part for the slot."""
    desk = jobs.desk_of(number)
    return recognise(text, desk.parts, kind_for(desk.configured.slot(slot).kind).id)


def take_new_part(number: int, slot: str, part_number: str, offered: dict[str, Any], who: AbstractBaseUser) -> Job:
    """A part its label proves, into the catalogue and into the slot. Raises :class:`InputError` where its number is
    taken."""
    jobs.desk_of(number).configured.slot(slot)
    if parts.part_of(part_number):
        raise InputError(
            f"{part_number} is in the catalogue already", "part number", "Choose it there.", code=Code.TAKEN
        )
    return parts_found.found_new(number, slot, part_from({**offered, "number": part_number}), who)


def set_measured(number: int, attribute: str, typed: str, who: AbstractBaseUser) -> Job:
    """What was measured of ``slot.attribute``, typed in the unit shown."""
    value = typed_value(jobs.desk_of(number, with_parts=False).configured, attribute, typed)
    return edit_job.write(number, f"/survey/measured/{attribute}", value, who)


def claim(
    number: int, attribute: str, typed: str, source: str, note: str, who: AbstractBaseUser
) -> list[claims.Review]:
    """Not what the library says: recorded against the configuration, for review."""
    value = typed_value(jobs.desk_of(number, with_parts=False).configured, attribute, typed)
    claims.record_claim(number, attribute, value, source, note, who)
    return [c for c in claims.reviews() if c.job == number]


def believe(number: int, id: str, right: Literal["reading", "library"], who: AbstractBaseUser) -> Job:
    """Who is right where reading and library disagree: the library's word counts on this job, or the reading's does and
    goes to the library for review."""
    said = next((c for c in jobs.desk_of(number).contradictions() if c.id == id), None)
    if said is None:
        raise InputError(f"no contradiction {id!r}", "survey", "Read the machine again.", code=Code.MISSING)
    before = jobs.desk_of(number, with_parts=False).job.survey.believed.get(id)
    job = edit_job.write(number, f"/survey/believed/{id}", right, who)
    if right == "reading" and said.attribute and before != right:
        claims.record_claim(number, said.attribute, said.value, "read", "read on this machine", who)
    return job


def simulated_bundle(number: int, station: Literal["survey", "prove"], faults: list[str], busy: bool) -> str:
    """The simulated laptop's bundle for this job: as it stands, or as planned. Raises :class:`InputError` where nothing
    is simulated."""
    stands = stand_ins()
    if stands is None:
        raise InputError("there is no simulated laptop in a workshop", f"job {number}", "Read the machine itself.")
    beside = stands.build_beside(number) if station == "survey" else None
    desk = jobs.desk_of(number)
    return stands.bundle_json(beside or (desk.today if station == "survey" else desk.must_plan), faults, busy)
