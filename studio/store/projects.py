"""Loading a project's document, and the one way to change it."""

from __future__ import annotations

import json
import secrets
from collections.abc import Callable, Sequence
from contextvars import ContextVar
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from prism.analysis import Analysis
from prism.changes.outcome import Outcome
from prism.commands.project import RenameProject
from prism.compare.diff import Operation, apply, diff_tables, inverse, tokens_of
from prism.compare.merge import Clash, clashing, merge, touches
from prism.compare.rows import condition_text
from prism.edits import Command, written
from prism.errors import ConflictError, PrismError
from prism.model.document import Document
from prism.model.values import Condition
from prism.model.whole import flaws
from studio.store import tables
from studio.store.loading import Loaded as Loaded
from studio.store.loading import StaleError as StaleError
from studio.store.loading import at as at
from studio.store.loading import changed_since as changed_since
from studio.store.loading import forget_all as forget_all
from studio.store.loading import history as history
from studio.store.loading import load as load
from studio.store.loading import operations_of as operations_of
from studio.store.loading import remember
from studio.store.models import JournalEntry, Line, Membership
from studio.store.models import Project as Project

KIND = JournalEntry.Kind
#: How long a deleted project can be brought back.
KEPT = timedelta(days=30)
#: What the page calls the write that is being made, kept with its journal entry.
WRITE = ContextVar("write", default="")
#: The newest revision that was stored since this was last set to None.
STORED: ContextVar[int | None] = ContextVar("stored", default=None)


class NotWholeError(PrismError):
    """A write that would leave a document that is not whole."""


class ClashError(ConflictError):
    """A write that does not go together with what was stored meanwhile.

    ``clashes`` says what, ``entries`` the journal entry of the other side for each, or None.
    """

    def __init__(self, clashes: Sequence[Clash], entries: Sequence[JournalEntry | None]) -> None:
        self.clashes = clashes
        self.entries = entries
        super().__init__(
            clashing(clashes, self.who), fix="Yours was not stored. Choose, and try again."
        )

    def sentence_of(self, clash: Clash) -> str:
        """What both did, with the name of who removed something."""
        return clash.sentence.replace("by somebody else", f"by {self.who(clash)}")

    def who(self, clash: Clash) -> str:
        """The name of the person who wrote the other side of a clash."""
        entry = self.entries[self.clashes.index(clash)]
        return entry.actor.get_username() if entry and entry.actor else "Somebody else"


def new_key() -> str:
    """A fresh key for a part of a document."""
    return secrets.token_hex(6)


@dataclass(frozen=True, slots=True)
class Saved:
    """What is stored after an edit, and what the edit said of itself."""

    loaded: Loaded
    outcome: Outcome
    command: Command


def save(
    project: Project, command: Command, actor: User | None, revision: int | None = None
) -> Saved:
    """Store what a command makes of the document at ``revision``, the newest without.

    What others have stored since is kept, as ``record`` says. Lets every ``PrismError`` through.
    """
    before = load(project) if revision is None else at(project, revision)
    outcome = command.run(before.document)
    sentence, after = outcome.sentence, outcome.document
    stored = record(project, before, after, actor, sentence, command=written(command))
    return Saved(stored, outcome, command)


def record(
    project: Project,
    before: Loaded,
    after: Document,
    actor: User | None,
    label: str,
    *,
    kind: str = KIND.EDIT,
    reverts: JournalEntry | None = None,
    command: str = "",
) -> Loaded:
    """Store ``after``, which was made from the loaded ``before``; the only writer.

    Everything happens in one transaction: the rows, the journal entry, the revision. What others
    have stored since ``before`` is kept: both changes are merged, or ``ClashError`` is raised
    where they touch the same thing. ``command`` is the text of the command that was run, if any.
    Returns what is stored now.
    """
    with transaction.atomic():
        current = _locked(project)
        if current.revision != before.revision:
            before, after = _merged(current, before, after)
        stored = Loaded(Analysis(after, before.analysis), before.revision + 1)
        old, new = before.analysis.rows, stored.analysis.rows
        operations = diff_tables(old, new)
        if not operations:
            return before
        _refuse_flaws(after, before.document)
        if current.line is None:
            tables.write(current, old, new, operations)
        if kind == KIND.EDIT:
            current.journal.undone_by(actor).update(state=JournalEntry.State.DISCARDED)
        entry = {"kind": kind, "reverts": reverts, "command": command}
        _enter(current, actor, label, operations, **entry)
    transaction.on_commit(lambda: _committed(project, stored))
    project.revision = current.revision
    project.name = current.name
    return stored


