"""Files of any format that is read, by their names and what they hold."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from prism.errors import FormatError
from prism.formats import css, css_reader, palettes, plain, resolver, resolver_writer, strict_json
from prism.formats.css_reader import PassedOver
from prism.formats.layers import NewKey
from prism.model.document import Document
from prism.model.names import segment
from prism.resolution.resolver import Theme

#: Endings of the files that are read.
ENDINGS = (".tokens.json", ".resolver.json", ".json", ".css", ".gpl", ".csv", ".svg")
#: Formats that are written, by the names of the command line.
KINDS = ("css", "flat-css", "design-tokens", "json", "csv", "gpl", "svg")


@dataclass(frozen=True, slots=True)
class ReadFiles:
    """A document and what of its files was passed over."""

    document: Document
    passed_over: tuple[PassedOver, ...] = ()


def read(
    files: Mapping[str, bytes],
    new_key: NewKey,
    maps: Mapping[str, tuple[str, str]] | None = None,
) -> ReadFiles:
    """A document from ``files``: Design Tokens files together, or one file of another format.

    ``maps`` names axis and mode for selectors of a style sheet.
    """
    if len(files) == 1:
        name, data = next(iter(files.items()))
        kind = kind_of(name, data)
        if kind == "css":
            sheet = css_reader.read(data, name, new_key, maps)
            return ReadFiles(sheet.document, sheet.passed_over)
        if kind == "gpl":
            return ReadFiles(palettes.read_gpl(data, name, new_key))
        if kind == "svg":
            return ReadFiles(palettes.read_svg(data, name, new_key))
        if kind == "csv":
            return ReadFiles(plain.read_csv(data, name, new_key))
        if kind == "json":
            return ReadFiles(plain.read_json(data, name, new_key))
    elif any(not name.endswith(".json") for name in files):
        raise FormatError(
            "Several files are read together only where all are Design Tokens files.",
            place=next(name for name in files if not name.endswith(".json")),
        )
    return ReadFiles(resolver.read(files, new_key))


def write(document: Document, kind: str, theme: Theme) -> tuple[dict[str, str], list[str]]:
    """A document as files of one of ``KINDS``, by name, and what they do not say.

    ``flat-css``, ``gpl`` and ``svg`` hold one theme, the others all.
    """
    stem = segment(document.name or "tokens")
    if kind == "css":
        return {f"{stem}.css": css.write(document)}, []
    if kind == "flat-css":
        return {f"{stem}.css": css.write_flat(document, theme)}, []
    if kind == "json":
        return {f"{stem}.json": plain.write_json(document)}, []
    if kind == "csv":
        return {f"{stem}.csv": plain.write_csv(document)}, []
    if kind == "design-tokens":
        written = resolver_writer.write(document)
        return written.files, list(written.remarks)
    found = palettes.colors(document, theme)
    if kind == "svg":
        return {f"{stem}.svg": palettes.write_svg(document.name, found)}, []
    text, left_out = palettes.write_gpl(document.name, found)
    remarks = [f"Left out, as translucent: {', '.join(left_out)}."] if left_out else []
    return {f"{stem}.gpl": text}, remarks


def kind_of(name: str, data: bytes) -> str:
    """The format of a file: ``tokens``, ``json``, ``css``, ``gpl``, ``svg`` or ``csv``."""
    lower = name.lower()
    for ending in (".css", ".gpl", ".svg", ".csv"):
        if lower.endswith(ending):
            return ending[1:]
    start = data[:4000].lstrip(b"\xef\xbb\xbf \t\r\n")
    if lower.endswith((".tokens.json", ".resolver.json")):
        return "tokens"
    if lower.endswith(".json") or start.startswith(b"{"):
        return "tokens" if _design_tokens(data, name) else "json"
    if start.startswith(b"GIMP Palette"):
        return "gpl"
    if start.startswith(b"<"):
        return "svg"
    return "css" if re.search(rb"\{[^}]*--", data) else "csv"


def _design_tokens(data: bytes, name: str) -> bool:
    work: list[object] = [strict_json.read(data, name)]
    while work:
        one = work.pop()
        if isinstance(one, dict):
            if "$value" in one or "$ref" in one or "resolutionOrder" in one:
                return True
            work.extend(one.values())
    return False
