"""What the capability registers."""

from __future__ import annotations

from prism.capability import Capability
from prism.coverage import check, commands

CAPABILITY = Capability("coverage", checks=(check.CHECK,), commands=(commands,))
