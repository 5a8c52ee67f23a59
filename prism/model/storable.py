"""What the tables that store a document can hold."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, fields, is_dataclass

from prism.model.document import Token
from prism.model.values import Expression

#: Characters that a name and a path may have at most.
MAX_NAME = 200
MAX_PATH = 600
MAX_ROLE = 60
#: Characters that the keys in one condition may have together.
MAX_CONDITION = 1800
# Keys of axes, modes and tokens stand inside other keys, after a space.
_KEY = re.compile(r"[!-~]{1,200}\Z")
# What PostgreSQL text and UTF-8 cannot hold.
UNSTORABLE = re.compile("[\x00\ud800-\udfff]")


@dataclass(frozen=True, slots=True)
class Flaw:
    """One reason why a document is not whole.

    ``kind`` and ``key`` name the row it is about, as in ``prism.compare.rows``; ``others`` are
    rows it is at odds with.
    """

    kind: str
    key: str
    sentence: str
    others: tuple[tuple[str, str], ...] = ()


def key_flaws(kind: str, key: str, full: str = "") -> Iterator[Flaw]:
    if not _KEY.match(key):
        yield Flaw(kind, full or key, f"“{key[:60]}” cannot be a key.")


def name_flaws(kind: str, key: str, name: str) -> Iterator[Flaw]:
    if not name.strip():
        yield Flaw(kind, key, f"The {kind} has no name.")
    yield from length_flaws(kind, key, "name", name, MAX_NAME)


def length_flaws(kind: str, key: str, what: str, text: str, most: int) -> Iterator[Flaw]:
    if len(text) > most:
        yield Flaw(kind, key, f"The {what} “{text[:40]}…” has more than {most} characters.")


def text_flaws(kind: str, key: str, part: object) -> Iterator[Flaw]:
    for text in _strings(part):
        if UNSTORABLE.search(text):
            yield Flaw(kind, key, unstorable(text.split("\x00")[0][:40]))


def token_flaws(token: Token) -> str:
    """Every text of a token in one, which is quicker to look through than each."""
    names = [text for pair in token.export_names for text in pair]
    values = [
        value.text if isinstance(value, Expression) else "".join(_strings(value))
        for _, value in token.values
    ]
    own = (token.path, token.description, token.deprecated or "", token.extensions)
    return "".join(
        (*own, token.extends_from, token.role, token.belongs_to, *token.uses, *names, *values)
    )


def _strings(part: object) -> Iterator[str]:
    if isinstance(part, str):
        yield part
    elif isinstance(part, tuple):
        for item in part:
            yield from _strings(item)
    elif is_dataclass(part):
        for field in fields(part):
            yield from _strings(getattr(part, field.name))


def unstorable(what: str) -> str:
    return f"“{what}” holds a character that text cannot contain."


def well_formed(path: str) -> bool:
    """Whether ``path`` is one of the Design Tokens Format Module: segments between full stops,
    without braces and without a leading ``$``, but for a last ``$root``."""
    segments = path.removesuffix(".$root").split(".")
    return all(s and not s.startswith("$") and "{" not in s and "}" not in s for s in segments)
