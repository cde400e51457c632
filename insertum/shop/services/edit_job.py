"""Change a job: edits, undo, and the server's own writes, all through one log."""

import uuid
from collections.abc import Mapping, Sequence
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from ...core.bench.ticks import tick_of
from ...core.diff_words import place, spoken
from ...core.errors import Code, InputError
from ...core.job.edit import Edit, EditResult, apply_edit, pointed, steps_of, value_at
from ...core.job.shape import Job, Station
from ...core.machine.numbered import things
from ...core.prepare.gates import GateTick
from ...core.reading import Reading
from ...core.record.shape import Stopped
from ...core.spelling import folded
from .. import models
from . import claims, step_times
from .history import entered
from .jobs import desk_for, look_over, row_of, store
from .machines import machine_of


@transaction.atomic
def edit_job(number: int, edits: Sequence[Edit], who: AbstractBaseUser | None) -> tuple[Job, list[EditResult]]:
    """Make edits in order. A conflict changes nothing and returns both words; an edit that was
    sent before is not made twice. Raises :class:`InputError` (and makes none) for an invalid one."""
    row = row_of(number, lock=True)
    job = Job.model_validate(row.spec)
    known = _heard(edits)
    for uid in (uid for uid, (of, *_) in known.items() if of != number):
        raise InputError(
            "an edit of another job has this id", uid, "Send it with an id of its own; nothing was changed."
        )
    results = []
    for edit in edits:
        if edit.uid in known:
            if known[edit.uid] == _content(number, edit):
                results.append(EditResult(uid=edit.uid, path=edit.path, outcome="already"))
            else:  # somebody gave two edits one id: neither is dropped in silence
                theirs = value_at(job.model_dump(mode="json"), steps_of(edit.path))
                clash = EditResult(uid=edit.uid, path=edit.path, outcome="conflict", theirs=theirs)
                results.append(_in_words(row, edit, clash))
            continue
        before = job
        job, result = apply_edit(job, edit)
        if result.outcome == "conflict":
            result = _in_words(row, edit, result)
        if result.outcome == "already":
            models.EditWithoutChange.objects.create(job=row, uid=edit.uid, path=edit.path, op=edit.op, after=edit.value)
            known[edit.uid] = _content(number, edit)
        if result.outcome == "applied":
            _log(row, edit, result.before, who)
            for path, value in _outdated(before, job):
                base = value_at(job.model_dump(mode="json"), steps_of(path))
                clear = Edit(uid=uuid.uuid4().hex, path=path, base=base, value=value)
                job, _ = apply_edit(job, clear)
                _log(row, clear, base, who)
            known[edit.uid] = _content(number, edit)
            _check(before, job)
            job = _told(before, job, edit, who)
        results.append(result)
    if any(r.outcome == "applied" for r in results):
        store(row, job)
        if any(e.path.startswith("/hand_over") for e in edits):
            step_times.learn(job)
        if any(e.path.startswith(("/bench/said", "/survey/numbers", "/identify")) for e in edits):
            claims.numbers_found(job, who)
    return job, results


#: (job, place, what is done there, value): two edits of one id are one where these are the same.
Content = tuple[int, str, str, Any]


def _content(number: int, edit: Edit) -> Content:
    return number, edit.path, edit.op, edit.value


def _heard(edits: Sequence[Edit]) -> dict[str, Content]:
    """What is known of these edits' ids from earlier."""
    uids = [e.uid for e in edits]
    rows = [
        row
        for table in (models.JobEdit, models.EditWithoutChange)
        for row in table._default_manager.filter(uid__in=uids).values_list("uid", "job__number", "path", "op", "after")
    ]
    return {uid: (of, path, op, value) for uid, of, path, op, value in rows}


def _in_words(row: models.Job, edit: Edit, result: EditResult) -> EditResult:
    """A conflict as somebody reads it: where, both answers, and who changed it last."""
    path = pointed(edit.path)
    above = ["/".join(edit.path.split("/")[:n]) for n in range(2, edit.path.count("/") + 2)]
    touching = Q(path__in=above) | Q(path__startswith=f"{edit.path}/")
    last = models.JobEdit.objects.filter(touching, job=row).select_related("who").first()
    return result.model_copy(
        update={
            "place": place(path),
            "yours_words": "nothing" if edit.op == "remove" else spoken(path, edit.value),
            "theirs_words": spoken(path, result.theirs),
            "who": last.who.get_username() if last and last.who else "",
            "at": last.at.isoformat(timespec="seconds") if last else "",
        }
    )


