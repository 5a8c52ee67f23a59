"""The command resolve."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import click

from prism.cli.group import file_argument, json_option, main, maps_option, theme_option
from prism.cli.printing import patiently, show, show_json, theme_names
from prism.cli.reading import load, themes_for
from prism.model.document import Document
from prism.model.names import css_names
from prism.resolution.clipped import clipped_answers
from prism.resolution.current import resolver_of


def resolved(document: Document, wanted: Sequence[str], *, clipped: bool = False) -> dict[str, Any]:
    """Every token that is there, theme by theme, as JSON members; ``clipped``: as browsers show it."""
    resolver = resolver_of(document)
    answer_of = clipped_answers(document) if clipped else resolver.resolve
    names = css_names(document)
    themes = []
    for theme in patiently(themes_for(resolver, wanted), "Resolving"):
        tokens = {}
        for token in document.tokens:
            answer = answer_of(token.key, theme)
            if not answer.absent:
                tokens[token.path] = {
                    "type": answer.type,
                    "value": answer.css,
                    **({"hex": answer.hex} if answer.hex else {}),
                    "css_name": f"--{names[token.key]}",
                    "broken": answer.broken or None,
                }
        themes.append({"theme": theme_names(document, theme), "tokens": tokens})
    return {"themes": themes}


@main.command()
@file_argument
@theme_option
@maps_option
@click.option(
    "--clipped",
    is_flag=True,
    help="Colors outside sRGB as browsers show them: clipped, not mapped.",
)
@json_option
def resolve(
    file: str, wanted: tuple[str, ...], maps: tuple[str, ...], clipped: bool, as_json: bool
) -> None:
    """Print what every token resolves to, in all themes or in one."""
    written = resolved(load(file, maps), wanted, clipped=clipped)
    if as_json:
        show_json(**written)
        return
    for stated in written["themes"]:
        title = ", ".join(f"{axis} {mode}" for axis, mode in stated["theme"].items())
        rows = [
            (path, answer["type"], answer["broken"] or answer["value"])
            for path, answer in stated["tokens"].items()
        ]
        show(title, ("token", "type", "value"), rows)