def _locked(project: Project) -> Project:
    """The project as it is stored now, on the same line, locked until the transaction ends."""
    current = Project.objects.select_for_update().get(pk=project.pk)
    if project.line is None:
        return current
    return current.on(current.lines.select_for_update().get(pk=project.line.pk))


def _enter(
    current: Project, actor: User | None, label: str, operations: Sequence[Operation], **entry: Any
) -> None:
    """Write the next revision of a locked project with its journal entry."""
    current.advance()
    JournalEntry.objects.create(
        project=current,
        line=current.line,
        revision=current.revision,
        actor=actor,
        label=label[:300],
        write=WRITE.get(),
        operations=json.dumps([operation.plain() for operation in operations], ensure_ascii=False),
        tokens=tokens_of(operations),
        **entry,
    )


def _committed(project: Project, stored: Loaded) -> None:
    STORED.set(stored.revision)
    remember(project, stored)


def _refuse_flaws(document: Document, before: Document) -> None:
    all_flaws = flaws(document, before)
    if all_flaws:
        raise NotWholeError(
            " ".join(flaw.sentence for flaw in all_flaws[:3]), fix="Nothing was stored."
        )


def note_kept(
    project: Project, actor: User | None, token: str, condition: Condition, label: str
) -> None:
    """Write into the journal that somebody let the stored value of a cell stand; nothing changes.

    Raises ``StaleError`` where there is no such value any more.
    """
    with transaction.atomic():
        current = _locked(project)
        loaded = load(current)
        key = f"{token} {condition_text(condition)}"
        row = loaded.analysis.rows.rows["value"].get(key)
        if row is None:
            raise StaleError("That value is no longer there.", fix="Look at what is there now.")
        same = Operation("set", "value", key, "text", row["text"], row["text"])
        stored = replace(loaded, revision=current.revision + 1)
        _enter(current, actor, label, [same], kind=KIND.NOTE)
    transaction.on_commit(lambda: _committed(project, stored))
    project.revision = current.revision


def _merged(
    current: Project, before: Loaded, after: Document, *, prefer_mine: bool = False
) -> tuple[Loaded, Document]:
    """What is stored now, and it together with what ``after`` changed of ``before``."""
    theirs = load(current)
    merged = merge(before.document, after, theirs.document, prefer_mine=prefer_mine)
    if merged.clashes:
        entries = list(current.journal.since(before.revision).select_related("actor"))
        writers = [_writer(entries, clash) for clash in merged.clashes]
        raise ClashError(merged.clashes, writers)
    return theirs, merged.document


def _writer(entries: Sequence[JournalEntry], clash: Clash) -> JournalEntry | None:
    """The newest of ``entries`` that changed what a clash is about, or else the newest."""
    for entry in reversed(entries):
        if any(touches(operation, clash.rows) for operation in operations_of(entry)):
            return entry
    return entries[-1] if entries else None


def revision_of(code: str, write: str, actor: User) -> int | None:
    """The revision that a write of an actor became, by the name its page gave it; None where it is new."""
    entries = JournalEntry.objects.filter(project__code=code, write=write, actor=actor)
    return entries.values_list("revision", flat=True).last()


def undoable(project: Project, actor: User) -> JournalEntry | None:
    """The newest edit of ``actor`` that can be taken back, or None."""
    edits = project.journal.edits_of(actor).defer("operations")
    return edits.filter(state=JournalEntry.State.DONE).first()


