"""Colors in any text: lists, style sheets, JSON, tables, prose; names are kept where they are there.

Each line is read as cells, so that custom properties, spreadsheet rows and bulleted lists all come
down to names and colors. A row of labels above rows with several colors heads the columns; a line
of its own above unnamed colors is their group.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass, field

from prism.color import space
from prism.errors import ExpressionError, FormatError
from prism.formats import strict_json
from prism.formats.text_files import without_comments

MAX_TEXT = 400_000
MAX_FOUND = 2000
MAX_NAME = 60

_COLOR = re.compile(
    r"(?<![\w#&])#[0-9a-fA-F]{3,8}\b"
    r"|\b(?:rgba?|hsla?|hwb|lab|lch|oklab|oklch|color)\([^()]{0,200}\)",
    re.IGNORECASE,
)
_BARE_HEX = re.compile(r"[0-9a-fA-F]{6}")
_WORD = re.compile(r"[A-Za-z]{3,30}")
_COMMENTS = (("/*", "*/"), ("<!--", "-->"))
_SIGILS = " \t\"'`:=,;|-–—•*>$@()[]→"
_FILLERS = frozenset(("is", "are", "and", "or"))
_SEPARATORS = frozenset("\t|;,{}")


@dataclass(frozen=True, slots=True)
class Found:
    """A color of a text: its name (empty where it has none), its text, and its line from 1."""

    name: str
    text: str
    color: space.Color
    line: int


@dataclass(slots=True)
class _Cell:
    label: str
    colors: list[tuple[str, space.Color]] = field(default_factory=list)


def find(text: str) -> tuple[Found, ...]:
    """Every color of a text in order. Raises ``FormatError`` where there is none, or too much."""
    if len(text) > MAX_TEXT:
        raise FormatError(
            f"The text has {len(text)} characters; at most {MAX_TEXT} are read.",
            fix="Paste the part that holds the colors.",
        )
    stripped = text.strip()
    colors = list(_in_json(stripped) if stripped[:1] in ("{", "[") else ())
    if not colors:
        colors = list(_in_lines(text))
    if not colors:
        raise FormatError(
            "There is no color in this text.",
            fix="Colors are read as #236b53, rgb(35 107 83), oklch(0.48 0.09 165) and the like.",
        )
    if len(colors) > MAX_FOUND:
        raise FormatError(f"The text holds over {MAX_FOUND} colors.", fix="Paste a part of it.")
    return tuple(colors)


# JSON


def _in_json(text: str) -> Iterator[Found]:
    wrapped = text if text.startswith("{") else f'{{"":{text}}}'
    try:
        json.loads(wrapped)
    except (ValueError, RecursionError):
        return  # It only looks like JSON: a rule of a style sheet, say.
    yield from _members(strict_json.read(wrapped.encode(), "the text"), ())


def _members(value: object, path: tuple[str, ...]) -> Iterator[Found]:
    if isinstance(value, dict):
        named = next((value[label] for label in ("name", "label", "title") if label in value), None)
        held = [member for member in value.values() if isinstance(member, str) and _color(member)]
        if isinstance(named, str) and len(held) == 1 and not _color(named):
            path = (*path[:-1], named)
            yield _found(".".join(segment for segment in path if segment), held[0], 1)
            return
        for name, member in value.items():
            yield from _members(member, (*path, name))
    elif isinstance(value, list):
        for number, item in enumerate(value, 1):
            yield from _members(item, (*path, str(number)) if path[-1:] != ("",) else path)
    elif isinstance(value, str) and _color(value):
        name = path[:-1] if path[-1:] in (("value",), ("hex",), ("color",)) else path
        yield _found(".".join(segment for segment in name if segment), value, 1)


def _found(name: str, text: str, line: int) -> Found:
    color = _color(text)
    assert color is not None
    return Found(name[:MAX_NAME], text.strip(), color, line)


# Lines and cells


def _in_lines(text: str) -> Iterator[Found]:
    plain = without_comments(text, _COMMENTS)
    words = not any(_color(match[0]) for match in _COLOR.finditer(plain))
    header: list[str] = []
    title, count = "", 0
    for number, line in enumerate(plain.splitlines(), 1):
        cells = [_cell(piece, words) for piece in _split(line)]
        colors = [(i, pair) for i, cell in enumerate(cells) for pair in cell.colors]
        labels = [cell.label for cell in cells]
        if not colors:
            if sum(map(bool, labels)) > 1:
                header = labels
            elif any(labels):
                header, title, count = [], next(filter(None, labels)), 0
            continue
        row = next((cell.label for cell in cells if cell.label and not cell.colors), "")
        for i, (source, color) in colors:
            own = cells[i].label if len(cells[i].colors) == 1 else ""
            if not own:
                own = _name_in_row(row, header, i, len(colors), colors.index((i, (source, color))))
            if not own and title:
                count += 1
                own = f"{title}.{count}"
            yield Found(own, source, color, number)


def _name_in_row(row: str, header: list[str], place: int, many: int, index: int) -> str:
    """The name of a color that has none in its own cell."""
    if many == 1:
        return row
    head = header[place] if place < len(header) and header[place] else ""
    if not row:
        return head
    return f"{row}.{head or index + 1}"


def _split(line: str) -> list[str]:
    """A line in cells: at tabs, bars, commas, semicolons and braces outside of parentheses."""
    cells, start, depth = [], 0, 0
    for place, sign in enumerate(line):
        depth = max(depth + (sign == "(") - (sign == ")"), 0)
        if depth == 0 and sign in _SEPARATORS:
            cells.append(line[start:place])
            start = place + 1
    return [*cells, line[start:]]


def _cell(text: str, words: bool) -> _Cell:
    spans = [match for match in _COLOR.finditer(text) if _color(match[0])]
    cell = _Cell("")
    if spans:
        for match in spans:
            color = _color(match[0])
            assert color is not None
            cell.colors.append((match[0], color))
        before, after = text[: spans[0].start()], text[spans[-1].end() :]
        cell.label = _label(before) or _label(after)
        return cell
    head, sign, tail = text.replace("=", ":").rpartition(":")
    value = (tail if sign else text).strip(_SIGILS)
    bare = _BARE_HEX.fullmatch(value) and any(character.isdigit() for character in value)
    named = _WORD.fullmatch(value) and (sign or words) and _color(value)
    if bare or named:
        color = _color(f"#{value}" if bare else value)
        assert color is not None
        return _Cell(_label(head), [(f"#{value.lower()}" if bare else value, color)])
    many = text.split()
    if len(many) > 1 and all(_BARE_HEX.fullmatch(word) for word in many):
        pairs = [(f"#{word.lower()}", _color(f"#{word}")) for word in many]
        return _Cell("", [(source, color) for source, color in pairs if color is not None])
    cell.label = _label(text)
    return cell


def _label(text: str) -> str:
    """A name without what stands around it; empty where it is none, or a sentence."""
    plain = " ".join(text.strip(_SIGILS).split())
    if (
        len(plain) > MAX_NAME
        or plain.count(" ") > 4
        or not any(character.isalnum() for character in plain)
    ):
        return ""
    return "" if plain.lower() in _FILLERS else plain.rstrip(".")


def _color(text: str) -> space.Color | None:
    try:
        return space.parse_function(text)
    except ExpressionError:
        return None
