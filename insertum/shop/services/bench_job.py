"""What happens at the bench beside the steps: a stop, what became of what came out, measurements, a typed screen."""

from django.contrib.auth.models import AbstractBaseUser
from django.utils import timezone

from ...core.errors import InputError
from ...core.job.shape import Job
from ...core.machine.drive_parts import BayDrive, M2Drive
from ...core.prove.typed import TypedScreen, typed_reading
from ...core.record.shape import Fate, Gone, Measurement, Stopped
from . import shelf
from .edit_job import add_to, write
from .jobs import desk_of
from .parts import part_of


def _by(who: AbstractBaseUser | None) -> dict[str, str]:
    return {"at": timezone.now().isoformat(timespec="seconds"), "who": who.get_username() if who else ""}


def stop(number: int, why: str, who: AbstractBaseUser | None) -> Job:
    """Stop a job where it stands. Raises :class:`InputError` without a reason."""
    if not why.strip():
        raise InputError("why it is stopped is not said", "stop", "Write it in a few words.")
    job = desk_of(number, with_parts=False).job
    stopped = Stopped(station=str(job.station), why=why.strip(), **_by(who))
    return write(number, "/stopped", stopped.model_dump(mode="json"), who)


def take_stop_back(number: int, who: AbstractBaseUser | None) -> Job:
    """The job goes on. Raises :class:`InputError` while the battery still stands as blocked."""
    job = desk_of(number, with_parts=False).job
    battery = job.prepare.gates.get("battery")
    if battery is not None and battery.state == "blocked":
        raise InputError(
            "the battery still stands as swollen, hot or leaking", "prepare", "Say at Prepare that it is not."
        )
    return write(number, "/stopped", None, who)


def became(number: int, slot: str, fate: Fate, note: str, who: AbstractBaseUser | None) -> Job:
    """Say what became of what was taken out of a slot. What was not taken out can go nowhere; a drive goes on the shelf
    only once it is erased and how is written."""
    desk = desk_of(number)
    tick = desk.job.bench.ticks.get(f"out:{slot}")
    if f"out:{slot}" not in desk.job.bench.done:
        raise InputError("nothing was taken out of it", slot, "Tick the step at the bench first.")
    out = desk.must_plan.fitted.get(slot)
    drive = isinstance(out, M2Drive | BayDrive)
    if fate != "returned" and drive and not note.strip():
        raise InputError("how the drive was erased is not said", slot, "Write the method, and who did it.")
    if fate == "erased" and not note.strip():
        raise InputError("how it was erased is not said", slot, "Write the method, and who did it.")
    number_ = tick.number if tick else out.number if out else ""
    gone = Gone(
        fate=fate, number=number_, part=tick.part if tick else out.name if out else "", note=note.strip(), **_by(who)
    )
    if fate == "shelf":
        if not number_:
            raise InputError("its number is not known", slot, "Enter at Survey what it was.")
        origin = f"{desk.configured.title}, job {number}, {desk.configured.slot(slot).name}"
        row = shelf.put(number_, origin, "untested", "", who, number)
        if drive or part_of(number_) is None:
            shelf.change(row.id, "untested", "erased" if drive else "no data", note, "on the shelf", "")
    return write(number, f"/hand_over/gone/{slot}", gone.model_dump(mode="json"), who)


def measured(number: int, body: Measurement, who: AbstractBaseUser | None) -> Job:
    """Add a measurement. On a closed job it is a later one."""
    job = desk_of(number, with_parts=False).job
    if body.value is None and not body.words.strip():
        raise InputError("neither a figure nor words", "measurement", "Enter what was measured.")
    when = "later" if job.hand_over.closed_at else body.when
    taken = body.model_copy(update={"when": when, **_by(who)})
    return add_to(number, "/prove/measured", taken.model_dump(mode="json"), who)


def typed_screen(number: int, screen: TypedScreen, who: AbstractBaseUser | None) -> Job:
    """Take the firmware's screen as typed for a reading at Prove."""
    desk = desk_of(number)
    _ = desk.must_plan
    for slot in screen.sockets:
        desk.configured.slot(slot)
    reading = typed_reading(screen)
    return add_to(number, "/prove/readings", reading.model_dump(mode="json"), who)
