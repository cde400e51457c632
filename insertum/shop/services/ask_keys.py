"""Keys for questions: another program asks with one, reads answers and nothing else, until it is taken back."""

import hashlib
import secrets

from django.contrib.auth.base_user import AbstractBaseUser
from django.utils import timezone

from ...core.errors import Code, InputError
from ...core.frozen import Frozen
from .. import models
from .history import entered

#: A key says what it is, so that one found in a file is known for what it is.
PREFIX = "ask_"


class AskKeyView(Frozen):
    """A key by its name: who made it and when, and when it was taken back ("" while it counts)."""

    id: int
    name: str
    made_at: str
    made_by: str
    taken_back_at: str


class AskKeyShown(Frozen):
    """A key as it is shown once: only its digest is kept."""

    id: int
    name: str
    key: str


def _digest(key: str) -> str:
    """A key has 192 bits of chance in it: a plain digest of it tells nobody anything."""
    return hashlib.sha256(key.encode()).hexdigest()


def every() -> tuple[AskKeyView, ...]:
    """All keys there were, the newest first."""
    return tuple(
        AskKeyView(
            id=k.pk, name=k.name, made_at=k.made_at.isoformat(timespec="minutes"),
            made_by=k.made_by.get_username() if k.made_by else "",
            taken_back_at=k.taken_back_at.isoformat(timespec="minutes") if k.taken_back_at else "",
        )
        for k in models.AskKey.objects.select_related("made_by")
    )  # fmt: skip


def make(name: str, who: AbstractBaseUser | None) -> AskKeyShown:
    """A new key. Raises :class:`InputError` for no name, or the name of one that counts."""
    name = " ".join(name.split())
    if not name:
        raise InputError("a key has a name", "name", "Say what will ask with it: the workshop's page.")
    if models.AskKey.objects.filter(name=name, taken_back_at=None).exists():
        raise InputError(
            f"there is a key {name!r}", "name", "Take that one back first, or choose another name.", code=Code.TAKEN
        )
    key = PREFIX + secrets.token_urlsafe(24)
    row = models.AskKey.objects.create(name=name, digest=_digest(key), made_by=who)
    entered("key", name, f"the key {name} was made", None, None, who)
    return AskKeyShown(id=row.pk, name=name, key=key)


def take_back(id: int, who: AbstractBaseUser | None) -> None:
    """End a key: from now on nobody asks with it. Raises :class:`InputError` for one that does not count."""
    row = models.AskKey.objects.filter(pk=id, taken_back_at=None).first()
    if row is None:
        raise InputError("no such key counts", "key", "Reload the list.", code=Code.MISSING)
    row.taken_back_at = timezone.now()
    row.save()
    entered("key", row.name, f"the key {row.name} was taken back", None, None, who)


def counts(key: str) -> bool:
    """Is this a key that was made here and not taken back?"""
    return key.startswith(PREFIX) and models.AskKey.objects.filter(digest=_digest(key), taken_back_at=None).exists()
