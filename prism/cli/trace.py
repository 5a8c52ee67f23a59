"""The command trace."""

from __future__ import annotations

import click

from prism.cli.group import file_argument, main, maps_option, theme_option
from prism.cli.printing import show
from prism.cli.reading import load, theme_for
from prism.errors import PrismError
from prism.expressions.values import nearest, value_text
from prism.model.document import shown_path
from prism.model.names import condition_words
from prism.resolution.current import resolver_of


@main.command()
@file_argument
@click.argument("path")
@theme_option
@maps_option
def trace(file: str, path: str, wanted: tuple[str, ...], maps: tuple[str, ...]) -> None:
    """Print the trace of the token PATH, hop by hop."""
    document = load(file, maps)
    token = document.token_at(path.strip("{}"))
    if token is None:
        paths = [shown_path(known.path) for known in document.tokens]
        raise PrismError(f"{{{path}}} does not exist.", fix=nearest(path, paths))
    resolver = resolver_of(document)
    rows = []
    for hop in resolver.trace(token.key, theme_for(resolver, wanted)):
        here = document.token(hop.token)
        assert here is not None
        stored = value_text(hop.value) if hop.value is not None else "no value"
        result = hop.answer.broken or hop.answer.hex or hop.answer.css
        indent = "  " * hop.depth
        rows.append(
            (f"{indent}{here.path}", condition_words(document, hop.condition), stored, result)
        )
    show(shown_path(token.path), ("token", "holds for", "stored", "result"), rows)
