"""Every edit as a named command: what it does to a document, and its sentence.

A new command is a class in the file of its family; a new family is a file and a line below.
"""

from __future__ import annotations

from prism.edits import (
    adding,
    axes,
    balance,
    brands,
    cells,
    coverage,
    distinguishing,
    documents,
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
    waivers,
)
from prism.edits.command import COMMANDS, Command, from_fields, read, written

FAMILIES = (
    cells,
    tokens,
    adding,
    axes,
    brands,
    palette,
    coverage,
    measures,
    naming,
    pairings,
    waivers,
    rules,
    scenes,
    balance,
    levels,
    distinguishing,
    findings,
    imports,
    documents,
    project,
)

__all__ = ["COMMANDS", "FAMILIES", "Command", "from_fields", "read", "written"]
