"""Where tokens stand in the files that were read: file and line."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from prism.model.document import Document, shown_path
from prism.model.names import own_name


@dataclass(frozen=True, slots=True)
class Place:
    """A file by its name, and a line in it, from 1."""

    file: str
    line: int


#: A name of a JSON member or any other string, or a mark that opens or closes.
_MARKS = re.compile(r'"(?:[^"\\]|\\.)*"|[{}\[\]:,]')
_PROPERTY = re.compile(r"(?<![\w-])--((?:[^\s:;{}\\]|\\.)+)\s*:")
#: Members between the top of a file and its groups, in resolver documents.
_WRAPPERS = ("sets", "modifiers", "sources", "contexts")


def places(document: Document, files: Mapping[str, bytes]) -> dict[str, Place]:
    """Where each token of a document first stands in ``files``, by its shown path; what is not found is left out."""
    by_name = {own_name(token): shown_path(token.path) for token in document.tokens}
    by_path = {shown_path(token.path) for token in document.tokens}
    places: dict[str, Place] = {}
    order = {source.file: number for number, source in reversed([*enumerate(document.sources)])}
    for file, data in sorted(files.items(), key=lambda entry: order.get(entry[0], len(order))):
        text = data.decode("utf-8", "replace")
        if file.endswith(".json"):
            spots = ((path, line) for path, line in _json_spots(text) if path in by_path)
        else:
            spots = ((by_name[n], line) for n, line in _properties(text) if n in by_name)
        for path, line in spots:
            places.setdefault(path, Place(file, line))
    return places


def _properties(text: str) -> Iterator[tuple[str, int]]:
    """Custom properties of a style sheet, without their dashes, with their lines."""
    line, position = 1, 0
    for match in _PROPERTY.finditer(text):
        line += text.count("\n", position, match.start())
        position = match.start()
        yield match[1].replace("\\", ""), line


def _json_spots(text: str) -> Iterator[tuple[str, int]]:
    """Paths of the members of a JSON text with their lines, also of those below what wraps groups."""
    line, position = 1, 0
    stack: list[str] = []
    name, last = "", ""
    for match in _MARKS.finditer(text):
        line += text.count("\n", position, match.start())
        position = match.start()
        mark = match[0]
        if mark.startswith('"'):
            last = mark
        elif mark == ":":
            try:
                name = json.loads(last, strict=False)
            except ValueError:
                name = ""
            yield from ((path, line) for path in _paths([*stack, name]))
        elif mark in "{[":
            stack.append(name)
            name = ""
        elif mark in "}]":
            name = stack.pop() if stack else ""


def _paths(names: list[str]) -> Iterator[str]:
    """The paths that a chain of member names may mean: all of it, and what lies in a wrapper."""
    plain = [name for name in names if name]
    if plain and plain[-1].startswith("$") and plain[-1] != "$root":
        return
    yield ".".join(part for part in plain if part != "$root")
    for place, name in enumerate(plain):
        if name in _WRAPPERS:
            for skipped in (place + 1, place + 2, place + 3):
                yield ".".join(part for part in plain[skipped:] if part != "$root")
