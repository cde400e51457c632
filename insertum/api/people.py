"""People, the first run, one's own password, and the history of the house."""

from typing import Annotated, Literal

from django.http import HttpRequest
from ninja import Query, Router, Status
from ninja.utils import check_csrf
from pydantic import Field

from ..core.errors import Code
from ..core.frozen import Frozen
from ..shop.services import first_run, people, sightings, stand_ins, take_back
from ..shop.services import history as log
from ..shop.services.workshop import Workshop
from .roles import begin_session
from .session import who_is_in
from .shapes import Problem, Who

router = Router()
Name = Annotated[str, Field(min_length=1, max_length=150)]
Password = Annotated[str, Field(max_length=200)]


class First(Frozen):
    workshop: Workshop
    name: Name
    password: Password


@router.post("/first-run", response={200: Who, 400: Problem, 403: Problem}, auth=None)
def begin(request: HttpRequest, body: First):
    """Begin a workshop of one's own: possible once, while it has no people."""
    if check_csrf(request):
        return Status(403, Problem(what="the page is stale", mend="Reload it.", code=Code.NOT_ALLOWED))
    user = first_run.begin(body.workshop, body.name, body.password)
    begin_session(request, user)
    return who_is_in(request)


@router.get("/people", response=tuple[people.PersonView, ...])
def everybody(request: HttpRequest):
    """Who works here, with role and whether they may sign in."""
    return people.everybody()


class NewPerson(Frozen):
    name: Name
    role: people.Role


@router.post("/people", response={200: people.PasswordShown, 400: Problem})
def add(request: HttpRequest, body: NewPerson):
    """A new person with a password that is shown once."""
    return people.add(body.name, body.role, request.user)


class ChangedPerson(Frozen):
    role: people.Role
    active: bool


@router.put("/people/{name}", response={200: tuple[people.PersonView, ...], 400: Problem})
def change(request: HttpRequest, name: str, body: ChangedPerson):
    """Change somebody's role, or whether they may sign in. The last owner stays one."""
    return people.change(name, body.role, body.active, request.user)


@router.post("/people/{name}/password", response={200: people.PasswordShown, 400: Problem})
def new_password(request: HttpRequest, name: str):
    """Give somebody a new password, shown once; they choose their own at the next sign-in."""
    return people.new_password(name, request.user)


@router.delete("/people/{name}/sessions", response={204: None, 400: Problem})
def end_sessions(request: HttpRequest, name: str):
    """Sign somebody out everywhere."""
    people.end_sessions(name, request.user)
    return Status(204, None)


@router.post("/workshop/examples", response={200: stand_ins.BroughtIn, 400: Problem})
def bring_examples(request: HttpRequest):
    """The demo's machines and parts into this library, as examples."""
    return stand_ins.examples().bring_in(request.user)


class NewPassword(Frozen):
    old: Password
    new: Password


@router.post("/me/password", response={204: None, 400: Problem})
def change_own(request: HttpRequest, body: NewPassword):
    """Choose a password of one's own; every other session of this person ends."""
    people.change_own_password(request, body.old, body.new)
    return Status(204, None)


@router.get("/history", response=log.HistoryPage)
def history(
    request: HttpRequest,
    text: Annotated[str, Query(max_length=200)] = "",
    page: Annotated[int, Query(ge=1, le=200)] = 1,
):
    """What was changed here, by whom and when, newest first."""
    return log.history(text, page)


@router.post("/history/jobs/{int:change}/undo", response={204: None, 400: Problem, 404: Problem})
def take_back_in_job(request: HttpRequest, change: int):
    """Put back what stood in a job before one change; what else was changed since stays."""
    take_back.take_back("job", change, request.user)
    return Status(204, None)


@router.post("/history/library/{kind}/{int:change}/undo", response={204: None, 400: Problem, 404: Problem})
def take_back_in_library(request: HttpRequest, kind: Literal["machine", "processor", "part"], change: int):
    """Put back what stood in the library before one change; what else was changed since stays."""
    take_back.take_back(kind, change, request.user)
    return Status(204, None)


@router.post("/history/settings/{int:change}/undo", response={204: None, 400: Problem, 404: Problem})
def take_back_settings(request: HttpRequest, change: int):
    """Put back what the settings said before one change; what else was changed since stays."""
    take_back.take_back("settings", change, request.user)
    return Status(204, None)


@router.post("/history/sightings/{int:change}/undo", response={204: None, 400: Problem})
def bring_sighting_back(request: HttpRequest, change: int):
    """Record again an outcome that was taken back within the last thirty days."""
    sightings.bring_back(change, request.user)
    return Status(204, None)
