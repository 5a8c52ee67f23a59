"""The command line, over files and folders; no database."""

from __future__ import annotations

import itertools
import json
import sys
from pathlib import Path
from typing import Any

import click
from rich.console import Console
from rich.table import Table

from prism.errors import PrismError
from prism.formats import css, resolver, resolver_writer
from prism.tokens.model import Document
from prism.tokens.names import css_names
from prism.tokens.resolve import Resolver, Theme


class _Main(click.Group):
    """Prints an error of the core as one sentence and exits with 2."""

    def invoke(self, ctx: click.Context) -> Any:
        try:
            return super().invoke(ctx)
        except PrismError as error:
            click.echo(str(error), err=True)
            ctx.exit(2)


@click.group(cls=_Main)
def main() -> None:
    """Read design tokens, resolve them in every theme, write them out."""


def load(source: str) -> Document:
    """The document in a token file, a resolver document with its files, or a folder."""
    numbers = itertools.count(1)
    return resolver.read(_files(source), lambda: f"k{next(numbers)}")


def _files(source: str) -> dict[str, bytes]:
    if source == "-":
        return {"-": sys.stdin.buffer.read()}
    path = Path(source)
    if path.is_dir():
        found = sorted(path.rglob("*.json"))
        return {str(one.relative_to(path)): one.read_bytes() for one in found if _is_tokens(one)}
    if not path.is_file():
        raise PrismError(f"There is no file {source}.")
    if path.name.endswith(".resolver.json"):
        found = sorted(path.parent.rglob("*.tokens.json"))
        files = {str(one.relative_to(path.parent)): one.read_bytes() for one in found}
        return {path.name: path.read_bytes()} | files
    return {path.name: path.read_bytes()}


def _is_tokens(path: Path) -> bool:
    return path.name.endswith((".tokens.json", ".resolver.json"))


def themes_for(found: Resolver, wanted: tuple[str, ...]) -> list[Theme]:
    """The one theme that ``axis=mode`` words name, or all; ``PrismError`` for unknown ones."""
    if not wanted:
        return list(found.themes())
    picks = {}
    for word in wanted:
        name, _, mode_name = word.partition("=")
        axis = next((one for one in found.document.axes if one.name == name), None)
        if axis is None:
            known = ", ".join(one.name for one in found.document.axes) or "none"
            raise PrismError(f"There is no axis “{name}”.", mend=f"Axes: {known}.")
        mode = next((one for one in axis.modes if one.name == mode_name), None)
        if mode is None:
            known = ", ".join(one.name for one in axis.modes)
            raise PrismError(f"{name} has no mode “{mode_name}”.", mend=f"Modes: {known}.")
        picks[axis.key] = mode.key
    return [found.theme(picks)]


def resolved(document: Document, wanted: tuple[str, ...]) -> dict[str, Any]:
    """Every token that is there, theme by theme, as JSON members."""
    found = Resolver(document)
    names = css_names(document)
    themes = []
    for theme in themes_for(found, wanted):
        tokens = {}
        for token in document.tokens:
            answer = found.resolve(token.key, theme)
            if not answer.absent:
                tokens[token.path] = {
                    "type": answer.type,
                    "value": answer.css,
                    **({"hex": answer.hex} if answer.hex else {}),
                    "css_name": f"--{names[token.key]}",
                    "broken": answer.broken or None,
                }
        named = {axis.name: axis.modes[theme[i]].name for i, axis in enumerate(document.axes)}
        themes.append({"theme": named, "tokens": tokens})
    return {"themes": themes}


@main.command()
@click.argument("file")
@click.option("--theme", multiple=True, metavar="AXIS=MODE", help="One mode; may be repeated.")
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
def resolve(file: str, theme: tuple[str, ...], as_json: bool) -> None:
    """Say what every token of FILE is, in all themes or in one."""
    found = resolved(load(file), theme)
    if as_json:
        click.echo(json.dumps(found, ensure_ascii=False, indent=1))
        return
    console = Console()
    for one in found["themes"]:
        title = ", ".join(f"{axis} {mode}" for axis, mode in one["theme"].items())
        table = Table("token", "type", "value", title=title or None)
        for path, said in one["tokens"].items():
            table.add_row(path, said["type"], said["broken"] or said["value"])
        console.print(table)


@main.command()
@click.argument("file")
@click.option(
    "--format", "kind", required=True, type=click.Choice(["css", "flat-css", "design-tokens"])
)
@click.option("-o", "folder", required=True, type=click.Path(file_okay=False, path_type=Path))
def export(file: str, kind: str, folder: Path) -> None:
    """Write FILE into a folder in another format."""
    document = load(file)
    if kind == "css":
        files = {"tokens.css": css.write(document)}
    elif kind == "flat-css":
        files = {"tokens.css": css.write_flat(document, Resolver(document).default_theme)}
    else:
        written = resolver_writer.write(document)
        files = written.files
        for remark in written.remarks:
            click.echo(remark, err=True)
    for name, text in files.items():
        target = folder / name
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(text, encoding="utf-8")
        click.echo(target)


if __name__ == "__main__":
    main()
