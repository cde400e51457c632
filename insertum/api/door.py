"""What every call of the API passes: a bounded body, JSON in words whatever goes wrong, and nothing kept by a browser."""

import errno
from collections.abc import Callable
from datetime import timedelta

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone

from ..core.errors import Code
from ..shop.services.history import acting
from .shapes import CODES, Problem

#: The largest thing sent is a bundle of readings or a list of prices.
MOST_BYTES = 32 * 1024 * 1024
_WORDS = {
    400: "the request is not understood",
    403: "this is not allowed from here",
    404: "nothing is at this address",
    405: "this cannot be done to this address",
    500: "something went wrong here, and was logged",
}


def locked_out(request: HttpRequest, *args: object, **kw: object) -> HttpResponse:
    """Too many wrong passwords: when to come again."""
    minutes = round(settings.AXES_COOLOFF_TIME * 60)
    what = f"{settings.AXES_FAILURE_LIMIT} wrong tries: this name waits {minutes} minutes"
    again = (timezone.localtime() + timedelta(minutes=minutes)).strftime("%H:%M")
    return problem(429, what, "sign-in", f"Come again at {again} (UTC), or ask an owner for a new password.")


def no_room(error: Exception) -> tuple[int, str, str]:
    """What a database that cannot be written to says: a status that is tried again, and words."""
    said = str(error).lower()
    if "full" in said or "no space" in said or "file too large" in said or "disk i/o error" in said:
        return 507, "the disk is full: nothing was kept", "Make room on the server's disk; what you typed waits here."
    if "readonly" in said or "read-only" in said or "unable to open" in said or "permission denied" in said:
        return (
            507,
            "the workshop's folder may not be written to",
            "Look at its owner and rights; what you typed waits here.",
        )
    return 503, "the database is busy", "It is tried again by itself."


def is_no_room(error: OSError) -> bool:
    """Does it say that nothing can be written, rather than that something is wrong here?"""
    return error.errno in (errno.ENOSPC, errno.EDQUOT, errno.EROFS, errno.EACCES, errno.EFBIG)


def problem(status: int, what: str, where: str, mend: str) -> JsonResponse:
    """A problem as the API says it, for answers made before the API is reached. ``status`` is the HTTP status."""
    return JsonResponse(
        Problem(what=what, where=where, mend=mend, code=CODES.get(status, Code.INVALID)).model_dump(mode="json"),
        status=status,
    )


def in_words(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: requests that are too large, or not what they say they are, are refused in words."""

    def answer(request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/"):
            return get_response(request)
        length = request.META.get("CONTENT_LENGTH") or "0"
        if not length.isdigit() or int(length) > MOST_BYTES:
            return problem(413, f"more than {MOST_BYTES // 2**20} MB were sent", request.path, "Send it in parts.")
        with acting(None):  # until the session says who it is
            found = get_response(request)
        kind = found.headers.get("Content-Type", "")
        if found.status_code >= 400 and "json" not in kind:
            what = _WORDS.get(found.status_code, f"the server answered {found.status_code}")
            kept = {k: v for k, v in found.headers.items() if k == "Allow"}
            found = problem(found.status_code, what, request.path, "Reload the page, and look whether it was done.")
            for name, value in kept.items():
                found.headers[name] = value
        found.headers.setdefault("Cache-Control", "no-store")
        return found

    return answer
