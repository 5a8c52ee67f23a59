"""Reading documents and themes from what the command line names."""

from __future__ import annotations

import itertools
import math
import os
import sys
from collections.abc import Iterable, Sequence
from pathlib import Path

import click

from prism.errors import FormatError, PrismError
from prism.formats import files, strict_json
from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.model.document import Document
from prism.resolution.resolver import Resolver, Theme

#: Themes that are computed for one command at most.
MOST_THEMES = 10_000
#: Where a command keeps what it skipped.
_SKIPPED = "nimble-prism.skipped"


def load(source: str, maps: Sequence[str] = (), prefix: str = "k") -> Document:
    """The document in a file, in a folder, or on standard input (``-``).

    Parts without a key of their own get ``prefix`` and a number.
    """
    numbers = itertools.count(1)
    imported = files.read(
        read_bytes(source), lambda: f"{prefix}{next(numbers)}", dict(map(_map, maps))
    )
    context = click.get_current_context(silent=True)
    if context is not None:
        context.meta[_SKIPPED] = [*context.meta.get(_SKIPPED, ()), *imported.skipped]
    for declaration in imported.skipped:
        click.echo(
            f"Skipped: line {declaration.line}, {declaration.name} in {declaration.selector}: "
            f"{declaration.reason}.",
            err=True,
        )
    return imported.document


def skipped() -> list[SkippedDeclaration]:
    """What the present command skipped of the files that it read."""
    context = click.get_current_context(silent=True)
    found: list[SkippedDeclaration] = context.meta.get(_SKIPPED, []) if context is not None else []
    return found


def folder_of(source: str) -> str:
    """The folder that the names of ``read_bytes`` are meant from, seen from where the command was called."""
    path = Path(source)
    return os.path.relpath(path if path.is_dir() else path.parent)


def _map(text: str) -> tuple[str, tuple[str, str]]:
    selector, _, meaning = text.rpartition("=")
    axis, colon, mode = meaning.partition(":")
    if not (selector and axis and colon and mode):
        raise PrismError(f"“{text}” is not a map.", fix="Write it as SELECTOR=axis:mode.")
    return selector, (axis, mode)


def read_bytes(source: str) -> dict[str, bytes]:
    if source == "-":
        return {"-": sys.stdin.buffer.read()}
    path = Path(source)
    try:
        if path.is_dir():
            return _folder(path, sorted(p for p in path.rglob("*") if p.is_file()))
        if not path.is_file():
            raise FormatError("There is no such file.", place=source)
        if path.name.endswith(".resolver.json"):
            return _resolver(path)
        return {path.name: path.read_bytes()}
    except OSError as error:
        raise FormatError(f"The file cannot be read: {error.strerror}.", place=source) from None


def _resolver(path: Path) -> dict[str, bytes]:
    """A resolver document and the files it names, which lie beside it or in folders there."""
    data = path.read_bytes()
    read = {path.name: data}
    folder = path.parent.resolve()
    for name in sorted(_named_files(strict_json.read(data, path.name))):
        file = (path.parent / name).resolve()
        if file.is_relative_to(folder) and file.is_file():
            read[name] = file.read_bytes()
    return read


def _named_files(raw: object) -> set[str]:
    """Every file that a ``$ref`` of a resolver document names."""
    names: set[str] = set()
    work = [raw]
    while work:
        part = work.pop()
        if isinstance(part, dict):
            target = part.get("$ref")
            if isinstance(target, str) and not target.startswith("#"):
                names.add(target.split("#", 1)[0])
            work.extend(part.values())
        elif isinstance(part, list):
            work.extend(part)
    return names


def _folder(folder: Path, read_files: list[Path]) -> dict[str, bytes]:
    tokens = [p for p in read_files if p.name.endswith((".tokens.json", ".resolver.json"))]
    if not tokens:
        tokens = [p for p in read_files if p.name.endswith(".css")]
    if not tokens:
        tokens = [p for p in read_files if p.name.endswith(files.ENDINGS)]
        if len(tokens) > 1:
            raise FormatError(
                f"The folder contains {len(tokens)} files that cannot be read together.",
                place=str(folder),
                fix=f"Name one of them, such as {tokens[0].relative_to(folder)}.",
            )
    if not tokens:
        raise FormatError(
            "The folder contains no supported file.",
            place=str(folder),
            fix="Supported: " + ", ".join(files.ENDINGS) + ".",
        )
    return _named(folder, tokens)


def _named(folder: Path, files: Iterable[Path]) -> dict[str, bytes]:
    return {path.relative_to(folder).as_posix(): path.read_bytes() for path in files}


def themes_for(files: Resolver, wanted: Sequence[str]) -> list[Theme]:
    """The one theme that ``axis=mode`` words name, or all; ``PrismError`` for unknown ones."""
    if wanted:
        return [theme_for(files, wanted)]
    count = math.prod(len(axis.modes) for axis in files.document.axes)
    if count > MOST_THEMES:
        raise PrismError(
            f"There are {count:,} themes; {MOST_THEMES:,} are computed at once.",
            fix="Name one with --theme.",
        )
    return list(files.themes())


def theme_for(imported: Resolver, wanted: Sequence[str]) -> Theme:
    """The theme that ``axis=mode`` words name; every other axis at its default."""
    picks = {}
    for word in wanted:
        name, _, mode_name = word.partition("=")
        axis = next((axis for axis in imported.document.axes if axis.name == name), None)
        if axis is None:
            known = ", ".join(axis.name for axis in imported.document.axes) or "none"
            raise PrismError(f"There is no axis “{name}”.", fix=f"Axes: {known}.")
        mode = next((mode for mode in axis.modes if mode.name == mode_name), None)
        if mode is None:
            known = ", ".join(mode.name for mode in axis.modes)
            raise PrismError(f"{name} has no mode “{mode_name}”.", fix=f"Modes: {known}.")
        picks[axis.key] = mode.key
    return imported.theme(picks)
