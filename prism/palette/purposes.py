"""Purposes: what the parts of a palette are there for. They order it and restrict nothing."""

from __future__ import annotations

from dataclasses import replace

from prism.changes.structure import moved
from prism.errors import EditError
from prism.model.document import Document, Purpose
from prism.palette.ramp_edits import NewKey, adopt

#: The purposes a new project starts with.
STARTING = (
    Purpose("identity", "brand", "The colors a product is known by"),
    Purpose("ink", "text", "Words, figures and signs"),
    Purpose("ground", "background", "What everything stands on"),
    Purpose("signal", "status", "How something stands: success, warning, error, information"),
    Purpose("chart", "chart", "Series that must be told apart"),
    Purpose("extra", "other", "Everything else"),
)


def of(document: Document) -> tuple[Purpose, ...]:
    """The document's purposes, or the starting set where it has none of its own."""
    return document.purposes or STARTING


def add(document: Document, name: str, new_key: NewKey, description: str = "") -> Document:
    """A new purpose at the end."""
    purpose = Purpose(new_key(), _name(document, name), description)
    return replace(document, purposes=(*of(document), purpose))


def rename(document: Document, key: str, name: str) -> Document:
    """Give a purpose another name."""
    purpose = _purpose(document, key)
    if name.strip() == purpose.name:
        return document
    changed = replace(purpose, name=_name(document, name))
    return _put(document, changed)


def drop(document: Document, key: str) -> Document:
    """Take a purpose out; its ramps stay, without one."""
    _purpose(document, key)
    if len(of(document)) == 1:
        raise EditError("It is the only purpose.")
    return replace(
        document,
        purposes=tuple(purpose for purpose in of(document) if purpose.key != key),
        ramps=tuple(
            replace(ramp, purpose="") if ramp.purpose == key else ramp for ramp in document.ramps
        ),
    )


def move(document: Document, key: str, by: int) -> Document:
    """Move a purpose ``by`` places."""
    return replace(document, purposes=moved(of(document), _purpose(document, key), by))


def assign(document: Document, group: str, purpose: str, new_key: NewKey) -> Document:
    """Give the raw colors of a group a purpose; empty takes it away."""
    if purpose:
        _purpose(document, purpose)
    changed = document
    if all(ramp.name != group for ramp in document.ramps):
        changed = adopt(document, group, new_key)
    return replace(
        changed,
        purposes=of(document),
        ramps=tuple(
            replace(ramp, purpose=purpose) if ramp.name == group else ramp for ramp in changed.ramps
        ),
    )


def _purpose(document: Document, key: str) -> Purpose:
    for purpose in of(document):
        if purpose.key == key:
            return purpose
    raise EditError("That purpose is no longer there.")


def _put(document: Document, purpose: Purpose) -> Document:
    changed = tuple(purpose if known.key == purpose.key else known for known in of(document))
    return replace(document, purposes=changed)


def _name(document: Document, name: str) -> str:
    plain = name.strip()
    if not plain:
        raise EditError("A purpose needs a name.")
    if len(plain) > 60:
        raise EditError("A purpose’s name has at most 60 characters.")
    if any(purpose.name == plain for purpose in of(document)):
        raise EditError(f"There is a purpose “{plain}” already.")
    return plain