def redoable(project: Project, actor: User) -> JournalEntry | None:
    """The edit of ``actor`` that was taken back last, or None."""
    edits = project.journal.edits_of(actor).defer("operations")
    return edits.filter(state=JournalEntry.State.UNDONE).last()


def undo(project: Project, actor: User, *, anyway: bool = False) -> JournalEntry | None:
    """Take back the actor's newest edit; returns its journal entry, or None if there is none.

    It is merged with what others have stored since: references follow their renames, and
    ``ClashError`` is raised where they changed the same thing or the rest would not be whole; with
    ``anyway`` the actor's side counts where it can.
    """
    return _swing(project, actor, undoable, KIND.UNDO, anyway)


def redo(project: Project, actor: User, *, anyway: bool = False) -> JournalEntry | None:
    """Do again what the actor took back last; as ``undo``."""
    return _swing(project, actor, redoable, KIND.REDO, anyway)


@transaction.atomic
def _swing(
    project: Project,
    actor: User,
    pick: Callable[[Project, User], JournalEntry | None],
    kind: Any,
    anyway: bool,
) -> JournalEntry | None:
    current = _locked(project)
    entry = pick(current, actor)
    if entry is None:
        return None
    latest = current.journal.filter(reverts=entry).last() or entry
    made = at(current, latest.revision, farthest=current.revision)
    after = apply(made.document, inverse(operations_of(latest)))
    before = load(current)
    if made.revision != before.revision:
        before, after = _merged(current, made, after, prefer_mine=anyway)
    label = f"{kind.label}: {entry.label}"
    record(current, before, after, actor, label, kind=kind, reverts=entry)
    back = kind == KIND.UNDO
    entry.state = JournalEntry.State.UNDONE if back else JournalEntry.State.DONE
    entry.save(update_fields=["state"])
    project.revision, project.name = current.revision, current.name
    return entry


# Projects as a whole


@transaction.atomic
def create(owner: User, document: Document, label: str = "Made the project") -> Project:
    """A new project with ``document``, owned by ``owner``. A name that one of their projects has gets
    a number."""
    document = replace(document, name=_free_name(owner, document.name))
    project = Project.objects.create(code=secrets.token_hex(5), name=document.name)
    Membership.objects.create(project=project, user=owner, role=Membership.Role.OWNER)
    empty = Loaded(Analysis(Document(name=document.name)), 0)
    record(project, empty, document, owner, label, kind=KIND.MADE)
    project.refresh_from_db()
    return project


def _free_name(owner: User, wanted: str) -> str:
    """A name that no project of a person has."""
    taken = set(Project.objects.with_role_of(owner).values_list("name", flat=True))
    name, number = wanted, 2
    while name in taken:
        name, number = f"{wanted[:110]} {number}", number + 1
    return name


@transaction.atomic
def copy(project: Project, owner: User, name: str) -> Project:
    """A project of its own with the same document, owned by ``owner``."""
    document = replace(load(project).document, name=name)
    return create(owner, document, f"Copied from {project.name}")


def begin_line(project: Project, name: str) -> Project:
    """The project on a new line beside its main one, which leaves that at the newest revision."""
    with transaction.atomic():
        current = Project.objects.select_for_update().get(pk=project.pk)
        line = Line.objects.create(
            project=current, name=name, base=current.revision, revision=current.revision
        )
    return current.on(line)


def rename(project: Project, actor: User, name: str) -> Saved:
    """Give the project another name."""
    return save(project, RenameProject(name), actor)


def delete(project: Project) -> None:
    """Put the project away; it can be brought back."""
    Project.objects.filter(pk=project.pk).update(deleted_at=timezone.now())


def restore(project: Project) -> None:
    """Restore a deleted project."""
    Project.objects.filter(pk=project.pk).update(deleted_at=None)


def purge_deleted() -> int:
    """Remove for good what was deleted longer ago than ``KEPT``; returns how many."""
    old = Project.objects.deleted().filter(deleted_at__lt=timezone.now() - KEPT)
    count = old.count()
    old.delete()
    return count
