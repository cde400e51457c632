"""Gauges and rules: what works without a job, and what every finding links to."""

from django.http import HttpRequest, HttpResponse
from ninja import Body, Router

from ..core.glossary import GlossaryWord
from ..gather import SCRIPT
from ..shop.services import bench_books
from .download import download
from .shapes import Problem

router = Router()


@router.get("/gauges", response=list[bench_books.Gauge])
def list_gauges(request: HttpRequest):
    """The bench's gauges: what each reads, its fields and their units."""
    return bench_books.every_gauge()


@router.post("/gauges/{id}", response={200: bench_books.Shown, 400: Problem})
def show_gauge(request: HttpRequest, id: str, values: Body[dict[str, str]]):
    """One gauge with its fields filled in as they were typed; what cannot be read is named by its field."""
    return bench_books.show(id, values)


@router.get("/rules", response=list[bench_books.RuleView])
def list_rules(request: HttpRequest):
    """Every rule that judges a part: id, what it asks, its standard and clause."""
    return bench_books.every_rule()


@router.get("/glossary", response=tuple[GlossaryWord, ...])
def words(request: HttpRequest):
    """Every word of the house in one line."""
    return bench_books.glossary()


@router.get("/gather.sh", include_in_schema=False)
def gather(request: HttpRequest) -> HttpResponse:
    """The script that gathers a reading bundle on the customer's machine."""
    return download(SCRIPT.read_text(), "gather.sh", "text/x-shellscript")
