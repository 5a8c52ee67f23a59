"""Files of every format: what is read and what is written. A new one is a file and a line here."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from prism.errors import FormatError
from prism.formats import (
    archive,
    css,
    css_in_place,
    palettes,
    plain,
    resolver,
    resolver_writer,
    style_sheets,
)
from prism.formats.duplicates import Choice, Duplicates
from prism.formats.layers import NewKey
from prism.formats.recognition import kind_of
from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.model.document import Document
from prism.model.names import segment
from prism.resolution.resolver import Theme

#: Endings of the files that are read.
ENDINGS = (".tokens.json", ".resolver.json", ".json", ".css", ".gpl", ".csv", ".svg")
#: Names of an axis and a mode for selectors of a style sheet.
Maps = Mapping[str, tuple[str, str]]


@dataclass(frozen=True, slots=True)
class ReadFiles:
    """A document and what of its files was skipped."""

    document: Document
    skipped: tuple[SkippedDeclaration, ...] = ()


@dataclass(frozen=True, slots=True)
class Written:
    """Files by name, and what of the document they cannot hold, a sentence each."""

    files: Mapping[str, str]
    losses: Sequence[str] = ()


Read = Callable[[bytes, str, NewKey, Maps | None, Duplicates], ReadFiles]


@dataclass(frozen=True, slots=True)
class Target:
    """A format to export: its id, title and a note, its media type, and ``write(document, theme)``.

    ``scope`` is ``all`` themes or ``one``; several files are packed into one archive.
    """

    id: str
    title: str
    note: str
    media_type: str
    write: Callable[[Document, Theme], Written]
    scope: str = "all"

    def file(self, document: Document, theme: Theme) -> tuple[str, str | bytes, str]:
        """The name, the content and the media type of the one file to be handed out."""
        files = self.write(document, theme).files
        if len(files) == 1 and self.id != "design-tokens":
            ((name, text),) = files.items()
            if self.scope == "one" and (words := _other_modes(document, theme)):
                start, dot, ending = name.rpartition(".")
                name = f"{start}-{words}{dot}{ending}"
            return name, text, self.media_type
        return f"{_stem(document)}-tokens.zip", archive.write(files), "application/zip"


def _stem(document: Document) -> str:
    return segment(document.name or "tokens")


def _other_modes(document: Document, theme: Theme) -> str:
    """The modes of a theme that are not the default ones, for the name of a file."""
    pairs = zip(document.axes, theme, strict=False)
    names = (axis.modes[mode].name for axis, mode in pairs if axis.modes[mode].key != axis.default)
    return "-".join(map(segment, names))


def _read_css(
    data: bytes, name: str, new_key: NewKey, maps: Maps | None, duplicates: Duplicates
) -> ReadFiles:
    sheet = style_sheets.read(data, name, new_key, maps)
    return ReadFiles(sheet.document, sheet.skipped)


def _reader(read: Callable[[bytes, str, NewKey], Document]) -> Read:
    return lambda data, name, new_key, *_: ReadFiles(read(data, name, new_key))


def _table(read: Callable[[bytes, str, NewKey, Duplicates], Document]) -> Read:
    def reader(
        data: bytes, name: str, new_key: NewKey, maps: Maps | None, duplicates: Duplicates
    ) -> ReadFiles:
        document = read(data, name, new_key, duplicates)
        return ReadFiles(document, tuple(duplicates.met))

    return reader


def _css(document: Document, theme: Theme) -> Written:
    return Written({f"{_stem(document)}.css": css.write(document)})


def _css_classes(document: Document, theme: Theme) -> Written:
    return Written({f"{_stem(document)}-classes.css": css.write(document, classes=True)})


def _css_in_place(document: Document, theme: Theme) -> Written:
    return Written({f"{_stem(document)}-in-place.css": css_in_place.write(document)})


def _flat_css(document: Document, theme: Theme) -> Written:
    return Written({f"{_stem(document)}-flat.css": css.write_flat(document, theme)})


def _clipped_css(document: Document, theme: Theme) -> Written:
    text = css.write_flat(document, theme, clipped=True)
    return Written({f"{_stem(document)}-clipped.css": text})


def _design_tokens(document: Document, theme: Theme) -> Written:
    written = resolver_writer.write(document)
    return Written(written.files, written.remarks)


def _json(document: Document, theme: Theme) -> Written:
    return Written({f"{_stem(document)}.json": plain.write_json(document)})


def _csv(document: Document, theme: Theme) -> Written:
    return Written({f"{_stem(document)}.csv": plain.write_csv(document)})


def _gpl(document: Document, theme: Theme) -> Written:
    text, skipped = palettes.write_gpl(document.name, palettes.colors(document, theme))
    losses = [f"Left out, as translucent: {', '.join(skipped)}."] if skipped else []
    return Written({f"{_stem(document)}.gpl": text}, losses)


def _svg(document: Document, theme: Theme) -> Written:
    text = palettes.write_svg(document.name, palettes.colors(document, theme))
    return Written({f"{_stem(document)}.svg": text})


#: Readers of one file by the kind that ``kind_of`` names; Design Tokens files are read together.
READERS: Mapping[str, Read] = {
    "css": _read_css,
    "gpl": _reader(palettes.read_gpl),
    "svg": _reader(palettes.read_svg),
    "csv": _table(plain.read_csv),
    "json": _table(plain.read_json),
}
_CSS = "text/css; charset=utf-8"
#: What can be exported, in the order it is listed.
TARGETS: tuple[Target, ...] = (
    Target(
        "css",
        "CSS, all themes",
        "custom properties; set data- attributes on the page or on any data-zone in it",
        _CSS,
        _css,
    ),
    Target("css-classes", "CSS, class names", "the same with classes", _CSS, _css_classes),
    Target("flat-css", "CSS, this theme", "resolved values in one rule", _CSS, _flat_css, "one"),
    Target(
        "clipped-css",
        "CSS, this theme, clipped",
        "the same, with colors outside sRGB as browsers show them: clipped, not mapped",
        _CSS,
        _clipped_css,
        "one",
    ),
    Target(
        "css-in-place",
        "CSS, in place",
        "the names, selectors and values of the style sheet it came from",
        _CSS,
        _css_in_place,
    ),
    Target(
        "design-tokens",
        "Design Tokens",
        "a resolver document with its files, zipped",
        "application/json",
        _design_tokens,
    ),
    Target("json", "JSON", "plain values in all themes", "application/json", _json),
    Target("csv", "CSV", "a table of values in all themes", "text/csv; charset=utf-8", _csv),
    Target(
        "gpl", "GIMP palette", "the colors in this theme", "text/plain; charset=utf-8", _gpl, "one"
    ),
    Target("svg", "SVG swatches", "the colors in this theme", "image/svg+xml", _svg, "one"),
)
BY_ID: Mapping[str, Target] = {target.id: target for target in TARGETS}
#: Formats that are written, by the names of the command line.
KINDS = tuple(BY_ID)


def read(
    files: Mapping[str, bytes],
    new_key: NewKey,
    maps: Maps | None = None,
    choice: Choice = "",
) -> ReadFiles:
    """A document from ``files``: Design Tokens files or style sheets together, or one file of
    another format.

    ``maps`` names axis and mode for selectors of a style sheet, ``choice`` what counts where a table has
    two values for one name.
    """
    if len(files) == 1:
        name, data = next(iter(files.items()))
        reader = READERS.get(kind_of(name, data))
        if reader is not None:
            return reader(data, name, new_key, maps, Duplicates(choice))
    elif files and all(name.endswith(".css") for name in files):
        sheet = style_sheets.read_together(files, new_key, maps)
        return ReadFiles(sheet.document, sheet.skipped)
    elif any(not name.endswith(".json") for name in files):
        raise FormatError(
            "Several files are read together only where all are Design Tokens files or style sheets.",
            place=next(name for name in files if not name.endswith(".json")),
        )
    return ReadFiles(resolver.read(files, new_key))


def write(document: Document, kind: str, theme: Theme) -> tuple[dict[str, str], list[str]]:
    """A document as files of one of ``KINDS``, by name, and what they cannot hold."""
    written = BY_ID[kind].write(document, theme)
    return dict(written.files), list(written.losses)
