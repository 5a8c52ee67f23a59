"""The commands edit and commands: the same edits as in the application."""

from __future__ import annotations

from pathlib import Path

import click

from prism import edits
from prism.cli.group import file_argument, main, maps_option
from prism.cli.printing import show, write_files
from prism.cli.reading import load
from prism.edits.command import field_names
from prism.errors import PrismError
from prism.formats import files
from prism.resolution.current import resolver_of

#: The key of what a command adds, unless it is given.
KEY = "added"


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

    Tokens are named by path, axes and modes by name.
    """
    document = load(file, maps)
    values = {"key": KEY}
    for pair in fields:
        name, equals, value = pair.partition("=")
        if not equals:
            raise PrismError(f"“{pair[:40]}” is not a field.", fix="Write it as FIELD=VALUE.")
        token = document.token_at(value) if name in ("token", "into") else None
        axis = next((one for one in document.axes if one.name == value), None)
        values[name] = token.key if token else axis.key if axis and name == "axis" else value
    made = edits.from_fields(command, values)
    sentence = made.sentence(document)
    after = made.apply(document)
    written, losses = files.write(after, "design-tokens", resolver_of(after).default_theme)
    write_files(folder, written)
    for line in (f"{sentence}.", *losses):
        click.echo(line, err=True)


@main.command()
def commands() -> None:
    """List all commands for `edit`, with their fields."""
    rows = [
        (name, " ".join(field_names(cls)), (cls.__doc__ or "").strip().split("\n")[0])
        for name, cls in edits.COMMANDS.items()
    ]
    show("", ("command", "fields", ""), rows)
