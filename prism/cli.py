"""The command line, over files and folders of every format that is read; no database.

Results go to standard output, remarks to standard error. Exit code 1: a pairing fails or files
differ; 2: bad input, with one sentence.
"""

from __future__ import annotations

import itertools
import json
import sys
import time
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any, TypeVar

import click
from rich.console import Console
from rich.progress import Progress
from rich.table import Table

from prism.changes import linking
from prism.compare.diff import diff as differences
from prism.compare.match import align, describe
from prism.errors import FormatError, PrismError
from prism.expressions.values import nearest, value_text
from prism.formats import files, pairing_files
from prism.model.document import Document, shown_path
from prism.model.names import condition_words, css_names
from prism.resolution import contrast
from prism.resolution.resolver import Resolver, Theme

Item = TypeVar("Item")
_PATIENCE = 1.0


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
    """Read design tokens, resolve them in every theme, check them, write them out."""


_file = click.argument("file", metavar="FILE")
_theme = click.option(
    "--theme", "wanted", multiple=True, metavar="AXIS=MODE", help="A mode; may be repeated."
)
_maps = click.option(
    "--map", "maps", multiple=True, metavar="SELECTOR=AXIS:MODE", help="What a selector means."
)
_json = click.option("--json", "as_json", is_flag=True, help="Print JSON.")


# Reading


def load(source: str, maps: Sequence[str] = (), prefix: str = "k") -> Document:
    """The document in a file, in a folder, or on standard input (``-``).

    Parts that bring no key of their own get ``prefix`` and a number.
    """
    numbers = itertools.count(1)
    found = files.read(_bytes(source), lambda: f"{prefix}{next(numbers)}", dict(map(_map, maps)))
    for one in found.passed_over:
        click.echo(f"Passed over: {one.name} in {one.selector}: {one.reason}.", err=True)
    return found.document


def _map(text: str) -> tuple[str, tuple[str, str]]:
    selector, _, meaning = text.rpartition("=")
    axis, colon, mode = meaning.partition(":")
    if not (selector and axis and colon and mode):
        raise PrismError(f"“{text}” is not a map.", fix="Write it as SELECTOR=axis:mode.")
    return selector, (axis, mode)


def _bytes(source: str) -> dict[str, bytes]:
    if source == "-":
        return {"-": sys.stdin.buffer.read()}
    path = Path(source)
    try:
        if path.is_dir():
            return _folder(path, sorted(p for p in path.rglob("*") if p.is_file()))
        if not path.is_file():
            raise FormatError("There is no such file.", place=source)
        if path.name.endswith(".resolver.json"):
            beside = sorted(path.parent.rglob("*.json"))
            tokens = [one for one in beside if one.name.endswith(".tokens.json")]
            return {path.name: path.read_bytes()} | _named(path.parent, tokens)
        return {path.name: path.read_bytes()}
    except OSError as error:
        raise FormatError(f"The file cannot be read: {error.strerror}.", place=source) from None


def _folder(folder: Path, found: list[Path]) -> dict[str, bytes]:
    tokens = [p for p in found if p.name.endswith((".tokens.json", ".resolver.json"))]
    if not tokens:
        tokens = [p for p in found if p.name.endswith(files.ENDINGS)][:1]
    if not tokens:
        raise FormatError(
            "The folder contains no supported file.",
            place=str(folder),
            fix="Supported: " + ", ".join(files.ENDINGS) + ".",
        )
    return _named(folder, tokens)


def _named(folder: Path, found: Iterable[Path]) -> dict[str, bytes]:
    return {one.relative_to(folder).as_posix(): one.read_bytes() for one in found}


def themes_for(found: Resolver, wanted: Sequence[str]) -> list[Theme]:
    """The one theme that ``axis=mode`` words name, or all; ``PrismError`` for unknown ones."""
    return [theme_for(found, wanted)] if wanted else list(found.themes())


