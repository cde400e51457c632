"""Start a machine inside a job: it is in the library, as a draft, from the same moment on."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from ...core.errors import Code, InputError
from ...core.identify.identify import identify
from ...core.job.shape import STATIONS, Job, Station
from ...core.survey.new_machine import Offered, Started, offered, started
from . import machines
from .edit_job import write_all
from .jobs import job_of
from .parts import catalogue


def texts_of(job: Job) -> list[str]:
    """Everything that was read of the machine in words."""
    texts = job.identify.texts.splitlines()
    if job.survey.reading:
        texts += job.survey.reading.texts
    return texts + [n for n in job.survey.numbers.values() if n]


def offer(number: int) -> Offered:
    """What the form begins with."""
    job, library = job_of(number), machines.library()
    said = [*job.identify.texts.splitlines(), *(a for a in job.identify.answers.values() if a and a != "none of these")]
    ranked = identify(texts_of(job), library, machines.worked_on(), job.identify.answers)
    near = [n.partition("/")[0] for n in ranked.remaining] + [r.machine for r in ranked.relatives]
    return offered(said, job.survey.reading, library, near)


@transaction.atomic
def start(number: int, said: Started, who: AbstractBaseUser | None) -> Job:
    """Draft the machine, keep it, and let the job go on with it: all of it, or nothing."""
    job = job_of(number)
    shell = machines.machine_file(said.of) if said.of else None
    if said.of and shell is None:
        raise InputError(f"no machine {said.of!r}", "start", "Choose one of the library.", code=Code.MISSING)
    taken = {m.id for m in machines.library().machines}
    data, configuration = started(said, job.survey.reading, catalogue(), taken, shell)
    machine = machines.save_machine(data, who, f"started in job {number}")
    named = {"/identify/machine": machine.id, "/identify/configuration": configuration}
    identified = job.identify.model_dump(mode="json") | {k.rpartition("/")[2]: v for k, v in named.items()}
    further = {} if STATIONS.index(job.station) > STATIONS.index(Station.IDENTIFY) else {"/station": Station.SURVEY}
    return write_all(number, {"/identify": identified, **further}, who)
