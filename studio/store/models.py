"""The tables. Rules live in the core; nothing here decides anything.

Lists and nested values are JSON text, never jsonb, because order is data.
"""

from __future__ import annotations

import copy
import json
from collections.abc import Collection
from typing import Any, Self

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models
from django.utils import timezone

from studio.store.line_models import Line as Line
from studio.store.task_models import LongTask as LongTask
from studio.store.word_models import OwnWord as OwnWord


class ProjectQuerySet(models.QuerySet["Project"]):
    """Named queries over projects."""

    def alive(self) -> Self:
        """Projects that were not deleted."""
        return self.filter(deleted_at=None)

    def deleted(self) -> Self:
        """Projects that were deleted and can still be brought back."""
        return self.exclude(deleted_at=None)

    def with_roles(self, roles: Collection[str]) -> Self:
        """Those of ``with_role_of`` where the role is one of ``roles``."""
        return self.filter(role__in=roles)

    def with_role_of(self, user: User) -> Self:
        """Projects ``user`` is a member of, each with the role as ``role``."""
        return self.filter(memberships__user=user).annotate(role=models.F("memberships__role"))


class Project(models.Model):
    """A design project: one document and who may work on it.

    ``role`` is set by ``with_role_of``, the rest by the view that let a person in. ``line`` is the line of
    revisions that is read and written, the main one where it is None; ``on`` gives the project on
    another. ``revision`` is the newest one of that line.
    """

    role: str
    may_edit: bool
    may_manage: bool
    line: Line | None = None

    code = models.CharField(max_length=16, unique=True)
    revision = models.PositiveIntegerField(default=0)
    name = models.CharField(max_length=200)
    description = models.TextField(blank=True)
    gamut = models.CharField(max_length=20, default="srgb")
    version = models.CharField(max_length=100, blank=True)
    resolver_file = models.CharField(max_length=300, blank=True)
    resolver_text = models.TextField(blank=True)
    created_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(default=timezone.now)
    deleted_at = models.DateTimeField(null=True, blank=True)

    objects = ProjectQuerySet.as_manager()

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name

    def on(self, line: Line | None) -> Project:
        """This project, read as its main line is stored, on another line of it."""
        if line is None:
            return self
        project = copy.copy(self)
        project.line, project.revision = line, line.revision
        return project

    @property
    def place(self) -> tuple[int, int]:
        """What a line is kept under, in this process and others."""
        return self.pk, self.line.pk if self.line else 0

    @property
    def journal(self) -> JournalEntryQuerySet:
        """The entries of its line, oldest first."""
        return JournalEntry.objects.filter(project=self, line=self.line)

    def advance(self) -> None:
        """Store that its line has one revision more, and what else of a project stands in its row."""
        self.revision += 1
        if self.line is None:
            self.changed_at = timezone.now()
            self.save()
        else:
            self.line.revision = self.revision
            self.line.save()


class Membership(models.Model):
    """A person's role in a project."""

    class Role(models.TextChoices):
        OWNER = "owner"
        EDITOR = "editor"
        VIEWER = "viewer"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="memberships")
    user = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships"
    )
    role = models.CharField(max_length=10, choices=Role.choices)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["project", "user"], name="one_role_per_member")
        ]

    def __str__(self) -> str:
        return f"{self.user} as {self.role}"


class Row(models.Model):
    """What all parts of a document share: a stable key and a place in an order."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="+")
    key = models.TextField()
    position = models.PositiveIntegerField()

    class Meta:
        abstract = True
        ordering = ["position", "id"]

    def __str__(self) -> str:
        return self.key


def _unique(name: str) -> list[models.BaseConstraint]:
    return [models.UniqueConstraint(fields=["project", "key"], name=name)]


class Axis(Row):
    """An axis; ``follows`` is JSON text."""

    name = models.CharField(max_length=200)
    description = models.TextField(blank=True)
    default = models.CharField(max_length=200)
    follows = models.TextField(default="null")

    class Meta(Row.Meta):
        constraints = _unique("axis_key")


class Mode(Row):
    """A mode of an axis; the key is the axis key, a space, and the mode's own."""

    axis = models.ForeignKey(Axis, on_delete=models.CASCADE, related_name="modes")
    name = models.CharField(max_length=200)
    description = models.TextField(blank=True)
    color_scheme = models.CharField(max_length=10, blank=True)
    selectors = models.TextField(default="[]")
    direction = models.CharField(max_length=3, blank=True)

    class Meta(Row.Meta):
        constraints = _unique("mode_key")


class Token(Row):
    """A token; ``uses`` and ``export_names`` are JSON text."""

    path = models.TextField()
    type = models.CharField(max_length=30)
    tier = models.CharField(max_length=20)
    description = models.TextField(blank=True)
    private = models.BooleanField(default=False)
    uses = models.TextField(default="[]")
    export_names = models.TextField(default="[]")
    deprecated = models.TextField(null=True)  # noqa: DJ001 - None is "not deprecated"
    extensions = models.TextField(blank=True)
    extends_from = models.TextField(blank=True)
    role = models.CharField(max_length=60, blank=True)
    belongs_to = models.CharField(max_length=200, blank=True)

    class Meta(Row.Meta):
        constraints = _unique("token_key")


