"""Sign in and out."""

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.views.decorators.csrf import ensure_csrf_cookie
from ninja import Router
from ninja.decorators import decorate_view
from ninja.utils import check_csrf

from ..core.base import Frozen, InputError
from .shapes import Problem, Who

router = Router()


class SignIn(Frozen):
    name: str
    password: str


@router.get("/session", response={200: Who, 401: Problem}, auth=None)
@decorate_view(ensure_csrf_cookie)
def session(request: HttpRequest):
    if not request.user.is_authenticated:
        return 401, Problem(what="nobody is signed in", mend="Sign in.")
    return Who(name=request.user.get_username())


@router.post("/session", response={200: Who, 400: Problem, 403: Problem}, auth=None)
def sign_in(request: HttpRequest, body: SignIn):
    if check_csrf(request):
        return 403, Problem(what="the page is stale", mend="Reload it and sign in again.")
    user = authenticate(request, username=body.name, password=body.password)
    if user is None:
        raise InputError("name or password is wrong", "sign-in", "After eight failures wait a quarter of an hour.")
    login(request, user)
    return Who(name=user.get_username())


@router.delete("/session", response={204: None})
def sign_out(request: HttpRequest):
    logout(request)
    return 204, None
