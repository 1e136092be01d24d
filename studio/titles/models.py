"""What is kept: titles, their revisions, and the user's own finishes.

Documents are kept as the text that the engine gave back when it had checked them, with what lists
need of them beside it. No list reads a document.
"""

import uuid
from typing import Any

from django.db import models, transaction
from django.utils import timezone

from studio.engine.outcome import Checked

REVISIONS_KEPT = 100


class Stale(Exception):  # noqa: N818 - a state of affairs, not a fault
    """Somebody else saved first; `current` is what is there now."""

    def __init__(self, current: "Title") -> None:
        self.current = current
        super().__init__(f"version {current.version} is already there")


class TitleQuerySet(models.QuerySet["Title"]):
    def present(self) -> "TitleQuerySet":
        """Those that were not removed, the last changed first."""
        return self.filter(removed_at=None).order_by("-changed_at")


class Title(models.Model):
    """A title as it was last saved. `version` counts the saves; `files` are those that it uses."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    document = models.TextField()
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)
    duration = models.FloatField(default=0)
    files = models.JSONField(default=list)
    series = models.CharField(max_length=100, blank=True, default="")
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(default=timezone.now)
    removed_at = models.DateTimeField(null=True, blank=True)

    objects = TitleQuerySet.as_manager()

    def __str__(self) -> str:
        return self.name

    @classmethod
    def keep(cls, checked: Checked, series: str = "") -> "Title":
        """Save a new title with its first revision."""
        with transaction.atomic():
            kept = cls.objects.create(series=series, **_columns(checked))
            kept._remember()
        return kept

    def save_version(self, version: int, checked: Checked) -> None:
        """Replace `version` by this document. Raises Stale where another one is there by now.

        The whole act is one transaction that locks the database, so of two saves of the same
        version one wins and the other is told.
        """
        with transaction.atomic():
            current = Title.objects.select_for_update().get(pk=self.pk)
            if current.version != version:
                raise Stale(current)
            columns = _columns(checked)
            for name, value in columns.items():
                setattr(self, name, value)
            self.version = version + 1
            self.changed_at = timezone.now()
            self.save(update_fields=[*columns, "version", "changed_at"])
            self._remember()

    def remove(self) -> None:
        """Take it from the shelf; `restore` brings it back."""
        self.removed_at = timezone.now()
        self.save(update_fields=["removed_at"])

    def restore(self) -> None:
        self.removed_at = None
        self.save(update_fields=["removed_at"])

    def _remember(self) -> None:
        self.revisions.create(version=self.version, document=self.document)
        kept = self.revisions.order_by("-version").values("pk")[:REVISIONS_KEPT]
        self.revisions.exclude(pk__in=list(kept.values_list("pk", flat=True))).delete()


def _columns(checked: Checked) -> dict[str, Any]:
    return {
        "name": checked.name,
        "document": checked.text,
        "width": checked.width,
        "height": checked.height,
        "duration": checked.duration,
        "files": checked.files,
    }


class Revision(models.Model):
    """A title as it was saved once."""

    title = models.ForeignKey(Title, on_delete=models.CASCADE, related_name="revisions")
    version = models.PositiveIntegerField()
    document = models.TextField()
    saved_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=("title", "version"), name="one_revision_a_version"),
        )

    def __str__(self) -> str:
        return f"{self.title_id} version {self.version}"


class Mark(models.Model):
    """A state of a title that was given a name, to compare with and to go back to."""

    title = models.ForeignKey(Title, on_delete=models.CASCADE, related_name="marks")
    name = models.CharField(max_length=100)
    document = models.TextField()
    files = models.JSONField(default=list)
    set_at = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return self.name


class Finish(models.Model):
    """A finish of the user's own. `scene` says that it is a whole scene."""

    name = models.CharField(max_length=64, unique=True)
    label = models.CharField(max_length=100, default="")
    help = models.CharField(max_length=400, blank=True, default="")
    scene = models.BooleanField(default=False)
    document = models.TextField()
    files = models.JSONField(default=list)
    created_at = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return self.name


class Arrival(models.Model):
    """An arrival or a departure of the user's own."""

    name = models.CharField(max_length=64, unique=True)
    label = models.CharField(max_length=100)
    help = models.CharField(max_length=400, blank=True, default="")
    way = models.CharField(max_length=16)
    length = models.FloatField()
    document = models.TextField()
    created_at = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return self.name
