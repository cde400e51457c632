"""Photographs of a job's steps."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Status, UploadedFile

from ..core.errors import Code
from ..core.frozen import Frozen
from ..shop.services import photographs
from .shapes import Problem

router = Router()


@router.get("/jobs/{int:number}/photographs", response={200: tuple[photographs.Taken, ...], 404: Problem})
def of_job(request: HttpRequest, number: int):
    """The job's photographs with where and when each was taken."""
    return photographs.of_job(number)


@router.post(
    "/jobs/{int:number}/photographs", response={200: photographs.Taken, 400: Problem, 401: Problem, 404: Problem}
)
def take(
    request: HttpRequest,
    number: int,
    file: File[UploadedFile],
    step: Annotated[str, Form(max_length=120)] = "",
    note: Annotated[str, Form(max_length=600)] = "",
    uid: Annotated[str, Form(pattern="^([0-9a-f]{32})?$")] = "",
    by: Annotated[str, Form(max_length=150)] = "",
):
    """Keep a photograph of a step: made anew without position and device data. ``uid`` is made by whoever sends it, so that
    sending it twice keeps it once; ``by`` names who took it: while somebody else is signed in it is not kept."""
    if by and by != request.user.get_username():
        return Status(
            401,
            Problem(
                what="somebody else is signed in here now",
                mend="Sign in as who took it; it waits.",
                code=Code.NOT_ALLOWED,
            ),
        )
    return photographs.take(number, step, note, file.read(), file.name or "photograph", request.user, uid)


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
    """One photograph as JPEG, without what the camera wrote into it."""
    answer = HttpResponse(photographs.picture(number, uid, request.user), content_type="image/jpeg")
    # Whoever sits at this browser next may not be one who may see it.
    answer["Cache-Control"] = "no-store"
    return answer