class TokenValue(Row):
    """A value under a condition; the key is the token's, a space, and the condition."""

    token = models.ForeignKey(Token, on_delete=models.CASCADE, related_name="values")
    text = models.TextField()

    class Meta(Row.Meta):
        constraints = _unique("value_key")


class Pairing(Row):
    """A pairing; ``backgrounds`` is JSON text."""

    foreground = models.CharField(max_length=200)
    backgrounds = models.TextField(default="[]")
    use = models.CharField(max_length=30)
    required = models.FloatField()
    reason = models.TextField(blank=True)
    waiver = models.TextField(blank=True)
    waived_by = models.CharField(max_length=200, blank=True)
    waived_until = models.CharField(max_length=10, blank=True)
    page = models.CharField(max_length=200, blank=True)

    class Meta(Row.Meta):
        constraints = _unique("pairing_key")


class Part(Row):
    """Any other part of a document, as a JSON row of its kind."""

    kind = models.CharField(max_length=30)
    text = models.TextField()

    class Meta(Row.Meta):
        constraints = [models.UniqueConstraint(fields=["project", "kind", "key"], name="part_key")]


class Picture(models.Model):
    """A picture that colors were taken from: a small copy, and what was read of it as JSON text."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="pictures")
    code = models.CharField(max_length=40, unique=True)
    name = models.CharField(max_length=200)
    data = models.BinaryField()
    content_type = models.CharField(max_length=40)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    text = models.TextField()
    added_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    added_at = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return self.name

    @property
    def colors(self) -> list[dict[str, Any]]:
        """Its colors as plain mappings, most telling first."""
        colors: list[dict[str, Any]] = json.loads(self.text)["colors"]
        return colors

    @property
    def remarks(self) -> list[str]:
        """What there is to say of how it was read."""
        remarks: list[str] = json.loads(self.text)["remarks"]
        return remarks


class JournalEntryQuerySet(models.QuerySet["JournalEntry"]):
    """Named queries over the journal."""

    def edits_of(self, user: User) -> Self:
        """Edits by ``user``, newest first, without undo and redo."""
        return self.filter(actor=user, kind=JournalEntry.Kind.EDIT).order_by("-revision")

    def undone_by(self, user: User | None) -> Self:
        """Edits by ``user`` that were undone and can be done again."""
        return self.filter(actor=user, state=JournalEntry.State.UNDONE)

    def of_token(self, key: str) -> Self:
        """Entries that changed a token or a value of it, by key, newest first."""
        return self.filter(tokens__contains=[key]).order_by("-revision")

    def written_as(self, write: str) -> Self:
        """Entries of the write that a page called ``write``."""
        return self.filter(write=write) if write else self.none()

    def since(self, revision: int) -> Self:
        """Entries after ``revision``, in order."""
        return self.filter(revision__gt=revision).order_by("revision")


class JournalEntry(models.Model):
    """One stored change: who, when, the sentence of its command, and its operations as JSON text.

    ``command`` is the command as it was written down; empty where there was none, as for undo and
    for what was stored before commands had names. Undo goes by the operations.

    ``line`` is the line of revisions that it belongs to, None for the main one. ``tokens`` are the keys of the tokens that the operations change.

    ``write`` is what the page that asked for it called it, so that a page whose answer was lost
    can ask whether it was stored. A note says something of a part of the document and changes nothing.
    """

    class Kind(models.TextChoices):
        MADE = "made"
        EDIT = "edit"
        UNDO = "undo"
        REDO = "redo"
        NOTE = "note"

    class State(models.TextChoices):
        DONE = "done"
        UNDONE = "undone"
        DISCARDED = "discarded"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="entries")
    line = models.ForeignKey(Line, null=True, on_delete=models.CASCADE, related_name="entries")
    revision = models.PositiveIntegerField()
    actor = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.EDIT)
    state = models.CharField(max_length=10, choices=State.choices, default=State.DONE)
    reverts = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="+")
    label = models.CharField(max_length=300)
    write = models.CharField(max_length=40, blank=True)
    command = models.TextField(blank=True)
    operations = models.TextField()
    tokens = ArrayField(models.TextField(), default=list)
    at = models.DateTimeField(default=timezone.now)

    objects = JournalEntryQuerySet.as_manager()

    class Meta:
        ordering = ["revision"]
        constraints = [
            models.UniqueConstraint(
                fields=["project", "line", "revision"],
                name="one_entry_per_revision",
                nulls_distinct=False,
            )
        ]
        indexes = [GinIndex(fields=["tokens"], name="journal_by_part")]

    def __str__(self) -> str:
        return f"{self.revision}: {self.label}"
