"""Who may call what: one table, read top down, for every call that changes something or shows the people."""

import re
import time
from typing import Any

from django.contrib.auth import login
from django.contrib.auth.base_user import AbstractBaseUser
from django.http import HttpRequest
from ninja.security import SessionAuth

from ..shop.services.history import at_work
from ..shop.services.people import EPOCH, Role, may, person_of, role_of
from ..shop.services.workshop import workshop


class NotAllowed(Exception):
    """Somebody is signed in, and may not do this."""

    def __init__(self, needed: Role) -> None:
        self.needed = needed


class HandedOver(Exception):
    """Somebody is signed in by a password that somebody else knows: it is changed before anything else."""


#: When something was last done in a session, and how often that is written down.
SEEN, PROLONGED_S = "seen", 600
_SAFE = ("GET", "HEAD", "OPTIONS")
#: Methods, address, least role. What no line names may be done by everybody who is signed in.
TABLE: tuple[tuple[tuple[str, ...], re.Pattern[str], Role], ...] = tuple(
    (tuple(methods.split()), re.compile(f"/api/{path}", re.DOTALL), role)
    for methods, path, role in (
        ("GET POST PUT DELETE", r"people(/.*)?", "owner"),
        ("PUT POST DELETE", r"workshop(/.*)?", "owner"),
        ("GET", r"workshop/keys", "owner"),
        ("DELETE POST", r"jobs/\d+/(removed|erased)", "owner"),
        ("GET", r"jobs/removed", "owner"),
        ("DELETE", r"(triage|parts|machines|processors)/.*", "owner"),
        ("POST", r"machines/(check|draft|draft-from-bundle|slot/.*)", "bench"),
        ("POST", r"machines/[^/]+/[^/]+/fits/job", "bench"),
        ("POST PUT", r"machines/.*", "library"),
        ("POST", r"claims/.*", "library"),
        ("POST", r"words/[^/]+/taken", "library"),
        ("POST PUT", r"processors/.*", "library"),
        ("POST", r"parts/preview", "bench"),
        ("POST PUT", r"parts/.*", "library"),
        ("POST PUT", r"triage/.*", "library"),
        ("POST", r"history/settings/.*", "owner"),
        ("POST", r"history/library/.*", "library"),
    )
)


def needed(method: str, path: str) -> Role:
    """The least role a call wants. ``method`` in capitals, ``path`` as it was asked."""
    return next((role for methods, address, role in TABLE if method in methods and address.fullmatch(path)), "bench")


def still_in(request: HttpRequest) -> bool:
    """Was the session begun in the person's epoch of today?"""
    epoch: int = request.session.get(EPOCH, 0)
    return epoch == person_of(request.user).epoch


def begin_session(request: HttpRequest, user: AbstractBaseUser) -> None:
    """Sign somebody in, in their epoch of today, for as long as the workshop lets a session rest."""
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    request.session[EPOCH] = person_of(user).epoch
    request.session.set_expiry(workshop().session_hours * 3600)


class SignedIn(SessionAuth):
    """A session that has not been ended, of somebody who may do this."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        """Who is signed in, where the call is theirs to make. Raises :class:`NotAllowed` and :class:`HandedOver`."""
        user = request.user
        if not user.is_authenticated:
            return None
        if not still_in(request):
            return None
        own = person_of(user)
        if own.handed_over and request.path != "/api/me/password":
            raise HandedOver
        asked = needed(request.method or "GET", request.path)
        if not may(role_of(user), asked):
            raise NotAllowed(asked)
        at_work(user)
        if request.method not in _SAFE and time.time() - request.session.get(SEEN, 0) > PROLONGED_S:
            request.session[SEEN] = int(time.time())
        return user
