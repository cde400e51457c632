"""What was entered into a job, looked at before it is kept: it must be something this machine could have."""

from collections.abc import Callable, Mapping
from typing import Any

from ..errors import InputError
from ..fit.judge import kind_fits
from ..machine.attribute import attributes_of
from ..machine.bay_and_battery import BaySlot
from ..machine.card_sockets import DriveSlot
from ..machine.part import Fittable
from ..machine.plausible import look_at
from ..machine.shape import Configured
from .shape import Job


def look_over(machine: Configured, before: Job | None, after: Job, part_of: Callable[[str], Fittable]) -> None:
    """Looks at what is new in ``after``: an older job opens with what stands in it.

    Raises :class:`InputError` for a part of a kind its slot does not take, a figure no laptop has, a boot slot that
    holds no drive, or a slot this machine has not.
    """
    was = before or Job(number=after.number)
    for slot_id, number in _new(was.fit.build, after.fit.build):
        if number:
            _of_its_kind(machine, slot_id, part_of(number))
    for slot_id, part in _new(was.survey.fitted, after.survey.fitted):
        if part is not None:
            _of_its_kind(machine, slot_id, part)
    for key, value in _new(was.survey.measured, after.survey.measured):
        _figure(machine, key, value)
    if after.fit.boot_slot and after.fit.boot_slot != was.fit.boot_slot:
        slot = machine.slot(after.fit.boot_slot)
        if not isinstance(slot, DriveSlot | BaySlot):
            raise InputError(f"{slot.name} holds no drive to start from", "fit / boot_slot", "Choose a drive's slot.")
    for slot_id, _ in _new(was.survey.looked, after.survey.looked):
        machine.slot(slot_id)
    broken = [s for s in after.survey.not_working if s not in was.survey.not_working]
    for slot_id in (*broken, *(s for s, _ in _new(was.plan.credits, after.plan.credits))):
        machine.slot(slot_id)


def _new(was: Mapping[str, Any], now: Mapping[str, Any]) -> list[tuple[str, Any]]:
    return [(k, v) for k, v in now.items() if k not in was or was[k] != v]


def _of_its_kind(machine: Configured, slot_id: str, part: Fittable) -> None:
    slot = machine.slot(slot_id)
    if not kind_fits(slot, part):
        raise InputError(f"{part.name} is nothing {slot.name} takes", slot_id, "Choose a part of the slot's kind.")


def _figure(machine: Configured, key: str, value: Any) -> None:
    place, _, name = key.partition(".")
    target: Any = {"memory": machine.memory, "boot": machine.boot}.get(place) or machine.slot(place)
    words = attributes_of(type(target)).get(name)
    if words is not None:  # one that is not there is named where it is laid over the machine
        told = value if isinstance(value, Mapping) else {"value": value}
        try:
            for one in (told.get("value"), *told.get("alternatives", ())):
                look_at(key, words, tuple(one) if isinstance(one, list) else one)
        except ValueError as error:
            raise InputError(str(error), key, "Read it again, in the unit shown.") from error
