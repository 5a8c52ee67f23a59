"""The commands edit and commands: the same edits as in the application."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import click

from prism import edits
from prism.cli.group import file_argument, main, maps_option
from prism.cli.printing import show, write_files
from prism.cli.reading import load
from prism.commands.command import field_names, list_fields
from prism.errors import PrismError
from prism.expressions.syntax import reference_of
from prism.formats import files
from prism.model.document import Axis, Document
from prism.resolution.current import resolver_of

#: The key of what a command adds, unless it is given.
KEY = "added"
#: Fields that name a mode of the axis that is given.
_MODES = ("mode", "source", "target", "stays")


@main.command()
@file_argument
@click.argument("command")
@click.argument("fields", nargs=-1, metavar="[FIELD=VALUE]...")
@click.option(
    "-o", "folder", required=True, type=click.Path(file_okay=False, path_type=Path),
    help="Where the edited Design Tokens files go.",
)  # fmt: skip
@maps_option
def edit(
    file: str, command: str, fields: tuple[str, ...], folder: Path, maps: tuple[str, ...]
) -> None:
    """Run COMMAND on FILE and export the result; `commands` lists them.

    Tokens are named by path, axes and modes by name. Lists are separated by commas; other values of
    several parts are JSON. For cells, give tokens, axis and modes.
    """
    document = load(file, maps)
    made = edits.from_fields(command, _values(document, command, fields))
    outcome = made.run(document)
    after = outcome.document
    written, losses = files.write(after, "design-tokens", resolver_of(after).default_theme)
    write_files(folder, written)
    for line in (f"{outcome.sentence}.", *losses):
        click.echo(line, err=True)


def _values(document: Document, command: str, fields: Sequence[str]) -> dict[str, Any]:
    """The fields of a command as they were typed, with keys in place of paths and names."""
    texts = {}
    for pair in fields:
        name, equals, value = pair.partition("=")
        if not equals:
            raise PrismError(f"“{pair[:40]}” is not a field.", fix="Write it as FIELD=VALUE.")
        texts[name] = value
    cls = edits.COMMANDS.get(command)
    names = field_names(cls) if cls else []
    lists = {"tokens", "modes", *(list_fields(cls) if cls else ())}
    axis = next((axis for axis in document.axes if axis.name == texts.get("axis")), None)
    values: dict[str, Any] = {"key": KEY}
    for name, text in texts.items():
        given: Any = text.split(",") if name in lists else _parsed(text, name)
        values[name] = _keys(document, axis, name, given)
    if "cells" in names and "cells" not in values:
        parts = {name: values.pop(name) for name in ("tokens", "axis", "modes") if name in values}
        values["cells"] = parts if parts else {}
    return values


def _parsed(text: str, name: str) -> Any:
    if not text.startswith(("[", "{")) or reference_of(text):
        return text
    try:
        return json.loads(text)
    except (ValueError, RecursionError):
        raise PrismError("This is not JSON.", place=name) from None


def _keys(document: Document, axis: Axis | None, name: str, value: Any) -> Any:
    """What a field names by path or by name, by key."""
    if isinstance(value, list):
        return [_keys(document, axis, name.removesuffix("s"), item) for item in value]
    if name == "axis" and axis is not None:
        return axis.key
    if name in ("token", "into", "step") and isinstance(value, str):
        token = document.token_at(value.strip("{}"))
        return token.key if token else value
    if name in _MODES and axis is not None:
        return next((mode.key for mode in axis.modes if mode.name == value), value)
    return value


@main.command()
def commands() -> None:
    """List all commands for `edit`, with their fields."""
    rows = [
        (name, " ".join(field_names(cls)), (cls.__doc__ or "").strip().split("\n")[0])
        for name, cls in edits.COMMANDS.items()
    ]
    show("", ("command", "fields", ""), rows)
