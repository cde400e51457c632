"""The machine on the bench: the library's description with what was found on this very one."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from typing import Any

from pydantic import ValidationError

from ..errors import InputError
from ..fit.build import Build
from ..known.evidence import Contents, Grade, Signs
from ..known.known import Known
from ..machine.attribute import attributes_of
from ..machine.claim import Fact, Limits, Source
from ..machine.part import Fittable
from ..machine.plausible import look_at
from ..machine.shape import Configured
from ..sighting import Sighting, with_sightings

_WHOLE = ("memory", "boot")


def with_claims(machine: Configured, found: Mapping[str, Any], source: Source, note: str = "") -> Configured:
    """Lay findings over a configuration. Keys are ``slot.attribute``, ``memory.attribute`` or
    ``boot.attribute``; values are what was measured or read.

    Raises :class:`InputError` for a place or attribute that is not there, or a value of another kind.
    """
    for key, value in found.items():
        place, _, attribute = key.partition(".")
        target = getattr(machine, place) if place in _WHOLE else machine.slot(place)
        fact = getattr(target, attribute, None) if attribute in type(target).model_fields else None
        if not isinstance(fact, Fact):
            raise InputError(f"no attribute {attribute!r} to measure", key, "Name it as slot.attribute.")
        # A bound or one of several is written as a claim is: a value with what is said of it.
        told = dict(value) if isinstance(value, Mapping) else {"value": value}
        try:
            for one in (told.get("value"), *told.get("alternatives", ())):
                look_at(key, attributes_of(type(target))[attribute], one)
        except ValueError:
            if source is Source.READ:
                continue  # what a tool says and no laptop has is no fact
        try:
            said = [*(c.model_dump() for c in fact.claims), {**told, "source": source, "note": note}]
            laid = type(fact).model_validate(said)
        except ValidationError as error:
            raise InputError(error.errors()[0]["msg"], key, "Enter it in the unit shown.") from error
        patched = target.model_copy(update={attribute: laid})
        if place in _WHOLE:
            machine = machine.model_copy(update={place: patched})
        else:
            slots = tuple(patched if s.id == place else s for s in machine.slots)
            machine = machine.model_copy(update={"slots": slots})
    return machine


def laid_out(
    machine: Configured,
    sightings: Sequence[Sighting] = (),
    read: Mapping[str, Any] | None = None,
    measured: Mapping[str, Any] | None = None,
) -> Configured:
    """A configuration with everything the workshop knows over it: its outcomes, what software read on
    this machine, what was measured on it."""
    machine = with_sightings(machine, sightings)
    machine = with_claims(machine, read or {}, Source.READ, "read on this machine")
    return with_claims(machine, measured or {}, Source.MEASURED)


def build_today(
    machine: Configured,
    fitted: Mapping[str, Fittable | None] | None = None,
    stance: Limits = Limits.PROVEN,
    firmware: str = "",
    boot_slot: str = "",
    sightings: Sequence[Sighting] = (),
    unknown: Sequence[str] = (),
    grades: Mapping[str, Collection[Grade]] | None = None,
    signs: Mapping[str, Signs] | None = None,
    as_usual: bool = False,
    system: str = "",
    usual_only: Collection[str] = (),
) -> Build:
    """The build as it stands: as delivered, with what was found in its place, and what the workshop
    saw of parts in this configuration.

    ``unknown`` are slots whose content nobody has seen. ``grades`` say how well what was found is known (it works,
    where nothing is said), ``signs`` what a reading tells beside. ``as_usual`` takes returnable unknowns as usual, in
    the owner's name, or those of ``usual_only`` alone; ``system`` is the owner's operating system, where the job names it.
    """
    for slot in (*(fitted or {}), *unknown):
        machine.slot(slot)
    held = {s.id: s.fitted for s in machine.slots if s.looked} | dict(fitted or {})
    held = {s: p for s, p in held.items() if s not in unknown}
    here = (machine.machine.id, machine.configuration.id)
    today = boot_slot or machine.machine.boot_slot
    known_by = {s: frozenset({Grade.WORKS}) for s in fitted or ()} | {
        s: frozenset(g) for s, g in (grades or {}).items()
    }
    contents = Contents(held, known_by, signs or {}, today)
    own = tuple(s for s in sightings if (s.machine, s.configuration) == here)
    under = tuple(sorted({s.firmware for s in own if s.firmware and not s.hearsay}))
    build = Build(
        known=Known(machine, contents, stance, firmware, as_usual, system, frozenset(usual_only), under), sightings=own
    )
    return replace(build, boot_slot=build.boots_today)
