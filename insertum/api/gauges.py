"""Gauges and rules: what works without a job, and what every finding links to."""

from django.http import HttpRequest, HttpResponse
from ninja import Body, Router

from ..core import gauges
from ..core.fit.rulebook import RULES
from ..core.frozen import Frozen
from ..gather import SCRIPT
from .download import download
from .shapes import Problem

router = Router()


@router.get("/gauges", response=list[gauges.Gauge])
def list_gauges(request: HttpRequest):
    return gauges.gauges()


@router.post("/gauges/{id}", response={200: gauges.Shown, 400: Problem})
def show_gauge(request: HttpRequest, id: str, values: Body[dict[str, str]]):
    return gauges.show(id, values)


class RuleView(Frozen):
    id: str
    sentence: str
    source: str
    slots: tuple[str, ...]
    parts: tuple[str, ...]


@router.get("/rules", response=list[RuleView])
def list_rules(request: HttpRequest):
    return [
        RuleView(
            id=r.id,
            sentence=r.sentence,
            source=r.source,
            slots=tuple(t.__name__ for t in r.slots),
            parts=tuple(t.__name__ for t in r.parts),
        )
        for r in sorted(RULES.values(), key=lambda r: r.id)
    ]


@router.get("/gather.sh", include_in_schema=False)
def gather(request: HttpRequest) -> HttpResponse:
    """The script that gathers a reading bundle on the customer's machine."""
    return download(SCRIPT.read_text(), "gather.sh", "text/x-shellscript")
