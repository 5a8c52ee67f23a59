"""The command export."""

from __future__ import annotations

from pathlib import Path

import click

from prism.cli.group import file_argument, main, maps_option, theme_option
from prism.cli.printing import write_files
from prism.cli.reading import load, theme_for
from prism.formats import files
from prism.resolution.current import resolver_of


@main.command()
@file_argument
@click.option(
    "--format",
    "kind",
    required=True,
    type=click.Choice(list(files.KINDS)),
)
@click.option("-o", "folder", required=True, type=click.Path(file_okay=False, path_type=Path))
@theme_option
@maps_option
def export(
    file: str, kind: str, folder: Path, wanted: tuple[str, ...], maps: tuple[str, ...]
) -> None:
    """Export FILE to a folder in another format."""
    document = load(file, maps)
    theme = theme_for(resolver_of(document), wanted)
    written, remarks = files.write(document, kind, theme)
    write_files(folder, written)
    for remark in remarks:
        click.echo(remark, err=True)
