"""What is sent, before anybody reads it: characters that are whole, figures that are some, and no deeper than any form is."""

import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from ..core.errors import InputError, whole_text
from ..formats.json_errors import MOST_DEPTH, parsed, text_of
from .door import is_no_room, no_room, problem

#: Half a character, no character, or what is read as a figure and is none a database keeps: looked at more closely.
_ODD = re.compile(rb"\\u[dD][89a-fA-F]|\\u0000|\x00|NaN|Infinity|[eE]\+?\d{3}|\d{300}")


def sound(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Refuse half a character, none (NUL), an endless figure and JSON of endless depth: no store keeps them, and no page
    shows them."""

    def answer(request: HttpRequest) -> HttpResponse:
        try:
            _looked_at(request)
        except OSError as error:
            if not is_no_room(error):
                raise
            status, what, mend = no_room(error)
            return problem(status, what, request.path, mend)
        except InputError as error:
            return problem(400, error.what, error.where, error.mend or "Type it again.")
        return get_response(request)

    return answer


def _looked_at(request: HttpRequest) -> None:
    for asked in (request.path, *request.GET.values()):
        whole_text(asked, "the address")
    if request.content_type == "application/json":
        body = request.body
        if _ODD.search(body) or body.count(b"[") + body.count(b"{") > MOST_DEPTH:
            parsed(text_of(body, "what was sent"), "what was sent")
    elif request.content_type == "multipart/form-data" and request.path.startswith("/api/"):
        for typed in request.POST.values():
            whole_text(str(typed), "what was typed beside the file")
