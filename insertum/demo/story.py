"""Brings demo jobs to their stations through the same services a user has."""

import json
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.utils import timezone

from ..core.job.shape import Job
from ..core.prepare.gates import GateState
from ..core.record.shape import Measurement
from ..core.sighting import Sighting
from ..formats.json_errors import shaped
from ..shop import models
from ..shop.services import (
    bench_job,
    edit_job,
    jobs,
    machines,
    parts,
    plan_job,
    processors,
    shelf,
    sightings,
    take_reading,
    tasks_beside,
    wishes,
    workshop,
)
from . import laptop

DATA = Path(__file__).parent / "data"
LOGIN, PASSWORD = "bench", "saltmarsh"
WORKSHOP = workshop.Workshop(
    name="Saltmarsh Refit", address="Fish quay 4, by the ferry steps", tax_percent=20, quote_days=14,
    warranty="Parts carry their makers' warranty; our work a year.", approved_makes=("Pallas", "Quern", "Larkfield", "Amberly"),
)  # fmt: skip


def load() -> int:
    """Load the whole demo world into an empty workshop. Returns how many jobs there are."""
    who = _people()
    workshop.save_workshop(WORKSHOP, who)
    processors.import_processors((DATA / "processors.json").read_text(), "processors.json", who)
    for path in sorted((DATA / "machines").glob("*.json")):
        machines.import_machines(path.read_text(), path.name, who)
    parts.import_parts((DATA / "parts.csv").read_text())
    for seen in json.loads((DATA / "sightings.json").read_text()):
        sightings.record_sighting(shaped(Sighting, seen, "sightings.json"), who)
    for part in json.loads((DATA / "shelf.json").read_text()):
        shelf.put(part["number"], part["origin"], part["condition"], part["note"], who)
    told = json.loads((DATA / "jobs.json").read_text())
    for entry in told:
        due = date.today() + timedelta(days=entry["due_in_days"])
        job = shaped(Job, entry["job"] | {"due": due.isoformat()}, "jobs.json")
        jobs.import_job(job)
        for step in entry["story"]:
            _tell(job.number, step, who)
    wishes.look_at_wishes()
    return len(told)


def _people() -> User:
    """One login for each role, all with the demo's password."""
    made = {}
    for name in ("bench", "library", "owner"):
        made[name], new = User.objects.get_or_create(username=name)
        if new:
            made[name].set_password(PASSWORD)
            made[name].save()
            models.Person.objects.create(user=made[name], role=name)
    return made[LOGIN]


def _tell(number: int, step: dict[str, Any], who: User) -> None:
    match step:
        case {"set": path, "value": value}:
            edit_job.write(number, path, value, who)
        case {"choose": stance}:
            plan_job.choose_plan(number, stance, None, who)
        case {"agree": said_by, "how": how}:
            plan_job.agree(number, said_by, how, step.get("about", ""), who)
        case {"tasks": ids}:
            tasks_beside.plan_tasks(number, ids, who)
        case {"gates": wanted}:
            for gate in jobs.desk_of(number).gates():
                if gate.derived and not gate.settled and wanted == "all":
                    plan_job.agree(number, jobs.job_of(number).customer, "by telephone", "", who)
                elif not gate.derived and (wanted == "all" or gate.id in wanted):
                    words = f"{jobs.job_of(number).customer}, by telephone" if gate.asks else ""
                    done = GateState(state="done", words=words, who=who.username).model_dump()
                    edit_job.write(number, f"/prepare/gates/{gate.id}", done, who)
        case {"tick": count}:
            steps = jobs.desk_of(number).sheet().steps
            now = timezone.now().isoformat(timespec="seconds")
            for s in steps if count == "all" else steps[:count]:
                edit_job.write(number, f"/bench/done/{s.id}", now, who)
        case {"reading": station, "faults": faults}:
            build = jobs.desk_of(number).must_plan
            take_reading.take_reading(number, laptop.bundle_json(build, faults).encode(), station, who)
        case {"fitted": slot, "number": part}:
            found = jobs.desk_of(number).fittable(part).model_dump(mode="json") if part else None
            edit_job.write(number, f"/survey/fitted/{slot}", found, who)
        case {"gone": slot, "fate": fate}:
            bench_job.became(number, slot, fate, step.get("note", ""), who)
        case {"measured": what}:
            bench_job.measured(number, shaped(Measurement, what, "jobs.json"), who)
        case {"close": _}:
            edit_job.write(number, "/hand_over/closed_at", timezone.now().isoformat(timespec="seconds"), who)
        case _:
            raise ValueError(f"job {number}: no such step {step}")
