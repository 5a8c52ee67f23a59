"""Paths and references: what they may be, and following a rename."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from prism.errors import EditError
from prism.expressions.values import rewrite
from prism.model.document import Document, Token, shown_path
from prism.model.storable import MAX_PATH, well_formed


def check_path(path: str) -> None:
    """Raise ``EditError`` unless ``path`` is one of the Design Tokens Format Module."""
    if not well_formed(path):
        raise EditError(
            f"“{path[:80]}” cannot be a path.",
            fix="Separate segments by full stops; they have no braces and no leading $.",
        )
    if len(path) > MAX_PATH:
        raise EditError(f"A path has at most {MAX_PATH} characters.")


def with_references(token: Token, renamed: Mapping[str, str]) -> Token:
    values = tuple((c, rewrite(v, token.type, renamed)) for c, v in token.values)
    return replace(token, values=values) if values != token.values else token


def token_of(document: Document, key: str) -> Token:
    token = document.token(key)
    if token is None:
        raise EditError("That token is no longer there.")
    return token


def paths_of(document: Document, key: str) -> list[str]:
    """Every path a reference may name the token by."""
    token = token_of(document, key)
    short = shown_path(token.path)
    return [token.path, short] if document.token_at(short) is token else [token.path]


def with_token(document: Document, token: Token) -> Document:
    return replace(
        document,
        tokens=tuple(token if known.key == token.key else known for known in document.tokens),
    )