#: What belongs to a machine, and what it is when another one turns out to be on the bench.
_OF_A_MACHINE: dict[str, Any] = {
    "/fit/build": {},
    "/fit/boot_slot": "",
    "/survey/fitted": {},
    "/survey/measured": {},
    "/survey/looked": {},
    "/survey/words": {},
    "/survey/reading": None,
    "/survey/believed": {},
    "/plan/credits": {},
}


def _outdated(before: Job, after: Job) -> list[tuple[str, Any]]:
    """Places that no longer hold once the job is identified anew. The log keeps what stood there."""
    was, now = before.identify, after.identify
    if not was.configuration or (was.machine, was.configuration) == (now.machine, now.configuration):
        return []
    cleared = {"/plan/chosen": None} | (_OF_A_MACHINE if was.machine != now.machine else {})
    reading = after.survey.reading
    if now.configuration and reading and "/survey/reading" in cleared and _is_from(reading, after):
        del cleared["/survey/reading"]  # it was read on the machine that is named now
    document = after.model_dump(mode="json")
    return [(path, value) for path, value in cleared.items() if value_at(document, steps_of(path)) != value]


_SWOLLEN = "The battery is swollen, hot or leaking."


def _told(before: Job, job: Job, edit: Edit, who: AbstractBaseUser | None) -> Job:
    """What the server writes beside an edit: what a tick was and whose, and that a swollen pack stops the job."""
    name = who.get_username() if who else ""
    if edit.path == "/bench/done" or edit.path.startswith("/bench/done/"):
        ticks = {k: v for k, v in job.bench.ticks.items() if k in job.bench.done}
        new = [s for s in job.bench.done if s not in before.bench.done]
        if new:
            desk = desk_for(before)
            desk.may_tick(new)
            ticks |= {s: tick_of(desk, s, job.bench.done[s], name) for s in new}
        return job.model_copy(update={"bench": job.bench.model_copy(update={"ticks": ticks})})
    if edit.path.startswith("/bench/said/"):
        _check_thing(job, steps_of(edit.path)[2:3])
        return job.model_copy(update={"survey": job.survey.model_copy(update={"numbers": _numbers(before, job)})})
    if edit.path == "/prepare/gates" or edit.path.startswith("/prepare/gates/"):
        job = job.model_copy(
            update={"prepare": job.prepare.model_copy(update={"ticks": _gate_ticks(before, job, name)})}
        )
    battery = job.prepare.gates.get("battery")
    was = before.prepare.gates.get("battery")
    if battery and battery.state == "blocked" and (was is None or was.state != "blocked") and job.stopped is None:
        why = battery.words.strip() or _SWOLLEN
        return job.model_copy(update={"stopped": Stopped(station=str(job.station), why=why, at=_now(), who=name)})
    taken_back = was and was.state == "blocked" and (battery is None or battery.state != "blocked")
    if was and taken_back and job.stopped is not None and job.stopped.why == (was.words.strip() or _SWOLLEN):
        return job.model_copy(update={"stopped": None})  # the stop was this finding's
    return job


def _gate_ticks(before: Job, job: Job, name: str) -> dict[str, GateTick]:
    """Who said what stands of each gate: of those that stand otherwise than before, who says it now."""
    found = {}
    for gate, state in job.prepare.gates.items():
        if before.prepare.gates.get(gate) != state:
            found[gate] = GateTick(at=_now(), who=name)
        elif gate in before.prepare.ticks:
            found[gate] = before.prepare.ticks[gate]
    return {g: t for g, t in found.items() if job.prepare.gates[g].state != "open"}


def _check_thing(job: Job, step: Sequence[str]) -> None:
    """Is what this step's number was found on on the machine? Others were, on the machine the job had then."""
    on_machine = things(machine_of(job.identify.machine))
    said = job.bench.said.get(step[0]) if step else None
    if said is not None and said.of not in on_machine:
        raise InputError(
            f"nothing called {said.of!r} carries a number on this machine",
            "bench / said",
            f"It is one of {', '.join(on_machine)}.",
        )


def _numbers(before: Job, job: Job) -> dict[str, str]:
    """The job's numbers with those found at its steps: they identify, and assemblies are bought by them. One of a part
    stands with its step alone."""
    typed = {k: n for k, n in job.survey.numbers.items() if before.bench.found.get(k) != n}
    return typed | job.bench.found


def _now() -> str:
    return timezone.now().isoformat(timespec="seconds")


def _is_from(reading: Reading, job: Job) -> bool:
    machine = machine_of(job.identify.machine)
    if machine is None or not any(c.id == job.identify.configuration for c in machine.configurations):
        return False
    names = folded(machine.configured(job.identify.configuration).system_name)
    return names == folded(f"{reading.maker} {reading.system}")


