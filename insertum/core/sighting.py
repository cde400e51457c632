"""Sightings: what this bench, or somebody else, saw of a part in a slot of one configuration.

The last arrow of the house: an outcome proved here becomes a claim with source *proven*; what others
say stays *reported*. Outcomes under another firmware are shown and never decide.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any, Literal

from pydantic import Field

from .frozen import Frozen
from .known.school import NOT_NOTED
from .machine.claim import Fact, Source
from .machine.density import module_density
from .machine.drive_parts import BayDrive, M2Drive
from .machine.part import Fittable, MemoryModule
from .machine.shape import Configured

Outcome = Literal["worked", "did_not", "worked_after"]
#: Why it failed: the part itself or how it sat, the machine that does not take it, or nobody knows.
Cause = Literal["", "part", "machine", "unknown"]
WORDS: Mapping[str, str] = {"worked": "worked", "did_not": "did not work", "worked_after": "worked after"}


class Sighting(Frozen):
    """One part in one slot of one configuration under one firmware. ``after`` says what had to be
    done first. ``hearsay`` is what others report: ``who`` and ``where`` name them. ``proves`` are the
    limits the outcome speaks for, ``slot.attribute`` to a value in the attribute's unit. ``accessories`` are the
    numbers of those it was fitted with. ``showed`` names what was looked at besides that it works: what nobody tried
    is not proven."""

    machine: str
    configuration: str
    slot: str
    part: str = Field(min_length=1)
    part_name: str = ""
    outcome: Outcome
    firmware: str = ""
    after: str = ""
    note: str = ""
    hearsay: bool = False
    who: str = ""
    where: str = ""
    date: str = ""
    job: int | None = None
    proves: dict[str, int] = {}
    cause: Cause = ""
    accessories: tuple[str, ...] = ()
    showed: tuple[Literal["bluetooth", "bands", "link", "speed"], ...] = ()

    @property
    def worked(self) -> bool:
        return self.outcome != "did_not"

    @property
    def speaks_of_machine(self) -> bool:
        """Does its failure tell anything of the machine? A module not home, or faulty, does not."""
        return not self.worked and self.cause == "machine"

    @property
    def says(self) -> str:
        """'worked, firmware 1.14' in bench words."""
        firmware = f", firmware {self.firmware}" if self.firmware else ", firmware not noted"
        after = f" {self.after}" if self.outcome == "worked_after" and self.after else ""
        who = f", says {self.who}{f' ({self.where})' if self.where else ''}" if self.hearsay else ""
        return f"{WORDS[self.outcome]}{after}{firmware}{who}"


def proves(slot_id: str, part: Fittable, total_gb: int | None, running_mts: int | None) -> dict[str, int]:
    """The limits an outcome with this part speaks for."""
    found: dict[str, int] = {}
    if isinstance(part, MemoryModule):
        found[f"{slot_id}.limit_gb"] = part.capacity_gb
        density = module_density(part)
        if density is not None and density.denominator == 1:
            found["memory.density_gbit"] = int(density)
        if total_gb:
            found["memory.total_limit_gb"] = total_gb
        if running_mts:
            found["memory.speed_mts"] = running_mts
    elif isinstance(part, M2Drive | BayDrive):
        found[f"{slot_id}.drive_limit_gb"] = part.capacity_gb
    return found


def claims_of(sightings: Iterable[Sighting]) -> Iterator[tuple[str, dict[str, Any]]]:
    """Claims by place: counts of what worked and failed at each value under each firmware.

    A failure counts where the machine did not take it; of unknown cause the second time, in another job (another
    specimen or another machine); not home or a fault of the part teaches nothing (rules.md section 2).
    """
    counted: dict[tuple[str, int, str], list[int]] = {}
    unknown: dict[tuple[str, int, str], set[int | None]] = {}
    for s in sightings:
        for place, value in s.proves.items():
            if s.hearsay:
                if s.worked:
                    yield (
                        place,
                        {"value": value, "source": Source.REPORTED, "note": s.where, "who": s.who, "date": s.date,
                         "firmware": s.firmware, "configuration": s.configuration},
                    )  # fmt: skip
                continue
            key = (place, value, s.firmware)
            tally = counted.setdefault(key, [0, 0])
            if s.worked:
                tally[0] += 1
            elif s.cause == "machine":
                tally[1] += 1
            elif s.cause != "part":
                unknown.setdefault(key, set()).add(s.job)
    for (place, value, firmware), (count, failures) in counted.items():
        suspected = len(unknown.get((place, value, firmware), ()))
        failures += suspected if suspected > 1 else 0
        if not count and not failures:
            continue
        note = "own outcomes" if firmware else "own outcomes, firmware not noted"
        yield (
            place,
            {"value": value, "source": Source.PROVEN, "note": note, "count": count, "failures": failures,
             # An outcome without a firmware never counts as proven under any: it is shown only.
             "firmware": firmware or NOT_NOTED},
        )  # fmt: skip


def with_sightings(machine: Configured, sightings: Iterable[Sighting]) -> Configured:
    """Lay the workshop's outcomes over a configuration as claims. Places that are not there (a slot
    renamed since) are left out: the record stays, the machine does not break on it."""
    here = [s for s in sightings if (s.machine, s.configuration) == (machine.machine.id, machine.configuration.id)]
    for place, claim in claims_of(here):
        slot_id, _, attribute = place.partition(".")
        slots = {s.id: s for s in machine.slots}
        target: Any = machine.memory if slot_id == "memory" else slots.get(slot_id)
        fact = getattr(target, attribute, None)
        if not isinstance(fact, Fact):
            continue
        laid = type(fact).model_validate([*(c.model_dump() for c in fact.claims), claim])
        patched = target.model_copy(update={attribute: laid})
        if slot_id == "memory":
            machine = machine.model_copy(update={"memory": patched})
        else:
            machine = machine.model_copy(
                update={"slots": tuple(patched if s.id == slot_id else s for s in machine.slots)}
            )
    return machine
