"""Loading a project's document, and the one way to change it."""

import json
import secrets
import threading
from collections import OrderedDict
from dataclasses import dataclass, field, replace
from datetime import timedelta
from functools import cached_property

from django.db import transaction
from django.utils import timezone

from prism.compare.diff import Operation, apply, diff_tables, inverse
from prism.compare.merge import clashing, merge
from prism.compare.rows import condition_text, flatten, unflatten
from prism.errors import PrismError
from prism.tokens.edit import refuse_broken
from prism.tokens.kept import resolver_of
from prism.tokens.model import Document
from prism.tokens.resolve import Resolver
from prism.tokens.tables import Tables
from studio.store import tables
from studio.store.models import JournalEntry, Membership, Project

_CACHED_PROJECTS = 24
_FARTHEST_BACK = 400
#: How long a deleted project can be brought back.
KEPT = timedelta(days=30)
_cache = OrderedDict()
_lock = threading.Lock()


class StaleError(PrismError):
    """A write against a revision that cannot be found."""


class ClashError(PrismError):
    """A write that changed what somebody else has changed meanwhile; ``clashes`` says what."""

    def __init__(self, clashes):
        super().__init__(
            clashing(clashes), mend="Nothing of yours was stored yet: choose, and store again."
        )
        self.clashes = clashes


@dataclass(frozen=True)
class Loaded:
    """A document at a revision, with its resolver and room for what is computed from both.

    ``carried`` is what was computed of the document that this one was made from.
    """

    document: Document
    revision: int
    before: Resolver | None = field(default=None, compare=False, repr=False)
    known_rows: tuple | None = field(default=None, compare=False, repr=False)
    derived: dict = field(default_factory=dict, compare=False, repr=False)
    carried: dict = field(default_factory=dict, compare=False, repr=False)

    @cached_property
    def resolver(self):
        """The document's resolver; what no change reached keeps its answers."""
        return resolver_of(self.document, self.before)

    @cached_property
    def flat(self):
        """The document as rows; those that the one before had too are the same objects."""
        return flatten(self.document, self.known_rows)

    @cached_property
    def tables(self):
        """All answers of the document's tokens, made when they are asked for."""
        return Tables(self.resolver)

    @property
    def known(self):
        """The resolver, where it was needed already."""
        return self.__dict__.get("resolver")

    def once(self, name, compute):
        """The result of ``compute()`` for this revision, computed at most once."""
        if name not in self.derived:
            self.derived[name] = compute()
        return self.derived[name]


def new_key():
    """A fresh key for a part of a document."""
    return secrets.token_hex(6)


def load(project):
    """The project's document at the revision ``project`` was read at or a later one.

    A cached document that is behind is brought up to date by the journal's operations.
    """
    with _lock:
        cached = _cache.get(project.pk)
    if cached is not None and cached.revision == project.revision:
        return cached
    if cached is not None and cached.revision < project.revision:
        loaded = _catch_up(project, cached)
    else:
        loaded = _read(project.pk)
    _remember(project.pk, loaded)
    return loaded


@transaction.atomic
def _read(pk):
    """Read a whole document; the lock on its project keeps writers out meanwhile."""
    current = Project.objects.select_for_update().get(pk=pk)
    return Loaded(unflatten(tables.read(current)), current.revision)


def _catch_up(project, cached):
    entries = list(project.journal.since(cached.revision))
    expected = list(range(cached.revision + 1, cached.revision + 1 + len(entries)))
    if not entries or [entry.revision for entry in entries] != expected:
        return _read(project.pk)
    document = cached.document
    for entry in entries:
        document = apply(document, operations_of(entry))
    return Loaded(document, entries[-1].revision, cached.known)


def _remember(pk, loaded):
    with _lock:
        known = _cache.get(pk)
        if known is None or known.revision <= loaded.revision:
            _cache[pk] = loaded
        _cache.move_to_end(pk)
        while len(_cache) > _CACHED_PROJECTS:
            _cache.popitem(last=False)


def forget_all():
    """Empty the cache; for tests that roll the database back."""
    with _lock:
        _cache.clear()


def operations_of(entry):
    """The operations a journal entry holds."""
    return [Operation(**plain) for plain in json.loads(entry.operations)]


def history(project, key, limit=12):
    """The newest journal entries that touch a token."""
    return list(project.journal.touching(key).select_related("actor")[:limit])


def changed_since(project, revision):
    """Keys of the tokens that were changed after ``revision``."""
    found = set()
    for entry in project.journal.since(revision):
        for one in operations_of(entry):
            if one.kind in ("token", "value"):
                found.add(one.key.split(" ", 1)[0])
    return found


def at(project, revision):
    """The document as it was at ``revision``. Raises ``StaleError`` where there was none."""
    loaded = load(project)
    if revision == loaded.revision:
        return loaded
    if not 0 < revision < loaded.revision or loaded.revision - revision > _FARTHEST_BACK:
        raise StaleError(
            "This was made against a state of the project that cannot be found any more.",
            mend="Nothing of yours was stored; look at what is there now and store again.",
        )
    document = loaded.document
    for entry in reversed(project.journal.since(revision)):
        if entry.revision <= loaded.revision:
            document = apply(document, inverse(operations_of(entry)))
    return Loaded(document, revision)


