"""Find by label: a part, a machine, a job, or what a code decodes to."""

from django.http import HttpRequest
from ninja import Query, Router

from ..core.find import Findings, JobNamed
from ..core.find import find as resolve
from ..shop.services import jobs, machines, parts

router = Router()


@router.get("/find", response=Findings)
def find(request: HttpRequest, text: Query[str]):
    named = [JobNamed(number=n, title=t, customer=c) for n, t, c in jobs.names(text)]
    return resolve(text, parts.findable(), named, machines.library())
