"""Files or text read into a project: at once, or as a long task where there is much to read."""

from __future__ import annotations

import io
import itertools
import zipfile
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import asdict, dataclass, replace
from typing import Any

from django.contrib.auth.models import User

from prism.commands.names import counted
from prism.errors import PrismError
from prism.exchange.commands import ImportDocument
from prism.exchange.replacement import replacing
from prism.formats import archive
from prism.formats import files as formats
from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.model.document import TIERS, Document
from prism.modes.schemes import with_schemes
from prism.palette import imports
from prism.vision.first_sets import with_sets
from studio.store import projects as store
from studio.store.projects import Project

#: Bytes that are read while somebody waits for the page; more are a long task.
WHILE_WAITING = 600_000
#: Reasons, and names under a reason, that the report on an import says at most.
MOST_REASONS, MOST_NAMED = 40, 100
#: Paths, and values that differ, that are shown before tokens are replaced; the others are counted.
MOST_PATHS, MOST_CHANGED = 12, 40


@dataclass(frozen=True, slots=True)
class Incoming:
    """What is imported, files by name or a text, and how: ``values`` are the fields of the form."""

    files: Mapping[str, bytes]
    text: str
    values: Mapping[str, Any]

    @property
    def size(self) -> int:
        """Bytes, and characters of the text."""
        return sum(len(data) for data in self.files.values()) + len(self.text)

    def packed(self) -> bytes:
        """The files and the text as one archive, for a long task."""
        held = io.BytesIO()
        with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as packed:
            packed.writestr("text", self.text)
            for number, data in enumerate(self.files.values()):
                packed.writestr(f"file-{number}", data)
        return held.getvalue()

    @property
    def fields(self) -> dict[str, Any]:
        """What a long task keeps beside the archive."""
        names = ("into", "duplicates", "name", "revision")
        return {"names": list(self.files)} | {name: self.values[name] for name in names}


def unpacked(data: bytes, fields: Mapping[str, Any]) -> Incoming:
    """What ``Incoming.packed`` and ``fields`` hold."""
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        text = packed.read("text").decode()
        files = {name: packed.read(f"file-{number}") for number, name in enumerate(fields["names"])}
    return Incoming(files, text, fields)


@dataclass(frozen=True, slots=True)
class ImportResult:
    """The project it was imported into, what is said of it, and what was skipped."""

    project: Project
    sentence: str
    remarks: tuple[str, ...]


def import_into(incoming: Incoming, project: Project, user: User) -> ImportResult:
    """Read what is imported and store it in ``project`` or in a new one. Raises ``PrismError``."""
    read, others = _read(incoming)
    target = _store(project, user, incoming.values, read.document)
    remarks = [f"Skipped, not token files: {', '.join(others)}."] if others else []
    remarks += [" ".join(_skipped(read.skipped))] if read.skipped else []
    return ImportResult(target, _sentence(read.document), tuple(remarks))


def asks_first(incoming: Incoming, project: Project) -> bool:
    """Whether an import would take the place of tokens, and nobody has seen yet what it replaces."""
    return incoming.values["into"] == "here" and bool(store.load(project).document.tokens)


def review(incoming: Incoming, project: Project) -> dict[str, Any]:
    """What an import would delete, change and add, for its page. Raises ``PrismError``."""
    read, _ = _read(incoming)
    found = replacing(store.load(project).document, read.document)
    changed = [asdict(one) for one in found.changed[:MOST_CHANGED]]
    return {
        "new": {"count": len(found.new), "first": found.new[:MOST_PATHS]},
        "gone": {"count": len(found.gone), "first": found.gone[:MOST_PATHS]},
        "changed": {"count": len(found.changed), "first": changed},
        "same": found.same,
        "besides": [counted(count, noun) for noun, count in found.besides],
        "skipped": list(_skipped(read.skipped)),
    }


def _read(incoming: Incoming) -> tuple[Any, list[str]]:
    """What the files or the text hold, with dark and light modes told apart, and the names of files that were skipped."""
    choice = incoming.values["duplicates"]
    others: list[str] = []
    if incoming.files:
        files, others = _unzipped(incoming.files)
        read = formats.read(files, store.new_key, choice=choice)
    else:
        read = imports.document_of_text(incoming.text, store.new_key, choice)
    return replace(read, document=with_schemes(read.document)), others


def _unzipped(files: Mapping[str, bytes]) -> tuple[Mapping[str, bytes], list[str]]:
    """Names and bytes of files, and names of what is no token file in an archive."""
    zips = [name for name in files if name.lower().endswith(".zip")]
    if zips and len(files) > 1:
        raise PrismError("An archive is imported alone.", fix="Choose the archive, or the files.")
    return archive.read(files[zips[0]], zips[0]) if zips else (files, [])


def _store(project: Project, user: User, values: Mapping[str, Any], document: Document) -> Project:
    name = values["name"].strip() or document.name or "Untitled"
    if values["into"] == "here":
        store.save(project, ImportDocument(name, document), user, values["revision"])
        return project
    document = with_sets(replace(document, name=name), store.new_key)
    return store.create(user, document, f"Imported {name}")


def _skipped(declarations: Iterable[SkippedDeclaration]) -> Iterator[str]:
    """Sentences on the declarations that did not become tokens, one for each reason."""
    names: dict[str, dict[str, None]] = {}
    for declaration in declarations:
        place = f" (line {declaration.line})" if declaration.line else ""
        names.setdefault(declaration.reason, {})[declaration.name + place] = None
    for reason, of_reason in itertools.islice(names.items(), MOST_REASONS):
        shown = ", ".join(itertools.islice(of_reason, MOST_NAMED))
        more = len(of_reason) - MOST_NAMED
        yield f"Skipped {shown}{f' and {more} more' if more > 0 else ''}: {reason}."
    if len(names) > MOST_REASONS:
        yield f"More was skipped, for {len(names) - MOST_REASONS} other reasons."


def _sentence(document: Document) -> str:
    """What was imported, with numbers."""
    axes = ", ".join(
        f"{axis.name} ({', '.join(mode.name for mode in axis.modes)})" for axis in document.axes
    )
    count = len(document.tokens)
    tiers = Counter(token.tier for token in document.tokens)
    parts = ", ".join(f"{tiers[tier]} {tier}" for tier in reversed(TIERS) if tiers[tier])
    sentence = f"{count} token{'' if count == 1 else 's'} imported ({parts})"
    word = "axis" if len(document.axes) == 1 else "axes"
    return f"{sentence}, with {word} {axes}." if axes else f"{sentence}."
