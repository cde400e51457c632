"""The first page of a workshop of one's own: its name, how it reckons, and the first person, who owns it."""

from django.contrib.auth.models import User
from django.db import transaction

from ...core.errors import InputError
from .. import models
from .history import entered
from .people import set_password
from .workshop import Workshop, save_workshop


def needed() -> bool:
    """Has nobody been given a name here yet?"""
    return not User.objects.exists()


@transaction.atomic
def begin(workshop: Workshop, name: str, password: str) -> User:
    """Make the workshop and its owner. Raises :class:`InputError` where there is one already, or for a weak password."""
    # A transaction takes the one write lock as it begins: of two who begin at once the second finds the first.
    if not needed():
        raise InputError("this workshop has its people already", "first run", "Sign in.")
    if not workshop.name.strip():
        raise InputError("the workshop has no name yet", "name", "Write what stands over the door.")
    user = User(username=name.strip())
    if not user.username:
        raise InputError("the first person has no name", "person", "Write it.")
    set_password(user, password)
    save_workshop(workshop, user)
    models.Person.objects.create(user=user, role="owner")
    entered("people", user.username, f"{user.username} began the workshop", None, {"role": "owner"}, user)
    return user
