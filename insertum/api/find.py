"""Find by label: a part, a machine, a job, or what a code decodes to."""

from django.http import HttpRequest
from ninja import Query, Router

from ..core.find import Findings
from ..shop.services import find

router = Router()


@router.get("/find", response=Findings)
def find_by_label(request: HttpRequest, text: Query[str]):
    return find.find(text)
