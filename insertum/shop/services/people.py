"""The people of a workshop: what each may do, and how they get in."""

import secrets
from typing import Literal

from axes.utils import reset
from django.contrib.auth import password_validation, update_session_auth_hash
from django.contrib.auth.base_user import AbstractBaseUser
from django.contrib.auth.models import User
from django.contrib.auth.validators import UnicodeUsernameValidator
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.http import HttpRequest

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from .. import models
from .history import entered

Role = Literal["bench", "library", "owner"]
#: Each may do what those before it may.
ROLES: tuple[Role, ...] = ("bench", "library", "owner")
#: Where a session keeps the epoch it was begun in.
EPOCH = "epoch"


class PersonView(Frozen):
    name: str
    role: Role
    active: bool
    handed_over: bool
    last_seen: str


class PasswordShown(Frozen):
    """A password that is shown once, to be handed over and changed at the first sign-in."""

    name: str
    password: str


def person_of(user: AbstractBaseUser) -> models.Person:
    """What is kept of somebody beside their login. A login without it works on jobs and no more; looking keeps nothing."""
    try:
        found: models.Person = user.person  # type: ignore[attr-defined]  # looked up once a request
        return found
    except models.Person.DoesNotExist:
        return models.Person(user=user)


def role_of(user: AbstractBaseUser) -> Role:
    """The role of somebody who is signed in."""
    role: Role = person_of(user).role  # type: ignore[assignment]
    return role


def may(role: Role, needed: Role) -> bool:
    """Is ``role`` enough for what wants ``needed``?"""
    return ROLES.index(role) >= ROLES.index(needed)


def everybody() -> tuple[PersonView, ...]:
    """Everybody who has a name here: those who may sign in first."""
    return tuple(_view(u) for u in User.objects.order_by("-is_active", "username").select_related("person"))


def _view(user: User) -> PersonView:
    own = person_of(user)
    last = user.last_login.isoformat(timespec="minutes") if user.last_login else ""
    return PersonView(
        name=user.get_username(), role=own.role, active=user.is_active, handed_over=own.handed_over, last_seen=last
    )  # fmt: skip


@transaction.atomic
def add(name: str, role: Role, who: AbstractBaseUser | None) -> PasswordShown:
    """A new person with a password to hand over. Raises :class:`InputError` for a name that is taken or is none."""
    name = name.strip()
    try:
        UnicodeUsernameValidator()(name)
        if User.objects.filter(username__iexact=name).exists():
            raise IntegrityError
        with transaction.atomic():
            user = User.objects.create_user(name)
    except ValidationError as error:
        raise InputError("a name is letters, digits and @ . + - _", "name", "Write it without spaces.") from error
    except IntegrityError as error:
        raise InputError(
            f"{name} is somebody's name already, if in other capitals", "name", "Take another.", code=Code.TAKEN
        ) from error
    models.Person.objects.create(user=user, role=role)
    entered("people", name, f"{name} added as {role}", None, {"role": role}, who)
    return _handed(user)


def _handed(user: User) -> PasswordShown:
    password = secrets.token_urlsafe(9)
    user.set_password(password)
    user.save()
    reset(username=user.get_username())  # wrong tries before it were tries at another password
    own = person_of(user)
    own.handed_over, own.epoch = True, own.epoch + 1
    own.save()
    return PasswordShown(name=user.get_username(), password=password)


def _user(name: str) -> User:
    user = User.objects.filter(username=name).first()
    if user is None:
        raise InputError(f"nobody is called {name!r}", "people", "Reload the page.")
    return user


@transaction.atomic
def change(name: str, role: Role, active: bool, who: AbstractBaseUser | None) -> tuple[PersonView, ...]:
    """Change what somebody may do, or whether they get in. The last owner stays one."""
    user = _user(name)
    own = person_of(user)
    owners = models.Person.objects.filter(role="owner", user__is_active=True).exclude(user=user)
    if own.role == "owner" and (role != "owner" or not active) and not owners.exists():
        raise InputError(f"{name} is the only owner", "people", "Make somebody else an owner first.")
    before = {"role": own.role, "active": user.is_active}
    after = {"role": role, "active": active}
    if before == after:
        return everybody()
    own.role, user.is_active = role, active
    if not active:
        own.epoch += 1
    own.save()
    user.save(update_fields=["is_active"])
    entered("people", name, f"{name}: {role}{'' if active else ', no longer gets in'}", before, after, who)
    return everybody()


@transaction.atomic
def new_password(name: str, who: AbstractBaseUser | None) -> PasswordShown:
    """A new password to hand over; the person's sessions end."""
    user = _user(name)
    entered("people", name, f"{name} was given a new password", None, None, who)
    return _handed(user)


@transaction.atomic
def end_sessions(name: str, who: AbstractBaseUser | None) -> None:
    """Whoever is signed in under this name is out."""
    own = person_of(_user(name))
    own.epoch += 1
    own.save()
    entered("people", name, f"the sessions of {name} were ended", None, None, who)


@transaction.atomic
def change_own_password(request: HttpRequest, old: str, new: str) -> None:
    """Raises :class:`InputError` where the old one is wrong or the new one is too weak."""
    user = request.user
    assert isinstance(user, User)
    if not user.check_password(old):
        raise InputError("the password of today is wrong", "password", "Type it again.")
    if new == old:
        raise InputError(
            "it is the password of today", "password", "Take another one: whoever handed it over knows it."
        )
    set_password(user, new)
    own = person_of(user)
    own.handed_over, own.epoch = False, own.epoch + 1
    own.save()
    update_session_auth_hash(request, user)
    request.session[EPOCH] = own.epoch
    entered("people", user.get_username(), f"{user.get_username()} changed their password", None, None, user)


def set_password(user: User, password: str) -> None:
    """Raises :class:`InputError` in the words of the rules a password breaks."""
    try:
        password_validation.validate_password(password, user)
    except ValidationError as error:
        raise InputError(" ".join(error.messages), "password", "Take a longer one.") from error
    user.set_password(password)
    user.save()
