"""Identify: candidates, the next question, and what to do when the library does not have it."""

from django.http import HttpRequest
from ninja import Router

from ..core.identify.identify import Identification, identify
from ..shop.services import jobs, machines
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/identify", response={200: Identification, 404: Problem})
def identify_job(request: HttpRequest, number: int):
    job = jobs.job_of(number)
    texts = job.identify.texts.splitlines()
    if job.survey.reading:
        texts += job.survey.reading.texts
    texts += [n for n in job.survey.numbers.values() if n]
    return identify(texts, machines.library(), machines.worked_on(), job.identify.answers)
