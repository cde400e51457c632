"""What is sent as JSON, before anybody reads it."""

import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

from ..core.base import InputError
from ..formats.checked import parsed, text_of

#: Half a character, or what is read as a figure and is none a database keeps: looked at more closely.
_ODD = re.compile(rb"\\u[dD][89a-fA-F]|NaN|Infinity|[eE]\+?\d{3}|\d{300}")


def sound(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Refuse JSON with half a character or an endless figure in it: no store keeps it, and no page shows it."""

    def answer(request: HttpRequest) -> HttpResponse:
        if request.content_type == "application/json" and _ODD.search(request.body):
            try:
                parsed(text_of(request.body, "what was sent"), "what was sent")
            except InputError as error:
                problem = {"what": error.what, "where": error.where, "mend": "Type it again.", "rows": []}
                return JsonResponse(problem, status=400)
        return get_response(request)

    return answer
