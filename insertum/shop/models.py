"""What the workshop keeps: identity, searchable columns, and one validated JSON spec a row.

The spec is the core's shape; nothing of it is copied into columns but what is searched or sorted.
"""

from django.conf import settings
from django.db import models


class Machine(models.Model):
    slug = models.SlugField(unique=True, max_length=80)
    maker = models.CharField(max_length=80)
    name = models.CharField(max_length=120)
    spec = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["maker", "name"]


class Part(models.Model):
    number = models.CharField(unique=True, max_length=80)
    kind = models.CharField(max_length=20, db_index=True)
    maker = models.CharField(max_length=80, blank=True)
    name = models.CharField(max_length=160)
    price_minor = models.IntegerField(null=True, db_index=True)
    spec = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["kind", "number"]


class Job(models.Model):
    number = models.PositiveIntegerField(unique=True)
    customer = models.CharField(max_length=160, blank=True)
    title = models.CharField(max_length=200, blank=True)
    station = models.CharField(max_length=20, db_index=True)
    due = models.DateField(null=True, db_index=True)
    waits_for = models.CharField(max_length=200, blank=True)
    machine = models.CharField(max_length=80, blank=True)
    configuration = models.CharField(max_length=80, blank=True)
    closed = models.BooleanField(default=False)
    spec = models.JSONField()
    version = models.PositiveIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["closed", "due", "number"]


class JobEdit(models.Model):
    """Every change to a job: who, when, where, from what to what. Undo and history rest on it."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="edits")
    uid = models.CharField(unique=True, max_length=64)
    path = models.CharField(max_length=300)
    op = models.CharField(max_length=6, default="set")
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)
    undone = models.BooleanField(default=False)

    class Meta:
        ordering = ["-id"]
