"""The command diff."""

from __future__ import annotations

import click

from prism.cli.group import main, maps_option
from prism.cli.reading import load
from prism.color import space
from prism.compare.diff import Operation
from prism.compare.diff import diff as differences
from prism.compare.match import align, describe
from prism.errors import ExpressionError, PrismError
from prism.expressions.values import decode, parse
from prism.model.document import Document
from prism.model.values import Expression

#: The kinds of differences: what is another value, the same color written otherwise, another
#: order, what comes or goes or is called otherwise, and words that say something of it.
KINDS = ("values", "spelling", "order", "names", "notes")
_NOTES = (
    "description",
    "deprecated",
    "extensions",
    "reason",
    "waiver",
    "waived_by",
    "waived_until",
    "besides",
)


@main.command()
@click.argument("before")
@click.argument("after")
@click.option(
    "--exit-code",
    "counting",
    default=",".join(KINDS),
    show_default=True,
    metavar="KINDS",
    help="What makes the exit code 1, separated by commas; none for never.",
)
@maps_option
@click.pass_context
def diff(ctx: click.Context, before: str, after: str, counting: str, maps: tuple[str, ...]) -> None:
    """Print what differs between two files, a line for each change, its kind first.

    Colors that are equal and written otherwise are of the kind "spelling".
    """
    kinds = [] if counting == "none" else counting.split(",")
    for kind in kinds:
        if kind not in KINDS:
            raise PrismError(f"“{kind}” is no kind of difference.", fix="Use " + ", ".join(KINDS))
    old = load(before, maps)
    new = align(load(after, maps, prefix="other"), old)
    counts = False
    for operation in differences(old, new):
        if operation.kind in ("source", "layer", "document") or _is_part(operation, old, new):
            continue
        kind = _kind(operation, old)
        counts = counts or kind in kinds
        click.echo(f"{kind}\t{' '.join(describe(operation, old, new).split())}")
    if counts:
        ctx.exit(1)


def _is_part(operation: Operation, old: Document, new: Document) -> bool:
    """Whether a value comes or goes with its token, which has a line of its own."""
    if operation.kind != "value":
        return False
    key = operation.key.split(" ", 1)[0]
    return old.token(key) is None or new.token(key) is None


def _kind(operation: Operation, document: Document) -> str:
    if operation.op == "order":
        return "order"
    if operation.kind == "value":
        return "spelling" if _same_color(operation, document) else "values"
    return "notes" if operation.field in _NOTES else "names"


def _same_color(operation: Operation, document: Document) -> bool:
    """Whether a value was only written otherwise: both texts are the same color."""
    token = document.token(operation.key.split(" ", 1)[0])
    if operation.op != "set" or token is None or token.type != "color":
        return False
    colors = []
    for text in (operation.before, operation.after):
        value = decode(text)
        try:
            literal = parse(value.text, "color").literal if isinstance(value, Expression) else None
        except ExpressionError:
            return False
        if not isinstance(literal, space.Color):
            return False
        colors.append(space.rgba(literal))
    return all(abs(a - b) < 1e-4 for a, b in zip(*colors, strict=True))
