"""What the workshop keeps: identity, searchable columns, and one validated JSON spec a row.

The spec is the core's shape; nothing of it is copied into columns but what is searched or sorted.
"""

from typing import Any
from uuid import uuid4

from django.conf import settings
from django.db import models, transaction


class Revision(models.Model):
    """A mark that is another after every change of a table: caches key on it, never on a clock. It is not a number: a
    change that is taken back and another made in its stead are not mistaken for each other."""

    name = models.CharField(unique=True, max_length=40)
    mark = models.CharField(max_length=32)


def bump(table: type[models.Model]) -> None:
    """Mark a change of a table, in the transaction that makes it."""
    Revision.objects.update_or_create(name=table._meta.model_name, defaults={"mark": uuid4().hex})


class CountedRows(models.QuerySet[Any]):
    """Rows whose every change is marked, however it is made."""

    def _counted(self, change: Any) -> Any:
        with transaction.atomic():
            found = change()
            bump(self.model)
        return found

    def bulk_create(self, *args: Any, **kw: Any) -> Any:
        return self._counted(lambda: super(CountedRows, self).bulk_create(*args, **kw))

    def bulk_update(self, *args: Any, **kw: Any) -> Any:
        return self._counted(lambda: super(CountedRows, self).bulk_update(*args, **kw))

    def update(self, **kw: Any) -> Any:
        return self._counted(lambda: super(CountedRows, self).update(**kw))

    def delete(self) -> Any:
        return self._counted(super().delete)


class Counted(models.Model):
    """A row of a table that caches rest on."""

    objects = CountedRows.as_manager()

    class Meta:
        abstract = True

    def save(self, *args: Any, **kw: Any) -> None:
        with transaction.atomic():
            super().save(*args, **kw)
            bump(type(self))

    def delete(self, *args: Any, **kw: Any) -> Any:
        with transaction.atomic():
            found = super().delete(*args, **kw)
            bump(type(self))
        return found


class Machine(Counted):
    slug = models.SlugField(unique=True, max_length=80)
    maker = models.CharField(max_length=80)
    name = models.CharField(max_length=120)
    spec = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["maker", "name"]


class Part(Counted):
    number = models.CharField(unique=True, max_length=80)
    kind = models.CharField(max_length=20, db_index=True)
    maker = models.CharField(max_length=80, blank=True)
    name = models.CharField(max_length=160)
    price_minor = models.IntegerField(null=True, db_index=True)
    spec = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["kind", "number"]


class OnTheBoard(models.Manager["Job"]):
    """Jobs that were not taken off the board."""

    def get_queryset(self) -> models.QuerySet["Job"]:
        return super().get_queryset().filter(removed__isnull=True)


class Job(models.Model):
    objects = OnTheBoard()
    everything: models.Manager["Job"] = models.Manager()

    number = models.PositiveIntegerField(unique=True)
    customer = models.CharField(max_length=160, blank=True)
    title = models.CharField(max_length=200, blank=True)
    station = models.CharField(max_length=20, db_index=True)
    due = models.DateField(null=True, db_index=True)
    waits_for = models.CharField(max_length=200, blank=True)
    machine = models.CharField(max_length=80, blank=True)
    configuration = models.CharField(max_length=80, blank=True)
    closed = models.BooleanField(default=False, db_index=True)
    stopped = models.BooleanField(default=False)
    cost_minor = models.IntegerField(null=True)
    #: Free causes of the job's complaints that were tried, with what came of it.
    tried = models.JSONField(default=dict)
    #: What is searched for: number, customer and title, folded as labels are.
    words = models.CharField(max_length=400, blank=True)
    wishes = models.BooleanField(default=False, db_index=True)
    #: Wished parts that have come into their price, as the last look at the prices found.
    wish_come = models.CharField(max_length=300, blank=True)
    spec = models.JSONField()
    #: Taken off the board; it can be brought back for some days, and is then removed for good.
    removed = models.DateTimeField(null=True, db_index=True)
    version = models.PositiveIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["closed", "due", "number"]
        base_manager_name = "everything"
        # Lists look through these; the document, which is long, is then not passed over.
        indexes = [
            models.Index(fields=["removed", "closed", "waits_for"]),
            models.Index(fields=["removed", "closed", "words", "machine"]),
            models.Index(fields=["removed", "closed", "due", "number"]),
            models.Index(fields=["removed", "tried"]),
        ]


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


class EditWithoutChange(models.Model):
    """An edit that found what it asked for: it is in no history, and sent again it is still no conflict."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="+")
    uid = models.CharField(unique=True, max_length=64)
    path = models.CharField(max_length=300)
    op = models.CharField(max_length=6)
    after = models.JSONField(null=True)


class Photograph(models.Model):
    """A photograph of a job's step; its file lies beside the database under its ``uid``, which whoever takes it makes: sent
    twice it is kept once."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="photographs")
    uid = models.CharField(unique=True, max_length=32)
    step = models.CharField(max_length=120, blank=True)
    note = models.CharField(max_length=600, blank=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    size = models.PositiveIntegerField()
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)
    removed = models.BooleanField(default=False)


