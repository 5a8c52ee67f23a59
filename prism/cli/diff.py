"""The command diff."""

from __future__ import annotations

import click

from prism.cli.group import main, maps_option
from prism.cli.reading import load
from prism.compare.diff import diff as differences
from prism.compare.match import align, describe


@main.command()
@click.argument("before")
@click.argument("after")
@maps_option
@click.pass_context
def diff(ctx: click.Context, before: str, after: str, maps: tuple[str, ...]) -> None:
    """Print what differs between two files; exit with 1 where anything does."""
    old = load(before, maps)
    new = align(load(after, maps, prefix="other"), old)
    lines = [
        describe(operation, old, new)
        for operation in differences(old, new)
        if operation.kind not in ("source", "layer", "document")
    ]
    for line in lines:
        click.echo(line)
    if lines:
        ctx.exit(1)
