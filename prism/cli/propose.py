"""The command propose."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import click

from prism.cli.group import file_argument, json_option, main, maps_option
from prism.cli.printing import show, show_json, theme_words, write_files
from prism.cli.reading import load
from prism.derive import counterpart
from prism.errors import FormatError, PrismError
from prism.expressions.values import value_text
from prism.formats import files
from prism.model.document import Document, shown_path
from prism.model.names import named_picks
from prism.resolution import contrast
from prism.resolution.current import resolver_of
from prism.roles.guess import guess

_NOTHING = "The names of the colors do not say what stands on what, so nothing can be judged."


@main.command()
@file_argument
@click.option("--as", "scheme", required=True, type=click.Choice(["dark", "light"]))
@click.option("--axis", "axis_name", help="The axis that gets the mode; appearance if left out.")
@click.option("--from", "source_name", help="The mode it is made from; the default if left out.")
@click.option("--name", help="What the mode is called; dark or light if left out.")
@click.option(
    "-o", "folder", required=True, type=click.Path(file_okay=False, path_type=Path),
    help="Where the Design Tokens files go.",
)  # fmt: skip
@maps_option
@json_option
@click.pass_context
def propose(
    ctx: click.Context,
    file: str,
    scheme: str,
    axis_name: str | None,
    source_name: str | None,
    name: str | None,
    folder: Path,
    maps: tuple[str, ...],
    as_json: bool,
) -> None:
    """Propose a dark or light counterpart of a mode of FILE, by what each color is for.

    A file without the axis gets it; its values become the other mode, called as --from says. Exit
    with 1 where a rule still fails, and with 2 where there is nothing to judge.
    """
    document = load(file, maps)
    axis, source = _place(document, axis_name, source_name)
    resolver = resolver_of(document)
    place = counterpart.NewMode(axis, source, name or scheme, axis_name or "appearance")
    known = guess(document, resolver)
    made = counterpart.propose(document, resolver, known, dark=scheme == "dark", place=place)
    if not made.pairs:
        raise FormatError(_NOTHING, place=file, fix="See what the command roles makes of them.")
    written, losses = files.write(made.document, "design-tokens", resolver.default_theme)
    if as_json:
        _show_json(made)
    elif made.after:
        head = ("falls short", "theme", "ratio", "needs", "why")
        show("", head, [_row(made.document, short) for short in made.after])
    write_files(folder, written, err=as_json)
    click.echo(
        f"{len(made.values)} colors proposed for {len(made.pairs)} pairings; "
        f"{len(made.before)} readings fell short before, {len(made.after)} fall short now.",
        err=True,
    )
    for line in losses:
        click.echo(line, err=True)
    if made.after:
        ctx.exit(1)


def _show_json(made: counterpart.Proposal) -> None:
    document = made.document
    values = {
        _path(document, key): [
            {"when": named_picks(document, condition), "value": value_text(value)}
            for condition, value in held.items()
        ]
        for key, held in made.values.items()
    }
    show_json(
        values=values,
        judged=len(made.pairs),
        before=[_members(document, short) for short in made.before],
        after=[_members(document, short) for short in made.after],
    )


def _path(document: Document, key: str) -> str:
    token = document.token(key)
    return shown_path(token.path) if token else key


def _members(document: Document, short: counterpart.Short) -> dict[str, Any]:
    reading = short.reading
    return {
        "foreground": _path(document, short.pairing.foreground),
        "background": _path(document, short.pairing.backgrounds[0]),
        "colors": {"foreground": reading.foreground, "background": reading.background},
        "ratio": reading.ratio,
        "required": reading.required,
        "why": short.why or None,
    }


def _row(document: Document, short: counterpart.Short) -> tuple[str, ...]:
    return (
        contrast.summary(document, short.pairing),
        theme_words(document, short.reading.theme),
        short.reading.shown,
        f"{short.reading.required:g}",
        short.why,
    )


def _place(document: Document, axis_name: str | None, source_name: str | None) -> tuple[str, str]:
    """The keys of the axis and of the mode to start from; without the axis, what is to be the name of
    that mode."""
    wanted = axis_name or "appearance"
    axis = next((axis for axis in document.axes if axis.name == wanted), None)
    if axis is None:
        return "", source_name or ""
    if source_name is None:
        return axis.key, axis.default
    for mode in axis.modes:
        if mode.name == source_name:
            return axis.key, mode.key
    names = ", ".join(mode.name for mode in axis.modes)
    raise PrismError(f"There is no mode “{source_name}”.", fix=f"Modes of {axis.name}: {names}.")
