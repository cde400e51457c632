"""Sign in and out."""

from django.conf import settings
from django.contrib.auth import authenticate, logout
from django.http import HttpRequest
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Router, Status
from ninja.decorators import decorate_view
from ninja.utils import check_csrf

from ..core.errors import Code, InputError
from ..core.frozen import Frozen
from ..shop.services import bench_books, first_run, people, workshop
from ..shop.services.backup_age import backup_due
from .roles import begin_session, still_in
from .shapes import Problem, Who

router = Router()


class SignIn(Frozen):
    name: str
    password: str


class Nobody(Problem):
    """Nobody is signed in; ``first`` tells that this workshop has no people yet."""

    first: bool = False


@router.get("/session", response={200: Who, 401: Nobody}, auth=None)
@decorate_view(ensure_csrf_cookie)
def session(request: HttpRequest):
    """Who is signed in at this browser, with what the pages must know of the workshop."""
    if not request.user.is_authenticated or not still_in(request):
        return Status(401, Nobody(what="nobody is signed in", mend="Sign in.", first=first_run.needed()))
    return who_is_in(request)


def who_is_in(request: HttpRequest) -> Who:
    """The signed-in person with role and the workshop's ways of writing figures and days."""
    own, house = people.person_of(request.user), workshop.workshop()
    return Who(
        name=request.user.get_username(), role=own.role, handed_over=own.handed_over,
        letter_keys=house.letter_keys, decimal=house.decimal, dates=house.dates, workshop=house.name, currency=house.currency,
        vocabulary=bench_books.vocabulary(),
        backup_due=backup_due(house.backup_days) if own.role == "owner" and not settings.DEMO else "",
    )  # fmt: skip


@router.post("/session", response={200: Who, 400: Problem, 403: Problem, 429: Problem}, auth=None)
def sign_in(request: HttpRequest, body: SignIn):
    """Sign in. Too many wrong passwords close the door for a while, and that is said."""
    if check_csrf(request):
        return Status(
            403, Problem(what="the page is stale", mend="Reload it and sign in again.", code=Code.NOT_ALLOWED)
        )
    user = authenticate(request, username=body.name, password=body.password)
    if user is None:
        raise InputError("name or password is wrong", "sign-in", "After eight failures wait a quarter of an hour.")
    begin_session(request, user)
    return who_is_in(request)


@router.delete("/session", response={204: None})
def sign_out(request: HttpRequest):
    """Sign out at this browser."""
    logout(request)
    return Status(204, None)
