"""Photographs of a job's steps."""

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, UploadedFile

from ..core.base import Frozen
from ..shop.services import photographs
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/photographs", response={200: tuple[photographs.Taken, ...], 404: Problem})
def of_job(request: HttpRequest, number: int):
    return photographs.of_job(number)


@router.post("/jobs/{int:number}/photographs", response={200: photographs.Taken, 400: Problem, 404: Problem})
def take(request: HttpRequest, number: int, file: File[UploadedFile], step: str = Form(""), note: str = Form("")):
    """Keep a photograph of a step: made anew without position and device data."""
    return photographs.take(number, step, note, file.read(), file.name or "photograph", request.user)


class Removed(Frozen):
    removed: bool


@router.put(
    "/jobs/{int:number}/photographs/{uid}", response={200: tuple[photographs.Taken, ...], 400: Problem, 404: Problem}
)
def remove(request: HttpRequest, number: int, uid: str, body: Removed):
    """Take a photograph out of the job, or bring it back."""
    photographs.remove(number, uid, body.removed)
    return photographs.of_job(number)


@router.get("/jobs/{int:number}/pictures/{uid}.jpg", include_in_schema=False)
def picture(request: HttpRequest, number: int, uid: str):
    answer = HttpResponse(photographs.picture(number, uid), content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=86400, immutable"
    return answer
