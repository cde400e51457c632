"""A line for each request: what was asked, how it ended, how long it took, and the person's id. Never its content."""

import logging
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

_lines = logging.getLogger("insertum.requests")


def requests(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: a line a request with its status, its time in ms and whose it was by number, never by name."""

    def answer(request: HttpRequest) -> HttpResponse:
        began = time.perf_counter()
        found = get_response(request)
        user = getattr(request, "user", None)
        who = user.pk if user is not None and user.is_authenticated else "-"
        # The path alone: what is searched for is somebody's name.
        took = (time.perf_counter() - began) * 1000
        _lines.info("%s %s %s %.0f ms person %s", request.method, request.path, found.status_code, took, who)
        return found

    return answer