def theme_for(found: Resolver, wanted: Sequence[str]) -> Theme:
    """The theme that ``axis=mode`` words name; every other axis at its default."""
    picks = {}
    for word in wanted:
        name, _, mode_name = word.partition("=")
        axis = next((one for one in found.document.axes if one.name == name), None)
        if axis is None:
            known = ", ".join(one.name for one in found.document.axes) or "none"
            raise PrismError(f"There is no axis “{name}”.", fix=f"Axes: {known}.")
        mode = next((one for one in axis.modes if one.name == mode_name), None)
        if mode is None:
            known = ", ".join(one.name for one in axis.modes)
            raise PrismError(f"{name} has no mode “{mode_name}”.", fix=f"Modes: {known}.")
        picks[axis.key] = mode.key
    return found.theme(picks)


# Printing


def show(title: str, heads: Sequence[str], rows: Iterable[Sequence[str]]) -> None:
    """A table on a terminal, lines of tabs elsewhere."""
    if sys.stdout.isatty():
        table = Table(*heads, title=title or None)
        for row in rows:
            table.add_row(*row)
        Console().print(table)
        return
    if title:
        click.echo(f"# {title}")
    for row in rows:
        click.echo("\t".join(row))


def show_json(value: Any) -> None:
    """A value as JSON text."""
    click.echo(json.dumps(value, ensure_ascii=False, indent=1))


def patiently(items: Sequence[Item], what: str) -> Iterator[Item]:
    """``items``, with a progress bar on a terminal once they have taken over a second."""
    started, progress, task = time.monotonic(), None, None
    try:
        for number, item in enumerate(items):
            yield item
            if progress is None and time.monotonic() - started > _PATIENCE:
                progress = Progress(console=Console(stderr=True), transient=True)
                progress.start()
                task = progress.add_task(what, total=len(items))
            if progress is not None and task is not None:
                progress.update(task, completed=number + 1)
    finally:
        if progress is not None:
            progress.stop()


def theme_names(document: Document, theme: Theme) -> dict[str, str]:
    """A theme as axis and mode names."""
    return {axis.name: axis.modes[theme[i]].name for i, axis in enumerate(document.axes)}


def _words(document: Document, theme: Theme) -> str:
    return ", ".join(f"{a} {m}" for a, m in theme_names(document, theme).items())


# Commands


def resolved(document: Document, wanted: Sequence[str]) -> dict[str, Any]:
    """Every token that is there, theme by theme, as JSON members."""
    found = Resolver(document)
    names = css_names(document)
    themes = []
    for theme in patiently(themes_for(found, wanted), "Resolving"):
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
        themes.append({"theme": theme_names(document, theme), "tokens": tokens})
    return {"themes": themes}


@main.command()
@_file
@_theme
@_maps
@_json
def resolve(file: str, wanted: tuple[str, ...], maps: tuple[str, ...], as_json: bool) -> None:
    """Say what every token is, in all themes or in one."""
    found = resolved(load(file, maps), wanted)
    if as_json:
        show_json(found)
        return
    for one in found["themes"]:
        title = ", ".join(f"{axis} {mode}" for axis, mode in one["theme"].items())
        rows = [
            (path, said["type"], said["broken"] or said["value"])
            for path, said in one["tokens"].items()
        ]
        show(title, ("token", "type", "value"), rows)


@main.command()
@_file
@click.argument("path")
@_theme
@_maps
def trace(file: str, path: str, wanted: tuple[str, ...], maps: tuple[str, ...]) -> None:
    """Say how the token PATH comes about, hop by hop."""
    document = load(file, maps)
    token = document.token_at(path.strip("{}"))
    if token is None:
        paths = [shown_path(one.path) for one in document.tokens]
        raise PrismError(f"{{{path}}} does not exist.", fix=nearest(path, paths))
    found = Resolver(document)
    rows = []
    for hop in found.trace(token.key, theme_for(found, wanted)):
        here = document.token(hop.token)
        assert here is not None
        stored = value_text(hop.value) if hop.value is not None else "no value"
        result = hop.answer.broken or hop.answer.hex or hop.answer.css
        indent = "  " * hop.depth
        rows.append(
            (f"{indent}{here.path}", condition_words(document, hop.condition), stored, result)
        )
    show(shown_path(token.path), ("token", "holds for", "stored", "result"), rows)


