"""HTTP: one thin router per station. Parse, call a service, return; nothing is computed here."""

import logging
from collections.abc import Callable, Mapping, Sequence
from functools import wraps
from typing import Any

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from ..core.errors import Code, InputError
from ..formats.json_errors import RowsRefused
from ..formats.pydantic_words import in_words
from ..shop.services.jobs import NoSuchJob
from . import (
    ask,
    find,
    fit,
    gauges,
    identify,
    intake,
    jobs,
    machines,
    maker_words,
    parts,
    people,
    photographs,
    plan,
    processors,
    session,
    sightings,
    stations,
    survey,
)
from .door import is_no_room, no_room
from .roles import HandedOver, NotAllowed, SignedIn
from .shapes import CODES

#: What any call may be answered beside its own: always a problem in words.
_ALWAYS = {
    400: "what was sent cannot be", 401: "nobody is signed in", 403: "not theirs to do, or not from this page",
    404: "no such thing", 405: "not done to this address", 413: "too much was sent", 422: "not of the shape asked for",
    503: "the database is busy", 507: "nothing can be written",
}  # fmt: skip


#: Characters of a problem's sentence.
_LONGEST = 1000


class InWords(NinjaAPI):
    """The API, with every answer it may give in its document."""

    def get_openapi_schema(self, **kw: Any) -> Any:
        """The document, with the answers every call may give: signed out, not allowed, too much, no room."""
        document = super().get_openapi_schema(**kw)
        for methods in document["paths"].values():
            for call in methods.values():
                for status, words in _ALWAYS.items():
                    told = {"schema": {"$ref": "#/components/schemas/Problem"}}
                    call["responses"].setdefault(status, {"description": words, "content": {"application/json": told}})
        return document


def listed(view: Callable[..., Any]) -> Callable[..., Any]:
    """A tuple is a list of things, also where it holds two: the framework would take those for a status and a body."""

    @wraps(view)
    def answer(request: HttpRequest, *args: Any, **asked: Any) -> Any:
        found = view(request, *args, **asked)
        return list(found) if isinstance(found, tuple) else found

    return answer


api = InWords(title="Insertum", version="1", auth=SignedIn(), docs_url=None)
api.add_decorator(listed)
for name, part in {
    "session": session,
    "jobs": jobs,
    "ask": ask,
    "intake": intake,
    "identify": identify,
    "survey": survey,
    "fit": fit,
    "plan": plan,
    "stations": stations,
    "photographs": photographs,
    "people": people,
    "machines": machines,
    "words": maker_words,
    "processors": processors,
    "parts": parts,
    "sightings": sightings,
    "gauges": gauges,
    "find": find,
}.items():
    api.add_router("", part.router, tags=[name])


def _cut(text: str) -> str:
    """What was wrong is told, not given back whole."""
    return text if len(text) <= _LONGEST else f"{text[:_LONGEST]}…"


def _problem(
    request: HttpRequest, status: int, what: str, where: str = "", mend: str = "", rows: Any = (),
    code: Code | None = None, fields: Mapping[str, Sequence[str]] | None = None,
) -> HttpResponse:  # fmt: skip
    body = {
        "what": _cut(what),
        "where": _cut(where),
        "mend": _cut(mend),
        "code": code or CODES.get(status, Code.INVALID),
        "fields": {name: [_cut(w) for w in words] for name, words in (fields or {}).items()},
        "rows": [{"row": r, "column": _cut(c), "what": _cut(w)} for r, c, w in rows],
    }
    return api.create_response(request, body, status=status)


@api.exception_handler(InputError)
def bad_input(request: HttpRequest, error: InputError) -> HttpResponse:
    """What the house refuses, said as what, where and how to mend it; a list's problems row by row."""
    rows = error.problems if isinstance(error, RowsRefused) else ()
    return _problem(request, 400, error.what, error.where, error.mend, rows, error.code, error.fields)


@api.exception_handler(NotAllowed)
def not_allowed(request: HttpRequest, error: NotAllowed) -> HttpResponse:
    """The call wants another role: which one is said."""
    return _problem(request, 403, "this is not yours to do here", request.path, f"Ask somebody who is {error.needed}.")


@api.exception_handler(HandedOver)
def handed_over(request: HttpRequest, error: HandedOver) -> HttpResponse:
    """Nothing but choosing a password of one's own is answered before that is done."""
    what = "your password is still the one that was handed over"
    return _problem(request, 403, what, request.path, "Reload the page, and choose one of your own.")


@api.exception_handler(OperationalError)
def no_room_to_write(request: HttpRequest, error: OperationalError) -> HttpResponse:
    """The database could not be written: full, locked or read-only. Nothing was kept."""
    logging.getLogger("django.request").error("%s %s: %s", request.method, request.path, error)
    status, what, mend = no_room(error)
    return _problem(request, status, what, request.path, mend)


@api.exception_handler(OSError)
def nothing_to_write_to(request: HttpRequest, error: OSError) -> HttpResponse:
    """The disk is full or read-only; any other fault of a file is a defect and is raised."""
    if not is_no_room(error):
        raise error
    logging.getLogger("django.request").error("%s %s: %s", request.method, request.path, error)
    status, what, mend = no_room(error)
    return _problem(request, status, what, request.path, mend)


@api.exception_handler(NoSuchJob)
def no_such_job(request: HttpRequest, error: NoSuchJob) -> HttpResponse:
    """The job is not there, or was removed."""
    return _problem(request, 404, f"no job {error}", "jobs", "Go back to the list of jobs.")


@api.exception_handler(ValidationError)
def bad_request(request: HttpRequest, error: ValidationError) -> HttpResponse:
    """The body or the address does not have the shape the document gives; the first place is named."""
    first = error.errors[0] if error.errors else {}
    place = [str(p) for p in first.get("loc", ())[1:]]
    what, mend = in_words(first)
    return _problem(request, 422, what, " / ".join(place[1:] if place[:1] == ["body"] else place) or "request", mend)


@api.exception_handler(HttpError)
def not_understood(request: HttpRequest, error: HttpError) -> HttpResponse:
    """What the framework itself refuses, as a problem like every other."""
    return _problem(request, error.status_code, str(error).lower(), "request", "Reload the page and try again.")
