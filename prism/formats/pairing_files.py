"""Pairings from a file: a JSON list, by path.

``[{"foreground": "text.main", "background": ["veil.hover", "surface.card"], "use": "text"}]``;
``background`` is a path or a stack, top first; ``use`` is one of WCAG's uses (text without);
``required`` a ratio of its own, ``page`` the token a translucent stack ends on.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from prism.errors import FormatError
from prism.expressions.values import nearest
from prism.formats import strict_json
from prism.model.document import Document, Pairing, shown_path
from prism.resolution.contrast import REQUIRED, pairing_for


def read(data: bytes, file: str, document: Document) -> tuple[Pairing, ...]:
    """The pairings of a file over ``document``. Raises ``FormatError`` with the place."""
    members = strict_json.read(b'{"pairings": ' + data + b"}", file).get("pairings")
    if isinstance(members, dict):
        members = members.get("pairings")
    if not isinstance(members, list):
        raise FormatError("The file contains no list of pairings.", place=file)
    return tuple(
        _pairing(raw, f"p{number}", f"{file}, pairing {number}", document)
        for number, raw in enumerate(members, 1)
    )


def _pairing(raw: Any, key: str, place: str, document: Document) -> Pairing:
    if not isinstance(raw, dict) or not {"foreground", "background"} <= set(raw):
        raise FormatError("A pairing has a foreground and a background.", place=place)
    backgrounds = raw["background"]
    if isinstance(backgrounds, str):
        backgrounds = [backgrounds]
    if not (isinstance(backgrounds, list) and backgrounds):
        raise FormatError("A background is a path, or a list of paths, top first.", place=place)
    use = raw.get("use", "text")
    if use not in REQUIRED:
        raise FormatError(
            f"“{str(use)[:40]}” is not a use.", place=place, fix=f"Uses: {', '.join(REQUIRED)}."
        )
    pairing = pairing_for(
        key,
        _key(raw["foreground"], place, document),
        tuple(_key(path, place, document) for path in backgrounds),
        use,
        reason=str(raw.get("reason", "")),
        page=_key(raw["page"], place, document) if raw.get("page") else "",
    )
    return _required(pairing, raw, place)


def _required(pairing: Pairing, raw: Mapping[str, Any], place: str) -> Pairing:
    if "required" not in raw:
        return pairing
    required = raw["required"]
    if (
        isinstance(required, bool)
        or not isinstance(required, int | float)
        or not 0 <= required <= 21
    ):
        raise FormatError("A required ratio is a number from 0 to 21.", place=place)
    return replace(pairing, required=float(required))


def _key(path: Any, place: str, document: Document) -> str:
    plain = str(path).strip("{}")
    token = document.token_at(plain)
    if token is None or token.type != "color":
        paths = [shown_path(known.path) for known in document.tokens if known.type == "color"]
        sentence = (
            f"{{{plain}}} does not exist." if token is None else f"{{{plain}}} is not a color."
        )
        raise FormatError(sentence, place=place, fix=nearest(plain, paths))
    return token.key
