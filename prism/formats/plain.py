"""Plain JSON and CSV: axes and tokens with their conditional values, by name.

What both say: axes with their modes, default and color schemes; tokens with path, type, tier,
description, and a value for each condition. Reading makes new keys.
"""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Collection, Iterable, Mapping
from typing import Any

from prism.changes.references import check_path
from prism.errors import ExpressionError, FormatError, PrismError
from prism.expressions.values import check, decode, encode, parse
from prism.formats import strict_json
from prism.formats.duplicates import Duplicates, Stated
from prism.formats.layers import NewKey
from prism.formats.text_files import decoded
from prism.formats.wholeness import whole
from prism.model.document import TIERS, TYPES, Axis, Document, Mode, Tier, Token
from prism.model.names import named_picks, settle_names
from prism.model.values import Condition, Expression, Value

_FORMULA = re.compile("'*[=+\\-@\t\r]")
_NUMBER = re.compile(r"-?\d+(\.\d+)?")
_COLUMNS = ("kind", "name", "type", "tier", "when", "value", "description")
_GUESSED = ("color", "dimension", "duration", "number")


def write_json(document: Document) -> str:
    """The document as plain JSON."""
    return strict_json.write(
        {
            "name": document.name,
            "axes": [
                {
                    "name": axis.name,
                    "description": axis.description,
                    "default": axis.mode(axis.default).name,
                    "modes": [
                        {"name": mode.name, "color_scheme": mode.color_scheme}
                        for mode in axis.modes
                    ],
                }
                for axis in document.axes
            ],
            "tokens": [
                {
                    "path": token.path,
                    "type": token.type,
                    "tier": token.tier,
                    "description": token.description,
                    "values": [
                        {
                            "when": named_picks(document, condition),
                            "value": json.loads(encode(value)),
                        }
                        for condition, value in token.values
                    ],
                }
                for token in document.tokens
            ],
        }
    )


def read_json(
    data: bytes, file: str, new_key: NewKey, duplicates: Duplicates | None = None
) -> Document:
    """A document from plain JSON: as ``write_json`` writes it, or names and values nested."""
    raw = strict_json.read(data, file)
    if not isinstance(raw.get("tokens"), list):
        return _nested(raw, file, new_key, duplicates)
    try:
        axes = tuple(_axis(member, new_key) for member in raw.get("axes", ()))
        stated = [
            Stated(
                str(member["path"]),
                str(member["type"]),
                str(member.get("tier", "raw")),
                str(member.get("description", "")),
                tuple((str(axis), str(mode)) for axis, mode in value.get("when", {}).items()),
                decode(json.dumps(value["value"])) if value else None,
                f"{file}, {member['path']}",
            )
            for member in raw["tokens"]
            for value in member["values"] or [{}]
        ]
    except (KeyError, TypeError, AttributeError) as error:
        raise FormatError(f"A column is missing: {error}.", place=file) from None
    return _document(str(raw.get("name", "")), axes, stated, new_key, duplicates)


def write_csv(document: Document) -> str:
    """The document as CSV: a row for each axis, mode and value."""
    out = io.StringIO()
    writer = _Guarded(csv.writer(out, lineterminator="\n"))
    writer.writerow(_COLUMNS)
    for axis in document.axes:
        writer.writerow(
            ("axis", axis.name, "", "", "", axis.mode(axis.default).name, axis.description)
        )
        for mode in axis.modes:
            writer.writerow(("mode", mode.name, "", "", axis.name, mode.color_scheme, ""))
    for token in document.tokens:
        if not token.values:
            writer.writerow(
                ("absent", token.path, token.type, token.tier, "", "", token.description)
            )
        for condition, value in token.values:
            when = (
                json.dumps(named_picks(document, condition), ensure_ascii=False)
                if condition.picks
                else ""
            )
            text = value.text if isinstance(value, Expression) else encode(value)
            row = ("token", token.path, token.type, token.tier, when, text, token.description)
            writer.writerow(row)
    return out.getvalue()


class _Guarded:
    """Writes rows in which no cell is taken for a formula by a spreadsheet.

    Such a cell, and one that begins with quotes before it, gets one more quote, which reading takes
    away again. Source: OWASP, "CSV Injection" (from memory).
    """

    def __init__(self, writer: Any) -> None:
        self._writer = writer

    def writerow(self, cells: Iterable[str]) -> None:
        """Write one row."""
        self._writer.writerow(
            f"'{cell}" if _FORMULA.match(cell) and not _NUMBER.fullmatch(cell) else cell
            for cell in cells
        )


def _unguarded(cell: str) -> str:
    return cell[1:] if cell.startswith("'") and _FORMULA.match(cell) else cell


def read_csv(
    data: bytes, file: str, new_key: NewKey, duplicates: Duplicates | None = None
) -> Document:
    """A document from CSV: as ``write_csv`` writes it, or two columns of names and values."""
    rows = _csv_rows(data, file)
    if tuple(rows[0]) != _COLUMNS:
        return _two_columns(rows, file, new_key, duplicates)
    axes: dict[str, dict[str, Any]] = {}
    stated = []
    for number, row in enumerate(rows[1:], 2):
        place = f"{file}, row {number}"
        if len(row) != len(_COLUMNS):
            raise FormatError(f"The row has {len(row)} columns.", place=place)
        kind, name, token_type, tier, when, value, description = row
        if kind == "axis":
            axes[name] = {"name": name, "default": value, "description": description, "modes": []}
        elif kind == "mode":
            if when not in axes:
                raise FormatError(f"There is no axis “{when}”.", place=place)
            axes[when]["modes"].append({"name": name, "color_scheme": value})
        elif kind in ("token", "absent"):
            text = _read(value, token_type, place) if kind == "token" else None
            stated.append(
                Stated(name, token_type, tier, description, _when(when, place), text, place)
            )
        else:
            raise FormatError(f"“{kind[:40]}” is not a kind of row.", place=place)
    try:
        built = tuple(_axis(axis, new_key) for axis in axes.values())
    except KeyError as error:
        raise FormatError(f"There is no mode {error}.", place=file) from None
    return _document(
        file.rsplit("/", 1)[-1].removesuffix(".csv"), built, stated, new_key, duplicates
    )


