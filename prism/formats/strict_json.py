"""JSON from outside: size, depth and repeated names are checked, order is kept."""

from __future__ import annotations

import json
import math
import re
from typing import Any

from prism.errors import FormatError
from prism.formats.limits import MAX_NESTING
from prism.formats.text_files import decoded

# Escapes of NUL and of halves of a character.
_HALF = re.compile(r"\\u(0000|[dD][89a-fA-F])")
_TEXT = json.encoder.encode_basestring


def read(data: bytes, file: str) -> dict[str, Any]:
    """The object in ``data``. Raises ``FormatError`` naming ``file`` for anything else."""
    text = decoded(data, file, fix="Split it into several token files.")
    parsed = _parsed(text, file)
    if _HALF.search(text):
        _refuse_odd_characters(text, parsed, file)
    if not isinstance(parsed, dict):
        raise FormatError("The file contains no JSON object.", place=file)
    if _depth(parsed) > MAX_NESTING:
        raise FormatError(f"The file is nested deeper than {MAX_NESTING} levels.", place=file)
    return parsed


def _parsed(text: str, file: str) -> Any:
    try:
        return json.loads(text, object_pairs_hook=_members, parse_constant=_constant)
    except json.JSONDecodeError as error:
        raise FormatError(
            f"The file is not JSON: {error.msg[:1].lower()}{error.msg[1:]}.",
            place=f"{file}, line {error.lineno}, column {error.colno}",
            fix="Fix it there and import the file again.",
        ) from None
    except RecursionError:
        raise FormatError("The file is nested too deeply.", place=file) from None
    except _RepeatedError as error:
        raise FormatError(f"The name “{error}” appears twice in one object.", place=file) from None
    except ValueError as error:
        raise FormatError(
            f"The file contains a number that cannot be read: {error}.", place=file
        ) from None


def _refuse_odd_characters(text: str, parsed: Any, file: str) -> None:
    """Raise ``FormatError`` for NUL and half characters, which PostgreSQL and UTF-8 cannot hold."""
    try:
        json.dumps(parsed, ensure_ascii=False).encode()
        unstorable = "\\u0000" in text
    except UnicodeEncodeError:
        unstorable = True
    if unstorable:
        raise FormatError(
            "The file contains a character that text cannot contain.",
            place=file,
            fix="Look for \\u0000, or for \\ud800 to \\udfff without its other half.",
        )


class _RepeatedError(Exception):
    pass


def _members(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    members: dict[str, Any] = {}
    for name, value in pairs:
        if name in members:
            raise _RepeatedError(name[:60])
        if isinstance(value, float) and not math.isfinite(value):
            raise ValueError(name[:60])
        members[name] = value
    return members


def _constant(name: str) -> Any:
    raise ValueError(name)


def _depth(value: Any) -> int:
    deepest, work = 0, [(value, 1)]
    while work:
        part, depth = work.pop()
        deepest = max(deepest, depth)
        if depth <= MAX_NESTING:
            children = (
                part.values() if isinstance(part, dict) else part if isinstance(part, list) else ()
            )
            work.extend((child, depth + 1) for child in children)
    return deepest


def write(value: Any) -> str:
    """JSON text, two spaces deep, characters as they are, with a newline at the end."""
    out: list[str] = []
    _pretty(value, "\n", out)
    return "".join(out) + "\n"


def _pretty(value: Any, line: str, out: list[str]) -> None:
    """Append ``value`` as ``json.dumps`` with an indent writes it, which takes ten times as long.

    ``line`` is the line end with the indent that ``value`` stands at.
    """
    inner = line + "  "
    if isinstance(value, dict) and value:
        start = "{"
        for name, member in value.items():
            out.append(f"{start}{inner}{_TEXT(name)}: ")
            _pretty(member, inner, out)
            start = ","
        out.append(line + "}")
    elif isinstance(value, list | tuple) and value:
        start = "["
        for member in value:
            out.append(start + inner)
            _pretty(member, inner, out)
            start = ","
        out.append(line + "]")
    elif isinstance(value, str):
        out.append(_TEXT(value))
    else:
        out.append(json.dumps(value, ensure_ascii=False))


def compact(value: Any) -> str:
    """JSON text on one line."""
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"))
