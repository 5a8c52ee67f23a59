"""Loading the document of a project, at its newest revision or an older one."""

from __future__ import annotations

import json
import threading
from collections import OrderedDict
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.compare.diff import Operation, apply, inverse
from prism.compare.earlier import operations_from
from prism.compare.rows import unflatten
from prism.errors import PrismError
from prism.model.document import Document
from studio.store import tables
from studio.store.models import JournalEntry, Line
from studio.store.models import Project as Project

_CACHED_PROJECTS = 24
_FARTHEST_BACK = 400
#: Older revisions that are kept for pages that were shown before somebody stored something.
_OLDER = 16
_older: OrderedDict[tuple[tuple[int, int], int], Loaded] = OrderedDict()
_cache: OrderedDict[tuple[int, int], Loaded] = OrderedDict()
_lock = threading.Lock()


class StaleError(PrismError):
    """A write against a revision that cannot be found."""


@dataclass(frozen=True, slots=True)
class Loaded:
    """What follows from a project's document, and the revision that it was stored as."""

    analysis: Analysis
    revision: int

    @property
    def document(self) -> Document:
        """The document itself."""
        return self.analysis.document


def load(project: Project) -> Loaded:
    """The project's document at the revision ``project`` was read at or a later one.

    A cached document that is behind is brought up to date by the journal's operations.
    """
    with _lock:
        cached = _cache.get(project.place)
    if cached is not None and cached.revision == project.revision:
        return cached
    if cached is not None and cached.revision < project.revision:
        loaded = _catch_up(project, cached)
    else:
        loaded = _read(project)
    remember(project, loaded)
    return loaded


def _read(project: Project) -> Loaded:
    """Read a whole document, again where somebody stored something meanwhile."""
    if project.line is not None:
        return _read_line(project, project.line)
    pk = project.pk
    while True:
        current = Project.objects.get(pk=pk)
        document = unflatten(tables.read(current))
        if Project.objects.filter(pk=pk, revision=current.revision).exists():
            return Loaded(Analysis(document), current.revision)


def _read_line(project: Project, line: Line) -> Loaded:
    """The document that another line left the main one with, and what was stored on it since."""
    main = Project.objects.get(pk=project.pk)
    left = at(main, line.base, farthest=main.revision)
    entries = list(project.journal)
    operations = [operation for entry in entries for operation in operations_of(entry)]
    newest = entries[-1].revision if entries else line.base
    return Loaded(Analysis(apply(left.document, operations), left.analysis), newest)


def _catch_up(project: Project, cached: Loaded) -> Loaded:
    entries = list(project.journal.since(cached.revision))
    expected = list(range(cached.revision + 1, cached.revision + 1 + len(entries)))
    if not entries or [entry.revision for entry in entries] != expected:
        return _read(project)
    operations = [operation for entry in entries for operation in operations_of(entry)]
    document = apply(cached.document, operations)
    return Loaded(Analysis(document, cached.analysis), entries[-1].revision)


def remember(project: Project, loaded: Loaded) -> None:
    """Keep what was loaded or stored of a line, where nothing newer is kept."""
    place = project.place
    with _lock:
        known = _cache.get(place)
        if known is None or known.revision <= loaded.revision:
            if known is not None and known.revision < loaded.revision:
                _keep_older(place, known)
            _cache[place] = loaded
        _cache.move_to_end(place)
        while len(_cache) > _CACHED_PROJECTS:
            _cache.popitem(last=False)


def forget_all() -> None:
    """Empty the cache; for tests that roll the database back."""
    with _lock:
        _cache.clear()
        _older.clear()


def operations_of(entry: JournalEntry) -> list[Operation]:
    """The operations a journal entry holds."""
    return operations_from(json.loads(entry.operations))


def history(project: Project, key: str, limit: int = 12) -> list[JournalEntry]:
    """The newest journal entries that changed a token or one of its values."""
    entries = project.journal.of_token(key).select_related("actor")
    return list(entries.defer("operations", "command", "tokens")[:limit])


def changed_since(project: Project, revision: int) -> set[str]:
    """Keys of the tokens that were changed after ``revision``."""
    entries = project.journal.since(revision).values_list("tokens", flat=True)
    return {key for tokens in entries for key in tokens}


def at(project: Project, revision: int, farthest: int = _FARTHEST_BACK) -> Loaded:
    """The document as it was at ``revision``, at most ``farthest`` revisions ago.

    Raises ``StaleError`` where there was none.
    """
    loaded = load(project)
    if revision == loaded.revision:
        return loaded
    if not 0 <= revision < loaded.revision or loaded.revision - revision > farthest:
        raise StaleError(
            "This page is too old: its state of the project cannot be found any more.",
            fix="Nothing was stored. Load the page again.",
        )
    with _lock:
        older = _older.get((project.place, revision))
    if older is None:
        entries = project.journal.since(revision).filter(revision__lte=loaded.revision)
        operations = [operation for entry in entries for operation in operations_of(entry)]
        document = apply(loaded.document, inverse(operations))
        older = Loaded(Analysis(document, loaded.analysis), revision)
    with _lock:
        _keep_older(project.place, older)
    return older


def _keep_older(place: tuple[int, int], loaded: Loaded) -> None:
    """Keep a revision that can no longer change; the lock is held."""
    _older[place, loaded.revision] = loaded
    _older.move_to_end((place, loaded.revision))
    while len(_older) > _OLDER:
        _older.popitem(last=False)
