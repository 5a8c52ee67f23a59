"""The command link."""

from __future__ import annotations

from pathlib import Path

import click

from prism.changes import linking
from prism.cli.group import file_argument, json_option, main, maps_option
from prism.cli.printing import show, show_json, write_files
from prism.cli.reading import load
from prism.formats import files
from prism.model.document import shown_path
from prism.model.names import condition_words
from prism.resolution.resolver import Resolver


@main.command()
@file_argument
@click.option(
    "-o", "folder", type=click.Path(file_okay=False, path_type=Path), help="Write the linked files."
)
@maps_option
@json_option
def link(file: str, folder: Path | None, maps: tuple[str, ...], as_json: bool) -> None:
    """Match literal colors of semantic tokens to the palette, each with its distance."""
    document = load(file, maps)
    proposal = linking.propose(document)

    def path(key: str) -> str:
        token = document.token(key)
        return shown_path(token.path) if token else key

    rows: list[tuple[str, ...]] = [
        (
            path(link.token),
            condition_words(document, link.condition),
            link.text,
            path(link.target),
            f"{link.distance:.2f}",
            link.closeness,
        )
        for link in proposal.links
    ]
    rows += [
        (
            path(color.token),
            condition_words(document, color.condition),
            color.text,
            "",
            "",
            "no match",
        )
        for color in proposal.unmatched
    ]
    heads = ("token", "holds for", "literal", "palette", "distance", "closeness")
    if as_json:
        show_json(literals=[dict(zip(heads, row, strict=True)) for row in rows])
    else:
        show("", heads, rows)
    if folder is not None:
        linked = linking.link(document, proposal.links)
        theme = Resolver(linked).default_theme
        write_files(folder, files.write(linked, "design-tokens", theme)[0])
