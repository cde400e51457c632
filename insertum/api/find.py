"""Find by label: a part, a machine, a job, or what a code decodes to."""

from django.http import HttpRequest
from ninja import Query, Router

from ..core.find import Findings
from ..shop.services import find

router = Router()


@router.get("/find", response=Findings)
def find_by_label(request: HttpRequest, text: Query[str]):
    """What a number, a label or words lead to: machines, parts, jobs, tasks."""
    return find.find(text)
