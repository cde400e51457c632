"""The demo world in a test database, copied there once; each test's changes are rolled back."""

import json

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.test import Client

from insertum.demo import story
from insertum.shop import models
from tests import world
from tests.served import ROOT

#: The API's document as it is committed; ``bin/generated`` holds it to the code.
DOCUMENT = json.loads((ROOT / "web/openapi.json").read_text())


@pytest.fixture(scope="session")
def django_db_setup(django_db_setup, django_db_blocker):
    with django_db_blocker.unblock():
        connection.ensure_connection()
        world.copy_into(connection.connection)


def owner(name: str) -> User:
    """Somebody new who may do everything."""
    user = User.objects.create_user(name)
    models.Person.objects.create(user=user, role="owner")
    return user


def signed_in(user: User) -> Client:
    client = Client()
    client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")
    return client


@pytest.fixture
def client(db, request) -> Client:
    """Signed in as the bench, or as the role that a test (``@pytest.mark.role``) or its module (``ROLE``) says it is of."""
    return signed_in(User.objects.get(username=_role(request)))


@pytest.fixture
def colleague(db, request) -> Client:
    """Somebody else of the same role."""
    user = User.objects.create_user("bench-2")
    models.Person.objects.create(user=user, role=_role(request))
    return signed_in(user)


def _role(request: pytest.FixtureRequest) -> str:
    asked = request.node.get_closest_marker("role")
    return str(asked.args[0] if asked else getattr(request.module, "ROLE", story.LOGIN))


@pytest.fixture
def kept_in(tmp_path, settings):
    settings.VAR = tmp_path
    return tmp_path / "photographs"
