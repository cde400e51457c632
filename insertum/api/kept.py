"""A station's view, sent as it was made for as long as nothing it follows from has changed."""

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.http import HttpRequest, HttpResponse
from pydantic import BaseModel

from ..shop.services.answer_cache import answered


def kept(view: Callable[..., BaseModel]) -> Callable[..., HttpResponse]:
    """For views of a job that say the same to everybody and follow from what :mod:`revision` marks, nothing else."""

    @wraps(view)
    def sent(request: HttpRequest, number: int, **asked: Any) -> HttpResponse:
        what = (view.__module__, view.__name__, *sorted(asked.items()))
        made = answered(what, number, lambda: view(request, number, **asked).model_dump_json())
        return HttpResponse(made, content_type="application/json; charset=utf-8")

    return sent
