"""Printing tables, JSON and progress."""

from __future__ import annotations

import json
import sys
import time
from collections.abc import Iterable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any, TypeVar

import click
from rich.console import Console
from rich.progress import Progress
from rich.table import Table

from prism.cli.reading import skipped
from prism.contrast import unplaced
from prism.errors import FormatError
from prism.model.document import Document, Token
from prism.resolution.resolver import Theme

Item = TypeVar("Item")
#: The version of all JSON that is printed.
VERSION = 1
_PATIENCE = 1.0


def show(title: str, heads: Sequence[str], rows: Iterable[Sequence[str]]) -> None:
    """A table on a terminal, lines of tabs elsewhere."""
    if sys.stdout.isatty():
        table = Table(*heads, title=title or None)
        for row in rows:
            table.add_row(*row)
        Console().print(table)
        return
    if title:
        click.echo(f"# {title}")
    for row in rows:
        click.echo("\t".join(row))


def show_json(**members: Any) -> None:
    """Members as JSON text, with the version of their form, and what was skipped of the files that were read."""
    left = [
        {"name": s.name, "selector": s.selector, "reason": s.reason, "line": s.line}
        for s in skipped()
    ]
    shown = {"version": VERSION, **members, "skipped": left}
    click.echo(json.dumps(shown, ensure_ascii=False, indent=1))


def tell_unplaced(left: Sequence[Token]) -> Sequence[Token]:
    """Say which colors nobody judged, and hand them on."""
    if left:
        click.echo(f"{unplaced.sentence(len(left))[:-1]}: {unplaced.named(left)}.", err=True)
    return left


def patiently(items: Sequence[Item], what: str) -> Iterator[Item]:
    """``items``, with a progress bar on a terminal once they have taken over a second."""
    started, progress, task = time.monotonic(), None, None
    try:
        for number, item in enumerate(items):
            yield item
            if progress is None and time.monotonic() - started > _PATIENCE:
                progress = Progress(console=Console(stderr=True), transient=True)
                progress.start()
                task = progress.add_task(what, total=len(items))
            if progress is not None and task is not None:
                progress.update(task, completed=number + 1)
    finally:
        if progress is not None:
            progress.stop()


def theme_names(document: Document, theme: Theme) -> dict[str, str]:
    """A theme as axis and mode names."""
    return {axis.name: axis.modes[theme[i]].name for i, axis in enumerate(document.axes)}


def theme_words(document: Document, theme: Theme) -> str:
    """A theme in words."""
    return ", ".join(f"{a} {m}" for a, m in theme_names(document, theme).items())


def write_files(folder: Path, files: Mapping[str, str], *, err: bool = False) -> None:
    """Write files into a folder and print their paths, with ``err`` to standard error. Raises
    ``FormatError`` where that fails."""
    for name, text in files.items():
        target = folder / name
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_text(text, encoding="utf-8")
        except OSError as error:
            raise FormatError(
                f"The file cannot be written: {error.strerror}.", place=str(target)
            ) from None
        click.echo(target, err=err)
