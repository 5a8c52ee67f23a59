"""Palettes of other programs: GIMP palette files, and swatches as an SVG picture.

Both hold names and sRGB colors of one theme. GIMP palettes know no translucency; such colors
are left out and named.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from xml.parsers import expat
from xml.sax.saxutils import escape, quoteattr

from prism.changes.references import check_path
from prism.color import space
from prism.errors import FormatError, PrismError
from prism.formats.layers import NewKey
from prism.formats.text_files import decoded
from prism.formats.wholeness import whole
from prism.model.document import Document, Token
from prism.model.names import settle_names
from prism.model.values import BASE, Expression
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Theme

_ROW = re.compile(r"\s*(\d{1,3})\s+(\d{1,3})\s+(\d{1,3})(?:\s+(.*))?\Z")
_SIZE, _GAP, _ACROSS = 64, 8, 11


def colors(document: Document, theme: Theme, tier: str = "") -> list[tuple[str, space.Color]]:
    """Path and color of every color token of a tier (all without one) that has one in ``theme``."""
    resolver = resolver_of(document)
    colors = []
    for token in document.tokens:
        color = resolver.resolve(token.key, theme).color
        if color is not None and tier in ("", token.tier):
            colors.append((token.path, color))
    return colors


def write_gpl(name: str, colors: Sequence[tuple[str, space.Color]]) -> tuple[str, list[str]]:
    """A GIMP palette, and the paths of translucent colors, which it cannot hold."""
    lines = ["GIMP Palette", f"Name: {_line(name)}", f"Columns: {_ACROSS}", "#"]
    left_out = []
    for path, color in colors:
        red, green, blue, alpha = space.rgba8(color)
        if alpha < 1:
            left_out.append(path)
        else:
            lines.append(f"{red:3d} {green:3d} {blue:3d}\t{path}")
    return "\n".join(lines) + "\n", left_out


def read_gpl(data: bytes, file: str, new_key: NewKey) -> Document:
    """The colors of a GIMP palette as raw tokens, names and order kept."""
    lines = decoded(data, file).splitlines()
    if not lines or lines[0].strip() != "GIMP Palette":
        raise FormatError("The first line is not “GIMP Palette”.", place=f"{file}, line 1")
    name = ""
    colors = []
    for number, line in enumerate(lines[1:], 2):
        if line.startswith("Name:"):
            name = line.removeprefix("Name:").strip()
        elif line.strip() and not line.startswith(("#", "Columns:")):
            match = _ROW.match(line)
            place = f"{file}, line {number}"
            if match is None or any(int(match[i]) > 255 for i in (1, 2, 3)):
                raise FormatError(
                    f"“{line.strip()[:40]}” is not a color.",
                    place=place,
                    fix="A line has red, green and blue from 0 to 255, then a name.",
                )
            text = "#" + "".join(f"{int(match[i]):02x}" for i in (1, 2, 3))
            colors.append(((match[4] or "").strip() or text[1:], text, place))
    return _document(name or file, colors, new_key)


def write_svg(name: str, colors: Sequence[tuple[str, space.Color]]) -> str:
    """Swatches as an SVG picture: a square for each color, its path as its title."""
    step = _SIZE + _GAP
    rows = max(1, -(-len(colors) // _ACROSS))
    width, height = _ACROSS * step + _GAP, rows * step + _GAP
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" '
        f'viewBox="0 0 {width} {height}">',
        f"  <title>{escape(_line(name))}</title>",
    ]
    for i, (path, color) in enumerate(colors):
        x, y = _GAP + i % _ACROSS * step, _GAP + i // _ACROSS * step
        parts.append(
            f'  <rect x="{x}" y="{y}" width="{_SIZE}" height="{_SIZE}" '
            f"fill={quoteattr(space.hex_text(color))}><title>{escape(path)}</title></rect>"
        )
    return "\n".join([*parts, "</svg>"]) + "\n"


def read_svg(data: bytes, file: str, new_key: NewKey) -> Document:
    """The filled shapes of an SVG picture that have a title, as raw tokens."""
    decoded(data, file)
    reader = _Svg(file)
    reader.read(data)
    return _document(reader.name or file, reader.colors, new_key)


class _Svg:
    """Reads titles of filled shapes; refuses document types, and with them entities."""

    def __init__(self, file: str) -> None:
        self.file = file
        self.name = ""
        self.colors: list[tuple[str, str, str]] = []
        self.open: list[tuple[str, str]] = []
        self.title: list[str] | None = None
        self.parser = expat.ParserCreate(namespace_separator=" ")
        self.parser.StartElementHandler = self.start
        self.parser.EndElementHandler = self.end
        self.parser.CharacterDataHandler = self.text
        self.parser.StartDoctypeDeclHandler = self.doctype

    def read(self, data: bytes) -> None:
        try:
            self.parser.Parse(data, True)
        except expat.ExpatError as error:
            place = f"{self.file}, line {error.lineno}, column {error.offset + 1}"
            raise FormatError("The file is not SVG.", place=place) from None

    def doctype(self, *_: object) -> None:
        raise FormatError("A document type declaration is not allowed.", place=self.file)

    def start(self, name: str, attributes: dict[str, str]) -> None:
        if len(self.open) > 64:
            raise FormatError("The picture is nested too deeply.", place=self.file)
        local = name.rsplit(" ", 1)[-1]
        self.open.append((local, attributes.get("fill", "")))
        if local == "title":
            self.title = []

    def text(self, data: str) -> None:
        if self.title is not None:
            self.title.append(data)

    def end(self, name: str) -> None:
        local, _ = self.open.pop()
        if local != "title" or self.title is None:
            return
        title = " ".join("".join(self.title).split())
        self.title = None
        owner, fill = self.open[-1] if self.open else ("", "")
        if owner == "svg":
            self.name = title
        elif fill and title:
            place = f"{self.file}, line {self.parser.CurrentLineNumber}"
            self.colors.append((title, fill, place))


def _document(name: str, colors: Iterable[tuple[str, str, str]], new_key: NewKey) -> Document:
    tokens: dict[str, Token] = {}
    for path, text, place in colors:
        try:
            check_path(path)
            space.parse(text)
        except PrismError as error:
            raise FormatError(error.sentence, place=place, fix=error.fix) from None
        if path in tokens:
            raise FormatError(
                f"Two colors have the name “{path[:60]}”.", place=place, fix="Rename one of them."
            )
        tokens[path] = Token(new_key(), path, "color", "raw", ((BASE, Expression(text)),))
    if not tokens:
        raise FormatError("The file has no color with a name.")
    document = settle_names(Document(name=name, tokens=tuple(tokens.values())))
    return whole(document, {})


def _line(text: str) -> str:
    return " ".join(text.split())
