"""The table of lines of revisions beside the main one."""

from __future__ import annotations

from django.db import models
from django.utils import timezone


class Line(models.Model):
    """A line of revisions of a project beside its main one: it left that at revision ``base`` and goes
    on by itself, counting from there. Its document is that of ``base`` with its own journal entries."""

    project = models.ForeignKey("store.Project", on_delete=models.CASCADE, related_name="lines")
    name = models.CharField(max_length=200)
    base = models.PositiveIntegerField()
    revision = models.PositiveIntegerField()
    begun_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["project", "name"], name="one_line_a_name")]

    def __str__(self) -> str:
        return f"{self.name}, from {self.base} on"
