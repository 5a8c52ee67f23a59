"""The command link."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fnmatch import fnmatchcase
from pathlib import Path

import click

from prism.changes import links
from prism.cli.group import file_argument, json_option, main, maps_option
from prism.cli.printing import show, show_json, write_files
from prism.cli.reading import load
from prism.errors import PrismError
from prism.formats import files
from prism.model.document import TIERS, Document, Tier, Token, shown_path
from prism.model.names import condition_words
from prism.resolution.resolver import Resolver

HEADS = ("token", "holds for", "literal", "palette", "distance", "closeness")


@main.command()
@file_argument
@click.option(
    "-o", "folder", type=click.Path(file_okay=False, path_type=Path), help="Write the linked files."
)
@click.option(
    "--tier",
    "tiers",
    multiple=True,
    metavar="PATTERN=TIER",
    help="Which tokens are raw, semantic or component, such as 'color-*=raw'; the first that fits.",
)
@maps_option
@json_option
def link(
    file: str,
    folder: Path | None,
    tiers: tuple[str, ...],
    maps: tuple[str, ...],
    as_json: bool,
) -> None:
    """Match literal colors of semantic tokens to the palette, each with its distance.

    In a file without references all tokens are raw: say with --tier which are not.
    """
    document = _with_tiers(load(file, maps), [_tier(text) for text in tiers])
    proposal = links.propose(document)
    rows = _rows(document, proposal)
    if as_json:
        show_json(literals=[dict(zip(HEADS, row, strict=True)) for row in rows])
    else:
        show("", HEADS, rows)
    if folder is not None:
        linked = links.link(document, proposal.links)
        theme = Resolver(linked).default_theme
        write_files(folder, files.write(linked, "design-tokens", theme)[0])


def _rows(document: Document, proposal: links.Proposal) -> list[tuple[str, ...]]:
    """One row for each literal, as ``HEADS``: those with a match first."""

    def path(key: str) -> str:
        token = document.token(key)
        return shown_path(token.path) if token else key

    matched: list[tuple[str, ...]] = [
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
    unmatched: list[tuple[str, ...]] = [
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
    return matched + unmatched


def _tier(text: str) -> tuple[str, Tier]:
    pattern, _, name = text.rpartition("=")
    for tier in TIERS:
        if pattern and name == tier:
            return pattern, tier
    raise PrismError(f"“{text}” names no tier.", fix="Write PATTERN=raw, semantic or component.")


def _with_tiers(document: Document, tiers: Sequence[tuple[str, Tier]]) -> Document:
    """The document with each token in the tier of the first pattern that its path fits."""

    def placed(token: Token) -> Token:
        path = shown_path(token.path)
        tier = next((tier for pattern, tier in tiers if fnmatchcase(path, pattern)), token.tier)
        return token if tier == token.tier else replace(token, tier=tier)

    return replace(document, tokens=tuple(placed(token) for token in document.tokens))