def save(project, before, after, actor, label, *, kind=JournalEntry.Kind.EDIT, reverts=None):
    """Store ``after``, which was made from the loaded ``before``; the only writer.

    Everything happens in one transaction: the rows, the journal entry, the revision. What others
    have stored since ``before`` is kept: both changes are merged, or ``ClashError`` is raised
    where they touch the same thing. Returns what is stored now.
    """
    with transaction.atomic():
        current = Project.objects.select_for_update().get(pk=project.pk)
        if current.revision != before.revision:
            before, after = _merged(current, before, after)
        stored = Loaded(
            after,
            before.revision + 1,
            before.known,
            (before.document, before.flat),
            carried=before.derived,
        )
        old, new = before.flat, stored.flat
        operations = diff_tables(old, new)
        if not operations:
            return before
        tables.write(current, old, new, operations)
        current.revision += 1
        current.changed_at = timezone.now()
        current.save()
        if kind == JournalEntry.Kind.EDIT:
            JournalEntry.objects.filter(
                project=current, actor=actor, state=JournalEntry.State.UNDONE
            ).update(state=JournalEntry.State.DISCARDED)
        JournalEntry.objects.create(
            project=current,
            revision=current.revision,
            actor=actor,
            kind=kind,
            reverts=reverts,
            label=label[:300],
            operations=json.dumps([one.plain() for one in operations], ensure_ascii=False),
        )
    transaction.on_commit(lambda: _remember(project.pk, stored))
    project.revision = current.revision
    project.name = current.name
    return stored


def note_kept(project, actor, token, condition, label):
    """Write into the journal that somebody let the stored value of a cell stand; nothing changes.

    Raises ``StaleError`` where there is no such value any more.
    """
    with transaction.atomic():
        current = Project.objects.select_for_update().get(pk=project.pk)
        loaded = load(current)
        key = f"{token} {condition_text(condition)}"
        row = loaded.flat.rows["value"].get(key)
        if row is None:
            raise StaleError("That value is no longer there.", mend="Look at what is there now.")
        same = Operation("set", "value", key, "text", row["text"], row["text"])
        stored = replace(loaded, revision=current.revision + 1)
        current.revision = stored.revision
        current.save()
        JournalEntry.objects.create(
            project=current,
            revision=current.revision,
            actor=actor,
            kind=JournalEntry.Kind.NOTE,
            label=label[:300],
            operations=json.dumps([same.plain()], ensure_ascii=False),
        )
    transaction.on_commit(lambda: _remember(project.pk, stored))
    project.revision = current.revision


def _merged(current, before, after):
    """What is stored now, and it together with what ``after`` changed of ``before``."""
    theirs = load(current)
    merged = merge(before.document, after, theirs.document)
    if merged.clashes:
        raise ClashError(merged.clashes)
    known = {token.key: token for token in theirs.document.tokens}
    touched = [one.key for one in merged.document.tokens if known.get(one.key) != one]
    refuse_broken(merged.document, *touched)
    return theirs, merged.document


def undoable(project, actor):
    """The newest edit of ``actor`` that can be taken back, or None."""
    edits = project.journal.edits_of(actor).defer("operations")
    return edits.filter(state=JournalEntry.State.DONE).first()


def redoable(project, actor):
    """The edit of ``actor`` that was taken back last, or None."""
    edits = project.journal.edits_of(actor).defer("operations")
    return edits.filter(state=JournalEntry.State.UNDONE).last()


def undo(project, actor):
    """Take back the actor's newest edit; returns its journal entry, or None if there is none.

    Raises ``ConflictError`` where somebody has since changed the same thing.
    """
    return _swing(project, actor, undoable, JournalEntry.Kind.UNDO)


def redo(project, actor):
    """Do again what the actor took back last; as ``undo``."""
    return _swing(project, actor, redoable, JournalEntry.Kind.REDO)


@transaction.atomic
def _swing(project, actor, pick, kind):
    current = Project.objects.select_for_update().get(pk=project.pk)
    entry = pick(current, actor)
    if entry is None:
        return None
    before = load(current)
    back = kind == JournalEntry.Kind.UNDO
    operations = operations_of(entry)
    after = apply(before.document, inverse(operations) if back else operations)
    save(current, before, after, actor, f"{kind.label}: {entry.label}", kind=kind, reverts=entry)
    entry.state = JournalEntry.State.UNDONE if back else JournalEntry.State.DONE
    entry.save(update_fields=["state"])
    project.revision, project.name = current.revision, current.name
    return entry


# Projects as a whole


@transaction.atomic
def create(owner, document, label="Made the project"):
    """A new project with ``document``, owned by ``owner``."""
    project = Project.objects.create(code=secrets.token_hex(5), name=document.name)
    Membership.objects.create(project=project, user=owner, role=Membership.Role.OWNER)
    empty = Loaded(Document(name=document.name), 0)
    save(project, empty, document, owner, label, kind=JournalEntry.Kind.MADE)
    project.refresh_from_db()
    return project


@transaction.atomic
def copy(project, owner, name):
    """A project of its own with the same document, owned by ``owner``."""
    document = replace(load(project).document, name=name)
    return create(owner, document, f"Copied from {project.name}")


def rename(project, actor, name):
    """Give the project another name."""
    before = load(project)
    return save(project, before, replace(before.document, name=name), actor, f"Renamed to {name}")


def delete(project):
    """Put the project away; it can be brought back."""
    Project.objects.filter(pk=project.pk).update(deleted_at=timezone.now())


def bring_back(project):
    """Bring a deleted project back."""
    Project.objects.filter(pk=project.pk).update(deleted_at=None)


def purge_deleted():
    """Remove for good what was deleted longer ago than ``KEPT``; returns how many."""
    old = Project.objects.deleted().filter(deleted_at__lt=timezone.now() - KEPT)
    count = old.count()
    old.delete()
    return count
