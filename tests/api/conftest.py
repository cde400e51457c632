"""The demo world in a test database, loaded once; each test's changes are rolled back."""

import pytest
from django.contrib.auth.models import User
from django.test import Client

from insertum.demo import story
from insertum.shop import models


@pytest.fixture(scope="session")
def django_db_setup(django_db_setup, django_db_blocker):
    with django_db_blocker.unblock():
        story.load()
        # Most tests are of what is done, not of who may do it: ``bench`` owns the workshop in them.
        models.Person.objects.filter(user__username=story.LOGIN).update(role="owner")


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
def client(db) -> Client:
    """Signed in as the bench."""
    return signed_in(User.objects.get(username=story.LOGIN))


@pytest.fixture
def colleague(db) -> Client:
    return signed_in(owner("bench-2"))