def _check(before: Job, after: Job) -> None:
    """What needs more than the job's own shape: the safety key, and things that must exist."""
    if after.station != before.station:
        desk_for(after).may_enter(Station(after.station))
    if (after.bench.ticks, after.prepare.ticks) != (before.bench.ticks, before.prepare.ticks):
        raise InputError("what a tick was is not typed", "ticks", "Tick it; the server writes the rest.")
    if after.identify != before.identify and after.identify.configuration:
        desk = desk_for(after, with_parts=False)
        if desk.machine is None:
            raise InputError(
                f"no machine {after.identify.machine!r}", "identify", "Choose one from the library.", code=Code.MISSING
            )
        _ = desk.configured
    if (after.fit, after.survey, after.plan) != (before.fit, before.survey, before.plan):
        look_over(after, before)


def _log(row: models.Job, edit: Edit, before: Any, who: AbstractBaseUser | None) -> None:
    models.JobEdit.objects.create(
        job=row, uid=edit.uid, path=edit.path, op=edit.op, before=before, after=edit.value, who=who
    )


@transaction.atomic
def add_to(number: int, path: str, item: Any, who: AbstractBaseUser | None) -> Job:
    """The server's own write to the end of a list, as it stands when it is written: of two who add both are kept."""
    there = value_at(row_of(number, lock=True).spec, steps_of(path)) or []
    return write_all(number, {path: [*there, item]}, who)


def write(number: int, path: str, value: Any, who: AbstractBaseUser | None) -> Job:
    """The server's own write to one place, logged like any other."""
    return write_all(number, {path: value}, who)


@transaction.atomic
def write_all(
    number: int, values: Mapping[str, Any], who: AbstractBaseUser | None, worked_out_on: Job | None = None
) -> Job:
    """The server's own writes to several places: all of them are kept, or none. Raises :class:`InputError` where one of
    them was changed since the job was read that the values were ``worked_out_on``."""
    spec = row_of(number, lock=True).spec
    if worked_out_on is not None:
        then = worked_out_on.model_dump(mode="json")
        for path in values:
            if value_at(spec, steps_of(path)) != value_at(then, steps_of(path)):
                raise InputError(
                    "it was changed meanwhile",
                    place(pointed(path)),
                    "Look at it again, then choose.",
                    code=Code.CONFLICT,
                )
    edits = [
        Edit(uid=uuid.uuid4().hex, path=path, base=value_at(spec, steps_of(path)), value=value)
        for path, value in values.items()
    ]
    job, _ = edit_job(number, edits, who)
    return job


def last_by(number: int, who: AbstractBaseUser | None) -> str:
    """What :func:`undo` would take back for somebody, in words; "" for nothing."""
    path = _standing(number, who).values_list("path", flat=True).first()
    return place(pointed(path)) if path else ""


def _standing(number: int, who: AbstractBaseUser | None) -> QuerySet[models.JobEdit]:
    """Somebody's changes of a job that were not taken back, newest first."""
    return models.JobEdit.objects.filter(job__number=number, who=who, undone=False)


@transaction.atomic
def undo(number: int, who: AbstractBaseUser | None) -> tuple[Job, str]:
    """Take back this person's last edit that still stands. Returns the job and the place.

    Raises :class:`InputError` when there is nothing to undo or somebody changed it since.
    """
    row = row_of(number, lock=True)
    last = _standing(number, who).first()
    if last is None:
        raise InputError("nothing to undo", f"job {number}")
    return _taken_back(row, last, who), last.path


@transaction.atomic
def take_back(edit: int, who: AbstractBaseUser | None) -> Job:
    """Take back one edit of any job, whoever made it. Raises :class:`InputError` where the place was changed since."""
    found = models.JobEdit.objects.filter(pk=edit).first()
    if found is None:
        raise InputError("no such change", f"change {edit}", "Reload the history.", code=Code.MISSING)
    if found.undone:
        raise InputError("it is taken back already", f"change {edit}", "Reload the history.", code=Code.MISSING)
    return _taken_back(row_of(found.job.number, lock=True), found, who)


def _taken_back(row: models.Job, edit: models.JobEdit, who: AbstractBaseUser | None) -> Job:
    job = Job.model_validate(row.spec)
    back = Edit(uid=uuid.uuid4().hex, path=edit.path, op="set", base=edit.after, value=edit.before)
    if edit.before is None and edit.op == "set":
        back = back.model_copy(update={"op": "remove"})
    undone, result = apply_edit(job, back)
    if result.outcome == "conflict":
        raise InputError("somebody changed it since", edit.path, "Change it by hand.", code=Code.CONFLICT)
    edit.undone = True
    edit.save(update_fields=["undone"])
    look_over(undone, undone)
    undone = _told(job, undone, back, who)
    store(row, undone)
    entered("job", str(row.number), f"taken back: {place(pointed(edit.path))}", None, None, who)
    return undone
