"""Find by label: a part, a machine, a job, or what a code decodes to."""

from ...core.find import Findings, JobNamed
from ...core.find import find as resolve
from . import jobs, machines, parts


def find(text: str) -> Findings:
    """Everything of this house a text could mean."""
    named = [JobNamed(number=n, title=t, customer=c) for n, t, c in jobs.names(text)]
    return resolve(text, parts.findable(), named, machines.library())
