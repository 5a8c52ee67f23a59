"""The group of all commands, and the options that they share."""

from __future__ import annotations

from typing import Any

import click

from prism.errors import PrismError


class _Main(click.Group):
    """Prints an error of the core as one sentence and exits with 2."""

    def invoke(self, ctx: click.Context) -> Any:
        try:
            return super().invoke(ctx)
        except PrismError as error:
            click.echo(" ".join(str(error).split()), err=True)
            ctx.exit(2)


@click.group(cls=_Main)
def main() -> None:
    """Read design tokens, resolve them in every theme, check them, edit them, export them."""


file_argument = click.argument("file", metavar="FILE")
theme_option = click.option(
    "--theme", "wanted", multiple=True, metavar="AXIS=MODE", help="A mode; may be repeated."
)
maps_option = click.option(
    "--map", "maps", multiple=True, metavar="SELECTOR=AXIS:MODE", help="What a selector means."
)
json_option = click.option("--json", "as_json", is_flag=True, help="Print JSON.")
