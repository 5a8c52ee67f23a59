"""Every edit as a named command: what it does to a document, and its sentence.

A new command is a class in the file of its family; a new family is a file and a line below.
"""

from __future__ import annotations

from prism.edits import (
    adding,
    axes,
    balance,
    cells,
    findings,
    imports,
    levels,
    measures,
    naming,
    pairings,
    palette,
    project,
    rules,
    scenes,
    tokens,
)
from prism.edits.command import COMMANDS, Command, from_fields, read, written

FAMILIES = (
    cells,
    tokens,
    adding,
    axes,
    palette,
    measures,
    naming,
    pairings,
    rules,
    scenes,
    balance,
    levels,
    findings,
    imports,
    project,
)

__all__ = ["COMMANDS", "FAMILIES", "Command", "from_fields", "read", "written"]
