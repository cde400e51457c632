"""Fit: the matrix in a compact form, and everything said of one pair when it is looked at."""

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from ..core.comparison.side_by_side import Comparison
from ..core.machine.claim import Limits
from ..shop.services import show_fit
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/fit", response={200: show_fit.FitStation, 400: Problem, 404: Problem})
def fit(request: HttpRequest, number: int, whole: bool = False):
    """What is seen first: the best of the first kinds, with how many more parts there are; all of them, and what settling
    each unknown is worth among them, where ``whole`` is asked. Sent as it is made: thousands of rows are not checked a
    second time on the way out."""
    return HttpResponse(show_fit.fit(number, whole), content_type="application/json")


@router.get("/jobs/{int:number}/fit/schools", response={200: dict[Limits, int], 400: Problem, 404: Problem})
def schools(request: HttpRequest, number: int):
    """How many pairs go in under each school of limits."""
    return show_fit.schools(number)


@router.get("/jobs/{int:number}/fit/why", response={200: show_fit.WhyView, 400: Problem, 404: Problem})
def why(request: HttpRequest, number: int, slot: Query[str], part: Query[str]):
    """Every finding of one pair with its sources, the premises that carry it alone, what was said besides, and what a
    cheaper part would do."""
    return show_fit.why(number, slot, part)


@router.get("/jobs/{int:number}/fit/compare", response={200: Comparison, 400: Problem, 404: Problem})
def compare(request: HttpRequest, number: int, slot: Query[str], parts: Query[str]):
    """Up to four parts side by side; ``parts`` are numbers with commas between."""
    return show_fit.compared(number, slot, [p for p in parts.split(",") if p])
