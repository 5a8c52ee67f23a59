"""Every edit as a named command: what it does to a document, and its sentence.

A new command is a class in a module of commands of its capability.
"""

from __future__ import annotations

from prism.capabilities import CAPABILITIES
from prism.commands import project
from prism.commands.command import COMMANDS, Command, from_fields, read, written

#: The modules of all commands.
FAMILIES = (*(module for part in CAPABILITIES for module in part.commands), project)

__all__ = ["COMMANDS", "FAMILIES", "Command", "from_fields", "read", "written"]
