"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.sheet import cell_commands, row_commands, token_commands

CAPABILITY = Capability(
    "sheet",
    commands=(
        cell_commands,
        token_commands,
        row_commands,
    ),
)
