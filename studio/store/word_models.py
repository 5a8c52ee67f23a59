"""The table of words that people keep for their other projects."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class OwnWord(models.Model):
    """A word that a person uses in the names of colors, and what it means."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="own_words"
    )
    key = models.CharField(max_length=60)
    meaning = models.CharField(max_length=30)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["person", "key"], name="one_meaning_a_word")]

    def __str__(self) -> str:
        return f"{self.key}: {self.meaning}"
