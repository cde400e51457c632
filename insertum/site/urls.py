"""Addresses: the API, and the built application for everything else."""

from django.urls import path, re_path

from ..api import api
from .pages import application, healthz

urlpatterns = [path("healthz", healthz), path("api/", api.urls), re_path(r"^(?!api/|static/).*$", application)]