def _csv_rows(data: bytes, file: str) -> list[list[str]]:
    """The rows of a CSV file, at least one, without those that are empty."""
    text = decoded(data, file)
    try:
        reader = csv.reader(io.StringIO(text), strict=True)
        rows = [[_unguarded(cell) for cell in row] for row in reader if any(row)]
    except csv.Error as error:
        raise FormatError(f"The file is not CSV: {error}.", place=file) from None
    if not rows:
        raise FormatError("The file is empty.", place=file)
    return rows


def _when(text: str, place: str) -> tuple[tuple[str, str], ...]:
    if not text:
        return ()
    members = strict_json.read(text.encode(), place)
    return tuple((str(axis), str(mode)) for axis, mode in members.items())


def _read(text: str, type: str, place: str) -> Value:
    many = text.startswith(("[", '{"parts"')) and type not in ("string", "color", "piece")
    many = many or (text == "null" and type != "string")
    try:
        return decode(text) if many else Expression(text)
    except ExpressionError as error:
        raise FormatError(error.sentence, place=place, fix=error.fix) from None
    except ValueError as error:
        raise FormatError(f"The value cannot be read: {error}.", place=place) from None


def _axis(raw: Mapping[str, Any], new_key: NewKey) -> Axis:
    modes = tuple(
        Mode(new_key(), str(member["name"]), color_scheme=str(member.get("color_scheme", "")))
        for member in raw["modes"]
    )
    keys = {mode.name: mode.key for mode in modes}
    return Axis(
        new_key(),
        str(raw["name"]),
        modes,
        keys[str(raw["default"])],
        str(raw.get("description", "")),
    )


def _document(
    name: str,
    axes: tuple[Axis, ...],
    stated: Iterable[Stated],
    new_key: NewKey,
    duplicates: Duplicates | None,
) -> Document:
    picks = {(axis.name, mode.name): (axis.key, mode.key) for axis in axes for mode in axis.modes}
    tokens: dict[str, Token] = {}
    places: dict[str, str] = {}
    stated = list((duplicates or Duplicates()).settle(stated))
    pieces = {token.path for token in stated if token.type == "piece"}
    for token in stated:
        condition, tier = _checked(token, picks, pieces)
        known = tokens.get(token.path)
        if known is None:
            known = Token(new_key(), token.path, token.type, tier, (), token.description)
        values = known.values if token.value is None else (*known.values, (condition, token.value))
        tokens[token.path] = Token(
            known.key, known.path, known.type, known.tier, values, known.description
        )
        places[token.path] = token.place
    return whole(
        settle_names(Document(name=name, axes=axes, tokens=tuple(tokens.values()))), places
    )


def _checked(
    token: Stated, picks: Mapping[tuple[str, str], tuple[str, str]], pieces: Collection[str]
) -> tuple[Condition, Tier]:
    """Under which condition a token states its value, and its tier. Raises ``FormatError`` where something
    is wrong."""
    try:
        if token.type not in TYPES:
            raise PrismError(f"“{token.type[:40]}” is not a type.")
        if token.tier not in TIERS:
            raise PrismError(f"“{token.tier[:40]}” is not a tier.")
        check_path(token.path)
        if token.value is not None:
            check(token.value, token.type, pieces.__contains__)
        return Condition(tuple(sorted(picks[pick] for pick in token.when))), token.tier
    except PrismError as error:
        raise FormatError(error.sentence, place=token.place, fix=error.fix) from None
    except KeyError as error:
        raise FormatError(f"There is no mode {error}.", place=token.place) from None


def guess_type(text: str) -> str:
    """The first type that a text reads as; ``string`` where it is none."""
    for guessed in _GUESSED:
        try:
            parse(text, guessed)
        except PrismError:
            continue
        return guessed
    return "string"


def _nested(
    raw: Mapping[str, Any], file: str, new_key: NewKey, duplicates: Duplicates | None
) -> Document:
    stated = []
    work: list[tuple[str, Any]] = [("", raw)]
    while work:
        path, value = work.pop()
        if isinstance(value, dict):
            inner = [(f"{path}.{name}" if path else name, item) for name, item in value.items()]
            work.extend(reversed(inner))
            continue
        if isinstance(value, bool | list) or value is None:
            raise FormatError("A value is a text or a number.", place=f"{file}, {path}")
        text = str(value)
        stated.append(
            Stated(path, guess_type(text), "raw", "", (), Expression(text), f"{file}, {path}")
        )
    return _document(file.rsplit("/", 1)[-1].removesuffix(".json"), (), stated, new_key, duplicates)


def _two_columns(
    rows: list[list[str]], file: str, new_key: NewKey, duplicates: Duplicates | None
) -> Document:
    stated = []
    for number, row in enumerate(rows, 1):
        place = f"{file}, row {number}"
        if len(row) < 2:
            raise FormatError("A row has a name and a value.", place=place)
        name, text = row[0].strip(), row[1].strip()
        guessed = guess_type(text)
        if number == 1 and guessed == "string":
            continue  # a head
        stated.append(Stated(name, guessed, "raw", "", (), Expression(text), place))
    return _document(file.rsplit("/", 1)[-1].removesuffix(".csv"), (), stated, new_key, duplicates)
