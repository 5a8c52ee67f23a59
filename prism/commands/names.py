"""Names of the parts of a document, as sentences say them."""

from __future__ import annotations

from prism.model.document import Document, Ramp, shown_path

_LONGEST = 60


def short(text: str) -> str:
    """A text as a sentence can hold it."""
    text = text.strip()
    return text if len(text) <= _LONGEST else text[: _LONGEST - 1] + "…"


def token_name(document: Document, key: str) -> str:
    """The path of a token; ``a token`` where it is gone."""
    token = document.token(key)
    return shown_path(token.path) if token else "a token"


def ramp_name(document: Document, key: str) -> str:
    """The name of a ramp; ``a ramp`` where it is gone."""
    ramp = document.ramp(key)
    return shown_ramp(ramp) if ramp else "a ramp"


def shown_ramp(ramp: Ramp) -> str:
    """A ramp's name as people read it."""
    return shown_path(ramp.name) or "single colors"


def axis_name(document: Document, key: str) -> str:
    """The name of an axis; ``an axis`` where it is gone."""
    axis = document.axis(key)
    return axis.name if axis else "an axis"


def mode_name(document: Document, axis: str, key: str) -> str:
    """The name of a mode; ``a mode`` where it is gone."""
    owner = document.axis(axis)
    return (
        next((mode.name for mode in owner.modes if mode.key == key), "a mode")
        if owner
        else "a mode"
    )


def counted(count: int, noun: str) -> str:
    """``1 token``, ``2 tokens``."""
    return f"{count} {noun}{'' if count == 1 else 's'}"
