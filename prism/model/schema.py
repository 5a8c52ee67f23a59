"""The fields of the parts of a document, said once: rows, files and tables take them from here."""

from __future__ import annotations

from dataclasses import fields

from prism.model.document import Axis, Document, Group, Mode, Token

#: The version of what files and ``$extensions`` say of a document beyond the standard.
VERSION = 1


def stored_fields(part: type, *apart: str) -> tuple[str, ...]:
    """Names of the fields of a part, in order, without its key and those stored apart."""
    names = (field.name for field in fields(part) if not field.name.startswith("_"))
    return tuple(name for name in names if name not in ("key", *apart))


TOKEN = stored_fields(Token, "values")
AXIS = stored_fields(Axis, "modes", "follows")
MODE = stored_fields(Mode)
GROUP = stored_fields(Group, "path")
#: What a document says of itself; its other fields are lists of parts.
DOCUMENT = tuple(
    field.name
    for field in fields(Document)
    if field.type == "str" and not field.name.startswith("_")
)
