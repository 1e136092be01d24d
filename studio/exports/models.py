"""Exports: asked for, on their way and done; they outlive the server. And presets of one's own."""

import shutil
import uuid
from pathlib import Path

from django.conf import settings
from django.db import models
from django.utils import timezone

MOST = 100
"""Exports that are kept; of those that have ended the oldest give way."""


class State(models.TextChoices):
    WAITING = "waiting"
    RUNNING = "running"
    STOPPED = "stopped"
    FAILED = "failed"
    DONE = "done"


UNDERWAY = (State.WAITING, State.RUNNING)


class Export(models.Model):
    """One export of a title as it stood when it was asked for; or of a set of them, whose
    `members` are pairs of a file's name and a document, with a `sheet` of all or without.

    `order` is a `mabrel.export.order.Order`. `done` and `all` count frames; `spent` is how many
    seconds it was worked on, for `counted` of them. `stopping`: somebody wants no more of it.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    document = models.TextField(blank=True, default="")
    members = models.JSONField(default=list)
    sheet = models.BooleanField(default=False)
    order = models.JSONField()
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    stopping = models.BooleanField(default=False)
    done = models.PositiveIntegerField(default=0)
    all = models.PositiveIntegerField(default=1)
    spent = models.FloatField(default=0)
    counted = models.PositiveIntegerField(default=0)
    fault = models.TextField(blank=True, default="")
    ending = models.CharField(max_length=12)
    media = models.CharField(max_length=60)
    size = models.PositiveBigIntegerField(default=0)
    asked_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-asked_at",)

    def __str__(self) -> str:
        return f"{self.name}{self.ending}"

    @property
    def folder(self) -> Path:
        """Where its pieces lie, and what they became."""
        folder: Path = settings.EXPORTS_DIR / self.id.hex
        return folder

    @property
    def path(self) -> Path:
        return self.folder / f"result{self.ending}"

    @property
    def remaining(self) -> float | None:
        """Seconds that are left, by what its frames took so far."""
        if self.state != State.RUNNING or not self.counted:
            return None
        return self.spent / self.counted * (self.all - self.done)

    def discard(self) -> None:
        """Forget it, with all that it made."""
        shutil.rmtree(self.folder, ignore_errors=True)
        self.delete()

    @classmethod
    def make_room(cls) -> bool:
        """Whether there is room for one more; the oldest that have ended are let go of."""
        count = cls.objects.count()
        for each in cls.objects.exclude(state__in=UNDERWAY).order_by("asked_at"):
            if count < MOST:
                break
            each.discard()
            count -= 1
        return count < MOST


class ExportPreset(models.Model):
    """Settings of an export under a name of one's own."""

    name = models.CharField(max_length=100, unique=True)
    order = models.JSONField()

    class Meta:
        ordering = ("name",)

    def __str__(self) -> str:
        return self.name
