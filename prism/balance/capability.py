"""What the capability registers."""

from __future__ import annotations

from prism.balance import check, commands
from prism.capability import Capability

CAPABILITY = Capability("balance", checks=(check.CHECK,), commands=(commands,))
