"""A question without a job: nothing is kept of it, until it is made one."""

from ...core.ask.ask import AskAnswer, House
from ...core.errors import Code, InputError
from ...core.job.shape import Station
from ...core.machine.claim import Limits
from . import jobs, machines, parts, what_fits
from .table_cache import one_look


def _house() -> House:
    """The library and the catalogue, with this workshop's sightings laid over each machine."""

    def desk_of(machine: str, configuration: str, limits: Limits) -> what_fits.Desk:
        return what_fits.desk_of(machine, configuration, what_fits.Asking(limits=limits))

    return House(machines.library(), parts.catalogue(), parts.findable(), desk_of)


@one_look()
def ask(text: str, limits: Limits = Limits.PROVEN) -> AskAnswer:
    """What a question means and what is so. Nothing is kept."""
    return _house().ask(text, limits)


def as_job(text: str, customer: str = "") -> int:
    """The question made a job: its machine, and the part put in where it goes. Returns the number. Raises
    :class:`InputError` where the question means no machine, or leaves open which."""
    found = ask(text)
    if not found.configurations:
        raise InputError(
            "the question names no machine of the library", "question", "Say which machine.", code=Code.NOT_YET
        )
    only = found.configurations[0] if len(found.configurations) == 1 else None
    build: dict[str, str] = {}
    if only is not None and len(found.meaning.parts) == 1 and found.seats and found.seats[0].verdict.usable:
        desk = what_fits.desk_of(only.machine, only.configuration)
        place = next(s.id for s in desk.configured.slots if s.name == found.seats[0].places[0])
        build = {place: found.seats[0].part}
    said = {"texts": found.meaning.machine_text}
    if only is not None:
        said |= {"machine": only.machine, "configuration": only.configuration}
    station = Station.FIT if only is not None else Station.IDENTIFY
    told = {
        "customer": customer,
        "title": found.meaning.text,
        "identify": said,
        "fit": {"build": build},
        "station": station,
    }
    return jobs.start_asked(told)
