"""What is kept of tries to sign in or to join."""

from __future__ import annotations

from datetime import datetime
from typing import Self

from django.db import models
from django.utils import timezone


class TryQuerySet(models.QuerySet["Try"]):
    """Named queries over tries."""

    def recent(self, kind: str, subject: str, since: datetime) -> Self:
        """Tries of a kind by one subject since a time."""
        return self.filter(kind=kind, subject=subject, at__gte=since)

    def older_than(self, time: datetime) -> Self:
        """Tries that no limit counts any more."""
        return self.filter(at__lt=time)


class Try(models.Model):
    """One try of something that is limited, by an address or for an account."""

    kind = models.CharField(max_length=20)
    subject = models.CharField(max_length=64)
    at = models.DateTimeField(default=timezone.now)

    objects = TryQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["kind", "subject", "at"], name="tries_by_subject")]

    def __str__(self) -> str:
        return f"{self.kind} by {self.subject}"
