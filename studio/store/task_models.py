"""The table of long tasks."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, Self

from django.conf import settings
from django.db import models
from django.utils import timezone

if TYPE_CHECKING:
    from studio.store.models import Project


class LongTaskQuerySet(models.QuerySet["LongTask"]):
    """Named queries over long tasks."""

    def unfinished(self) -> Self:
        """Those that wait or run."""
        return self.filter(state__in=[LongTask.State.WAITING, LongTask.State.RUNNING])

    def silent(self, before: datetime) -> Self:
        """Those that run, and of which nobody has said so since a time."""
        told = models.Q(beat_at__lt=before) | models.Q(beat_at=None)
        return self.filter(told, state=LongTask.State.RUNNING)

    def old(self, before: datetime) -> Self:
        """Those that ended before a time."""
        return self.filter(ended_at__lt=before)


class LongTask(models.Model):
    """Work that takes longer than a page may: what is asked for, how far it is, and what came of it.

    ``fields`` is JSON text; ``asked`` stands for it, the line and the revision, so that the same is not done twice.
    ``beat_at`` is when who does it last said so. ``share`` is how much is done, from 0 to 1, ``words`` what is being done. ``text`` and ``data`` are the result.
    """

    class State(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        STOPPED = "stopped"

    project = models.ForeignKey("store.Project", on_delete=models.CASCADE, related_name="tasks")
    line = models.ForeignKey("store.Line", null=True, on_delete=models.CASCADE, related_name="+")
    code = models.CharField(max_length=40, unique=True)
    kind = models.CharField(max_length=40)
    fields = models.TextField()
    payload = models.BinaryField(default=bytes)
    revision = models.PositiveIntegerField()
    asked = models.CharField(max_length=64)
    asked_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    asked_at = models.DateTimeField(default=timezone.now)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    stopping = models.BooleanField(default=False)
    starts = models.PositiveIntegerField(default=0)
    share = models.FloatField(default=0)
    words = models.CharField(max_length=300, blank=True)
    beat_at = models.DateTimeField(null=True, blank=True)
    ended_at = models.DateTimeField(null=True, blank=True)
    text = models.TextField(blank=True)
    data = models.BinaryField(default=bytes)
    name = models.CharField(max_length=200, blank=True)
    content_type = models.CharField(max_length=80, blank=True)

    objects = LongTaskQuerySet.as_manager()

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["project", "asked"], name="task_asked")]

    def __str__(self) -> str:
        return f"{self.kind}, {self.state}"

    @property
    def asked_about(self) -> Project:
        """The project on the line that is asked about."""
        return self.project.on(self.line)

    @property
    def is_over(self) -> bool:
        """Whether nothing more will come of it."""
        return self.state not in (self.State.WAITING, self.State.RUNNING)
