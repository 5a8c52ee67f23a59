"""Ways to name the semantic tokens of a new project."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from prism.changes.references import check_path


@dataclass(frozen=True, slots=True)
class Naming:
    """A way of naming: which words stand for those of the first way, and what stands before all."""

    id: str
    prefix: str = ""
    words: Mapping[str, str] = field(default_factory=dict)

    def path(self, path: str, prefix: str = "") -> str:
        """The name of a token that the first way calls ``path``; ``prefix`` stands before all."""
        start = prefix or self.prefix
        words = (self.words.get(word, word) for word in path.split("."))
        return ".".join([*([start] if start else []), *words])

    def example(self, prefix: str = "") -> tuple[str, ...]:
        """Three names, to choose by."""
        return tuple(
            self.path(path, prefix) for path in ("surface.card", "text.quiet", "action.fill.hover")
        )


NAMINGS = (
    Naming("plain"),
    Naming(
        "long",
        "color",
        {
            "surface": "background",
            "line": "border",
            "main": "primary",
            "quiet": "secondary",
            "hint": "tertiary",
            "fill": "background",
        },
    ),
    Naming(
        "short",
        "",
        {"surface": "bg", "text": "fg", "line": "border", "quiet": "muted", "main": "default"},
    ),
)


def naming(id: str) -> Naming:
    """The way of naming with this id; the first where there is none."""
    return next((known for known in NAMINGS if known.id == id), NAMINGS[0])


def read_prefix(text: str) -> str:
    """A prefix as it was typed. Raises ``EditError`` for what cannot be part of a name."""
    prefix = text.strip().strip(".")
    if prefix:
        check_path(prefix)
    return prefix
