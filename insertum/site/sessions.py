"""Sessions on a disk that is full: what was done is answered as it was done, and a sign-in that cannot be kept says so."""

import logging

from django.contrib.sessions.middleware import SessionMiddleware
from django.db import OperationalError
from django.http import HttpRequest, HttpResponse, HttpResponseBase

from ..api.door import no_room, problem

#: Where the session itself is what was asked for.
_OF_THE_SESSION = ("/api/session", "/api/first-run", "/api/me/password")


class Sessions(SessionMiddleware):
    def process_response(self, request: HttpRequest, response: HttpResponse) -> HttpResponseBase:
        try:
            return super().process_response(request, response)
        except (OperationalError, OSError) as error:
            logging.getLogger("django.request").error("session of %s %s: %s", request.method, request.path, error)
            if request.path not in _OF_THE_SESSION or response.status_code >= 400:
                return response  # a session that is not prolonged takes nothing back of what was done
            status, what, mend = no_room(error)
            return problem(status, what, request.path, mend)
