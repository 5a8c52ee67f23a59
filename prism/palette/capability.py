"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.palette import commands, import_commands

CAPABILITY = Capability(
    "palette",
    commands=(
        commands,
        import_commands,
    ),
)
