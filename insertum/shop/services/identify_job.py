"""Which machine a job's machine is, and what is known already of one the library lacks."""

from ...core.identify.identify import identify
from ...core.identify.library import Identification
from ...core.survey.new_machine import Offered
from . import jobs, machines, start_machine
from .stand_ins import stand_ins


class StartView(Offered):
    """``simulated`` is whether a simulated laptop of this job stands in for the customer's."""

    simulated: bool


def candidates(number: int) -> Identification:
    """What the job's texts and answers leave of the library, and the next question."""
    job = jobs.job_of(number)
    return identify(start_machine.texts_of(job), machines.library(), machines.worked_on(), job.identify.answers)


def offered(number: int) -> StartView:
    """What is known already of a machine the library lacks."""
    stands = stand_ins()
    beside = stands is not None and stands.build_beside(number) is not None
    return StartView(**dict(start_machine.offer(number)), simulated=beside)