@main.command()
@_file
@click.option("--pairings", "pairs", metavar="FILE", help="A JSON list of pairings.")
@_theme
@_maps
@_json
@click.pass_context
def audit(
    ctx: click.Context,
    file: str,
    pairs: str | None,
    wanted: tuple[str, ...],
    maps: tuple[str, ...],
    as_json: bool,
) -> None:
    """Measure the contrast of every pairing in every theme; exit with 1 where one fails."""
    document = load(file, maps)
    if pairs is not None:
        ((name, data),) = _bytes(pairs).items()
        document = replace(document, pairings=pairing_files.read(data, name, document))
    if not document.pairings:
        raise FormatError("There are no pairings.", place=file, fix="Name them with --pairings.")
    found = Resolver(document)
    readings = [
        (pairing, reading)
        for pairing in patiently(document.pairings, "Measuring")
        for reading in contrast.audit(found, [pairing], themes_for(found, wanted))
    ]
    if as_json:
        show_json(
            [
                {
                    "pairing": contrast.summary(document, pairing),
                    "theme": theme_names(document, reading.theme),
                    "ratio": None if reading.missing else reading.ratio,
                    "shown": reading.shown,
                    "required": reading.required,
                    "passes": reading.passes,
                    "missing": reading.missing or None,
                }
                for pairing, reading in readings
            ]
        )
    else:
        rows = [
            (
                contrast.summary(document, pairing),
                _words(document, reading.theme),
                reading.shown,
                f"{reading.required:g}",
                reading.missing or ("fails" if reading.fails else "passes"),
            )
            for pairing, reading in readings
        ]
        show("", ("pairing", "theme", "ratio", "needs", ""), rows)
    if any(reading.fails for _, reading in readings):
        ctx.exit(1)


@main.command()
@_file
@click.option(
    "--format",
    "kind",
    required=True,
    type=click.Choice(list(files.KINDS)),
)
@click.option("-o", "folder", required=True, type=click.Path(file_okay=False, path_type=Path))
@_theme
@_maps
def export(
    file: str, kind: str, folder: Path, wanted: tuple[str, ...], maps: tuple[str, ...]
) -> None:
    """Write FILE into a folder in another format."""
    document = load(file, maps)
    theme = theme_for(Resolver(document), wanted)
    written, remarks = files.write(document, kind, theme)
    for name, text in written.items():
        target = folder / name
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_text(text, encoding="utf-8")
        except OSError as error:
            raise FormatError(
                f"The file cannot be written: {error.strerror}.", place=str(target)
            ) from None
        click.echo(target)
    for remark in remarks:
        click.echo(remark, err=True)


@main.command()
@click.argument("before")
@click.argument("after")
@_maps
@click.pass_context
def diff(ctx: click.Context, before: str, after: str, maps: tuple[str, ...]) -> None:
    """Say what differs between two files; exit with 1 where anything does."""
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


@main.command()
@_file
@click.option(
    "-o", "folder", type=click.Path(file_okay=False, path_type=Path), help="Write the linked files."
)
@_maps
@_json
def link(file: str, folder: Path | None, maps: tuple[str, ...], as_json: bool) -> None:
    """Match literal colors of semantic tokens to the palette, each with its distance."""
    document = load(file, maps)
    proposal = linking.propose(document)

    def path(key: str) -> str:
        token = document.token(key)
        return shown_path(token.path) if token else key

    rows: list[tuple[str, ...]] = [
        (
            path(one.token),
            condition_words(document, one.condition),
            one.text,
            path(one.target),
            f"{one.distance:.2f}",
            one.closeness,
        )
        for one in proposal.links
    ]
    rows += [
        (path(one.token), condition_words(document, one.condition), one.text, "", "", "no match")
        for one in proposal.unmatched
    ]
    heads = ("token", "holds for", "literal", "palette", "distance", "closeness")
    if as_json:
        show_json([dict(zip(heads, row, strict=True)) for row in rows])
    else:
        show("", heads, rows)
    if folder is not None:
        linked = linking.link(document, proposal.links)
        theme = Resolver(linked).default_theme
        for name, text in files.write(linked, "design-tokens", theme)[0].items():
            target = folder / name
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