class MachineEdit(models.Model):
    """Every change to a machine of the library: who, when, what, and the spec before."""

    machine = models.CharField(max_length=80, db_index=True)
    what = models.CharField(max_length=300)
    before = models.JSONField(null=True)
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class ClaimReview(models.Model):
    """A claim found on a bench that the library does not have, waiting for somebody to judge it."""

    machine = models.CharField(max_length=80, db_index=True)
    configuration = models.CharField(max_length=80)
    attribute = models.CharField(max_length=120)
    value = models.JSONField()
    source = models.CharField(max_length=20)
    note = models.CharField(max_length=300, blank=True)
    job = models.PositiveIntegerField(null=True)
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    state = models.CharField(max_length=10, default="open", db_index=True)
    decided_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering = ["-id"]


class Sighting(Counted):
    """What was seen of a part in a slot of one configuration; the spec is the core's shape."""

    machine = models.CharField(max_length=80, db_index=True)
    configuration = models.CharField(max_length=80)
    slot = models.CharField(max_length=80)
    part = models.CharField(max_length=80, db_index=True)
    outcome = models.CharField(max_length=20)
    spec = models.JSONField()
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]


class Complaint(Counted):
    """One entry of the workshop's triage list."""

    slug = models.SlugField(unique=True, max_length=40)
    place = models.PositiveIntegerField()
    spec = models.JSONField()

    class Meta:
        ordering = ["place", "slug"]


class ShelfPart(Counted):
    """A part taken out and kept: where it came from, its condition, and, for a drive, what became of
    the data on it."""

    number = models.CharField(max_length=80, db_index=True)
    name = models.CharField(max_length=160)
    kind = models.CharField(max_length=20)
    origin = models.CharField(max_length=200, blank=True)
    job = models.PositiveIntegerField(null=True)
    condition = models.CharField(max_length=20, default="good")
    erased = models.CharField(max_length=20, default="no data")
    erased_note = models.CharField(max_length=300, blank=True)
    price_minor = models.PositiveIntegerField(null=True)
    state = models.CharField(max_length=20, default="on the shelf", db_index=True)
    note = models.CharField(max_length=300, blank=True)
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class PricePoint(models.Model):
    """What an offer asked, and when it was seen to ask that."""

    part = models.CharField(max_length=80, db_index=True)
    shop = models.CharField(max_length=80)
    price_minor = models.IntegerField()
    stock = models.IntegerField(null=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at", "id"]


class Processor(Counted):
    slug = models.SlugField(unique=True, max_length=80)
    maker = models.CharField(max_length=60)
    name = models.CharField(max_length=80)
    spec = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["maker", "name"]


class ProcessorEdit(models.Model):
    """Every change to a processor: who, when, what, and the spec before."""

    processor = models.CharField(max_length=80, db_index=True)
    what = models.CharField(max_length=300)
    before = models.JSONField(null=True)
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class SupplierLayout(models.Model):
    """How a supplier lays its lists out: its heads, and which means what. The next list of it is one drop."""

    shop = models.CharField(unique=True, max_length=60)
    heads = models.JSONField()
    columns = models.JSONField()
    #: What prices without a sign are in; "" where nobody was asked yet.
    currency = models.CharField(max_length=3, blank=True, default="")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["shop"]


class StepTime(Counted):
    """How long an obstacle took on one closed job, coming off or going back."""

    job = models.PositiveIntegerField(db_index=True)
    machine = models.CharField(max_length=80, db_index=True)
    obstacle = models.CharField(max_length=120)
    way = models.CharField(max_length=3)
    seconds = models.PositiveIntegerField()


class Person(models.Model):
    """What somebody may do here. ``epoch`` is in each of their sessions: another one ends them all."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="person")
    role = models.CharField(max_length=10, default="bench")
    epoch = models.PositiveIntegerField(default=0)
    #: The password was handed over by somebody else: it is changed at the first sign-in.
    handed_over = models.BooleanField(default=False)


class AskKey(models.Model):
    """A key another program asks questions with. Only its digest is kept."""

    name = models.CharField(max_length=60)
    digest = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]


class Entry(models.Model):
    """A change of anything but a job's, a machine's or a processor's document, which have logs of their own."""

    about = models.CharField(max_length=20, db_index=True)
    key = models.CharField(max_length=120, blank=True)
    says = models.CharField(max_length=400)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    who = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class Workshop(Counted):
    """The workshop's own settings, one row."""

    spec = models.JSONField()
    updated = models.DateTimeField(auto_now=True)
