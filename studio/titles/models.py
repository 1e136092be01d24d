"""What is kept: titles, their revisions, and the user's own finishes."""

import uuid
from typing import Any

from django.db import models, transaction
from django.utils import timezone

from mabrel import Title as Document
from mabrel import check_title, parse_title
from mabrel.title import Finish as FinishDocument
from studio.titles.documents import at_home

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
    """A title as it was last saved. `version` counts the saves."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    document = models.JSONField()
    series = models.CharField(max_length=100, blank=True, default="")
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(default=timezone.now)
    removed_at = models.DateTimeField(null=True, blank=True)

    objects = TitleQuerySet.as_manager()

    def __str__(self) -> str:
        return self.name

    @classmethod
    def keep(cls, document: Document, series: str = "") -> "Title":
        """Save a new title with its first revision."""
        check_title(document)
        with transaction.atomic():
            kept = cls.objects.create(
                name=document.name, document=document.model_dump(mode="json"), series=series
            )
            kept._remember()
        return kept

    @property
    def parsed(self) -> Document:
        """The document, migrated and checked."""
        return check_title(at_home(parse_title(self.document)))

    def save_version(self, version: int, document: Document) -> None:
        """Replace `version` by this document. Raises Stale where another one is there by now.

        The whole act is one transaction that locks the database, so of two saves of the same
        version one wins and the other is told.
        """
        check_title(document)
        with transaction.atomic():
            current = Title.objects.select_for_update().get(pk=self.pk)
            if current.version != version:
                raise Stale(current)
            self.name = document.name
            self.document = document.model_dump(mode="json")
            self.version = version + 1
            self.changed_at = timezone.now()
            self.save(update_fields=["name", "document", "version", "changed_at"])
            self._remember()

    def duplicate(self) -> "Title":
        document = self.parsed
        name = f"{document.name} copy"[:200]
        return Title.keep(document.model_copy(update={"name": name}), self.series)

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


class Revision(models.Model):
    """A title as it was saved once."""

    title = models.ForeignKey(Title, on_delete=models.CASCADE, related_name="revisions")
    version = models.PositiveIntegerField()
    document = models.JSONField()
    saved_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=("title", "version"), name="one_revision_a_version"),
        )

    def __str__(self) -> str:
        return f"{self.title_id} version {self.version}"

    @property
    def parsed(self) -> Document:
        return at_home(parse_title(self.document))


class Mark(models.Model):
    """A state of a title that was given a name, to compare with and to go back to."""

    title = models.ForeignKey(Title, on_delete=models.CASCADE, related_name="marks")
    name = models.CharField(max_length=100)
    document = models.JSONField()
    set_at = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return self.name

    @property
    def parsed(self) -> Document:
        return at_home(parse_title(self.document))


class Finish(models.Model):
    """A finish of the user's own."""

    name = models.CharField(max_length=64, unique=True)
    document = models.JSONField()
    created_at = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return self.name

    @property
    def parsed(self) -> FinishDocument:
        return FinishDocument.model_validate(self.document)

    @classmethod
    def keep(cls, finish: FinishDocument) -> "Finish":
        """Save it; one of the same name is replaced."""
        document: dict[str, Any] = finish.model_dump(mode="json")
        kept, _ = cls.objects.update_or_create(name=finish.name, defaults={"document": document})
        return kept
