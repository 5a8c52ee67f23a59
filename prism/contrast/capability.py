"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.contrast import check, pairing_commands, rule_commands, waiver_commands

CAPABILITY = Capability(
    "contrast",
    checks=(check.CHECK,),
    commands=(
        pairing_commands,
        waiver_commands,
        rule_commands,
    ),
)
