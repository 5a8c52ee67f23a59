"""Patterns of paths, in which ``*`` stands for any characters, as ``text.*``."""

from __future__ import annotations

import re
from fnmatch import translate

from prism.model.document import Document, shown_path


def fitting(document: Document, pattern: str) -> list[str]:
    """Keys of the colors whose path fits a pattern."""
    wanted = re.compile(translate(pattern.strip().strip("{}")))
    return [
        token.key
        for token in document.tokens
        if token.type == "color" and wanted.match(shown_path(token.path))
    ]
